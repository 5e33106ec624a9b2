"""Degree: intake and exhaust by equal lifts before and after maximum."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache

from uranograph.bench.finding import WORST_FIRST, Finding, Prompt, Row, Verdict
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.pairs import Pair, pairs_of, parts_of, slot_of
from uranograph.bench.tdc import frame_at, frames
from uranograph.bench.wheel import crank_angle
from uranograph.core.angles import near
from uranograph.core.centerline import LiftPair, LiftPairs, centerline
from uranograph.core.errors import Impossible
from uranograph.core.lobe import half_width_at
from uranograph.core.phase import Events, correction_in_words, judge, move
from uranograph.core.quantities import LengthUnit, format_angle, parse_length
from uranograph.core.wheel import Side, as_read

KEY = "degree"
LOBES = ("intake", "exhaust")
USUAL_CENTERLINE_DEG = {"intake": 110.0, "exhaust": -112.0}
LIKELY_ERROR_DEG = 30.0
CAUTIONS = ("Turn by hand, plugs out. The grinder's card and the engine's manual outrank this screen.",)


@dataclass(frozen=True)
class Span:
    """One whole pair as true crank angles about overlap TDC, unwrapped."""

    pair: Pair
    before_deg: float
    after_deg: float
    drop_mm: float


@dataclass(frozen=True)
class Measured:
    """One lobe as measured: its middle about overlap TDC and how surely, or why that cannot be told."""

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

    @property
    def as_card_states_deg(self) -> float:
        """ATDC for the intake, BTDC for the exhaust."""
        return self.centerline_deg if self.lobe == "intake" else -self.centerline_deg


@lru_cache(maxsize=128)
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
    Impossible
        When a reading that came from elsewhere cannot be placed on this wheel.
    """
    whole = [pair for pair in pairs_of(job.standing(KEY)) if pair.kind == lobe and pair.complete]
    if not whole or not frames(job):
        return None
    card_middle = _card_centerline(job, lobe)
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


def _card_centerline(job: Job, lobe: str) -> float | None:
    if job.card is None:
        return None
    if lobe == "intake":
        return job.card.card.intake_centerline_deg
    middle = job.card.card.exhaust_centerline_deg
    return None if middle is None else -middle


def true_angle(job: Job, reading: Reading) -> float:
    """A wheel reading as a crank angle from the true top, by the frame it was taken in."""
    frame = frame_at(job, reading.seq)
    assert frame is not None
    zero = frame.top.zero_error_deg if frame.top else 0.0
    return crank_angle(frame.mounted, reading.text, reading.side) - zero


def _span(job: Job, pair: Pair, target_deg: float) -> Span:
    assert pair.before is not None and pair.after is not None
    before, after = true_angle(job, pair.before), true_angle(job, pair.after)
    width = (after - before) % 360
    middle = near(before + width / 2, target_deg)
    return Span(pair, middle - width / 2, middle + width / 2, pair.drop_mm or 0.0)


def _uncertainty(job: Job, spans: tuple[Span, ...], spread_deg: float) -> tuple[float, float]:
    squares = 0.0
    top_deg = 0.0
    for span in spans:
        assert span.pair.before is not None
        frame = frame_at(job, span.pair.before.seq)
        assert frame is not None
        slope = 2 * span.drop_mm / ((span.after_deg - span.before_deg) / 2)
        by_dial = frame.mounted.dial_division_mm / 2 / slope
        squares += (math.hypot(frame.mounted.division_deg / 2, by_dial) ** 2) / 2
        top_deg = max(top_deg, frame.top.uncertainty_deg if frame.top else 0.0)
    return max(math.sqrt(squares) / len(spans), spread_deg / 2), top_deg


def _doubts(job: Job, lobe: str, whole: list[Pair], error_deg: float | None) -> list[str]:
    told = []
    for pair in whole:
        for reading in pair.readings:
            frame = frame_at(job, reading.seq)
            if frame is None or frame.top is None:
                told.append(f"True TDC was not found before {describe(reading)} was read: find it, then re-read.")
            elif frame.top.doubts:
                told.append("The TDC readings contradict each other: settle true TDC first.")
            if reading.approach != "forward":
                told.append(f"{describe(reading).capitalize()} was approached backward: re-read it turning forward.")
    if error_deg is not None and abs(error_deg) > LIKELY_ERROR_DEG:
        told.append(
            f"The {lobe} comes out {format_angle(abs(error_deg))} deg from the card. More likely the wrong lobe, the wrong "
            "side of a dead center, or a whole tooth: re-read it."
        )
    return told


def prompt(job: Job, choice: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next.

    Parameters
    ----------
    job
        The job.
    choice
        `lobe` and `drop`, as the user set them.

    Returns
    -------
    Prompt or None
        None where no wheel is set up.
    """
    if job.wheel is None:
        return None
    pairs = pairs_of(job.standing(KEY))
    waiting = _waiting(pairs, choice.get("lobe", ""))
    place = waiting.missing or "before"
    earlier = [pair.drop for pair in pairs if pair.drop]
    used = {pair.drop for pair in pairs if pair.kind == waiting.kind}
    usual = earlier[0] if earlier and earlier[0] not in used else None
    drop = waiting.drop or choice.get("drop") or usual or _usual_drop(job.unit, len(used))
    if place == "before":
        instruction = f"Zero the dial at maximum {waiting.kind} lift. Back off, then come up forward to {drop} down."
        hint = "Then read the wheel. Back off well past it first: that takes the drive's slack out."
    else:
        instruction = f"Turn forward past maximum lift until the dial is {drop} down again. Read the wheel."
        hint = "Overshot? Back off well past the peak and come up forward again: that takes the slack out."
    return Prompt(
        slot=slot_of(waiting.kind, waiting.number, place),
        label=f"{waiting.kind.capitalize()}, {drop} {place} maximum",
        instruction=instruction,
        hint=hint,
        side=_likely_side(job, waiting.kind, place, drop),
        drop=drop,
        drop_fixed=waiting.drop is not None,
        extra={"lobe": waiting.kind},
    )


def _waiting(pairs: list[Pair], lobe: str) -> Pair:
    order = [lobe] if lobe in LOBES else list(LOBES)
    for wanted in order:
        open_pair = next((pair for pair in pairs if pair.kind == wanted and not pair.complete), None)
        if open_pair:
            return open_pair
        if not any(pair.kind == wanted for pair in pairs):
            return Pair(wanted, 1)
    fewest = min(order, key=lambda name: sum(pair.kind == name for pair in pairs))
    return Pair(fewest, max(pair.number for pair in pairs if pair.kind == fewest) + 1)


def _usual_drop(unit: LengthUnit, already: int) -> str:
    steps = ("0.050", "0.100", "0.020") if unit is LengthUnit.INCH else ("1.0", "2.0", "0.5")
    return steps[already % len(steps)]


def _likely_side(job: Job, lobe: str, place: str, drop: str) -> str | None:
    assert job.wheel is not None
    card_middle = _card_centerline(job, lobe)
    middle = USUAL_CENTERLINE_DEG[lobe] if card_middle is None else card_middle
    half = 45.0
    drawn = job.card.lobe(lobe) if job.card else None
    try:
        drop_mm = parse_length(drop, job.unit)
        if drawn and 0 < drop_mm < drawn.max_lift_mm:
            half = half_width_at(drawn, drawn.max_lift_mm - drop_mm)
    except Impossible:
        pass
    side: Side | None = as_read(job.wheel.wheel, middle + (-half if place == "before" else half))[1]
    return side.value if side else None


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    Impossible
        With the field at fault: `text`, `side` or `drop`.
    """
    if job.wheel is None:
        raise Impossible("text", "Set up the wheel first: the reading cannot be placed without it.")
    angle = crank_angle(job.wheel, entry.text, entry.side)
    if not entry.drop:
        raise Impossible("drop", "Type how far below maximum lift the dial is, such as 0.050 or 1.27mm.")
    lobe, number, place = parts_of(entry.slot)
    try:
        drop_mm = parse_length(entry.drop, entry.unit)
    except Impossible as error:
        raise Impossible("drop", error.message) from error
    drawn = job.card.lobe(lobe) if job.card else None
    if drop_mm <= 0:
        raise Impossible("drop", f"A drop of “{entry.drop}” is not below maximum lift. Use about 0.050 in or 1 mm.")
    if drawn and drop_mm >= drawn.max_lift_mm:
        raise Impossible("drop", f"“{entry.drop}” down is off the lobe: its whole lift is {drawn.max_lift_mm:.2f} mm.")
    partner = next((p for p in pairs_of(job.standing(KEY)) if (p.kind, p.number) == (lobe, number)), None)
    other = partner and (partner.after if place == "before" else partner.before)
    if other and (crank_angle(job.wheel, other.text, other.side) - angle) % 360 == 0:
        raise Impossible(
            "text",
            f"“{entry.text}” is where the other side of the lobe was read: turn past maximum lift and read again.",
        )


def find(job: Job) -> Finding:
    """Judge the cam's phase against the card."""
    try:
        found = [lobe for name in LOBES if (lobe := measured(job, name))]
    except Impossible as error:
        return Finding(Verdict.UNSURE, error.message, "Cannot tell", "Void the reading and take it again.")
    if not found:
        begun = bool(job.standing(KEY))
        needs = "Set up the wheel and find true TDC first." if job.wheel is None else "Read both sides of maximum lift."
        return Finding(Verdict.OPEN, "No lobe is read on both sides yet.", "", needs, begun=begun, cautions=CAUTIONS)
    lines = rows(job, found)
    doubts = tuple(dict.fromkeys(doubt for lobe in found for doubt in lobe.doubts))
    judged = [lobe for lobe in found if lobe.error_deg is not None]
    if not judged:
        told = ", ".join(f"{lobe.lobe} {format_angle(lobe.as_card_states_deg)}" for lobe in found)
        return Finding(
            Verdict.UNSURE,
            f"Measured centerline: {told}. The card gives none to compare with.",
            "Cannot tell",
            "Add a centerline, or what it follows from, to the spec card.",
            cautions=CAUTIONS,
            rows=lines,
            doubts=doubts,
        )
    return _judged(job, judged, lines, doubts, _apart(job))


def late_by(lobes: list[Measured]) -> tuple[float, float]:
    """Phase error and its uncertainty, crank degrees, from one lobe or the mean of both."""
    errors = [lobe.error_deg for lobe in lobes if lobe.error_deg is not None]
    by_readings = math.sqrt(sum(lobe.by_readings_deg**2 for lobe in lobes)) / len(lobes)
    return sum(errors) / len(errors), math.hypot(by_readings, max(lobe.by_top_deg for lobe in lobes))


_Judged = tuple[Verdict, float, float, list[Measured]]


def _by_cam(job: Job, lobes: list[Measured], apart: bool) -> list[_Judged]:
    judged = []
    for group in [[lobe] for lobe in lobes] if apart else [lobes]:
        error, doubt = late_by(group)
        judged.append((Verdict(judge(error, doubt, job.tolerance_deg).value), error, doubt, group))
    return judged


def _headline(judged: list[_Judged]) -> _Judged:
    return min(judged, key=lambda one: (WORST_FIRST.index(one[0]), -abs(one[1])))


def gap(job: Job) -> tuple[float, float] | None:
    """Phase error and uncertainty under the verdict, crank degrees; None where the card or the readings give none."""
    lobes = [lobe for name in LOBES if (lobe := measured(job, name)) and lobe.error_deg is not None]
    if not lobes:
        return None
    _, error, doubt, _ = _headline(_by_cam(job, lobes, _apart(job)))
    return error, doubt


def _apart(job: Job) -> bool:
    return job.engine is not None and job.engine.separate_cams


def _judged(job: Job, lobes: list[Measured], lines: tuple[Row, ...], doubts: tuple[str, ...], apart: bool) -> Finding:
    verdicts = _by_cam(job, lobes, apart)
    verdict, error, doubt, group = _headline(verdicts)
    cam = f"the {group[0].lobe} cam" if apart else "the cam"
    way = "late" if error > 0 else "early"
    sentences = [_against_card(lobe) for lobe in lobes]
    moves = [
        f"{correction_in_words(err).capitalize()}{f' on the {grp[0].lobe} cam' if apart else ''}."
        for _, err, _, grp in verdicts
    ]
    split = _split(lobes) if not apart and len(lobes) == 2 else ""
    if doubts:
        verdict = Verdict.UNSURE
    title = {
        Verdict.IN: f"In: {cam} is where the card wants it",
        Verdict.OUT: f"Out: {cam} is {way}",
        Verdict.UNSURE: f"Cannot tell: {cam} reads {way}",
    }[verdict]
    unread = [name for name in LOBES if name not in {lobe.lobe for lobe in lobes}]
    if verdict is Verdict.UNSURE:
        next_step = doubts[0] if doubts else _what_to_reread(lobes)
    elif unread:
        next_step = f"Read the {unread[0]} as well."
    else:
        next_step = "Print the build sheet." if verdict is Verdict.IN else "Move the cam, then degree it again."
    return Finding(
        verdict,
        " ".join(filter(None, [*sentences, *([] if verdict is Verdict.IN else moves), split])),
        title,
        next_step,
        number=format_angle(abs(error)),
        unit="deg retarded" if error > 0 else "deg advanced",
        uncertainty=f"± {format_angle(doubt)}",
        cautions=CAUTIONS,
        rows=lines,
        doubts=doubts,
    )


def _against_card(lobe: Measured) -> str:
    assert lobe.error_deg is not None
    late = "late" if lobe.error_deg > 0 else "early"
    card_deg = lobe.as_card_states_deg - (lobe.error_deg if lobe.lobe == "intake" else -lobe.error_deg)
    return (
        f"{lobe.lobe.capitalize()} centerline {format_angle(lobe.as_card_states_deg)} against "
        f"{format_angle(card_deg)} on the card, {format_angle(abs(lobe.error_deg))} {late}."
    )


def _split(lobes: list[Measured]) -> str:
    intake, exhaust = lobes
    assert intake.error_deg is not None and exhaust.error_deg is not None
    wider = (intake.error_deg - exhaust.error_deg) / 2
    if abs(wider) <= max(0.5, (intake.uncertainty_deg + exhaust.uncertainty_deg) / 2):
        return ""
    return (
        f"The lobe separation is {format_angle(abs(wider))} cam deg {'wider' if wider > 0 else 'narrower'} than the "
        "card's: moving the cam cannot cure that; look at the grind or the readings."
    )


def _what_to_reread(lobes: list[Measured]) -> str:
    widest = max(lobes, key=lambda lobe: lobe.uncertainty_deg)
    if widest.spread_deg / 2 >= widest.uncertainty_deg * 0.7:
        return f"The drops of the {widest.lobe} disagree: re-read them."
    return f"Too near the limit for this wheel: re-read the {widest.lobe} before and after, and TDC, to a finer part."


def expected_events(job: Job, found: list[Measured]) -> Events | None:
    """Where the card's events lie on this engine, if the grind's durations are true."""
    if job.card is None or job.card.events is None or not found:
        return None
    errors = {lobe.lobe: lobe.error_deg for lobe in found if lobe.error_deg is not None}
    if not errors:
        return None
    either = next(iter(errors.values()))
    return move(job.card.events, -errors.get("intake", either), -errors.get("exhaust", either))


def rows(job: Job, found: list[Measured]) -> tuple[Row, ...]:
    """Card beside measured, and the events that follow if the durations are true."""
    lines = []
    by_name = {lobe.lobe: lobe for lobe in found}
    for name in LOBES:
        if name in by_name:
            lobe = by_name[name]
            card_middle = _card_centerline(job, name)
            stated = None if card_middle is None else abs(card_middle)
            lines.append(_row(f"{name.capitalize()} centerline", stated, lobe.as_card_states_deg))
            if len(lobe.spans) > 1:
                drops = ", ".join(
                    f"{s.pair.drop}: {format_angle(abs(m))}"
                    for s, m in zip(lobe.spans, lobe.midpoints_deg, strict=True)
                )
                lines.append(Row(f"  middle by drop: {drops}", "", "", format_angle(lobe.spread_deg)))
    if len(by_name) == 2:
        separation = sum(lobe.as_card_states_deg for lobe in found) / 2
        stated = job.card.card.lobe_separation_cam_deg if job.card else None
        lines.append(_row("Lobe separation", stated, separation))
    events = expected_events(job, found)
    if events and job.card and job.card.events:
        both = len(by_name) == 2 or not _apart(job)
        for name, field in (("IO", "io_btdc_deg"), ("IC", "ic_abdc_deg"), ("EO", "eo_bbdc_deg"), ("EC", "ec_atdc_deg")):
            if both or ("intake" if name[0] == "I" else "exhaust") in by_name:
                row = _row(f"{name}, if the duration is true", getattr(job.card.events, field), getattr(events, field))
                lines.append(replace(row, inferred=True))
    return tuple(lines)


def _row(label: str, card_deg: float | None, measured_deg: float) -> Row:
    if card_deg is None:
        return Row(label, "", format_angle(measured_deg))
    difference = format_angle(measured_deg - card_deg)
    sign = "" if difference[0] == "−" or difference == "0.0" else "+"
    return Row(label, format_angle(card_deg), format_angle(measured_deg), f"{sign}{difference}")


def describe(reading: Reading) -> str:
    """Say what a reading of this station was of."""
    lobe, _, place = parts_of(reading.slot)
    return f"{lobe}, {reading.drop} {place} max"
