"""Room at every lobe, beside the least and the liked."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen

LEFT, RIGHT, TOP, FOOT = 116.0, 690.0, 120.0, 500.0


@lru_cache(maxsize=64)
def room_figure(
    lobes: tuple[str, ...],
    gaps: tuple[tuple[int, float, str], ...],
    least: tuple[float, str],
    liked: tuple[float, str],
    doubt_mm: float,
    title: str,
) -> Figure:
    """Draw the gap at each lobe as it stands over its face, 742 by 630.

    Parameters
    ----------
    lobes
        Every lobe by name.
    gaps
        Number of the lobe, gap in mm, and as written.
    least, liked
        House limits, mm, and as written.
    doubt_mm
        Of the measuring.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "from the face or the case up to each lobe, to scale", "small", "start")
    most = 1.2 * max([liked[0], *(mm for _, mm, _ in gaps)])
    scale = (FOOT - TOP) / most
    step = (RIGHT - LEFT) / len(lobes)
    wide = min(26.0, step * 0.6)
    pen.rect(LEFT, FOOT, RIGHT - LEFT, 14, "gear-edge")
    for (mm, words), ink, first in ((least, "card-curve", 16), (liked, "card-line", -22)):
        y = FOOT - mm * scale
        pen.line((LEFT, y), (RIGHT, y), ink)
        for n, word in enumerate(words.split()):
            pen.text((LEFT - 8, y + first + 20 * n), word, "small card", "end")
    read = {number: (mm, words) for number, mm, words in gaps}
    tight = min(read, key=lambda number: read[number][0]) if read else 0
    for n, name in enumerate(lobes, 1):
        x = LEFT + step * (n - 0.5)
        cylinder, _, lobe = name.partition(" ")
        pen.text((x, FOOT + 34), cylinder, "small")
        pen.text((x, FOOT + 50), lobe[:2], "scale")
        if n not in read:
            pen.line((x, FOOT - 8), (x, FOOT), "leader")
            continue
        mm, words = read[n]
        y = FOOT - mm * scale
        pen.line((x, FOOT), (x, y), "measured-line")
        pen.rect(x - wide / 2, y - doubt_mm * scale, wide, max(2 * doubt_mm * scale, 2), "halo")
        pen.path(
            f"M{x - wide / 2:.1f} {y - 20:.1f}Q{x:.1f} {y + 20:.1f} {x + wide / 2:.1f} {y - 20:.1f}", "measured-curve"
        )
        pen.star((x, y), 9 if n != tight else 12, "solid")
        if n == tight or len(lobes) <= 12:
            pen.text((x, y - 26), words, "gap" if n == tight else "small wide")
    if not read:
        pen.text(((LEFT + RIGHT) / 2, (TOP + FOOT) / 2), "Turn each lobe toward its face, and measure.", "soft")
    return pen.figure(742, 630, f"{title}: {len(read)} of {len(lobes)} lobes read.", "room")
