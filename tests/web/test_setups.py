"""Every set-up: what is typed wrong is told beside its field and stays, what is right is kept once, and it prints."""

import html
import re

import pytest
from fastapi.testclient import TestClient

from tests.stations.test_whatever_is_written import FORMS_BEFORE
from tests.web.test_mark_pages import HX, waiting_slot
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

SETUPS = [station for station in ORDER.stations if station.setup]
FORM_OF = {station.key: station.setup.kind if station.setup else "" for station in ORDER.stations}
FIELDS = {
    station.key: [ask.name for group in station.setup.groups for ask in group.asks if not ask.options]
    for station in SETUPS
}
# What takes any words.
BY_EYE = {f"m{n}_{name}": f"{name} {n}" for n in range(1, 13) for name in ("on", "other", "label")}
BY_EYE |= {f"d{n}_kind": "other" for n in range(1, 9)} | {f"d{n}_name": f"thing {n}" for n in range(1, 9)}
BY_EYE |= {f"d{n}_teeth": str(20 + n) for n in range(1, 9)}
FREE = {("by-eye", name) for name in BY_EYE if not name.endswith("teeth")} | {
    ("wrong", "complaint"),
    *(("choice", name) for name in ("cost_true", "cost_gears", "cost_chain")),
    ("tdc", "by_whom"),
    ("change-plan", "people"),
    ("tdc", "lobe_read"),
    ("runout", "where"),
    ("end-play", "crank_limits"),
    ("end-play", "cam_limits"),
    ("end-play", "idler_limits"),
}
GOOD = {
    **FORMS_BEFORE,
    "runout": {"where": "seat", "places": "12"},
    "choice": {"backlash_min": "0.05", "backlash_max": "0.12"},
    "sprocket": {"tolerance": "0.2"},
    "by-eye": BY_EYE,
    "wrong": {"complaint": "no power", "offset": "9", "crank_teeth": "24", "claim_teeth": "1", "claim_deg": "3"},
    "tdc": {"how": "stop", "by_whom": "RK", "stated_doubt": "0.3"},
    "piston-valve": {"intake_angle": "12", "exhaust_angle": "14"},
    "change-plan": {"people": "RK, TN", "tasks": "drain; 20; 0"},
    "valve-lash": {"intake_lash": "0.25", "exhaust_lash": "0.35", "margin": "15", "rim": "165"},
}


@pytest.mark.parametrize("station", FIELDS)
def test_a_field_that_cannot_be_read_is_told_and_stays_as_typed(
    client: TestClient, shop: Shop, key: str, station: str
) -> None:
    for field in [name for name in FIELDS[station] if (station, name) not in FREE]:
        typed = {**GOOD[station], "unit": "mm", field: "zz <top>"}
        answer = client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data=typed, headers=HX)
        assert answer.status_code == 422, field
        assert re.search('value="zz &lt;top&gt;"|>zz &lt;top&gt;</textarea>', answer.text), field
        told = re.search(rf'id="error-{field}"[^>]*>([^<]+)<', answer.text)
        assert told is not None, field
        assert "zz" in html.unescape(told.group(1)), field
        for other, text in GOOD[station].items():
            assert f'name="{other}"' in answer.text, field
            if other != field:
                assert html.escape(text) in answer.text, field
    with shop.read() as session:
        assert jobs.load(session, key).latest(FORM_OF[station]) is None


@pytest.mark.parametrize("station", sorted({station for station, _ in FREE}))
def test_a_field_for_any_words_keeps_them(client: TestClient, shop: Shop, key: str, station: str) -> None:
    for field in [name for name in FIELDS[station] if (station, name) in FREE]:
        typed = {**GOOD[station], "unit": "mm", field: "zz <top>"}
        answer = client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data=typed, headers=HX)
        assert answer.status_code in (200, 204, 303), field
        with shop.read() as session:
            kept = jobs.load(session, key).latest(FORM_OF[station])
        assert kept.typed[field] == "zz <top>"


@pytest.mark.parametrize("station", [station.key for station in SETUPS])
def test_a_set_up_is_kept_shown_again_and_written_once(client: TestClient, shop: Shop, key: str, station: str) -> None:
    typed = {**GOOD[station], "unit": "mm"}
    for _ in range(2):
        answer = client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data=typed, follow_redirects=False)
        assert answer.status_code == 303
        assert answer.headers["location"].endswith(f"/{station}")
    with shop.read() as session:
        assert sum(filled.kind == FORM_OF[station] for filled in jobs.load(session, key).forms) == 1
    page = client.get(f"/jobs/{key}/{station}?edit=1").text
    for name, text in GOOD[station].items():
        if f'<select class="form-select" id="{name}"' not in page:
            written = re.escape(html.escape(text))
            assert re.search(rf'name="{name}" (value="{written}"|[^>]*>{written}</textarea>)', page), name
    assert ORDER.by_key[station].setup.offer in client.get(f"/jobs/{key}/{station}").text


CHANGED = {
    "runout": {"places": "8"},
    "choice": {"backlash_max": "0.21"},
    "end-play": {"crank_max": "0.31"},
    "setting": {"crank_stock": "0.11"},
    "gear-fit": {"bolts": "2"},
    "backlash": {"spec_max": "0.21"},
    "sprocket": {"tolerance": "0.31"},
    "by-eye": {"d1_teeth": "33"},
    "wrong": {"offset": "8"},
    "tdc": {"stated_doubt": "0.4"},
    "piston-valve": {"intake_angle": "13"},
    "change-plan": {"people": "RK"},
    "valve-lash": {"intake_lash": "0.31"},
}


@pytest.mark.parametrize("station", [station.key for station in SETUPS])
def test_of_two_windows_on_one_set_up_the_second_is_told_and_loses_nothing(
    client: TestClient, shop: Shop, key: str, station: str
) -> None:
    page = client.get(f"/jobs/{key}/{station}?edit=1").text
    seen = re.search(r'name="seen" value="(\d+)"', page).group(1)
    typed = {**GOOD[station], "unit": "mm", "seen": seen}
    assert client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data=typed, follow_redirects=False).status_code == 303
    answer = client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data=typed | CHANGED[station], headers=HX)
    assert answer.status_code == 409
    for text in CHANGED[station].values():
        assert f'value="{text}"' in answer.text
    with shop.read() as session:
        assert dict(jobs.load(session, key).latest(FORM_OF[station]).typed).items() >= GOOD[station].items()


@pytest.mark.parametrize("station", [station.key for station in ORDER.stations if station.takes_notes_of_change])
def test_a_reading_sent_twice_with_one_token_is_one_reading(
    client: TestClient, shop: Shop, key: str, station: str
) -> None:
    if station == "marks":
        client.post(f"/jobs/{key}/train", data={**GOOD["train"], "unit": "mm"})
    if station in GOOD:
        client.post(f"/jobs/{key}/sheet/{FORM_OF[station]}", data={**GOOD[station], "unit": "mm"})
    if station == "setting":
        client.post(f"/jobs/{key}/sheet/end-play", data={**GOOD["end-play"], "unit": "mm"})
        client.post(f"/jobs/{key}/end-play", data={"slot": "crank.1.blade", "text": "goes", "second": "0.4"})
    page = client.get(f"/jobs/{key}/{station}").text
    options = re.findall(r'type="radio" name="text" value="([^"]+)"', page)
    form = {"slot": waiting_slot(page), "text": options[0] if options else "0.1", "token": "once"}
    form["second"] = "0.3" if station == "valve-lash" else "0"
    for _ in range(2):
        assert client.post(f"/jobs/{key}/{station}", data=form, headers=HX).status_code == 200
    with shop.read() as session:
        assert len(jobs.load(session, key).active_readings(station)) == 1
    # What is voided is struck through and asked for again.
    with shop.read() as session:
        number = jobs.load(session, key).active_readings(station)[0].id
    asked = client.get(f"/jobs/{key}/{station}?void={number}").text
    assert "why this reading does not count" in asked
    page = client.post(f"/jobs/{key}/{station}/void/{number}", data={"reason": "misread the dial"}, headers=HX).text
    assert "misread the dial" in page
    with shop.read() as session:
        assert jobs.load(session, key).active_readings(station) == []
