"""A deviation on a ruler of whole teeth."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen
from uranograph.core.quantities import format_angle


@lru_cache(maxsize=64)
def slip_figure(offset_deg: float | None, per_tooth_deg: float, tolerance_deg: float, title: str) -> Figure:
    """Draw a deviation between the places that whole teeth could put it, 742 by 330.

    Parameters
    ----------
    offset_deg, per_tooth_deg, tolerance_deg
        The deviation, None where none is reported; one tooth, and how near counts, crank degrees.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.star((29, 64), 7, "hollow")
    pen.text((42, 68), "where whole teeth would put it", "small", "start")
    if offset_deg is not None:
        pen.star((29, 84), 7, "solid")
        pen.text((42, 88), "reported", "small", "start")
    middle, half, y = 371.0, 310.0, 200.0
    most = max(2, int(abs(offset_deg or 0.0) / per_tooth_deg) + 2)
    scale = half / (most * per_tooth_deg)
    pen.line((middle - half - 12, y), (middle + half + 12, y), "ink")
    every = max(1, most // 8)
    for k in range(-most, most + 1):
        x = middle + k * per_tooth_deg * scale
        pen.rect(x - tolerance_deg * scale, y - 26, 2 * tolerance_deg * scale, 26, "tolerance")
        pen.line((x, y), (x, y - 10), "ink")
        pen.star((x, y - 13), 9, "hollow")
        if k % every == 0:
            pen.text((x, y + 18), f"{abs(k)}", "scale")
            pen.text((x, y + 34), format_angle(abs(k * per_tooth_deg)), "small")
    for side, words in ((-1, "early"), (1, "late")):
        pen.text((middle + side * half, y + 56), f"teeth, deg {words}", "small", "start" if side < 0 else "end")
    if offset_deg is None:
        return pen.figure(742, 280, f"{title}: one tooth is {format_angle(per_tooth_deg)} degrees.", "slip")
    x = middle + max(-half - 8, min(half + 8, offset_deg * scale))
    pen.star((x, y - 13), 12, "solid")
    pen.text((x, y - 42), f"{format_angle(abs(offset_deg))} {'late' if offset_deg > 0 else 'early'}", "gap")
    return pen.figure(
        742, 280, f"{title}: {format_angle(offset_deg)} degrees, one tooth is {format_angle(per_tooth_deg)}.", "slip"
    )
