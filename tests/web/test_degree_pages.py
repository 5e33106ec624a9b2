import re

import pytest
from fastapi.testclient import TestClient

from tests.hands import CARD, ENGINE, WHEEL, a_job, cam_moved, take, true_top
from tests.phase.test_methods import GOOD, KEYWAYS
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.engine import positions
from uranograph.engine.card import card_of
from uranograph.phase import judgment
from uranograph.phase.basis import rules_of
from uranograph.shop import exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge

HX = {"HX-Request": "true"}
INTAKE = [("intake.1.before", "69", "atdc"), ("intake.1.after", "159", "atdc")]  # four late


@pytest.fixture
def degreed(shop: Shop, key: str) -> str:
    with shop.write() as session:
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
    return key


@pytest.mark.parametrize("way", ["lifts", "events", "sweep", "overlap"])
def test_every_method_has_its_panel_and_takes_its_reading(client: TestClient, degreed: str, way: str) -> None:
    page = client.get(f"/jobs/{degreed}/degree?method={way}").text
    assert f'name="method" value="{way}"' in page
    slot = re.search(r'name="slot" value="([^"]+)"', page)[1]
    form = {"slot": slot, "method": way, "token": way, "text": "10", "side": "btdc", "second": "1.2", "by": "QZ"}
    answer = client.post(f"/jobs/{degreed}/degree", data=form, headers=HX)
    assert answer.status_code == 200, answer.text[:300]
    assert f'name="method" value="{way}"' in answer.text
    assert f'name="slot" value="{slot}"' not in answer.text


def test_a_bad_lift_in_a_sweep_is_told_beside_it_and_stays(client: TestClient, degreed: str) -> None:
    form = {
        "slot": "sweep-intake.1.point",
        "method": "sweep",
        "text": "40",
        "side": "btdc",
        "second": "0,3 ft",
        "by": "QZ",
        "step": "4",
    }
    answer = client.post(f"/jobs/{degreed}/degree", data=form, headers=HX)
    assert answer.status_code == 422
    assert re.search(r'id="error-second"[^>]*>[^<]*no unit of length', answer.text)
    assert 'value="0,3 ft"' in answer.text
    assert 'value="4"' in answer.text


def test_a_sweep_pasted_or_from_a_file_is_taken_whole_or_not_at_all(
    client: TestClient, shop: Shop, degreed: str
) -> None:
    path = f"/jobs/{degreed}/degree/sweep"
    bad = client.post(path, data={"lobe": "intake", "csv": GOOD + "\nten,1"}, headers=HX)
    assert bad.status_code == 422
    assert "Line 71" in bad.text
    assert "ten,1" in bad.text
    with shop.read() as session:
        assert len(loading.load(session, degreed).readings) == 4
    good = client.post(path, data={"lobe": "intake"}, files={"file": ("s.csv", GOOD.encode())}, headers=HX)
    assert good.headers["hx-redirect"].endswith("method=sweep&lobe=intake")
    page = client.get(f"/jobs/{degreed}/degree?method=sweep").text
    assert "Lift curves" in page
    assert "Show all 71 readings" in page
    line = client.get(f"/jobs/{degreed}/lift-line?lift=2.0", headers=HX).text
    assert "at 2.00 mm" in line
    assert re.search(r"intake <b>[\d.]+</b> to", line)
    assert client.get(f"/jobs/{degreed}/lift-line?lift=nonsense").status_code == 200
    assert (
        client.post(path, data={"lobe": "intake"}, files={"file": ("s.csv", b"\xff\xfe\x00")}, headers=HX).status_code
        == 422
    )


def test_tolerance_and_basis_are_kept_for_the_job_and_for_the_house(
    client: TestClient, shop: Shop, degreed: str
) -> None:
    answer = client.post(
        f"/jobs/{degreed}/sheet/rules", data={"tolerance": "0.5", "basis": "intake", "for_house": "1"}, headers=HX
    )
    assert answer.headers["hx-redirect"].endswith("/degree")
    assert "Judged within ±0.5 deg, by the intake" in client.get(f"/jobs/{degreed}/degree").text
    form = {**ENGINE, "title": "Next", "by": "QZ", "token": "next"}
    client.post("/jobs/new", data=form)
    with shop.read() as session:
        newest = loading.page(session, 1, "Next").jobs[0]
    assert rules_of(newest).tolerance_deg == 0.5
    bad = client.post(f"/jobs/{degreed}/sheet/rules", data={"tolerance": "fifty"}, headers=HX)
    assert bad.status_code == 422
    assert client.post(f"/jobs/{degreed}/sheet/none", data={}).status_code == 404


def test_a_drive_is_described_a_position_chosen_and_the_job_asks_to_measure_again(
    client: TestClient, shop: Shop, degreed: str
) -> None:
    assert "Describe what this drive offers" in client.get(f"/jobs/{degreed}/adjust").text
    bad = client.post(f"/jobs/{degreed}/sheet/drive", data={**KEYWAYS, "a1_options": "A4 4"}, headers=HX)
    assert bad.status_code == 422
    assert 'value="A4 4"' in bad.text
    client.post(f"/jobs/{degreed}/sheet/drive", data=KEYWAYS, headers=HX)
    page = client.get(f"/jobs/{degreed}/adjust").text
    assert "keyway: 0 to A4" in page
    assert "leaves 0.0" in page
    for _ in range(2):
        answer = client.post(f"/jobs/{degreed}/adjust", data={"choice": "both:0", "token": "once"}, headers=HX)
        assert answer.status_code == 200, "a double click is one choice, and no error"
    # Its keyways are the crank gear's: the wheel comes off with it.
    assert "Find TDC again, then degree it." in answer.text
    assert f'href="/jobs/{degreed}/tdc">Find TDC again' in answer.text
    with shop.read() as session:
        assert len(positions.tries(loading.load(session, degreed))) == 1
    assert client.post(f"/jobs/{degreed}/adjust", data={"choice": "both:9"}, headers=HX).status_code == 422
    assert client.post(f"/jobs/{degreed}/adjust", data={"choice": ""}, headers=HX).status_code == 422
    filled = client.get(f"/jobs/{degreed}/sheet").text
    assert "keyway: 0 to A4" in filled
    out = client.get(f"/jobs/{degreed}.json")
    again = client.post("/jobs/import", files={"file": ("job.json", out.content)}, follow_redirects=False)
    copy = again.headers["location"].split("/")[2]
    assert client.get(f"/jobs/{copy}.json").json() == out.json()


def test_cards_and_drives_go_to_the_library_and_come_back(client: TestClient, shop: Shop, degreed: str) -> None:
    assert client.post(f"/jobs/{degreed}/library/card", data={"library_name": " "}, headers=HX).status_code == 422
    assert client.post(f"/jobs/{degreed}/library/drive", data={"library_name": "empty"}, headers=HX).status_code == 422
    kept = client.post(f"/jobs/{degreed}/library/card", data={**CARD, "library_name": "Grind 7"}, headers=HX)
    assert "Kept in the library as “Grind 7”" in kept.text
    client.post("/jobs/new", data={**ENGINE, "title": "Other", "by": "QZ", "token": "o"})
    with shop.read() as session:
        other = loading.page(session, 1, "Other").jobs[0].key
    page = client.get(f"/jobs/{other}/card").text
    wanted = re.search(r'href="\?from=(\d+)">Grind 7', page)[1]
    taken = client.get(f"/jobs/{other}/card?from={wanted}").text
    assert f'value="{CARD["ic_abdc_deg"]}"' in taken
    with shop.read() as session:
        assert card_of(loading.load(session, other)) is None
    assert client.post(f"/jobs/{degreed}/library/gears", data={}).status_code == 404


def test_what_is_on_the_form_goes_to_the_library_and_a_refusal_keeps_it(client: TestClient, degreed: str) -> None:
    line = "IO 7 IC 41 EO 52 EC 4 @ .050"
    refused = client.post(f"/jobs/{degreed}/library/card", data={"as_printed": line, "library_name": " "}, headers=HX)
    assert refused.status_code == 422
    assert f'value="{line}"' in refused.text
    client.post(f"/jobs/{degreed}/library/card", data={"as_printed": line, "library_name": "Grind 8"}, headers=HX)
    page = client.get("/library").text
    item = re.search(r'href="(/library/card/\d+)">Grind 8', page)[1]
    # The card on the form, not the one the job had before.
    assert f'value="{line}"' in client.get(item).text


def test_readings_that_a_wheel_set_right_cannot_show_leave_every_page_standing(client: TestClient, shop: Shop) -> None:
    """It stood so all along, it is said, of a wheel on which what was read cannot be."""
    full = {**WHEEL, "scale": "full", "mount": "front", "numbers_rise": "counterclockwise"}
    with shop.write() as session:
        key = a_job(session, wheel=full, title="Cannot be")
        take(session, key, "tdc", [("stop.1.before", "320", None), ("stop.1.after", "40", None)])
        for kind, text in (("io", "348"), ("ic", "232"), ("eo", "126"), ("ec", "14")):
            take(session, key, "degree", [(f"{kind}.1.forward", text, None)])
        jobs.save_form(session, key, "drive", {"a1_kind": "slot", "a1_range": "5", "a1_step": "1"}, "QZ")
        quarter = {**full, "scale": "quarter", "numbers_rise": "", "all_along": "yes"}
        jobs.save_form(session, key, "wheel", quarter, "QZ")
        kept = exchange.export_job(session, key)
    for name in (
        "wheel",
        "tdc",
        "degree",
        "degree?method=events",
        "adjust",
        "overview",
        "sheet",
        "asked",
        "what-if",
        "rail",
    ):
        answer = client.get(f"/jobs/{key}/{name}")
        assert answer.status_code == 200, name
        assert "in the log" not in answer.text, name
    told = judge(kept)["stations"]
    assert (told["degree"]["verdict"], told["tdc"]["verdict"], told["adjust"]["verdict"]) != ("in", "in", "in")
    assert told["degree"]["code"] == "reading-cannot-be"
    assert told["degree"]["proved"] is False


def test_a_table_that_is_not_clear_is_asked_with_its_curve_and_taken_as_chosen(client: TestClient, key: str) -> None:
    path = f"/jobs/{key}/degree/sweep"
    unclear = "\n".join(GOOD.splitlines()[1:]).encode("utf-16")
    asked = client.post(path, data={"lobe": "intake", "token": "u"}, files={"file": ("s.dat", unclear)}, headers=HX)
    assert asked.status_code == 422
    assert "Is it so?" in asked.text
    assert 'class="figure table-curve"' in asked.text
    assert "overlap TDC" in asked.text
    text = asked.text.partition('name="csv"')[2].partition(">")[2].partition("</textarea>")[0]
    stated = {"angle_column": "0", "lift_column": "1", "lift_unit": "mm", "turn": "crank", "zero": "overlap"}
    wrong = client.post(path, data={"lobe": "intake", "csv": text, **stated, "lift_column": "0"}, headers=HX)
    assert wrong.status_code == 422
    assert "choose another" in wrong.text
    taken = client.post(path, data={"lobe": "intake", "csv": text, **stated, "token": "v"}, headers=HX)
    assert taken.headers["HX-Redirect"].startswith(f"/jobs/{key}/degree")
    page = client.get(f"/jobs/{key}/degree?method=sweep").text
    assert "Is it so?" not in page


def test_a_long_table_is_taken_as_chosen_though_it_is_sent_back_as_text(client: TestClient, key: str) -> None:
    lobe = CosineLobe(centerline_deg=110, duration_deg=244, check_lift_mm=1.0, max_lift_mm=8.5)
    text = "\n".join(f"{k * 0.006 - 60:.6f};{lift_at(lobe, k * 0.006 - 60):.9f}" for k in range(56_000))
    assert len(text) > 1_100_000
    stated = {"angle_column": "0", "lift_column": "1", "lift_unit": "mm", "turn": "crank", "zero": "overlap"}
    taken = client.post(
        f"/jobs/{key}/degree/sweep",
        data={"lobe": "intake", "csv": text, **stated, "token": "long"},
        files={"file": ("", b"")},
        headers=HX,
    )
    assert taken.status_code == 200
    assert "56000 points: 1440 of them are kept" in client.get(f"/jobs/{key}/degree?method=sweep").text


def test_cams_that_are_apart_are_judged_each_by_its_lobe_and_no_basis_is_offered(
    client: TestClient, shop: Shop
) -> None:
    with shop.write() as session:
        keys = [
            a_job(session, engine={**ENGINE, "valvetrain": each}, title=each) for each in ("pushrod", "two-cams-over")
        ]
        for key in keys:
            true_top(session, key)
    together, apart = (client.get(f"/jobs/{key}/degree").text for key in keys)
    assert "by both lobes" in together
    assert 'type="radio" name="basis" value="intake"' in together
    assert "each cam by its lobe" in apart
    assert 'type="radio" name="basis"' not in apart
    kept = client.post(f"/jobs/{keys[1]}/sheet/rules", data={"tolerance": "0.5", "basis": "both"}, headers=HX)
    assert kept.headers["HX-Redirect"].endswith("/degree")


def test_of_cams_that_are_apart_each_position_tells_of_its_own_lobe_and_an_unread_one_is_as_its_card(
    client: TestClient, shop: Shop
) -> None:
    """Intake 2 late and moved, exhaust 3 early: what is offered for the exhaust says nothing of the intake."""
    slots = {"a1_kind": "slot", "a1_name": "in", "a1_on": "intake", "a1_range": "10", "a1_step": "0.5"}
    slots |= {"a2_kind": "slot", "a2_name": "ex", "a2_on": "exhaust", "a2_range": "10", "a2_step": "0.5", "unit": "mm"}
    with shop.write() as session:
        key = a_job(session, engine={**ENGINE, "valvetrain": "two-cams-over"})
        true_top(session, key)
        jobs.save_form(session, key, "drive", slots, "QZ")
        take(session, key, "degree", [("io.1.forward", "10", "btdc"), ("ic.1.forward", "126", "btdc")])
        take(session, key, "degree", [("eo.1.forward", "123", "atdc"), ("ec.1.forward", "11", "atdc")])
    page = client.get(f"/jobs/{key}/adjust").text
    assert "ICL" in page
    assert "ECL" in page
    with shop.write() as session:
        job = cam_moved(session, key, 2, name="in", cam="intake")
    page = client.get(f"/jobs/{key}/adjust").text
    assert "ICL" not in page
    assert "ECL 110.0, EO 54.0, EC 14.0" in page
    now = judgment.expected_events(positions.at_position(job))
    card = card_of(job).events
    assert (now.io_btdc_deg, now.ic_abdc_deg) == (card.io_btdc_deg, card.ic_abdc_deg)
    assert now.eo_bbdc_deg == pytest.approx(57)
