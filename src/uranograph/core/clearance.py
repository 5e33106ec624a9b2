"""How near a valve comes to the piston and to the other valve, at every position of the cam."""

import math
from collections.abc import Sequence
from typing import TYPE_CHECKING

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.lift_curve import CYCLE_DEG, STEP_DEG, LiftCurve, least
from uranograph.core.models import Deg, Found, Input, Mm, Pct
from uranograph.core.piston import Crank, top_angle
from uranograph.core.verdict import Verdict, judge

if TYPE_CHECKING:
    import numpy as np

    Array = np.ndarray[tuple[int], np.dtype[np.float64]]

MAX_POINTS = 20_000
MAX_SHIFTS = 2_000
# Starting values of the shop, mm: what is left between piston and valve at the least.
INTAKE_LEAST_MM, EXHAUST_LEAST_MM = 2.0, 2.5


class PistonToValveInput(Crank):
    """One valve over one piston."""

    drop_at_tdc_mm: Mm = Field(
        ge=0, description="How far the valve, pushed by hand at overlap TDC, goes until it touches the piston."
    )
    valve_angle_deg: Deg = Field(ge=0, lt=90, description="Between the valve's line and the bore's.")
    lift_points: list[tuple[Deg, Mm]] = Field(
        min_length=2,
        max_length=MAX_POINTS,
        description="Crank degrees about overlap TDC and lift of the valve, as the cam stands.",
    )
    shifts_deg: list[Deg] = Field(default=[0.0], min_length=1, max_length=MAX_SHIFTS, description="Advance positive.")
    minimum_mm: Mm = Field(ge=0)
    drop_doubt_mm: Mm = Field(0.0, ge=0)
    lift_doubt_mm: Mm = Field(0.0, ge=0)
    lift_doubt_pct: Pct = Field(0.0, ge=0, description="Of the lift where the gap is least, beside that.")
    phase_doubt_deg: Deg = Field(0.0, ge=0, description="Of where the cam stands.")


class ValveGap(Found):
    """The least gap at one position of the cam."""

    shift_deg: float
    min_mm: float = Field(description="Below nothing where they would meet.")
    at_deg: float = Field(description="Crank degrees about overlap TDC, after positive.")
    doubt_mm: float
    known: bool = Field(description="Whether the lift is known as far as the gap narrows.")
    verdict: Verdict


class PistonToValve(Found):
    """The least gap at every position asked for, in their order."""

    positions: list[ValveGap]


def piston_to_valve(given: PistonToValveInput) -> PistonToValve:
    """Say how near a valve comes to the piston, as the cam stands and wherever it might be moved.

    Parameters
    ----------
    given
        Crank, mm; the valve's drop to the piston at overlap TDC, mm, and its angle to the bore, degrees; its lift by crank
        degrees about overlap TDC; shifts, crank degrees, advance positive; the least allowed, mm; doubts.

    Returns
    -------
    PistonToValve
        For each shift the least gap along the valve's line, mm, where it is, its doubt, and the verdict. Where the lift
        is not known as far as the gap still narrows, the verdict is `unsure` unless it is too near already.

    Raises
    ------
    InvalidInput
        When the crank could not turn, or the lifts cannot be.

    Examples
    --------
    >>> lifts = [(-40, 0.2), (-20, 0.9), (0, 2.2), (10, 3.1), (20, 4.2), (40, 6.6), (60, 8.6)]
    >>> found = piston_to_valve(PistonToValveInput(stroke_mm=96, rod_mm=168, drop_at_tdc_mm=6, valve_angle_deg=15,
    ...     lift_points=lifts, shifts_deg=[0, 4], minimum_mm=2))
    >>> [(p.shift_deg, round(p.min_mm, 2), round(p.at_deg), p.verdict.value) for p in found.positions]
    [(0.0, 3.6, 5, 'in'), (4.0, 3.22, 5, 'in')]

    References
    ----------
    gap = drop at TDC + piston's drop x cos(valve angle) - lift; docs/methods.md, "Piston to valve".
    """
    import numpy as np

    given.check()
    curve = LiftCurve(given.lift_points)
    angles = np.arange(-CYCLE_DEG / 2, CYCLE_DEG / 2 + STEP_DEG / 2, STEP_DEG)
    room = given.drop_at_tdc_mm + drops(given, angles) * np.cos(np.radians(given.valve_angle_deg))
    # Elsewhere the piston is out of reach of the valve; one more step on each side shows the minimum.
    near = np.convolve(room <= given.drop_at_tdc_mm + float(curve.lifts.max()), [1, 1, 1], "same") > 0
    close_by = angles[near]
    positions = []
    for shift in given.shifts_deg:
        known = curve.knows(close_by + shift)
        if not known.any():
            raise InvalidInput("shifts_deg", "lift-not-known-there", shift_deg=shift)
        gaps = np.full(len(angles), np.inf)
        gaps[near] = np.where(known, room[near] - curve.at(close_by + shift), np.nan)
        gap, at = least(gaps, angles)
        # At the minimum the lift changes as fast as the piston moves.
        low, high = np.interp([at - STEP_DEG, at + STEP_DEG], angles, room)
        slope = float(high - low) / (2 * STEP_DEG)
        by_lift = given.lift_doubt_pct / 100 * float(np.interp(at, angles, room) - gap)
        doubt = math.hypot(given.drop_doubt_mm, given.lift_doubt_mm, by_lift, slope * given.phase_doubt_deg)
        verdict = judge(gap, doubt, least=given.minimum_mm)
        whole = not _at_an_end(gaps, angles, at)
        if verdict is Verdict.IN and not whole:
            verdict = Verdict.UNSURE
        positions.append(ValveGap(shift_deg=shift, min_mm=gap, at_deg=at, doubt_mm=doubt, known=whole, verdict=verdict))
    return PistonToValve(positions=positions)


def gaps_at(given: PistonToValveInput, angles_deg: Sequence[float], shift_deg: float = 0.0) -> list[float | None]:
    """The gap at crank degrees about overlap TDC, mm, with the cam moved by a shift; None where the lift is not known.

    Examples
    --------
    >>> given = PistonToValveInput(stroke_mm=96, rod_mm=168, drop_at_tdc_mm=6, valve_angle_deg=0, minimum_mm=2,
    ...     lift_points=[(-20, 0.9), (0, 2.2), (20, 4.2)])
    >>> gaps_at(given, [0, 40])
    [3.8, None]
    """
    import numpy as np

    angles = np.asarray(angles_deg, dtype=float)
    curve = LiftCurve(given.lift_points)
    room = given.drop_at_tdc_mm + drops(given, angles) * np.cos(np.radians(given.valve_angle_deg))
    gaps, known = room - curve.at(angles + shift_deg), curve.knows(angles + shift_deg)
    return [float(gap) if there else None for gap, there in zip(gaps, known, strict=True)]


def drops(crank: Crank, angles_deg: "Array") -> "Array":
    """The piston's drop from the top of its travel at crank degrees from true TDC, mm, (n,)."""
    import numpy as np

    r, rod, offset = crank.throw_mm, crank.rod_mm, crank.pin_offset_mm
    angle = np.radians(angles_deg + top_angle(crank))
    top = np.sqrt((r + rod) ** 2 - offset**2)
    return np.asarray(np.maximum(0.0, top - (r * np.cos(angle) + np.sqrt(rod**2 - (r * np.sin(angle) - offset) ** 2))))


def _at_an_end(gaps: "Array", angles: "Array", at_deg: float) -> bool:
    """Whether the smallest clearance is at the edge of the known lift."""
    import numpy as np

    k = int(np.argmin(np.abs(angles - at_deg)))
    near = gaps[[(k - 1) % len(gaps), (k + 1) % len(gaps)]]
    return bool(np.isnan(near).any())


def _slope(lift: "Array", known: "Array", k: int) -> float:
    """How fast a valve goes at a place of the grid, mm per crank degree, by what is known on either side of it."""
    low, high = (k - 1 if k and known[k - 1] else k), (k + 1 if k + 1 < len(lift) and known[k + 1] else k)
    return float(lift[high] - lift[low]) / ((high - low) * STEP_DEG) if high > low else 0.0


class ValveToValveInput(Input):
    """Two valves of one cylinder that approach each other round overlap."""

    intake_points: list[tuple[Deg, Mm]] = Field(min_length=2, max_length=MAX_POINTS)
    exhaust_points: list[tuple[Deg, Mm]] = Field(min_length=2, max_length=MAX_POINTS)
    gap_at_rest_mm: Mm = Field(ge=0, description="Both shut, along the line in which they approach.")
    intake_share: float = Field(ge=0, le=1, description="Part of the intake's lift along that line.")
    exhaust_share: float = Field(ge=0, le=1)
    intake_shift_deg: Deg = Field(0.0, description="Advance positive.")
    exhaust_shift_deg: Deg = 0.0
    minimum_mm: Mm = Field(ge=0)
    gap_doubt_mm: Mm = Field(0.0, ge=0)
    lift_doubt_mm: Mm = Field(0.0, ge=0)
    phase_doubt_deg: Deg = Field(0.0, ge=0)


class ValveToValve(Found):
    """How near two valves come to each other."""

    min_mm: float
    at_deg: float = Field(description="Crank degrees about overlap TDC, after positive.")
    doubt_mm: float
    verdict: Verdict


def valve_to_valve(given: ValveToValveInput) -> ValveToValve:
    """Say how near intake and exhaust valve come to each other.

    Parameters
    ----------
    given
        Lifts of both, crank degrees about overlap TDC and mm; the gap at rest, mm; what part of each lift goes along the
        line in which they approach; shifts of either cam, crank degrees, advance positive; the least allowed, mm; doubts.

    Returns
    -------
    ValveToValve
        Least gap, mm, where it is, its doubt and the verdict.

    Raises
    ------
    InvalidInput
        When lifts cannot be, or are nowhere known together.

    Examples
    --------
    >>> found = valve_to_valve(ValveToValveInput(
    ...     intake_points=[(-40, 0), (-20, 0.9), (0, 2.2), (20, 2.6), (40, 2.8)],
    ...     exhaust_points=[(-40, 2.8), (-20, 2.6), (0, 2.2), (20, 0.9), (40, 0)],
    ...     gap_at_rest_mm=4.0, intake_share=0.6, exhaust_share=0.6, minimum_mm=1))
    >>> round(found.min_mm, 2), round(found.at_deg), found.verdict.value
    (1.36, 0, 'in')

    References
    ----------
    gap = gap at rest - share x lift of either; docs/methods.md, "Valve to valve".
    """
    import numpy as np

    intake, exhaust = (LiftCurve(points) for points in (given.intake_points, given.exhaust_points))
    angles = np.arange(-CYCLE_DEG / 2, CYCLE_DEG / 2 + STEP_DEG / 2, STEP_DEG)
    lifts = []
    known = np.ones(len(angles), dtype=bool)
    shifted = ((intake, given.intake_shift_deg), (exhaust, given.exhaust_shift_deg))
    for curve, shift in shifted:
        lifts.append(curve.at(angles + shift))
        known &= curve.knows(angles + shift)
    if not known.any():
        raise InvalidInput("intake_points", "lifts-not-known-together")
    approach = given.intake_share * lifts[0] + given.exhaust_share * lifts[1]
    gaps = np.where(known, given.gap_at_rest_mm - approach, np.nan)
    gap, at = least(gaps, angles)
    here = int(np.argmin(np.abs(angles - at)))
    doubt_squared = given.gap_doubt_mm**2
    for lift, share in zip(lifts, (given.intake_share, given.exhaust_share), strict=True):
        slope = _slope(lift, known, here)
        doubt_squared += share**2 * (given.lift_doubt_mm**2 + (slope * given.phase_doubt_deg) ** 2)
    doubt = float(np.sqrt(doubt_squared))
    verdict = judge(gap, doubt, least=given.minimum_mm)
    if verdict is not Verdict.OUT and _at_an_end(gaps, angles, at):
        verdict = Verdict.UNSURE
    return ValveToValve(min_mm=gap, at_deg=at, doubt_mm=doubt, verdict=verdict)
