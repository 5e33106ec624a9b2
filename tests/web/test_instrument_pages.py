"""The page of instruments, what goes on as it happens, and what is kept of it."""

import json

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job, true_top
from uranograph.bench.log import Picture
from uranograph.instruments import capture
from uranograph.instruments.hub import Hub, Point
from uranograph.instruments.sweeping import ValveSweep
from uranograph.shop import exchange, instrument_shelf, loading
from uranograph.shop.database import Shop
from uranograph.world.lobes import Lobe

DIAL = {"name": "D1", "kind": "length", "url": "bridge:B1", "pattern": "number", "line_unit": "mm"}
ANGLE = {
    "name": "E1",
    "kind": "angle",
    "url": "bridge:B2",
    "pattern": "number",
    "line_unit": "deg",
    "uncertainty": "0.1",
}

HX = {"HX-Request": "true"}


@pytest.fixture
def hub(client: TestClient) -> Hub:
    found: Hub = client.app.state.hub  # type: ignore[attr-defined]
    return found


@pytest.fixture
def live(client: TestClient, hub: Hub) -> Hub:
    """A dial and an encoder that say what they are fed."""
    for typed in (DIAL, ANGLE):
        assert client.post("/instruments", data=typed, headers=HX).status_code < 400
    return hub


def says(client: TestClient, name: str, *raw: str, run: str = "a", first: int = 0) -> int:
    lines = [{"n": first + k, "raw": each} for k, each in enumerate(raw)]
    answer = client.post("/instruments/lines", json={"name": name, "run": run, "lines": lines})
    assert answer.status_code == 200
    return int(answer.json()["taken"])


def test_an_instrument_is_added_corrected_and_removed(client: TestClient, shop: Shop) -> None:
    assert "None yet" in client.get("/instruments").text
    client.post("/instruments", data=DIAL | {"checked": "2026-03-01"}, headers=HX)
    page = client.get("/instruments?edit=D1").text
    assert "bridge:B1" in page
    assert "2026-03-01" in page
    client.post("/instruments", data=DIAL | {"url": "socket://10.0.0.9:7000"}, headers=HX)
    with shop.read() as session:
        (kept,) = instrument_shelf.stored(session)
    assert kept.typed["url"] == "socket://10.0.0.9:7000"
    # Under another name it is the same instrument.
    client.post("/instruments", data={**kept.typed, "name": "D2", "instead_of": "D1"}, headers=HX)
    with shop.read() as session:
        assert [each.name for each in instrument_shelf.stored(session)] == ["D2"]
    led = client.post("/instruments/remove", data={"name": "D2"}, headers=HX).headers["HX-Redirect"]
    page = client.get(led).text
    assert "None yet" in page
    assert client.post("/instruments/remove", data={"name": "D2"}, headers=HX).status_code == 422
    # What was taken off by mistake stands in the form.
    assert "D2 is off the list" in page
    assert "socket://10.0.0.9:7000" in page
    assert "off the list" not in client.get("/instruments?removed=D7").text


def test_a_correction_that_is_refused_still_corrects_the_same_one(client: TestClient, shop: Shop) -> None:
    client.post("/instruments", data=DIAL, headers=HX)
    wrong = client.post("/instruments", data=DIAL | {"name": "D3", "instead_of": "D1", "uncertainty": "-1"}, headers=HX)
    assert wrong.status_code == 422
    assert 'name="instead_of" value="D1"' in wrong.text
    client.post("/instruments", data=DIAL | {"name": "D3", "instead_of": "D1"}, headers=HX)
    with shop.read() as session:
        assert [each.name for each in instrument_shelf.stored(session)] == ["D3"]


@pytest.mark.parametrize(
    ("field", "text"), [("url", "/etc/passwd"), ("pattern", "mm"), ("name", ""), ("uncertainty", "-1")]
)
def test_what_cannot_be_is_refused_and_stays_as_typed(client: TestClient, field: str, text: str) -> None:
    answer = client.post("/instruments", data=DIAL | {field: text, "checked": "last week"}, headers=HX)
    assert answer.status_code == 422
    assert "last week" in answer.text
    assert f'id="error-{field}"' in answer.text


def test_a_sample_line_shows_what_is_understood_of_it(client: TestClient) -> None:
    tried = client.post("/instruments/try", data=DIAL | {"line_unit": "in", "sample": "+0.0500"}, headers=HX)
    assert "1.27 mm" in tried.text
    nothing = client.post("/instruments/try", data=DIAL | {"sample": "<b>what"}, headers=HX)
    assert "Nothing is understood" in nothing.text
    assert "<b>what" not in nothing.text


def test_lines_of_a_bridge_count_once(client: TestClient, live: Hub) -> None:
    heard: list[float] = []
    live.listen(lambda name, point: heard.append(point.value))
    assert says(client, "B1", "1.0 mm", "1.1 mm") == 1
    assert says(client, "B1", "1.1 mm", "1.2 mm", first=1) == 2
    assert heard == [1.0, 1.1, 1.2]
    # What is kept of fast lines is thinned; the newest stays.
    captured = client.get("/instruments/D1/capture")
    raw = [json.loads(line)["raw"] for line in captured.text.splitlines()]
    assert raw == [each for each in ("1.0 mm", "1.1 mm", "1.2 mm") if each in raw]
    assert raw[-1] == "1.2 mm"
    assert client.post("/instruments/lines", json={"name": "../x", "run": "a", "lines": []}).status_code == 422


def test_it_is_zeroed_where_it_stands(client: TestClient, live: Hub) -> None:
    says(client, "B1", "1.250 mm")
    client.post("/instruments/zero", data={"name": "D1"}, headers=HX)
    says(client, "B1", "1.300 mm", first=1)
    assert live.live()[0].value == pytest.approx(0.05)
    # Zeroed twice it is zero where it stands now.
    client.post("/instruments/zero", data={"name": "D1"}, headers=HX)
    says(client, "B1", "1.300 mm", first=2)
    assert live.live()[0].value == pytest.approx(0.0)
    assert client.post("/instruments/zero", data={"name": "E1"}, headers=HX).status_code == 422


def test_a_file_from_elsewhere_opens_no_line_here(client: TestClient, shop: Shop, live: Hub, key: str) -> None:
    file = client.get("/shop.jsonl").text
    assert "bridge:B1" in file
    for name in ("D1", "E1"):
        client.post("/instruments/remove", data={"name": name}, headers=HX)
    brought = client.post("/jobs/import", files={"file": ("shop.jsonl", file.encode())}, headers=HX)
    assert brought.status_code < 400
    with shop.read() as session:
        assert instrument_shelf.stored(session) == ()


def reading(client: TestClient, key: str, **typed: str) -> int:
    page = client.get(f"/jobs/{key}/tdc").text
    slot, token = (page.partition(f'name="{name}" value="')[2].partition('"')[0] for name in ("slot", "token"))
    data = {"slot": slot, "token": token, **typed}
    return client.post(f"/jobs/{key}/tdc", data=data, headers=HX).status_code


def test_a_reading_by_an_instrument_keeps_its_line_and_its_uncertainty(
    client: TestClient, shop: Shop, live: Hub
) -> None:
    with shop.write() as session:
        key = a_job(session)
    by = {"instrument": "E1", "raw": "324.9 deg"}
    assert reading(client, key, text="35.1", side="btdc", **by) < 400
    assert reading(client, key, text="34.9", side="atdc", **by) < 400
    with shop.read() as session:
        job = loading.load(session, key)
        file = exchange.export_job(session, key).model_dump(mode="json", exclude_none=True)
    assert [(each.reader, each.uncertainty, each.raw) for each in job.readings] == [("E1", (0.1,), "324.9 deg")] * 2
    stored = [each for each in file["entries"] if each["type"] == "reading"]
    assert stored[0]["uncertainty"] == [0.1]
    assert "E1" in client.get(f"/jobs/{key}/tdc").text
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "Taken by instrument, not by eye, where one is named: E1 (± 0.1 deg)." in sheet


def test_a_name_that_is_not_the_shops_counts_as_by_eye(client: TestClient, shop: Shop, live: Hub) -> None:
    with shop.write() as session:
        key = a_job(session)
    assert reading(client, key, text="35.1", side="btdc", instrument="from a file", raw="x") < 400
    with shop.read() as session:
        (only,) = loading.load(session, key).readings
    assert (only.instrument, only.uncertainty, only.raw) == ("by eye", (), None)


def test_an_encoder_and_a_wheel_are_never_mixed(client: TestClient, shop: Shop, live: Hub) -> None:
    with shop.write() as session:
        key = a_job(session)
    assert reading(client, key, text="35", side="btdc") < 400
    assert reading(client, key, text="34.9", side="atdc", instrument="E1", raw="x") == 422
    assert reading(client, key, text="35", side="atdc") < 400
    page = client.get(f"/jobs/{key}/degree").text
    slot, token = (page.partition(f'name="{name}" value="')[2].partition('"')[0] for name in ("slot", "token"))
    mixed = client.post(
        f"/jobs/{key}/degree",
        data={
            "slot": slot,
            "token": token,
            "text": "20",
            "side": "btdc",
            "second": "1.27",
            "instrument": "E1",
            "raw": "x",
        },
        headers=HX,
    )
    assert mixed.status_code == 422
    assert "TDC was found by eye, and E1 has its own zero" in mixed.text


def test_who_is_where_is_on_the_board_and_a_held_question_is_shown(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, title="Harbor tug, four")
    board = client.get("/board").text
    assert "Harbor tug, four" in board
    assert "nobody" in board
    presence = client.app.state.presence  # type: ignore[attr-defined]
    number = presence.enter("RK", key, "tdc")
    assert "RK at" in client.get("/board").text
    client.cookies.set("uranograph_by", "RK")
    assert client.post(f"/jobs/{key}/hold", data={"station": "tdc", "slot": "stop.1.before"}).status_code == 204
    assert presence.at(key)[0].holds == "stop.1.before"
    presence.leave(number)
    assert presence.at(key) == []
    assert client.post(f"/jobs/{key}/hold", data={"station": "nowhere", "slot": "x"}).status_code == 404


def test_nothing_is_swept_without_instruments_or_before_it_was(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
    assert client.post(f"/jobs/{key}/collect", data={"what": "intake"}).status_code == 422
    assert client.post(f"/jobs/{key}/collect", data={"what": "rock"}).status_code == 422
    assert client.post(f"/jobs/{key}/collect/keep").status_code == 422
    assert client.post(f"/jobs/{key}/collect/stop").status_code == 204


def test_a_turn_of_a_shaft_is_kept_as_a_round(client: TestClient, shop: Shop, live: Hub) -> None:
    with shop.write() as session:
        key = a_job(session)
    says(client, "B1", "0.000 mm")
    says(client, "B2", "10.0 deg")
    begun = client.post(f"/jobs/{key}/collect", data={"what": "turn"})
    assert begun.json()["of"] == "turn"
    collector = client.app.state.collecting[key][0]  # type: ignore[attr-defined]
    for k in range(372):
        raw = f"{k}"
        collector.take("E1", Point(k / 50, (10.0 + k) % 360, raw))
        collector.take("D1", Point(k / 50, 0.02 if 90 <= k <= 270 else 0.0, raw))
    kept = client.post(f"/jobs/{key}/collect/keep")
    assert kept.json()["kept"] == 9
    with shop.read() as session:
        job = loading.load(session, key)
        taken = job.active_readings("runout")
        (kept_lines,) = job.annotations("runout", Picture)
    assert [each.second for each in taken[:3]] == ["0.0", "45.0", "90.0"]
    # The lines that it came by are kept with the job, to be played again.
    assert kept_lines.is_capture
    answer = client.get(f"/jobs/{key}/photos/{kept_lines.id}")
    assert answer.headers["content-disposition"].startswith("attachment")
    lines = list(capture.read(answer.text))
    assert [raw for _, raw in lines[:3]] == ["0", "1", "2"]
    assert len(lines) == 372
    assert f"/jobs/{key}/photos/{kept_lines.id}" in client.get(f"/jobs/{key}/runout").text
    assert "photos/" not in client.get(f"/jobs/{key}/sheet").text
    assert {each.instrument for each in taken} == {"E1, D1"}
    assert taken[0].uncertainty == (0.005,)
    assert client.post(f"/jobs/{key}/collect/keep").status_code == 422


def passed_over(
    collector: ValveSweep, lobe: Lobe, base_mm: float = 0.0, drift_mm: float = 0.0, whole: int = 400
) -> None:
    """A lobe passed over from its base circle to its base circle, one line for both instruments."""
    start = lobe.middle_deg - 200
    for k in range(2 * whole):
        deg = start + k / 2
        lift = lobe.lift(deg) + base_mm + drift_mm * k / (2 * whole)
        for name, value in (("E1", deg % 360), ("D1", lift)):
            collector.take(name, Point(k / 50, value, f"line {k}"))


def test_a_valve_swept_live_is_three_readings_wherever_its_dial_was_zeroed(
    client: TestClient, shop: Shop, live: Hub
) -> None:
    with shop.write() as session:
        key = a_job(session)
    says(client, "B1", "0.000 mm")
    says(client, "B2", "10.0 deg")
    assert client.post(f"/jobs/{key}/collect", data={"what": "valve-9"}).status_code == 422
    assert client.post(f"/jobs/{key}/collect", data={"what": "valve-6"}).json()["of"] == "sweep-valve-6"
    collector = client.app.state.collecting[key][0]  # type: ignore[attr-defined]
    assert client.post(f"/jobs/{key}/collect/keep").status_code == 422
    lobe = Lobe(250.0, 118.0, 9.2, 1.0)
    passed_over(collector, lobe, base_mm=0.7)
    assert collector.is_complete
    assert client.post(f"/jobs/{key}/collect/keep").json()["kept"] == 3
    with shop.read() as session:
        taken = loading.load(session, key).active_readings("every-valve")
    assert [each.spot.kind for each in taken] == ["lift-6", "opens-6", "closes-6"]
    assert taken[0].mm == pytest.approx(9.2, abs=0.02)
    for reading, side in zip(taken[1:], (-1, 1), strict=True):
        true = (lobe.crossing_deg(1.0, side) + 180) % 360 - 180
        assert float(reading.text) == pytest.approx(abs(true), abs=0.3)
    assert {each.instrument for each in taken} == {"E1, D1"}
    assert {each.is_by_instrument for each in taken} == {True}


def test_a_dial_that_does_not_come_back_is_not_kept(client: TestClient, shop: Shop, live: Hub) -> None:
    with shop.write() as session:
        key = a_job(session)
    says(client, "B1", "0.000 mm")
    says(client, "B2", "10.0 deg")
    client.post(f"/jobs/{key}/collect", data={"what": "valve-1"})
    passed_over(client.app.state.collecting[key][0], Lobe(108.0, 118.0, 9.2, 1.0), drift_mm=0.09)  # type: ignore[attr-defined]
    refused = client.post(f"/jobs/{key}/collect/keep")
    assert refused.status_code == 422
    assert "did not come back on the base circle" in refused.json()["error"]
    with shop.read() as session:
        assert not loading.load(session, key).readings


def test_a_dial_alone_gives_the_travel_of_one_turn(client: TestClient, shop: Shop, live: Hub) -> None:
    with shop.write() as session:
        key = a_job(session)
    assert client.post(f"/jobs/{key}/collect", data={"what": "watch"}).status_code == 422
    says(client, "B1", "0.000 mm")
    begun = client.post(f"/jobs/{key}/collect", data={"what": "watch"})
    assert begun.json()["travel"] is None
    collector = client.app.state.collecting[key][0]  # type: ignore[attr-defined]
    for k, mm in enumerate((0.0, 0.03, 0.05, 0.01, -0.02, 0.002)):
        collector.take("D1", Point(float(k), mm, f"{mm} mm"))
        collector.take("E1", Point(float(k), 90.0 * k, "else"))
    assert collector.progress()["travel"] == pytest.approx(0.07)
    assert collector.progress()["back"]
