"""A gear that is heated: how hot it must be, where it grips again, and what its metal bears."""

import math
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, polyline

LEFT, RIGHT, TOP, FOOT = 96.0, 690.0, 110.0, 520.0


@lru_cache(maxsize=64)
def heat_figure(
    ambient_c: float,
    grips_c: float,
    gear_c: float,
    limit_c: float | None,
    loose_s: float | None,
    constant_s: float | None,
    title: str,
) -> Figure:
    """Draw the temperatures of a heat fit, and how the gear cools in still air, 742 by 630.

    Parameters
    ----------
    ambient_c, grips_c, gear_c, limit_c
        Shop, where the gear grips, how hot it must be, what it bears; C.
    loose_s, constant_s
        How long it stays loose and its time constant by the estimate, s; None where there is none.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "the gear cooling in still air; touching the shaft it is far quicker", "small", "start")
    top = 1.12 * max(gear_c, limit_c or 0.0)
    bottom = min(ambient_c, grips_c, 0.0)

    def y(c: float) -> float:
        return FOOT - (c - bottom) / (top - bottom) * (FOOT - TOP)

    if limit_c is not None:
        pen.rect(LEFT, y(limit_c), RIGHT - LEFT, FOOT - y(limit_c), "tolerance")
        pen.line((LEFT, y(limit_c)), (RIGHT, y(limit_c)), "card-curve")
        pen.text((RIGHT, y(limit_c) - 7), f"it bears {limit_c:.0f} °C", "small card", "end")
    for c, words in ((grips_c, f"grips at {grips_c:.0f} °C"), (ambient_c, f"shop {ambient_c:.0f} °C")):
        pen.line((LEFT, y(c)), (RIGHT, y(c)), "leader")
        pen.text((RIGHT, y(c) - 6), words, "small", "end")
    pen.line((LEFT, TOP), (LEFT, FOOT), "ink")
    step = 50 if top > 120 else 20
    for c in range(0, int(top) + 1, step):
        pen.line((LEFT - 6, y(c)), (LEFT, y(c)), "ink")
        pen.text((LEFT - 10, y(c) + 4), f"{c}", "scale", "end")
    pen.line((LEFT, FOOT), (RIGHT, FOOT), "ink")
    if loose_s and constant_s:
        span = 1.5 * loose_s
        across = (RIGHT - LEFT) / span
        curve: list[Point] = [
            (LEFT + t * across, y(ambient_c + (gear_c - ambient_c) * math.exp(-t / constant_s)))
            for t in (span * n / 60 for n in range(61))
        ]
        pen.path(polyline(curve), "supposed-curve")
        at = LEFT + loose_s * across
        pen.line((at, y(grips_c)), (at, FOOT), "card-line")
        pen.star((at, y(grips_c)), 10, "hollow")
        words = f"{loose_s / 60:.0f} min" if loose_s >= 120 else f"{loose_s:.0f} s"
        pen.text((at, FOOT + 20), f"loose about {words}", "gap")
        pen.text((LEFT, FOOT + 20), "0", "scale")
    pen.star((LEFT, y(gear_c)), 12, "hollow")
    pen.text((LEFT + 18, y(gear_c) - 10), f"{gear_c:.0f} °C to slip on", "gap", "start")
    return pen.figure(742, 630, f"{title}: {gear_c:.0f} degrees Celsius to slip on, grips at {grips_c:.0f}.", "heat")
