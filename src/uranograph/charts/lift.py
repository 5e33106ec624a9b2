"""Lift curves: every reading of a sweep in its place, the card's lobe behind it, and events at any lift."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache

from uranograph.charts.pen import Figure, Pen, Point, polyline
from uranograph.core.lobe import CosineLobe, profile
from uranograph.core.quantities import format_angle

LEFT, RIGHT, TOP, BOTTOM = 64.0, 520.0, 118.0, 560.0
DOTS_UP_TO = 400
_Place = Callable[[float, float], Point]


@dataclass(frozen=True)
class Curve:
    """One lobe: the card's stand-in, the points read (crank degrees about overlap TDC, mm), those off the curve."""

    name: str
    card: CosineLobe | None
    points: tuple[tuple[float, float], ...] = ()
    suspects: tuple[int, ...] = ()
    crossings: tuple[float, float] | None = None
    durations: tuple[tuple[float, float], ...] = ()


@dataclass(frozen=True)
class Scale:
    """What the figure reaches: angles about overlap TDC, degrees, and the lift at its top, mm."""

    low: float
    high: float
    full: float

    def place(self, angle: float, lift: float) -> Point:
        """Where a lift at an angle stands in the figure."""
        x = LEFT + (RIGHT - LEFT) * (angle - self.low) / (self.high - self.low)
        return x, BOTTOM - (BOTTOM - TOP) * lift / self.full

    @property
    def corners(self) -> tuple[float, float, float, float]:
        """The left, right, top and bottom of what it reaches, in the figure's units."""
        return LEFT, RIGHT, TOP, BOTTOM


# What is reached where neither card nor reading says how far a lobe lifts, mm.
UNKNOWN_MM = 12.0


def scale_of(curves: tuple[Curve, ...]) -> Scale:
    """The scale in which some lobes are drawn."""
    tops = [lobe.max_lift_mm for lobe in (curve.card for curve in curves) if lobe]
    tops += [lift for curve in curves for _, lift in curve.points]
    low, high = _reach(curves)
    return Scale(low, high, max([*tops, 1.0]) * 1.08 if tops else UNKNOWN_MM)


@lru_cache(maxsize=128)
def lift_figure(
    curves: tuple[Curve, ...], lift_mm: float, lift_words: str, unit_mm: float, unit: str, title: str
) -> Figure:
    """Draw lift against crank angle, and duration against lift beside it, 742 by 630.

    Parameters
    ----------
    curves
        Intake and exhaust, in any order.
    lift_mm, lift_words
        Where the lift line stands, and how it is written.
    unit_mm, unit
        One unit of the lift scale in mm, and its name.
    title
        Stands at the upper left.
    """
    pen = Pen()
    scale = scale_of(curves)
    low, high, full, place = scale.low, scale.high, scale.full, scale.place
    _scales(pen, place, low, high, full, unit_mm, unit)
    for curve in curves:
        _curve(pen, place, curve)
    _lift_line(pen, place, curves, low, high, lift_mm, lift_words)
    _durations(pen, curves, full, lift_mm)
    pen.text((22, 42), title, "title", "start")
    pen.star((29, 64), 7, "hollow")
    pen.text((42, 68), "spec card, nominal flanks", "small", "start")
    pen.star((29, 84), 7, "solid")
    pen.text((42, 88), "measured", "small", "start")
    sentences = [f"{curve.name} {len(curve.points)} points" for curve in curves if curve.points]
    return pen.figure(742, 630, "Lift curves: " + ("; ".join(sentences) or "nothing read yet"), "lift")


def _reach(curves: tuple[Curve, ...]) -> tuple[float, float]:
    angles = [angle for curve in curves for angle, _ in curve.points]
    for lobe in (curve.card for curve in curves):
        if lobe:
            angles += [lobe.centerline_deg - lobe.seat_half_deg, lobe.centerline_deg + lobe.seat_half_deg]
    if not angles:
        return -300.0, 300.0
    return 30 * ((min(angles) - 5) // 30), 30 * -((-max(angles) - 5) // 30)


def _scales(pen: Pen, place: _Place, low: float, high: float, full: float, unit_mm: float, unit: str) -> None:
    step = 60 if high - low > 240 else 30
    for mark in range(int(low), int(high) + 1, 30):
        x, y = place(mark, 0)
        major = mark % step == 0
        pen.line((x, y), (x, y + (9 if major else 5)), "ink")
        if major:
            pen.text((x, y + 24), str(abs(mark)), "scale")
        if mark % 180 == 0:
            pen.line((x, TOP), (x, y), "hair" if mark else "ink")
            pen.text((x, TOP - 8), "TDC overlap" if mark == 0 else "BDC" if mark % 360 else "TDC firing", "dead-center")
    each = next(size for size in (0.025, 0.05, 0.1, 0.5, 1, 2, 5) if full / unit_mm / size <= 9)
    for k in range(int(full / unit_mm / each) + 1):
        x, y = place(low, k * each * unit_mm)
        pen.line((x, y), (RIGHT, y), "fine")
        pen.text((x - 8, y + 4), f"{k * each:g}", "scale", "end")
    pen.line(place(low, 0), place(high, 0), "ink")
    pen.text((LEFT - 8, TOP - 12), unit, "small", "end")
    pen.text((RIGHT, BOTTOM + 44), "crank degrees before and after overlap TDC", "small", "end")


def _curve(pen: Pen, place: _Place, curve: Curve) -> None:
    if curve.card:
        pen.path(polyline([place(angle, lift) for angle, lift in profile(curve.card, 60)]), "card-curve")
        pen.star(place(curve.card.centerline_deg, curve.card.max_lift_mm), 8, "hollow")
    odd = set(curve.suspects)
    clean = sorted(point for k, point in enumerate(curve.points) if k not in odd)
    if len(clean) > 1:
        pen.path(polyline([place(*point) for point in clean]), "measured-curve")
    if len(clean) <= DOTS_UP_TO:
        for point in clean:
            pen.circle(place(*point), 2.6, "reading-dot")
    for k in curve.suspects:
        x, y = place(*curve.points[k])
        pen.path(f"M{x:.1f} {y - 9:.1f}L{x + 9:.1f} {y + 7:.1f}L{x - 9:.1f} {y + 7:.1f}Z", "suspect")
        pen.text((x + 13, y + 4), "off the curve", "event measured", "start")


def _lift_line(
    pen: Pen, place: _Place, curves: tuple[Curve, ...], low: float, high: float, lift_mm: float, words: str
) -> None:
    left, right = place(low, lift_mm), place(high, lift_mm)
    pen.line(left, right, "lift-line")
    pen.line(left, right, "lift-grab")
    pen.text((left[0] + 6, right[1] - 6), f"at {words}", "small", "start")
    for curve in curves:
        for angle in curve.crossings or ():
            at = place(angle, lift_mm)
            pen.star(at, 8, "solid")
            side = "start" if curve.crossings and angle == curve.crossings[1] else "end"
            pen.text(
                (at[0] + (10 if side == "start" else -10), at[1] - 8), format_angle(abs(angle)), "event measured", side
            )


def _durations(pen: Pen, curves: tuple[Curve, ...], full: float, lift_mm: float) -> None:
    left, right = 586.0, 714.0
    longest = max([d for curve in curves for d, _ in curve.durations], default=300.0) * 1.05

    def place(duration: float, lift: float) -> Point:
        return left + (right - left) * duration / longest, BOTTOM - (BOTTOM - TOP) * lift / full

    pen.line((left, TOP), (left, BOTTOM), "ink")
    pen.line((left, BOTTOM), (right, BOTTOM), "ink")
    pen.text((left, TOP - 12), "duration at lift", "small", "start")
    for mark in range(0, int(longest) + 1, 100):
        x, y = place(mark, 0)
        pen.line((x, y), (x, y + 6), "ink")
        pen.text((x, y + 22), str(mark), "scale")
    y = place(0, lift_mm)[1]
    pen.line((left, y), (right, y), "lift-line")
    for curve in curves:
        if len(curve.durations) > 1:
            intake = curve.name == "intake"
            pen.path(
                polyline([place(*point) for point in curve.durations]), "measured-curve" if intake else "measured-dash"
            )
            x, y = place(*curve.durations[0])
            pen.text((x, y - 8 if intake else y - 22), curve.name, "small", "end")
