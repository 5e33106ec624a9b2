"""Engines with cams on each of two banks: each bank is read, judged, moved and named for itself."""

from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import ENGINE, WHEEL, a_job, take, true_top
from tests.stations.test_fit import filled
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import lift_at
from uranograph.engine import positions
from uranograph.engine.cams import cam_of_bank
from uranograph.engine.card import card_of
from uranograph.phase import banks, move_history, next_reading, offers, results, weighed
from uranograph.phase import finding as degree
from uranograph.phase.events import angle_of
from uranograph.shop import exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations import ORDER
from uranograph.stations.adjust import rules as adjust

SIX = {
    **ENGINE,
    "cylinders": "6",
    "firing_order": "1-4-2-5-3-6",
    "valvetrain": "one-cam-a-bank",
    "bank2_cylinder": "4",
}
GOOD = {"io": 12.0, "ic": 52.0, "eo": 54.0, "ec": 14.0}
# The fourth cylinder fires 120 degrees after the first.
AFTER_DEG = 120
OWN = {
    "a1_kind": "choices",
    "a1_name": "left bushing",
    "a1_on": "bank1-both",
    "a1_where": "cam",
    "a1_options": "R4: -4, R2: -2, 0: 0, A2: 2, A4: 4",
    "a1_fitted": "0",
    "a2_kind": "choices",
    "a2_name": "right bushing",
    "a2_on": "bank2-both",
    "a2_where": "cam",
    "a2_options": "R4: -4, R2: -2, 0: 0, A2: 2, A4: 4",
    "a2_fitted": "0",
}
SHARED = {"a1_kind": "choices", "a1_name": "crank key", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0"}


def ready(session: Session, engine: dict[str, str] = SIX, title: str = "Two banks") -> str:
    key = a_job(session, engine, wheel={**WHEEL, "scale": "half"}, title=title)
    filled(session, key, "way", way="degree")
    true_top(session, key)
    return key


def shown(angle_deg: float) -> tuple[str, str]:
    """An angle about the first cylinder's TDC as a half-scale wheel shows it."""
    signed = (angle_deg + 180) % 360 - 180
    return f"{abs(signed):g}", "atdc" if signed > 0 else "btdc"


def read_bank(
    session: Session, key: str, bank: int, late: float = 0.0, times: int = 2, kinds: tuple[str, ...] = tuple(GOOD)
) -> Job:
    for _ in range(times):
        for kind in kinds:
            own = loading.load(session, key).of_bank(bank)
            slot = f"{'bank2-' if bank == 2 else ''}{kind}.{own.next_number('degree', kind)}.forward"
            at = angle_of(kind, GOOD[kind]) + late + (AFTER_DEG if bank == 2 else 0)
            take(session, key, "degree", [(slot, *shown(at))])
    return loading.load(session, key)


def proved(session: Session, key: str) -> Job:
    number = loading.load(session, key).next_number("tdc", "stop")
    return take(
        session,
        key,
        "tdc",
        [(f"stop.{number}.{at}", "40", side) for at, side in (("before", "btdc"), ("after", "atdc"))],
    )


def judged(session: Session, key: str) -> dict[str, Any]:
    return judge(exchange.export_job(session, key))


def test_one_bank_read_is_never_in_and_the_other_is_asked_for(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        read_bank(session, key, 1)
        job = proved(session, key)
        found = judged(session, key)
    assert degree.find(job.of_bank(1)).verdict is Verdict.IN
    assert banks.find(job).verdict is Verdict.OPEN
    assert found["stations"]["degree"]["verdict"] == "open"
    assert not found["stations"]["degree"]["proved"]
    assert found["by_cam"].keys() == {"bank1-both"}
    assert found["next"]["entry"]["slot"] == "bank2-io.1.forward"
    assert "bank 2" in banks.find(job).sentence.lower()


def test_each_bank_has_its_own_phase_about_the_tdc_of_its_own_cylinder(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        read_bank(session, key, 1)
        read_bank(session, key, 2, late=4.0)
        job = proved(session, key)
        found = judged(session, key)
    assert found["by_cam"]["bank1-both"]["error_deg"] == pytest.approx(0, abs=0.2)
    assert found["by_cam"]["bank2-both"]["error_deg"] == pytest.approx(4, abs=0.2)
    finding = banks.find(job)
    assert finding.verdict is Verdict.OUT
    assert finding.title == "Out: the cam of bank 2 is late"
    assert finding.order == "ADVANCE CAM OF BANK 2 4.0° crank"
    assert "On bank 2 the cam stands 4.0 deg later than on bank 1." in finding.notes
    assert {row.label for row in finding.rows} >= {"Bank 1, Intake centerline", "Bank 2, Intake centerline"}
    assert next_reading.proved(job)


def test_where_no_cylinder_is_named_bank_2_is_read_about_its_own_tdc(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, {**SIX, "bank2_cylinder": ""})
        job = read_bank(session, key, 2)
    # Read from the first cylinder's zero it is another cylinder's cam, and that is asked.
    assert degree.find(job.of_bank(2)).verdict is Verdict.UNSURE
    with shop.write() as session:
        with pytest.raises(InvalidInput, match="no-such-bank"):
            take(session, a_job(session, title="inline"), "degree", [("bank2-io.1.forward", "12", "btdc")])
        filled = loading.load(session, key)
    assert (
        "is no cylinder of this firing order"
        in ORDER.forms["engine"].read({**SIX, "bank2_cylinder": "9"}, filled).errors["bank2_cylinder"]
    )


def test_a_move_of_one_bank_leaves_what_was_read_of_the_other(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **OWN)
        read_bank(session, key, 1)
        read_bank(session, key, 2, late=4.0)
        job = proved(session, key)
        assert offers.cams(job) == ["bank1-both", "bank2-both"]
        best = offers.better_than_now(job, "bank2-both")
        assert best is not None
        assert best.words == ("right bushing: 0 to A4",)
        assert offers.better_than_now(job, "bank1-both") is None
        offered = judged(session, key)["offers"]
        own = next(
            each for each in offered if each["moves"][0]["name"] == "right bushing" and each["moves"][0]["to"] == "A4"
        )
        assert own["cam"] == "bank2-both"
        assert own["cams"].keys() == {"bank2-both"}
        assert abs(own["leaves_deg"]) < 0.2
        jobs.move(session, key, offers.act_of(job, "bank2-both", best.number), "QZ", None, None)
        job = loading.load(session, key)
        assert degree.find(job.of_bank(1)).verdict is Verdict.IN
        assert not results.results(positions.at_position(job.of_bank(2)))
        assert banks.find(job).verdict is Verdict.OPEN
        read_bank(session, key, 2)
        job = proved(session, key)
        found = judged(session, key)
        copy = exchange.export_job(session, key)
    assert banks.find(job).verdict is Verdict.IN
    assert adjust.find(job).verdict is Verdict.IN
    steps = move_history.history(job)
    assert [set(step.errors) for step in steps] == [{"bank1-both", "bank2-both"}] * 2
    assert steps[1].errors["bank2-both"][0] == pytest.approx(0, abs=0.3)
    assert steps[1].told.startswith("Bank 2: It moved 4.0 deg as predicted")
    assert dict(move_history.fitted_positions(job)) == {"left bushing": "0", "right bushing": "A4"}
    assert [entry.cam for entry in copy.entries if entry.type == "act"] == ["bank2-both"]
    assert found["stations"]["degree"]["verdict"] == "in"


def test_a_key_of_the_crank_gear_moves_both_banks_at_once(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **SHARED)
        job = read_bank(session, key, 1, late=4.2)
        assert offers.cams(job) == ["both"]
        assert offers.offers(job, "both") == ()
        read_bank(session, key, 2, late=3.8)
        job = proved(session, key)
        best = offers.offers(job, "both")[0]
        assert best.words == ("crank key: 0 to A4",)
        assert best.leaves["bank1-both"] == pytest.approx(0.2, abs=0.15)
        assert best.leaves["bank2-both"] == pytest.approx(-0.2, abs=0.15)
        found = judged(session, key)
        assert [entry["type"] for entry in found["next"]["entries"]] == ["act", "act"]
        assert found["next"]["entry"]["cam"] == "both"
        jobs.move(session, key, offers.act_of(job, "both", best.number), "QZ", None, None)
        job = loading.load(session, key)
    for own in (job.of_bank(1), job.of_bank(2)):
        assert not results.results(positions.at_position(own))
        assert [one.shift_of("both") for one in positions.tries(own)] == [4.0]


def test_what_one_bank_is_asked_the_other_is_not(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = read_bank(session, key, 1)
        job = take(session, key, "degree", [("bank2-asked-bleeding-lifter.1.answer", "no", None)])
    assert not [r for r in job.of_bank(1).active_readings("degree") if r.spot.kind.startswith("asked-")]
    assert [r.slot for r in job.of_bank(2).active_readings("degree")] == ["asked-bleeding-lifter.1.answer"]
    assert ORDER.describe(job.readings[-1]).endswith(", bank 2")


@pytest.mark.parametrize(
    ("cam", "bank", "own"),
    [("both", 2, "both"), ("bank2-exhaust", 2, "exhaust"), ("bank2-exhaust", 1, ""), ("intake", 1, "intake")],
)
def test_a_cam_is_named_by_its_bank(cam: str, bank: int, own: str) -> None:
    assert cam_of_bank(cam, bank) == own


def test_two_cams_on_each_bank_are_four_cams(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, {**SIX, "valvetrain": "two-cams-a-bank", "lift_at": "bucket"})
        read_bank(session, key, 1)
        read_bank(session, key, 2, late=2.5, kinds=("io", "ic"))
        job = proved(session, key)
        found = judged(session, key)
    assert found["by_cam"].keys() == {"bank1-intake", "bank1-exhaust", "bank2-intake"}
    assert offers.cams(job) == ["bank1-intake", "bank1-exhaust", "bank2-intake", "bank2-exhaust"]
    assert banks.find(job).verdict is not Verdict.IN
    assert found["next"]["entry"]["slot"].startswith("bank2-eo")


def test_the_page_names_the_bank_and_goes_on_to_the_other_by_itself(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        read_bank(session, key, 1, times=1, kinds=("io", "ic", "eo"))
    page = client.get(f"/jobs/{key}/degree").text
    assert "Bank 1: Turn forward" in page
    assert 'name="slot" value="ec.1.forward"' in page
    form = {"slot": "ec.1.forward", "text": "14", "side": "atdc", "bank": "1", "by": "QZ", "token": "t1"}
    page = client.post(f"/jobs/{key}/degree", data=form, headers={"HX-Request": "true"}).text
    assert 'name="slot" value="bank2-io.1.forward"' in page
    assert "bank=2" in page
    form = {"slot": "bank2-io.1.forward", "text": "108", "side": "atdc", "bank": "2", "by": "QZ", "token": "t2"}
    page = client.post(f"/jobs/{key}/degree", data=form, headers={"HX-Request": "true"}).text
    assert 'name="slot" value="bank2-ic.1.forward"' in page
    assert "intake opens, bank 2" in page
    assert 'value="io.2.forward"' in client.get(f"/jobs/{key}/degree?bank=1&method=events").text
    for name in ("adjust", "what-if", "piston-valve", "valve-lash", "lock-up", "sheet", "asked?bank=2"):
        assert client.get(f"/jobs/{key}/{name}").status_code == 200, name


def test_a_sweep_of_the_second_bank_stands_where_its_events_do(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        drawn = card_of(loading.load(session, key)).lobe("intake")
        assert drawn is not None
        for n, angle in enumerate(range(-60, 285, 5), 1):
            lift = f"{lift_at(drawn, angle - 2.0):.3f}"
            take(session, key, "degree", [(f"bank2-sweep-intake.{n}.point", *shown(angle + AFTER_DEG))], lift)
        own = loading.load(session, key).of_bank(2)
        stood = weighed.posterior_phase(own, "both", ("intake",), 1.0)
        assert stood is not None
        # Two degrees late, the lateness of a forward reading in it.
        assert stood.error_deg == pytest.approx(2.0, abs=0.2)
        assert not results.results(loading.load(session, key).of_bank(1))
