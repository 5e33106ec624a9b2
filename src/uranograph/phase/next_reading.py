"""The next reading: the most informative per keystroke, and what a proof still needs."""

from dataclasses import replace
from typing import TYPE_CHECKING

from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.station import NextReading
from uranograph.engine import positions
from uranograph.engine.cams import KEY, LOBES, banks
from uranograph.engine.tdc import KEY as TDC
from uranograph.engine.tdc import frame_now
from uranograph.phase import answers, events, judgment, lifts, methods, observations, offers, results, set_live, weighed
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.banks import wants_reading
from uranograph.phase.basis import deciding_lobes, rules_of
from uranograph.phase.messages import say
from uranograph.phase.readable import Candidate, Readable, kind_of

if TYPE_CHECKING:
    from uranograph.evidence.covariance import Expected, Seen
    from uranograph.evidence.faults import Suspect, Weighing
    from uranograph.evidence.gain import Gain

# Nats a reading must tell for each reading it costs; how often one place is read at the most; and how sure a proof is.
MIN_GAIN, MIN_GAIN_UNSURE, MIN_GAIN_MOVING, MIN_GAIN_OPEN = 0.012, 0.006, 0.02, 0.0002
PATIENCE = 4
# So many readings beyond each once are asked for at one position, at the most.
MAX_BEYOND = 14
# A drop near the nose, where the peak tells and the flanks do not; and how likely a meaning of the card must be to be read for.
NEAR_DROP, MIN_MEANT = {"inch": "0.020", "mm": "0.5"}, 0.05


@memoized
def next_reading(job: Job) -> NextReading | None:
    """Most informative next reading at this position, after both lobes once; None before that, or if nothing would help.

    Parameters
    ----------
    job
        The whole job, or that of one bank.

    Returns
    -------
    NextReading or None
        What tells most comes first; then, where the verdict is given, what a proof of it lacks. Of several banks the first on
        which any reading would tell; a bank that is not read yet comes before a proof of another.
    """
    by_bank = banks(job)
    if len(by_bank) == 1:
        return _coming(job)
    found = [(own, each) for own in by_bank if (each := next_reading(own)) is not None]
    if not found or (found[0][1].why == "proof" and any(wants_reading(own) for own in by_bank)):
        return None
    own, first = found[0]
    return replace(first, query={**first.query, "bank": str(own.bank)}) if first.station == KEY else first


def _coming(job: Job) -> NextReading | None:
    """Next reading of one bank, or of an engine with a single bank."""
    view = positions.at_position(job)
    found, weighing = observations.gathered(view), weighed.weighed(view)
    if found is None or weighing is None:
        return None
    half = _half_read(view)
    if half is not None:
        return half
    judged, held = judgment.judged(view), weighed.holding(job)
    if swept := _swept_again(view):
        return swept
    waiting = _waiting_lobe(view, found)
    if waiting is not None:
        # A result that is not in leads to the other lobe directly.
        in_already = bool(judged) and judged[0].verdict is Verdict.IN and not results.doubts(view)
        return NextReading(KEY, _first_of(view, waiting), "other-lobe", say("why-other-lobe")) if in_already else None
    if not judged:
        # The readings do not form a complete lobe; the question says why.
        return None if held is None or _is_answered(view, held) else _ask(view, held)
    left = MAX_BEYOND - _read_beyond(view, found)
    readable = Readable(view, found)
    could, expected = readable.within(left), replace(found.expected, width_deg=readable.widths)
    verdict = judgment.verdict_of(view, judged, results.doubts(view))
    move = next((offer for cam in offers.cams(job) if (offer := offers.better_than_now(job.full_job, cam))), None)
    given = move is not None or verdict in (Verdict.IN, Verdict.OUT)
    if not given and held is None and left > 1 and (other := _other_kind(view, found, weighing)):
        return other
    if could:
        told = _gains(view, found, could, expected, judged, move)
        weigh = 0.0 if given and move is None else 1.0
        worth = [(gain.faults + weigh * gain.verdict) / each.cost for gain, each in zip(told, could, strict=True)]
        most = max(range(len(could)), key=worth.__getitem__)
        # While in or out is undecided and nothing else blocks it, any reading that narrows it is worth taking.
        unsure = MIN_GAIN_OPEN if held is None else MIN_GAIN_UNSURE
        least = MIN_GAIN_MOVING if move is not None else MIN_GAIN if given else unsure
        # The more repeats there are, the more informative another must be.
        further = 0 if least == MIN_GAIN_OPEN else _further(found)
        if worth[most] >= least * (1 + further / PATIENCE):
            settles = weigh * told[most].verdict > told[most].faults
            words = _why(told[most], settles)
            return NextReading(could[most].station, could[most].query, "settles" if settles else "parts", words)
        lacking = _lacking(found.readings) if given else []
        wanted = next((each for each in could if lacking and _same(each.seen, lacking[0])), None)
        if wanted is not None:
            return NextReading(wanted.station, wanted.query, "proof", _why_proof(wanted.seen))
    if held is None or _is_answered(view, held):
        return None
    return _ask(view, held)


def _is_answered(job: Job, held: "Suspect") -> bool:
    """Whether a question was answered already, either way."""
    return answers.settled(job, held.code) or answers.confirmed(job, held.code)


def _ask(job: Job, held: "Suspect") -> NextReading:
    """Put the question that holds the verdict."""
    return NextReading(KEY, question(job, held), "question", say("why-question"))


def question(job: Job, asked: "Suspect") -> dict[str, str]:
    """How a question is put at its station."""
    return {"method": "asked", "code": asked.code, "where": weighed.where(job, asked)}


def _swept_again(job: Job) -> NextReading | None:
    """Repeat of a sweep point that is off its curve."""
    for lobe in LOBES:
        swept = sweeps.swept(job, lobe)
        for reading, guess in swept.suspects if swept is not None else ():
            if reading.instrument != sweeps.FROM_FILE and not answers.settled(job, "typing-slip"):
                query = {"method": "sweep", "lobe": lobe, "again": str(reading.seq)}
                return NextReading(KEY, query, "parts", say("why-off-the-curve", guess=guess))
    return None


def _further(found: observations.Observations) -> int:
    """How many readings are beyond one of each place."""
    return len(found.readings) - len({each.place for each in found.readings if each.on_wheel})


def _read_beyond(job: Job, found: observations.Observations) -> int:
    """How many readings were taken at this position once every lobe that decides was read: all that was asked for since."""
    complete = [min(pair) for lobe in deciding_lobes(job) if (pair := _completed(found, lobe))]
    since = max(complete, default=0)
    by_hand = [each for each in found.readings if each.seq > since and each.own_deg is None]
    return sum(2 if each.kind == "stop" else 1 for each in by_hand)


def _completed(found: observations.Observations, lobe: str) -> list[int]:
    """When both sides of a lobe were read first, by each kind of reading."""
    seqs = []
    for kind in ("event", "lift"):
        own = [each for each in found.readings if (each.kind, each.lobe) == (kind, lobe)]
        first = [min((each.seq for each in own if each.side == side), default=None) for side in (-1, 1)]
        if first[0] is not None and first[1] is not None:
            seqs.append(max(first[0], first[1]))
    return seqs


def _other_kind(job: Job, found: observations.Observations, weighing: "Weighing") -> NextReading | None:
    """Reading of another kind that would settle how an asymmetric lobe's events lie to its peak."""
    of_peak = weighing.of_peak()
    for lobe in deciding_lobes(job):
        kinds = {each.kind for each in found.readings if each.lobe == lobe}
        if "event" in kinds and "lift" not in kinds and of_peak > MIN_MEANT:
            query = {"method": "lifts", "lobe": lobe, "drop": NEAR_DROP[job.unit.value]}
            return NextReading(KEY, query, "settles", say("why-lifts-settle"))
        if "lift" in kinds and "event" not in kinds and of_peak < 1 - MIN_MEANT and _read_twice(found, lobe):
            return NextReading(
                KEY, {"method": "events", "event": kind_of(lobe, -1)}, "settles", say("why-events-settle")
            )
    return None


def _read_twice(found: observations.Observations, lobe: str) -> bool:
    """Whether a lobe was read at two drops: one more tells little of how its events lie."""
    return len({each.drop for each in found.readings if each.kind == "lift" and each.lobe == lobe}) > 1


def _gains(
    job: Job,
    found: observations.Observations,
    could: "list[Candidate]",
    expected: "Expected",
    judged: tuple[judgment.JudgedCam, ...],
    move: offers.Offer | None,
) -> "tuple[Gain, ...]":
    """Information of each candidate reading about faults and verdict, or about the position after an advised move."""
    from uranograph.evidence.gain import gains

    moved = [one for one in judged if move is not None and one.cam in set_live.members(job, move.cam)]
    first = moved[0] if moved else judged[0]
    lobes = tuple(result.lobe for result in first.lobes)
    ahead = sum(found.ahead_deg[lobe] for lobe in lobes) / len(lobes)
    tolerance = rules_of(job).tolerance_deg
    if move is not None:
        ahead, tolerance = ahead - move.shift_of(first.cam), min(tolerance, offers.AIM_DEG)
    next_reading, wrong = tuple(each.seen for each in could), weighed.false_verdict(job)
    return gains(found.readings, expected, found.setup, next_reading, tolerance, first.cam, lobes, ahead, wrong)


def is_exhausted(job: Job) -> bool:
    """Whether every lobe that decides is read, and no further reading would tell enough; on every bank."""
    by_bank = banks(job)
    if len(by_bank) > 1:
        return all(is_exhausted(own) for own in by_bank)
    view = positions.at_position(job)
    found = observations.gathered(view)
    return (
        found is not None
        and _waiting_lobe(view, found) is None
        and bool(judgment.judged(view))
        and next_reading(job) is None
    )


def proved(job: Job) -> bool:
    """Whether a verdict is given, every lobe that decides was read, and stop and first reading again agree; on every bank."""
    by_bank = banks(job)
    if len(by_bank) > 1:
        return all(proved(own) for own in by_bank)
    view = positions.at_position(job)
    found, weighing = observations.gathered(view), weighed.weighed(view)
    if found is None or weighing is None or weighed.held(job):
        return False
    cams = judgment.judged(view)
    verdict = judgment.verdict_of(view, cams, results.doubts(view)) if cams else Verdict.UNSURE
    return verdict in (Verdict.IN, Verdict.OUT) and not _lacking(found.readings) and _waiting_lobe(view, found) is None


def _same(one: "Seen", other: "Seen") -> bool:
    """Whether two are readings of one place; the two sides of an equal lift are read together."""
    return one.place == other.place or (
        one.kind == other.kind == "lift" and (one.lobe, one.drop) == (other.lobe, other.drop)
    )


def _lacking(readings: "tuple[Seen, ...]") -> "list[Seen]":
    """Readings to repeat for a proof: the first reading of a lobe, then the stop."""
    on_lobes = [each for each in readings if each.kind in ("event", "lift")]
    first, lacking = on_lobes[0], []
    if sum(each.place == first.place for each in on_lobes) < 2:
        lacking.append(first)
    last = max(each.seq for each in on_lobes)
    stops = [each for each in readings if each.kind == "stop" and each.frame == on_lobes[-1].frame >= 0]
    if stops and stops[-1].seq < last:
        lacking.append(stops[-1])
    return lacking


def _half_read(job: Job) -> NextReading | None:
    """The other half of a pair that was begun."""
    frame = frame_now(job)
    if frame is None or any(not pair.complete for pair in frame.pairs):
        return NextReading(TDC, {}, "half-read", say("why-other-half"))
    begun = next((pair for pair in lifts.lift_pairs(job) if not pair.complete), None)
    if begun is not None:
        return NextReading(KEY, {"method": "lifts", "lobe": begun.kind}, "half-read", say("why-other-half"))
    kinds = {reading.spot.kind for reading in events.EVENT.taken(job)}
    lobes = {events.LOBE[kind] for kind in kinds}
    event = next((kind for kind in events.KINDS if events.LOBE[kind] in lobes and kind not in kinds), None)
    if event is None:
        return None
    return NextReading(KEY, {"method": "events", "event": event}, "half-read", say("why-other-half"))


def _waiting_lobe(job: Job, found: observations.Observations) -> str | None:
    """A lobe that decides and is not read yet."""
    lobes = deciding_lobes(job)
    return next((lobe for lobe in lobes if lobe in found.expected.middle_deg and lobe not in found.lobes), None)


def _first_of(job: Job, lobe: str) -> dict[str, str]:
    """How the first reading of a lobe is asked for, by the method that the other one was read by."""
    method = methods.chosen_method(job, {})
    if method == "events":
        return {"method": method, "event": next(kind for kind in events.KINDS if events.LOBE[kind] == lobe)}
    return {"method": method, "lobe": lobe}


def _why_proof(seen: "Seen") -> str:
    return say("why-stop-again") if seen.kind == "stop" else say("why-first-again")


def _why(gain: "Gain", settles: bool) -> str:
    if settles:
        return say("why-settles")
    one, other = (weighed.name_of(code) for code in gain.parts)
    return say("why-parts", one=one, other=other)
