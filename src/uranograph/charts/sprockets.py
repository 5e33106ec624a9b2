"""Two sprockets seen edge on from the side, with the straight edge between them."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen


@lru_cache(maxsize=64)
def sprocket_figure(
    driver_mm: float | None,
    driven_mm: float | None,
    row_offset_mm: float,
    tolerance_mm: float,
    doubt_mm: float,
    words: tuple[str, str, str],
    title: str,
) -> Figure:
    """Draw both sprocket faces below one datum, the gap between them magnified, 742 by 630.

    Parameters
    ----------
    driver_mm, driven_mm
        Depths from the datum, mm, None where not measured.
    row_offset_mm, tolerance_mm, doubt_mm
        How much deeper the driven face belongs, what is allowed either way, and what the readings leave open, mm.
    words
        Depth of the driver, of the driven, and how far out of line, as they are written.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "seen from the side; depths down from one datum", "small", "start")
    datum, face = 120.0, 330.0
    pen.line((90, datum), (652, datum), "ink")
    pen.text((652, datum - 10), "datum", "small", "end")
    out = None
    if driver_mm is not None and driven_mm is not None:
        out = driven_mm - driver_mm - row_offset_mm
    reach = max(abs(out or 0.0) + doubt_mm, 2 * tolerance_mm)
    scale = 110 / reach
    pen.rect(420, face - tolerance_mm * scale, 210, 2 * tolerance_mm * scale, "tolerance")
    pen.line((120, face), (652, face), "card-line")
    pen.text((660, face + 4), "line", "small card", "start")
    if driver_mm is not None:
        _sprocket(pen, 215, face, datum, words[0], "crank sprocket")
    if driven_mm is not None:
        at = face + (out or 0.0) * scale
        pen.rect(420, at - doubt_mm * scale, 210, 2 * doubt_mm * scale, "halo")
        _sprocket(pen, 525, at, datum, words[1], "cam sprocket")
    if out is not None and abs(out) > 1e-9:
        pen.line((372, face), (372, face + out * scale), "gap-arc")
        pen.text((372, face + max(out, 0.0) * scale + 20), words[2], "gap")
    if out is not None:
        pen.text((22, 612), f"line ×{scale * 0.26:.0f}", "small", "start")
    if driver_mm is None and driven_mm is None:
        pen.text((371, 460), "Measure both faces from the same datum.", "soft")
    return pen.figure(742, 630, f"{title}: {words[2] or 'not measured'}.", "sprockets")


def _sprocket(pen: Pen, x: float, y: float, datum: float, depth: str, name: str) -> None:
    pen.rect(x - 95, y, 190, 16, "gear-edge")
    pen.rect(x - 28, y + 16, 56, 70, "gear-edge")
    for side in (-1, 1):
        pen.path(f"M{x + side * 95:.1f} {y:.1f}l{side * 12} 8l{-side * 12} 8", "ink")
    pen.line((x, datum), (x, y), "measured-line")
    pen.star((x, y), 9, "solid")
    pen.text((x + 10, (datum + y) / 2 + 5), depth, "gap", "start")
    pen.text((x, y + 108), name, "small")
