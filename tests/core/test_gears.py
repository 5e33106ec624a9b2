import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.backlash import BacklashInput, HotInput, backlash, hot_backlash
from uranograph.core.errors import InvalidInput
from uranograph.core.harmonic import fit
from uranograph.core.helix import HelixInput, helical_entry
from uranograph.core.slip import SlipInput, tooth_slip
from uranograph.core.sprocket import LineInput, sprocket_line
from uranograph.core.train import TrainInput, train


def in_line(*teeth: int) -> TrainInput:
    names = ["crank", *(f"idler {n}" for n in range(1, len(teeth) - 1)), "cam"]
    gears = [{"name": name, "teeth": count} for name, count in zip(names, teeth, strict=True)]
    return TrainInput(gears=gears, meshes=list(itertools.pairwise(names)), crank="crank", cam="cam")


def test_worked_trains() -> None:
    three = train(in_line(27, 41, 54))
    assert three.realign_crank_turns == 82
    assert three.ratio_ok
    assert not three.cam_turns_opposite
    assert {round(value, 3) for value in three.cam_shift_per_tooth_deg.values()} == {13.333}
    two = train(in_line(21, 42))
    assert (two.realign_crank_turns, two.cam_turns_opposite) == (2, True)
    assert two.cam_shift_per_tooth_deg["crank-cam"] == pytest.approx(17.142857)


def test_two_gears_on_one_shaft_make_a_tooth_worth_more_at_one_mesh() -> None:
    gears = [
        {"name": "crank", "teeth": 20},
        {"name": "big", "teeth": 30, "shaft": "idler"},
        {"name": "small", "teeth": 24, "shaft": "idler"},
        {"name": "cam", "teeth": 32},
        {"name": "pump", "teeth": 18},
    ]
    meshes = [("crank", "big"), ("small", "cam"), ("crank", "pump")]
    found = train(TrainInput(gears=gears, meshes=meshes, crank="crank", cam="cam"))
    assert found.ratio_ok
    assert found.cam_shift_per_tooth_deg["crank-big"] == pytest.approx(2 * 360 / 30 * 24 / 32)
    assert found.cam_shift_per_tooth_deg["small-cam"] == pytest.approx(2 * 360 / 32)
    assert found.cam_shift_per_tooth_deg["crank-pump"] == 0


@given(st.lists(st.integers(12, 120), min_size=2, max_size=8))
def test_every_mark_is_back_after_the_count_and_after_no_smaller_one(teeth: list[int]) -> None:
    given_ = in_line(*teeth)
    turns = train(given_).realign_crank_turns
    passed = [teeth[0] * turns % count for count in teeth]  # teeth that pass each mesh in that many crank turns
    assert not any(passed)
    for smaller in {turns // p for p in range(2, 12) if turns % p == 0}:
        assert any(teeth[0] * smaller % count for count in teeth)


@given(st.lists(st.integers(12, 120), min_size=2, max_size=6), st.data())
def test_a_slip_at_any_mesh_is_found_again_at_the_cam(teeth: list[int], data: st.DataObject) -> None:
    at = data.draw(st.integers(1, len(teeth) - 1))
    names = ["crank", *(f"idler {n}" for n in range(1, len(teeth) - 1)), "cam"]
    slipped = 360 / teeth[at]
    for k in range(at, len(teeth) - 1):
        slipped *= teeth[k] / teeth[k + 1]
    found = train(in_line(*teeth)).cam_shift_per_tooth_deg[f"{names[at - 1]}-{names[at]}"]
    assert found == pytest.approx(2 * slipped)


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"cam": "none"}, "cam"),
        ({"cam": "crank"}, "cam"),
        ({"meshes": [["crank", "cam"], ["crank", "ghost"]]}, "meshes.1"),
        ({"meshes": [["crank", "crank"], ["crank", "cam"]]}, "meshes.0"),
        (
            {"gears": [{"name": "crank", "teeth": 20}, {"name": "cam", "teeth": 40}, {"name": "lost", "teeth": 30}]},
            "gears.2",
        ),
        (
            {"gears": [{"name": "crank", "teeth": 20}, {"name": "cam", "teeth": 40}, {"name": "cam", "teeth": 30}]},
            "gears.2.name",
        ),
    ],
)
def test_trains_that_cannot_be_name_the_gear(change: dict[str, object], field: str) -> None:
    plain = {"gears": [{"name": "crank", "teeth": 20}, {"name": "cam", "teeth": 40}], "meshes": [["crank", "cam"]]}
    with pytest.raises(InvalidInput) as caught:
        train(TrainInput(**{**plain, "crank": "crank", "cam": "cam", **change}))
    assert caught.value.field == field


def test_three_gears_in_a_ring_cannot_turn() -> None:
    gears = [{"name": n, "teeth": t} for n, t in (("crank", 20), ("a", 30), ("cam", 40))]
    with pytest.raises(InvalidInput, match="loop-cannot-turn"):
        train(
            TrainInput(gears=gears, meshes=[("crank", "a"), ("a", "cam"), ("cam", "crank")], crank="crank", cam="cam")
        )


@pytest.mark.parametrize(
    ("offset", "teeth", "nearest", "verdict"),
    [
        (0.5, 21, 0, "aligned"),
        (17, 21, 1, "whole-teeth"),
        (-34, 21, -2, "whole-teeth"),
        (3, 21, 0, "not-whole-teeth"),
        (10, 24, 1, "not-whole-teeth"),
    ],
)
def test_deviations_in_teeth(offset: float, teeth: int, nearest: int, verdict: str) -> None:
    found = tooth_slip(SlipInput(offset_deg=offset, crank_teeth=teeth))
    assert (found.nearest_teeth, found.verdict.value) == (nearest, verdict)
    assert found.nearest_teeth * found.per_tooth_deg + found.residual_deg == pytest.approx(offset)


@given(st.integers(10, 80), st.floats(0.5, 5), st.floats(-60, 60), st.floats(0, 40))
def test_a_helical_gear_turns_by_its_lead(teeth: int, module: float, helix: float, travel: float) -> None:
    found = helical_entry(HelixInput(teeth=teeth, normal_module_mm=module, helix_deg=helix, travel_mm=travel))
    circumference = math.pi * module * teeth / math.cos(math.radians(helix))
    assert found.rotation_deg == pytest.approx(360 * travel * math.tan(math.radians(helix)) / circumference, abs=1e-9)
    assert found.teeth == pytest.approx(found.rotation_deg / 360 * teeth, abs=1e-9)


@given(st.floats(0.05, 0.3), st.floats(0.001, 0.04), st.floats(0, 359), st.integers(3, 24), st.floats(0.8, 1.2))
def test_backlash_made_from_an_eccentricity_gives_it_back(
    mean: float, wave: float, spot: float, count: int, lever: float
) -> None:
    places = [360 * k / count for k in range(count)]
    readings = [
        {"position_cam_deg": a, "travel_mm": lever * (mean - wave * math.cos(math.radians(a - spot)))} for a in places
    ]
    found = backlash(
        BacklashInput(readings=readings, indicator_radius_mm=60 * lever, pitch_radius_mm=60, pressure_angle_deg=20)
    )
    tightest = min(readings, key=lambda reading: reading["travel_mm"])["position_cam_deg"]
    assert found.tight_spot_cam_deg == tightest
    assert found.lash_crank_deg == pytest.approx(math.degrees(2 * found.mean_mm / 60))
    if count < 6:
        assert found.fitted_mean_mm is None
        return
    assert found.fitted_mean_mm == pytest.approx(mean)
    assert found.fitted_amplitude_mm == pytest.approx(wave)
    assert abs((found.fitted_loosest_cam_deg - spot + 360) % 360 - 180) < 1e-3
    assert found.eccentricity_mm == pytest.approx(wave / (2 * math.tan(math.radians(20))))
    assert found.second_amplitude_mm == pytest.approx(0, abs=1e-9)


def test_a_good_mean_with_a_bad_swing_is_out() -> None:
    readings = [{"position_cam_deg": a, "travel_mm": t} for a, t in ((0, 0.02), (90, 0.1), (180, 0.18), (270, 0.1))]
    given_ = {"readings": readings, "indicator_radius_mm": 60, "pitch_radius_mm": 60, "pressure_angle_deg": 20}
    found = backlash(BacklashInput(**given_, spec_min_mm=0.05, spec_max_mm=0.15))
    assert found.mean_mm == pytest.approx(0.1)
    assert (found.verdict.value, found.fault) == ("out", "both")
    at_the_limit = {**given_, "spec_min_mm": 0.03, "spec_max_mm": 0.18}
    assert backlash(BacklashInput(**at_the_limit, travel_doubt_mm=0.005)).verdict.value == "out"
    assert backlash(BacklashInput(**at_the_limit, travel_doubt_mm=0.015)).verdict.value == "unsure"
    assert backlash(BacklashInput(**{**at_the_limit, "spec_min_mm": 0.02})).verdict.value == "in"
    two = backlash(BacklashInput(**{**given_, "readings": readings[:2]}))
    assert (two.fitted_amplitude_mm, two.verdict.value) == (None, "unsure")
    with pytest.raises(InvalidInput):
        backlash(BacklashInput(**given_, spec_min_mm=0.2, spec_max_mm=0.15))


def test_hot_backlash_and_sprockets() -> None:
    given_ = {"cold_backlash_mm": 0.08, "pressure_angle_deg": 20, "center_mm": 95, "case_alpha": 23e-6}
    given_ |= {"gear_a_radius_mm": 31.67, "gear_a_alpha": 11.5e-6, "gear_b_radius_mm": 63.33, "gear_b_alpha": 23e-6}
    assert hot_backlash(HotInput(**given_, cold_c=20, hot_c=90)).hot_backlash_mm == pytest.approx(0.0986, abs=5e-5)
    line = sprocket_line(
        LineInput(driver_depth_mm=10, driven_depth_mm=9.4, row_offset_mm=0.1, tolerance_mm=0.25, shim_mm=0.35)
    )
    assert line.out_of_line_mm == pytest.approx(-0.7)
    assert (line.shims_change, line.verdict.value) == (-2, "out")
    assert sprocket_line(LineInput(driver_depth_mm=10, driven_depth_mm=10.25, tolerance_mm=0.25)).verdict == "in"


@given(
    st.floats(-1, 1), st.floats(0.01, 1), st.floats(0, 359), st.floats(0.01, 1), st.floats(0, 179), st.integers(5, 40)
)
def test_two_waves_are_told_apart(
    mean: float, one: float, at_one: float, two: float, at_two: float, count: int
) -> None:
    places = [360 * k / count for k in range(count)]
    values = [
        mean + one * math.cos(math.radians(a - at_one)) + two * math.cos(math.radians(2 * (a - at_two))) for a in places
    ]
    (found_mean, _), (first, first_at), (second, second_at) = fit(places, values, 2)
    assert (found_mean, first, second) == pytest.approx((mean, one, two), abs=1e-9)
    assert abs((first_at - at_one + 180) % 360 - 180) < 1e-4
    assert abs((second_at - at_two + 90) % 180 - 90) < 1e-4
