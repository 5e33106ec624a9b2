"""From a job to the figure that belongs to it."""

from uranograph.bench import degree, engine, tdc
from uranograph.bench.card import DRAWN_LOBE, SpecCard
from uranograph.bench.finding import Finding
from uranograph.bench.job import Job, Reading
from uranograph.bench.wheel import Mounted, crank_angle
from uranograph.charts.cycle import LobeMarks, cycle_chart, small_cycle
from uranograph.charts.firing import firing_figure
from uranograph.charts.pen import Figure
from uranograph.charts.vernier import Gap, rule
from uranograph.charts.wheel import Contacts, top_figure, wheel_face
from uranograph.core.errors import Impossible
from uranograph.core.phase import Events, move


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
        for name in degree.LOBES
    )


def job_lobes(job: Job) -> tuple[LobeMarks, ...]:
    """Both lobes as card and readings have them."""
    try:
        found = [lobe for name in degree.LOBES if (lobe := degree.measured(job, name))]
    except Impossible:
        found = []
    by_name = {lobe.lobe: lobe for lobe in found}
    events = degree.expected_events(job, found)
    marks = []
    for base in card_lobes(job.card) or tuple(LobeMarks(name) for name in degree.LOBES):
        lobe = by_name.get(base.name)
        if lobe is None:
            marks.append(base)
            continue
        drawn = (base.card or DRAWN_LOBE).model_copy(update={"centerline_deg": lobe.centerline_deg})
        gap = None
        if lobe.error_deg is not None:
            gap = Gap(lobe.error_deg, lobe.uncertainty_deg, job.tolerance_deg)
        readings = tuple(
            (angle, max(0.0, drawn.max_lift_mm - span.drop_mm))
            for span in lobe.spans
            for angle in (span.before_deg, span.after_deg)
        )
        marks.append(
            LobeMarks(
                base.name,
                base.card,
                base.card_events,
                measured=drawn,
                readings=readings,
                gap=gap,
                event_labels=_events_of(base.name, events) if events else (),
            )
        )
    return tuple(marks)


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


def station_figure(job: Job, station: str) -> Figure | None:
    """The large figure of a station."""
    if station == "engine":
        return firing_figure(job.engine.firing_order if job.engine else (), "Firing order")
    if station == "wheel":
        return wheel_face(job.wheel.wheel, "The wheel as mounted") if job.wheel else None
    if station == tdc.KEY:
        return top(job) if job.wheel else None
    if station == "card":
        return cycle_chart(card_lobes(job.card), "Spec card")
    return cycle_chart(job_lobes(job), "Intake and exhaust")


def preview_figure(kind: str, value: engine.Engine | SpecCard | Mounted | None) -> Figure | None:
    """The figure of a sheet as it is being typed."""
    if isinstance(value, engine.Engine):
        return firing_figure(value.firing_order, "Firing order")
    if isinstance(value, Mounted):
        return wheel_face(value.wheel, "The wheel as mounted")
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
    gap = degree.gap(job)
    return rule(Gap(*gap, job.tolerance_deg)) if gap else None
