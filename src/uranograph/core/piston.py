"""Piston position from crank angle, with or without a pin offset, and its inverse."""

import math

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input, Mm


class Crank(Input):
    """The lengths that move one piston, mm."""

    stroke_mm: Mm = Field(gt=0)
    rod_mm: Mm = Field(gt=0, description="Between centers.")
    pin_offset_mm: Mm = Field(0.0, description="Toward the side the crankpin goes after TDC.")

    @property
    def throw_mm(self) -> float:
        return self.stroke_mm / 2

    def check(self) -> None:
        """Refuse lengths that cannot turn a full circle.

        Raises
        ------
        InvalidInput
            When the rod is shorter than half the stroke and the offset together.
        """
        if self.rod_mm <= self.throw_mm:
            raise InvalidInput("rod_mm", "rod-too-short", rod_mm=self.rod_mm, throw_mm=self.throw_mm)
        if self.rod_mm <= self.throw_mm + abs(self.pin_offset_mm):
            raise InvalidInput("pin_offset_mm", "offset-too-large", offset_mm=self.pin_offset_mm, usual_mm=2)


class PistonAt(Crank):
    """A crank and an angle."""

    angle_deg: Deg = Field(description="Crank degrees from true TDC, the top of the travel; after positive.")


class PistonDrop(Found):
    """Position of the piston."""

    drop_mm: float = Field(description="Below the top of its travel.")


def piston(given: PistonAt) -> PistonDrop:
    """Say how far the piston has dropped from the top of its travel.

    Parameters
    ----------
    given
        Stroke, rod and pin offset, mm; angle, crank degrees from true TDC, where the piston is highest.

    Returns
    -------
    PistonDrop
        Drop below the highest point of the travel, mm, never negative.

    Raises
    ------
    InvalidInput
        When the crank could not turn.

    Examples
    --------
    >>> round(piston(PistonAt(stroke_mm=96, rod_mm=168, angle_deg=33.37)).drop_mm, 2)
    10.0

    References
    ----------
    Slider-crank relation; docs/methods.md, "Piston and dwell".
    """
    given.check()
    return PistonDrop(drop_mm=max(0.0, _drop(given, math.radians(given.angle_deg + top_angle(given)))))


def _drop(crank: Crank, angle: float) -> float:
    r, rod, offset = crank.throw_mm, crank.rod_mm, crank.pin_offset_mm
    top = math.sqrt((r + rod) ** 2 - offset**2)
    return top - (r * math.cos(angle) + math.sqrt(rod**2 - (r * math.sin(angle) - offset) ** 2))


def top_angle(crank: Crank) -> float:
    """Crank degrees, from crankpin nearest the head, at which the piston is highest.

    Examples
    --------
    >>> round(top_angle(Crank(stroke_mm=96, rod_mm=168, pin_offset_mm=1)), 3)
    0.265
    """
    return math.degrees(math.asin(crank.pin_offset_mm / (crank.throw_mm + crank.rod_mm)))


def angles_at_drop(crank: Crank, drop_mm: float) -> tuple[float, float]:
    """Crank angles before and after the top at which the piston is down by a drop.

    Parameters
    ----------
    crank
        Lengths, mm.
    drop_mm
        Below the top of the travel, mm, above 0 and below the whole travel.

    Returns
    -------
    tuple
        Crank degrees from crankpin nearest the head: (before, after).

    Raises
    ------
    InvalidInput
        When the piston never is that far down.

    Examples
    --------
    >>> [round(a, 2) for a in angles_at_drop(Crank(stroke_mm=96, rod_mm=168), 10)]
    [-33.37, 33.37]

    References
    ----------
    Law of cosines in the triangle crank center, crankpin, wrist pin; docs/methods.md, "Piston and dwell".
    """
    crank.check()
    r, rod, offset = crank.throw_mm, crank.rod_mm, crank.pin_offset_mm
    top = math.sqrt((r + rod) ** 2 - offset**2)
    bottom = math.sqrt((rod - r) ** 2 - offset**2)
    if not 0 < drop_mm < top - bottom:
        raise InvalidInput("drop_mm", "drop-past-travel", drop_mm=drop_mm, travel_mm=top - bottom)
    height = top - drop_mm
    reach = math.hypot(offset, height)
    lean = math.degrees(math.atan2(offset, height))
    half = math.degrees(math.acos((r**2 + reach**2 - rod**2) / (2 * r * reach)))
    return lean - half, lean + half


def half_angle_at_drop(crank: Crank, drop_mm: float) -> float:
    """Half the crank degrees between equal drops before and after the top.

    Examples
    --------
    >>> round(half_angle_at_drop(Crank(stroke_mm=96, rod_mm=168), 10), 3)
    33.368
    """
    before, after = angles_at_drop(crank, drop_mm)
    return (after - before) / 2


def dwell_half_angle(crank: Crank, resolution_mm: float) -> float:
    """Crank degrees either side of the top within which an indicator sees no movement.

    Parameters
    ----------
    crank
        Lengths, mm.
    resolution_mm
        Smallest movement the indicator shows, mm.

    Returns
    -------
    float
        Half the dwell, crank degrees.

    Examples
    --------
    >>> round(dwell_half_angle(Crank(stroke_mm=96, rod_mm=168), 0.01), 3)
    1.031

    References
    ----------
    Second-order expansion of the slider-crank relation at the top; docs/methods.md, "Piston and dwell".
    """
    crank.check()
    r = crank.throw_mm
    return math.degrees(math.sqrt(2 * resolution_mm / (r * (1 + r / crank.rod_mm))))


def slope_at(crank: Crank, angle_deg: float) -> float:
    """Piston movement per crank degree, mm/deg, at an angle from crankpin nearest the head.

    Examples
    --------
    >>> round(slope_at(Crank(stroke_mm=96, rod_mm=168), 33.37), 3)
    0.572
    """
    step = 1e-3
    low, high = math.radians(angle_deg - step), math.radians(angle_deg + step)
    return (_drop(crank, high) - _drop(crank, low)) / (2 * step)
