"""An encoder and a dial read together; sweeps, turns and rocking that come of them."""

import itertools
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.instruments.hub import Point
from uranograph.instruments.paired import Paired
from uranograph.instruments.rocking import HOLD_S, TIMES, Rocking
from uranograph.instruments.sweeping import STEP_DEG, Sweeping, ValveSweep
from uranograph.instruments.turning import Turning

LOBE = CosineLobe(centerline_deg=110, duration_deg=244, check_lift_mm=1.27, max_lift_mm=8.5)


def one_line(collected: Paired, deg: float, mm: float, at_s: float, dial_first: bool = False) -> None:
    raw = f"angle={deg} deg; dial={mm} mm {at_s}"
    both = [("E1", Point(at_s, deg % 360, raw)), ("D1", Point(at_s, mm, raw))]
    for name, point in reversed(both) if dial_first else both:
        collected.take(name, point)


def swept(collected: Paired, degs: list[float], dial_first: bool = False) -> None:
    for k, deg in enumerate(degs):
        one_line(collected, deg, lift_at(LOBE, deg), k / 50, dial_first)


@pytest.mark.parametrize("dial_first", [False, True])
def test_both_on_one_line_are_one_pair_in_either_order(dial_first: bool) -> None:
    sweep = Sweeping("E1", "D1")
    swept(sweep, [k * 1.2 for k in range(-120, 480)], dial_first)
    for pair in sweep.forward():
        assert pair.mm == pytest.approx(lift_at(LOBE, pair.deg - 360), abs=1e-9)


def test_on_lines_of_their_own_the_angle_is_that_of_the_moment() -> None:
    sweep = Sweeping("E1", "D1")
    for k in range(300):
        at = k / 50
        sweep.take("E1", Point(at, 60 * at % 360, f"e{k}"))
        sweep.take("D1", Point(at + 0.007, 60 * (at + 0.007), f"d{k}"))
    assert len(sweep.forward()) > 250
    for pair in sweep.forward():
        assert pair.mm == pytest.approx(pair.deg, abs=1e-6)


def test_a_dial_while_the_encoder_was_away_has_no_angle() -> None:
    sweep = Sweeping("E1", "D1")
    sweep.take("E1", Point(0.0, 10.0, "e0"))
    sweep.take("D1", Point(1.0, 5.0, "d"))
    sweep.take("E1", Point(2.0, 90.0, "e1"))
    assert sweep.forward() == []


def test_backward_is_seen_and_not_taken_and_gaps_are_counted() -> None:
    sweep = Sweeping("E1", "D1")
    swept(sweep, [0.0, 1.0, 2.0, 1.0, 0.0])
    assert sweep.backward
    assert [each.deg for each in sweep.forward()] == [0.0, 1.0, 2.0]
    assert [each.deg for each in sweep.backward_pairs()] == [1.0, 0.0]
    swept(sweep, [1.0, 2.0, 3.0, 10.0])
    assert not sweep.backward
    assert sweep.gaps == 1
    assert sweep.turned_deg == 10.0


@settings(max_examples=25, deadline=None)
@given(begun=st.floats(-300, -140), step=st.floats(0.4, 1.6), wrapped=st.integers(-2, 2))
def test_a_sweep_keeps_readings_as_they_stood_from_base_to_base(begun: float, step: float, wrapped: int) -> None:
    sweep = Sweeping("E1", "D1")
    degs = [begun + 720 * wrapped + k * step for k in range(int(740 / step))]
    for k, deg in enumerate(degs):
        one_line(sweep, deg, max(0.0, lift_at(LOBE, deg - 720 * wrapped)), k / 50)
    assert sweep.is_complete
    points = sweep.points()
    read = {(pair.deg, pair.mm) for pair in sweep.forward()}
    assert all((pair.deg, pair.mm) in read for pair in points)
    assert points[0].mm < 0.1 > points[-1].mm
    assert max(pair.mm for pair in points) > LOBE.max_lift_mm - 0.05
    assert all(after.deg - before.deg < 2.5 * STEP_DEG for before, after in itertools.pairwise(points))


def test_nothing_is_kept_of_a_base_circle() -> None:
    sweep = Sweeping("E1", "D1")
    for k in range(700):
        one_line(sweep, k * 1.0, 0.001 * (k % 2), k / 50)
    assert sweep.points() == []


def test_a_turn_finds_how_far_off_center_and_out_of_round_a_shaft_is() -> None:
    turn = Turning("E1", "D1", places=8)
    for k in range(370):
        at = math.radians(k)
        one_line(turn, 200.0 + k, 0.03 * math.cos(at - 1.0) + 0.01 * math.cos(2 * at), k / 50)
    assert turn.is_complete
    found = turn.found()
    assert found is not None
    assert found.eccentricity_mm == pytest.approx(0.03, abs=1e-3)
    assert found.high_spot_deg == pytest.approx(math.degrees(1.0), abs=1)
    assert found.ovality_mm == pytest.approx(0.01, abs=1e-3)
    places = [pair.deg for pair in turn.points()]
    assert places == pytest.approx([45.0 * k for k in range(9)], abs=1.0)
    assert turn.progress()["harmonics"][1] == 57


def rocked(rocking: Rocking, levels: list[float], hold_s: float = 2 * HOLD_S, noise: float = 0.0) -> None:
    at = rocking._recent[-1].at_s if rocking._recent else 0.0
    before = levels[0]
    for level in levels:
        for k in range(5):
            at += 0.02
            rocking.take("D1", Point(at, before + (level - before) * k / 5, "way"))
        for k in range(int(hold_s / 0.02)):
            at += 0.02
            rocking.take("D1", Point(at, level + noise * (-1) ** k, "rest"))
        before = level


def test_a_part_rocked_three_times_has_its_travel() -> None:
    rocking = Rocking("D1")
    rocked(rocking, [0.0, 0.12, 0.0, 0.121], noise=0.001)
    assert not rocking.is_complete
    rocked(rocking, [0.121, 0.001, 0.12], noise=0.001)
    assert rocking.is_complete
    assert rocking.travel_mm == pytest.approx(0.12, abs=0.003)
    assert rocking.progress()["times"] == TIMES


def test_a_rest_on_the_way_is_no_end() -> None:
    rocking = Rocking("D1")
    rocked(rocking, [0.0, 0.06, 0.12, 0.06, 0.0, 0.12, 0.0, 0.12])
    assert rocking.travels() == pytest.approx([0.12] * 5, abs=0.002)


def test_one_that_is_not_pushed_the_same_way_goes_on() -> None:
    rocking = Rocking("D1")
    rocked(rocking, [0.0, 0.12, 0.0, 0.20, 0.0, 0.12])
    assert not rocking.is_complete
    rocked(rocking, [0.12, 0.0, 0.12])
    assert rocking.is_complete


def test_what_is_only_passed_through_is_no_rest() -> None:
    rocking = Rocking("D1")
    rocked(rocking, [0.0, 0.12, 0.0], hold_s=HOLD_S / 3)
    assert rocking.travels() == []


def test_turned_backward_over_the_nose_a_lobe_is_complete_and_kept() -> None:
    sweep = Sweeping("E1", "D1", lobe="intake", back=True)
    degs = [268.0 - k for k in range(160)]
    swept(sweep, degs)
    assert not sweep.is_complete
    swept(sweep, [108.0 - k for k in range(160)])
    assert sweep.is_complete
    points = sweep.points()
    assert len(points) > 100
    assert not sweep.progress()["backward"]


def test_a_gap_in_the_lobe_is_asked_for_and_filled_as_it_is_passed_over_again() -> None:
    sweep = Sweeping("E1", "D1")
    first = [k * 1.2 for k in range(-150, 460)]
    # The hand is fast on the opening flank.
    fast = [deg for deg in first if not 20 < deg < 41]
    swept(sweep, fast)
    assert sweep.turned_deg >= 720
    assert not sweep.is_complete
    assert sweep.gap_deg == pytest.approx(30.5 + 360, abs=2.0) or sweep.gap_deg == pytest.approx(
        30.5, abs=2.0
    )  # either
    assert sweep.progress()["gap_deg"] == sweep.gap_deg
    for k, deg in enumerate(first):
        if deg + 720 > fast[-1] and deg <= 60:
            one_line(sweep, deg + 720, lift_at(LOBE, deg), 100 + k / 50)
    assert sweep.gap_deg is None
    assert sweep.is_complete
    points = sweep.points()
    steps = [b.deg - a.deg for a, b in itertools.pairwise(points)]
    assert max(steps) < STEP_DEG + 2.5
    # The encoder stood at 180 where the crank was at -180.
    for point in points:
        assert point.mm == pytest.approx(lift_at(LOBE, (point.deg - 360 + 180) % 720 - 180), abs=1e-6)


def test_a_sweep_that_is_never_slow_enough_ends_with_the_gaps_that_it_has() -> None:
    sweep = Sweeping("E1", "D1")
    for k in range(0, 2400, 8):
        one_line(sweep, float(k - 150), lift_at(LOBE, (k - 150 + 180) % 720 - 180), k / 300)
    assert sweep.gap_deg is not None
    assert sweep.is_complete


def test_a_valve_that_is_passed_too_fast_is_swept_again() -> None:
    sweep = ValveSweep("E1", "D1", number=1)
    swept(sweep, [float(k) for k in range(-100, 330, 5)])
    assert sweep.is_complete
    with pytest.raises(InvalidInput, match="valve-swept-fast"):
        sweep.read(1.27)
    slow = ValveSweep("E1", "D1", number=1)
    swept(slow, [k / 2 for k in range(-200, 660)])
    found = slow.read(1.27)
    assert found.lift.mm == pytest.approx(8.5, abs=0.01)
    assert (found.closes.deg - found.opens.deg) == pytest.approx(244, abs=0.3)
