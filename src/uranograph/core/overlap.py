"""Degreeing by the lift at overlap TDC."""

import math

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input, Mm, MmPerDeg
from uranograph.core.verdict import Verdict, judge


class OverlapInput(Input):
    """Lift measured at overlap TDC, the card's range, mm, and the flank's slope there, mm per crank degree."""

    measured_mm: Mm = Field(ge=0)
    target_min_mm: Mm = Field(ge=0)
    target_max_mm: Mm = Field(ge=0)
    slope_mm_per_deg: MmPerDeg = Field(description="Rising positive: an intake opens, so its slope is positive.")
    measured_doubt_mm: Mm = Field(0.0, ge=0)
    slope_doubt_mm_per_deg: MmPerDeg = Field(0.0, ge=0, description="It bears on the shift, never on the verdict.")


class OverlapShift(Found):
    """How far to move the cam to the middle of the range."""

    shift_deg: float = Field(description="Crank degrees, advance positive.")
    shift_doubt_deg: float
    verdict: Verdict = Field(description="Of the lift against the card's range.")


def overlap_lift(given: OverlapInput) -> OverlapShift:
    """Say how far to move a cam so that its lift at overlap TDC is the middle of the card's range.

    Parameters
    ----------
    given
        Lifts and the doubt of the one measured, mm; slope of the flank at TDC and its doubt, mm per crank degree.

    Returns
    -------
    OverlapShift
        Crank degrees to advance (negative: retard) with their doubt, and whether the lift is within the card's range
        as it is: the range decides, the degrees are advice.

    Raises
    ------
    InvalidInput
        When the range is the wrong way round, or the flank is flat.

    Examples
    --------
    >>> found = overlap_lift(OverlapInput(measured_mm=1.6, target_min_mm=1.9, target_max_mm=2.1, slope_mm_per_deg=0.1))
    >>> round(found.shift_deg, 6), found.verdict.value
    (4.0, 'out')

    References
    ----------
    docs/methods.md, "Lift at overlap TDC".
    """
    if given.target_min_mm > given.target_max_mm:
        raise InvalidInput(
            "target_min_mm", "least-above-greatest-lift", least_mm=given.target_min_mm, most_mm=given.target_max_mm
        )
    if given.slope_mm_per_deg == 0:
        raise InvalidInput("slope_mm_per_deg", "flat-flank")
    middle = (given.target_min_mm + given.target_max_mm) / 2
    shift = (middle - given.measured_mm) / given.slope_mm_per_deg
    by_slope = abs(shift) * given.slope_doubt_mm_per_deg / abs(given.slope_mm_per_deg)
    return OverlapShift(
        shift_deg=shift,
        shift_doubt_deg=math.hypot(given.measured_doubt_mm / given.slope_mm_per_deg, by_slope),
        verdict=judge(given.measured_mm, given.measured_doubt_mm, given.target_min_mm, given.target_max_mm),
    )
