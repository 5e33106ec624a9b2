"""Events and equal lifts out of a sweep: within what the sweep is good for, said beside what is asked, and counted once."""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.phase.test_methods import Bench
from uranograph.engine.cams import KEY, LOBES
from uranograph.phase import from_sweep, judgment, results
from uranograph.stations import ORDER

WHEEL = {"scale": "half", "mount": "front", "numbers_rise": "clockwise", "division": "1"}


@settings(max_examples=15)
@given(st.floats(-6, 6), st.integers(0, 10_000))
def test_events_and_middles_of_a_sweep_are_those_of_the_engine(error: float, seed: int) -> None:
    bench = Bench(error, WHEEL, seed)
    bench.by_sweep(4)
    for kind in ("io", "ic", "eo", "ec"):
        lobe = bench.truth.lobes["intake" if kind[0] == "i" else "exhaust"]
        at = lobe.centerline_deg + lobe.duration_deg / 2 * (-1 if kind[1] == "o" else 1)
        true = {"io": -at, "ic": at - 180, "eo": -180 - at, "ec": at}[kind]
        assert from_sweep.event_deg(bench.job, kind) == pytest.approx(true, abs=1.0)
    for lobe in LOBES:
        found = from_sweep.middles(bench.job, lobe)
        assert set(found) == {"1", "2", "4"}
        for middle in found.values():
            assert middle == pytest.approx(bench.truth.lobes[lobe].centerline_deg, abs=1.0)


def test_what_the_sweep_says_stands_beside_the_question_and_counts_once() -> None:
    bench = Bench(2.0, WHEEL, 3)
    station = ORDER.by_key[KEY]
    assert "sweep has" not in station.prompt(bench.job, {"method": "events", "event": "io"}).hint
    bench.by_sweep(5)
    io = from_sweep.event_deg(bench.job, "io")
    hint = station.prompt(bench.job, {"method": "events", "event": "io"}).hint
    assert hint.startswith(f"The sweep has IO at {io:.1f}")
    middle = from_sweep.middle_at(bench.job, "intake", 1.27)
    hint = station.prompt(bench.job, {"method": "lifts", "lobe": "intake", "drop": "1.27"}).hint
    assert f"the middle of the intake at {middle:.1f}" in hint
    # Only the sweep is weighed: its events are no readings.
    assert {result.method for result in results.results(bench.job)} == {"sweep"}
    assert judgment.judged(bench.job)
    words = from_sweep.in_words(bench.job)
    assert [each.split(",")[0] for each in words] == ["Out of the intake sweep", "Out of the exhaust sweep"]
    assert f"1: {from_sweep.middle_at(bench.job, 'intake', 1.0):.1f}" in words[0]


def test_without_a_sweep_or_below_its_ramps_nothing_is_said() -> None:
    bench = Bench(0.0, WHEEL, 1)
    assert from_sweep.event_deg(bench.job, "io") is None
    assert from_sweep.middles(bench.job, "intake") == {}
    bench.by_sweep(8)
    assert from_sweep.middle_at(bench.job, "intake", 30.0) is None
    assert from_sweep.middle_at(bench.job, "intake", 0.0) is None
