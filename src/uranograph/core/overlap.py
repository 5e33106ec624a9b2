"""Degreeing by the lift at overlap TDC."""

from pydantic import Field

from uranograph.core.errors import Impossible
from uranograph.core.models import Found, Given
from uranograph.core.phase import Judgment


class OverlapGiven(Given):
    """Lift measured at overlap TDC, the card's range, mm, and the flank's slope there, mm per crank degree."""

    measured_mm: float = Field(ge=0)
    target_min_mm: float = Field(ge=0)
    target_max_mm: float = Field(ge=0)
    slope_mm_per_deg: float = Field(description="Rising positive: an intake opens, so its slope is positive.")


class OverlapShift(Found):
    """How far to move the cam to the middle of the range."""

    shift_deg: float = Field(description="Crank degrees, advance positive.")
    verdict: Judgment


def overlap_lift(given: OverlapGiven) -> OverlapShift:
    """Say how far to move a cam so that its lift at overlap TDC is the middle of the card's range.

    Parameters
    ----------
    given
        Lifts, mm; slope of the flank at TDC, mm per crank degree.

    Returns
    -------
    OverlapShift
        Crank degrees to advance (negative: retard), and whether the lift is within the range as it is.

    Raises
    ------
    Impossible
        When the range is the wrong way round, or the flank is flat.

    Examples
    --------
    >>> found = overlap_lift(OverlapGiven(measured_mm=1.6, target_min_mm=1.9, target_max_mm=2.1, slope_mm_per_deg=0.1))
    >>> round(found.shift_deg, 6), found.verdict.value
    (4.0, 'out')

    References
    ----------
    docs/methods.md, "Lift at overlap TDC".
    """
    if given.target_min_mm > given.target_max_mm:
        raise Impossible(
            "target_min_mm",
            f"The least lift {given.target_min_mm:g} is above the greatest {given.target_max_mm:g}: look at the card again.",
        )
    if given.slope_mm_per_deg == 0:
        raise Impossible(
            "slope_mm_per_deg", "A flank with no slope cannot say how far to move. Measure it a few degrees on."
        )
    middle = (given.target_min_mm + given.target_max_mm) / 2
    within = given.target_min_mm <= given.measured_mm <= given.target_max_mm
    return OverlapShift(
        shift_deg=(middle - given.measured_mm) / given.slope_mm_per_deg,
        verdict=Judgment.IN if within else Judgment.OUT,
    )
