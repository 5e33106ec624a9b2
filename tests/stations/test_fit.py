"""Runout and drives, plays and their setting, gears put on, lobe room."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy.orm import Session

from tests.hands import a_job, take
from tests.stations.test_marks import MARKED
from uranograph.bench import shop_limits
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.core.end_play import PlayVerdict
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.core.torque import both, parse_torque, stages
from uranograph.engine import end_play as engine_end_play
from uranograph.engine import end_play_form
from uranograph.engine import runout as engine_runout
from uranograph.shop import jobs, library, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.drive_choice import rules as drive_choice
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.gear_fit import bolts, fit, heating, order
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.lobe_room import rules as lobe_room
from uranograph.stations.runout import rules as runout
from uranograph.stations.setting import advice as phase_advice
from uranograph.stations.setting import rules as setting
from uranograph.stations.sprocket_line import rules as sprocket

PLAYS = {"unit": "mm", "crank_min": "0.10", "crank_max": "0.20"}


def filled(session: Session, key: str, kind: str, **typed: str) -> Job:
    jobs.save_form(session, key, kind, {"unit": "mm", **typed}, "QZ")
    return loading.load(session, key)


def write(session: Session, key: str, station: str, kind: str, place: str, text: str, drop: str | None = None) -> Job:
    number = loading.load(session, key).next_number(station, kind)
    return take(session, key, station, [(f"{kind}.{number}.{place}", text, None)], drop)


def turned(session: Session, key: str, off_mm: float, oval_mm: float = 0.0, turn: int = 1, shift: float = 0.0) -> Job:
    for n in range(9):
        angle = math.radians(45 * n)
        dial = off_mm * math.cos(angle - 1) + oval_mm * math.cos(2 * angle) + shift
        job = write(session, key, "runout", f"set-{turn}", "dial", f"{dial:.4f}", str(45 * n))
    return job


def feel(session: Session, key: str, part: str, *blades: tuple[str, str]) -> Job:
    write(session, key, "end-play", f"fitted-{part}", "seen", "all")
    for blade, answer in blades:
        job = write(session, key, "end-play", part, "blade", answer, blade)
    return job


def test_runout_is_asked_for_place_by_place_and_told_with_its_doubt(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = loading.load(session, key)
        assert runout.find(job).begun is False
        assert runout.prompt(job, {}).second == "0"
        job = turned(session, key, 0.03)
        found = engine_runout.measured(job)
        assert found.total_mm == pytest.approx(0.06, abs=0.003)
        assert found.newest.eccentricity_mm == pytest.approx(0.03, abs=1e-4)
        assert runout.find(job).verdict is Verdict.IN
        assert "again" in runout.prompt(job, {}).instruction
        assert runout.prompt(job, {}).slot.startswith("set-2.")


def test_a_dial_that_does_not_come_back_or_rounds_that_differ_are_no_measure(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, title="Moved")
        turned(session, key, 0.03)
        job = write(session, key, "runout", "set-1", "dial", "0.09", "360")
        found = runout.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "its base moved" in found.sentence
        other = a_job(session, title="Differ")
        turned(session, other, 0.03)
        found = runout.find(turned(session, other, 0.06, turn=2))
        assert found.verdict is Verdict.UNSURE
        assert "rounds differ" in found.sentence


def test_a_dial_zeroed_anew_between_rounds_changes_nothing_and_an_oval_seat_is_named(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        turned(session, key, 0.01, 0.02)
        job = turned(session, key, 0.01, 0.02, turn=2, shift=0.4)
    found = runout.find(job)
    assert found.verdict is Verdict.IN
    assert any("out-of-round, worn seat" in note for note in found.notes)


@pytest.mark.parametrize(
    ("slot", "text", "drop", "field"),
    [
        ("set-1.1.dial", "0.1", "400", "second"),
        ("set-9.1.dial", "0.1", "0", "text"),
        ("set-1.1.dial", "15", "0", "text"),
    ],
)
def test_a_dial_reading_that_cannot_be_is_refused(shop: Shop, slot: str, text: str, drop: str, field: str) -> None:
    with shop.write() as session:
        job = loading.load(session, a_job(session))
    with pytest.raises(InvalidInput) as caught:
        runout.accept(job, Entry("runout", slot, text, second=drop, unit=LengthUnit.MM))
    assert caught.value.field == field


def test_gears_are_ruled_out_by_runout_with_the_trap_named_and_by_house_limits(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert "Measure the runout" in drive_choice.find(loading.load(session, key)).next_step
        turned(session, key, 0.055)  # eccentricity: 0.11 in all
        library.set_limits(session, {"shaft_own": "0.15 mm"}, "rk")
        filled(session, key, "choice", backlash_min="0.05", backlash_max="0.20")
        for kind in ("seat", "camseat", "journals", "center"):
            write(session, key, "choice", kind, "seen", "yes")
        job = write(session, key, "choice", "chosen", "seen", "gears")
        found = drive_choice.find(job)
        assert found.verdict is Verdict.OUT
        assert drive_choice.TRAP in found.notes
        assert any("0.08 mm (default)" in note for note in found.notes)
        library.set_limits(session, {"gears_good": "0.2 mm", "gears_never": "0.3"}, "rk")
        job = loading.load(session, key)
        found = drive_choice.find(job)
        assert found.verdict is Verdict.IN
        assert any("0.2 mm (set by RK)" in note for note in found.notes)
        library.set_limits(session, {"gears_good": "", "gears_never": ""}, "rk")
        assert drive_choice.find(loading.load(session, key)).verdict is Verdict.OUT
        job = write(session, key, "choice", "chosen", "seen", "hydraulic")
        assert drive_choice.find(job).verdict is Verdict.IN
        job = write(session, key, "choice", "seat", "seen", "no")
        assert drive_choice.find(job).verdict is Verdict.UNSURE


def test_house_limits_the_wrong_way_round_or_no_lengths_are_told() -> None:
    assert "above" in shop_limits.read({"lobe_least": "2.5 mm"})[1]["lobe_least"]
    assert shop_limits.read({"gears_good": "none"})[1].keys() == {"gears_good"}
    assert "above nothing" in shop_limits.read({"gears_good": "-1 mm"})[1]["gears_good"]
    assert shop_limits.read({"gears_good": "0.002in"})[1] == {}
    # A bare figure is in the unit the house has said; without one it is asked for, and what cannot be is refused.
    assert shop_limits.read({"gears_good": ".002"})[1].keys() == {"unit"}
    assert shop_limits.read({"gears_good": ".002", "unit": "inch"})[0]["gears_good"] == ".002 in"
    for text, fault in (("0.00624", True), ("0.00626", False), ("0.079", False), ("0.41", True)):
        assert ("gears_good" in shop_limits.read({"gears_good": text, "unit": "mm"})[1]) is fault
    assert shop_limits.limit_text({}, "lobe_least", LengthUnit.INCH) == "0.0591 inch (default)"


def test_the_house_tolerance_of_sprockets_counts_where_the_job_has_none(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = take(session, key, "sprocket", [("driver.1.depth", "20", None), ("driven.1.depth", "20.4", None)])
        assert sprocket.find(job).verdict is Verdict.OUT
        library.set_limits(session, {"sprocket_line": "0.6"}, "QZ")
        assert sprocket.find(loading.load(session, key)).verdict is Verdict.IN


def test_feelers_ask_for_the_blade_that_tells_and_end_in_a_verdict(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "end-play", **PLAYS)
        assert end_play.prompt(job, {}).options[0][0] == "all"
        write(session, key, "end-play", "fitted-crank", "seen", "all")
        job = loading.load(session, key)
        assert end_play.prompt(job, {}).second == "0.10"
        job = write(session, key, "end-play", "crank", "blade", "goes", "0.10")
        assert end_play.find(job).verdict is Verdict.UNSURE
        assert end_play.prompt(job, {}).second == "0.20"
        job = write(session, key, "end-play", "crank", "blade", "not", "0.20")
        assert end_play.find(job).verdict is Verdict.IN
        job = write(session, key, "end-play", "crank", "blade", "goes", "0.25")
        found = end_play.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "try both blades again" in found.sentence


@given(st.floats(0.02, 0.5), st.lists(st.integers(1, 60), min_size=1, max_size=8))
def test_a_bracket_never_says_what_the_true_play_could_contradict(true_mm: float, blades: list[int]) -> None:
    loop = end_play_form.PlayWindow(0.10, 0.20, "feelers", "", None)
    tried = [blade / 100 for blade in blades]
    went, stopped = [mm for mm in tried if mm < true_mm], [mm for mm in tried if mm >= true_mm]
    found = engine_end_play._core(loop, go_mm=went, no_go_mm=stopped)
    if found.verdict is PlayVerdict.IN:
        assert 0.10 <= true_mm <= 0.20
    elif found.verdict is PlayVerdict.TIGHT:
        assert true_mm <= 0.10
    elif found.verdict is PlayVerdict.LOOSE:
        assert true_mm > 0.20
    else:
        assert found.next_blade_mm in (0.10, 0.20)


def test_play_without_its_limiting_parts_is_no_play_and_a_dial_is_read_three_times(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS, crank_way="dial")
        write(session, key, "end-play", "fitted-crank", "seen", "none")
        for text in ("0.15", "0.16", "0.15"):
            job = write(session, key, "end-play", "crank", "travel", text)
        assert end_play.find(job).verdict is Verdict.UNSURE
        assert "not all fitted" in end_play.find(job).sentence
        job = write(session, key, "end-play", "fitted-crank", "seen", "all")
        assert end_play.find(job).verdict is Verdict.IN
        other = a_job(session, title="Once")
        filled(session, other, "end-play", **PLAYS, crank_way="dial")
        write(session, other, "end-play", "fitted-crank", "seen", "all")
        job = write(session, other, "end-play", "crank", "travel", "0.15")
        assert end_play.find(job).verdict is Verdict.OPEN


def test_play_that_is_gone_when_hot_is_no_pass(shop: Shop) -> None:
    hot = {"crank_length": "120", "crank_room": "steel", "crank_filler": "aluminum", "hot_c": "110"}
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS, **hot)
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.20", "not"))
    found = end_play.find(job)
    assert found.verdict is Verdict.OUT
    assert "nothing may be left" in found.sentence


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"crank_min": "0.3"}, "crank_min", "above the greatest"),
        ({"crank_max": ""}, "crank_max", "Both are needed"),
        ({"crank_min": "", "crank_max": ""}, "crank_min", "one shaft at least"),
        ({"crank_length": "40"}, "crank_room", "needs this too"),
        ({"crank_min": "-0.1"}, "crank_min", "less than it can be"),
        ({"cam_way": "guess", "cam_min": "0.1", "cam_max": "0.2"}, "cam_way", "how it is read"),
    ],
)
def test_an_end_play_set_up_that_cannot_be_is_told(change: dict[str, str], field: str, says: str) -> None:
    assert says in end_play_form.read(PLAYS | change, LengthUnit.MM).errors[field]


def test_shims_are_picked_fitted_and_proved_in_two_passes(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS)
        filled(session, key, "setting", crank_way="shims", crank_stock="0.05, 0.10 0.15; 0,20", crank_adds="less")
        assert setting.prompt(loading.load(session, key), {}) is None
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.40", "goes"), ("0.44", "not"))
        advice = phase_advice.shim_advice(job, "crank")
        # 0.42 in the middle, 0.15 wanted: 0.27 of shims.
        assert advice.pack.total_mm == pytest.approx(0.25)
        assert setting.find(job).verdict is Verdict.OPEN
        job = write(session, key, "setting", "shims-crank", "fitted", "0.20")
        assert "Prove it" in setting.find(job).next_step
        assert engine_end_play.measured(job, "crank") is None
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.21", "goes"), ("0.23", "not"))
        assert setting.find(job).verdict is Verdict.OUT
        assert phase_advice.shim_advice(job, "crank").pack.total_mm == pytest.approx(0.25)
        write(session, key, "setting", "shims-crank", "fitted", "0.15 + 0.10")
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.20", "not"))
        assert setting.find(job).verdict is Verdict.IN
        assert "set and proved" in setting.find(job).title


def test_a_stock_that_cannot_reach_says_so(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS)
        filled(session, key, "setting", crank_way="shims", crank_stock="1.0", crank_adds="less")
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.40", "goes"), ("0.44", "not"))
    found = setting.find(job)
    assert found.verdict is Verdict.OUT
    assert "stock cannot bring it within" in found.sentence


def test_cheeks_are_sanded_alike_in_passes_to_half_of_what_is_missing(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS)
        filled(session, key, "setting", crank_way="cheeks")
        job = feel(session, key, "crank", ("0.05", "goes"), ("0.07", "not"))
        assert phase_advice.cheeks(job, "crank").wanted_mm == pytest.approx((0.15 - 0.06) / 2)
        for side, text in (("front", "4.500"), ("rear", "4.500")):
            job = take(session, key, "setting", [(f"cheek-crank.1.{side}", text, None)])
        # Measuring them as found changes nothing: the play still counts.
        assert engine_end_play.measured(job, "crank") is not None
        job = take(session, key, "setting", [("cheek-crank.2.front", "4.470", None)])
        assert "unlike" in setting.find(job).sentence
        assert "rear thrust face" in setting.prompt(job, {}).instruction
        with pytest.raises(InvalidInput, match="thicker-than-before"):
            take(session, key, "setting", [("cheek-crank.2.rear", "4.600", None)])
        take(session, key, "setting", [("cheek-crank.2.rear", "4.455", None)])
        job = take(session, key, "setting", [("cheek-crank.3.front", "4.455", None)])
        job = take(session, key, "setting", [("cheek-crank.3.rear", "4.455", None)])
        assert "Prove it" in setting.find(job).next_step
        job = feel(session, key, "crank", ("0.10", "goes"), ("0.20", "not"))
        assert setting.find(job).verdict is Verdict.IN


def test_a_spacer_and_a_plate_give_their_difference(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAYS)
        filled(session, key, "setting", crank_way="spacer")
        feel(session, key, "crank", ("0.05", "goes"), ("0.07", "not"))
        write(session, key, "setting", "spacer-crank", "thickness", "5.06")
        job = write(session, key, "setting", "plate-crank", "thickness", "5.00")
        assert phase_advice.ring(job, "crank").play_mm == pytest.approx(0.06)
        assert "a spacer of 5.150" in setting.find(job).sentence
        job = write(session, key, "setting", "spacer-crank", "thickness", "5.15")
        assert "Prove it" in setting.find(job).next_step


@pytest.mark.parametrize(
    ("slot", "text", "says"),
    [
        ("shims-crank.1.fitted", "thin", "does-not-read"),
        ("shims-crank.1.fitted", "0.2 + 30", "not-a-shim"),
        ("cheek-crank.1.front", "4", "not-set-this-way"),
        ("shims-cam.1.fitted", "0.2", "not-set-this-way"),
    ],
)
def test_a_setting_that_cannot_be_is_refused(shop: Shop, slot: str, text: str, says: str) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "setting", crank_way="shims", crank_stock="0.1")
    with pytest.raises(InvalidInput, match=says):
        setting.accept(job, Entry("setting", slot, text, unit=LengthUnit.MM))


def test_the_gear_is_looked_at_part_by_part_and_a_key_beside_its_slot_is_out(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "train", MARKED | {"g2_held": "taper"}, "QZ")
        job = loading.load(session, key)
        kinds = [check.kind for check in order.checks_of(job)]
        assert "key" in kinds
        assert "pattern" not in kinds
        assert "paint" not in kinds
        for kind in kinds:
            job = write(session, key, "gear-fit", kind, "seen", "yes")
        assert gear_fit.find(job).verdict is Verdict.IN
        assert gear_fit.find(write(session, key, "gear-fit", "key", "seen", "unseen")).verdict is Verdict.UNSURE
        assert gear_fit.find(write(session, key, "gear-fit", "key", "seen", "no")).verdict is Verdict.OUT


def test_a_fit_by_heat_knows_what_the_metal_bears_and_where_it_grips(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "gear-fit", bore="32", interference="0.05", slip="0.03", width="20")
        hot = heating.heated(job)
        assert hot.fit.gear_c == pytest.approx(233.7, abs=0.05)
        assert hot.grips_c == pytest.approx(153.5, abs=0.1)
        assert hot.cooling.loose_s == pytest.approx(1159, abs=3)
        assert gear_fit.find(job).verdict is Verdict.OUT
        assert "taken to bear 230" in gear_fit.find(job).sentence
        job = filled(session, key, "gear-fit", bore="32", interference="0.05", limit_c="300", shaft_c="-40")
        assert heating.heated(job).fit.within_limit
        assert "paint" in [check.kind for check in order.checks_of(job)]
    errors = fit.read({"bore": "32", "interference": "5"}, LengthUnit.MM).errors
    assert "far too much" in errors["interference"]
    assert "Both are needed" in fit.read({"bore": "32"}, LengthUnit.MM).errors["interference"]


def test_bolts_are_pulled_crosswise_stage_by_stage_in_either_unit(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "gear-fit", bolts="4", stages="60", steps="3")
        assert [(pull.stage, pull.bolt) for pull in bolts.pulls(job)][:5] == [(1, 1), (1, 3), (1, 2), (1, 4), (2, 1)]
        assert "20" in gear_fit.prompt(job, {"method": "bolts"}).instruction
        job = write(session, key, "gear-fit", "torque-1-1", "pulled", "14.75 ft lb")
        assert bolts.pulls(job)[0].right
        job = write(session, key, "gear-fit", "torque-1-3", "pulled", "40")
        found = gear_fit.find(job)
        assert found.title == "Out: bolt 3 past its torque"
        assert "Loosen it" in found.next_step
        assert "again" in found.next_step
        for text in ("much", "500"):
            with pytest.raises(InvalidInput):
                write(session, key, "gear-fit", "torque-1-2", "pulled", text)
        with pytest.raises(InvalidInput, match="no-such-stage"):
            write(session, key, "gear-fit", "torque-1-9", "pulled", "20")
        job = write(session, key, "gear-fit", "torque-1-3", "pulled", "20")
        assert all(pull.right for pull in bolts.pulls(job)[:2])
    with pytest.raises(InvalidInput, match="stages-not-rising"):
        stages("40; 20", None, "N m")
    assert parse_torque("10 in lb", "N m") == pytest.approx(1.13, abs=0.01)
    assert both(100).startswith("100")


def test_lobe_room_is_judged_at_its_tightest(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert len(lobe_room.lobes(loading.load(session, key))) == 8
        for n in range(1, 9):
            job = write(session, key, "lobe-room", f"lobe-{n}", "gap", "2.4" if n != 3 else "1.8")
        found = lobe_room.find(job)
        assert found.verdict is Verdict.IN
        assert "less than preferred" in found.title
        assert "2 intake" in found.unit
        assert lobe_room.find(write(session, key, "lobe-room", "lobe-3", "gap", "1.51")).verdict is Verdict.UNSURE
        assert lobe_room.find(write(session, key, "lobe-room", "lobe-3", "gap", "1.2")).verdict is Verdict.OUT
        for slot, text in (("lobe-9", "2"), ("lobe-1", "-1"), ("lobe-1", "200")):
            with pytest.raises(InvalidInput):
                write(session, key, "lobe-room", slot, "gap", text)


def test_fit_stands_between_receive_and_mark_and_advises_without_locking(shop: Shop) -> None:
    groups = [station.group for station in ORDER.stations]
    assert groups == sorted(groups, key=["Receive", "Fit", "Mark", "Find TDC", "Degree", "Prove", "Close"].index)
    with shop.write() as session:
        job = loading.load(session, a_job(session))
    told = ORDER.advice(job)
    assert "End play" in told["degree"][0]
    assert "Runout" in told["choice"][0]
