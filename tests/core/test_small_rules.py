import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.angles import near, signed
from uranograph.core.centerline import LiftPairs, centerline
from uranograph.core.errors import InvalidInput
from uranograph.core.firing import companions, firing_angles, parse_firing_order
from uranograph.core.lobe import CosineLobe, half_width_at, lift_at
from uranograph.core.phase import Events, judge_phase, move
from uranograph.core.quantities import LengthUnit, format_angle, parse_angle, parse_length, parse_number
from uranograph.core.verdict import Verdict

deg = st.floats(-80, 120).map(lambda a: round(a, 3))
events = st.builds(Events, io_btdc_deg=deg, ic_abdc_deg=deg, eo_bbdc_deg=deg, ec_atdc_deg=deg)


@given(events, st.floats(-20, 20), st.floats(-20, 20))
def test_moving_the_cam_and_back_changes_nothing(cam: Events, intake: float, exhaust: float) -> None:
    back = move(move(cam, intake, exhaust), -intake, -exhaust)
    for name in Events.model_fields:
        assert getattr(back, name) == pytest.approx(getattr(cam, name), abs=1e-9)


@given(events, st.floats(-20, 20))
def test_advancing_moves_both_centerlines_and_neither_duration_nor_overlap(cam: Events, a: float) -> None:
    moved = move(cam, a)
    assert moved.intake_centerline_deg == pytest.approx(cam.intake_centerline_deg - a)
    assert moved.exhaust_centerline_deg == pytest.approx(cam.exhaust_centerline_deg + a)
    assert moved.overlap_deg == pytest.approx(cam.overlap_deg)
    assert moved.io_btdc_deg + moved.ic_abdc_deg == pytest.approx(cam.io_btdc_deg + cam.ic_abdc_deg)


@given(st.floats(-10, 10), st.floats(0, 3), st.floats(0.1, 3), st.floats(-1, 1))
def test_a_verdict_is_never_one_that_the_truth_could_contradict(e: float, u: float, tol: float, t: float) -> None:
    truth = e + t * u
    verdict = judge_phase(e, u, tol)
    if verdict is Verdict.IN:
        assert abs(truth) <= tol + 1e-9
    if verdict is Verdict.OUT:
        assert abs(truth) > tol - 1e-9


@given(st.floats(40, 140), st.floats(5, 100))
def test_centerline_is_the_middle_however_the_second_angle_is_written(middle: float, half: float) -> None:
    pairs = [{"before_deg": signed(middle - half), "after_deg": signed(middle + half)}]
    found = centerline(LiftPairs(pairs=pairs)).centerline_deg
    assert signed(found - middle) == pytest.approx(0, abs=1e-9)


def test_several_drops_show_their_drift() -> None:
    pairs = [{"before_deg": 60, "after_deg": 154}, {"before_deg": 40, "after_deg": 176}]
    found = centerline(LiftPairs(pairs=pairs))
    assert found.midpoints_deg == [107, 108]
    assert (found.centerline_deg, found.spread_deg) == (107.5, 1)
    with pytest.raises(InvalidInput):
        centerline(LiftPairs(pairs=[{"before_deg": 60, "after_deg": 60}]))


@given(st.floats(-720, 720))
def test_signed_angles(angle: float) -> None:
    found = signed(angle)
    assert -180 < found <= 180
    assert math.isclose(math.cos(math.radians(found)), math.cos(math.radians(angle)), abs_tol=1e-9)
    assert abs(near(angle, 500) - 500) <= 180


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("55 5/8", 55.625),
        ("55-5/8", 55.625),
        ("5/8", 0.625),
        ("37,5", 37.5),
        ("37.5°", 37.5),
        ("−4", -4),
        (".5", 0.5),
        (" 12 deg ", 12),
    ],
)
def test_angles_as_typed(text: str, value: float) -> None:
    assert parse_angle(text) == value


@pytest.mark.parametrize(
    "text",
    ["", "  ", "abc", "1.2.3", "1,234.5", "5/0", "55 5/", "1e5", "nan", "inf", "1.27mm", "12 furlongs", "9" * 400],
)
def test_what_is_no_angle_is_refused(text: str) -> None:
    with pytest.raises(
        InvalidInput,
        match=r"nothing-typed|too-many-letters|does-not-read|divides-by-zero|-for-angle|unknown-after",
    ):
        parse_angle(text)


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("0.050", "inch", 1.27),
        (".050in", "mm", 1.27),
        ("50 thou", "mm", 1.27),
        ("1.27mm", "inch", 1.27),
        ('0.050"', "mm", 1.27),
        ("1,27", "mm", 1.27),
        ("3 1/2", "inch", 88.9),
        ("2 cm", "inch", 20),
    ],
)
def test_lengths_as_typed(text: str, unit: str, mm: float) -> None:
    assert parse_length(text, LengthUnit(unit)) == pytest.approx(mm, abs=1e-12)


@pytest.mark.parametrize("text", ["12 deg", "1.27 ft", "", "two"])
def test_what_is_no_length_is_refused(text: str) -> None:
    with pytest.raises(InvalidInput):
        parse_length(text, LengthUnit.MM)
    with pytest.raises(InvalidInput):
        parse_number(f"{text} x")


def test_figures_are_written_with_a_true_minus_and_no_negative_zero() -> None:
    assert (format_angle(-3.46), format_angle(-0.04), format_angle(2, 2)) == ("−3.5", "0.0", "2.00")


@given(st.permutations(range(1, 9)))
def test_companions_rise_together(order: list[int]) -> None:
    found = companions(tuple(order))
    angles = firing_angles(tuple(order))
    for one, other in found.items():
        assert found[other] == one
        assert abs(angles[one] - angles[other]) == 360


@pytest.mark.parametrize(
    ("text", "cylinders", "wrong"),
    [
        ("1-3-4-3", 4, {"missing": [2], "repeated": [3], "unknown": []}),
        ("1-2-3", 4, {"missing": [4], "repeated": [], "unknown": []}),
        ("1-2-3-9", 4, {"missing": [4], "repeated": [], "unknown": [9]}),
        ("1 2 2 2", 4, {"missing": [3, 4], "repeated": [2], "unknown": []}),
    ],
)
def test_a_firing_order_that_is_no_permutation(text: str, cylinders: int, wrong: dict[str, list[int]]) -> None:
    with pytest.raises(InvalidInput, match="firing-order-not-once-each") as caught:
        parse_firing_order(text, cylinders)
    assert {name: caught.value.values[name] for name in wrong} == wrong


def test_no_number_is_no_firing_order() -> None:
    with pytest.raises(InvalidInput, match="no-firing-order"):
        parse_firing_order("none", 4)


def test_firing_orders_as_typed() -> None:
    assert parse_firing_order("1342", 4) == parse_firing_order("1, 3, 4, 2", 4) == (1, 3, 4, 2)
    assert parse_firing_order("1-12-5-8-3-10-6-7-2-11-4-9", 12)[1] == 12
    assert companions((1, 2, 3)) == {}


@given(st.floats(150, 320), st.floats(0.05, 0.4), st.floats(5, 14), st.floats(0.02, 0.98))
def test_a_stand_in_lobe_passes_through_what_fixes_it(duration: float, share: float, top: float, at: float) -> None:
    lobe = CosineLobe(centerline_deg=107, duration_deg=duration, check_lift_mm=share * top, max_lift_mm=top)
    assert lift_at(lobe, 107) == pytest.approx(top)
    assert lift_at(lobe, 107 - duration / 2) == pytest.approx(share * top)
    assert lift_at(lobe, 107 + half_width_at(lobe, at * top)) == pytest.approx(at * top)
    with pytest.raises(InvalidInput):
        lobe.model_copy(update={"check_lift_mm": top}).check()
