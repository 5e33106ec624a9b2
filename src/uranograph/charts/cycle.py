"""The cycle chart: one cam turn as a circle, overlap TDC at the top, lift outward, events as stars."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from functools import cache, lru_cache

from uranograph.charts.pen import Figure, Pen, Point, arc, polar, polyline, traced
from uranograph.charts.vernier import VernierGap, draw_vernier
from uranograph.core.errors import Missing
from uranograph.core.lobe import CosineLobe, profile
from uranograph.core.quantities import format_angle

CURVE_STEPS = 40


@dataclass(frozen=True)
class LobeMarks:
    """Known values of one lobe. Angles are crank degrees about overlap TDC, lifts mm.

    `state` is the verdict of its own cam, where cams are judged apart; empty where the figure's is that of both.
    """

    name: str
    card: CosineLobe | None = None
    card_events: bool = True
    measured: CosineLobe | None = None
    supposed: CosineLobe | None = None
    readings: tuple[tuple[float, float], ...] = ()
    gap: VernierGap | None = None
    event_labels: tuple[tuple[str, float, float], ...] = ()
    events_seen: bool = False
    state: str = ""

    @contextmanager
    def colored(self, pen: Pen) -> Iterator[None]:
        """What is drawn within is in the color of this lobe's own verdict."""
        if self.state:
            pen.begin(f'class="is-{self.state}"')
        yield
        if self.state:
            pen.end()


@dataclass(frozen=True)
class _Plot:
    """Turns cycle angle and lift into a place on the page."""

    center: Point
    base: float
    top: float
    full_lift_mm: float

    def radius(self, lift_mm: float) -> float:
        return self.base + (self.top - self.base) * lift_mm / self.full_lift_mm

    def at(self, angle_deg: float, lift_mm: float) -> Point:
        return polar(self.center, self.radius(lift_mm), angle_deg / 2)

    def curve(self, lobe: CosineLobe) -> str:
        scale = (self.top - self.base) / self.full_lift_mm
        return traced(
            self.center, [(self.base + scale * lift, angle / 2) for angle, lift in profile(lobe, CURVE_STEPS)]
        )


def _full_lift(lobes: tuple[LobeMarks, ...]) -> float:
    tops = [lobe.max_lift_mm for marks in lobes for lobe in (marks.card, marks.measured, marks.supposed) if lobe]
    return max(tops, default=9.0) * 1.35


@lru_cache(maxsize=32)
def cycle_chart(lobes: tuple[LobeMarks, ...], title: str = "") -> Figure:
    """Draw the cycle chart, 742 by 580.

    Parameters
    ----------
    lobes
        Intake and exhaust, in any order.
    title
        Stands at the upper left.

    Returns
    -------
    Figure
        Card hollow and dashed, measured solid, doubt as halo; the gap of each lobe again, magnified, below.
    """
    pen = Pen()
    plot = _Plot((371, 294), 96, 250, _full_lift(lobes))
    pen.strokes += _ground(plot.center, plot.base, plot.top)
    for marks in lobes:
        with marks.colored(pen):
            _lobe(pen, plot, marks)
    _event_labels(pen, plot, lobes)
    for marks in lobes:
        if marks.gap:
            middle = 143.0 if marks.name == "intake" else 217.0
            with marks.colored(pen):
                draw_vernier(pen, plot.center, 196, middle, 26, marks.gap, marks.name)
    inferred = any(marks.measured and not marks.events_seen for marks in lobes)
    _legend(pen, title, any(marks.measured for marks in lobes), any(marks.supposed for marks in lobes), inferred)
    return pen.figure(742, 580, _description(lobes), "cycle")


@lru_cache(maxsize=256)
def small_cycle(lobes: tuple[LobeMarks, ...]) -> Figure:
    """Draw the cycle chart as a token, 132 by 132: lobes and centerline stars only."""
    pen = Pen()
    plot = _Plot((66, 66), 21, 54, _full_lift(lobes) / 1.12)
    pen.circle(plot.center, 60, "fine")
    pen.circle(plot.center, 54, "ink")
    pen.circle(plot.center, 21, "ink")
    for quarter in range(4):
        pen.line(polar(plot.center, 54, quarter * 90), polar(plot.center, 60, quarter * 90), "ink")
    for marks in lobes:
        if marks.card:
            pen.path(plot.curve(marks.card), "card-curve")
            pen.star(plot.at(marks.card.centerline_deg, marks.card.max_lift_mm), 5.5, "hollow")
        if marks.measured:
            with marks.colored(pen):
                pen.path(plot.curve(marks.measured), "measured-curve")
                pen.star(plot.at(marks.measured.centerline_deg, marks.measured.max_lift_mm), 5.5, "solid")
    return pen.figure(132, 132, _description(lobes), "small-cycle")


@cache
def _ground(center: Point, base: float, top: float) -> tuple[str, ...]:
    pen = Pen()
    plot = _Plot(center, base, top, 1.0)
    for k in range(1, 6):
        pen.circle(center, plot.base + (plot.top - plot.base) * k / 6, "fine")
    pen.circle(center, plot.top + 16, "hair")
    pen.circle(center, plot.top, "ink")
    pen.circle(center, plot.base, "ink")
    for quarter in range(4):
        pen.line(polar(center, 46, quarter * 90), polar(center, plot.top, quarter * 90), "fine")
    for crank in range(0, 720, 10):
        theta = crank / 2
        if crank % 90 == 0:
            size, ink = 16, "ink"
        elif crank % 30 == 0:
            size, ink = 10, "ink"
        else:
            size, ink = 5, "tick"
        pen.line(polar(center, plot.top, theta), polar(center, plot.top + size, theta), ink)
        from_dead_center = min(crank % 180, 180 - crank % 180)
        if crank % 30 == 0 and from_dead_center:
            x, y = polar(center, plot.top + 28, theta)
            # On a phone the words at the top take the room of the figures beside them.
            pen.text((x, y + 4), str(from_dead_center), "scale wide" if crank in (30, 690) else "scale")
    x, y = center
    pen.text((x, y - plot.top - 22), "TDC overlap", "dead-center")
    pen.text((x, y + plot.top + 32), "TDC firing", "dead-center")
    pen.text((x + plot.top + 29, y), "BDC", "dead-center", turn=90)
    pen.text((x - plot.top - 29, y), "BDC", "dead-center", turn=-90)
    for words, dx, dy in (("exhaust", -50, -26), ("intake", 50, -26), ("power", -50, 38), ("compression", 48, 38)):
        pen.text((x + dx, y + dy), words, "phase" if dy < 0 else "phase soft")
    pen.path(arc(center, 26, -80, 70), "ink arrow")
    tip = polar(center, 26, 76)
    pen.path(polyline([(tip[0] - 7, tip[1] - 5), tip, (tip[0] + 4, tip[1] - 9)]), "ink arrow")
    pen.text((x, y + 8), "forward", "small")
    return tuple(pen.strokes)


def _lobe(pen: Pen, plot: _Plot, marks: LobeMarks) -> None:
    if marks.card:
        card = marks.card
        pen.path(plot.curve(card), "card-curve")
        nose = plot.at(card.centerline_deg, card.max_lift_mm)
        pen.line(nose, polar(plot.center, plot.top + 16, card.centerline_deg / 2), "card-line")
        if marks.card_events:
            half = card.duration_deg / 2
            ends = [plot.at(card.centerline_deg + side * half, card.check_lift_mm) for side in (-1, 1)]
            for end in ends:
                pen.line(end, nose, "card-line")
            for end in ends:
                pen.star(end, 8, "hollow")
        pen.star(nose, 9, "hollow")
    if marks.measured:
        lobe = marks.measured
        pen.path(plot.curve(lobe), "measured-curve")
        nose = plot.at(lobe.centerline_deg, lobe.max_lift_mm)
        if marks.gap:
            _halo(pen, plot, lobe, marks.gap)
        pen.line(nose, polar(plot.center, plot.top + 16, lobe.centerline_deg / 2), "measured-line")
        for angle, lift in marks.readings:
            point = plot.at(angle, lift)
            pen.line(point, nose, "measured-line")
            pen.star(point, 7, "solid")
        pen.star(nose, 9, "solid")
        _gap_arc(pen, plot, marks)

    if marks.supposed:
        pen.path(plot.curve(marks.supposed), "supposed-curve")
        pen.star(plot.at(marks.supposed.centerline_deg, marks.supposed.max_lift_mm), 8, "supposed")


def _halo(pen: Pen, plot: _Plot, lobe: CosineLobe, gap: VernierGap) -> None:
    radius = plot.radius(lobe.max_lift_mm)
    low, high = lobe.centerline_deg - gap.uncertainty_deg, lobe.centerline_deg + gap.uncertainty_deg
    pen.path(arc(plot.center, radius, low / 2, high / 2), "halo-arc")


def _gap_arc(pen: Pen, plot: _Plot, marks: LobeMarks) -> None:
    if marks.card is None or marks.measured is None or marks.gap is None:
        return
    ends = sorted((marks.card.centerline_deg / 2, marks.measured.centerline_deg / 2))
    pen.path(arc(plot.center, plot.top + 8, *ends), "gap-arc")


def _event_labels(pen: Pen, plot: _Plot, lobes: tuple[LobeMarks, ...]) -> None:
    """Write each event beside its place; the two near overlap left and right in the order they come."""
    near = sorted((angle, name) for marks in lobes for name, _, angle in marks.event_labels if abs(angle) < 90)
    for marks in lobes:
        lobe = marks.supposed or marks.measured or marks.card
        ink = "supposed" if marks.supposed else "measured" if marks.measured else "card"
        for name, value, angle in marks.event_labels:
            if lobe is None:
                raise Missing("lobe")
            foot = polar(plot.center, plot.base, angle / 2)
            mark = plot.at(angle, lobe.check_lift_mm)
            if (angle, name) in near:
                first = (near[0] == (angle, name)) if len(near) == 2 else angle < 0
                label = (plot.center[0] + (-39 if first else 39), plot.center[1] - 66)
                elbow = (label[0], label[1] - 13)
            else:
                side = 1 if name.startswith("I") else -1
                label = (plot.center[0] + 43 * side, plot.center[1] + 60)
                elbow = (label[0] + 26 * side, label[1] - 5)
            pen.line(mark, foot, "leader")
            pen.line(foot, elbow, "leader")
            with marks.colored(pen):
                pen.circle(mark, 2.6, f"event-mark {ink}")
                pen.text(label, f"{name} {format_angle(value)}", f"event {ink}")


def _legend(pen: Pen, title: str, measured: bool, supposed: bool, inferred: bool) -> None:
    if title:
        pen.text((22, 34), title, "title", "start")
    top = 56.0
    pen.star((29, top), 7, "hollow")
    pen.text((42, top + 4), "spec card", "small", "start")
    if measured:
        pen.star((29, top + 20), 7, "solid")
        pen.text((42, top + 24), "measured", "small", "start")
        pen.rect(22, top + 35, 14, 8, "halo")
        pen.text((42, top + 44), "uncertainty", "small", "start")
    if supposed:
        pen.star((29, top + 60), 7, "supposed")
        pen.text((42, top + 64), "what if", "small", "start")
    elif inferred:
        pen.circle((29, top + 60), 2.6, "event-mark measured")
        pen.text((42, top + 64), "event, if the", "small", "start")
        pen.text((42, top + 79), "duration is true", "small", "start")


def _description(lobes: tuple[LobeMarks, ...]) -> str:
    sentences = []
    for marks in lobes:
        if marks.card:
            sentences.append(f"{marks.name} card centerline {format_angle(abs(marks.card.centerline_deg))}")
        if marks.measured:
            words = f", {marks.gap.words}" if marks.gap else ""
            sentences.append(f"measured {format_angle(abs(marks.measured.centerline_deg))}{words}")
        if marks.supposed:
            sentences.append(f"what if {format_angle(abs(marks.supposed.centerline_deg))}")
    return "Cycle chart: " + ("; ".join(sentences) or "no lobes yet")
