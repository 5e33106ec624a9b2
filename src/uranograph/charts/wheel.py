"""The wheel as it is mounted, with pointer, contacts and the top between them; the piston's dwell beside it."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, arc, band, polar, polyline
from uranograph.core.errors import Missing
from uranograph.core.piston import Crank, PistonAt, dwell_half_angle, piston
from uranograph.core.quantities import format_angle
from uranograph.core.wheel import SCALE_NAMES, End, Scale, Turn, Wheel, as_read

_DRAWN_CRANK = Crank(stroke_mm=90, rod_mm=158)
# Radius of the arc between two contacts; nothing measured is drawn within.
SPAN = 108.0


@dataclass(frozen=True)
class Contacts:
    """Readings of the top, crank degrees from the wheel's TDC mark, signed; oldest pair first."""

    pairs: tuple[tuple[float, float], ...] = ()
    lone: float | None = None
    zero_error_deg: float | None = None
    uncertainty_deg: float = 0.0


@lru_cache(maxsize=64)
def wheel_face(wheel: Wheel, title: str = "") -> Figure:
    """Draw the wheel with its TDC mark under the pointer, 742 by 630."""
    pen = Pen()
    center = (371.0, 328.0)
    _face(pen, center, 232, wheel, 0.0)
    _turning(pen, center, 74, wheel)
    end = "front" if wheel.mount is End.FRONT else "flywheel end"
    pen.text((center[0], center[1] + 28), "forward", "small")
    pen.text((center[0], center[1] + 108), f"as you face the {end}", "small")
    _pointer(pen, center, 232)
    if title:
        pen.text((22, 42), title, "title", "start")
    pen.text((22, 64), SCALE_NAMES[wheel.scale], "small", "start")
    faced = wheel.faced_rotation().value
    return pen.figure(742, 630, f"Wheel {SCALE_NAMES[wheel.scale]}, forward is {faced} as faced.", "wheel")


@lru_cache(maxsize=256)
def top_figure(wheel: Wheel, contacts: Contacts, crank: Crank | None, dial_mm: float, title: str = "") -> Figure:
    """Draw wheel, contacts and true top, and the dwell that hides the top, 742 by 630.

    Parameters
    ----------
    wheel
        As mounted. It is drawn standing at the true top: the contacts lie even on both sides of the pointer.
    contacts
        What was read, and what follows.
    crank
        For the dwell; a common one is drawn, without figures, where it is not known.
    dial_mm
        What the indicator shows at the least, mm.
    title
        Stands at the upper left.
    """
    pen = Pen()
    center, rim = (262.0, 330.0), 196.0
    zero = contacts.zero_error_deg or 0.0
    _face(pen, center, rim, wheel, zero)
    _turning(pen, center, 52, wheel)
    pen.text((center[0], center[1] + 24), "forward", "small")
    _contacts(pen, center, rim, wheel, contacts)
    _pointer(pen, center, rim)
    if contacts.zero_error_deg is not None:
        _zero_vernier(pen, center, wheel, contacts)
    _dwell(pen, crank, dial_mm, contacts)
    if title:
        pen.text((22, 42), title, "title", "start")
    return pen.figure(742, 630, _top_words(contacts), "wheel")


def _theta(wheel: Wheel, crank_deg: float) -> float:
    """Where a mark stands, clockwise from the pointer, with the wheel's TDC mark under it.

    Marks that are still to come lie against the running direction.
    """
    return -crank_deg if wheel.faced_rotation() is Turn.CLOCKWISE else crank_deg


def _face(pen: Pen, center: Point, rim: float, wheel: Wheel, under_pointer_deg: float) -> None:
    pen.strokes += _face_strokes(center, rim, wheel, under_pointer_deg)


@lru_cache(maxsize=256)
def _face_strokes(center: Point, rim: float, wheel: Wheel, under_pointer_deg: float) -> tuple[str, ...]:
    pen = Pen()
    pen.circle(center, rim, "ink")
    pen.circle(center, rim - 34, "hair")
    pen.circle(center, 5, "ink")
    for mark in range(-178, 181, 2):
        theta = _theta(wheel, mark - under_pointer_deg)
        size, ink = (16, "ink") if mark % 30 == 0 else (10, "ink") if mark % 10 == 0 else (5, "tick")
        pen.line(polar(center, rim, theta), polar(center, rim - size, theta), ink)
    for mark in range(-150, 181, 30):
        value, _ = as_read(wheel, mark)
        theta = _theta(wheel, mark - under_pointer_deg)
        x, y = polar(center, rim - 24, theta)
        pen.text((x, y + 4), f"{value:g}", "scale")
    for dead_center, words in ((0.0, "TDC"), (180.0, "BDC")):
        x, y = polar(center, rim - 46, _theta(wheel, dead_center - under_pointer_deg))
        pen.text((x, y + 4), words, "dead-center")
    if wheel.scale is not Scale.FULL:
        for quarter, words in ((-90.0, "before"), (90.0, "after")):
            x, y = polar(center, rim - 44, _theta(wheel, quarter - under_pointer_deg))
            level = abs(x - center[0]) > abs(y - center[1])
            pen.text((x, y + 4), words, "phase", "middle" if not level else "end" if x > center[0] else "start")
    return tuple(pen.strokes)


def _turning(pen: Pen, center: Point, radius: float, wheel: Wheel) -> None:
    clockwise = wheel.faced_rotation() is Turn.CLOCKWISE
    pen.path(arc(center, radius, -55, 55), "ink arrow")
    theta = 55.0 if clockwise else -55.0
    x, y = polar(center, radius, theta)
    lean = 1 if clockwise else -1
    pen.path(polyline([(x - 9 * lean, y - 3), (x, y), (x - 1 * lean, y - 10)]), "ink arrow")


def _pointer(pen: Pen, center: Point, rim: float) -> None:
    x, y = center[0], center[1] - rim
    pen.path(f"M{x:.1f} {y:.1f}L{x - 8:.1f} {y - 24:.1f}L{x + 8:.1f} {y - 24:.1f}Z", "pointer")
    pen.text((x, y - 32), "pointer", "small")


def _contacts(pen: Pen, center: Point, rim: float, wheel: Wheel, contacts: Contacts) -> None:
    zero = contacts.zero_error_deg or 0.0
    for before, after in contacts.pairs:
        for angle in (before, after):
            theta = _theta(wheel, angle - zero)
            pen.line(polar(center, SPAN, theta), polar(center, rim, theta), "measured-line")
            pen.star(polar(center, rim, theta), 10, "solid")
        start, end = sorted((_theta(wheel, before - zero), _theta(wheel, after - zero)))
        pen.path(arc(center, SPAN, start, end), "gap-arc")
    if contacts.pairs:
        before, after = contacts.pairs[-1]
        for angle, name in ((before, "before"), (after, "after")):
            x, y = polar(center, rim + 24, _theta(wheel, angle - zero))
            value, side = as_read(wheel, angle)
            words = f"{format_angle(value, 2)} {side.value.upper() if side else name}"
            pen.text((x, y), words, "event measured", "start" if x > center[0] else "end")
        pen.line(polar(center, SPAN, 0), polar(center, rim - 52, 0), "measured-line")
        half = (after - before) / 2
        # Below the arc, where no line runs.
        pen.text((center[0], center[1] - SPAN + 33), f"{format_angle(half, 2)} each side", "small")
    if contacts.lone is not None:
        theta = _theta(wheel, contacts.lone - zero)
        pen.line(polar(center, SPAN, theta), polar(center, rim, theta), "measured-line")
        pen.star(polar(center, rim, theta), 10, "solid")


def _zero_vernier(pen: Pen, center: Point, wheel: Wheel, contacts: Contacts) -> None:
    """The few degrees round the pointer, magnified in the lower half: wheel's TDC hollow, true top solid."""
    if contacts.zero_error_deg is None:
        raise Missing("contacts.zero_error_deg")
    zero = contacts.zero_error_deg
    reach = next((r for r in (2.0, 5.0, 10.0, 20.0, 45.0, 90.0) if abs(zero) + contacts.uncertainty_deg <= r), 180.0)
    radius, half = 122.0, 40.0
    middle = (center[0], center[1] - 8)

    def at(crank_deg: float) -> float:
        # Below the hub left and right are the other way about, so a turn by 180 keeps the pointer's sense.
        return 180 - _theta(wheel, crank_deg) / reach * half

    pen.path(arc(middle, radius, 180 - half - 3, 180 + half + 3), "ink")
    for k in range(-5, 6):
        theta = 180 + k * half / 5
        pen.line(polar(middle, radius, theta), polar(middle, radius - (8 if k in (-5, 0, 5) else 4), theta), "ink")
    low, high = sorted((at(contacts.uncertainty_deg), at(-contacts.uncertainty_deg)))
    pen.path(band(middle, radius - 18, radius - 3, max(low, 180 - half), min(high, 180 + half)), "halo")
    pen.star(polar(middle, radius - 11, 180), 9, "solid")
    pen.star(polar(middle, radius - 11, at(-zero)), 9, "hollow")
    x, y = polar(middle, radius - 40, 180)
    side = "before" if zero < 0 else "after"
    pen.text((x, y), f"{format_angle(abs(zero), 2)} {side} at TDC", "gap")
    pen.text((x, y - 18), f"near the pointer ×{half / reach:.0f}", "small")


def _dwell(pen: Pen, crank: Crank | None, dial_mm: float, contacts: Contacts) -> None:
    drawn = crank or _DRAWN_CRANK
    left, right, top, bottom = 508.0, 722.0, 372.0, 540.0
    middle = (left + right) / 2
    half = (contacts.pairs[-1][1] - contacts.pairs[-1][0]) / 2 if contacts.pairs else None
    span = 60.0 if half is None else max(30.0, min(150.0, half * 1.35))
    drops = _drops(drawn, span)
    deepest = max(drops)

    def place(angle_deg: float, drop_mm: float) -> Point:
        return middle + (right - left) / 2 * angle_deg / span, top + (bottom - top) * drop_mm / deepest

    dwell = dwell_half_angle(drawn, dial_mm)
    x1, x2 = place(-dwell, 0)[0], place(dwell, 0)[0]
    pen.rect(x1, top - 14, max(x2 - x1, 3), bottom - top + 14, "halo")
    pen.line((left, top), (right, top), "fine")
    pen.line((middle, top - 14), (middle, bottom), "hair")
    pen.path(polyline([place(span * k / 30, drop) for k, drop in zip(range(-30, 31), drops, strict=True)]), "ink")
    pen.text((left, top - 42), "Why not at the top", "subtitle", "start")
    pen.text((left, top - 22), "piston against crank", "small", "start")
    if half is not None and half < span:
        drop = piston(_at(drawn, half)).drop_mm
        for angle in (-half, half):
            point = place(angle, drop)
            pen.line((point[0], top), point, "measured-line")
            pen.star(point, 8, "solid")
        pen.line(place(-half, drop), place(half, drop), "measured-line")
    if crank is None:
        words = "The piston hardly moves near the top, but fast at the contacts."
    else:
        words = f"Within ±{format_angle(dwell)} deg the dial shows nothing; at the contacts it moves fast."
    pen.lines((left, bottom + 22), words, "small", 20)


@lru_cache(maxsize=256)
def _drops(crank: Crank, span_deg: float) -> list[float]:
    return [piston(_at(crank, span_deg * k / 30)).drop_mm for k in range(-30, 31)]


def _at(crank: Crank, angle_deg: float) -> PistonAt:
    return PistonAt(stroke_mm=crank.stroke_mm, rod_mm=crank.rod_mm, angle_deg=angle_deg)


def _top_words(contacts: Contacts) -> str:
    if contacts.zero_error_deg is None:
        return "The wheel; TDC is not found yet."
    side = "before" if contacts.zero_error_deg < 0 else "after"
    return f"The wheel shows {format_angle(abs(contacts.zero_error_deg), 2)} {side} at true TDC."
