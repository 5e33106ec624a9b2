"""Marks by eye: what is listed is asked, what the lifters at the top say, pins in and out."""

import pytest
from sqlalchemy.orm import Session

from tests.hands import a_job, take
from tests.stations.test_fit import filled
from uranograph.bench import checks
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.phase import finding, marks_by_eye
from uranograph.shop import asides
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations.by_eye import rules as eye

TWO_MARKS = {
    "m1_on": "cam gear",
    "m1_other": "crank gear",
    "m2_on": "belt pulley",
    "m2_kind": "line",
    "m2_meets": "still",
}
TWO_MARKS |= {"m2_other": "belt plate"}


def look(session: Session, key: str, kind: str, answer: str, teeth: str | None = None) -> Job:
    number = jobs.load(session, key).next_number("by-eye", kind)
    return take(session, key, "by-eye", [(f"{kind}.{number}.seen", answer, None)], teeth)


def kinds(job: Job) -> list[str]:
    return [answer.check.kind for answer in marks_by_eye.answers(job)]


def test_marks_against_still_things_need_no_tooth_counted(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "by-eye", **TWO_MARKS)
        assert kinds(job) == ["crank-at", "look-1", "look-2", "turned", "back"]
        look(session, key, "crank-at", "firing")
        late = look(session, key, "look-1", "late", "2")
        assert (eye.find(late).verdict, eye.find(late).code) == (Verdict.OUT, "teeth-off")
        assert "2 teeth late" in eye.find(late).sentence
        assert eye.find(late).values["way"] == "forward"
        asides.act(session, key, "by-eye", "gear-turned", "two teeth on", "QZ")
        assert marks_by_eye.answers(jobs.load(session, key))[0].reading is None
        for kind, answer in (("look-1", "on"), ("look-2", "on"), ("turned", "smooth"), ("back", "yes")):
            job = look(session, key, kind, answer)
        assert (eye.find(job).verdict, eye.find(job).code) == (Verdict.OPEN, "looking")
        assert eye.find(look(session, key, "crank-at", "unknown")).verdict.name == "UNSURE"
        job = look(session, key, "crank-at", "other")
    assert eye.find(job).verdict is Verdict.IN
    assert eye.prompt(job, {}) is None


def test_two_turns_bring_back_gear_and_case_marks_that_links_do_not(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        plain = filled(session, key, "by-eye", **TWO_MARKS)
        linked = filled(session, key, "by-eye", **TWO_MARKS, m3_on="cam sprocket", m3_meets="link", m3_other="chain")
    words = {
        job: next(a.check.instruction for a in marks_by_eye.answers(job) if a.check.kind == "back")
        for job in (plain, linked)
    }
    assert words[plain].startswith("After two turns every")
    assert "cam gear, belt pulley" in words[linked]
    assert words[linked].index("cam sprocket") > words[linked].index("need not be")


@pytest.mark.parametrize(
    ("answer", "verdict", "code"),
    [
        ("intake", Verdict.UNSURE, "early"),
        ("exhaust", Verdict.UNSURE, "late"),
        ("intake-alone", Verdict.OUT, "tooth-early"),
        ("exhaust-alone", Verdict.OUT, "tooth-late"),
        ("down", Verdict.UNSURE, "firing-top"),
        ("unseen", Verdict.UNSURE, "not-seen"),
        ("same", Verdict.OPEN, "looking"),
    ],
)
def test_which_lifter_is_up_at_the_top_tells_where_the_cam_stands(
    shop: Shop, answer: str, verdict: Verdict, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = look(session, key, "lifters", answer)
    assert (eye.find(job).verdict, eye.find(job).code) == (verdict, code)


def test_lifters_alike_and_proved_at_both_tops_are_in_by_eye(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        for kind, answer in (
            ("crank-at", "overlap"),
            ("lifters", "same"),
            ("overlap", "yes"),
            ("firing", "yes"),
            ("turned", "smooth"),
        ):
            job = look(session, key, kind, answer)
        assert (eye.find(job).verdict, eye.find(job).code) == (Verdict.IN, "by-the-lifters")
        assert eye.find(look(session, key, "firing", "no")).verdict is Verdict.OUT


@pytest.mark.parametrize(
    ("lifters", "rotor", "out"),
    [("down", "one", False), ("down", "half", True), ("same", "half", False), ("same", "one", True)],
)
def test_rotor_and_lifters_must_say_the_same_top(shop: Shop, lifters: str, rotor: str, out: bool) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "by-eye", d1_kind="distributor", d1_teeth="13")
        look(session, key, "lifters", lifters)
        job = look(session, key, "rotor", rotor)
    assert (eye.find(job).code == "rotor-half-turn") is out
    hint = next(a.check.hint for a in marks_by_eye.answers(job) if a.check.kind == "driven-1")
    assert "27.7" in hint


def test_pins_in_equal_pins_out(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(
            session,
            key,
            "by-eye",
            **TWO_MARKS,
            d1_kind="injection",
            d1_pinned="yes",
            d2_kind="tensioner",
            d2_pinned="yes",
        )
        for kind, answer in (("pin-1", "in"), ("pin-2", "in"), ("crank-at", "firing")):
            look(session, key, kind, answer)
        for kind, answer in (("look-1", "on"), ("look-2", "on"), ("driven-1", "yes")):
            job = look(session, key, kind, answer)
        assert "driven-2" not in kinds(job)
        assert (eye.find(job).code, marks_by_eye.pins(job)) == ("pin-in", (2, 0))
        assert eye.prompt(job, {}).spot.kind == "pin-1"
        for station in ("by-eye", "turn-over"):
            with pytest.raises(InvalidInput, match="pin-still-in"):
                take(session, key, station, [("turned.1.seen", {"by-eye": "smooth"}.get(station, "free"), None)])
        look(session, key, "pin-1", "out")
        assert eye.find(jobs.load(session, key)).code == "pin-in"
        for kind, answer in (("pin-2", "out"), ("turned", "smooth"), ("back", "yes")):
            job = look(session, key, kind, answer)
    assert (eye.find(job).verdict, marks_by_eye.pins(job)) == (Verdict.IN, (2, 2))


def test_a_cam_without_marks_is_set_by_its_peak_at_the_target_centerline(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "target", aim="advance", advance="4")
        job = filled(session, key, "by-eye", no_marks="yes")
        assert "106.0" in eye.prompt(job, {}).instruction
        for n in (1, 2, 3):
            job = look(session, key, f"start-{n}", "yes")
    assert any("only a start" in note for note in eye.find(job).notes)


def test_a_helical_gear_is_started_to_the_other_side_by_what_a_dry_try_showed(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "by-eye", **TWO_MARKS, helical="yes")
        job = look(session, key, "dry", "right", "3")
    note = next(note for note in eye.find(job).notes if "slid in" in note)
    assert note.values == {"teeth": 3, "way": "left"}


def test_three_looks_stand_beside_and_are_not_asked_by_themselves(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "by-eye", **TWO_MARKS)
        assert "three-1" not in kinds(job)
        assert eye.prompt(job, {"method": "compare"}).spot.kind == "three-1"
        job = look(session, key, "three-1", "no")
    assert eye.find(job).verdict is Verdict.OUT


def test_what_the_eye_says_is_expected_at_the_degreeing(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = look(session, key, "lifters", "exhaust")
    assert any("late" in note for note in finding.find(job).notes)


@pytest.mark.parametrize(
    ("answer", "teeth", "field"), [("late", "0", "second"), ("late", "x", "second"), ("sideways", "1", "text")]
)
def test_an_answer_that_cannot_be_is_refused(shop: Shop, answer: str, teeth: str, field: str) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "by-eye", **TWO_MARKS)
        with pytest.raises(InvalidInput) as refused:
            look(session, key, "look-1", answer, teeth)
    assert refused.value.field == field


def test_every_question_can_be_answered_with_there_is_none(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "by-eye", **TWO_MARKS, d1_kind="magneto", helical="yes", no_marks="yes")
    without = [answer.check.kind for answer in marks_by_eye.answers(job) if checks.NONE not in answer.check.options]
    assert without == ["crank-at", "turned"]
