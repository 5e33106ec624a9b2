"""Whether a deviation between crank and cam is whole teeth."""

from enum import StrEnum

from pydantic import Field

from uranograph.core.models import Found, Given


class SlipGiven(Given):
    """A deviation in crank degrees and the crank gear's teeth."""

    offset_deg: float
    crank_teeth: int = Field(ge=3, le=400)
    tolerance_deg: float = Field(2.0, ge=0)


class SlipVerdict(StrEnum):
    """What a deviation can be."""

    ALIGNED = "aligned"
    WHOLE_TEETH = "whole-teeth"
    NOT_WHOLE_TEETH = "not-whole-teeth"


class Slip(Found):
    """The deviation in teeth."""

    per_tooth_deg: float
    nearest_teeth: int
    residual_deg: float
    verdict: SlipVerdict


def tooth_slip(given: SlipGiven) -> Slip:
    """Count a deviation in teeth of the crank gear.

    Parameters
    ----------
    given
        Deviation, crank degrees; teeth; how near a whole number counts, degrees (2 unless given).

    Returns
    -------
    Slip
        Degrees per tooth, nearest whole teeth, what is left, and whether that is whole teeth, nothing, or neither.

    Examples
    --------
    >>> found = tooth_slip(SlipGiven(offset_deg=-16.5, crank_teeth=21))
    >>> found.nearest_teeth, found.verdict.value
    (-1, 'whole-teeth')

    References
    ----------
    docs/methods.md, "Gear trains".
    """
    per_tooth = 360 / given.crank_teeth
    nearest = round(given.offset_deg / per_tooth)
    left = given.offset_deg - nearest * per_tooth
    if abs(given.offset_deg) <= given.tolerance_deg:
        verdict = SlipVerdict.ALIGNED
    elif nearest and abs(left) <= given.tolerance_deg:
        verdict = SlipVerdict.WHOLE_TEETH
    else:
        verdict = SlipVerdict.NOT_WHOLE_TEETH
    return Slip(per_tooth_deg=per_tooth, nearest_teeth=nearest, residual_deg=left, verdict=verdict)
