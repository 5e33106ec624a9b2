"""How an exercise was done: what its method is judged by, one check each."""

from collections.abc import Callable, Mapping

from uranograph.core.errors import InvalidInput
from uranograph.engine import backlash, end_play, runout, tdc
from uranograph.phase import next_reading
from uranograph.practice.exercises import Goal
from uranograph.practice.readings import SLACK_DEG, ReadingTruth, truths
from uranograph.practice.results import Case
from uranograph.practice.session import Done, world_of
from uranograph.world import geometry
from uranograph.world.state import World

# Sanded in one go, mm; and how alike both faces stay.
PASS_MM, ALIKE_MM = 0.03, 0.015
TURNS_DEG = 720.0
# At TDC within this, crank degrees.
AT_TOP_DEG = 1.5
PLACES_ROUND = 12


def passed(name: str, case: Case) -> bool:
    """Whether a check of an exercise is passed.

    Parameters
    ----------
    name
        Of the exercise's `checks`.
    case
        The job and its engine.
    """
    return CHECKS[name](case)


def _proof(case: Case) -> bool:
    """Whether both contacts were taken twice, or the first reading and the stop were taken again."""
    if case.practice.exercise.goal is Goal.TOP:
        return any(
            len([pair for pair in frame.pairs if pair.complete]) > 1 or frame.after_move
            for frame in tdc.frames(case.job)
        )
    try:
        return next_reading.proved(case.job)
    except InvalidInput:
        return False


def _forward(case: Case) -> bool:
    read = _read(case)
    return bool(read) and not any(each.lag_deg > SLACK_DEG for each in read)


def _read(case: Case) -> tuple[ReadingTruth, ...]:
    return truths(case.practice, case.job, case.done)


def _when(case: Case, *places: str) -> list[World]:
    """The engine as it stood at each reading of some places."""
    own = (each.reading.at for each in _read(case) if each.reading.spot.place in places)
    return [world_of(case.practice, case.done, at) for at in own]


def _acts(case: Case, kind: str) -> list[Done]:
    return [each for each in case.done if each.act.kind == kind]


def _round_closed(case: Case) -> bool:
    return any(each.came_back_mm is not None for each in runout.rounds(case.job))


def _read_after_truing(case: Case) -> bool:
    trued = _acts(case, "true-shaft")
    return bool(trued) and any(
        each.reading.at > trued[0].at for each in _read(case) if each.reading.spot.place == "dial"
    )


def _limits_first(case: Case) -> bool:
    worlds = _when(case, "travel")
    return bool(worlds) and not any("cam-limits" in each.state.taken_off for each in worlds)


def _three_times(case: Case) -> bool:
    play = end_play.measured(case.job, "cam")
    return play is not None and len(play.travels_mm) >= 3


def _in_passes(case: Case) -> bool:
    sanded = _acts(case, "sand")
    measured = [
        each
        for each in _read(case)
        if sanded and each.reading.spot.place in ("front", "rear") and sanded[0].at <= each.reading.at <= sanded[-1].at
    ]
    return len(sanded) > 1 and bool(measured) and not any(each.act.by > PASS_MM for each in sanded)


def _both_alike(case: Case) -> bool:
    faces = case.world.state.faces_mm
    gone = [faces.get(f"cam-{side}", 0.0) for side in ("front", "rear")]
    return min(gone) > 0 and abs(gone[0] - gone[1]) <= ALIKE_MM


def _temperature_read(case: Case) -> bool:
    return any(each.unit == "C" and not each.words for each in _read(case))


def _on_at_first(case: Case) -> bool:
    return len(_acts(case, "fit-gear")) == 1 and case.world.state.gear_home


def _marks_at_top(case: Case) -> bool:
    """Whether marks were looked at where they meet."""
    looked = [each.at for each in case.job.readings if each.spot.kind.startswith("mesh") and each.void is None]
    worlds = [world_of(case.practice, case.done, at) for at in looked]
    return bool(worlds) and all(_from_top(each) <= AT_TOP_DEG for each in worlds[:1])


def _from_top(world: World) -> float:
    return abs((world.state.crank_deg + 180) % 360 - 180)


def _two_turns(case: Case) -> bool:
    """Two whole turns forward after the gear was set."""
    set_at = max((k for k, each in enumerate(case.done) if each.act.kind == "teeth"), default=-1)
    return sum(each.act.by for each in case.done[set_at + 1 :] if each.act.kind == "turn") >= TURNS_DEG


def _key_read(case: Case) -> bool:
    kinds = {each.spot.kind for each in case.job.readings if each.void is None and each.spot.place == "level"}
    return {"keyway-crank", "keyway-cam"} <= kinds


def _left_by_the_key(case: Case) -> bool:
    return not _acts(case, "teeth")


def _all_round(case: Case) -> bool:
    rocked = [each.reading for each in _read(case) if each.reading.spot.place == "travel"]
    return len({backlash.place_of(each) % 360 for each in rocked}) >= PLACES_ROUND


def _pushed(case: Case) -> bool:
    """Whether every travel was read at the end of the rocking."""
    worlds = _when(case, "travel")
    return bool(worlds) and all(each.state.lever == 1.0 for each in worlds)


def _both_valves(case: Case) -> bool:
    worlds = _when(case, "gap")
    return len({each.state.dial.on for each in worlds}) > 1 and all(_from_top(each) <= AT_TOP_DEG for each in worlds)


def _rockers_off(case: Case) -> bool:
    worlds = _when(case, "gap")
    return bool(worlds) and all("rockers" in each.state.taken_off for each in worlds)


def _looked(case: Case, kind: str) -> list[World]:
    own = [each.at for each in case.job.active_readings("wrong", kind) if each.text != "unseen"]
    return [world_of(case.practice, case.done, at) for at in own]


def _piston_top_inspected(case: Case) -> bool:
    return any(geometry.drop_mm(each.parts, each.state.crank_deg) < 0.05 for each in _looked(case, "marks"))


def _marks_looked_at(case: Case) -> bool:
    return bool(_looked(case, "pair"))


CHECKS: Mapping[str, Callable[[Case], bool]] = {
    "proof": _proof,
    "forward": _forward,
    "round-closed": _round_closed,
    "read-after-truing": _read_after_truing,
    "limits-first": _limits_first,
    "three-times": _three_times,
    "in-passes": _in_passes,
    "both-alike": _both_alike,
    "temperature-read": _temperature_read,
    "on-at-first": _on_at_first,
    "marks-at-top": _marks_at_top,
    "two-turns": _two_turns,
    "key-read": _key_read,
    "left-by-the-key": _left_by_the_key,
    "all-round": _all_round,
    "pushed": _pushed,
    "both-valves": _both_valves,
    "rockers-off": _rockers_off,
    "own-top-looked-at": _piston_top_inspected,
    "marks-looked-at": _marks_looked_at,
}
