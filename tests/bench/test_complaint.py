"""A complaint followed from what was reported, by what speaks for each cause, to what cured it."""

import pytest
from sqlalchemy.orm import Session

from tests.bench.test_fit import filled
from tests.hands import a_job, take
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import Impossible
from uranograph.shop import asides, jobs
from uranograph.shop.database import Shop
from uranograph.stations.complaint import station as complaint
from uranograph.stations.complaint.causes import weighed
from uranograph.stations.complaint.reported import FORM, Reported, reported

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
        assert complaint.prompt(job, {}).spot.kind == "marks"
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
        ({"complaint": "x", "teeth_off": "1"}, "crank_teeth"),
        ({"complaint": "x", "teeth_off": "1", "offset": "3", "crank_teeth": "24"}, "teeth_off"),
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
        with pytest.raises(Impossible, match="complaint-missing"):
            look(session, key, "marks", "on")
        filled(session, key, "complaint", **TOLD)
        with pytest.raises(Impossible):
            take(session, key, "wrong", [("again.1.deg", "400", None)])
