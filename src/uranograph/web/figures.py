"""From a job to the figure that belongs to it."""

import math
from dataclasses import replace
from typing import Any

from uranograph.bench import adjust, backlash, degree, engine, lifts, marks, overlaps, sweeps, tdc, train, tries
from uranograph.bench.card import DRAWN_LOBE, SpecCard
from uranograph.bench.finding import Finding, Prompt
from uranograph.bench.job import Job, Reading
from uranograph.bench.kept import kept
from uranograph.bench.place import LOBES
from uranograph.bench.wheel import Mounted, crank_angle
from uranograph.charts.cycle import LobeMarks, cycle_chart, small_cycle
from uranograph.charts.firing import firing_figure
from uranograph.charts.lift import Curve, lift_figure
from uranograph.charts.pen import Figure
from uranograph.charts.positions import OfCam, Tried, positions_figure
from uranograph.charts.train import train_figure
from uranograph.charts.vernier import Gap, rule
from uranograph.charts.wheel import Contacts, top_figure, wheel_face
from uranograph.core.errors import Impossible
from uranograph.core.lobe import CosineLobe
from uranograph.core.phase import Events, move
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_length
from uranograph.web import fit_figures, mark_figures


def _events_of(lobe: str, events: Events) -> tuple[tuple[str, float, float], ...]:
    if lobe == "intake":
        return (("IO", events.io_btdc_deg, -events.io_btdc_deg), ("IC", events.ic_abdc_deg, 180 + events.ic_abdc_deg))
    return (("EO", events.eo_bbdc_deg, -180 - events.eo_bbdc_deg), ("EC", events.ec_atdc_deg, events.ec_atdc_deg))


def card_lobes(card: SpecCard | None) -> tuple[LobeMarks, ...]:
    """Both lobes as the card has them."""
    if card is None:
        return ()
    events = card.events
    return tuple(
        LobeMarks(
            name,
            card.lobe(name),
            card_events=getattr(card.card, f"{name}_duration_deg") is not None,
            event_labels=_events_of(name, events) if events else (),
        )
        for name in LOBES
    )


@kept
def job_lobes(job: Job) -> tuple[LobeMarks, ...]:
    """Both lobes as card and readings have them, at the position of the cam now."""
    job = tries.at_position(job)
    try:
        found = {result.lobe: result for result in reversed(degree.results(job)) if result.centerline_deg is not None}
    except Impossible:
        found = {}
    seen = degree.seen_events(job) if found else None
    events = seen or (degree.expected_events(job) if found else None)
    marks = []
    for base in card_lobes(job.card) or tuple(LobeMarks(name) for name in LOBES):
        result = found.get(base.name)
        if result is None or result.centerline_deg is None:
            marks.append(_by_overlap_alone(job, base))
            continue
        drawn = (base.card or DRAWN_LOBE).model_copy(update={"centerline_deg": result.centerline_deg})
        if result.opens_deg is not None and result.closes_deg is not None:
            drawn = drawn.model_copy(update={"duration_deg": result.closes_deg - result.opens_deg})
        gap = None
        if result.error_deg is not None:
            gap = Gap(result.error_deg, result.uncertainty_deg, job.tolerance_deg)
        marks.append(
            LobeMarks(
                base.name,
                base.card,
                base.card_events,
                measured=drawn,
                readings=_places(job, base.name, result.method, drawn),
                gap=gap,
                event_labels=_events_of(base.name, events) if events else (),
                events_seen=seen is not None,
            )
        )
    return tuple(marks)


def _by_overlap_alone(job: Job, base: LobeMarks) -> LobeMarks:
    """A lobe of which only the lift at overlap TDC is read: where that puts it, and the reading itself."""
    at_overlap = overlaps.measured(job, base.name)
    if not at_overlap or base.card is None:
        return base
    one = at_overlap[0]
    drawn = base.card.model_copy(update={"centerline_deg": base.card.centerline_deg + one.error_deg})
    gap = Gap(one.error_deg, math.hypot(one.uncertainty_deg, one.by_top_deg), job.tolerance_deg)
    return replace(base, measured=drawn, readings=((0.0, one.lift_mm),), gap=gap, event_labels=())


def _places(job: Job, lobe: str, method: str, drawn: CosineLobe) -> tuple[tuple[float, float], ...]:
    """Where the readings that decide stand on the lobe."""
    if method == "lifts" and (of := lifts.measured(job, lobe)):
        return tuple(
            (angle, max(0.0, drawn.max_lift_mm - span.drop_mm))
            for span in of.spans
            for angle in (span.before_deg, span.after_deg)
        )
    half = drawn.duration_deg / 2
    return tuple((drawn.centerline_deg + side * half, drawn.check_lift_mm) for side in (-1, 1))


def sweep_figure(job: Job, lift_mm: float | None = None) -> Figure:
    """The lift curves at the position now, with the lift line at the checking lift unless given."""
    job = tries.at_position(job)
    at = sweeps.check_lift(job) if lift_mm is None else lift_mm
    unit_mm = MM_PER_INCH if job.unit is LengthUnit.INCH else 1.0
    curves = []
    for name in LOBES:
        of = sweeps.swept(job, name)
        card = job.card.lobe(name) if job.card else None
        if of is None:
            curves.append(Curve(name, card))
            continue
        suspects = tuple(of.found.suspects) if of.found else ()
        durations = tuple((c - o, lift) for lift, o, c in sweeps.spans_by_lift(of))
        curves.append(Curve(name, card, of.points, suspects, sweeps.events_at(of, at), durations))
    words = f"{format_length(at, job.unit)} {job.unit.value}"
    return lift_figure(tuple(curves), at, words, unit_mm, job.unit.value, "Lift curves")


@kept
def adjust_figure(job: Job) -> Figure:
    """Offered positions and the history of tries."""
    steps = adjust.history(job)
    made = tries.tries(job)
    now = degree.phases(tries.at_position(job))
    cams = []
    for cam in adjust.cams(job):
        history = []
        for step in steps:
            error = step.errors.get(cam)
            predicted = None
            if step.number:
                one = made[step.number - 1]
                before = steps[step.number - 1].errors.get(cam)
                moves_it = cam == "both" or cam in one.lobes
                predicted = before[0] - one.shift_deg if before and moves_it else None
            label = "as found" if step.number == 0 else f"try {step.number}"
            history.append(Tried(label, error[0] if error else None, error[1] if error else 0.0, predicted))
        phase = now.get(cam)
        left = tuple(offer.choice.remaining_error_deg for offer in _offers(job, cam))
        cams.append(OfCam(cam, phase[0] if phase else None, phase[1] if phase else 0.0, left, tuple(history)))
    return positions_figure(tuple(cams), job.tolerance_deg, "Positions")


def _offers(job: Job, cam: str) -> tuple[adjust.Offer, ...]:
    try:
        return adjust.offers(job, cam)
    except Impossible:
        return ()


def what_if_lobes(job: Job, intake_deg: float, exhaust_deg: float, events: Events) -> tuple[LobeMarks, ...]:
    """Both lobes, and where an advance would put them."""
    moved = move(events, intake_deg, exhaust_deg)
    marks = []
    for base in job_lobes(job):
        shape = base.card or DRAWN_LOBE
        middle = moved.intake_centerline_deg if base.name == "intake" else -moved.exhaust_centerline_deg
        supposed = shape.model_copy(update={"centerline_deg": middle})
        marks.append(
            LobeMarks(
                base.name,
                base.card,
                base.card_events,
                measured=base.measured,
                supposed=supposed,
                event_labels=_events_of(base.name, moved),
            )
        )
    return tuple(marks)


def token(job: Job) -> Figure:
    """The small chart of the job list."""
    return small_cycle(job_lobes(job))


def taking_figure(job: Job, station: str, view: str, prompt: Prompt | None, rear: bool) -> Figure:
    """The large figure of a station that shares the panel of most."""
    if station in fit_figures.OF_STATION:
        return fit_figures.of_fit(job, station, view, prompt)
    if station == marks.KEY:
        return mark_figures.of_marks(job, view, prompt, rear)
    return mark_figures.of_backlash(job) if station == backlash.KEY else mark_figures.of_sprockets(job)


def station_figure(job: Job, station: str, method: str = "") -> Figure | None:
    """The large figure of a station."""
    if station == train.KEY:
        return mark_figures.train_picture(job, train.described(job), False, "Gear train")
    if station == "engine":
        return firing_figure(job.engine.firing_order if job.engine else (), "Firing order")
    if station == "wheel":
        return wheel_face(job.wheel.wheel, "The wheel as mounted") if job.wheel else None
    if station == tdc.KEY:
        return top(job) if job.wheel else None
    if station == "card":
        return cycle_chart(card_lobes(job.card), "Spec card")
    if station == adjust.KEY:
        return adjust_figure(job)
    if method == "sweep":
        return sweep_figure(job)
    return cycle_chart(job_lobes(job), "Intake and exhaust")


def preview_figure(kind: str, value: Any, clockwise: bool = True) -> Figure | None:
    """The figure of a sheet as it is being typed."""
    if isinstance(value, engine.Engine):
        return firing_figure(value.firing_order, "Firing order")
    if isinstance(value, Mounted):
        return wheel_face(value.wheel, "The wheel as mounted")
    if kind == train.KEY:
        return train_figure(mark_figures.parts(value) if value else (), clockwise, False, "Gear train")
    if kind == "engine":
        return firing_figure((), "Firing order")
    if kind == "card":
        return cycle_chart(card_lobes(value), "Spec card")
    return None


def top(job: Job) -> Figure:
    """Wheel, contacts and the top between them."""
    frame = tdc.frames(job)[-1]

    def angle(reading: Reading) -> float:
        return crank_angle(frame.mounted, reading.text, reading.side)

    pairs = []
    lone = None
    try:
        for pair in frame.pairs:
            if pair.before and pair.after:
                pairs.append((angle(pair.before), angle(pair.after)))
            else:
                lone = angle(pair.readings[0])
    except Impossible:
        pairs = []
    contacts = Contacts(
        tuple(pairs),
        lone,
        frame.top.zero_error_deg if frame.top else None,
        frame.top.uncertainty_deg if frame.top else 0.0,
    )
    crank = job.engine.crank if job.engine else None
    return top_figure(frame.mounted.wheel, contacts, crank, frame.mounted.dial_division_mm, "True TDC")


def verdict_rule(job: Job, station: str, finding: Finding) -> Figure | None:
    """The early/late rule under a verdict that has a number."""
    if not finding.number:
        return None
    if station == tdc.KEY:
        found = tdc.frames(job)[-1].top
        assert found is not None
        gap = Gap(found.zero_error_deg, found.uncertainty_deg, tdc.PROVED_WITHIN_DEG / 2)
        return rule(gap, "before", "after", "the wheel's TDC mark")
    if station != degree.KEY:
        return None
    gap = degree.gap(job)
    return rule(Gap(*gap, job.tolerance_deg)) if gap else None
