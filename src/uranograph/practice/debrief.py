"""What was true beside what was read, where each reading went wrong, and how it was done: result and method."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.core.errors import InvalidInput
from uranograph.engine import degree_wheel, positions, tdc
from uranograph.engine.cams import KEY as DEGREE
from uranograph.phase import banks, judgment, next_reading
from uranograph.practice.exercises import Goal
from uranograph.practice.messages import say
from uranograph.practice.session import Done, Practice, world_of
from uranograph.world import geometry
from uranograph.world.state import World

# Points for the result and for the method, and what the parts of the method are worth.
FULL, PROOF, FORWARD, GENTLE = 50, 20, 20, 10
# An eye is off by more than this only by mistake, crank degrees; so is a drive that was come up to backward.
EYE_DEG, SLACK_DEG = 0.5, 0.1
# Within this a result is full, and so much further off it is nothing, crank degrees.
GOOD_DEG, LOST_DEG = 0.3, 2.0


@dataclass(frozen=True)
class ReadingTruth:
    """One reading of the wheel: what was typed, what the wheel stood at, and what went wrong."""

    reading: Reading
    shown_deg: float
    eye_deg: float
    lag_deg: float
    words: str


@dataclass(frozen=True)
class Debrief:
    """How an exercise went.

    Attributes
    ----------
    readings
        Readings of the wheel that count.
    truth, found
        What was so, and what the bench found, in words.
    result, method
        Points, up to 50 each.
    lines
        What the method's points are for.
    harm
        What was bent or spoiled.
    moves, minutes
        How often the cam was moved, and how long it took.
    take_along
        One sentence.
    """

    readings: tuple[ReadingTruth, ...]
    truth: str
    found: str
    result: int
    method: int
    lines: tuple[str, ...]
    harm: tuple[str, ...]
    moves: int
    minutes: int
    take_along: str

    @property
    def score(self) -> int:
        return self.result + self.method


def debrief(practice: Practice, job: Job, done: Sequence[Done]) -> Debrief:
    """Hold a practice job against its engine.

    Parameters
    ----------
    practice, job
        The exercise, and what was written down.
    done
        What was done to the engine.

    Returns
    -------
    Debrief
        Its points and the truth.
    """
    world = world_of(practice, done)
    readings = tuple(_of_reading(practice, job, done, each) for each in _wheel_readings(job))
    off, truth, found = _result(practice, job, world)
    result = 0 if off is None else round(FULL * max(0.0, min(1.0, 1 - (off - GOOD_DEG) / LOST_DEG)))
    backward = [each for each in readings if each.lag_deg > SLACK_DEG and each.reading.station != tdc.KEY]
    proved = _proved(practice, job)
    method = PROOF * proved + (FORWARD if readings and not backward else 0) + (0 if world.state.harm else GENTLE)
    lines = (
        say("proof-taken" if proved else "proof-missing"),
        say("all-forward") if not backward else say("some-backward", count=len(backward)),
        say("nothing-forced") if not world.state.harm else say("something-forced"),
    )
    times = sorted(each.at for each in (*job.entries, *done))
    minutes = round((times[-1] - times[0]).total_seconds() / 60) if times else 0
    worst = max(readings, key=lambda each: max(abs(each.eye_deg), each.lag_deg), default=None)
    return Debrief(
        readings,
        truth,
        found,
        result,
        method if readings else 0,
        lines,
        world.state.harm,
        sum(each.act.kind == "position" for each in done),
        minutes,
        worst.words if worst is not None and worst.words else practice.exercise.learn,
    )


def _wheel_readings(job: Job) -> list[Reading]:
    """Readings of the wheel that are not voided, in order."""
    own = (each for station in (tdc.KEY, DEGREE) for each in job.written(station))
    taken = [each for each in own if isinstance(each, Reading) and each.void is None and _on_wheel(each)]
    return sorted(taken, key=lambda each: each.seq)


def _on_wheel(reading: Reading) -> bool:
    return reading.spot.place in ("before", "after", "forward", "backward") and reading.text != tdc.LEFT


def _of_reading(practice: Practice, job: Job, done: Sequence[Done], reading: Reading) -> ReadingTruth:
    world = world_of(practice, done, reading.at)
    shown = geometry.wheel_shows(world)
    mounted = degree_wheel.wheel_of(job)
    try:
        typed = degree_wheel.crank_angle(mounted, reading.text, reading.side) if mounted else shown
    except InvalidInput:
        typed = shown
    eye = (typed - shown + 180) % 360 - 180
    words = ""
    if abs(eye) > 20:
        words = say("wrong-side-or-way")
    elif abs(eye) > EYE_DEG:
        words = say("misread", deg=abs(eye))
    elif world.state.lag_deg > SLACK_DEG and reading.station != tdc.KEY:
        words = say("came-backward", deg=world.state.lag_deg)
    return ReadingTruth(reading, shown, eye, world.state.lag_deg, words)


def _result(practice: Practice, job: Job, world: World) -> tuple[float | None, str, str]:
    """How far the result is off, crank degrees, None where there is none; the truth and what was found, in words."""
    late = world.state.late_deg
    if practice.exercise.goal is Goal.TOP:
        true = world.state.wheel.zero_deg
        frames = [frame for frame in tdc.frames(job) if frame.top]
        truth = say("true-zero", deg=abs(true), side="after" if true > 0 else "before")
        if not frames or frames[-1].top is None:
            return None, truth, say("nothing-found")
        zero = frames[-1].top.zero_error_deg
        return abs(zero - true), truth, say("found-zero", deg=abs(zero), side="after" if zero > 0 else "before")
    truth = say("true-late", deg=abs(late), way="late" if late > 0 else "early")
    try:
        judged = judgment.judged(positions.at_position(job))
    except InvalidInput:
        judged = ()
    if not judged:
        return None, truth, say("nothing-found")
    error = judged[0].error_deg
    found = say("found-late", deg=abs(error), way="late" if error > 0 else "early", verdict=banks.find(job).title)
    off = abs(error - late) if practice.exercise.goal is Goal.PHASE else max(abs(error - late), abs(late) - 0.7)
    return off, truth, found


def _proved(practice: Practice, job: Job) -> bool:
    """Whether the proof was taken: both contacts twice, or the first reading and the stop again."""
    if practice.exercise.goal is Goal.TOP:
        return any(
            len([pair for pair in frame.pairs if pair.complete]) > 1 or frame.after_move for frame in tdc.frames(job)
        )
    try:
        return next_reading.proved(job)
    except InvalidInput:
        return False
