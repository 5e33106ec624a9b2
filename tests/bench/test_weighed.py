"""What all wheel readings of a job say together: gathered from the log, asked on the page, answered to machines."""

import re

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.bench.test_fit import sheet
from tests.hands import WHEEL, a_job, cam_moved, take, true_top
from uranograph.bench.job import Job
from uranograph.shop import asides, exchange, jobs
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations.degree.weighed import gathered, in_words, weighed

# The card: IO 12, IC 52, EO 54, EC 14.
GOOD = {"io": ("12", "btdc"), "ic": ("52", "abdc"), "eo": ("54", "bbdc"), "ec": ("14", "atdc")}


def four_events(session: Session, key: str, **change: tuple[str, str]) -> Job:
    for kind, (text, side) in {**GOOD, **change}.items():
        number = jobs.load(session, key).next_number("degree", kind)
        job = take(session, key, "degree", [(f"{kind}.{number}.forward", text, side)])
    return job


def ready(session: Session, title: str = "Weighed") -> str:
    key = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title=title)
    true_top(session, key)
    return key


def test_a_cam_on_its_card_is_in_by_all_readings_and_nothing_is_asked(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        assert weighed(jobs.load(session, key)) is None
        job = four_events(session, key)
    found = weighed(job)
    assert found.suspects == ()
    assert found.chances["in"] > 0.99
    readings, expected, setup = gathered(job)
    assert [each.kind for each in readings] == ["stop", "event", "event", "event", "event"]
    assert expected.half_deg == {"intake": 122.0, "exhaust": 124.0}
    assert setup.firing_deg == 180


def test_a_slip_of_ten_names_its_reading_and_is_asked_on_the_page(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = four_events(session, key, ic=("62", "abdc"))
    suspect = weighed(job).suspects[0]
    slipped = next(reading for reading in job.standing("degree") if reading.text == "62")
    assert (suspect.code, suspect.seq) == ("typing-slip", slipped.seq)
    assert "62 ABDC" in in_words(job, suspect)
    page = client.get(f"/jobs/{key}/degree").text
    assert f'hx-get="/jobs/{key}/asked"' in page
    asked = client.get(f"/jobs/{key}/asked", headers={"HX-Request": "true"}).text
    assert "A slip of typing or reading in 62 ABDC" in asked


def test_a_wheel_at_the_other_end_is_named_first_with_its_share(shop: Shop) -> None:
    mirrored = {"btdc": "atdc", "atdc": "btdc", "bbdc": "abdc", "abdc": "bbdc"}
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title="Other end")
        take(session, key, "tdc", [("stop.1.before", "42", "btdc"), ("stop.1.after", "38", "atdc")])
        job = four_events(session, key, **{kind: (text, mirrored[side]) for kind, (text, side) in GOOD.items()})
        file = exchange.export_job(session, key)
    found = weighed(job).suspects
    assert found[0].code == "wheel-end"
    assert found[0].share > 0.7
    told = judge(file)["stations"]["degree"]["questions"]
    assert [each["code"] for each in told] == [each.code for each in found]
    assert "other end" in told[0]["words"]
    assert told[0]["reading"] is None


def test_only_the_mounting_and_the_position_now_are_weighed(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        before = four_events(session, key)
        assert len(gathered(before)[0]) == 5
        sheet(
            session,
            key,
            "drive",
            a1_kind="choices",
            a1_options="0: 0, A4: 4",
            a1_fitted="0",
            a1_name="keyway",
            a1_where="cam",
        )
        assert gathered(cam_moved(session, key, 4)) is None
        again = four_events(session, key)
        assert len(gathered(again)[0]) == 5
        asides.act(session, key, "tdc", "wheel-moved", "", "QZ")
        assert gathered(jobs.load(session, key)) is None


def test_a_backward_reading_a_stated_top_or_a_card_without_durations_is_not_weighed(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = take(session, key, "degree", [("io.2.backward", "9", "btdc")], approach="backward")
        assert len(gathered(job)[0]) == 5
        stated = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title="Stated")
        sheet(session, stated, "top", how="stop", by_whom="RK")
        assert gathered(four_events(session, stated)) is None
        bare = a_job(
            session,
            card={"intake_centerline_deg": "110", "unit": "mm"},
            wheel={**WHEEL, "scale": "quarter"},
            title="Bare",
        )
        true_top(session, bare)
        assert gathered(four_events(session, bare)) is None


@pytest.mark.parametrize(("ahead", "within"), [("0", True), ("4", False)])
def test_chances_are_of_the_target(shop: Shop, ahead: str, within: bool) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = sheet(session, key, "target", aim="advance", advance=ahead)
    assert (weighed(job).chances["in"] > 0.9) is within
    assert sum(weighed(job).chances.values()) == pytest.approx(1)


def test_every_fault_has_its_question(shop: Shop) -> None:
    from uranograph.evidence.faults import PRIOR, Suspect

    with shop.write() as session:
        job = four_events(session, ready(session))
    for code in PRIOR:
        words = in_words(job, Suspect(code, 0.75, job.standing("degree")[0].seq))
        assert re.fullmatch(r"[A-Z].*[.?] \(3 in 4\)", words), code
