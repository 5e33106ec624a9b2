"""A helical gear sliding into mesh: how far to one side it starts so that it ends on the mark."""

import math
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen
from uranograph.core.quantities import format_angle

SIDE = 46.0


@lru_cache(maxsize=64)
def helix_figure(
    gear: str, teeth: int, helix_deg: float, turn_deg: float, turn_teeth: float, travel: str, title: str
) -> Figure:
    """Draw the gear's rim unrolled, at the start, half way, and home, 742 by 630.

    Parameters
    ----------
    gear, teeth
        Its name and teeth.
    helix_deg
        Helix angle, signed by hand.
    turn_deg, turn_teeth
        How far it turns while it slides in, in degrees and in teeth.
    travel
        How far it slides, as it is written.
    title
        Stands at the upper left.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    words = f"the rim of “{gear}” unrolled, sliding in from below; the other gear's mark is the star"
    pen.lines((22, 64), words, "small", 60)
    lean = math.tan(math.radians(max(-70.0, min(70.0, helix_deg))))
    for n, (share, words) in enumerate(((0.0, "start here"), (0.5, "half way"), (1.0, "home, on the mark"))):
        left, width, top, bottom = 40.0 + n * 232, 196.0, 150.0, 470.0
        middle = left + width / 2
        slid = (1 - share) * 150
        rim_top, rim_height = 220 + slid, 120.0
        box = f"{left:g} {top:g} {width:g} {bottom - top:g}"
        pen.begin(
            f'x="{left:g}" y="{top:g}" width="{width:g}" height="{bottom - top:g}" viewBox="{box}"',
            "svg",
        )
        off = -(1 - share) * turn_teeth * SIDE
        pen.rect(left, rim_top, width, rim_height, "gear-edge")
        count = int(width / SIDE) + 8
        for k in range(-count, count + 1):
            x = middle + off + k * SIDE
            rise = rim_height * lean
            pen.line((x - rise / 2, rim_top + rim_height), (x + rise / 2, rim_top), "ink" if k else "measured-curve")
        pen.circle((middle + off, rim_top + rim_height / 2), 6, "gear-mark")
        pen.end("svg")
        pen.line((middle, top - 8), (middle, 220), "card-line")
        pen.star((middle, top - 14), 9, "hollow")
        pen.rect(left, top, width, bottom - top, "hair")
        pen.text((middle, bottom + 26), words, "subtitle")
    pen.line((40, 196), (700, 196), "tick")
    words = f"It slides {travel} and turns {format_angle(abs(turn_deg), 3)} deg on its way"
    pen.lines((40, 540), f"{words}, {format_angle(abs(turn_teeth), 2)} of its {teeth} teeth.", "soft", 58, apart=22)
    return pen.figure(
        742, 630, f"{title}: “{gear}” turns {format_angle(turn_deg, 3)} degrees while it slides in.", "helix"
    )
