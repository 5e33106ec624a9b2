"""Whether a deviation between crank and cam is whole teeth."""

from enum import StrEnum

from pydantic import Field

from uranograph.core.models import Deg, Found, Input


class SlipInput(Input):
    """A deviation in crank degrees and the crank gear's teeth."""

    offset_deg: Deg
    crank_teeth: int = Field(ge=3, le=400)
    tolerance_deg: Deg | None = Field(
        None, ge=0, description="How near a whole number counts; the lesser of 2 and a sixth of a tooth unless given."
    )


class SlipVerdict(StrEnum):
    """Possible causes of a deviation."""

    ALIGNED = "aligned"
    WHOLE_TEETH = "whole-teeth"
    NOT_WHOLE_TEETH = "not-whole-teeth"


class Slip(Found):
    """The deviation in teeth."""

    per_tooth_deg: float
    nearest_teeth: int
    residual_deg: float
    verdict: SlipVerdict


NEAR_WHOLE_DEG = 2.0


def near_whole_number(crank_teeth: int) -> float:
    """How near a whole number of teeth a deviation must be to count as one, crank degrees.

    Examples
    --------
    >>> near_whole_number(21), near_whole_number(120)
    (2.0, 0.5)
    """
    return min(NEAR_WHOLE_DEG, 360 / crank_teeth / 6)


def tooth_slip(given: SlipInput) -> Slip:
    """Count a deviation in teeth of the crank gear.

    Parameters
    ----------
    given
        Deviation, crank degrees; teeth; how near a whole number counts, degrees.

    Returns
    -------
    Slip
        Degrees per tooth, nearest whole teeth, what is left, and whether that is whole teeth, nothing, or neither.

    Examples
    --------
    >>> found = tooth_slip(SlipInput(offset_deg=-16.5, crank_teeth=21))
    >>> found.nearest_teeth, found.verdict.value
    (-1, 'whole-teeth')

    References
    ----------
    docs/methods.md, "Gear trains".
    """
    per_tooth = 360 / given.crank_teeth
    near = near_whole_number(given.crank_teeth) if given.tolerance_deg is None else given.tolerance_deg
    nearest = round(given.offset_deg / per_tooth)
    left = given.offset_deg - nearest * per_tooth
    if abs(given.offset_deg) <= near:
        verdict = SlipVerdict.ALIGNED
    elif nearest and abs(left) <= near:
        verdict = SlipVerdict.WHOLE_TEETH
    else:
        verdict = SlipVerdict.NOT_WHOLE_TEETH
    return Slip(per_tooth_deg=per_tooth, nearest_teeth=nearest, residual_deg=left, verdict=verdict)
