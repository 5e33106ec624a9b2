"""Both lifters at overlap TDC; and the hole sets of a blind gear, by how far each is off."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, polyline


@lru_cache(maxsize=64)
def lifters_figure(
    intake_mm: float | None, exhaust_mm: float | None, words: tuple[str, str], phrase: str, title: str
) -> Figure:
    """Draw both lifters on their lobes, heights to one scale, 742 by 630.

    Parameters
    ----------
    intake_mm, exhaust_mm
        Lifts, mm, None where not read.
    words
        The same as they are written: exhaust, intake.
    phrase
        What they say, a few words.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "exhaust shutting, intake opening; heights to one scale", "small", "start")
    base, most = 430.0, max(intake_mm or 0.0, exhaust_mm or 0.0, 0.5)
    scale = 170 / most
    pen.line((120, base), (622, base), "card-line")
    pen.text((628, base + 4), "base circle", "small card", "start")
    for x, lift, text, name, way in (
        (250.0, exhaust_mm, words[0], "exhaust", 1),
        (490.0, intake_mm, words[1], "intake", -1),
    ):
        curve = [(x + dx, base - (lift or 0.0) * scale * (1 + way * -dx / 90) if lift else base) for dx in (-60, 60)]
        if lift is not None:
            pen.path(polyline(curve), "measured-curve")
            pen.rect(x - 34, base - lift * scale - 96, 68, 90, "gear-edge")
            pen.star((x, base - lift * scale), 10, "solid")
            pen.text((x + 44, base - lift * scale - 4), text, "gap", "start")
        else:
            pen.rect(x - 34, base - 96, 68, 90, "hair")
        pen.text((x, base + 30), name, "subtitle")
    if intake_mm is not None and exhaust_mm is not None:
        for lift, x in ((exhaust_mm, 250.0), (intake_mm, 490.0)):
            pen.line((x, base - lift * scale), (370, base - lift * scale), "measured-line")
        pen.line((370, base - intake_mm * scale), (370, base - exhaust_mm * scale), "gap-arc")
    pen.text((371, 560), phrase, "soft")
    return pen.figure(742, 630, f"{title}: {phrase}", "lifters")


@lru_cache(maxsize=64)
def sets_figure(count: int, misfit: tuple[tuple[int, float, str], ...], best: int | None, title: str) -> Figure:
    """Draw each hole set by how far off it was, 742 by 630; a set not tried stays hollow.

    Parameters
    ----------
    count
        How many sets there are.
    misfit
        Number, misfit in mm, and the same as written.
    best
        The set that lines up best.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text(
        (22, 64),
        "how far each set of holes is off; the best has its neighbors off alike, one to each side",
        "small",
        "start",
    )
    middle, left, right = 320.0, 90.0, 690.0
    reach = max((abs(mm) for _, mm, _ in misfit), default=1.0) or 1.0
    pen.line((left, middle), (right, middle), "card-line")
    pen.text((left - 8, middle + 4), "lines up", "small card", "end")
    gap = (right - left) / count
    tried = {number: (mm, words) for number, mm, words in misfit}
    for number in range(1, count + 1):
        x = left + gap * (number - 0.5)
        pen.text((x, 540), f"set {number}", "subtitle" if number == best else "small")
        if number not in tried:
            pen.star((x, middle), 9, "hollow")
            continue
        mm, words = tried[number]
        y = middle - mm / reach * 170
        pen.line((x, middle), (x, y), "measured-line")
        pen.star((x, y), 11, "solid")
        pen.text((x, y - 16 if mm >= 0 else y + 28), words, "gap")
    return pen.figure(742, 630, f"{title}: {len(misfit)} of {count} sets tried.", "sets")
