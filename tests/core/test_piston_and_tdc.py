import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.core.piston import Crank, PistonAt, angles_at_drop, dwell_half_angle, piston, slope_at, top_angle
from uranograph.core.tdc import TopPairs, tdc

cranks = st.builds(Crank, stroke_mm=st.floats(40, 200), rod_mm=st.floats(170, 400), pin_offset_mm=st.floats(-2, 2))


def drop(crank: Crank, angle: float) -> float:
    return piston(PistonAt(**crank.model_dump(), angle_deg=angle)).drop_mm


def test_worked_dwell_and_half_angle() -> None:
    crank = Crank(stroke_mm=96, rod_mm=168)
    assert dwell_half_angle(crank, 0.01) == pytest.approx(1.031, abs=5e-4)
    assert angles_at_drop(crank, 10)[1] == pytest.approx(33.37, abs=5e-3)


def test_top_bottom_and_a_hand_reckoned_place() -> None:
    crank = Crank(stroke_mm=96, rod_mm=168)
    assert drop(crank, 0) == 0
    assert drop(crank, 180) == pytest.approx(96)
    assert drop(crank, 90) == pytest.approx(48 + 168 - math.sqrt(168**2 - 48**2))


@given(cranks, st.floats(0.02, 0.95))
def test_the_drop_at_the_angle_of_a_drop_is_that_drop(crank: Crank, share: float) -> None:
    wanted = share * crank.stroke_mm
    for angle in angles_at_drop(crank, wanted):
        assert drop(crank, angle - top_angle(crank)) == pytest.approx(wanted, abs=1e-7)


@given(cranks)
def test_nothing_is_higher_than_the_top(crank: Crank) -> None:
    top = top_angle(crank)
    assert drop(crank, 0) == pytest.approx(0, abs=1e-9)
    assert drop(crank, 3) > 0
    assert drop(crank, -3) > 0
    assert abs(slope_at(crank, top)) < 1e-4
    assert np.sign(round(top, 12)) == np.sign(round(crank.pin_offset_mm, 10))


@given(cranks, st.floats(0.001, 0.05))
def test_within_the_dwell_the_piston_moves_less_than_the_dial_shows(crank: Crank, resolution: float) -> None:
    straight = Crank(stroke_mm=crank.stroke_mm, rod_mm=crank.rod_mm)
    assert drop(straight, dwell_half_angle(straight, resolution)) == pytest.approx(resolution, rel=0.01)


@pytest.mark.parametrize(("stroke", "rod", "offset"), [(96, 48, 0), (96, 40, 0), (96, 49, 1.5)])
def test_a_crank_that_cannot_turn_is_refused(stroke: float, rod: float, offset: float) -> None:
    with pytest.raises(InvalidInput):
        piston(PistonAt(stroke_mm=stroke, rod_mm=rod, pin_offset_mm=offset, angle_deg=10))


def test_worked_zero_error() -> None:
    top = tdc(TopPairs(pairs=[{"before_deg": 41, "after_deg": 37.5}]))
    assert top.zero_error_deg == -1.75
    assert top.corrected_deg == [39.25]
    assert top.spread_deg == 0


@given(cranks, st.floats(-20, 20), st.lists(st.floats(1, 12), min_size=1, max_size=5))
def test_drops_on_a_straight_crank_give_the_wheels_error_back(crank: Crank, zero: float, drops: list[float]) -> None:
    straight = Crank(stroke_mm=crank.stroke_mm, rod_mm=crank.rod_mm)
    pairs = []
    for depth in drops:
        before, after = angles_at_drop(straight, depth)
        pairs.append({"before_deg": -(before + zero), "after_deg": after + zero, "drop_mm": depth})
    found = tdc(TopPairs(pairs=pairs, stroke_mm=straight.stroke_mm, rod_mm=straight.rod_mm))
    assert found.zero_error_deg == pytest.approx(zero, abs=1e-9)
    assert found.doubts == []
    assert found.expected_half_angle_deg == pytest.approx(found.corrected_deg, abs=1e-9)


def test_a_pin_offset_sets_the_middle_of_equal_drops_off_the_top() -> None:
    crank = Crank(stroke_mm=84, rod_mm=150, pin_offset_mm=1)
    before, after = angles_at_drop(crank, 5)
    pair = {"before_deg": -before, "after_deg": after, "drop_mm": 5}
    found = tdc(TopPairs(pairs=[pair], stroke_mm=84, rod_mm=150, pin_offset_mm=1))
    assert found.offset_skew_deg == [pytest.approx(found.zero_error_deg - top_angle(crank))]
    assert 0 < abs(found.offset_skew_deg[0]) < 0.1
    assert tdc(TopPairs(pairs=[pair], stroke_mm=84, rod_mm=150)).offset_skew_deg is None


def test_a_pair_that_contradicts_the_geometry_or_the_others_is_pointed_out() -> None:
    pairs = [
        {"before_deg": 33.4, "after_deg": 33.3, "drop_mm": 10},
        {"before_deg": 30.0, "after_deg": 24.0, "drop_mm": 5},
        {"before_deg": 23.4, "after_deg": 23.4, "drop_mm": 5},
    ]
    found = tdc(TopPairs(pairs=pairs, stroke_mm=96, rod_mm=168))
    assert {(d.pair, d.against) for d in found.doubts} == {(1, "geometry"), (1, "others")}


def test_uncertainty_shrinks_with_pairs_and_grows_with_the_division() -> None:
    one = [{"before_deg": 40, "after_deg": 40}]
    single = tdc(TopPairs(pairs=one)).uncertainty_deg
    center = 2 * 0.1 / math.sqrt(2)
    by_wheel = 2 * math.sqrt(2 * 0.25**2 / 3)
    assert single == pytest.approx(math.hypot(by_wheel, center))
    # Four pairs halve what the eye leaves open, and nothing of the wheel's center.
    assert tdc(TopPairs(pairs=one * 4)).uncertainty_deg == pytest.approx(math.hypot(by_wheel / 2, center))
    coarse = tdc(TopPairs(pairs=one, wheel_resolution_deg=2)).uncertainty_deg
    assert coarse == pytest.approx(math.hypot(2 * by_wheel, center))
    apart = [*one, {"before_deg": 43, "after_deg": 37}]
    assert tdc(TopPairs(pairs=apart)).uncertainty_deg == pytest.approx(1.5)


@pytest.mark.parametrize(
    ("pair", "field"),
    [
        ({"before_deg": 10, "after_deg": -10}, "pairs.0.after_deg"),
        ({"before_deg": 30, "after_deg": 30, "drop_mm": 200}, "pairs.0.drop_mm"),
    ],
)
def test_impossible_pairs_name_the_field(pair: dict[str, float], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        tdc(TopPairs(pairs=[pair], stroke_mm=96, rod_mm=168))
    assert caught.value.field == field
