"""Readings round a shaft or a gear, magnified, with the circle that fits them."""

import math
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, band, polar, traced

CENTER: Point = (371.0, 336.0)
BASE, REACH = 150.0, 92.0


@dataclass(frozen=True)
class ChartRing:
    """One set of readings: (clockwise degrees, value) and the waves that fit them as (amplitude, place of the greatest)."""

    points: tuple[tuple[float, float], ...]
    mean: float | None = None
    first: tuple[float, float] | None = None
    second: tuple[float, float] | None = None
    earlier: bool = False


@dataclass(frozen=True)
class RoundFigure:
    """Input of the round chart: rings, allowed range, uncertainty, and labels; values in mm."""

    title: str
    subtitle: str
    rings: tuple[ChartRing, ...]
    low: float | None = None
    high: float | None = None
    doubt: float = 0.0
    spot_deg: float | None = None
    spot_words: str = ""
    words: tuple[tuple[float, str], ...] = field(default=())
    legend: tuple[tuple[str, str], ...] = field(default=())
    ideal: float | None = None


@lru_cache(maxsize=128)
def round_figure(rounds: RoundFigure) -> Figure:
    """Draw readings round a circle, 742 by 630; the radius is the value, magnified about its own middle.

    Parameters
    ----------
    rounds
        Rings and all that stands with them; angles run clockwise from straight up.
    """
    pen = Pen()
    pen.text((22, 42), rounds.title, "title", "start")
    first = pen.lines((22, 64), rounds.subtitle, "small", 22) + 4
    values = [value for ring in rounds.rings for _, value in ring.points]
    shown = [*values, *(limit for limit in (rounds.low, rounds.high) if limit is not None)]
    middle = (min(shown) + max(shown)) / 2 if shown else 0.0
    half = max((max(shown) - min(shown)) / 2 if shown else 0.0, 4 * rounds.doubt, 1e-6)
    scale = REACH / half

    def radius(value: float) -> float:
        return BASE + max(-1.25, min(1.25, (value - middle) / half)) * REACH

    if rounds.low is not None or rounds.high is not None:
        inner = radius(rounds.low) if rounds.low is not None else BASE - 1.25 * REACH
        outer = radius(rounds.high) if rounds.high is not None else BASE + 1.25 * REACH
        for start in (0, 180):
            pen.path(band(CENTER, inner, outer, start, start + 179.999), "tolerance")
        for limit in (rounds.low, rounds.high):
            if limit is not None:
                pen.circle(CENTER, radius(limit), "card-curve")
    pen.circle(CENTER, BASE - 1.25 * REACH, "hair")
    for tick in range(0, 360, 30):
        pen.line(polar(CENTER, 266, tick), polar(CENTER, 274 if tick % 90 else 280, tick), "ink")
        x, y = polar(CENTER, 290, tick)
        if y < 606:
            pen.text((x, y + 4), str(tick), "scale")
    if rounds.ideal is not None and rounds.rings:
        pen.circle(CENTER, radius(rounds.ideal), "card-curve")
    for ring in rounds.rings:
        _ring(pen, ring, radius, rounds.doubt * scale)
    if rounds.spot_deg is not None:
        pen.line(polar(CENTER, 36, rounds.spot_deg), polar(CENTER, 262, rounds.spot_deg), "measured-line")
        x, y = polar(CENTER, 245, rounds.spot_deg)
        anchor = "start" if x < 560 else "end"
        pen.text((x + (8 if anchor == "start" else -8), y - 6), rounds.spot_words, "gap", anchor)
    for value, words in rounds.words:
        pen.text((CENTER[0] + 6, CENTER[1] - radius(value) + 22), words, "small card", "start")
    for n, (kind, words) in enumerate(rounds.legend):
        line = first + 20 * n
        if kind == "ring":
            pen.line((22, line - 4), (40, line - 4), "measured-curve")
        else:
            pen.star((30, line - 4), 7, kind)
        pen.text((46, line), words, "small", "start")
    if shown:
        pen.text((22, 612), f"×{scale * 0.26:.0f}", "small", "start")
    return pen.figure(742, 630, f"{rounds.title}: {len(values)} readings. {rounds.spot_words}", "round")


def _ring(pen: Pen, ring: ChartRing, radius: Callable[[float], float], halo: float) -> None:
    if ring.mean is not None and ring.first is not None:
        curve = []
        for at_deg in range(0, 361, 5):
            value = ring.mean + ring.first[0] * math.cos(math.radians(at_deg - ring.first[1]))
            if ring.second is not None:
                value += ring.second[0] * math.cos(2 * math.radians(at_deg - ring.second[1]))
            curve.append((radius(value), float(at_deg)))
        pen.path(traced(CENTER, curve), "measured-dash" if ring.earlier else "measured-curve")
    for deg, value in ring.points:
        at = polar(CENTER, radius(value), deg)
        if ring.earlier:
            pen.circle(at, 4, "reading-dot")
            continue
        if halo > 2:
            pen.circle(at, min(halo, 30), "halo")
        pen.star(at, 9, "solid")
