"""Split overlap: setting a cam without marks or card by both lifters at overlap TDC."""

from pydantic import Field

from uranograph.core.models import Found, Input, Mm, MmPerDeg


class SplitInput(Input):
    """Lifts of both lifters at overlap TDC, mm, and the slopes of their flanks there, mm per crank degree."""

    intake_mm: Mm = Field(ge=0)
    exhaust_mm: Mm = Field(ge=0)
    intake_slope_mm_per_deg: MmPerDeg = Field(gt=0)
    exhaust_slope_mm_per_deg: MmPerDeg = Field(gt=0)
    wanted_difference_mm: Mm = Field(0.0, description="Intake less exhaust, where the cam belongs; 0 straight up.")


class Split(Found):
    """The shift that makes both lifts alike."""

    difference_mm: float = Field(description="Intake less exhaust.")
    shift_deg: float = Field(description="Crank degrees, advance positive.")


def split_overlap(given: SplitInput) -> Split:
    """Say how far to move the cam so that both lifters stand as wanted at overlap TDC: alike, unless a difference is given.

    Parameters
    ----------
    given
        Lifts (mm) and slopes, both as sizes (mm per crank degree).

    Returns
    -------
    Split
        (wanted difference - (intake - exhaust)) / (sum of slopes): advancing lifts the intake and lowers the exhaust.

    Examples
    --------
    >>> given = SplitInput(intake_mm=0.9, exhaust_mm=1.3, intake_slope_mm_per_deg=0.1, exhaust_slope_mm_per_deg=0.1)
    >>> round(split_overlap(given).shift_deg, 6)
    2.0

    References
    ----------
    docs/methods.md, "Split overlap".
    """
    difference = given.intake_mm - given.exhaust_mm
    slopes = given.intake_slope_mm_per_deg + given.exhaust_slope_mm_per_deg
    return Split(difference_mm=difference, shift_deg=(given.wanted_difference_mm - difference) / slopes)
