"""An end play drawn as the gap it is: cheeks, the blades that went and did not, the window, hot and cold."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen
from uranograph.core.errors import Missing

CHEEK, ROOM = 150.0, 400.0
TOP, FOOT = 126.0, 318.0


@dataclass(frozen=True)
class Blade:
    """One try: thickness in mm, as written, and whether it went."""

    mm: float
    words: str
    went: bool


@dataclass(frozen=True)
class PlayGap:
    """One shaft's play, mm: what is allowed, what is known, blades and travels, and what it becomes hot."""

    part: str
    least_mm: float
    greatest_mm: float
    allowed_words: tuple[str, str]
    low_mm: float | None = None
    high_mm: float | None = None
    words: str = ""
    blades: tuple[Blade, ...] = ()
    travels: tuple[tuple[float, str], ...] = ()
    next_mm: float | None = None
    next_words: str = ""
    hot_change_mm: float | None = None
    hot_words: str = ""


@lru_cache(maxsize=64)
def gap_figure(gap: PlayGap, title: str) -> Figure:
    """Draw one play, 742 by 630: the room between two cheeks, magnified, everything to one scale.

    Parameters
    ----------
    gap
        The play and all that is known of it.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), f"the {gap.part} levered to the left; the room it leaves, to scale", "small", "start")
    known = [gap.greatest_mm, gap.high_mm or 0.0, gap.low_mm or 0.0, gap.next_mm or 0.0]
    known += [blade.mm for blade in gap.blades] + [mm for mm, _ in gap.travels]
    if gap.hot_change_mm is not None:
        known.append((gap.high_mm or gap.low_mm or 0.0) + gap.hot_change_mm)
    scale = ROOM / (1.18 * max(known))

    def x(mm: float) -> float:
        return CHEEK + mm * scale

    pen.rect(x(gap.least_mm), TOP - 20, (gap.greatest_mm - gap.least_mm) * scale, FOOT - TOP + 40, "tolerance")
    for mm, words, anchor in (
        (gap.least_mm, gap.allowed_words[0], "end"),
        (gap.greatest_mm, gap.allowed_words[1], "start"),
    ):
        pen.line((x(mm), TOP - 20), (x(mm), FOOT + 20), "card-curve")
        pen.text((x(mm) + (-6 if anchor == "end" else 6), TOP - 26), words, "small card", anchor)
    pen.rect(60, TOP, CHEEK - 60, FOOT - TOP, "gear-edge")
    pen.text(((60 + CHEEK) / 2, (TOP + FOOT) / 2), gap.part, "gear-name")
    _far_cheek(pen, gap, x)
    y = FOOT + 62
    for blade in gap.blades[-7:]:
        ink = "blade went" if blade.went else "blade"
        pen.rect(CHEEK, y - 12, max(blade.mm * scale, 1.5), 15, ink)
        pen.text((x(blade.mm) + 10, y), f"{blade.words} {'goes' if blade.went else 'does not go'}", "small", "start")
        y += 24
    for mm, words in gap.travels[-5:]:
        pen.line((CHEEK, y - 4), (x(mm), y - 4), "measured-line")
        pen.star((x(mm), y - 4), 9, "solid")
        pen.text((x(mm) + 16, y), words, "small", "start")
        y += 24
    if gap.next_mm is not None:
        pen.rect(CHEEK, y - 12, gap.next_mm * scale, 15, "blade next")
        pen.text((x(gap.next_mm) + 10, y), gap.next_words, "gap", "start")
        y += 24
    if gap.hot_change_mm is not None and gap.low_mm is not None:
        _hot(pen, gap, x, y + 8)
    pen.text((22, 612), f"×{scale * 0.26:.0f}", "small", "start")
    return pen.figure(742, 630, f"{title}, {gap.part}: {gap.words or 'not read'}.", "gap")


def _far_cheek(pen: Pen, gap: PlayGap, x: Callable[[float], float]) -> None:
    if gap.low_mm is None:
        pen.rect(x((gap.least_mm + gap.greatest_mm) / 2), TOP, 90, FOOT - TOP, "hair")
        pen.text((x(gap.greatest_mm) + 60, (TOP + FOOT) / 2), "not read", "soft", "start")
        return
    high = gap.high_mm
    if high is None:
        pen.rect(x(gap.low_mm), TOP, 90, FOOT - TOP, "hair")
        pen.line((x(gap.low_mm), TOP), (x(gap.low_mm), FOOT), "measured-curve")
    else:
        pen.rect(x(high), TOP, 90, FOOT - TOP, "gear-edge")
        pen.rect(x(gap.low_mm), TOP, max(x(high) - x(gap.low_mm), 2), FOOT - TOP, "halo")
        pen.line((x(gap.low_mm), TOP), (x(gap.low_mm), FOOT), "measured-curve")
        pen.line((x(high), TOP), (x(high), FOOT), "measured-curve")
    pen.text((CHEEK + 8, FOOT - 10), gap.words, "gap", "start")


def _hot(pen: Pen, gap: PlayGap, x: Callable[[float], float], y: float) -> None:
    if gap.low_mm is None or gap.hot_change_mm is None:
        raise Missing("gap.low_mm, gap.hot_change_mm")
    ends = [
        gap.low_mm + gap.hot_change_mm,
        (gap.high_mm if gap.high_mm is not None else gap.low_mm) + gap.hot_change_mm,
    ]
    shown = [max(0.0, end) for end in ends]
    pen.line((CHEEK, y), (x(shown[1]), y), "measured-dash")
    for end in shown:
        pen.line((x(end), y - 8), (x(end), y + 8), "measured-curve")
    pen.text((x(shown[1]) + 16, y + 4), gap.hot_words, "gap", "start")
