"""Plays and gears in the heat, keys read with a level, lifters at overlap: worked figures and what always holds."""

import math

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from uranograph.core.cooling import CoolingInput, cooling
from uranograph.core.errors import InvalidInput
from uranograph.core.heat import HeatInput, heat_fit
from uranograph.core.hot_play import HotPlayInput, hot_play
from uranograph.core.keyway import KeywayInput, keyway
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.setting import off_each_cheek, pack_wanted, play_with
from uranograph.core.split import SplitInput, split_overlap

ALPHA = st.floats(5e-6, 60e-6)
KELVIN = st.floats(1, 150)


@given(st.floats(0.0, 0.5), st.floats(5, 300), ALPHA, ALPHA, KELVIN)
def test_play_in_the_heat_changes_by_the_difference_of_growths_and_back_again(
    cold: float, long: float, room: float, filler: float, warmer: float
) -> None:
    given_ = {"length_mm": long, "room_alpha": room, "filler_alpha": filler}
    hot = hot_play(HotPlayInput(cold_play_mm=cold, cold_c=20, hot_c=20 + warmer, **given_))
    assert hot.hot_play_mm - cold == pytest.approx(long * (room - filler) * warmer, abs=1e-12)
    back = hot_play(HotPlayInput(cold_play_mm=hot.hot_play_mm, cold_c=20 + warmer, hot_c=20, **given_))
    assert back.hot_play_mm == pytest.approx(cold, abs=1e-12)
    assert np.sign(hot.change_mm) == np.sign(room - filler)


def test_an_aluminum_gear_on_steel_takes_play_away_and_an_aluminum_case_gives_it() -> None:
    steel, aluminum = 11.7e-6, 23e-6
    ends = {"cold_play_mm": 0.1, "length_mm": 40, "cold_c": 20, "hot_c": 90}
    assert hot_play(HotPlayInput(room_alpha=steel, filler_alpha=aluminum, **ends)).hot_play_mm == pytest.approx(0.06836)
    assert hot_play(HotPlayInput(room_alpha=aluminum, filler_alpha=steel, **ends)).hot_play_mm == pytest.approx(0.13164)


@given(st.floats(120, 300), st.floats(40, 110), st.floats(2, 60), st.floats(1.5, 5), st.floats(5, 60))
def test_a_gear_cools_to_its_grip_in_the_time_told(
    gear: float, grips: float, width: float, heat: float, film: float
) -> None:
    ambient = 20.0
    found = cooling(
        CoolingInput(
            gear_c=gear,
            grips_c=grips,
            ambient_c=ambient,
            width_mm=width,
            heat_j_per_cm3_k=heat,
            film_w_per_m2_k=film,
        )
    )
    left = ambient + (gear - ambient) * math.exp(-found.loose_s / found.time_constant_s)
    assert left == pytest.approx(grips)
    thicker = cooling(
        CoolingInput(
            gear_c=gear,
            grips_c=grips,
            ambient_c=ambient,
            width_mm=2 * width,
            heat_j_per_cm3_k=heat,
            film_w_per_m2_k=film,
        )
    )
    assert thicker.loose_s == pytest.approx(2 * found.loose_s)


@pytest.mark.parametrize(
    ("change", "field"), [({"grips_c": 15}, "grips_c"), ({"gear_c": 90}, "gear_c"), ({"gear_c": 100}, "gear_c")]
)
def test_a_gear_that_grips_already_or_never_is_told(change: dict[str, float], field: str) -> None:
    given_ = {"gear_c": 200.0, "grips_c": 100.0, "ambient_c": 20.0, "width_mm": 20.0}
    with pytest.raises(InvalidInput) as caught:
        cooling(CoolingInput(**given_ | change))
    assert caught.value.field == field


@given(st.floats(10, 200), st.floats(0.0, 0.15), st.floats(0.0, 0.1), ALPHA, st.floats(-60, 20))
def test_at_the_temperature_told_the_bore_clears_the_shaft_by_the_slip(
    bore: float, over: float, slip: float, alpha: float, shaft: float
) -> None:
    steel = 11.7e-6
    found = heat_fit(
        HeatInput(
            bore_mm=bore,
            interference_mm=over,
            slip_clearance_mm=slip,
            gear_alpha=alpha,
            ambient_c=20,
            shaft_c=shaft,
            shaft_alpha=steel,
        )
    )
    grown = alpha * bore * (found.gear_c - 20)
    shrunk = steel * bore * (20 - shaft)
    assert grown + shrunk - over == pytest.approx(slip, abs=1e-9)


@given(
    st.floats(-179, 179),
    st.floats(-179, 179),
    st.integers(16, 120),
    st.integers(-3, 3),
    st.floats(-0.4, 0.4),
    st.booleans(),
    st.booleans(),
)
def test_a_cam_put_in_by_whole_teeth_is_found_whichever_way_it_turns(
    crank_key: float, cam_key: float, teeth: int, off: int, by_level: float, opposite: bool, clockwise: bool
) -> None:
    """The crank stands a little off its stated place too, and the cam follows by half."""
    crank_off = 4.0
    way = (1 if clockwise else -1) * (-1 if opposite else 1)
    crank_way = 1 if clockwise else -1
    found = keyway(
        KeywayInput(
            crank_stated_deg=crank_key,
            crank_measured_deg=crank_key + crank_way * crank_off,
            cam_stated_deg=cam_key,
            cam_measured_deg=cam_key + way * (crank_off / 2 + off * 360 / teeth + by_level),
            cam_teeth=teeth,
            turns_opposite=opposite,
            clockwise=clockwise,
            level_deg=0.5,
        )
    )
    assert found.nearest_teeth == off
    assert found.difference_cam_deg == pytest.approx(off * 360 / teeth + by_level, abs=1e-9)
    assert found.neighbors_clearly_worse


def test_a_key_half_way_between_two_teeth_leaves_no_neighbor_clearly_worse() -> None:
    given_ = {"crank_stated_deg": 0, "crank_measured_deg": 0, "cam_stated_deg": 0, "cam_teeth": 60}
    half = keyway(KeywayInput(cam_measured_deg=3.0, turns_opposite=False, **given_))
    assert half.difference_teeth == pytest.approx(0.5)
    assert not half.neighbors_clearly_worse


@given(st.floats(-8, 8), st.floats(220, 280), st.floats(6, 11), st.floats(104, 114))
def test_split_overlap_brings_a_made_up_cam_to_straight_up(
    late: float, duration: float, lift: float, separation: float
) -> None:
    shape = {"duration_deg": duration, "check_lift_mm": 1.0, "max_lift_mm": lift}
    lobes = {
        "intake": CosineLobe(centerline_deg=separation + late, **shape),
        "exhaust": CosineLobe(centerline_deg=-separation + late, **shape),
    }
    lifts = {name: lift_at(lobe, 0) for name, lobe in lobes.items()}
    slopes = {name: abs(lift_at(lobe, 0.5) - lift_at(lobe, -0.5)) for name, lobe in lobes.items()}
    assume(min(lifts.values()) > 0.05)
    assume(min(slopes.values()) > 0.01)
    found = split_overlap(
        SplitInput(
            intake_mm=lifts["intake"],
            exhaust_mm=lifts["exhaust"],
            intake_slope_mm_per_deg=slopes["intake"],
            exhaust_slope_mm_per_deg=slopes["exhaust"],
        )
    )
    assert found.shift_deg == pytest.approx(late, abs=0.5 + 0.15 * abs(late))
    if abs(late) >= 0.01:
        assert (found.shift_deg > 0) == (late > 0)


@given(st.floats(0, 2), st.floats(0, 1), st.floats(0.01, 0.5), st.booleans())
def test_the_pack_that_is_wanted_leaves_the_play_that_is_wanted(
    fitted: float, play: float, goal: float, adds: bool
) -> None:
    wanted = pack_wanted(fitted, play, goal, adds)
    assert play_with(wanted, fitted, play, adds) == pytest.approx(goal)
    if goal != pytest.approx(play):
        assert (wanted > fitted) == (goal > play if adds else goal < play)
    assert play_with(fitted, fitted, play, adds) == play


@given(st.floats(0, 0.3), st.floats(0.05, 0.5), st.floats(0, 0.1))
def test_both_cheeks_together_give_what_is_missing(play: float, goal: float, already: float) -> None:
    each = off_each_cheek(play, goal, already)
    assert play + 2 * (each - already) == pytest.approx(goal)
