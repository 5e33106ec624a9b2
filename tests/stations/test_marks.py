"""Gears described, marks looked at, keys and lifters read, backlash and sprockets measured."""

import math

import pytest
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, a_job, take, true_top
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.quantities import LengthUnit
from uranograph.engine import backlash as engine_backlash
from uranograph.engine import gear_train, gear_train_model
from uranograph.phase import blind_sets, finding, slack, split_overlap, suspicions
from uranograph.phase import marks as phase_marks
from uranograph.shop import asides, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.backlash import rules as backlash
from uranograph.stations.diagnosis import rules as diagnosis
from uranograph.stations.gear_train import rules as station
from uranograph.stations.marks import rules as marks
from uranograph.stations.sprocket_line import rules as sprocket

THREE = {
    "g1_name": "crank",
    "g1_teeth": "27",
    "g2_name": "idler",
    "g2_teeth": "41",
    "g2_on": "1",
    "g2_mark": "space",
    "g2_there": "tooth",
    "g3_name": "cam",
    "g3_teeth": "54",
    "g3_role": "cam",
    "g3_on": "2",
    "g3_mark": "tooth",
    "g3_there": "space",
}
TWO = {"g1_name": "crank", "g1_teeth": "21", "g2_name": "cam", "g2_teeth": "42", "g2_role": "cam", "g2_on": "1"}
MARKED = TWO | {"g2_mark": "tooth", "g2_there": "space"}


def read(typed: dict[str, str]) -> gear_train_model.DriveTrain:
    filled = gear_train.read(typed, LengthUnit.MM)
    assert filled.errors == {}
    assert filled.value is not None
    return filled.value


def described(session: Session, typed: dict[str, str], title: str = "Marks", card: dict[str, str] | None = CARD) -> str:
    key = a_job(session, card=card, title=title)
    jobs.save_form(session, key, "train", typed, "QZ")
    return key


def look(session: Session, key: str, **answers: str) -> Job:
    job = loading.load(session, key)
    for kind, text in answers.items():
        kind = kind.replace("_", "-")
        number = loading.load(session, key).next_number("marks", kind)
        job = take(session, key, "marks", [(f"{kind}.{number}.seen", text, None)])
    return job


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"g2_teeth": "0"}, "g2_teeth", "whole number"),
        ({"g2_teeth": "41.5"}, "g2_teeth", "whole number"),
        ({"g2_teeth": ""}, "g2_teeth", "Count the teeth"),
        ({"g2_on": ""}, "g2_on", "which gear turns"),
        ({"g2_on": "9"}, "g2_on", "no gear 9"),
        ({"g3_name": "idler"}, "g3_name", "there twice"),
        ({"g3_role": "crank"}, "g3_role", "one crank gear"),
        ({"g3_role": "idler"}, "g3_role", "the cam's"),
        ({"g3_there": "tooth"}, "g3_mark", "cannot meet"),
        ({"g3_there_tooth": "41"}, "g3_there_tooth", "0 to 40"),
        ({"g2_on": "3", "g3_on": "2"}, "g2_teeth", "nothing that the crank turns"),
        ({"g3_also": "1"}, "g3_teeth", "cannot turn"),
        ({"g2_links": "three", "g2_how": "chain"}, "g2_links", "plain number"),
        ({"helix_module": "1"}, "helix_angle", "all three"),
        ({"g2_name": "x" * 30}, "g2_name", "24 letters"),
    ],
)
def test_what_cannot_be_is_said_at_the_gear(change: dict[str, str], field: str, says: str) -> None:
    filled = gear_train.read(THREE | change, LengthUnit.MM)
    assert filled.value is None
    assert says in filled.errors[field]


def test_half_speed_is_judged_and_the_spoiler_named() -> None:
    right = station.judged(read(THREE))
    assert right.verdict is Verdict.IN
    assert "not back" in right.sentence
    assert "all meet after 82" in right.sentence
    wrong = station.judged(read(THREE | {"g3_teeth": "53"}))
    assert wrong.verdict is Verdict.OUT
    assert "“cam” spoils it: with 54 teeth instead of 53" in wrong.sentence
    assert "every mark is back" in gear_train.when_back(read(MARKED))
    assert "no marks" in gear_train.when_back(read(TWO))


def test_two_cams_shafts_and_loops_that_can_turn() -> None:
    both = read(MARKED | {"g3_name": "exhaust", "g3_teeth": "42", "g3_role": "cam", "g3_on": "2"})
    assert set(both.found) == {"cam", "exhaust"}
    loop = read(THREE | {"g4_name": "second", "g4_teeth": "41", "g4_on": "1", "g3_also": "4"})
    assert loop.ratio_ok
    compound = TWO | {"g2_name": "big", "g2_role": "idler", "g2_teeth": "30", "g1_teeth": "20"}
    compound |= {"g3_name": "small", "g3_teeth": "24", "g3_on": "2", "g3_how": "shaft"}
    compound |= {"g4_name": "cam", "g4_teeth": "32", "g4_role": "cam", "g4_on": "3"}
    of = read(compound)
    assert of.ratio_ok
    assert {c.name: round(of.shift_of(c), 3) for c in of.contacts} == {"crank-big": 18.0, "small-cam": 22.5}


def test_marks_seen_are_judged_in_crank_degrees_and_handed_to_the_degreeing(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED | {"g2_held": "taper", "g2_sprung": "1", "g1_held": "key"})
        job = loading.load(session, key)
        assert marks.find(job).begun is False
        job = look(session, key, pin_2="in", key_1="yes", key_2="yes", order="yes", paint="no")
        job = look(session, key, crank_at="firing", mesh_2="early")
        late = marks.find(job)
        assert late.verdict is Verdict.OUT
        assert "17.14 crank deg early: ICL 92.9 instead of 110.0" in late.sentence
        assert phase_marks.advance_deg(job) == pytest.approx(720 / 42)
        assert any("expect ICL 92.9" in note for note in finding.find(job).notes)
        job = look(session, key, mesh_2="on")
        assert "Pin of “cam” is still in" in marks.find(job).sentence
        assert marks.prompt(job, {}).spot.kind == "pin-2"
        with pytest.raises(InvalidInput, match="pin-still-in"):
            look(session, key, turned="smooth")
        job = look(session, key, pin_2="out", turned="smooth", back="yes")
        assert marks.find(job).verdict is Verdict.IN
        true_top(session, key)
        read = [("intake.1.before", "50.4", "atdc"), ("intake.1.after", "139.4", "atdc")]
        expected = finding.find(take(session, key, "degree", read, second="1.0"))
        assert not any("expect ICL" in note for note in expected.notes)
        job = look(session, key, mesh_2="early")
        assert any("expect ICL 92.9" in note for note in finding.find(job).notes)
        job = look(session, key, mesh_2="on")
        job = look(session, key, key_2="hidden")
        assert marks.find(job).verdict is Verdict.UNSURE
        job = look(session, key, key_2="no")
        assert marks.find(job).verdict is Verdict.OUT
        with pytest.raises(InvalidInput, match="not-an-answer"):
            look(session, key, key_2="maybe")
        with pytest.raises(InvalidInput, match="no-such-check"):
            look(session, key, mesh_7="on")


def test_hidden_marks_are_no_pass_until_the_keys_are_read_and_the_key_decides(shop: Shop) -> None:
    typed = MARKED | {"crank_key": "0", "cam_key": "180"}
    with shop.write() as session:
        key = described(session, typed)
        look(session, key, order="yes", paint="no", crank_at="firing", mesh_2="hidden", turned="smooth", back="hidden")
        assert marks.find(loading.load(session, key)).verdict is Verdict.UNSURE
        take(session, key, "marks", [("keyway-crank.1.level", "0.4", None), ("keyway-cam.1.level", "179.5", None)])
        found = marks.find(loading.load(session, key))
        assert found.verdict is Verdict.IN
        assert "this is right" in found.sentence
        look(session, key, mesh_2="late")
        found = marks.find(loading.load(session, key))
        assert found.verdict is Verdict.IN
        assert any("the key decides" in note for note in found.notes)
        job = take(session, key, "marks", [("keyway-cam.2.level", "188.6", None)])
        assert marks.find(job).verdict is Verdict.OUT
        assert "1 tooth behind" in marks.find(job).sentence
        job = take(session, key, "marks", [("keyway-cam.3.level", "184.2", None)])
        assert marks.find(job).verdict is Verdict.UNSURE
        with pytest.raises(InvalidInput, match="more-than-a-turn"):
            take(session, key, "marks", [("keyway-cam.4.level", "500", None)])


@pytest.mark.parametrize("late", [-2.5, 0.0, 3.0, 7.0])
def test_split_overlap_finds_how_late_a_made_up_cam_is(shop: Shop, late: float) -> None:
    shape = {"duration_deg": 240.0, "check_lift_mm": 1.0, "max_lift_mm": 8.0}
    lobes = {
        "intake": CosineLobe(centerline_deg=110 + late, **shape),
        "exhaust": CosineLobe(centerline_deg=-110 + late, **shape),
    }
    with shop.write() as session:
        key = described(session, TWO, card=None)
        for turned, suffix in ((0, ""), (4, "-on")):
            for lobe, truth in lobes.items():
                prompt = marks.prompt(loading.load(session, key), {"method": "split"})
                assert prompt is not None
                assert prompt.slot == f"split.1.{lobe}{suffix}"
                reading = [(prompt.slot, f"{lift_at(truth, turned):.3f}", None)]
                job = take(session, key, "marks", reading, second="4" if suffix else None)
        found = split_overlap.measured(job)
        assert found is not None
        assert found.found is not None
        assert found.found.shift_deg == pytest.approx(late, abs=0.35)
        look(session, key, order="yes", turned="smooth")
        # Nobody knows what advance is ground in: only lifters that are alike rule out the next tooth.
        alike = abs(late) < 2.6
        assert marks.find(loading.load(session, key)).verdict is (Verdict.OPEN if alike else Verdict.UNSURE)
        job = look(session, key, proof_overlap="yes", proof_firing="yes")
        assert marks.find(job).verdict is (Verdict.IN if alike else Verdict.UNSURE)
        job = look(session, key, proof_firing="no")
        assert marks.find(job).verdict is Verdict.OUT
        with pytest.raises(InvalidInput, match="not-a-lifter-height"):
            take(session, key, "marks", [("split.2.intake", "-1", None)])


def test_split_overlap_read_the_wrong_way_says_so_and_uses_the_card_where_there_is_one(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, TWO)
        job = take(session, key, "marks", [("split.1.intake", "1.2", None), ("split.1.exhaust", "1.2", None)])
        found = split_overlap.measured(job)
        assert found is not None
        assert found.slopes_from == "of the card's lobes"
        assert "alike" in split_overlap.summary(job, found)
        readings = [("split.1.intake-on", "1.0", None), ("split.1.exhaust-on", "1.4", None)]
        job = take(session, key, "marks", readings, second="4")
        found = split_overlap.measured(job)
        assert found is not None
        assert found.found is None
        assert "must rise" in split_overlap.summary(job, found)


def test_every_hole_set_is_tried_and_close_is_not_enough(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, TWO | {"hole_sets": "4"})
        for number, off in enumerate(("0.9", "-1.2", "-0.2"), 1):
            job = take(session, key, "marks", [(f"set-{number}.1.tried", off, None)])
            of = blind_sets.tried(job)
            assert of is not None
            assert blind_sets.summary(job, of)[0] == "under-way"
        job = take(session, key, "marks", [("set-4.1.tried", "0.35", None)])
        of = blind_sets.tried(job)
        assert of is not None
        assert (of.best, of.symmetric) == (3, False)
        assert blind_sets.summary(job, of)[0] == "unsure"
        job = take(session, key, "marks", [("set-3.2.tried", "0.02", None), ("set-4.2.tried", "1.1", None)])
        of = blind_sets.tried(job)
        assert of is not None
        assert (of.best, blind_sets.summary(job, of)[0]) == (3, "under-way")
        assert marks.prompt(job, {"method": "blind"}).slot == "again.1.lift"
        job = take(session, key, "marks", [("again.1.lift", "1.02", None)])
        of = blind_sets.tried(job)
        assert of is not None
        assert blind_sets.summary(job, of)[0] == "in"
        assert any("expect IO 12.0" in note for note in phase_marks.expected_notes(job))
        job = take(session, key, "marks", [("again.2.lift", "0.6", None)])
        of = blind_sets.tried(job)
        assert of is not None
        assert blind_sets.summary(job, of)[0] == "unsure"
        with pytest.raises(InvalidInput, match="no-such-hole-set"):
            take(session, key, "marks", [("set-5.1.tried", "0", None)])


WINDOW = {"pitch_radius": "60", "spec_min": "0.05", "spec_max": "0.15", "dial_division": "0.002"}


def rocked(session: Session, mean: float, wave: float, setup: dict[str, str] = WINDOW, places: int = 8) -> Job:
    key = described(session, MARKED, title=f"Rocked {mean} {wave} {places} {setup}"[:120])
    jobs.save_form(session, key, "backlash", setup, "QZ")
    for n in range(places):
        place = 360 * n / places
        travel = mean - wave * math.cos(math.radians(place - 200))
        job = take(session, key, "backlash", [(f"place.{n + 1}.travel", f"{travel:.4f}", None)], second=f"{place:g}")
    return job


def test_backlash_is_judged_by_its_tightest_and_loosest_place(shop: Shop) -> None:
    with shop.write() as session:
        good = backlash.find(rocked(session, 0.1, 0.03))
        assert good.verdict is Verdict.IN
        bad = backlash.find(rocked(session, 0.1, 0.08))
        assert bad.verdict is Verdict.OUT
        assert "The mean 0.100 looks good; the swing of" in bad.sentence
        assert "at 180 cam deg" in bad.sentence  # the place read nearest to the true 200
        near = backlash.find(rocked(session, 0.1, 0.0525))
        assert near.verdict is Verdict.UNSURE
        for places in (2, 3, 7):
            assert backlash.find(rocked(session, 0.1, 0.01, places=places)).verdict is Verdict.OPEN
        unspecified = backlash.find(rocked(session, 0.11, 0.02, {"pitch_radius": "60"}))
        assert unspecified.verdict is Verdict.UNSURE


def test_backlash_hot_with_another_gear_and_as_the_lash_of_the_drive(shop: Shop) -> None:
    heat = {"hot_c": "90", "center": "95", "case_material": "aluminum", "driver_radius": "31.67"}
    heat |= {"driver_material": "11.5", "driven_material": "aluminum", "pitch_radius": "63.33"}
    with shop.write() as session:
        job = rocked(session, 0.08, 0.01, WINDOW | heat | {"size_step": "0.02"})
        rows = {row.label: row.measured for row in backlash.find(job).rows}
        assert engine_backlash.hot_change_mm(job) == pytest.approx(0.0186, abs=5e-5)
        assert rows["Hot, tight and loose"] == "0.089, 0.108"
        assert rows["With the other gear"] == "0.056, 0.075"
        assert slack.slack_deg(job) == pytest.approx(math.degrees(2 * 0.08 / 63.33), abs=1e-6)
        assert slack.source(job) == "by backlash"
        true_top(session, job.key)
        read = [("intake.1.before", "67.5", "atdc"), ("intake.1.after", "156.5", "atdc")]
        job = take(session, job.key, "degree", read, second="1.0")
        told = {row.label: row.measured for row in finding.find(job).rows}
        assert told["Drive slack, crank deg"] == "0.1"
        assert suspicions.questions(job) == ()
        broken = engine_backlash.Mesh.read(WINDOW | {"hot_c": "90"}, LengthUnit.MM)
        assert "needs this too" in broken.errors["center"]
        assert (
            "above the greatest"
            in engine_backlash.Mesh.read(WINDOW | {"spec_min": "0.2"}, LengthUnit.MM).errors["spec_min"]
        )
        assert (
            "unobtainium"
            in engine_backlash.Mesh.read(WINDOW | {"case_material": "unobtainium"}, LengthUnit.MM).errors[
                "case_material"
            ]
        )


@pytest.mark.parametrize(
    ("text", "drop", "field"),
    [("-0.1", "0", "text"), ("7", "0", "text"), ("0.1", "", "second"), ("0.1", "9999", "second")],
)
def test_a_travel_that_cannot_be_is_refused(shop: Shop, text: str, drop: str, field: str) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        jobs.save_form(session, key, "backlash", WINDOW, "QZ")
        with pytest.raises(InvalidInput) as caught:
            take(session, key, "backlash", [("place.1.travel", text, None)], second=drop)
        assert caught.value.field == field


def test_sprockets_in_line_out_of_it_and_too_near_to_tell(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        job = take(session, key, "sprocket", [("driver.1.depth", "12.00", None)])
        assert sprocket.find(job).verdict is Verdict.OPEN
        assert sprocket.prompt(job, {}).slot == "driven.1.depth"
        job = take(session, key, "sprocket", [("driven.1.depth", "12.60", None)])
        assert sprocket.find(job).verdict is Verdict.OUT
        assert "out toward the cover" in sprocket.find(job).sentence
        jobs.save_form(session, key, "sprocket", {"shim": "0.3", "tolerance": "0.2"}, "QZ")
        found = sprocket.find(loading.load(session, key))
        assert "Add 2 shims behind it; that leaves 0.00" in found.sentence
        jobs.save_form(session, key, "sprocket", {"row_offset": "0.35"}, "QZ")
        assert sprocket.find(loading.load(session, key)).verdict is Verdict.UNSURE
        jobs.save_form(session, key, "sprocket", {"row_offset": "0.55"}, "QZ")
        assert sprocket.find(loading.load(session, key)).verdict is Verdict.IN


def test_a_station_is_passed_over_with_a_reason_until_it_is_worked_at(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        with pytest.raises(InvalidInput, match="reason-missing"):
            asides.skip(session, key, ["sprocket"], "  ", "QZ")
        with pytest.raises(InvalidInput, match="never-skipped"):
            asides.skip(session, key, ["engine"], "why not", "QZ")
        asides.skip(session, key, ["sprocket", "backlash"], "Nothing to measure.", "QZ")
        asides.skip(session, key, ["sprocket"], "Said twice.", "QZ")
        findings = ORDER.overview(loading.load(session, key))
        assert findings["sprocket"].state == "skipped"
        assert findings["sprocket"].sentence == "Nothing to measure."
        job = take(session, key, "sprocket", [("driver.1.depth", "12", None)])
        assert ORDER.overview(job)["sprocket"].state == "under-way"
        assert ORDER.advice(job)["degree"] == ("Better after: End play, Timing marks, True TDC.",)
        with pytest.raises(InvalidInput, match="no-such-slot"):
            jobs.record(session, key, Entry("sprocket", "skip.9.in_sentence", "x"), "QZ", None, None)


@pytest.mark.parametrize(
    ("typed", "title"),
    [
        ({"offset": "0.8", "crank_teeth": "24"}, "Aligned"),
        ({"offset": "31", "crank_teeth": "24"}, "2 teeth late"),
        ({"offset": "-4", "crank_teeth": "24"}, "Not whole teeth"),
        ({"offset": "22", "crank_teeth": "24"}, "Not whole teeth"),
    ],
)
def test_a_deviation_is_diagnosed(typed: dict[str, str], title: str) -> None:
    found = diagnosis.read(typed).value
    assert found is not None
    assert found.title == title
    if typed["offset"] == "-4":
        assert "cannot be a jumped tooth" in found.sentence
        assert not any("chain worn" in why for why in found.explanations)
    if typed["offset"] == "22":
        assert any("chain worn" in why for why in found.explanations)


@pytest.mark.parametrize(
    ("claim", "says"),
    [("15", "The claim holds"), ("7.5", "in cam degrees"), ("3", "does not hold: with 24 crank teeth")],
)
def test_a_claim_about_one_tooth_is_checked(claim: str, says: str) -> None:
    found = diagnosis.read({"crank_teeth": "24", "claim_deg": claim}).value
    assert found is not None
    assert says in found.claim
    assert "Count the teeth" in diagnosis.read({"offset": "3"}).errors["crank_teeth"]
    assert "Type what is reported" in diagnosis.read({"crank_teeth": "24"}).errors["offset"]


def test_the_engine_of_a_job_says_which_way_the_train_turns(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        jobs.save_form(session, key, "engine", {**ENGINE, "rotation": "counterclockwise"}, "QZ")
        job = loading.load(session, key)
    places = marks.places_after(job, 21)
    assert [(place.up_teeth, place.down_teeth, place.back_after) for place in places] == [(0, 21, 2)]
    assert all(place.on for place in marks.places_after(job, 42))


def test_marks_are_seen_off_by_any_number_of_teeth(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        jobs.save_form(session, key, "train", {**MARKED, "unit": "mm"}, "QZ")
        job = loading.load(session, key)
        contact = gear_train.described(job).marked[0]
        job = take(session, key, "marks", [(f"mesh-{contact.n}.1.seen", "early", None)], "3")
        assert phase_marks.teeth_off(job) == [(contact, 3)]
        one = gear_train.described(job).shift_of(contact)
        assert f"{contact.name} 3 teeth early" in marks.find(job).sentence
        for other in gear_train.described(job).marked[1:]:
            job = take(session, key, "marks", [(f"mesh-{other.n}.1.seen", "na", None)])
        assert phase_marks.advance_deg(job) == pytest.approx(3 * one)
        with pytest.raises(InvalidInput):
            take(session, key, "marks", [(f"mesh-{contact.n}.2.seen", "late", None)], "0")


def test_dots_that_face_each_other_are_not_looked_for_on_links() -> None:
    chained = {**TWO, "g2_how": "chain", "g2_mark": "tooth", "g2_there": "tooth"}
    for links, where in (({}, "facing each other"), ({"g2_links": "62"}, "on the chain's links")):
        check = next(c for c in phase_marks.checks_of(read({**chained, **links})) if c.kind.startswith("mesh"))
        assert where in check.instruction


def test_blind_sets_are_tried_by_eye_and_the_next_is_the_nearest_to_be_expected(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "train", {**TWO, "hole_sets": "7", "unit": "mm"}, "QZ")
        job = loading.load(session, key)
        assert blind_sets.shift_of(job, 2) == pytest.approx(720 / gear_train.described(job).cam.teeth / 7)
        first = blind_sets.prompt(job, by_eye=True)
        assert [value for value, _ in first.options] == ["fits", "nearly-lags", "nearly-leads", "lags", "leads"]
        take(session, key, "marks", [("set-1.1.tried", "lags", None)])
        job = take(session, key, "marks", [("set-7.1.tried", "leads", None)])
        assert blind_sets.prompt(job, by_eye=True).spot.kind == "set-4"
        for number, text in ((4, "fits"), (3, "nearly-lags"), (5, "nearly-leads"), (2, "lags"), (6, "leads")):
            job = take(session, key, "marks", [(f"set-{number}.1.tried", text, None)])
        found = blind_sets.tried(job)
        assert (found.best, found.symmetric) == (4, True)
        assert blind_sets.summary(job, found)[0] == "under-way"
        job = take(session, key, "marks", [("again.1.lift", "1.0", None)])
        assert blind_sets.summary(job, blind_sets.tried(job))[0] == "in"
        with pytest.raises(InvalidInput):
            take(session, key, "marks", [("set-4.2.tried", "perhaps", None)])


def test_two_sets_that_fit_by_eye_are_no_answer(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "train", {**TWO, "hole_sets": "3", "unit": "mm"}, "QZ")
        for number, text in ((1, "fits"), (2, "fits"), (3, "lags")):
            job = take(session, key, "marks", [(f"set-{number}.1.tried", text, None)])
    assert blind_sets.summary(job, blind_sets.tried(job))[0] == "unsure"
