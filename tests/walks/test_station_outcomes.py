"""A small sample of every kind of job at made-up engines: no false verdict, nothing stuck, no harm on advice."""

from tests.outcomes.stations import PLAYED, lines, one

# Never used while rules were written.
SEEDS = (7_100_001, 7_100_002)


STATIONS = {
    *("runout", "choice", "end-play", "setting", "backlash", "sprocket"),
    *("gear-fit", "lobe-room", "by-eye", "marks"),
    *("tdc", "degree", "adjust", "piston-valve", "turn-over", "valve-lash", "lock-up", "wrong"),
}


def test_made_up_engines_are_carried_to_an_end_with_no_false_verdict_and_what_was_planted_is_put_right() -> None:
    played = [one((seed, workflow, faults)) for workflow, faults in PLAYED for seed in SEEDS]
    # Nothing is stuck, and everything that is asked can be answered.
    assert [(each.seed, each.workflow, each.failed or each.stuck) for each in played if each.failed or each.stuck] == []
    missed = [line for line in lines(played) if line.false_in or line.false_out or line.harm or line.absent]
    assert missed == []
    assert {line.station for line in lines(played)} == STATIONS
    planted = [each for each in played if each.faults]
    still_out = [
        (each.seed, each.workflow, each.faults, key)
        for each in planted
        for key, true in each.truths.items()
        if true == "out"
    ]
    assert len(planted) > 20
    assert still_out == []
