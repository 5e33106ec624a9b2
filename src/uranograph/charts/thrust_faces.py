"""A thrust bearing whose cheeks are sanded: both sides, pass by pass, toward one goal."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen

MIDDLE, HALF, REACH = 371.0, 74.0, 220.0
TOP, FOOT = 150.0, 400.0


@lru_cache(maxsize=64)
def cheeks_figure(
    front_mm: tuple[float, ...],
    rear_mm: tuple[float, ...],
    goal_mm: float | None,
    words: tuple[str, str, str],
    title: str,
) -> Figure:
    """Draw what was taken off each cheek, 742 by 630; both sides and the goal to one scale.

    Parameters
    ----------
    front_mm, rear_mm
        Taken off so far after each pass, mm, growing.
    goal_mm
        Wanted off each side, None where the play is not read.
    words
        Taken at the front, at the rear, and the goal, as they are written.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "taken off each thrust face, pass by pass; both sides to one scale", "small", "start")
    most = max([*front_mm, *rear_mm, goal_mm or 0.0, 0.005])
    scale = REACH / (1.15 * most)
    pen.rect(MIDDLE - HALF, TOP, 2 * HALF, FOOT - TOP, "gear-edge")
    pen.text((MIDDLE, (TOP + FOOT) / 2 - 4), "thrust", "gear-name")
    pen.text((MIDDLE, (TOP + FOOT) / 2 + 16), "bearing", "gear-name")
    for way, passes, sanded, name in (
        (-1, front_mm, words[0], "front thrust face"),
        (1, rear_mm, words[1], "rear thrust face"),
    ):
        face = MIDDLE + way * HALF
        if goal_mm is not None and goal_mm > 0:
            at = face + way * goal_mm * scale
            pen.rect(min(face, at), TOP, goal_mm * scale, FOOT - TOP, "tolerance")
            pen.line((at, TOP - 16), (at, FOOT + 16), "card-curve")
            pen.text((at, TOP - 24), words[2], "small card")
        done = 0.0
        for n, taken in enumerate(passes, 1):
            start, end = face + way * done * scale, face + way * taken * scale
            if taken > done:
                pen.rect(min(start, end), TOP + 30, abs(end - start), FOOT - TOP - 60, "halo")
            pen.line((end, TOP + 30), (end, FOOT - 30), "measured-curve")
            if abs(end - start) > 16:
                pen.text(((start + end) / 2, (TOP + FOOT) / 2), str(n), "small")
            done = max(done, taken)
        if passes:
            pen.star((face + way * passes[-1] * scale, FOOT - 30), 11, "solid")
        pen.text((MIDDLE + way * (HALF + REACH / 2), FOOT + 46), name, "subtitle")
        pen.text((MIDDLE + way * (HALF + REACH / 2), FOOT + 70), sanded, "gap")
    if goal_mm is None:
        pen.text((MIDDLE, 520), "Read the end play first: the goal follows from it.", "soft")
    return pen.figure(742, 630, f"{title}: front {words[0]}, rear {words[1]}, goal {words[2]}.", "cheeks")
