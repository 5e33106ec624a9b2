"""What was true beside what was read, where each reading went wrong, and how it was done: result and method."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.practice.checks import passed
from uranograph.practice.messages import CHECK_WORDS, say
from uranograph.practice.readings import ReadingTruth, truths
from uranograph.practice.results import Case, Find, named, result_of
from uranograph.practice.session import Done, Practice, world_of

# Points for the result and for the method; what nothing forced is worth of the latter, the checks share the rest.
FULL, GENTLE = 50, 10
# What moves a cam.
MOVES = ("position", "teeth")


@dataclass(frozen=True)
class Debrief:
    """How an exercise went.

    Attributes
    ----------
    readings
        Readings of wheel, dial and thermometer that count.
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
    to_name
        Whether faults are still to be named before the truth is shown.
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
    to_name: bool = False

    @property
    def score(self) -> int:
        return self.result + self.method


def debrief(practice: Practice, job: Job, done: Sequence[Done], find: Find) -> Debrief:
    """Hold a practice job against its engine.

    Parameters
    ----------
    practice, job
        The exercise, and what was written down.
    done
        What was done to the engine.
    find
        How a station stands, by its key.

    Returns
    -------
    Debrief
        Its points and the truth.
    """
    world = world_of(practice, done)
    case = Case(practice, job, done, world, find)
    readings = truths(practice, job, done)
    result = result_of(case)
    checks = {name: passed(name, case) for name in practice.exercise.checks}
    each_worth = (FULL - GENTLE) // len(checks)
    gentle = not world.state.harm
    lines = [
        say("check-passed" if good else "check-missed", what=CHECK_WORDS[name], worth=each_worth)
        for name, good in checks.items()
    ]
    lines.append(say("nothing-forced" if gentle else "something-forced"))
    begun = bool(job.readings)
    times = sorted(each.at for each in (*job.entries, *done))
    minutes = round((times[-1] - times[0]).total_seconds() / 60) if times else 0
    worst = max(readings, key=lambda each: each.worst, default=None)
    return Debrief(
        readings,
        result.truth,
        result.found,
        round(FULL * (result.share or 0.0)),
        (sum(checks.values()) * each_worth + GENTLE * gentle) if begun else 0,
        tuple(lines),
        world.state.harm,
        sum(each.act.kind in MOVES for each in done),
        minutes,
        worst.words if worst is not None and worst.words else practice.exercise.learn,
        bool(practice.exercise.faults) and not named(done),
    )
