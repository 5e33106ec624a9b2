"""True TDC: each span of the log in which the wheel stayed as it was, with the TDC found in it."""

import math
from dataclasses import dataclass

from uranograph.bench.acts import Act
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, coarsest
from uranograph.bench.memo import memoized
from uranograph.bench.pairs import Pair, pairs_of
from uranograph.bench.slots import Grouping, Slot
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.tdc import Top, TopPair, TopPairs, tdc
from uranograph.engine import degree_wheel
from uranograph.engine.degree_wheel import Mounted, crank_angle
from uranograph.engine.description import engine_of
from uranograph.engine.stated_tdc import FORM as STATED
from uranograph.engine.stated_tdc import Stated

KEY = "tdc"


# The wheel stays and its error is subtracted.
LEFT = "left"


STOP = Slot[str](KEY, ("stop",), ("before", "after"))


DROP = Slot[str](KEY, ("drop",), ("before", "after"), together=Grouping.PAIR)


AT_WHEEL = Slot[str](KEY, (LEFT,))


PROVED_WITHIN_DEG = 0.5


@dataclass(frozen=True)
class Frame:
    """A stretch of the job in which the wheel stayed where it was."""

    start_seq: float
    end_seq: float
    mounted: Mounted
    after_move: bool
    pairs: tuple[Pair, ...]
    top: Top | None
    trouble: InvalidInput | None = None
    left: bool = False
    stated: Stated | None = None

    @property
    def complete_pairs(self) -> list[Pair]:
        return [pair for pair in self.pairs if pair.complete]


def frames(job: Job) -> tuple[Frame, ...]:
    """Split a job where the wheel was set up again or moved, oldest frame first.

    Parameters
    ----------
    job
        The job; nothing where no wheel is set up.

    Returns
    -------
    tuple
        One frame for each stretch, with the top found in it where it has a whole pair.
    """
    return _frames(job.full_job)


@memoized
def _frames(job: Job) -> tuple[Frame, ...]:
    starts: list[tuple[float, Mounted | None, bool]] = [(seq, mounted, False) for seq, mounted in _mountings(job)]
    standing = job.active_readings(KEY)
    starts += [(_since(act), None, True) for act in job.acts("wheel")]
    starts.sort(key=lambda start: start[0])
    mounted = None
    cut = []
    for n, (seq, new, moved) in enumerate(starts):
        mounted = mounted if moved else new
        if mounted is None:
            continue
        end = starts[n + 1][0] if n + 1 < len(starts) else math.inf
        here = [reading for reading in standing if seq < reading.seq < end]
        taken = [reading for reading in here if reading.slot != LEFT]
        left = any(reading.slot == LEFT for reading in here)
        stated = _stated_in(job, seq, end)
        cut.append(_frame(job, seq, end, mounted, moved, pairs_of(taken), left, stated))
    return tuple(cut)


@memoized
def _mountings(job: Job) -> tuple[tuple[int, Mounted | None], ...]:
    """Every version of the wheel as set up, with when; one that stood so all along takes the place of the one before it."""
    found: list[tuple[int, Mounted | None]] = []
    for each in job.versions(degree_wheel.FORM.kind):
        mounted = degree_wheel.FORM.read(each.typed, job).value
        if found and mounted is not None and each.typed.get("all_along") == degree_wheel.ALL_ALONG:
            found[-1] = (found[-1][0], mounted)
        else:
            found.append((each.seq, mounted))
    return tuple(found)


def _since(act: Act) -> float:
    """When the wheel was moved: at its entry, or before the reading that showed it."""
    return act.seq if act.since is None else act.since - 0.5


def check_reader(job: Job, entry: Entry) -> None:
    """Refuse an angle by another reader than its TDC was found by: a wheel and each encoder have a zero of their own.

    Raises
    ------
    InvalidInput
        At `text`.
    """
    cut = frames(job)
    contacts = [reading for pair in cut[-1].pairs for reading in pair.readings] if cut else []
    readers = {reading.reader for reading in contacts}
    if not readers or entry.reader in readers:
        return
    before = ", ".join(sorted(readers))
    if not entry.reader:
        raise InvalidInput("text", "tdc-by-an-encoder", before=before)
    if not before:
        raise InvalidInput("text", "tdc-by-eye", now=entry.reader)
    raise InvalidInput("text", "tdc-by-another", before=before, now=entry.reader)


def left_as_it_is(job: Job, frame: Frame) -> bool:
    """Whether the wheel stays as it was found: it was stated, or degreed on, also where a gear was turned since."""
    span = (frame.start_seq, frame.end_seq)
    return frame.left or any(r.void is None and span[0] < r.seq < span[1] for r in job.full_job.written("degree"))


def suspected_move(job: Job) -> int | None:
    """The first reading of the newest pair where that pair alone puts the top elsewhere than those before it: was it moved?"""
    cut = frames(job)
    if not cut or cut[-1].top is None or not cut[-1].complete_pairs:
        return None
    whole = cut[-1].complete_pairs
    newest = max(range(len(whole)), key=lambda n: max(reading.seq for reading in whole[n].readings))
    apart = {doubt.pair for doubt in cut[-1].top.doubts if doubt.against == "others"}
    if newest not in apart or len(whole) < 2:
        return None
    return min(reading.seq for reading in whole[newest].readings)


def _stated_in(job: Job, seq: float, end: float) -> Stated | None:
    """TDC statements since the wheel was last moved."""
    versions = [each for each in job.versions(STATED.kind) if seq < each.seq < end]
    found = STATED.read(versions[-1].typed, job).value if versions else None
    return found if found and found.how else None


def _frame(
    job: Job,
    seq: float,
    end: float,
    mounted: Mounted,
    moved: bool,
    pairs: list[Pair],
    left: bool,
    stated: Stated | None = None,
) -> Frame:
    whole = [pair for pair in pairs if pair.complete]
    top, trouble = None, None
    if whole:
        try:
            top = tdc(given_of(job, mounted, whole))
        except InvalidInput as error:
            trouble = error
    elif stated is not None:
        top = Top(
            zero_error_deg=0.0,
            zero_errors_deg=[],
            corrected_deg=[],
            spread_deg=0.0,
            uncertainty_deg=stated.doubt_deg,
            doubts=[],
        )
    return Frame(seq, end, mounted, moved, tuple(pairs), top, trouble, left, None if whole else stated)


def given_of(job: Job, mounted: Mounted, whole: list[Pair]) -> TopPairs:
    """Complete pairs as the core takes them, with stroke and rod where the engine states them."""
    crank = engine.crank if (engine := engine_of(job)) else None
    contacts = [reading for pair in whole for reading in pair.readings]
    return TopPairs(
        pairs=[_pair(mounted, pair) for pair in whole],
        stroke_mm=crank.stroke_mm if crank else None,
        rod_mm=crank.rod_mm if crank else None,
        pin_offset_mm=crank.pin_offset_mm if crank else None,
        indicator_resolution_mm=mounted.dial_division_mm,
        wheel_resolution_deg=coarsest(contacts, mounted.division_deg),
    )


def _pair(mounted: Mounted, pair: Pair) -> TopPair:
    if pair.before is None or pair.after is None:
        raise Missing("pair.before, pair.after")
    return TopPair(
        before_deg=-crank_angle(mounted, pair.before.text, pair.before.side),
        after_deg=crank_angle(mounted, pair.after.text, pair.after.side),
        # Dial drops belong to equal drops only, not to a stop.
        drop_mm=pair.drop_mm if pair.kind == "drop" else None,
    )


def mirrored(mounted: Mounted, pair: Pair) -> bool:
    """Whether both contacts of a pair are on the wrong side of TDC, so that the wheel is read in the wrong direction."""
    if pair.before is None or pair.after is None:
        return False
    try:
        before, after = (crank_angle(mounted, each.text, each.side) for each in (pair.before, pair.after))
    except InvalidInput:
        return False
    return before > 0 > after


def frame_now(job: Job) -> Frame | None:
    """The frame that readings are taken in now."""
    cut = frames(job)
    return cut[-1] if cut else None


def zero_holds(job: Job) -> bool:
    """Whether true TDC is known for what is read on the wheel next."""
    frame = frame_now(job)
    return frame is not None and frame.top is not None


def frame_at(job: Job, seq: int) -> Frame | None:
    """The frame a reading was taken in."""
    return next((frame for frame in reversed(frames(job)) if frame.start_seq < seq), None)


def moved_wrong(job: Job) -> float | None:
    """Error of the wheel before it was moved, if the error has doubled since: it was moved the wrong way."""
    cut = frames(job)
    if len(cut) < 2 or not cut[-1].after_move or cut[-1].left:
        return None
    was, now = cut[-2].top, cut[-1].top
    if was is None or now is None or abs(was.zero_error_deg) <= PROVED_WITHIN_DEG:
        return None
    off = abs(now.zero_error_deg - 2 * was.zero_error_deg)
    return was.zero_error_deg if off <= math.hypot(2 * was.uncertainty_deg, now.uncertainty_deg) else None
