"""Table of card and measured values."""

from uranograph.bench.finding import Row
from uranograph.bench.job import Job
from uranograph.core.quantities import format_angle, format_length
from uranograph.engine.cams import LOBES
from uranograph.engine.card import card_of
from uranograph.phase import events, lifts, peaks, slack
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.judgment import expected_events, four_events, has_independent_cams
from uranograph.phase.messages import say
from uranograph.phase.results import Result

METHOD_WORDS = {
    "lifts": "equal lifts",
    "events": "events",
    "sweep": "sweep",
    "overlap": "lift at overlap",
    "peak": "greatest lift",
    "asked": "question",
    "stated": "as stated",
}


def rows(job: Job, found: tuple[Result, ...]) -> tuple[Row, ...]:
    """Card and measured values of every lobe and method, separation, durations, and derived events."""
    several = len({result.method for result in found}) > 1
    lines = []
    for result in found:
        label = f"{result.label}, {METHOD_WORDS[result.method]}" if several else result.label
        gap_deg = result.card_error_deg
        shown = gap_deg if gap_deg is None or result.lobe == "intake" or result.centerline_deg is None else -gap_deg
        difference = "" if shown is None else signed(shown)
        if several and difference:
            difference += f" ±{format_angle(result.uncertainty_deg)}"
        lines.append(Row(label, result.card, result.measured, difference))
        if result.target and result.error_deg is not None:
            late = result.error_deg if result.lobe == "intake" or result.centerline_deg is None else -result.error_deg
            lines.append(Row(say("row-against-target"), result.target, result.measured, signed(late)))
    lines += [row for lobe in LOBES for row in _drop_rows(job, lobe)]
    lines += separation(job, found)
    four = four_events(job)
    card = card_of(job)
    if four and card and card.events:
        lines += [
            _row("Intake duration", card.card.intake_duration_deg, four.intake_duration_deg),
            _row("Exhaust duration", card.card.exhaust_duration_deg, four.exhaust_duration_deg),
        ]
    lines += [row for lobe in LOBES for row in _sweep_rows(job, lobe)]
    free = slack.slack_deg(job)
    if free is not None:
        lines.append(Row(say("row-drive-slack"), "", format_angle(free)))
    return (*lines, *event_rows(job, found))


def _sweep_rows(job: Job, lobe: str) -> list[Row]:
    swept_lobe = sweeps.swept(job, lobe)
    swept_found = swept_lobe.found if swept_lobe else None
    top = swept_found.max_lift_mm if swept_found else peaks.measured(job, lobe)
    if top is None:
        return []
    card = card_of(job)
    card = getattr(card, f"{lobe}_max_lift_mm") if card else None
    gap = "" if card is None else format_length(top - card, job.unit).replace("-", "−")
    if gap and gap[0] != "−":
        gap = f"+{gap}"
    if gap and not gap.strip("+−0."):
        gap = "0"
    name = lobe.capitalize()
    lift = Row(f"{name} lift", "" if card is None else format_length(card, job.unit), format_length(top, job.unit), gap)
    if swept_lobe is None or swept_found is None:
        return [lift]
    has_independent_cams = f"{signed(swept_found.asymmetry_deg)} ± {format_angle(swept_lobe.asymmetry_doubt_deg)}"
    return [lift, Row(say("row-asymmetry", name=name), "", has_independent_cams)]


def _drop_rows(job: Job, lobe: str) -> list[Row]:
    by_lifts = lifts.measured(job, lobe)
    if by_lifts is None or len(by_lifts.spans) < 2:
        return []
    by_drop = zip(by_lifts.spans, by_lifts.midpoints_deg, strict=True)
    drops = ", ".join(f"{span.pair.drop}: {format_angle(abs(middle))}" for span, middle in by_drop)
    return [Row(f"  middle by drop: {drops}", "", "", format_angle(by_lifts.spread_deg))]


def separation(job: Job, found: tuple[Result, ...]) -> list[Row]:
    """Measured and card lobe separation, cam degrees."""
    middles: dict[str, float] = {}
    for result in found:
        if result.centerline_deg is not None:
            middles.setdefault(result.lobe, abs(result.centerline_deg))
    if len(middles) < 2:
        return []
    return [
        _row(
            "Lobe separation (LSA)",
            card.card.lobe_separation_cam_deg if (card := card_of(job)) else None,
            sum(middles.values()) / 2,
        )
    ]


def event_rows(job: Job, found: tuple[Result, ...]) -> list[Row]:
    """Every measured event with the card's; events derived from card durations are marked as inferred."""
    card = card.events if (card := card_of(job)) else None
    seen = events_read(job, found)
    lines = [_row(kind.upper(), events.card_event(job, kind), stated) for kind, stated in seen.items()]
    now = expected_events(job)
    if card is None or now is None:
        return lines
    read = {result.lobe for result in found}
    for kind, field in events.FIELD.items():
        if kind not in seen and (events.LOBE[kind] in read or not has_independent_cams(job)):
            follows = format_angle(getattr(now, field))
            lines.append(Row(kind.upper(), format_angle(getattr(card, field)), note=follows, inferred=True))
    return lines


def events_read(job: Job, found: tuple[Result, ...]) -> dict[str, float]:
    """Each event that was read or swept, as a card states it."""
    seen: dict[str, float] = {}
    for result in found:
        for kind, angle_deg in zip(KINDS_OF[result.lobe], (result.opens_deg, result.closes_deg), strict=True):
            if angle_deg is not None:
                seen.setdefault(kind, events.stated(kind, angle_deg))
    for kind in events.KINDS:
        if kind not in seen and (one := events.measured(job, kind)):
            seen[kind] = one.stated_deg
    return seen


KINDS_OF = {"intake": ("io", "ic"), "exhaust": ("eo", "ec")}


def if_durations_true(rows: tuple[Row, ...]) -> str:
    """Sentence on unmeasured events, derived from the card's durations."""
    parts = [f"{row.label} {row.note}" for row in rows if row.inferred]
    return say("calculated-from-durations", parts=", ".join(parts)) if parts else ""


def _row(label: str, card_deg: float | None, measured_deg: float) -> Row:
    if card_deg is None:
        return Row(label, "", format_angle(measured_deg))
    return Row(label, format_angle(card_deg), format_angle(measured_deg), signed(measured_deg - card_deg))


def signed(difference_deg: float) -> str:
    """A difference with its sign, degrees; 0.0 has none."""
    words = format_angle(difference_deg)
    return words if words[0] == "−" or words == "0.0" else f"+{words}"
