"""Bolts on their circle, each with a ring for every stage it was pulled at."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, polar

CENTER: Point = (371.0, 330.0)
RADIUS = 170.0


@lru_cache(maxsize=64)
def bolts_figure(
    count: int,
    stages: int,
    done: tuple[tuple[int, int, bool], ...],
    waiting: int | None,
    words: tuple[str, ...],
    title: str,
) -> Figure:
    """Draw the bolts, 742 by 630.

    Parameters
    ----------
    count, stages
        How many bolts, and stages each is pulled in.
    done
        Stage, bolt, and whether it was pulled right.
    waiting
        The bolt that is next.
    words
        Each stage as written.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "a ring for each stage, from the inside out; pulled crosswise", "small", "start")
    right = {(stage, bolt): ok for stage, bolt, ok in done}
    pen.circle(CENTER, RADIUS, "hair")
    for bolt in range(1, count + 1):
        at = polar(CENTER, RADIUS, 360 * (bolt - 1) / count) if count > 1 else CENTER
        room = min(16.0, 220.0 / max(count, 4))
        for stage in range(1, stages + 1):
            ok = right.get((stage, bolt))
            ink = "card-line" if ok is None else "measured-curve" if ok else "measured-dash"
            pen.circle(at, room + stage * min(6.0, room / 2), ink)
        if bolt == waiting:
            pen.star((at[0], at[1] - room - (stages + 2) * min(6.0, room / 2) - 6), 10, "dark")
        pen.text((at[0], at[1] + 5), str(bolt), "gear-name")
    for n, text in enumerate(words, 1):
        pulled = sum(1 for stage, _, ok in done if stage == n and ok)
        pen.text((22, 520 + 22 * n - 11 * len(words)), f"stage {n}: {text}", "small", "start")
        pen.text((340, 520 + 22 * n - 11 * len(words)), f"{pulled} of {count}", "gap", "start")
    return pen.figure(742, 630, f"{title}: {sum(ok for _, _, ok in done)} of {count * stages} pulls done.", "bolts")
