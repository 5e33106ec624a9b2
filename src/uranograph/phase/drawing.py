"""The cycle chart of a job, the early and late rule, and the thumbnail for lists."""

import math
from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.charts.cycle import LobeMarks, cycle_chart, small_cycle
from uranograph.charts.lift import Curve, Scale, lift_figure, scale_of
from uranograph.charts.pen import Figure
from uranograph.charts.vernier import VernierGap, rule
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe
from uranograph.core.phase import Events
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_length
from uranograph.engine import positions
from uranograph.engine.cams import LOBES
from uranograph.engine.card import card_of
from uranograph.engine.card_drawing import card_lobes, events_of
from uranograph.engine.card_model import DRAWN_LOBE
from uranograph.phase import card_rows, judgment, lifts, overlaps, results
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.basis import rules_of
from uranograph.phase.events import FIELD
from uranograph.phase.target import Aim, target_of


def cycle(job: Job) -> Figure:
    """Both lobes over two turns, as card and readings have them."""
    return cycle_chart(job_lobes(job), "Intake and exhaust")


def ruler(job: Job) -> Figure | None:
    """Draw the cam's phase error and its tolerance."""
    gap = judgment.gap(job)
    origin = "card" if target_of(job).aim is Aim.CARD else "target"
    return rule(VernierGap(*gap, rules_of(job).tolerance_deg), origin=origin) if gap else None


def thumbnail(job: Job) -> Figure:
    """The small chart of the job list."""
    return small_cycle(job_lobes(job))


@memoized
def job_lobes(job: Job) -> tuple[LobeMarks, ...]:
    """Both lobes as card and readings have them, at the position of the cam now."""
    job = positions.at_position(job)
    try:
        found = {result.lobe: result for result in reversed(results.results(job)) if result.centerline_deg is not None}
        read = card_rows.events_read(job, results.results(job))
    except InvalidInput:
        found, read = {}, {}
    events = judgment.expected_events(job) if found else None
    if events is not None:
        # Measured events are drawn as read; the others are derived from the card's durations.
        events = events.model_copy(update={FIELD[kind]: stated for kind, stated in read.items()})
    marks = []
    for base in card_lobes(card_of(job)) or tuple(LobeMarks(name) for name in LOBES):
        result = found.get(base.name)
        if result is None or result.centerline_deg is None:
            marks.append(_by_overlap_alone(job, base))
            continue
        drawn = (base.card or DRAWN_LOBE).model_copy(update={"centerline_deg": result.centerline_deg})
        if result.opens_deg is not None and result.closes_deg is not None:
            drawn = drawn.model_copy(update={"duration_deg": result.closes_deg - result.opens_deg})
        gap = None
        if result.card_error_deg is not None:
            gap = VernierGap(result.card_error_deg, judgment.doubt_of(job, result), rules_of(job).tolerance_deg)
        marks.append(
            LobeMarks(
                base.name,
                base.card,
                base.card_events,
                measured=drawn,
                readings=_places(job, base.name, result.method, drawn),
                gap=gap,
                event_labels=events_of(base.name, events) if events else (),
                events_seen=set(card_rows.KINDS_OF[base.name]) <= read.keys(),
            )
        )
    states = _states_by_lobe(job)
    return tuple(replace(each, state=states.get(each.name, "")) for each in marks)


def _states_by_lobe(job: Job) -> dict[str, str]:
    """The verdict of each lobe's own cam, where several are judged and nothing about the set-up is in doubt."""
    try:
        judged = judgment.judged(job)
        if len(judged) < 2 or judgment.verdict_of(job, judged, results.doubts(job)) is Verdict.UNSURE:
            return {}
    except InvalidInput:
        return {}
    return {result.lobe: cam.verdict.value for cam in judged for result in cam.lobes}


def _by_overlap_alone(job: Job, base: LobeMarks) -> LobeMarks:
    """A lobe of which only the lift at overlap TDC is read: where that puts it, and the reading itself."""
    at_overlap = overlaps.measured(job, base.name)
    if not at_overlap or base.card is None:
        return base
    one = at_overlap[0]
    drawn = base.card.model_copy(update={"centerline_deg": base.card.centerline_deg + one.error_deg})
    gap = VernierGap(one.error_deg, math.hypot(one.uncertainty_deg, one.by_top_deg), rules_of(job).tolerance_deg)
    return replace(base, measured=drawn, readings=((0.0, one.lift_mm),), gap=gap, event_labels=())


def _places(job: Job, lobe: str, method: str, drawn: CosineLobe) -> tuple[tuple[float, float], ...]:
    """Draw the deciding readings on the lobe."""
    if method == "lifts" and (by_lifts := lifts.measured(job, lobe)):
        return tuple(
            (angle, max(0.0, drawn.max_lift_mm - span.drop_mm))
            for span in by_lifts.spans
            for angle in (span.before_deg, span.after_deg)
        )
    half = drawn.duration_deg / 2
    return tuple((drawn.centerline_deg + side * half, drawn.check_lift_mm) for side in (-1, 1))


def sweep_figure(job: Job, lift_mm: float | None = None) -> Figure:
    """The lift curves at the position now, with the lift line at the checking lift unless given."""
    job = positions.at_position(job)
    at = sweeps.check_lift(job) if lift_mm is None else lift_mm
    unit_mm = MM_PER_INCH if job.unit is LengthUnit.INCH else 1.0
    words = f"{format_length(at, job.unit)} {job.unit.value}"
    return lift_figure(_curves(job, at), at, words, unit_mm, job.unit.value, "Lift curves")


def sweep_scale(job: Job) -> Scale:
    """The scale of `sweep_figure`, for points that are drawn into it as they come."""
    job = positions.at_position(job)
    return scale_of(_curves(job, sweeps.check_lift(job)))


def _curves(job: Job, at_mm: float) -> tuple[Curve, ...]:
    curves = []
    for name in LOBES:
        swept_lobe = sweeps.swept(job, name)
        card = card.lobe(name) if (card := card_of(job)) else None
        if swept_lobe is None:
            curves.append(Curve(name, card))
            continue
        suspects = tuple(swept_lobe.found.suspects) if swept_lobe.found else ()
        durations = tuple((c - o, lift) for lift, o, c in sweeps.spans_by_lift(swept_lobe))
        curves.append(Curve(name, card, swept_lobe.points, suspects, sweeps.events_at(swept_lobe, at_mm), durations))
    return tuple(curves)


def what_if_lobes(job: Job, then: Mapping[str, float]) -> tuple[LobeMarks, ...]:
    """Both lobes, and where an advance would put them, as far as their events or centerlines are known."""
    marks = []
    for base in job_lobes(job):
        shape = base.card or DRAWN_LOBE
        middle = then.get(f"{base.name}_centerline_deg")
        if middle is None:
            marks.append(base)
            continue
        supposed = shape.model_copy(update={"centerline_deg": middle if base.name == "intake" else -middle})
        marks.append(
            LobeMarks(
                base.name,
                base.card,
                base.card_events,
                measured=base.measured,
                supposed=supposed,
                event_labels=_labels(base.name, then),
            )
        )
    return tuple(marks)


def _labels(lobe: str, then: Mapping[str, float]) -> tuple[tuple[str, float, float], ...]:
    """The events of a lobe as they are labeled, where all four are known."""
    if not {"io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg"} <= then.keys():
        return ()
    names = ("io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg")
    return events_of(lobe, Events(**{name: then[name] for name in names}))
