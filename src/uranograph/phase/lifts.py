"""Degree by equal lifts: the middle between a drop before maximum and the same drop after it."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.pairs import Pair, pairs_of
from uranograph.bench.slots import Grouping, Slot, slot_of
from uranograph.core.angles import near
from uranograph.core.centerline import LiftPair, LiftPairs, centerline
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lobe import half_width_at
from uranograph.core.quantities import LengthUnit, parse_length
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded
from uranograph.engine.cams import KEY, LOBES, RESTS_ON, USUAL_CENTERLINE_DEG, card_centerline, lobe_of
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.tdc import check_reader, frame_at, frames
from uranograph.phase import slack
from uranograph.phase.basis import deciding_lobes
from uranograph.phase.messages import say
from uranograph.phase.placing import likely_side, place_doubts, true_angle

LIKELY_ERROR_DEG = 30.0
LIFT = Slot[str](
    KEY, LOBES, ("before", "after"), rests_on=RESTS_ON, together=Grouping.PAIR, by_bank=True, lobe_of=lobe_of
)


@dataclass(frozen=True)
class Span:
    """One whole pair as true crank angles about overlap TDC, unwrapped."""

    pair: Pair
    before_deg: float
    after_deg: float
    drop_mm: float


@dataclass(frozen=True)
class Measured:
    """One lobe as measured: midpoint about overlap TDC and uncertainty, or why it is unknown."""

    lobe: str
    spans: tuple[Span, ...]
    centerline_deg: float
    midpoints_deg: tuple[float, ...]
    spread_deg: float
    by_readings_deg: float
    by_top_deg: float
    error_deg: float | None
    doubts: tuple[str, ...]

    @property
    def uncertainty_deg(self) -> float:
        """That of the readings and that of the top they are counted from."""
        return math.hypot(self.by_readings_deg, self.by_top_deg)


def lift_pairs(job: Job) -> list[Pair]:
    """The pairs of this method among the station's readings."""
    return pairs_of(LIFT.taken(job))


@memoized
def measured(job: Job, lobe: str) -> Measured | None:
    """Work out a lobe's centerline from its standing readings.

    Parameters
    ----------
    job
        The job.
    lobe
        `intake` or `exhaust`.

    Returns
    -------
    Measured or None
        None while no pair of this lobe is whole.

    Raises
    ------
    InvalidInput
        When a reading that came from elsewhere cannot be placed on this wheel.
    """
    whole = _counted([pair for pair in lift_pairs(job) if pair.kind == lobe and pair.complete])
    if not whole or not frames(job):
        return None
    card_middle = card_centerline(job, lobe)
    target = USUAL_CENTERLINE_DEG[lobe] if card_middle is None else card_middle
    spans = tuple(_span(job, pair, target) for pair in whole)
    pairs = [LiftPair(before_deg=s.before_deg, after_deg=s.after_deg, drop_mm=s.drop_mm) for s in spans]
    middle = centerline(LiftPairs(pairs=pairs))
    error = None if card_middle is None else middle.centerline_deg - card_middle
    by_readings, by_top = _uncertainty(job, spans, middle.spread_deg)
    return Measured(
        lobe=lobe,
        spans=spans,
        centerline_deg=middle.centerline_deg,
        midpoints_deg=tuple(middle.midpoints_deg),
        spread_deg=middle.spread_deg,
        by_readings_deg=by_readings,
        by_top_deg=by_top,
        error_deg=error,
        doubts=tuple(_doubts(job, lobe, whole, error)),
    )


def _counted(whole: list[Pair]) -> list[Pair]:
    """The pairs that count: one that came backward is replaced by one of the same drop that came forward."""
    forward = {pair.drop for pair in whole if all(reading.approach == "forward" for reading in pair.readings)}
    return [
        pair
        for pair in whole
        if pair.drop not in forward or all(reading.approach == "forward" for reading in pair.readings)
    ]


def _span(job: Job, pair: Pair, target_deg: float) -> Span:
    if pair.before is None or pair.after is None:
        raise Missing("pair.before, pair.after")
    before, after = true_angle(job, pair.before), true_angle(job, pair.after)
    width = (after - before) % 360
    middle = near(before + width / 2, target_deg)
    return Span(pair, middle - width / 2, middle + width / 2, pair.drop_mm or 0.0)


def _uncertainty(job: Job, spans: tuple[Span, ...], spread_deg: float) -> tuple[float, float]:
    limits: list[float] = []
    top_deg = 0.0
    for span in spans:
        if span.pair.before is None:
            raise Missing("span.pair.before")
        frame = frame_at(job, span.pair.before.seq)
        if frame is None:
            raise Missing("frame")
        slope = 2 * span.drop_mm / ((span.after_deg - span.before_deg) / 2)
        by_dial = frame.mounted.dial_division_mm / 2 / slope
        weight = 1 / (2 * len(spans))
        for reading in span.pair.readings:
            limits += (reading.division(frame.mounted.division_deg) / 2 * weight, by_dial * weight)
        top_deg = max(top_deg, frame.top.uncertainty_deg if frame.top else 0.0)
    by_readings = expanded(limits, (CENTERING_DEG / math.sqrt(2), APPROACH_DEG))
    return max(by_readings, spread_deg / 2), top_deg


def _doubts(job: Job, lobe: str, whole: list[Pair], error_deg: float | None) -> list[str]:
    free = slack.slack_deg(job) if any(r.approach != "forward" for pair in whole for r in pair.readings) else None
    sentences = [
        doubt
        for pair in whole
        for reading in pair.readings
        for doubt in place_doubts(job, reading, describe(reading), free)
    ]
    if error_deg is not None and abs(error_deg) > LIKELY_ERROR_DEG:
        sentences.append(say("lobe-far-from-card", lobe=lobe, error_deg=abs(error_deg)))
    return sentences


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next.

    Parameters
    ----------
    job
        The job.
    query
        `lobe` and `drop`, as the user set them.

    Returns
    -------
    Prompt or None
        None where no wheel is set up.
    """
    if wheel_of(job) is None:
        return None
    pairs = lift_pairs(job)
    waiting = _waiting(pairs, query.get("lobe", ""), deciding_lobes(job))
    place = waiting.missing or "before"
    number = waiting.number or job.next_number(KEY, waiting.kind)
    earlier = [pair.drop for pair in pairs if pair.drop]
    used = {pair.drop for pair in pairs if pair.kind == waiting.kind}
    usual = earlier[0] if earlier and earlier[0] not in used else None
    drop = waiting.drop or query.get("drop") or usual or _usual_drop(job.unit, len(used))
    if place == "before":
        instruction = say("read-lift-before-max", kind=waiting.kind, drop=drop)
        hint = say("read-wheel-after-backing-off")
    else:
        instruction = say("read-lift-after-max", drop=drop)
        hint = say("overshot-lift")
    return Prompt(
        slot=slot_of(waiting.kind, number, place),
        label=f"{waiting.kind.capitalize()}, {drop} {place} maximum",
        instruction=instruction,
        hint=hint,
        side=_likely_side(job, waiting.kind, place, drop),
        second=drop,
        second_fixed=waiting.drop is not None,
        second_label="Below max",
        by_wheel=True,
        extra={"lobe": waiting.kind},
    )


def _waiting(pairs: list[Pair], lobe: str, deciding: tuple[str, ...]) -> Pair:
    order = [lobe] if lobe in LOBES else list(deciding)
    for wanted in order:
        open_pair = next((pair for pair in pairs if pair.kind == wanted and not pair.complete), None)
        if open_pair:
            return open_pair
        if not any(pair.kind == wanted for pair in pairs):
            return Pair(wanted, 0)
    fewest = min(order, key=lambda name: sum(pair.kind == name for pair in pairs))
    return Pair(fewest, 0)


def _usual_drop(unit: LengthUnit, already: int) -> str:
    steps = ("0.050", "0.100", "0.020") if unit is LengthUnit.INCH else ("1.0", "2.0", "0.5")
    return steps[already % len(steps)]


def _likely_side(job: Job, lobe: str, place: str, drop: str) -> str | None:
    """The side of the wheel to expect: by where the lobe was read, else by the card; as wide as its drops were, else as a nominal lobe."""
    card_middle = card_centerline(job, lobe)
    middle = USUAL_CENTERLINE_DEG[lobe] if card_middle is None else card_middle
    half, wider = 45.0, 1.0
    drawn = card.lobe(lobe) if (card := card_of(job)) else None
    try:
        drop_mm = parse_length(drop, job.unit)
        found = measured(job, lobe)
        if found is not None:
            middle = found.centerline_deg
        if drawn and 0 < drop_mm < drawn.max_lift_mm:
            half = half_width_at(drawn, drawn.max_lift_mm - drop_mm)
            spans = [span for span in found.spans if span.drop_mm < drawn.max_lift_mm] if found else []
            if spans:
                nearest = min(spans, key=lambda span: abs(span.drop_mm - drop_mm))
                nominal = half_width_at(drawn, drawn.max_lift_mm - nearest.drop_mm)
                wider = (nearest.after_deg - nearest.before_deg) / 2 / nominal
    except InvalidInput:
        pass
    return likely_side(job, middle + (-1 if place == "before" else 1) * half * wider)


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text`, `side` or `second`.
    """
    mounted = wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    angle = crank_angle(mounted, entry.text, entry.side)
    check_reader(job, entry)
    if not entry.second:
        raise InvalidInput("second", "below-max-missing")
    lobe, number, place = entry.spot
    try:
        drop_mm = parse_length(entry.second, entry.unit)
    except InvalidInput as error:
        raise error.at("second") from error
    drawn = card.lobe(lobe) if (card := card_of(job)) else None
    if drop_mm <= 0:
        raise InvalidInput("second", "not-below-max", drop=entry.second)
    if drawn and drop_mm >= drawn.max_lift_mm:
        raise InvalidInput("second", "off-the-lobe", lift_mm=drawn.max_lift_mm, drop=entry.second)
    partner = next((p for p in lift_pairs(job) if (p.kind, p.number) == (lobe, number)), None)
    other = partner and (partner.after if place == "before" else partner.before)
    if other and (crank_angle(mounted, other.text, other.side) - angle) % 360 == 0:
        raise InvalidInput("text", "same-side-of-lobe", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what a reading of this station was of."""
    lobe, _, place = reading.spot
    return f"{lobe}, {reading.second} {place} max"
