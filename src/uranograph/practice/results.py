"""How near the truth an exercise came: its result, by what it is scored by."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from uranograph.bench.finding import Finding, Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.engine import backlash, end_play, positions, runout, tdc
from uranograph.phase import banks, judgment
from uranograph.practice.exercises import Goal
from uranograph.practice.messages import say
from uranograph.practice.planting import NAMED, drawn_faults
from uranograph.practice.readings import ReadingTruth, truths
from uranograph.practice.session import NAMES, Done, Practice
from uranograph.world import truth
from uranograph.world.state import World

# Within the first a result is full, and so much further off it is nothing: crank degrees, and mm.
GOOD_DEG, LOST_DEG = 0.3, 2.0
GOOD_MM, LOST_MM = 0.01, 0.04
# Cams are placed within this, crank degrees.
PLACED_DEG = 0.7
# How a station stands, by its key.
Find = Callable[[Job, str], Finding]


@dataclass(frozen=True)
class Result:
    """A result from 0 to 1, None where nothing was found; what was so and what was found, in words."""

    share: float | None
    truth: str
    found: str


@dataclass(frozen=True)
class Case:
    """A practice job that is held against its engine, as it stands in the end."""

    practice: Practice
    job: Job
    done: Sequence[Done]
    world: World
    find: Find


def result_of(case: Case) -> Result:
    """What an exercise came to.

    Parameters
    ----------
    case
        The job and its engine.

    Returns
    -------
    Result
        By the exercise's goal.
    """
    return _OF_GOAL[case.practice.exercise.goal](case)


def _near(off: float, good: float, lost: float) -> float:
    return max(0.0, min(1.0, 1 - (off - good) / lost))


def _top(case: Case) -> Result:
    true = case.world.state.wheel.zero_deg
    frames = [frame for frame in tdc.frames(case.job) if frame.top]
    words = say("true-zero", deg=abs(true), side=_side(true))
    if not frames or frames[-1].top is None:
        return Result(None, words, say("nothing-found"))
    zero = frames[-1].top.zero_error_deg
    return Result(
        _near(abs(zero - true), GOOD_DEG, LOST_DEG), words, say("found-zero", deg=abs(zero), side=_side(zero))
    )


def _side(deg: float) -> str:
    return "after" if deg > 0 else "before"


def _phase(case: Case) -> Result:
    """How late the cam was said to stand, against how late it stands; where it is to be cured, also how late that is."""
    late = case.world.state.late_deg
    words = say("true-late", deg=abs(late), way=_late_or_early(late))
    try:
        judged = judgment.judged(positions.at_position(case.job))
    except InvalidInput:
        judged = ()
    if not judged:
        return Result(None, words, say("nothing-found"))
    error = judged[0].error_deg
    found = say("found-late", deg=abs(error), way=_late_or_early(error), verdict=banks.find(case.job).title)
    off = abs(error - late)
    if case.practice.exercise.goal is Goal.IN:
        off = max(off, abs(late) - PLACED_DEG)
    return Result(_near(off, GOOD_DEG, LOST_DEG), words, found)


def _late_or_early(deg: float) -> str:
    return "late" if deg > 0 else "early"


def _in_mm(true: float, found: float | None, words: str) -> Result:
    told = say(f"true-{words}", mm=true)
    if found is None:
        return Result(None, told, say("nothing-found"))
    return Result(_near(abs(found - true), GOOD_MM, LOST_MM), told, say("found-mm", mm=found))


def _runout(case: Case) -> Result:
    shaft = runout.measured(case.job)
    true = case.world.parts.seat.total_mm(case.world.state.runout_left)
    return _in_mm(true, shaft.total_mm if shaft else None, "runout")


def _play(case: Case) -> Result:
    play = end_play.measured(case.job, "cam")
    true = case.world.state.plays_mm.get("cam", case.world.parts.thrusts["cam"].play_mm)
    return _in_mm(true, play.middle_mm if play else None, "play")


def _faces(case: Case) -> Result:
    """The play as it was measured, and whether it came into what is allowed with nothing spoiled."""
    measured = _play(case)
    share = measured.share
    if share is not None and (truth.end_play(case.world, "cam") is truth.Truth.OUT or case.world.state.harm):
        share /= 4
    return Result(share, measured.truth, measured.found)


def _backlash(case: Case) -> Result:
    found = backlash.measured(case.job)
    return _in_mm(case.world.parts.mesh.tightest()[0], found.min_mm if found else None, "tightest")


def _heat(case: Case) -> Result:
    verdict = case.find(case.job, "gear-fit").verdict
    needed = 20 + case.world.parts.fit.needed_c
    words = say("true-heat", c=needed, most=case.world.parts.fit.limit_c)
    if not case.world.state.gear_on:
        return Result(None, words, say("gear-not-on"))
    home = case.world.state.gear_home and "gear-spoiled" not in case.world.state.harm
    share = (0.6 if home else 0.0) + (0.4 if home and verdict is Verdict.IN else 0.0)
    return Result(share, words, say("gear-home" if home else "gear-not-home"))


def _marks(case: Case) -> Result:
    finding = case.find(case.job, "marks")
    off = case.world.state.teeth_off
    dot = case.world.parts.dot_off_teeth
    teeth = "one tooth" if abs(off) == 1 else f"{abs(off)} teeth"
    words = (
        say("true-dot") if dot else say("true-teeth", teeth=teeth, way=_late_or_early(off)) if off else say("true-on")
    )
    if finding.verdict is Verdict.OPEN:
        return Result(None, words, say("nothing-found"))
    right = off == 0
    share = (0.6 if right else 0.0) + (0.4 if right and finding.verdict is Verdict.IN else 0.0)
    return Result(share, words, finding.title)


def _valves(case: Case) -> Result:
    """Both gaps as they were read, and that the one that comes too near was named."""
    own = [each for each in _read_gaps(case) if abs(each.eye) <= GOOD_MM + LOST_MM]
    close = {kind: truth.clearance(case.world.but(taken_off=frozenset()), 2.0, kind) for kind in ("intake", "exhaust")}
    named = next((kind for kind, found in close.items() if found is truth.Truth.OUT), "intake")
    words = say("true-valve", kind=named)
    finding = case.find(case.job, "piston-valve")
    if not own:
        return Result(None, words, say("nothing-found"))
    read = len({each.reading.spot.kind for each in own}) / 2
    share = min(1.0, read) * (1.0 if finding.verdict is Verdict.OUT else 0.4)
    return Result(share, words, finding.title)


def _read_gaps(case: Case) -> list[ReadingTruth]:
    return [each for each in truths(case.practice, case.job, case.done) if each.reading.spot.place == "gap"]


def _cause(case: Case) -> Result:
    said = [each.text for each in case.job.active_readings("wrong", "found")]
    words = say("true-slipped", deg=abs(case.world.state.gear_slipped_deg))
    if not said:
        return Result(None, words, say("nothing-found"))
    return Result(float(said[-1] == "slipped"), words, say("found-cause", cause=said[-1]))


def named(done: Sequence[Done]) -> tuple[str, ...]:
    """The faults that were named at the end; those of the last naming."""
    times = [each.at for each in done if each.act.kind == NAMES]
    return tuple(sorted(each.act.on for each in done if each.act.kind == NAMES and each.at == times[-1]))


def _faults(case: Case) -> Result:
    true = drawn_faults(case.practice.seed, case.practice.exercise.faults)
    words = say("true-faults", faults="; ".join(NAMED[each] for each in true))
    found = named(case.done)
    if not found:
        return Result(None, words, say("nothing-named"))
    right = len(set(found) & set(true))
    wrong = len(set(found) - set(true))
    share = max(0.0, (right - wrong / 2) / len(true))
    return Result(share, words, say("named", faults="; ".join(NAMED.get(each, each) for each in found)))


_OF_GOAL: Mapping[Goal, Callable[[Case], Result]] = {
    Goal.TOP: _top,
    Goal.PHASE: _phase,
    Goal.IN: _phase,
    Goal.RUNOUT: _runout,
    Goal.PLAY: _play,
    Goal.FACES: _faces,
    Goal.HEAT: _heat,
    Goal.MARKS: _marks,
    Goal.BACKLASH: _backlash,
    Goal.VALVES: _valves,
    Goal.CAUSE: _cause,
    Goal.FAULTS: _faults,
}
