"""A complaint followed from what was reported, by what speaks for each cause, to what cured it."""

import re

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import a_job, take
from tests.stations.test_fit import filled
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.core.errors import InvalidInput
from uranograph.shop import asides
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.complaint import rules as complaint
from uranograph.stations.complaint.causes import weighed
from uranograph.stations.complaint.reported import FORM, Reported, reported
from uranograph.stations.diagnosis import rules as diagnosis

TOLD = {
    "complaint": "no power",
    "by_what": "scan",
    "offset": "9",
    "crank_teeth": "24",
    "drive_kind": "chain",
    "held": "pressed",
}


def look(session: Session, key: str, kind: str, answer: str) -> Job:
    number = jobs.load(session, key).next_number("wrong", kind)
    return take(session, key, "wrong", [(f"{kind}.{number}.seen", answer, None)])


def a_report(offset_deg: float | None = None, **more: object) -> Reported:
    known = {"complaint": "no power", "by": "scan", "offset_deg": offset_deg, "crank_teeth": 24, "drive": "chain"}
    return Reported(**{**known, "held": "", "claim_teeth": None, "claim_deg": None, **more})


def test_a_slipped_pressed_gear_goes_from_complaint_to_cure(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "complaint", **TOLD)
        assert complaint.find(job).verdict is Verdict.OPEN
        assert complaint.prompt(job, {}).spot.kind == "pair"
        look(session, key, "pair", "on")
        look(session, key, "marks", "on")
        job = look(session, key, "witness", "no")
        assert complaint.causes(job)[0].kind == "slipped"
        assert "slipped pressed gear" in complaint.find(job).title
        for kind in ("key", "slack", "teeth", "part", "sensor"):
            job = look(session, key, kind, "yes")
        assert complaint.prompt(job, {}).spot.kind == "found"
        job = look(session, key, "found", "slipped")
        assert complaint.find(job).code == "found"
        asides.act(session, key, "wrong", "gear-exchanged", "pressed on anew", "QZ")
        job = take(session, key, "wrong", [("again.1.deg", "0.3", None)])
    found = complaint.find(job)
    assert (found.verdict, found.code) == (Verdict.IN, "cured")
    assert "9.0 late before, 0.3 deg now" in found.sentence
    assert any("pressed on anew" in note for note in found.notes)
    assert complaint.prompt(job, {}) is None


@pytest.mark.parametrize(
    ("again", "code"), [("0.5", "cured"), ("0.6", "hardly-cured"), ("-1.6", "not-cured"), ("1.4", "hardly-cured")]
)
def test_a_cure_is_judged_by_what_is_measured_again(shop: Shop, again: str, code: str) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "complaint", **TOLD)
        look(session, key, "found", "tooth")
        job = take(session, key, "wrong", [("again.1.deg", again, None)])
        # Nothing was said to be done: what is measured before the repair proves nothing.
        assert (complaint.find(job).verdict, complaint.find(job).code) == (Verdict.OPEN, "found")
        asides.act(session, key, "wrong", "gear-turned", "", "QZ")
        assert complaint.find(jobs.load(session, key)).code == "repaired"
        job = take(session, key, "wrong", [("again.2.deg", again, None)])
    assert complaint.find(job).code == code


@pytest.mark.parametrize(
    ("report", "seen", "kind", "weight"),
    [
        (a_report(15.2), {}, "tooth", 1),
        (a_report(15.2), {"marks": "whole", "teeth": "no"}, "tooth", 3),
        (a_report(5.0), {}, "tooth", -1),
        (a_report(22.0), {"marks": "on"}, "tooth", -2),
        (a_report(9.0, held="pressed"), {"marks": "on", "witness": "no"}, "slipped", 3),
        (a_report(9.0, held="key"), {"witness": "yes"}, "slipped", -1),
        (a_report(9.0, held="key"), {"key": "no"}, "key", 2),
        (a_report(15.0), {"key": "na"}, "key", -1),
        (a_report(4.0), {"slack": "yes"}, "worn", 2),
        (a_report(-4.0), {}, "worn", -1),
        (a_report(4.0, drive="gears"), {}, "worn", 0),
        (a_report(4.0), {"part": "no"}, "gear", 1),
        (a_report(4.0), {"marks": "on", "witness": "yes"}, "sensor", 1),
        (a_report(4.0, by="marks"), {"sensor": "yes"}, "sensor", -2),
        (a_report(4.0, claim_deg=3.0), {}, "claim", 1),
        (a_report(4.0, claim_deg=7.5), {}, "claim", 1),
        (a_report(4.0, claim_deg=15.0), {}, "claim", -1),
        (a_report(4.0, claim_deg=30.0, claim_teeth=2), {}, "claim", -1),
        (a_report(3.0, teeth_off=1), {}, "claim", 1),
        (a_report(15.0, teeth_off=1), {}, "tooth", 1),
        (a_report(14.8, teeth_off=1), {}, "claim", -1),
        (a_report(crank_teeth=None, teeth_off=1), {}, "tooth", 1),
        (a_report(15.0), {"teeth": "yes"}, "tooth", 0),
        (a_report(15.0), {"pair": "off"}, "tooth", 2),
        (a_report(15.0), {"pair": "on", "marks": "whole"}, "tooth", 1),
        (a_report(15.0, held="pressed"), {"pair": "on", "marks": "whole"}, "slipped", 2),
        (a_report(15.0, held="pressed"), {"pair": "off", "marks": "whole"}, "slipped", 0),
        (a_report(4.0, held="pressed"), {"witness": "na"}, "slipped", 3),
    ],
)
def test_each_cause_has_what_speaks_for_it_and_against_it(
    report: Reported, seen: dict[str, str], kind: str, weight: int
) -> None:
    cause = next(cause for cause in weighed(report, seen) if cause.kind == kind)
    assert cause.weight == weight
    assert all(cause.speaks_for)
    assert all(cause.against)


def test_teeth_that_marks_stand_off_are_degrees_by_the_crank_gear(shop: Shop) -> None:
    with shop.write() as session:
        job = filled(session, a_job(session, card=None), "complaint", complaint="x", teeth_off="-2", crank_teeth="24")
    assert reported(job).offset_deg == pytest.approx(-30)
    assert complaint.find(job).unit.startswith("deg early")


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({}, "complaint"),
        ({"complaint": "x", "teeth_off": "1", "offset": "-3", "crank_teeth": "24"}, "teeth_off"),
        ({"complaint": "x", "offset": "400"}, "offset"),
        ({"complaint": "x", "by_what": "hearsay"}, "by_what"),
    ],
)
def test_a_complaint_that_cannot_be_read_is_told(shop: Shop, typed: dict[str, str], field: str) -> None:
    with shop.write() as session:
        job = jobs.load(session, a_job(session))
    assert set(FORM.read(typed, job).errors) == {field}


def test_nothing_is_looked_at_before_a_complaint(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert complaint.prompt(jobs.load(session, key), {}) is None
        with pytest.raises(InvalidInput, match="complaint-missing"):
            look(session, key, "marks", "on")
        filled(session, key, "complaint", **TOLD)
        with pytest.raises(InvalidInput):
            take(session, key, "wrong", [("again.1.deg", "400", None)])


@pytest.mark.parametrize(("offset", "teeth"), [("15", 24), ("-20", 18)])
def test_a_claim_without_a_count_says_how_many_teeth_it_takes(shop: Shop, offset: str, teeth: int) -> None:
    sign = "-" if offset.startswith("-") else ""
    with shop.write() as session:
        job = filled(session, a_job(session), "complaint", complaint="x", offset=offset, teeth_off=f"{sign}1")
    assert [note.values["teeth"] for note in complaint.find(job).notes if note.code == "claim-takes-teeth"] == [teeth]


@pytest.mark.parametrize(("seen", "verdict"), [("on", Verdict.IN), ("off", Verdict.OUT), ("unseen", Verdict.UNSURE)])
def test_a_complaint_by_eye_alone_comes_to_its_end_by_eye(shop: Shop, seen: str, verdict: Verdict) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "complaint", complaint="will not start", held="pressed")
        for kind, answer in (("pair", "on"), ("marks", "part"), ("witness", "na"), ("key", "na"), ("slack", "na")):
            job = look(session, key, kind, answer)
        assert complaint.causes(job)[0].kind == "slipped"
        for kind, answer in (("teeth", "yes"), ("part", "yes"), ("sensor", "na")):
            job = look(session, key, kind, answer)
        job = look(session, key, "found", "slipped")
        assert complaint.prompt(job, {}) is None
        job = look(session, key, "cured", "on")
        assert complaint.find(job).code == "found"
        asides.act(session, key, "wrong", "gear-exchanged", "", "QZ", details={"gear": "cam gear"})
        job = jobs.load(session, key)
        assert complaint.prompt(job, {}).spot.kind == "cured"
        job = look(session, key, "cured", seen)
        assert complaint.find(job).verdict is verdict
        assert "a gear was exchanged, cam gear" in complaint.find(job).sentence
        asides.act(session, key, "wrong", "gear-turned", "", "QZ")
        assert complaint.find(jobs.load(session, key)).code == "repaired"


def test_the_case_stands_in_words_on_page_and_sheet(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "complaint", complaint="will not start", held="pressed")
        filled(session, key, "by-eye")
        for kind, answer in (("pair", "on"), ("marks", "whole"), ("witness", "na"), ("found", "slipped")):
            look(session, key, kind, answer)
        take(session, key, "by-eye", [("lifters.1.seen", "exhaust-alone", None), ("crank-at.1.seen", "overlap", None)])
    for page in ("wrong", "by-eye", "sheet"):
        text = re.sub(r"<(?:input|option|script|style)[^>]*>|<[^>]*>", "|", client.get(f"/jobs/{key}/{page}").text)
        told = {part.strip(" .;:,") for part in text.split("|")}
        assert told.isdisjoint({"whole", "na", "exhaust-alone", "same", "slipped", "overlap"}), page
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "off by whole teeth" in sheet
    assert "intake shut, exhaust well up" in sheet


@pytest.mark.parametrize(("teeth", "drawn"), [("24", True), ("", False)])
def test_the_figure_is_of_this_engine_or_there_is_none(shop: Shop, teeth: str, drawn: bool) -> None:
    with shop.write() as session:
        job = filled(session, a_job(session), "complaint", complaint="x", crank_teeth=teeth)
    figure = ORDER.by_key["wrong"].figure(job, ViewState())
    assert (figure is not None) is drawn
    if figure is not None:
        assert "reported" not in figure.svg()


@pytest.mark.parametrize(
    ("offset", "word"), [("14.7", "short"), ("15.3", "over"), ("-15.3", "over"), ("-29.6", "short")]
)
def test_a_deviation_is_over_or_short_of_its_teeth(offset: str, word: str) -> None:
    found = diagnosis.read({"offset": offset, "crank_teeth": "24"}).value
    assert found is not None
    assert f"0.{'4' if offset == '-29.6' else '3'} {word}" in found.sentence
