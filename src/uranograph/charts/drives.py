"""How much runout each drive bears, with the shaft's own; and the swing of backlash beside its window."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen

LEFT, RIGHT = 210.0, 590.0
TOP, STEP = 136.0, 62.0
# Letters in a line of a drive's name.
NAME = 16


@dataclass(frozen=True)
class Bears:
    """One drive: runout it bears, up to where it bears it only if, None where that has no end; mm. And the verdict."""

    name: str
    yes_mm: float
    only_if_mm: float | None
    verdict: str
    chosen: bool = False


@dataclass(frozen=True)
class Swing:
    """Backlash by this runout and what is allowed, mm, with the words for both."""

    swing_mm: float
    window_mm: float | None
    swing_words: str
    window_words: str


@lru_cache(maxsize=64)
def drives_figure(
    drives: tuple[Bears, ...],
    limits: tuple[tuple[float, str], ...],
    total_mm: float | None,
    doubt_mm: float,
    words: str,
    swing: Swing | None,
    title: str,
) -> Figure:
    """Draw every drive by the runout it bears, 742 by 630.

    Parameters
    ----------
    drives
        From top to bottom.
    limits
        Runout in mm and the figure to write on the scale there.
    total_mm, doubt_mm, words
        The shaft's runout, None where not measured, its doubt, and the figure as written.
    swing
        What it does to backlash.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "total indicated runout (TIR) that each drive bears; one scale", "small", "start")
    reach = 1.2 * max([mm for mm, _ in limits] + [(total_mm or 0.0) + doubt_mm, 0.05])
    scale = (RIGHT - LEFT) / reach
    bottom = TOP + STEP * len(drives) - 14
    if total_mm is not None:
        at = LEFT + total_mm * scale
        wide = max(doubt_mm * scale, 3)
        pen.rect(at - wide, TOP - 26, 2 * wide, bottom - TOP + 26, "halo")
    for n, drive in enumerate(drives):
        _drive(pen, drive, TOP + n * STEP, scale)
    pen.line((LEFT, bottom), (RIGHT, bottom), "ink")
    last = -100.0
    for mm, text in ((0.0, "0"), *limits):
        x = LEFT + mm * scale
        lower = 20 if x - last < 72 else 0
        pen.line((x, bottom), (x, bottom + 6 + lower), "ink")
        pen.text((x, bottom + 20 + lower), text, "scale")
        last = x if not lower else last
    if total_mm is not None:
        at = LEFT + total_mm * scale
        pen.line((at, TOP - 26), (at, bottom), "measured-line")
        pen.star((at, TOP - 30), 11, "solid")
        anchor = "start" if at < RIGHT - 120 else "end"
        pen.text((at + (16 if anchor == "start" else -16), TOP - 26), words, "gap", anchor)
    if swing is not None:
        _swing(pen, swing, bottom + 74)
    phrase = "; ".join(f"{drive.name} {drive.verdict}" for drive in drives)
    return pen.figure(742, 630, f"{title}: {phrase}.", "drives")


def _drive(pen: Pen, drive: Bears, y: float, scale: float) -> None:
    top = y + 14 if len(drive.name) <= NAME else y + 4
    pen.lines((LEFT - 14, top), drive.name, "gear-name" if drive.chosen else "small", NAME, "end", apart=21)
    pen.rect(LEFT, y, drive.yes_mm * scale, 22, "tolerance")
    pen.line((LEFT + drive.yes_mm * scale, y - 4), (LEFT + drive.yes_mm * scale, y + 26), "card-curve")
    end = RIGHT if drive.only_if_mm is None else LEFT + drive.only_if_mm * scale
    if end > LEFT + drive.yes_mm * scale + 1:
        for edge in (y, y + 22):
            pen.line((LEFT + drive.yes_mm * scale, edge), (end, edge), "card-line")
        if drive.only_if_mm is not None:
            pen.line((end, y - 4), (end, y + 26), "card-curve")
        if end - LEFT - drive.yes_mm * scale > 46:
            pen.text(((LEFT + drive.yes_mm * scale + end) / 2, y + 15), "only if", "scale")
    if drive.verdict:
        pen.text((RIGHT + 16, y + 16), drive.verdict, "gap", "start")


def _swing(pen: Pen, swing: Swing, y: float) -> None:
    pen.text((22, y), "Backlash on this shaft", "subtitle", "start")
    pen.text((22, y + 20), "another gear size slides the bar along, and never shortens it", "small", "start")
    most = max(swing.swing_mm, swing.window_mm or 0.0, 1e-6)
    scale = 300 / most
    middle = (LEFT + RIGHT) / 2
    if swing.window_mm is not None:
        half = swing.window_mm * scale / 2
        pen.rect(middle - half, y + 40, 2 * half, 26, "tolerance")
        for x in (middle - half, middle + half):
            pen.line((x, y + 34), (x, y + 74), "card-curve")
        pen.text((736, y + 52), swing.window_words, "small card", "end")
    half = max(swing.swing_mm * scale / 2, 2)
    pen.line((middle - half, y + 84), (middle + half, y + 84), "gap-arc")
    for x in (middle - half, middle + half):
        pen.line((x, y + 78), (x, y + 90), "gap-arc")
    pen.star((middle, y + 84), 10, "solid")
    pen.text((736, y + 88), swing.swing_words, "gap", "end")
