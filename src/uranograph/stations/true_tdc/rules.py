"""Find TDC: the wheel's error at true top dead center, frame by frame.

A frame is a stretch of the job in which neither wheel nor pointer was moved. Readings of any later station
are corrected by the zero error of the frame they were taken in.
"""

from dataclasses import replace

from uranograph.bench.checks import NEVER_BACKWARD
from uranograph.bench.finding import Finding, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.pairs import Pair
from uranograph.bench.slots import slot_of
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.piston import PistonAt, piston
from uranograph.core.quantities import format_angle, format_length, parse_length
from uranograph.core.tdc import Top, tdc
from uranograph.core.wheel import Turn
from uranograph.engine.degree_wheel import Mounted, crank_angle, wheel_of
from uranograph.engine.description import engine_of
from uranograph.engine.stated_tdc import offset_deg, stated_of
from uranograph.engine.tdc import (
    DROP,
    LEFT,
    PROVED_WITHIN_DEG,
    STOP,
    Frame,
    check_reader,
    frame_now,
    frames,
    given_of,
    left_as_it_is,
    mirrored,
    moved_wrong,
)
from uranograph.engine.tdc_reading import METHOD_WORDS
from uranograph.stations.true_tdc.messages import FINDINGS, say

MAX_APART_DEG = 10.0
# Largest number of pairs asked for in one frame.
MAX_PAIRS = 5
CAUTIONS = (
    "A stop is fitted: turn by hand only, never with the starter. Ignition and fuel off, battery disconnected.",
    "The stop comes out before the crank is turned on, and must not reach an open valve: firing top, or rockers off.",
    NEVER_BACKWARD,
    "The engine's own manual outranks this screen.",
)


def is_exhausted(job: Job) -> bool:
    """Whether another pair would tell nothing more: those read disagree by more than they say, and go into the ± as they are."""
    frame = frame_now(job)
    return frame is not None and len(frame.complete_pairs) >= MAX_PAIRS and all(pair.complete for pair in frame.pairs)


def as_taken(job: Job, entry: Entry) -> Entry:
    """A contact as it was taken: the first of a pair that is read after TDC is the one after it, whichever was asked for."""
    if not (STOP.has(entry.slot) or DROP.has(entry.slot)) or entry.spot.place != "before" or entry.side != "atdc":
        return entry
    frame = frame_now(job)
    method, number, _ = entry.spot
    begun = frame is not None and any((pair.kind, pair.number) == (method, number) for pair in frame.pairs)
    if begun:
        return entry
    approach = "backward" if method == "stop" else "forward"
    return replace(entry, slot=slot_of(method, number, "after"), approach=approach)


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text`, `side` or `second`.
    """
    if entry.slot == LEFT:
        return
    mounted = wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    crank_angle(mounted, entry.text, entry.side)
    check_reader(job, entry)
    method, number, place = entry.spot
    if method == "drop":
        _accept_drop(entry)
    frame = frames(job)[-1]
    partner = next((pair for pair in frame.pairs if (pair.kind, pair.number) == (method, number)), None)
    if partner is None:
        return
    new = Reading(**entry.fields)
    pair = Pair(
        method, number, new if place == "before" else partner.before, new if place == "after" else partner.after
    )
    if not pair.complete:
        return
    try:
        alone = tdc(given_of(job, frame.mounted, [pair]))
    except InvalidInput as error:
        if mirrored(frame.mounted, pair):
            return
        raise error.at("second" if error.field.endswith("drop_mm") else "text") from error
    if frame.top and abs(alone.zero_error_deg - frame.top.zero_error_deg) > MAX_APART_DEG:
        raise InvalidInput(
            "text",
            "pair-far-from-others",
            typed=entry.text,
            top=_shown(alone.zero_error_deg),
            earlier=_shown(frame.top.zero_error_deg),
            furthest_apart_deg=MAX_APART_DEG,
        )


def _accept_drop(entry: Entry) -> None:
    if not entry.second:
        raise InvalidInput("second", "below-tdc-missing")
    try:
        drop = parse_length(entry.second, entry.unit)
    except InvalidInput as error:
        raise error.at("second") from error
    if drop <= 0:
        raise InvalidInput("second", "not-below-tdc", low_mm=1, high_mm=5, drop=entry.second)


def find(job: Job) -> Finding:
    """Say where the true top is on the wheel, and what to do about it."""
    cut = frames(job)
    if not cut and (stated := stated_of(job)).how:
        # A TDC mark on the engine needs no wheel.
        return Finding(Verdict.OPEN, cautions=CAUTIONS, rows=cylinder_rows(job)).judged(
            Verdict.IN, FINDINGS, "as-stated", words=stated.words
        )
    if not cut:
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FINDINGS, "wheel-missing", begun=False)
    frame = cut[-1]
    if any(mirrored(frame.mounted, pair) for pair in frame.complete_pairs):
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.UNSURE, FINDINGS, "contacts-mirrored")
    if frame.trouble:
        return Finding(Verdict.OPEN).judged(Verdict.UNSURE, FINDINGS, "contacts-cannot-be", job.unit, why=frame.trouble)
    if frame.top is None:
        return _without_a_pair(frame)
    if frame.stated is not None:
        return Finding(Verdict.OPEN, cautions=CAUTIONS, rows=cylinder_rows(job)).judged(
            Verdict.IN, FINDINGS, "as-stated", words=frame.stated.words
        )
    return _judged(job, frame, frame.top)


def _without_a_pair(frame: Frame) -> Finding:
    begun = bool(frame.pairs) or frame.after_move
    if frame.after_move:
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FINDINGS, "moved-unproved", begun=True)
    return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FINDINGS, "not-found", begun=begun)


def _judged(job: Job, frame: Frame, top: Top) -> Finding:
    zero = top.zero_error_deg
    doubts = doubts_in_words(job, frame, top)
    base = Finding(
        Verdict.OPEN,
        quantity=Quantity(
            zero,
            top.uncertainty_deg,
            "deg",
            label=("deg before" if zero < 0 else "deg after") + " at true TDC",
            digits=2,
            unsigned=True,
        ),
        cautions=CAUTIONS,
        rows=rows(job, frame, top),
        columns=("", "expected", "half angle", "zero"),
        doubts=doubts,
    )
    if doubts:
        return base.judged(Verdict.UNSURE, FINDINGS, "in-doubt", why=doubts[0])
    if abs(2 * zero) <= PROVED_WITHIN_DEG:
        return base.judged(Verdict.IN, FINDINGS, "proved-after-moving" if frame.after_move else "shows-tdc")
    side = "before" if zero < 0 else "after"
    if left_as_it_is(job, frame):
        return base.judged(Verdict.IN, FINDINGS, "left-as-it-is", zero_deg=zero, side=side)
    pointer, wheel_way = ways_to_move(frame.mounted, zero)
    before = moved_wrong(job)
    if before is not None:
        return base.judged(
            Verdict.UNSURE,
            FINDINGS,
            "moved-wrong-way",
            before_deg=before,
            zero_deg=zero,
            side=side,
            pointer=pointer.value,
            wheel=wheel_way.value,
        )
    return base.judged(
        Verdict.OPEN,
        FINDINGS,
        "found",
        zero_deg=zero,
        side=side,
        pointer=pointer.value,
        wheel=wheel_way.value,
        corrected_deg=top.corrected_deg[-1],
    )


def ways_to_move(mounted: Mounted, zero_error_deg: float) -> tuple[Turn, Turn]:
    """Which way to move the pointer, and which way the wheel on the crank instead; as one faces the wheel.

    The wheel's zero has yet to reach the pointer where the wheel still shows degrees before at the top, so the
    wheel goes on in the running direction on the still crank, or the pointer goes to meet it.

    Parameters
    ----------
    mounted
        The wheel on its engine.
    zero_error_deg
        What the wheel shows at the true top, negative before.

    Returns
    -------
    tuple
        The pointer's way and the wheel's, each the other's opposite.
    """
    with_running = mounted.wheel.faced_rotation()
    wheel_way = with_running if zero_error_deg < 0 else with_running.other
    return wheel_way.other, wheel_way


def doubts_in_words(job: Job, frame: Frame, top: Top) -> tuple[str, ...]:
    """Say which pairs contradict the geometry or the others, and what to look at."""
    sentences = []
    for doubt in top.doubts:
        pair = frame.complete_pairs[doubt.pair]
        if doubt.against == "geometry":
            if top.expected_half_angle_deg is None:
                raise Missing("top.expected_half_angle_deg")
            expected = top.expected_half_angle_deg[doubt.pair]
            if expected is None:
                raise Missing("expected")
            sentences.append(
                say(
                    "pair-against-geometry",
                    number=pair.number,
                    drop=pair.drop,
                    expected_deg=expected,
                    corrected_deg=top.corrected_deg[doubt.pair],
                )
            )
        else:
            sentences.append(say("pair-against-others", number=pair.number, gap_deg=abs(doubt.gap_deg)))
    return tuple(sentences)


def rows(job: Job, frame: Frame, top: Top) -> tuple[Row, ...]:
    """A line for each whole pair: expected half angle, half angle, zero error."""
    lines = []
    for n, pair in enumerate(frame.complete_pairs):
        expected = top.expected_half_angle_deg[n] if top.expected_half_angle_deg else None
        lines.append(
            Row(
                f"{pair.number}. {METHOD_WORDS[pair.kind]}" + (f" {pair.drop}" if pair.drop else ""),
                "" if expected is None else format_angle(expected, 2),
                format_angle(top.corrected_deg[n], 2),
                format_angle(top.zero_errors_deg[n], 2),
            )
        )
    lines += cylinder_rows(job)
    crank = engine.crank if (engine := engine_of(job)) else None
    stops = [top.corrected_deg[n] for n, pair in enumerate(frame.complete_pairs) if pair.kind == "stop"]
    if crank and stops:
        depth = piston(PistonAt(**crank.model_dump(), angle_deg=stops[-1])).drop_mm
        lines.append(Row(say("depth-at-stop"), "", format_length(depth, job.unit)))
    skews = [skew for skew in top.offset_skew_deg or () if skew is not None]
    if skews:
        lines.append(Row(say("pin-offset-effect"), "", "", format_angle(skews[-1], 2)))
    if len(frame.complete_pairs) > 1:
        lines.append(Row(say("spread-of-pairs"), "", "", format_angle(top.spread_deg, 2)))
    if top.dwell_half_angle_deg is not None:
        dial = format_length(frame.mounted.dial_division_mm, job.unit)
        lines.append(Row(f"Dwell, dial to {dial}", "", f"± {format_angle(top.dwell_half_angle_deg, 2)}", ""))
    return tuple(lines)


def cylinder_rows(job: Job) -> tuple[Row, ...]:
    """On which cylinder TDC is, and which is read, where that is not the same."""
    stated = stated_of(job)
    if stated.top_of is None or stated.read_of is None:
        return ()
    label = say("tdc-of-cylinder-read", top=stated.top_of, read=stated.read_of)
    return (Row(label, "", "", format_angle(offset_deg(job))),)


def _shown(zero_error_deg: float) -> str:
    return f"{format_angle(abs(zero_error_deg), 2)} {'before' if zero_error_deg < 0 else 'after'}"


def describe(reading: Reading) -> str:
    """Say what a reading of this station was of."""
    if reading.slot == LEFT:
        return say("wheel-left")
    method, number, place = reading.spot
    return f"pair {number}, {METHOD_WORDS[method]}{f' {reading.second}' if reading.second else ''}, {place}"
