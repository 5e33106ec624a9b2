"""Clearances, breathing and the stops for the lash, against worked figures, slow ways and properties."""

import math
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from uranograph.bench.calculations import calculate
from uranograph.core.errors import InvalidInput
from uranograph.core.lift_curve import LiftCurve
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.piston import PistonAt, piston

CRANK = {"stroke_mm": 96, "rod_mm": 168}
INTAKE = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=11)
EXHAUST = CosineLobe(centerline_deg=-113, duration_deg=234, check_lift_mm=1.27, max_lift_mm=11)


def lifts(lobe: CosineLobe, step: int = 4) -> list[list[float]]:
    return [[a, lift_at(lobe, a)] for a in range(-360, 361, step)]


def least_by_trying(lobe: CosineLobe, drop: float, angle: float, shift: float) -> tuple[float, float]:
    places = np.arange(-90, 90, 0.05)
    lean = math.cos(math.radians(angle))
    gaps = [
        drop + piston(PistonAt(**CRANK, angle_deg=a)).drop_mm * lean - lift_at(lobe, a + shift)
        for a in map(float, places)
    ]
    k = int(np.argmin(gaps))
    return gaps[k], float(places[k])


@pytest.mark.parametrize(("lobe", "side"), [(INTAKE, 1), (EXHAUST, -1)])
@pytest.mark.parametrize("shift", [-12.0, 0.0, 3.1, 15.0])
def test_the_least_gap_is_what_trying_every_angle_finds(lobe: CosineLobe, side: int, shift: float) -> None:
    found = calculate(
        "piston-to-valve",
        {
            **CRANK,
            "drop_at_tdc_mm": 5.5,
            "valve_angle_deg": 14,
            "lift_points": lifts(lobe),
            "shifts_deg": [shift],
            "minimum_mm": 2.0,
        },
    )["positions"][0]
    gap, at = least_by_trying(lobe, 5.5, 14, shift)
    assert found["min_mm"] == pytest.approx(gap, abs=0.02)
    assert found["at_deg"] == pytest.approx(at, abs=0.5)
    assert found["at_deg"] * side > 0
    assert found["shift_deg"] == shift


def test_advancing_brings_the_intake_nearer_and_the_exhaust_farther() -> None:
    def gaps(lobe: CosineLobe) -> list[float]:
        given = {**CRANK, "drop_at_tdc_mm": 6, "valve_angle_deg": 10, "lift_points": lifts(lobe), "minimum_mm": 2}
        return [p["min_mm"] for p in calculate("piston-to-valve", {**given, "shifts_deg": [-8, 0, 8]})["positions"]]

    assert gaps(INTAKE) == sorted(gaps(INTAKE), reverse=True)
    assert gaps(EXHAUST) == sorted(gaps(EXHAUST))


@pytest.mark.parametrize(
    ("minimum", "doubts", "verdict"),
    [
        (2.0, {}, "in"),
        (3.45, {}, "in"),
        (3.55, {}, "out"),
        (3.45, {"drop_doubt_mm": 0.1}, "unsure"),
        (3.55, {"lift_doubt_mm": 0.1}, "unsure"),
        (3.55, {"phase_doubt_deg": 2.0}, "unsure"),
        (3.55, {"lift_doubt_pct": 3.0}, "unsure"),
        (3.25, {"drop_doubt_mm": 0.2}, "in"),
    ],
)
def test_the_verdict_is_guarded_by_the_doubt_on_both_sides(
    minimum: float, doubts: dict[str, float], verdict: str
) -> None:
    gap, _ = least_by_trying(INTAKE, 5.5, 14, 0)
    assert 3.49 < gap < 3.52
    given = {**CRANK, "drop_at_tdc_mm": 5.5, "valve_angle_deg": 14, "lift_points": lifts(INTAKE), "minimum_mm": minimum}
    assert calculate("piston-to-valve", {**given, **doubts})["positions"][0]["verdict"] == verdict


def test_a_lift_that_is_not_known_where_the_gap_still_narrows_proves_nothing() -> None:
    short = [[a, lift_at(INTAKE, a)] for a in range(-30, 3, 2)]
    given = {**CRANK, "drop_at_tdc_mm": 8, "valve_angle_deg": 14, "lift_points": short, "minimum_mm": 2}
    assert calculate("piston-to-valve", given)["positions"][0]["verdict"] == "unsure"
    assert calculate("piston-to-valve", {**given, "minimum_mm": 7.9})["positions"][0]["verdict"] == "out"
    whole = [[a, lift_at(INTAKE, a)] for a in range(-30, 61, 2)]
    assert calculate("piston-to-valve", {**given, "lift_points": whole})["positions"][0]["verdict"] == "in"


def test_angles_told_from_0_to_720_are_the_same_lobe() -> None:
    given = {**CRANK, "drop_at_tdc_mm": 5.5, "valve_angle_deg": 14, "minimum_mm": 2}
    told = [[a % 720, lift] for a, lift in lifts(INTAKE)[:-1]]
    one = calculate("piston-to-valve", {**given, "lift_points": lifts(INTAKE)})["positions"][0]
    assert calculate("piston-to-valve", {**given, "lift_points": told})["positions"][0]["min_mm"] == pytest.approx(
        one["min_mm"], abs=1e-3
    )


@pytest.mark.parametrize(
    ("field", "change"),
    [
        ("rod_mm", {"rod_mm": 40}),
        ("lift_points", {"lift_points": [[0, 1], [0, 2]]}),
        ("lift_points", {"lift_points": [[0, 1], [10, -1]]}),
        ("lift_points", {"lift_points": [[-400, 1], [400, 1]]}),
        ("shifts_deg", {"lift_points": [[-10, 3], [10, 4]], "shifts_deg": [90]}),
        ("minimum_mm", {"minimum_mm": -1}),
        ("valve_angle_deg", {"valve_angle_deg": 90}),
    ],
)
def test_what_cannot_be_is_refused_beside_its_field(field: str, change: dict[str, object]) -> None:
    given = {**CRANK, "drop_at_tdc_mm": 5.5, "valve_angle_deg": 14, "lift_points": lifts(INTAKE), "minimum_mm": 2}
    with pytest.raises(InvalidInput) as refused:
        calculate("piston-to-valve", {**given, **change})
    assert refused.value.field.split(".")[0] == field


@given(
    st.lists(st.floats(0, 12).map(lambda mm: round(mm, 4)), min_size=3, max_size=14),
    st.lists(st.floats(0.5, 30), min_size=13, max_size=13),
    st.floats(0, 1),
)
def test_lift_between_readings_is_the_monotone_cubic(values: list[float], steps: list[float], part: float) -> None:
    places = np.cumsum([-90.0, *steps])[: len(values)]
    curve = LiftCurve(list(zip(map(float, places), values, strict=True)))
    inner = np.linspace(places[0], places[-1], 41)
    lift = curve.at(inner)
    assert lift.min() >= min(values) - 1e-9
    assert lift.max() <= max(values) + 1e-9
    if len(values) > 4:
        # Ends apart, where it differs in how a slope is guessed.
        between = places[1] + (places[-2] - places[1]) * part
        expected = PchipInterpolator(places, values)(between)
        assert float(curve.at([between])[0]) == pytest.approx(float(expected), abs=1e-9)


def test_valves_that_meet_are_found_at_overlap_and_follow_each_cam() -> None:
    given = {
        "intake_points": lifts(INTAKE),
        "exhaust_points": lifts(EXHAUST),
        "gap_at_rest_mm": 3.0,
        "intake_share": 0.7,
        "exhaust_share": 0.7,
        "minimum_mm": 0.5,
    }
    # Far apart in time each alone would reach: only the lifts round overlap are told here.
    near = {
        name: [[a, lift] for a, lift in given[name] if abs(a) <= 40]  # type: ignore[union-attr]
        for name in ("intake_points", "exhaust_points")
    }
    angles = np.arange(-40, 40.01, 0.05)

    def by_trying(intake: float, exhaust: float) -> float:
        return min(
            3.0 - 0.7 * (lift_at(INTAKE, float(a) + intake) + lift_at(EXHAUST, float(a) + exhaust))
            for a in angles
            if abs(a + intake) <= 40 and abs(a + exhaust) <= 40
        )

    for intake, exhaust in ((0, 0), (6, 0), (0, -6), (6, -6)):
        found = calculate("valve-to-valve", {**given, **near, "intake_shift_deg": intake, "exhaust_shift_deg": exhaust})
        assert found["min_mm"] == pytest.approx(by_trying(intake, exhaust), abs=0.02)
    apart = calculate("valve-to-valve", {**given, **near})
    closer = calculate("valve-to-valve", {**given, **near, "intake_shift_deg": 6, "exhaust_shift_deg": -6})
    assert closer["min_mm"] < apart["min_mm"]


def test_at_the_end_of_what_is_known_a_valve_is_not_taken_to_fall_shut() -> None:
    given = {
        "intake_points": [[a, 2 + 0.1 * a] for a in range(-10, 11, 2)],
        "exhaust_points": [[a, 2 - 0.05 * a] for a in range(-10, 11, 2)],
        "gap_at_rest_mm": 4.0,
        "intake_share": 0.5,
        "exhaust_share": 0.5,
        "minimum_mm": 1,
        "phase_doubt_deg": 1.0,
    }
    found = calculate("valve-to-valve", given)
    assert found["at_deg"] == pytest.approx(10)
    assert found["doubt_mm"] == pytest.approx(0.5 * math.hypot(0.1, 0.05), rel=0.02)


def test_breathing_against_a_hand_reckoned_cylinder() -> None:
    found = calculate(
        "breathing",
        {
            "bore_mm": 100,
            **CRANK,
            "static_ratio": 10,
            "ic_abdc_deg": 60,
            "eo_bbdc_deg": 55,
            "io_btdc_deg": 8,
            "ec_atdc_deg": 3,
        },
    )
    # Pin height by the triangle: 48 cos 240 + sqrt(168² - (48 sin 240)²), below 216 at the top.
    height = 48 * math.cos(math.radians(240)) + math.sqrt(168**2 - (48 * math.sin(math.radians(240))) ** 2)
    assert found["effective_stroke_mm"] == pytest.approx(216 - height, abs=1e-9)
    assert found["dynamic_ratio"] == pytest.approx(1 + 9 * (216 - height) / 96, abs=1e-9)
    assert found["swept_volume_cc"] == pytest.approx(math.pi * 25 * 9.6, abs=1e-6)
    assert (found["blow_down_deg"], found["overlap_deg"]) == (55, 11)


def test_with_an_offset_pin_it_matters_on_which_side_of_bdc_the_intake_closes() -> None:
    given = {"bore_mm": 100, **CRANK, "pin_offset_mm": 2.0, "static_ratio": 10}
    late, early = (calculate("breathing", {**given, "ic_abdc_deg": ic})["effective_stroke_mm"] for ic in (60, -60))
    crank = {**CRANK, "pin_offset_mm": 2.0}
    assert late == pytest.approx(piston(PistonAt(**crank, angle_deg=240)).drop_mm)
    assert abs(late - early) > 0.3


@given(st.floats(-100, 120), st.floats(0.1, 60))
def test_an_intake_that_closes_later_traps_less(ic: float, later: float) -> None:
    def ratio(at: float) -> float:
        given = {"bore_mm": 90, **CRANK, "static_ratio": 9.5, "ic_abdc_deg": at}
        return float(calculate("breathing", given)["dynamic_ratio"])

    if ic > 0 and ic + later < 170:
        assert ratio(ic + later) < ratio(ic)
    assert 1 < ratio(ic) <= 9.5


CARD = {"io_btdc_deg": 20, "ic_abdc_deg": 60, "eo_bbdc_deg": 60, "ec_atdc_deg": 20}


def rests(order: list[int], fires: list[float], card: dict[str, float], valve: str, at: float) -> float:
    """How far a valve is from lifting at a place of the crank, below nothing where it lifts: another way of reckoning."""
    cylinder, lobe = valve.split()
    # Cycle angle of that cylinder about its overlap TDC.
    own = (at - fires[order.index(int(cylinder))] - 360) % 720
    opens, closes = (
        (-card["io_btdc_deg"], 180 + card["ic_abdc_deg"])
        if lobe == "intake"
        else (-180 - card["eo_bbdc_deg"], card["ec_atdc_deg"])
    )
    middle, half = (opens + closes) / 2, (closes - opens) / 2
    return abs((own - middle + 360) % 720 - 360) - half


@settings(max_examples=60)
@given(
    st.permutations([1, 2, 3, 4]),
    st.integers(1, 4),
    st.lists(st.integers(20, 200), min_size=4, max_size=4),
    st.tuples(*[st.integers(-20, 95)] * 4),
    st.integers(0, 25),
    st.booleans(),
)
def test_the_fewest_stops_serve_every_valve_and_no_fewer_would(
    mixed: list[int], cylinders: int, steps: list[int], events: tuple[int, ...], margin: int, uneven: bool
) -> None:
    order = [each for each in mixed if each <= cylinders]
    fires = [k * 720 / cylinders for k in range(cylinders)]
    if uneven:
        fires = [float(sum(steps[:k]) * 720 / 800) for k in range(cylinders)]
    card = dict(zip(CARD, map(float, events), strict=True))
    given = {"firing_order": order, "card": card, "clearance_margin_deg": margin}
    found = calculate("lash-stops", {**given, **({"firing_deg": fires} if uneven else {})})["stops"]
    valves = [f"{c} {lobe}" for c in order for lobe in ("intake", "exhaust")]
    assert sorted(v for stop in found for v in stop["valves"]) == sorted(valves)
    for stop in found:
        assert 0 <= stop["crank_deg"] < 720
        for valve in stop["valves"]:
            assert rests(order, fires, card, valve, stop["crank_deg"]) >= margin - 1e-6
    # A stop can always be moved to where a valve is about to lift: those places are enough to try.
    ends = [
        float(
            (
                fires[order.index(int(v.split()[0]))]
                + (0 - card["io_btdc_deg"] if v.endswith("intake") else 180 - card["eo_bbdc_deg"])
                + (360 if v.endswith("intake") else 0)
                - margin
            )
            % 720
        )
        for v in valves
    ]
    for fewer in combinations(sorted(set(ends)), len(found) - 1):
        assert any(all(rests(order, fires, card, v, at) < margin - 1e-6 for at in fewer) for v in valves)


def test_big_cams_break_the_list_of_two_stops() -> None:
    big = {"io_btdc_deg": 80, "ic_abdc_deg": 120, "eo_bbdc_deg": 120, "ec_atdc_deg": 80}
    order = [1, 8, 4, 3, 6, 5, 7, 2]

    def count(card: dict[str, int]) -> int:
        given = {"firing_order": order, "card": card, "clearance_margin_deg": 20}
        return len(calculate("lash-stops", given)["stops"])

    assert count(CARD) == 2
    assert count(big) == 3


def test_stops_lie_on_firing_tops_where_that_costs_none_more() -> None:
    found = calculate("lash-stops", {"firing_order": [1, 5, 3, 6, 2, 4], "card": CARD, "clearance_margin_deg": 20})
    assert [stop["crank_deg"] for stop in found["stops"]] == [0, 360]
    assert set(found["stops"][0]["valves"]) == {
        "1 intake",
        "1 exhaust",
        "5 exhaust",
        "3 exhaust",
        "2 intake",
        "4 intake",
    }


@pytest.mark.parametrize(
    ("field", "change"),
    [
        ("card", {"card": {**CARD, "ic_abdc_deg": 170, "io_btdc_deg": 170}, "clearance_margin_deg": 110}),
        ("firing_order", {"firing_order": [1, 3, 3]}),
        ("firing_deg", {"firing_deg": [0, 180]}),
        ("firing_deg", {"firing_deg": [0, 200, 180, 500]}),
    ],
)
def test_an_engine_that_cannot_be_is_refused(field: str, change: dict[str, object]) -> None:
    with pytest.raises(InvalidInput) as refused:
        calculate("lash-stops", {"firing_order": [1, 3, 4, 2], "card": CARD, **change})
    assert refused.value.field == field
