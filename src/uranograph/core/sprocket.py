"""Alignment of two sprockets."""

from pydantic import Field

from uranograph.core.models import Found, Input, Mm
from uranograph.core.verdict import Verdict, judge


class LineInput(Input):
    """Depths of both sprocket faces from one datum, mm."""

    driver_depth_mm: Mm
    driven_depth_mm: Mm
    row_offset_mm: Mm = Field(0.0, description="How much deeper the driven face belongs, allowing for rows.")
    tolerance_mm: Mm = Field(gt=0)
    shim_mm: Mm | None = Field(None, gt=0)
    out_of_line_doubt_mm: Mm = Field(0.0, ge=0, description="Of the difference of both depths.")


class SprocketLine(Found):
    """How far the driven sprocket is out of line."""

    out_of_line_mm: float = Field(description="Driven too deep positive.")
    shims_change: int | None = Field(description="Shims to add behind the driven sprocket; negative: take away.")
    verdict: Verdict


def sprocket_line(given: LineInput) -> SprocketLine:
    """Compare sprocket depths and say how many shims bring them in line.

    Parameters
    ----------
    given
        Depths, row offset, tolerance, shim thickness and the doubt of the difference, mm.

    Returns
    -------
    Line
        Depth of the driven sprocket beyond where it belongs, whole shims that cure it best, and the verdict.

    Examples
    --------
    >>> found = sprocket_line(LineInput(driver_depth_mm=12, driven_depth_mm=12.6, tolerance_mm=0.25, shim_mm=0.3))
    >>> round(found.out_of_line_mm, 6), found.shims_change, found.verdict.value
    (0.6, 2, 'out')

    References
    ----------
    docs/methods.md, "Sprocket alignment".
    """
    out = given.driven_depth_mm - given.driver_depth_mm - given.row_offset_mm
    return SprocketLine(
        out_of_line_mm=out,
        shims_change=None if given.shim_mm is None else round(out / given.shim_mm),
        verdict=judge(out, given.out_of_line_doubt_mm, -given.tolerance_mm, given.tolerance_mm),
    )
