"""A small figure for each term, in the hand of all figures: hollow is the card, solid is measured, a halo is uncertainty."""

import math
from collections.abc import Callable
from functools import cache

from uranograph.charts.pen import Figure, Pen, Point, arc, polar, polyline

WIDTH, HEIGHT = 150.0, 100.0
MIDDLE: Point = (75.0, 50.0)


def _cycle(pen: Pen, marks: dict[float, str], arcs: tuple[tuple[float, float, str], ...] = ()) -> None:
    """A whole cam turn as a circle, overlap TDC at its top; marks in crank degrees about it."""
    pen.circle(MIDDLE, 30, "ink-curve")
    for start, end, ink in arcs:
        pen.path(arc(MIDDLE, 30, start / 2, end / 2), ink)
    for deg, words in marks.items():
        x, y = polar(MIDDLE, 30, deg / 2)
        pen.star((x, y), 6, "solid")
        tx, ty = polar(MIDDLE, 42, deg / 2)
        anchor = "start" if tx > MIDDLE[0] + 8 else "end" if tx < MIDDLE[0] - 8 else "middle"
        pen.text((tx - (3 if anchor == "start" else -3 if anchor == "end" else 0), ty + 4), words, "scale", anchor)


def _crank(pen: Pen, deg: float, at: Point = (75, 66), radius: float = 18, ink: str = "ink") -> float:
    """Crank, rod and piston at an angle from TDC; returns the piston's height."""
    pin = polar(at, radius, deg)
    rod = 40.0
    top = pin[1] - math.sqrt(rod**2 - (pin[0] - at[0]) ** 2)
    pen.circle(at, radius, "hair")
    pen.line(at, pin, ink)
    pen.line(pin, (at[0], top), ink)
    pen.rect(at[0] - 13, top - 8, 26, 12, "hair")
    return top


def _lobe_lift(deg: float) -> float:
    """A lobe's lift, as a share of its greatest, about its middle."""
    return math.cos(math.radians(max(-90.0, min(90.0, deg * 0.75)))) ** 2


def _lobe(pen: Pen, lean: float = 0.0, ink: str = "measured-curve") -> Callable[[float], Point]:
    """A lift curve over crank degrees; returns where a point of it lies."""

    def at(deg: float) -> Point:
        return 75 + deg * 0.5, 80 - 58 * _lobe_lift(deg)

    pen.line((10, 80), (140, 80), "hair")
    pen.path(polyline([(x + lean * (80 - y) / 58, y) for x, y in (at(d) for d in range(-125, 126, 5))]), ink)
    return at


def _gears(pen: Pen, *radii: float) -> None:
    span = sum(2 * radius for radius in radii)
    x = MIDDLE[0] - span / 2
    for n, radius in enumerate(radii):
        pen.circle((x + radius, 50), radius, "gear")
        pen.circle((x + radius, 50), 2, "hair")
        pen.circle((x + radius * (2 - 0.22 if n == 0 else 0.22), 50), 2.2, "gear-mark")
        x += 2 * radius


def _rule(pen: Pen, value: float, doubt: float) -> None:
    """A figure with its halo on a rule with its tolerance."""
    pen.rect(45, 40, 60, 20, "tolerance")
    pen.line((12, 50), (138, 50), "ink")
    for x in (45, 105):
        pen.line((x, 38), (x, 62), "tick")
    pen.star((75, 50), 6, "hollow")
    pen.rect(75 + value - doubt, 45, 2 * doubt, 10, "halo")
    pen.star((75 + value, 50), 6, "solid")


def _gap(pen: Pen, words: str) -> None:
    """Two faces with a gap between them."""
    pen.rect(20, 30, 40, 40, "gear")
    pen.rect(84, 30, 46, 40, "gear")
    pen.line((60, 78), (84, 78), "measured-line")
    for x in (60, 84):
        pen.line((x, 72), (x, 84), "tick")
    pen.text((72, 96), words, "small")


def _tdc(pen: Pen) -> None:
    top = _crank(pen, 0)
    pen.line((40, top - 8), (110, top - 8), "measured-dash")


def _overlap_tdc(pen: Pen) -> None:
    _cycle(pen, {0: "overlap TDC"}, ((-20, 20, "gap-arc"),))


def _firing_tdc(pen: Pen) -> None:
    _cycle(pen, {360: "firing TDC"})


def _sides(pen: Pen) -> None:
    pen.circle(MIDDLE, 34, "hair")
    for words, deg in (("BTDC", -45), ("ATDC", 45), ("ABDC", 135), ("BBDC", 225)):
        x, y = polar(MIDDLE, 36, deg)
        right = x > MIDDLE[0]
        pen.text((x + (4 if right else -4), y + 4), words, "scale", "start" if right else "end")
    pen.line(polar(MIDDLE, 28, 0), polar(MIDDLE, 40, 0), "ink")
    pen.line(polar(MIDDLE, 28, 180), polar(MIDDLE, 40, 180), "ink")


def _companion(pen: Pen) -> None:
    for x in (48, 102):
        _crank(pen, 40, (x, 66), 15)


def _forward(pen: Pen) -> None:
    pen.circle(MIDDLE, 30, "hair")
    pen.path(arc(MIDDLE, 38, -60, 60), "ink-curve")
    x, y = polar(MIDDLE, 38, 60)
    pen.path(polyline([(x - 7, y - 6), (x, y), (x + 1, y - 9)]), "ink-curve")


def _checking_lift(pen: Pen) -> None:
    at = _lobe(pen)
    level = at(80)[1]
    pen.line((10, level), (140, level), "card-line")
    for deg in (-80, 80):
        pen.star(at(deg), 5, "solid")


def _events(pen: Pen) -> None:
    _cycle(pen, {-36: "IO", 232: "IC", -234: "EO", 36: "EC"})


def _duration(pen: Pen) -> None:
    _cycle(pen, {-12: "IO", 232: "IC"}, ((-12, 232, "measured-curve"),))


def _centerline(pen: Pen) -> None:
    _cycle(pen, {108: "ICL", -112: "ECL"})
    for deg in (108, -112):
        pen.line(MIDDLE, polar(MIDDLE, 30, deg / 2), "measured-dash")


def _separation(pen: Pen) -> None:
    _cycle(pen, {108: "", -112: ""}, ((-112, 108, "card-curve"),))
    pen.text((75, 56), "LSA", "scale")


def _overlap(pen: Pen) -> None:
    _cycle(pen, {-40: "IO", 40: "EC"}, ((-40, 40, "measured-curve"),))


def _advance(pen: Pen) -> None:
    _lobe(pen, 0.0, "card-curve")
    pen.path(polyline([(61 + d * 0.5, 80 - 58 * _lobe_lift(d)) for d in range(-100, 126, 5)]), "measured-curve")
    pen.text((36, 18), "earlier", "small")


def _degrees(pen: Pen) -> None:
    for x, radius, words in ((42, 20, "2 crank"), (100, 32, "1 cam")):
        pen.circle((x, 46), radius, "hair")
        pen.path(arc((x, 46), radius, 0, 70 if radius == 20 else 35), "measured-curve")
        pen.line((x, 46), (x, 46 - radius), "ink")
        pen.text((x, 96), words, "scale")


def _equal_lift(pen: Pen) -> None:
    at = _lobe(pen)
    level = at(45)[1]
    pen.line((10, level), (140, level), "card-line")
    pen.line((75, 16), (75, 86), "measured-dash")
    for deg in (-45, 45):
        pen.star(at(deg), 5, "solid")


def _peak(pen: Pen) -> None:
    at = _lobe(pen)
    pen.star(at(0), 6, "solid")
    pen.line((120, 80), (120, 22), "measured-line")


def _base_circle(pen: Pen) -> None:
    shape = [polar((75, 58), 22 + 20 * _lobe_lift(d) * (abs(d) < 115), d) for d in range(-180, 181, 5)]
    pen.path(polyline(shape) + "Z", "ink-curve")
    pen.path(arc((75, 58), 22, 115, 245), "measured-curve")


def _uneven(pen: Pen) -> None:
    _lobe(pen, 14, "measured-curve")
    pen.line((75, 16), (75, 86), "card-line")
    pen.star((89, 22), 5, "solid")


def _stop(pen: Pen) -> None:
    top = _crank(pen, 45)
    pen.rect(71, top - 22, 8, 14, "gear")
    pen.line(polar((75, 66), 18, -45), (75, 66), "measured-dash")


def _dwell(pen: Pen) -> None:
    pen.line((15, 30), (135, 30), "hair")
    pen.path(polyline([(75 + d, 30 + d * d / 70) for d in range(-55, 56, 5)]), "measured-curve")
    pen.rect(60, 26, 30, 8, "halo")


def _zero_error(pen: Pen) -> None:
    pen.circle(MIDDLE, 34, "hair")
    pen.line(MIDDLE, polar(MIDDLE, 34, 0), "card-line")
    pen.line(MIDDLE, polar(MIDDLE, 34, 12), "measured-line")
    pen.text((75, 10), "0", "scale")


def _slack(pen: Pen) -> None:
    pen.circle((40, 60), 14, "gear")
    pen.circle((108, 56), 26, "gear")
    pen.line((40, 46), (108, 30), "chain-line")
    pen.path("M40 74Q74 96 108 82", "chain-line")


def _lash(pen: Pen) -> None:
    pen.circle((75, 30), 18, "ink-curve")
    pen.rect(55, 56, 40, 8, "gear")
    pen.line((75, 64), (75, 92), "ink")
    pen.line((104, 48), (104, 56), "measured-line")


def _backlash(pen: Pen) -> None:
    for x in (40, 92):
        pen.path(f"M{x - 16} 84L{x - 8} 30L{x + 8} 30L{x + 16} 84", "ink-curve")
    pen.path("M56 16L62 70L70 70L76 16", "measured-curve")
    pen.line((76, 46), (88, 46), "measured-line")


def _tir(pen: Pen) -> None:
    pen.circle((78, 52), 30, "measured-curve")
    pen.circle(MIDDLE, 30, "card-curve")
    pen.circle(MIDDLE, 2, "hair")
    pen.line((75, 4), (75, 20), "ink")


def _out_of_round(pen: Pen) -> None:
    pen.circle(MIDDLE, 30, "card-curve")
    pen.path("M75 16a40 34 0 1 0 .1 0Z", "measured-curve")


def _idler(pen: Pen) -> None:
    _gears(pen, 14, 20, 28)


def _tooth_off(pen: Pen) -> None:
    for n in range(5):
        pen.path(f"M{20 + 24 * n} 70l6 -26h8l6 26", "ink-curve")
    pen.circle((54, 40), 3, "gear-mark")
    pen.circle((78, 84), 3, "gear-mark")
    pen.line((54, 92), (78, 92), "measured-line")


def _keyway(pen: Pen) -> None:
    pen.circle(MIDDLE, 32, "gear")
    pen.rect(69, 12, 12, 14, "key-slot")


def _vernier(pen: Pen) -> None:
    for radius, holes in ((36, 16), (24, 15)):
        for n in range(holes):
            pen.circle(polar(MIDDLE, radius, 360 * n / holes), 2, "hair")
    pen.circle(polar(MIDDLE, 30, 0), 5, "measured-curve")


def _interference(pen: Pen) -> None:
    pen.circle(MIDDLE, 40, "hair")
    pen.circle(MIDDLE, 24, "card-curve")
    pen.circle(MIDDLE, 26, "measured-curve")


def _room(pen: Pen) -> None:
    pen.rect(40, 66, 70, 26, "gear")
    pen.line((75, 8), (75, 40), "ink")
    pen.path("M58 44L75 36L92 44Z", "ink-curve")
    pen.line((100, 44), (100, 66), "measured-line")


def _coil_bind(pen: Pen) -> None:
    for n in range(6):
        pen.line((55, 20 + 11 * n), (95, 24 + 11 * n), "ink")
    pen.line((108, 24), (108, 40), "measured-line")


def _compression(pen: Pen) -> None:
    top = _crank(pen, 125)
    pen.line((48, top - 8), (102, top - 8), "measured-dash")
    pen.line((48, 12), (102, 12), "hair")


def _target(pen: Pen) -> None:
    _rule(pen, 0, 4)
    pen.text((75, 82), "where it is wanted", "scale")


_DRAWN: dict[str, tuple[Callable[[Pen], None], str]] = {
    "tdc": (_tdc, "A crank with its piston at the highest place."),
    "overlap-tdc": (_overlap_tdc, "The circle of a cam turn with overlap TDC at its top."),
    "firing-tdc": (
        _firing_tdc,
        "The circle of a cam turn with firing TDC at its bottom, a crank turn from overlap TDC.",
    ),
    "sides": (
        _sides,
        "The four quarters of a wheel: BTDC and ATDC either side of the top, BBDC and ABDC of the bottom.",
    ),
    "companion": (_companion, "Two pistons at the same height."),
    "forward": (_forward, "A wheel with an arrow in the running direction."),
    "checking-lift": (_checking_lift, "A lift curve crossed low down by a level line at two places."),
    "events": (_events, "The four events round the circle of a cam turn."),
    "duration": (_duration, "The part of the circle from IO to IC."),
    "centerline": (_centerline, "The middles of both lobes, either side of overlap TDC."),
    "lsa": (_separation, "The part of the circle between both centerlines."),
    "overlap": (_overlap, "The part of the circle round overlap TDC from IO to EC."),
    "advance": (_advance, "A measured lift curve earlier than that of the card."),
    "degrees": (_degrees, "A small crank wheel turned by 70 degrees and a larger cam wheel by 35."),
    "equal-lift": (_equal_lift, "A lift curve with two places at the same height and their middle."),
    "peak": (_peak, "A lift curve with its highest place."),
    "base-circle": (_base_circle, "A cam lobe with its round part marked."),
    "uneven": (_uneven, "A lift curve whose peak lies beside its middle."),
    "stop": (_stop, "A piston against a stop, and the crank on the other side of TDC."),
    "dwell": (_dwell, "The height of a piston near TDC: level over a stretch."),
    "zero-error": (_zero_error, "A wheel whose zero lies beside true TDC."),
    "slack": (_slack, "A chain drive with one slack side."),
    "lash": (_lash, "A cam above a lifter with room between them."),
    "backlash": (_backlash, "A tooth between two others with room on one side."),
    "tir": (_tir, "A shaft off its center under a dial."),
    "out-of-round": (_out_of_round, "An oval beside a circle."),
    "end-play": (lambda pen: _gap(pen, "along the axis"), "A shaft's face and a plate with a gap between them."),
    "thrust": (lambda pen: _gap(pen, "thrust faces"), "Two faces that meet along a shaft's axis."),
    "idler": (_idler, "Three gears in a row."),
    "tooth-off": (_tooth_off, "Teeth with two marks a tooth apart."),
    "keyway": (_keyway, "A gear with the slot of its key."),
    "vernier": (_vernier, "Two rings of holes of different counts and one pin."),
    "interference": (_interference, "A shaft a little larger than the bore of its gear."),
    "room": (_room, "A valve above a piston with the distance between them."),
    "coil-bind": (_coil_bind, "A spring with what is left between its coils."),
    "compression": (_compression, "A piston where the intake closes, and the head above it."),
    "target": (_target, "A rule with a hollow star where the cam is wanted."),
    "uncertainty": (lambda pen: _rule(pen, 14, 12), "A measured star with its halo, within the tolerance."),
    "tolerance": (lambda pen: _rule(pen, 8, 6), "A rule with the band that is still good."),
    "cannot-tell": (lambda pen: _rule(pen, 28, 14), "A halo that lies across the end of the tolerance."),
    "proved": (lambda pen: _rule(pen, 4, 4), "A small halo well within the tolerance."),
}


@cache
def term_figure(key: str) -> Figure:
    """The figure of a term, 150 by 100.

    Raises
    ------
    KeyError
        Where there is no such term.
    """
    draw, words = _DRAWN[key]
    pen = Pen()
    draw(pen)
    return pen.figure(WIDTH, HEIGHT, words, "term-figure")
