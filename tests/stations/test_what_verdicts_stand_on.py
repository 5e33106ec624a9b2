"""What looks and verdicts stand on: acts that end them, pins, the crank's place, ranks of marks, and nothing there to judge."""

import json

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, WHEEL, a_job, cam_moved, take
from tests.phase.test_weighed import GOOD, four_events, ready
from tests.stations.test_by_eye import TWO_MARKS, kinds
from tests.stations.test_by_eye import look as by_eye_look
from tests.stations.test_fit import filled
from tests.stations.test_marks import MARKED, described
from tests.stations.test_marks import look as look_at_marks
from uranograph.bench import checks
from uranograph.bench.acts import PARTS, Act, checked_details
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.engine import end_play as engine_end_play
from uranograph.engine import positions
from uranograph.phase import marks as phase_marks
from uranograph.phase import marks_by_eye, results, turning
from uranograph.shop import asides, exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.by_eye import rules as eye
from uranograph.stations.clearance import rules as clearance
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.gear_fit import fit, heating, order
from uranograph.stations.gear_fit import heating as phase_heating
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.lock_up import rules as lock_up
from uranograph.stations.marks import rules as marks
from uranograph.stations.setting import advice
from uranograph.stations.setting import rules as setting


def marks_in(session: Session, **typed: str) -> str:
    key = described(session, {**MARKED, **typed})
    look_at_marks(session, key, order="yes", paint="no", crank_at="firing", mesh_2="on", turned="smooth", back="yes")
    return key


def act(session: Session, key: str, kind: str, station: str = "marks", **details: object) -> Job:
    asides.act(session, key, station, kind, "", "QZ", details=details)
    return loading.load(session, key)


# Acts ----------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("of", ["gears", ""])
def test_gears_off_and_on_again_end_marks_turns_and_where_the_cam_stands(shop: Shop, of: str) -> None:
    with shop.write() as session:
        key = marks_in(session)
        jobs.save_form(session, key, "wheel", {**WHEEL, "scale": "quarter"}, "QZ")
        take(session, key, "tdc", [("stop.1.before", "40", "btdc"), ("stop.1.after", "40", "atdc")])
        job = four_events(session, key)
        assert marks.find(job).verdict is Verdict.IN
        assert turning.find(job).verdict is Verdict.IN
        act(session, key, "parts-removed", of=of)
        job = act(session, key, "parts-fitted", of=of)
        assert marks.find(job).verdict is not Verdict.IN
        assert turning.find(job).code == "turn-again"
        assert not results.results(job)
        listed = {check.kind for check in lock_up.checks(job)}
        assert ("gears" in listed) is bool(of)


@pytest.mark.parametrize(("of", "ended"), [("limits", True), ("other", False)])
def test_other_parts_leave_marks_and_cam_and_those_that_limit_play_end_it(shop: Shop, of: str, ended: bool) -> None:
    with shop.write() as session:
        key = marks_in(session)
        before = loading.load(session, key)
        job = act(session, key, "parts-removed", of=of)
    assert [r.slot for r in job.active_readings("marks", "mesh-2")] == [
        r.slot for r in before.active_readings("marks", "mesh-2")
    ]
    assert (engine_end_play.since(job, "crank") > 0) is ended
    # A cover may have stood in the way as well.
    assert turning.find(job).verdict is not Verdict.IN


def test_a_cam_moved_otherwise_is_tightened_at_lock_up_and_one_moved_by_its_adjuster_by_that_name(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = cam_moved(session, key, 4.0)
        assert "cam-bolts" not in {check.kind for check in lock_up.checks(job)}
        job = act(session, key, "cam-moved", "degree")
        assert "cam-bolts" in {check.kind for check in lock_up.checks(job)}
        job = take(session, key, "lock-up", [("cam-bolts.1.seen", "torque", None)])
        assert next(a for a in lock_up.answered(job) if a.check.kind == "cam-bolts").state == "in"
        job = act(session, key, "cam-moved", "degree")
    assert next(a for a in lock_up.answered(job) if a.check.kind == "cam-bolts").reading is None


def test_an_act_on_one_cam_leaves_what_was_read_of_the_other(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "engine", **TWO_CAMS)
        four_events(session, key)
        cam_moved(session, key, 4.0, cam="exhaust")
        take(session, key, "degree", [("eo.2.forward", "58", "bbdc"), ("ec.2.forward", "10", "atdc")])
        job = act(session, key, "cam-moved", "degree", cam="intake")
        found = {result.lobe for result in results.results(positions.at_position(job))}
        assert found == {"exhaust"}
        assert [one.shift_deg for one in positions.tries(job)] == [4.0]
        job = act(session, key, "cam-moved", "degree")
    assert not results.results(positions.at_position(job))


TWO_CAMS = {
    "cylinders": "4",
    "firing_order": "1-3-4-2",
    "rotation": "clockwise",
    "valvetrain": "two-cams-over",
    "lift_at": "bucket",
}


def test_an_act_says_what_is_known_and_a_file_brings_it_back(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, title="Known")
        job = act(session, key, "gear-turned", gear="idler", teeth="2", way="earlier")
        file = exchange.export_job(session, key)
        copy = exchange.import_job(session, exchange.read_job(file.model_dump_json()))
        again = loading.load(session, copy)
    for told in (job, again):
        act_told = told.acts("mesh")[0]
        assert (act_told.gear, act_told.teeth, act_told.way) == ("idler", 2, "earlier")
    assert ORDER.describe(job.acts("mesh")[0]) == "A gear was turned by teeth: idler, 2 teeth earlier"
    by_one = Act(station="marks", kind="gear-turned", teeth=1, way="later")
    assert by_one.in_sentence == "a gear was turned by teeth, 1 tooth later"
    assert Act(station="marks", kind="parts-removed", of="limits").title.endswith(PARTS["limits"])
    form = {"act": "gear-turned", "act_gear": "cam gear", "act_teeth": "x", "by": "QZ", "token": "a1"}
    answer = client.post(f"/jobs/{key}/marks/anew", data=form, headers={"HX-Request": "true"})
    assert answer.status_code == 422
    assert "“x” teeth cannot be" in answer.text
    assert 'value="cam gear"' in answer.text


@pytest.mark.parametrize(
    ("kind", "details", "field"),
    [
        ("gear-turned", {"teeth": "0"}, "teeth"),
        ("gear-turned", {"way": "sideways"}, "way"),
        ("shims-changed", {"cam": "intake"}, "cam"),
        ("parts-fitted", {"of": "everything"}, "of"),
        ("cam-moved", {"cam": "bank3-both"}, "cam"),
    ],
)
def test_what_cannot_be_said_of_an_act_is_refused_by_name(kind: str, details: dict[str, str], field: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        checked_details(kind, details)
    assert refused.value.field == field
    entry = {"type": "act", "kind": kind, "seq": 1, "by": "QZ", "at": "2026-01-01T00:00:00Z", **details}
    file = {
        "title": "x",
        "created_at": entry["at"],
        "touched_at": entry["at"],
        "version": 3,
        "format": "uranograph-job",
    }
    with pytest.raises(InvalidInput):
        exchange.read_job(json.dumps({**file, "entries": [entry]}))


# Two turns and pins -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("station", "answer"), [("marks", "smooth"), ("by-eye", "smooth"), ("turn-over", "free")])
def test_two_turns_are_one_record_wherever_they_are_asked_for(shop: Shop, station: str, answer: str) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        filled(session, key, "by-eye", **TWO_MARKS)
        job = take(session, key, station, [("turned.1.seen", answer, None)])
        assert turning.find(job).verdict is Verdict.IN
        for looks in (phase_marks.answers(job), marks_by_eye.answers(job)):
            assert next(a for a in looks if a.check.kind == "turned").text == "smooth"
        job = act(session, key, "gear-turned")
    assert turning.find(job).verdict is Verdict.OPEN
    for looks in (phase_marks.answers(job), marks_by_eye.answers(job)):
        assert next(a for a in looks if a.check.kind == "turned").reading is None


def test_a_stop_at_the_marks_is_a_stop_when_turning_over_and_a_heavy_place_is_no_pass(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        job = take(session, key, "marks", [("turned.1.seen", "bind", None)])
        assert turning.find(job).code == "stopped"
        job = take(session, key, "turn-over", [("turned.1.seen", "heavy", None)])
    assert turning.find(job).verdict is Verdict.UNSURE
    turned = next(a for a in phase_marks.answers(job) if a.check.kind == "turned")
    assert (turned.text, turned.state) == ("heavy", "unsure")


def test_turns_with_a_pin_in_prove_nothing_though_a_file_may_hold_them(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, {**MARKED, "g2_sprung": "1"})
        take(session, key, "turn-over", [("turned.1.seen", "free", None)])
        file = json.loads(exchange.export_job(session, key).model_dump_json())
        pin = {**file["entries"][-1], "station": "marks", "slot": "pin-2.1.seen", "text": "in"}
        turned = {**file["entries"][-1], "seq": pin["seq"] + 1}
        copy = exchange.import_job(
            session, exchange.read_job(json.dumps({**file, "entries": [*file["entries"][:-1], pin, turned]}))
        )
        job = loading.load(session, copy)
        assert turning.find(job).code == "pinned"
        job = take(session, copy, "marks", [("pin-2.2.seen", "out", None)])
    assert turning.find(job).verdict is Verdict.IN


# Where the crank stands, and which mark decides --------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("at", "verdict"),
    [("firing", Verdict.IN), ("other", Verdict.IN), ("unknown", Verdict.UNSURE), ("", Verdict.OPEN)],
)
def test_marks_say_nothing_until_it_is_said_where_the_crank_stands(shop: Shop, at: str, verdict: Verdict) -> None:
    looks = {"order": "yes", "paint": "no", "mesh_2": "on", "turned": "smooth", "back": "yes"}
    with shop.write() as session:
        job = look_at_marks(session, described(session, MARKED), **looks, **({"crank_at": at} if at else {}))
    assert marks.find(job).verdict is verdict


@pytest.mark.parametrize(
    ("lifters", "verdict", "code"),
    [("down", Verdict.OPEN, "looking"), ("same", Verdict.OUT, "turn-out"), ("intake", Verdict.OUT, "turn-out")],
)
def test_at_firing_tdc_both_lifters_down_prove_that_half_and_no_more(
    shop: Shop, lifters: str, verdict: Verdict, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        by_eye_look(session, key, "crank-at", "firing")
        job = by_eye_look(session, key, "lifters", lifters)
        assert (eye.find(job).verdict, eye.find(job).code) == (verdict, code)
        by_kind = {answer.check.kind: answer for answer in marks_by_eye.answers(job)}
        assert (by_kind["firing"].text == "yes") is (lifters == "down")
        assert by_kind["overlap"].reading is None
        if lifters == "down":
            for kind, answer in (("overlap", "yes"), ("turned", "smooth")):
                job = by_eye_look(session, key, kind, answer)
            assert eye.find(job).verdict is Verdict.IN


KEYED = {**TWO_MARKS, "m3_on": "cam gear", "m3_kind": "keyway", "m3_meets": "up"}


@pytest.mark.parametrize(
    ("keyway", "dot", "verdict", "code"),
    [
        ("on", "late", Verdict.IN, "right-by-the-key"),
        ("late", "on", Verdict.OUT, "teeth-off"),
        ("na", "late", Verdict.OUT, "teeth-off"),
        ("unseen", "late", Verdict.OUT, "teeth-off"),
    ],
)
def test_a_key_that_is_right_is_right_whatever_the_dot_says(
    shop: Shop, keyway: str, dot: str, verdict: Verdict, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "by-eye", **KEYED)
        for kind, answer in (("crank-at", "firing"), ("look-1", dot), ("look-2", "on"), ("look-3", keyway)):
            by_eye_look(session, key, kind, answer)
        for kind, answer in (("turned", "smooth"), ("back", "yes")):
            job = by_eye_look(session, key, kind, answer)
    finding = eye.find(job)
    assert (finding.verdict, finding.code) == (verdict, code)
    assert any("The key decides; leave the gear" in note for note in finding.notes) is (verdict is Verdict.IN)


@pytest.mark.parametrize(("second", "verdict"), [("on", Verdict.IN), ("early", Verdict.OUT)])
def test_of_two_keys_both_must_stand_right(shop: Shop, second: str, verdict: Verdict) -> None:
    typed = {**KEYED, "m4_on": "cam", "m4_kind": "dowel", "m4_meets": "level"}
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "by-eye", **typed)
        looks = {"crank-at": "firing", "look-1": "late", "look-2": "on", "look-3": "on", "look-4": second}
        for kind, answer in {**looks, "turned": "smooth", "back": "yes"}.items():
            job = by_eye_look(session, key, kind, answer)
    assert eye.find(job).verdict is verdict
    # The dot is told as off only where keys do not outrank it.
    assert ("cam gear" in eye.find(job).sentence) is (verdict is Verdict.OUT)


def test_marks_are_named_as_they_are_and_what_needs_no_timing_is_not_asked(shop: Shop) -> None:
    typed = {
        **{f"m{n}_on": f"gear {n}" for n in range(1, 13)},
        **{f"m{n}_meets": "level" for n in range(1, 13)},
        "m2_kind": "number",
        "m2_label": "4",
        "m3_meets": "between",
        "m3_other": "crank gear",
        "m4_idler": "yes",
        "d1_kind": "pump",
        "d2_kind": "magneto",
        "d2_timed": "no",
        "d3_kind": "tensioner",
        "d3_timed": "yes",
    }
    with shop.write() as session:
        job = filled(session, a_job(session, card=None), "by-eye", **typed)
        by_kind = {answer.check.kind: answer.check for answer in marks_by_eye.answers(job)}
        assert sum(kind.startswith("look") for kind in by_kind) == 12
        assert by_kind["look-2"].label == "Number or letter 4 of “gear 2” to level"
        assert by_kind["look-3"].label == "Dot of “gear 3” to a space between two teeth of “crank gear”"
        assert {"driven-1", "driven-2", "rotor"}.isdisjoint(kinds(job))
        assert "driven-3" in kinds(job)
        back = by_kind["back"].instruction
        assert back.index("gear 4") > back.index("need not be")
        assert back.index("gear 5,") < back.index("need not be")
        name = "the outermost gear of the front timing case, as it is seen from above"
        errors = ORDER.forms["by-eye"].read({"m1_on": name, "m1_meets": "up"}, job).errors
    assert errors == {"m1_on": "A name has 60 letters at the most: write a shorter one."}


# Nothing there ------------------------------------------------------------------------------------------------------------


def test_where_there_is_none_of_anything_nothing_is_judged_and_the_sheet_says_so(shop: Shop) -> None:
    with shop.write() as session:
        key = described(session, MARKED)
        job = look_at_marks(
            session, key, order="na", paint="no", crank_at="firing", mesh_2="na", turned="smooth", back="na"
        )
        found = marks.find(job)
        assert (found.verdict, found.code) == (Verdict.SKIPPED, "nothing-there")
        other = a_job(session, card=None, title="By eye")
        filled(session, other, "by-eye", **TWO_MARKS)
        for kind in ("look-1", "look-2"):
            by_eye_look(session, other, kind, "na")
        for kind, answer in (("crank-at", "firing"), ("turned", "smooth")):
            job = by_eye_look(session, other, kind, answer)
    assert (eye.find(job).verdict, eye.find(job).code) == (Verdict.SKIPPED, "nothing-there")


def test_there_is_none_everywhere_is_in_nowhere(shop: Shop) -> None:
    """Every look that can be answered so is: of none of them a verdict follows."""
    with shop.write() as session:
        key = described(session, MARKED, card=None)
        filled(session, key, "by-eye", **TWO_MARKS, d1_kind="magneto")
        filled(session, key, "complaint", complaint="nothing in particular")
        answered = set()
        for station in ORDER.stations:
            for _ in range(40):
                prompt = station.prompt(loading.load(session, key), {})
                offered = dict(prompt.options) if prompt else {}
                answer = next((each for each in ("na", "firing", "smooth", "no") if each in offered), None)
                if prompt is None or answer is None:
                    break
                answered |= {station.key} if answer == "na" else set()
                take(session, key, station.key, [(prompt.slot, answer, None)])
        findings = ORDER.overview(loading.load(session, key))
    assert answered >= {"wrong", "gear-fit", "by-eye", "marks", "lock-up", "choice"}
    assert {name for name in answered if findings[name].state == "in"} == set()
    assert {name for name in answered if findings[name].code == "nothing-there"} >= {
        "gear-fit",
        "by-eye",
        "marks",
        "lock-up",
    }


def test_what_there_is_none_of_is_not_asked_again_in_its_parts(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        before = {answer.check.kind for answer in order.answers(loading.load(session, key))}
        for kind in ("keytried", "plate"):
            job = take(session, key, "gear-fit", [(f"{kind}.1.seen", "na", None)])
    assert before - {answer.check.kind for answer in order.answers(job)} == {"key", "free"}


def test_where_the_cam_stands_holds_through_what_does_not_touch_it(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = four_events(session, key)
        assert results.results(job)
        job = act(session, key, "parts-removed", "degree", of="other")
        assert results.results(job)
        job = act(session, key, "parts-fitted", "degree", of="gears")
    assert not results.results(job)
    assert set(GOOD) == {"io", "ic", "eo", "ec"}


# Heat ---------------------------------------------------------------------------------------------------------------------

# A bore of 32 and 0.05 of interference: 233.7 to slip on with 0.03 to spare, and it grips under 153.5.
STEEL = {"bore": "32", "interference": "0.05", "held": "pressed"}


def heat(session: Session, key: str, kind: str, text: str) -> Job:
    number = loading.load(session, key).next_number("gear-fit", kind)
    return take(session, key, "gear-fit", [(f"{kind}.{number}.measured", text, None)])


def looked_through(session: Session, key: str) -> Job:
    for answer in order.answers(loading.load(session, key)):
        if answer.reading is None:
            take(session, key, "gear-fit", [(f"{answer.check.kind}.1.seen", "yes", None)])
    return loading.load(session, key)


@pytest.mark.parametrize(
    ("typed", "measured", "verdict", "code"),
    [
        (STEEL, "236", Verdict.OPEN, "to-be-measured"),
        (STEEL, "80", Verdict.OUT, "heated-too-cool"),
        (STEEL, "148", Verdict.OUT, "heated-too-cool"),
        (STEEL, "154", Verdict.UNSURE, "heated-just-so"),
        (STEEL, "200", Verdict.IN, "on"),
        (STEEL, "224", Verdict.IN, "on"),
        (STEEL, "229", Verdict.UNSURE, "heated-near-limit"),
        (STEEL, "260", Verdict.OUT, "heated-past-limit"),
        (STEEL, "none", Verdict.UNSURE, "heat-not-measured"),
        ({**STEEL, "limit_c": "170"}, "200", Verdict.OUT, "heated-past-limit"),
        ({**STEEL, "gear_material": "aluminum", "interference": "0.02"}, "190", Verdict.OUT, "heated-past-limit"),
        ({**STEEL, "gear_material": "aluminum", "interference": "0.02"}, "120", Verdict.IN, "on"),
        ({"bore": "32", "heated_c": "200", "held": "pressed"}, "66", Verdict.OUT, "heated-short"),
        ({"bore": "32", "heated_c": "200", "held": "pressed"}, "196", Verdict.IN, "on"),
        ({"bore": "32", "heated_c": "200", "gear_material": "aluminum"}, "", Verdict.OUT, "too-hot"),
        ({"bore": "32", "heated_c": "120", "gear_material": "plain polymer"}, "", Verdict.OUT, "too-hot"),
        ({"bore": "32", "heated_c": "200", "limit_c": "180"}, "", Verdict.OUT, "too-hot"),
        ({"bore": "32", "heated_c": "200", "limit_c": "210", "held": "key"}, "230", Verdict.OUT, "heated-past-limit"),
    ],
)
def test_a_gear_is_judged_by_the_heat_that_was_measured(
    shop: Shop, typed: dict[str, str], measured: str, verdict: Verdict, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        # Running cold the fit is not at issue here.
        filled(session, key, "gear-fit", **{"running_c": "20", "slip": "0.005", **typed})
        job = looked_through(session, key)
        if code == "to-be-measured":
            assert (gear_fit.find(job).verdict, gear_fit.find(job).code) == (verdict, code)
            return
        if measured:
            job = heat(session, key, "temperature", measured)
    assert (gear_fit.find(job).verdict, gear_fit.find(job).code) == (verdict, code)


def test_the_temperature_is_asked_for_before_the_gear_goes_on_and_a_newer_one_counts(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "gear-fit", **STEEL, slip="0.005")
        asked = []
        for _ in range(20):
            prompt = gear_fit.prompt(loading.load(session, key), {})
            if prompt is None:
                break
            asked.append(prompt.spot.kind)
            take(session, key, "gear-fit", [(prompt.slot, "90" if prompt.spot.kind == "temperature" else "yes", None)])
        assert asked.index("paint") < asked.index("temperature") < asked.index("marks")
        assert gear_fit.find(loading.load(session, key)).code == "heated-too-cool"
        job = heat(session, key, "temperature", "222")
    assert gear_fit.find(job).verdict is Verdict.IN


def test_beside_a_chilled_shaft_the_difference_counts(shop: Shop) -> None:
    chilled = {**STEEL, "shaft_c": "-60", "running_c": "20"}
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "gear-fit", **chilled)
        told = fit.setup(job).heat
        assert told is not None
        # 0.05 of a bore of 32 at 11.7e-6, gear and shaft alike.
        assert told.difference_c(-60) == pytest.approx(0.05 / (11.7e-6 * 32), abs=1e-6)
        assert told.room_mm(100, -60) == pytest.approx(11.7e-6 * 32 * 160 - 0.05)
        assert phase_heating.heated(job).cooling is None
        for _ in range(3):
            prompt = gear_fit.prompt(loading.load(session, key), {"method": "heat"})
            if prompt.spot.kind not in ("rehearsed", "paint"):
                break
            take(session, key, "gear-fit", [(prompt.slot, "yes", None)])
        assert prompt.spot.kind == "shaft-temperature"
        heat(session, key, "shaft-temperature", "-20")
        assert gear_fit.prompt(loading.load(session, key), {"method": "heat"}).spot.kind == "temperature"
        warm = heat(session, key, "temperature", "100")
        assert gear_fit.find(warm).code == "heated-too-cool"
        assert heating.grip(warm).grips_c == pytest.approx(-20 + told.difference_c(-20))
        job = heat(session, key, "shaft-temperature", "-55")
        assert gear_fit.find(job).code != "heated-too-cool"
        notes = [note.values for note in gear_fit.find(job).notes if note.code == "grips-by-difference"]
    assert notes == [{"apart_c": pytest.approx(told.difference_c(-55))}]


@pytest.mark.parametrize("typed", [STEEL, {"bore": "32", "heated_c": "100"}])
def test_the_cautions_of_heat_stand_there_whichever_way_it_is_stated(shop: Shop, typed: dict[str, str]) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        assert heating.HOT not in gear_fit.find(loading.load(session, key)).cautions
        job = filled(session, key, "gear-fit", **{**typed, "gear_material": "magnesium"})
    assert {heating.HOT, heating.MAGNESIUM} <= set(gear_fit.find(job).cautions)
    assert "fumes" in heating.HOT


# Plays ----------------------------------------------------------------------------------------------------------------------

PLAY = {"crank_min": "0.10", "crank_max": "0.20", "crank_way": "dial", "dial_division": "0.01"}


def play_read(session: Session, key: str, fitted: str, *travels: str) -> Job:
    take(
        session,
        key,
        "end-play",
        [(f"fitted-crank.{loading.load(session, key).next_number('end-play', 'fitted-crank')}.seen", fitted, None)],
    )
    for travel in travels:
        number = loading.load(session, key).next_number("end-play", "crank")
        take(session, key, "end-play", [(f"crank.{number}.travel", travel, None)])
    return loading.load(session, key)


def test_a_play_without_the_parts_that_limit_it_is_no_play_on_either_page(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAY)
        filled(session, key, "setting", crank_way="cheeks")
        job = play_read(session, key, "none", "0.9", "0.9", "0.9")
        assert engine_end_play.state_of(job, "crank").code == "parts-not-fitted"
        assert (setting.find(job).verdict, setting.find(job).code) == (Verdict.OPEN, "parts-first")
        job = play_read(session, key, "all", "0.9", "0.9", "0.9")
    # Of the shaft as it is fitted it is a play, and sanding cannot take any away.
    assert setting.find(job).code == "out-of-reach"


@pytest.mark.parametrize(
    ("travels", "code"), [(("0", "0"), "so-far"), (("0", "0", "0"), "binds"), (("0", "0", "0.01"), "tight")]
)
def test_a_dial_that_stays_at_nothing_binds(shop: Shop, travels: tuple[str, ...], code: str) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAY)
        job = play_read(session, key, "all", *travels)
    assert engine_end_play.state_of(job, "crank").code == code


def test_a_shim_that_stands_a_plate_off_is_the_play(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAY)
        job = filled(session, key, "setting", crank_way="shims", crank_stock="0.05 0.10 0.30", crank_adds="is")
        # The middle of what is allowed is 0.15, before anything was measured.
        assert advice.shim_advice(job, "crank").pack.pack_mm == [0.1, 0.05]
        assert setting.find(job).code == "stands-off"
        job = take(session, key, "setting", [("shims-crank.1.fitted", "0.10 + 0.05", None)])
        assert setting.find(job).code == "changed-not-proved"
        job = play_read(session, key, "all", "0.25", "0.25", "0.25")
        # A burr: 0.10 of it is not the shim's.
        assert advice.shim_advice(job, "crank").pack.total_mm == pytest.approx(0.05)
        job = take(session, key, "setting", [("shims-crank.2.fitted", "0.05", None)])
        job = play_read(session, key, "all", "0.15", "0.15", "0.15")
    assert setting.find(job).verdict is Verdict.IN


def test_a_play_can_be_left_as_it_is_and_end_play_says_what_it_is(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", **PLAY)
        filled(session, key, "setting", crank_way="left")
        job = play_read(session, key, "all", "0.25", "0.25", "0.25")
    assert (setting.find(job).verdict, setting.find(job).code) == (Verdict.SKIPPED, "left-as-it-is")
    assert end_play.find(job).verdict is Verdict.OUT
    assert setting.prompt(job, {}) is None


# Cautions, stand-ins, and forms that cannot be ------------------------------------------------------------------------------


def test_turning_backward_is_warned_of_where_it_is_done(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        findings = ORDER.overview(loading.load(session, key))
    for station in ("tdc", "degree"):
        assert checks.NEVER_BACKWARD in findings[station].cautions


@pytest.mark.parametrize(
    ("tappets", "warned"), [("hydraulic", True), ("", True), ("solid", False), ("stand-in", False)]
)
def test_pumped_up_lifters_are_warned_of_where_they_may_be_in(shop: Shop, tappets: str, warned: bool) -> None:
    with shop.write() as session:
        key = a_job(session, {**ENGINE, "tappets": tappets})
        found = clearance.find(loading.load(session, key))
    assert (clearance.PUMPED_UP in found.cautions) is warned


def test_what_was_in_for_checking_comes_out_before_it_is_closed(shop: Shop) -> None:
    def asked(job: Job) -> set[str]:
        return {check.kind for check in lock_up.checks(job)}

    stand_ins = {"real-tappets", "real-springs", "clay-out", "real-parts"}
    with shop.write() as session:
        key = a_job(session)
        assert asked(loading.load(session, key)) & stand_ins == set()
        filled(session, key, "end-play", **PLAY)
        play_read(session, key, "stand-in", "0.15")
        filled(session, key, "piston-valve", gauge="0.02")
        take(session, key, "piston-valve", [("clay-1.1.gap", "2.5", None)])
        filled(session, key, "engine", **{**ENGINE, "tappets": "stand-in", "springs": "light"})
        # The real ones are in again; that they were not is in the log.
        job = filled(session, key, "engine", **{**ENGINE, "tappets": "hydraulic", "springs": "real"})
        assert asked(job) >= stand_ins
        job = take(session, key, "lock-up", [("clay-out.1.seen", "no", None)])
    assert lock_up.find(job).verdict is Verdict.OUT


@pytest.mark.parametrize(
    ("kind", "typed", "field"),
    [
        ("card", {**CARD, "check_lift": "banana"}, "check_lift"),
        ("top", {"how": "stop"}, "by_whom"),
        ("rules", {"tolerance": "banana"}, "tolerance"),
        ("wheel", {**WHEEL, "division": "none"}, "division"),
    ],
)
def test_a_job_file_with_a_form_that_cannot_be_is_refused_by_name(
    client: TestClient, shop: Shop, kind: str, typed: dict[str, str], field: str
) -> None:
    with shop.write() as session:
        key = ready(session)
        file = json.loads(exchange.export_job(session, key).model_dump_json())
    last = file["entries"][-1]
    entry = {"type": "sheet", "kind": kind, "typed": typed, "seq": last["seq"] + 1, "by": "QZ", "at": last["at"]}
    bad = json.dumps({**file, "entries": [*file["entries"], entry]})
    with pytest.raises(InvalidInput) as refused:
        exchange.read_job(bad)
    assert (refused.value.code, refused.value.values["name"]) == ("form-cannot-be", field)
    answer = client.post("/api/judge", content=bad)
    assert answer.status_code == 422
    assert field in answer.text
    contradicting = {**entry, "kind": "card", "typed": {**CARD, "intake_centerline_deg": "120"}}
    # A card at odds with itself is kept, and says so.
    exchange.read_job(json.dumps({**file, "entries": [*file["entries"], contradicting]}))
