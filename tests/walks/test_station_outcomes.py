"""A small sample of every kind of job at made-up engines: no false verdict, nothing stuck, no harm on advice."""

import pytest

from tests.outcomes.builder import Carried
from tests.outcomes.stations import PLAYED, lines, one

# Never used while rules were written.
SEEDS = (7_100_001, 7_100_002)


STATIONS = {
    *("runout", "choice", "end-play", "setting", "backlash", "sprocket"),
    *("gear-fit", "lobe-room", "by-eye", "marks"),
    *("tdc", "degree", "adjust", "piston-valve", "turn-over", "valve-lash", "lock-up", "wrong"),
}


@pytest.fixture(scope="module")
def played() -> list[Carried]:
    return [one((seed, workflow, faults)) for workflow, faults in PLAYED for seed in SEEDS]


def test_nothing_is_stuck_and_everything_asked_can_be_answered(played: list[Carried]) -> None:
    assert [(each.seed, each.workflow, each.failed or each.stuck) for each in played if each.failed or each.stuck] == []


def test_no_verdict_is_false_and_no_advice_does_harm(played: list[Carried]) -> None:
    missed = [line for line in lines(played) if line.false_in or line.false_out or line.harm or line.absent]
    assert missed == []
    assert {line.station for line in lines(played)} == STATIONS


def test_what_was_planted_is_put_right_by_what_the_bench_asks_for(played: list[Carried]) -> None:
    planted = [each for each in played if each.faults]
    still_out = [
        (each.seed, each.workflow, each.faults, key)
        for each in planted
        for key, true in each.truths.items()
        if true == "out"
    ]
    assert len(planted) > 20
    assert still_out == []
