"""One deviation as two arcs: so much at the crank is half as much at the cam."""

from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, arc, polar
from uranograph.core.quantities import format_angle

WIDTH, HEIGHT, RADIUS, MIDDLE = 742.0, 360.0, 104.0, 190.0
CENTERS = {"crank": (220.0, MIDDLE), "cam": (522.0, MIDDLE)}


@lru_cache(maxsize=64)
def two_arcs(crank_deg: float, title: str) -> Figure:
    """Draw a deviation at crank and cam, 742 by 360.

    Parameters
    ----------
    crank_deg
        The deviation, crank degrees; late is positive and drawn clockwise.
    title
        What is drawn above it.

    Returns
    -------
    Figure
        Two circles, each with its arc from straight up.
    """
    pen = Pen()
    pen.text((22, 42), title, "title", "start")
    for name, share in (("crank", 1.0), ("cam", 0.5)):
        center, deg = CENTERS[name], crank_deg * share
        start, end = sorted((0.0, max(-170.0, min(170.0, deg))))
        pen.circle(center, RADIUS, "ink")
        pen.line(center, polar(center, RADIUS + 14, 0), "card-line")
        pen.line(center, polar(center, RADIUS + 14, max(-170.0, min(170.0, deg))), "measured-line")
        pen.path(arc(center, RADIUS * 0.72, start, end), "gap-arc")
        pen.text(
            (center[0], center[1] + RADIUS + 34), f"{format_angle(abs(deg), 2 if name == 'cam' else 1)}° {name}", "gap"
        )
    pen.text(((CENTERS["crank"][0] + CENTERS["cam"][0]) / 2, MIDDLE + 6), "=", "ring-count")
    side = "late" if crank_deg > 0 else "early"
    words = (
        f"{format_angle(abs(crank_deg))} crank degrees {side} are {format_angle(abs(crank_deg) / 2, 2)} cam degrees."
    )
    return pen.figure(WIDTH, HEIGHT, words, "two-arcs")
