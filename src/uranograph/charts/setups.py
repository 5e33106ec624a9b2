"""How an instrument is set up at the engine: line drawings for the booklet."""

import math
from collections.abc import Callable
from functools import cache

from uranograph.charts.pen import Figure, Pen, Point, arc, polar, polyline

WIDTH, HEIGHT = 340.0, 224.0
# The piston's stroke and rod in the drawings, px.
THROW, ROD = 26.0, 72.0


def _dial(pen: Pen, at: Point, tip: Point, needle_deg: float = 30.0) -> None:
    """A dial indicator whose plunger ends at a point; its face is at the other end."""
    length = math.dist(at, tip)
    along = ((tip[0] - at[0]) / length, (tip[1] - at[1]) / length)
    pen.circle(at, 24, "ink")
    pen.circle(at, 20, "hair")
    for k in range(12):
        pen.line(polar(at, 17, 30 * k), polar(at, 20, 30 * k), "tick")
    pen.line(at, polar(at, 15, needle_deg), "ink-curve")
    pen.circle(at, 2, "ink")
    neck = (at[0] + 24 * along[0], at[1] + 24 * along[1])
    barrel = (at[0] + 44 * along[0], at[1] + 44 * along[1])
    aside = (-along[1] * 4, along[0] * 4)
    for sign in (-1, 1):
        pen.line(
            (neck[0] + sign * aside[0], neck[1] + sign * aside[1]),
            (barrel[0] + sign * aside[0], barrel[1] + sign * aside[1]),
            "ink",
        )
    pen.line(barrel, tip, "ink-curve")
    pen.circle(tip, 2.4, "ink")


def _wheel(pen: Pen, at: Point, radius: float, turned_deg: float = 0.0) -> None:
    pen.circle(at, radius, "ink")
    for k in range(72):
        deep = 9 if k % 6 == 0 else 5
        pen.line(polar(at, radius - deep, 5 * k + turned_deg), polar(at, radius, 5 * k + turned_deg), "tick")
    pen.path("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in (polar(at, 11, 60 * k) for k in range(6))) + "Z", "ink")


def _cylinder(pen: Pen, x: float, crank: Point, deg: float, top: float = 40.0) -> float:
    """Bore, piston, rod and crank; returns the height of the piston's crown."""
    pin = polar(crank, THROW, deg)
    gudgeon = pin[1] - math.sqrt(ROD**2 - (pin[0] - x) ** 2)
    crown = gudgeon - 14
    for side in (-30, 30):
        pen.line((x + side, top), (x + side, 150), "ink")
    pen.rect(x - 28, crown, 56, 30, "hair")
    pen.line((x - 28, crown + 6), (x + 28, crown + 6), "hair")
    pen.line((x - 28, crown + 11), (x + 28, crown + 11), "hair")
    pen.circle((x, gudgeon), 4, "ink")
    pen.line((x, gudgeon), pin, "ink-curve")
    pen.circle(crank, THROW, "hair")
    pen.line(crank, pin, "ink")
    pen.circle(crank, 6, "ink")
    return crown


def _lobe(pen: Pen, at: Point, base: float, lift: float, turned_deg: float) -> None:
    points = []
    for k in range(0, 361, 5):
        about = math.radians(k)
        raised = max(0.0, math.cos(about)) ** 3 * lift
        points.append(polar(at, base + raised, k + turned_deg))
    pen.path(polyline(points), "ink-curve")
    pen.circle(at, 3, "ink")


def _piston_stop(pen: Pen) -> None:
    crown = _cylinder(pen, 90, (90, 166), 32)
    pen.line((60, 40), (120, 40), "ink")
    pen.rect(82, 22, 16, 18, "ink-shape")
    pen.line((86, 40), (86, crown), "ink-curve")
    pen.line((94, 40), (94, crown), "ink-curve")
    pen.line((86, crown), (94, crown), "ink-curve")
    pen.text((104, 30), "stop in the plug hole", "small", "start")
    _wheel(pen, (240, 122), 62, 32)
    pen.path("M300 46Q262 40 246 58", "ink-curve")
    pen.path("M240 63L243 52L249 57Z", "pointer")
    pen.text((306, 36), "pointer", "small", "end")
    pen.text((240, 203), "wheel on the crank nose", "small")


def _dial_on_piston(pen: Pen) -> None:
    crown = _cylinder(pen, 110, (110, 192), 30, 60)
    _dial(pen, (110, 27), (110, crown), 60)
    pen.path("M134 27H196V60", "hair")
    for start, end in ((40, 80), (140, 212)):
        pen.line((start, 60), (end, 60), "ink")
    pen.lines((224, 84), "dial square to the crown, over its middle: as much drop on each side of TDC", "small", 16)


def _dial_on_lifter(pen: Pen) -> None:
    _lobe(pen, (96, 160), 26, 22, 0)
    pen.rect(80, 78, 32, 34, "ink-shape")
    pen.line((72, 96), (72, 132), "hair")
    pen.line((120, 96), (120, 132), "hair")
    _dial(pen, (96, 26), (96, 78), 200)
    pen.line((96, 118), (96, 204), "card-line")
    pen.lines((150, 40), "plunger in line with the lifter's travel: askew, it reads wrong by the angle", "small", 24)
    pen.lines((150, 120), "base on iron, arm short; back to the same zero on the base circle", "small", 24)


def _level_on_key(pen: Pen) -> None:
    at: Point = (100, 120)
    pen.circle(at, 52, "gear")
    pen.circle(at, 24, "ink")
    pen.rect(94, 88, 12, 16, "ink-shape")
    pen.rect(92, 40, 16, 52, "hair")
    pen.rect(56, 26, 88, 14, "ink-shape")
    pen.circle((100, 33), 4, "ink")
    pen.line((100, 14), (100, 180), "card-line")
    pen.lines((172, 50), "a level on a flag that the key holds: the key decides, whatever the dot says", "small", 22)
    pen.lines((172, 130), "one tooth is many degrees: a level good to one is plenty", "small", 22)


def _dial_on_tooth(pen: Pen) -> None:
    crank, cam = (78.0, 130.0), (176.0, 130.0)
    pen.circle(crank, 32, "gear")
    pen.circle(cam, 64, "gear")
    pen.text((crank[0], crank[1] + 5), "locked", "small")
    tip = polar(cam, 64, 40)
    square = (tip[0] + 74 * math.cos(math.radians(40)), tip[1] + 74 * math.sin(math.radians(40)))
    _dial(pen, (square[0] + 0, square[1] - 0), tip, 300)
    pen.line(cam, tip, "card-line")
    pen.path(arc(cam, 42, -25, 25), "ink")
    pen.text((176, 28), "square to the tooth, at the pitch line", "small")
    pen.text((176, 136), "rocked", "small")


def _dial_on_shaft_end(pen: Pen) -> None:
    pen.rect(40, 96, 150, 36, "ink-shape")
    pen.rect(110, 84, 10, 60, "ink-shape")
    for x in (102, 122):
        pen.rect(x, 74, 6, 80, "hair")
    _dial(pen, (286, 114), (191, 114), 120)
    pen.path("M70 158h70m-8 -5l8 5l-8 5m-54 -10l-8 5l8 5", "ink")
    pen.text((105, 182), "fully back, zero, fully forward", "small")
    pen.text((115, 62), "limiting parts on", "small")


def _dial_on_seat(pen: Pen) -> None:
    pen.line((30, 122), (250, 122), "card-line")
    pen.rect(40, 100, 120, 44, "ink-shape")
    pen.rect(160, 108, 70, 28, "ink-shape")
    _dial(pen, (195, 38), (195, 108), 330)
    for x in (60, 140):
        pen.path(f"M{x - 14} 178L{x} 146L{x + 14} 178Z", "hair")
    pen.lines((244, 60), "dial on the gear's seat; both journals carried", "small", 14)


def _valve_pushed(pen: Pen) -> None:
    pen.rect(60, 158, 110, 40, "ink-shape")
    for start, end in ((50, 110), (120, 180)):
        pen.line((start, 106), (end, 106), "ink")
    pen.line((115, 84), (115, 142), "ink-curve")
    pen.path("M96 142h38l-10 -9h-18Z", "ink")
    pen.rect(101, 82, 28, 6, "ink-shape")
    pen.path("M106 88l18 4l-18 4l18 4l-18 4", "hair")
    _dial(pen, (115, 27), (115, 82), 80)
    for y in (142, 158):
        pen.line((140, y), (160, y), "tick")
    pen.text((166, 155), "gap", "small", "start")
    pen.lines((208, 60), "light spring; dial in line with the valve; push until it touches the piston", "small", 17)


_DRAWN: dict[str, tuple[Callable[[Pen], None], str]] = {
    "piston-stop": (
        _piston_stop,
        "A piston stop in the plug hole, the degree wheel on the crank nose, its pointer at the rim.",
    ),
    "dial-on-piston": (_dial_on_piston, "A dial indicator over the middle of the piston's crown."),
    "dial-on-lifter": (_dial_on_lifter, "A dial indicator in line with the travel of a lifter on its lobe."),
    "level-on-key": (_level_on_key, "A level on a flag held in the keyway of a gear."),
    "dial-on-tooth": (
        _dial_on_tooth,
        "The crank gear locked, a dial square to a tooth of the cam gear at the pitch line.",
    ),
    "dial-on-shaft-end": (_dial_on_shaft_end, "A dial against the end of a shaft that is pushed back and forward."),
    "dial-on-seat": (_dial_on_seat, "A dial on the gear's seat of a shaft that turns in two journals."),
    "valve-pushed": (_valve_pushed, "A dial on the retainer of a valve that is pushed down to the piston."),
}
NAMES = tuple(_DRAWN)


@cache
def setup_figure(name: str) -> Figure:
    """A set-up as a line drawing, 340 by 224.

    Parameters
    ----------
    name
        One of `NAMES`.

    Returns
    -------
    Figure
        The drawing, not to scale.
    """
    draw, words = _DRAWN[name]
    pen = Pen()
    draw(pen)
    return pen.figure(WIDTH, HEIGHT, words, "set-up")
