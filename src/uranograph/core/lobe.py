"""Smooth model of a lobe, for drawing a card and simulating engines of known truth."""

import math
from functools import cached_property

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Input, Mm


class CosineLobe(Input):
    """A symmetric lobe of raised-cosine lift, fixed by its middle, peak, and duration at one checking lift."""

    centerline_deg: Deg = Field(description="Cycle angle of the peak, crank degrees about overlap TDC.")
    duration_deg: Deg = Field(gt=0, lt=540, description="Crank degrees at the checking lift.")
    check_lift_mm: Mm = Field(gt=0)
    max_lift_mm: Mm = Field(gt=0)

    @cached_property
    def seat_half_deg(self) -> float:
        """Crank degrees from peak to seat."""
        return self.duration_deg / 2 * math.pi / math.acos(2 * self.check_lift_mm / self.max_lift_mm - 1)

    def check(self) -> None:
        """Refuse a checking lift the lobe never reaches.

        Raises
        ------
        InvalidInput
            When the checking lift is not below the maximum.
        """
        if self.check_lift_mm >= self.max_lift_mm:
            raise InvalidInput(
                "check_lift_mm", "checking-lift-too-high", check_mm=self.check_lift_mm, top_mm=self.max_lift_mm
            )


def lift_at(lobe: CosineLobe, angle_deg: float) -> float:
    """Lift of a nominal lobe at an angle.

    Parameters
    ----------
    lobe
        The lobe.
    angle_deg
        Crank degrees about overlap TDC.

    Returns
    -------
    float
        Lift, mm; 0 on the base circle.

    Examples
    --------
    >>> lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    >>> round(lift_at(lobe, 107), 3), round(lift_at(lobe, -6), 3), lift_at(lobe, 400)
    (9.0, 1.27, 0.0)

    References
    ----------
    docs/methods.md, "A nominal lobe".
    """
    u = ((angle_deg - lobe.centerline_deg + 360) % 720 - 360) / lobe.seat_half_deg
    return 0.0 if abs(u) >= 1 else lobe.max_lift_mm * (1 + math.cos(math.pi * u)) / 2


def profile(lobe: CosineLobe, steps: int) -> list[tuple[float, float]]:
    """Angle and lift at even steps from seat to seat, for drawing.

    Parameters
    ----------
    lobe
        The lobe.
    steps
        How many, from opening to closing seat.

    Returns
    -------
    list
        `steps` + 1 places: crank degrees about overlap TDC, lift in mm.

    Examples
    --------
    >>> lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    >>> [round(lift, 3) for _, lift in profile(lobe, 4)]
    [0.0, 4.5, 9.0, 4.5, 0.0]
    """
    start, width, half_lift = lobe.centerline_deg - lobe.seat_half_deg, 2 * lobe.seat_half_deg, lobe.max_lift_mm / 2
    turn, cos = 2 * math.pi / steps, math.cos
    return [(start + width * k / steps, half_lift * (1 - cos(turn * k))) for k in range(steps + 1)]


def half_width_at(lobe: CosineLobe, lift_mm: float) -> float:
    """Crank degrees from the peak to where the lobe is at a lift.

    Examples
    --------
    >>> lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    >>> round(half_width_at(lobe, 1.27), 6)
    113.0
    """
    return lobe.seat_half_deg * math.acos(2 * lift_mm / lobe.max_lift_mm - 1) / math.pi
