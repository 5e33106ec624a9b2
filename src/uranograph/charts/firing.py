"""The firing order round the cycle, companions joined."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, arc, polar, polyline
from uranograph.core.firing import Cylinder, companions, firing_angles


@lru_cache(maxsize=64)
def firing_figure(order: tuple[Cylinder, ...], title: str = "", firing_deg: tuple[float, ...] = ()) -> Figure:
    """Draw each cylinder as a star at its firing angle, 742 by 630; the first to fire at the top.

    Parameters
    ----------
    order
        Cylinder numbers in firing order; empty where it is not known yet.
    title
        Stands at the upper left.
    firing_deg
        Crank degrees at which they fire, where that is not even.
    """
    pen = Pen()
    center, rim = (371.0, 328.0), 214.0
    pen.circle(center, rim, "ink")
    pen.circle(center, rim + 16, "hair")
    pen.circle(center, 96, "fine")
    for crank in range(0, 720, 30):
        pen.line(polar(center, rim, crank / 2), polar(center, rim + (16 if crank % 180 == 0 else 8), crank / 2), "ink")
    for crank in (0, 180, 360, 540):
        x, y = polar(center, rim + 34, crank / 2)
        pen.text((x, y + 4), str(crank), "scale")
    angles = firing_angles(order, firing_deg) if order else {}
    for cylinder, other in companions(order, firing_deg).items() if order else ():
        if order.index(cylinder) < order.index(other):
            pen.line(polar(center, rim, angles[cylinder] / 2), polar(center, rim, angles[other] / 2), "constellation")
    for cylinder, angle in angles.items():
        pen.star(polar(center, rim, angle / 2), 13, "dark")
        x, y = polar(center, rim - 34, angle / 2)
        pen.text((x, y + 8), str(cylinder), "cylinder")
    pen.circle(center, 46, "sheet")
    pen.path(arc(center, 26, -80, 70), "ink arrow")
    tip = polar(center, 26, 76)
    pen.path(polyline([(tip[0] - 7, tip[1] - 5), tip, (tip[0] + 4, tip[1] - 9)]), "ink arrow")
    pen.text((center[0], center[1] + 10), "fires", "small")
    if title:
        pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), "crank degrees round one cam turn; a line joins two that rise together", "small", "start")
    phrase = "-".join(map(str, order)) or "not known yet"
    return pen.figure(742, 630, f"Firing order {phrase}.", "firing")
