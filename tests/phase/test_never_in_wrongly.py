"""What once said *in* and was not, what was asked in a ring, and what could not be read again: each has its case here."""

import pytest

from tests.hands import CARD, a_job, proved_by, take, true_top
from tests.phase.test_methods import KEYWAYS, OVERLAP, Bench, choose
from tests.stations.test_fit import filled, turned, write
from tests.stations.test_marks import MARKED, TWO, described, look
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.bench.slots import slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine import backlash as engine_backlash
from uranograph.engine import positions
from uranograph.engine import runout as engine_runout
from uranograph.phase import (
    card_rows,
    finding,
    judgment,
    keyways,
    move_history,
    offers,
    overlaps,
    results,
    split_overlap,
)
from uranograph.shop import asides, exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.adjust import rules as adjust
from uranograph.stations.backlash import rules as backlash
from uranograph.stations.diagnosis import rules as diagnosis
from uranograph.stations.drive_choice import rules as drive_choice
from uranograph.stations.gear_fit import order as phase_order
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.marks import rules as marks
from uranograph.stations.runout import rules as runout
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.true_tdc import rules as tdc

BLIND = {**TWO, "hole_sets": ""}
SETS = [("set-1.1.tried", "1", None), ("set-2.1.tried", "-1", None), ("set-3.1.tried", "0.01", None)]


def at_overlap(job_of: tuple[Shop, str], *readings: tuple[str, str]) -> Job:
    shop, key = job_of
    with shop.write() as session:
        return take(session, key, "degree", [(slot, text, None) for slot, text in readings])


@pytest.fixture
def by_range(shop: Shop) -> tuple[Shop, str]:
    """A job whose card gives the intake lift at overlap from 2.50 to 3.30 mm and nothing else."""
    with shop.write() as session:
        card = {"intake_overlap_min": "2.50", "intake_overlap_max": "3.30", "unit": "mm"}
        key = a_job(session, card=card, title="By the range")
        true_top(session, key, "40", "40")
    return shop, key


@pytest.mark.parametrize(
    ("lift", "verdict"),
    [
        ("2.60", "in"),
        ("2.90", "in"),
        ("3.20", "in"),
        ("2.50", "unsure"),
        ("3.30", "unsure"),
        ("2.40", "out"),
        ("3.40", "out"),
    ],
)
def test_the_cards_range_decides_and_degrees_are_advice(by_range: tuple[Shop, str], lift: str, verdict: str) -> None:
    job = at_overlap(by_range, ("overlap-intake.1.lift", lift))
    assert overlaps.measured(job, "intake")[0].found.verdict.value == verdict
    assert finding.find(job).verdict.value == verdict


def test_a_bank_that_is_out_is_never_hidden_behind_one_that_is_in(by_range: tuple[Shop, str]) -> None:
    job = at_overlap(by_range, ("overlap-intake.1.lift", "2.9"), ("overlap-intake.2.lift", "1.2"))
    found = finding.find(job)
    assert found.verdict is Verdict.OUT
    assert "of bank 2" in found.title
    assert adjust.find(job).verdict is not Verdict.IN
    both_in = at_overlap(by_range)
    assert {one.bank: one.verdict for one in judgment.judged(both_in)} == {1: Verdict.IN, 2: Verdict.OUT}


def test_a_nominal_lobes_slope_widens_the_degrees(by_range: tuple[Shop, str]) -> None:
    job = at_overlap(by_range, ("overlap-intake.1.lift", "2.0"))
    one = results.results(job)[0]
    # 0.9 mm from the middle on a flank that may be a third flatter or steeper.
    assert one.uncertainty_deg > 0.33 * abs(one.error_deg)


def test_both_lifters_down_at_overlap_are_the_firing_top(by_range: tuple[Shop, str], shop: Shop) -> None:
    found = finding.find(at_overlap(by_range, ("overlap-intake.1.lift", "0.02")))
    assert found.verdict is Verdict.UNSURE
    assert "firing TDC" in found.next_step
    with shop.write() as session:
        key = described(session, TWO, title="Split at the firing top", card=None)
        job = take(session, key, "marks", [("split.1.intake", "0.00", None), ("split.1.exhaust", "0.03", None)])
        found = marks.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "firing TDC" in found.sentence
        assert "straight up" not in found.sentence


@pytest.mark.parametrize(
    ("intake", "exhaust", "way", "order"), [("0.05", "2.4", "late", "Advance"), ("2.4", "0.05", "early", "Retard")]
)
def test_a_cam_a_tooth_out_at_split_overlap_is_told_which_way_and_not_asked_in_a_ring(
    shop: Shop, intake: str, exhaust: str, way: str, order: str
) -> None:
    with shop.write() as session:
        key = described(session, TWO, title="A tooth out", card=None)
        read = [("split.1.intake", intake, None), ("split.1.exhaust", exhaust, None)]
        job = take(session, key, "marks", read)
        found = marks.find(job)
        assert found.verdict is Verdict.OUT
        assert f"a tooth or more {way}" in found.sentence
        assert f"{order} it by a tooth" in found.sentence
        # The next question is both lifters anew, not the slopes of a cam that stands wrong.
        assert split_overlap.prompt(job).slot == "split.2.intake"


def test_a_split_by_a_nominal_lobe_near_half_a_tooth_asks_for_the_slopes(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, TWO, title="Near half a tooth")
        # Half a tooth of 21 is 8.6 deg; the card's lobes say about 8.
        job = take(session, key, "marks", [("split.1.intake", "0.8", None), ("split.1.exhaust", "2.1", None)])
        read = split_overlap.measured(job)
        assert 6 < abs(read.found.shift_deg) < 12
        assert split_overlap.whole_teeth(job, read) is Verdict.UNSURE
        assert marks.find(job).verdict is Verdict.UNSURE
        assert split_overlap.prompt(job).slot == "split.1.intake-on"


def test_timing_marks_do_not_keep_in_after_the_drive_changes(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, {**TWO, "g2_held": "bolts"}, title="Blind")
        drive = {"a1_kind": "hole-sets", "a1_teeth": "42", "a1_sets": "3", "unit": "mm"}
        jobs.save_form(session, key, "drive", drive, "QZ")
        look(session, key, order="yes", turned="smooth")
        job = take(session, key, "marks", [*SETS, ("again.1.lift", "1.0", None)])
        assert ORDER.overview(job)["marks"].verdict is Verdict.IN
        jobs.save_form(session, key, "drive", {**drive, "a1_sets": "6"}, "QZ")
        assert ORDER.overview(loading.load(session, key))["marks"].verdict is not Verdict.IN


def test_a_pressed_gear_is_not_in_before_the_pistons_own_top_stands_beside_its_marks(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, {**MARKED, "g2_held": "pressed"}, title="Pressed")
        job = look(session, key, order="yes", paint="no", crank_at="firing", mesh_2="on", turned="smooth", back="yes")
        assert marks.find(job).verdict is Verdict.OPEN
        assert "own top" in marks.find(job).next_step
        assert marks.find(look(session, key, top_2="no")).verdict is Verdict.OUT
        assert marks.find(look(session, key, top_2="hidden")).verdict is Verdict.UNSURE
        assert marks.find(look(session, key, top_2="yes")).verdict is Verdict.IN


def test_a_cam_whose_lobes_are_apart_is_not_averaged_to_in() -> None:
    bench = Bench(0.0, {"division": "0.5"}, noise=0.0)
    bench.truth.lobes["intake"] = bench.truth.lobes["intake"].model_copy(update={"centerline_deg": 113.1})
    bench.truth.lobes["exhaust"] = bench.truth.lobes["exhaust"].model_copy(update={"centerline_deg": -113.0})
    bench.by_events()
    found = finding.find(bench.job)
    # The wheel may have been knocked between the lobes.
    assert (found.verdict, found.code) == (Verdict.UNSURE, "lobes-disagree")
    assert "Advance" not in found.sentence
    assert "Retard" not in found.sentence
    assert adjust.find(bench.job).verdict is not Verdict.IN
    bench.by_events()
    for place in ("before", "after"):
        bench.write("tdc", slot_of("drop", 2, place), *bench.truth.at_stop(5, place), second="5")
    # Nothing slipped: the grind is asked about, and answered.
    assert finding.find(bench.job).verdict is Verdict.UNSURE
    bench.write("degree", "asked-lobes-apart.1.answer", "yes")
    found = finding.find(bench.job)
    assert found.title == "Out: the lobes are apart"
    assert "Advance" not in found.sentence
    assert adjust.find(bench.job).verdict is not Verdict.IN


def test_a_right_intake_beside_a_bad_exhaust_reading_gets_no_order() -> None:
    bench = Bench(0.0, {"division": "0.5"}, noise=0.0)
    bench.truth.lobes["exhaust"] = bench.truth.lobes["exhaust"].model_copy(update={"centerline_deg": -116.0})
    bench.by_events()
    found = finding.find(bench.job)
    assert found.verdict is Verdict.UNSURE
    assert found.title == "Cannot tell: the lobes disagree"
    assert "re-read the exhaust" in found.next_step
    assert "Retard" not in found.sentence
    bench.filled("rules", {"basis": "intake", "tolerance": "1"})
    assert finding.find(bench.job).verdict is Verdict.UNSURE
    assert abs(finding.find(bench.job).quantity.value) < 0.3
    for reading in [each for each in bench.readings if each.slot.startswith("e")]:
        bench.readings.remove(reading)
    bench.proof()
    assert finding.find(bench.job).verdict is Verdict.IN


def test_keys_read_with_the_crank_on_its_other_turn_are_told_so_and_are_read_again(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, {**TWO, "crank_key": "0", "cam_key": "90"}, title="Other turn")
        job = take(session, key, "marks", [("keyway-crank.1.level", "0", None)])
        assert keyways.prompt(job).slot == "keyway-cam.1.level"
        job = take(session, key, "marks", [("keyway-cam.1.level", "272", None)])
        found = marks.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "other turn" in found.sentence
        assert "teeth" not in found.sentence
        # Both can be read again, as often as is wanted.
        for number, (crank, cam) in enumerate((("0", "108"), ("1", "91")), 2):
            assert keyways.prompt(job).slot == f"keyway-crank.{number}.level"
            job = take(session, key, "marks", [(f"keyway-crank.{number}.level", crank, None)])
            assert keyways.measured(job) is None
            assert keyways.prompt(job).slot == f"keyway-cam.{number}.level"
            job = take(session, key, "marks", [(f"keyway-cam.{number}.level", cam, None)])
        assert keyways.measured(job).nearest_teeth == 0


def test_a_lift_at_overlap_is_read_again_after_a_move_and_comes_back_from_a_file(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card={**CARD, **OVERLAP}, title="Moved and read again")
        true_top(session, key)
        take(session, key, "degree", [("overlap-intake.1.lift", "1.2", None), ("overlap-exhaust.1.lift", "2.2", None)])
        jobs.save_form(session, key, "drive", KEYWAYS, "QZ")
        act = offers.act_of(loading.load(session, key), "both", 0)
        jobs.move(session, key, act, "QZ", "first", None)
        job = take(session, key, "degree", [("overlap-intake.1.lift", "1.7", None)])
        assert overlaps.measured(positions.at_position(job), "intake")[0].lift_mm == 1.7
        with pytest.raises(jobs.Changed):
            take(session, key, "degree", [("overlap-intake.1.lift", "1.8", None)])
        again = exchange.import_job(session, exchange.read_job(exchange.export_job(session, key).model_dump_json()))
        assert ORDER.overview(loading.load(session, again)) == ORDER.overview(job)


@pytest.mark.parametrize("station", ["runout", "sprocket", "backlash"])
def test_what_was_read_before_a_cure_is_history_and_stands_beside_the_new(shop: Shop, station: str) -> None:
    with shop.write() as session:
        key = described(session, MARKED, title=f"Cured at {station}")
        if station == "runout":
            job = turned(session, key, 0.06)
            assert engine_runout.measured(job).total_mm == pytest.approx(0.12, abs=0.01)
        elif station == "sprocket":
            job = take(session, key, station, [("driver.1.depth", "20", None), ("driven.1.depth", "20.6", None)])
            assert sprocket.find(job).verdict is Verdict.OUT
        else:
            jobs.save_form(session, key, station, {"pitch_radius": "60", "spec_max": "0.15", "unit": "mm"}, "QZ")
            job = take(session, key, station, [("place.1.travel", "0.3", None)], second="0")
        asides.change(session, key, station, "put right", "QZ")
        assert loading.load(session, key).active_readings(station) == []
        if station == "runout":
            job = turned(session, key, 0.01)
            assert engine_runout.measured(job).total_mm == pytest.approx(0.02, abs=0.005)
            notes = runout.find(job).notes
        elif station == "sprocket":
            job = take(session, key, station, [("driver.2.depth", "20", None), ("driven.2.depth", "20.1", None)])
            assert sprocket.find(job).verdict is Verdict.IN
            notes = sprocket.find(job).notes
        else:
            for n in range(8):
                job = take(session, key, station, [(f"place.{n + 2}.travel", "0.1", None)], second=str(45 * n))
            assert backlash.find(job).verdict is Verdict.IN
            notes = backlash.find(job).notes
        assert any(note.startswith("Before (put right)") for note in notes)
        again = exchange.import_job(session, exchange.read_job(exchange.export_job(session, key).model_dump_json()))
        assert ORDER.overview(loading.load(session, again))[station] == ORDER.overview(job)[station]
        with pytest.raises(InvalidInput, match="change-said-elsewhere"):
            asides.change(session, key, "tdc", "wheel knocked", "QZ")


def test_backlash_that_is_gone_when_hot_is_out_however_good_it_is_cold(shop: Shop) -> None:
    hot = {"pitch_radius": "60", "spec_min": "0.01", "spec_max": "0.2", "hot_c": "120", "center": "90", "unit": "mm"}
    hot |= {
        "case_material": "steel",
        "driver_radius": "30",
        "driver_material": "aluminum",
        "driven_material": "aluminum",
    }
    with shop.write() as session:
        key = described(session, MARKED, title="Hot")
        jobs.save_form(session, key, "backlash", hot, "QZ")
        for n in range(8):
            job = take(session, key, "backlash", [(f"place.{n + 1}.travel", "0.05", None)], second=str(45 * n))
        found = backlash.find(job)
        assert found.verdict is Verdict.OUT
        assert found.title == "Out: gone when hot"
        # What is left hot within the dial's doubt is neither in nor out.
        change, doubt = engine_backlash.hot_change_mm(job), engine_backlash.doubt_mm(job)
        assert change is not None
        key = described(session, MARKED, title="Hot, nearly")
        jobs.save_form(session, key, "backlash", hot, "QZ")
        for n in range(8):
            job = take(
                session,
                key,
                "backlash",
                [(f"place.{n + 1}.travel", f"{-change + doubt / 2:.4f}", None)],
                second=str(45 * n),
            )
        found = backlash.find(job)
    assert (found.verdict, found.code) == (Verdict.UNSURE, "hot-too-near")


def test_a_crank_gear_that_runs_out_shows_twice_a_cam_turn(shop: Shop) -> None:
    import math

    with shop.write() as session:
        key = described(session, MARKED, title="Crank gear")
        jobs.save_form(session, key, "backlash", {"pitch_radius": "60", "spec_max": "0.3", "unit": "mm"}, "QZ")
        for n in range(8):
            travel = 0.1 - 0.03 * math.cos(math.radians(2 * (45 * n - 90)))
            job = take(session, key, "backlash", [(f"place.{n + 1}.travel", f"{travel:.4f}", None)], second=str(45 * n))
        rows = {row.label: row.measured for row in backlash.find(job).rows}
    off = 0.03 / (2 * math.tan(math.radians(20)))
    assert float(rows["Crank gear off center by"]) == pytest.approx(off, abs=0.002)
    assert float(rows["Cam gear off center by"]) == pytest.approx(0, abs=0.002)
    assert rows["Tightest at, cam deg"] in ("90", "270")


def test_runout_from_few_places_is_not_read_as_if_it_were_all(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "runout", places="4", dial_division="0.002")
        # Eccentricity 0.05 with its high spot midway between two of the four places.
        for n, text in enumerate(("0.035", "0.035", "-0.035", "-0.035")):
            job = write(session, key, "runout", "set-1", "dial", text, str(90 * n))
        assert engine_runout.measured(job).total_mm == pytest.approx(0.099, abs=0.001)
        assert any("More places tell more" in note for note in runout.find(job).notes)
        assert drive_choice.option(job, "gears").verdict == "no"


def test_a_heat_fit_with_nothing_left_running_hot_is_out_unless_something_else_holds_it(shop: Shop) -> None:
    fit = {"bore": "30", "interference": "0.02", "gear_material": "aluminum", "running_c": "110", "limit_c": "150"}
    with shop.write() as session:
        key = a_job(session)
        found = gear_fit.find(filled(session, key, "gear-fit", **fit))
        assert found.title == "Out: loose when hot"
        assert gear_fit.find(filled(session, key, "gear-fit", **{**fit, "running_c": "60"})).title != found.title
        jobs.save_form(session, key, "train", MARKED | {"g2_held": "key"}, "QZ")
        keyed = gear_fit.find(filled(session, key, "gear-fit", **fit))
        assert keyed.verdict is not Verdict.OUT
        assert any("nothing is left of the interference" in note for note in keyed.notes)


def test_full_torque_and_locker_wait_for_the_proof_of_the_position(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "gear-fit", bolts="2", stages="20", locker="medium")
        kinds = [check.kind for check in phase_order.checks_of(job)]
        assert "locker" not in kinds
        for kind in kinds:
            job = write(session, key, "gear-fit", kind, "seen", "yes")
        assert gear_fit.find(job).title == "Snug until proved"
        true_top(session, key)
        read = [("io.1.forward", "12", "btdc"), ("ic.1.forward", "128", "btdc")]
        read += [("eo.1.forward", "126", "atdc"), ("ec.1.forward", "14", "atdc")]
        take(session, key, "degree", read)
        job = proved_by(session, key, ("io", "12", "btdc"))
        assert finding.find(job).verdict is Verdict.IN
        assert "locker" in [check.kind for check in phase_order.checks_of(job)]
        assert gear_fit.find(job).title != "Snug until proved"


def test_a_top_left_where_it_is_is_taken_off_and_shouts_no_out(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = true_top(session, key, "41", "37.5")
        assert tdc.find(job).verdict is Verdict.OPEN
        job = take(session, key, "tdc", [("left", "", None)])
        found = tdc.find(job)
        assert (found.verdict, found.title) == (Verdict.IN, "In: TDC found, and subtracted")
        jobs.void(session, key, job.readings[-1].id, "moved after all", "QZ")
        assert tdc.find(loading.load(session, key)).verdict is Verdict.OPEN
        job = take(session, key, "degree", [("intake.1.before", "64", "atdc")], second="1.0")
        assert tdc.find(job).verdict is Verdict.IN


def test_one_event_that_was_read_stands_measured_and_none_that_was_not(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = take(session, key, "degree", [("ic.1.forward", "126", "btdc")])
    rows = {row.label: row for row in finding.find(job).rows}
    assert (rows["IC"].measured, rows["IC"].inferred) == ("54.0", False)
    for kind in ("IO", "EO", "EC"):
        assert (rows[kind].measured, rows[kind].inferred) == ("", True)
    assert (
        card_rows.if_durations_true(finding.find(job).rows)
        == "Calculated from the card's durations: IO 10.0, EO 52.0, EC 16.0."
    )


@pytest.mark.parametrize(
    ("offset", "teeth", "title"),
    [
        ("17", "21", "One tooth late"),
        ("1.9", "21", "Aligned"),
        ("1.9", "120", "Not whole teeth"),
        ("4.2", "120", "Not whole teeth"),
        ("3.4", "120", "One tooth late"),
    ],
)
def test_near_a_whole_tooth_is_a_share_of_the_tooth(offset: str, teeth: str, title: str) -> None:
    found = diagnosis.read({"offset": offset, "crank_teeth": teeth}).value
    assert found.title == title
    if title != "Aligned":
        assert any("pressed" in words.lower() for words in found.explanations)


def test_the_same_words_in_inches_for_an_inch_job(shop: Shop) -> None:
    with shop.write() as session:
        from tests.hands import ENGINE

        inch = {**ENGINE, "unit": "inch", "stroke": "3.3", "rod": "5.9"}
        key = a_job(
            session, engine=inch, card={**CARD, "check_lift": "0.04", "intake_max_lift": "0.33", "unit": "inch"}
        )
        with pytest.raises(InvalidInput) as caught:
            take(session, key, "degree", [("intake.1.before", "60", "atdc")], second="0.4")
        assert "its whole lift is 0.33 in" in refusal(caught.value, LengthUnit.INCH)
        take(session, key, "tdc", [("drop.1.before", "60", "btdc")], second="4")
        with pytest.raises(InvalidInput) as deep:
            take(session, key, "tdc", [("drop.1.after", "60", "atdc")], second="4")
        assert " in" in refusal(deep.value, LengthUnit.INCH)
        assert "mm" not in refusal(deep.value, LengthUnit.INCH)


def test_cautions_stand_where_they_bite(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED, title="Cautions")
        found = ORDER.overview(loading.load(session, key))
        for station in ("marks", "adjust"):
            assert any("pistons well down" in words for words in found[station].cautions), station
        assert any("before the move and again after it" in words for words in found["adjust"].cautions)
        assert any("comes out before the crank is turned on" in words for words in found["tdc"].cautions)
        job = filled(session, key, "gear-fit", bore="30", interference="0.03", gear_material="magnesium", shaft_c="-70")
        told = " ".join(ORDER.overview(job)["gear-fit"].cautions)
        for words in ("no flame", "never water", "Dry ice", "open air", "gloves"):
            assert words in told
        plain = filled(session, key, "gear-fit", bore="30", interference="0.03", gear_material="steel")
        assert "Magnesium" not in " ".join(ORDER.overview(plain)["gear-fit"].cautions)


def test_choosing_again_moves_nothing_that_was_judged() -> None:
    bench = Bench(7.5, {"division": "0.5"}, noise=0.0)
    bench.by_events()
    bench.filled("drive", KEYWAYS)
    choose(bench, "A8")
    bench.truth.moved(8)
    bench.by_events()
    before = move_history.history(bench.job)[0].errors
    assert before["both"][0] == pytest.approx(7.5, abs=0.3)
    assert adjust.find(bench.job).verdict is finding.find(bench.job).verdict
