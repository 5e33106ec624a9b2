import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.drive_choice import ChoiceInput, drive_choice
from uranograph.core.end_play import EndPlayInput, end_play
from uranograph.core.errors import InvalidInput
from uranograph.core.heat import HeatInput, heat_fit
from uranograph.core.runout import RunoutInput, runout
from uranograph.core.shims import ShimsInput, shims


@given(
    st.floats(0.005, 0.2),
    st.floats(0, 359),
    st.floats(0.005, 0.1),
    st.floats(0, 179),
    st.lists(st.integers(0, 71), min_size=8, unique=True),
)
def test_eccentricity_and_ovality_are_told_apart_at_any_places(
    ecc: float, at: float, oval: float, oval_at: float, steps: list[int]
) -> None:
    places = [5.0 * step for step in steps]
    readings = [
        {
            "position_deg": a,
            "value_mm": ecc * math.cos(math.radians(a - at)) + oval * math.cos(math.radians(2 * (a - oval_at))),
        }
        for a in places
    ]
    found = runout(RunoutInput(readings=readings))
    assert found.eccentricity_mm == pytest.approx(ecc, abs=1e-6)
    assert found.ovality_mm == pytest.approx(oval, abs=1e-6)
    assert abs((found.high_spot_deg - at + 180) % 360 - 180) < 0.1


def test_few_readings_give_eccentricity_alone_and_too_few_nothing() -> None:
    four = [{"position_deg": a, "value_mm": v} for a, v in ((0, 0.02), (90, 0), (180, -0.02), (270, 0))]
    assert runout(RunoutInput(readings=four)).ovality_mm is None
    with pytest.raises(InvalidInput):
        runout(RunoutInput(readings=[four[0], four[0], four[1]]))


@pytest.mark.parametrize(
    ("tir", "window", "gears", "pump", "hydraulic"),
    [
        (0.02, (0.05, 0.15), "yes", "yes", "yes"),
        (0.02, None, "yes", "yes", "yes"),
        (0.05, None, "yes", "yes", "yes"),
        (0.0501, None, "only-if", "yes", "yes"),
        (0.06, (0.05, 0.15), "only-if", "yes", "yes"),
        (0.06, (0.05, 0.08), "no", "yes", "yes"),
        (0.08, None, "only-if", "yes", "yes"),
        (0.0801, None, "no", "no", "only-if"),
        (0.10, (0.05, 0.50), "no", "no", "only-if"),
        (0.25, None, "no", "no", "only-if"),
        (0.30, None, "no", "no", "no"),
    ],
)
def test_drives_by_runout(
    tir: float, window: tuple[float, float] | None, gears: str, pump: str, hydraulic: str
) -> None:
    limits = {"backlash_min_mm": window[0], "backlash_max_mm": window[1]} if window else {}
    found = drive_choice(ChoiceInput(total_indicated_mm=tir, **limits))
    by_name = {option.drive: option for option in found.options}
    assert by_name["gears"].verdict == gears
    assert by_name["close-clearance pump on this shaft"].verdict == pump
    assert by_name["chain, hydraulic tensioner"].verdict == hydraulic
    assert found.backlash_swing_mm == pytest.approx(2 * tir * math.tan(math.radians(20)))
    if gears == "no":
        assert by_name["gears"].code in ("gears-past-runout", "gears-past-window")
        assert by_name["gears"].cure == "true"


def test_doubt_in_the_runout_counts_against_it_and_a_house_sets_its_limits() -> None:
    near = {"total_indicated_mm": 0.045, "backlash_min_mm": 0.05, "backlash_max_mm": 0.15}
    assert drive_choice(ChoiceInput(**near)).options[0].verdict == "yes"
    assert drive_choice(ChoiceInput(**near, uncertainty_mm=0.01)).options[0].verdict == "only-if"
    assert (
        drive_choice(ChoiceInput(**near, limits={"gears_good_mm": 0.02, "gears_never_mm": 0.04})).options[0].verdict
        == "no"
    )
    pump = drive_choice(ChoiceInput(total_indicated_mm=0.075, uncertainty_mm=0.01)).options[-1]
    assert pump.verdict == "only-if"
    assert (pump.code, pump.cure) == ("pump-too-near", "finer-reading")
    # Rejection is guarded like acceptance: within the doubt of a limit it is neither yes nor no.
    for tir, verdict in ((0.069, "only-if"), (0.085, "only-if"), (0.0901, "no")):
        assert drive_choice(ChoiceInput(total_indicated_mm=tir, uncertainty_mm=0.01)).options[0].verdict == verdict
    by_contract = ChoiceInput.model_validate({"total_indicated_mm": 0.085, "total_indicated_doubt_mm": 0.01})
    assert by_contract.uncertainty_mm == 0.01


def test_a_shaft_that_may_be_past_its_own_limit_is_only_if_as_well() -> None:
    for tir, shaft, hydraulic in ((0.079, "unsure", "only-if"), (0.06, "in", "yes")):
        found = drive_choice(ChoiceInput(total_indicated_mm=tir, uncertainty_mm=0.01))
        assert (found.shaft, found.options[1].verdict) == (shaft, hydraulic)
        assert found.options[1].beyond_the_shaft is (hydraulic == "only-if")


def test_a_shaft_past_its_own_limit_is_only_if_for_every_drive_and_names_the_risk() -> None:
    found = drive_choice(ChoiceInput(total_indicated_mm=0.1, limits={"gears_good_mm": 0.2, "gears_never_mm": 0.3}))
    assert found.shaft == "out"
    assert {option.verdict.value for option in found.options[:3]} == {"only-if"}
    assert all(option.beyond_the_shaft for option in found.options[:3])
    own = drive_choice(ChoiceInput(total_indicated_mm=0.1, limits={"shaft_own_mm": 0.12}))
    assert own.options[1].verdict == "yes"


def test_a_window_the_wrong_way_round() -> None:
    with pytest.raises(InvalidInput):
        drive_choice(ChoiceInput(total_indicated_mm=0.01, backlash_min_mm=0.2, backlash_max_mm=0.1))


BLADES = [round(0.04 + 0.01 * k, 2) for k in range(40)]


@given(
    st.floats(0.041, 0.42),
    st.lists(st.sampled_from(BLADES), min_size=1, max_size=6),
    st.floats(0.05, 0.2),
    st.floats(0.01, 0.2),
)
def test_a_feeler_bracket_never_gives_a_verdict_the_true_play_contradicts(
    play: float, tried: list[float], least: float, width: float
) -> None:
    go = [blade for blade in tried if blade <= play]
    no_go = [blade for blade in tried if blade > play]
    found = end_play(EndPlayInput(go_mm=go, no_go_mm=no_go, spec_min_mm=least, spec_max_mm=least + width))
    if found.verdict == "in":
        assert least <= play <= least + width
    if found.verdict == "tight":
        assert play < least
    if found.verdict == "loose":
        assert play > least + width
    assert (found.next_blade_mm is not None) == (found.verdict == "unsure")


def test_the_next_blade_is_at_the_limit_that_is_straddled() -> None:
    spec = {"spec_min_mm": 0.08, "spec_max_mm": 0.2}
    assert end_play(EndPlayInput(go_mm=[0.05], no_go_mm=[0.1], **spec)).next_blade_mm == 0.08
    assert end_play(EndPlayInput(go_mm=[0.15], no_go_mm=[0.25], **spec)).next_blade_mm == 0.2
    assert end_play(EndPlayInput(travels_mm=[0.12, 0.13, 0.12], **spec)).verdict == "in"
    assert end_play(EndPlayInput(travels_mm=[0.19, 0.21], **spec)).verdict == "unsure"
    assert end_play(EndPlayInput(travels_mm=[0.3], **spec)).verdict == "loose"


@pytest.mark.parametrize(
    ("given_", "field"),
    [
        ({"go_mm": [0.2], "no_go_mm": [0.15]}, "no_go_mm"),
        ({}, "go_mm"),
        ({"travels_mm": [-0.1]}, "travels_mm"),
        ({"travels_mm": [0.1], "go_mm": [0.1]}, "travels_mm"),
        ({"go_mm": [0.1], "spec_min_mm": 0.3}, "spec_min_mm"),
    ],
)
def test_contradicting_plays_name_the_field(given_: dict[str, object], field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        end_play(EndPlayInput(**{"spec_min_mm": 0.08, "spec_max_mm": 0.2, **given_}))
    assert caught.value.field == field


@given(st.floats(0, 3), st.lists(st.integers(5, 60), min_size=1, max_size=7, unique=True), st.integers(1, 4))
def test_the_pack_is_the_best_there_is(wanted: float, hundredths: list[int], most: int) -> None:
    stock = [value / 100 for value in hundredths]
    found = shims(ShimsInput(wanted_mm=wanted, stock_mm=stock, max_count=most))
    packs = [pack for count in range(most + 1) for pack in itertools.combinations_with_replacement(stock, count)]
    best = min(abs(sum(pack) - wanted) for pack in packs)
    assert abs(found.gap_mm) == pytest.approx(best, abs=1e-8)
    assert found.total_mm == pytest.approx(sum(found.pack_mm))
    fewest = min(len(pack) for pack in packs if abs(abs(sum(pack) - wanted) - best) < 1e-9)
    assert len(found.pack_mm) == fewest


def test_a_shim_of_nothing_is_refused() -> None:
    with pytest.raises(InvalidInput):
        shims(ShimsInput(wanted_mm=1, stock_mm=[0.1, 0.0], max_count=2))


def test_worked_heat_fit_and_a_cooled_shaft() -> None:
    given_ = {"bore_mm": 32, "interference_mm": 0.05, "slip_clearance_mm": 0.03, "gear_alpha": 11.7e-6, "ambient_c": 20}
    plain = heat_fit(HeatInput(**given_))
    assert plain.gear_c == pytest.approx(233.7, abs=0.05)
    assert plain.within_limit is None
    cooled = heat_fit(HeatInput(**given_, shaft_c=-40, shaft_alpha=11.7e-6, limit_c=200))
    assert cooled.gear_c == pytest.approx(plain.gear_c - 60)
    assert cooled.within_limit
    with pytest.raises(InvalidInput):
        heat_fit(HeatInput(**given_, shaft_c=-40))
