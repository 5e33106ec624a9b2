"""Results of all jobs, and whom each is for."""

import io
from datetime import UTC, datetime, timedelta

from fastapi.testclient import TestClient
from openpyxl import load_workbook

from tests.phase.test_weighed import four_events, ready
from tests.phase.test_where_the_cam_stands import KEYS
from tests.stations.test_fit import filled
from tests.web.test_outward import events
from uranograph.charts.history import Found, history, rows
from uranograph.shop import loading, results
from uranograph.shop.database import Shop

FOR = {"customer": "Harbor Works", "engine_number": "771", "grind_number": "G-40", "by": "QZ"}


def test_every_job_has_its_line_with_what_was_found(client: TestClient, shop: Shop) -> None:
    late, well = events(shop, "late one", 4.0), events(shop, "good one", 0.0)
    client.post(f"/jobs/{late}/sheet/particulars", data=FOR)
    with shop.read() as session:
        lines = {line.job.title: line for line in results.of_jobs(loading.page(session).jobs)}
    assert lines["late one"].late_deg is not None
    assert abs(lines["late one"].late_deg - 4.0) < 0.3
    assert (lines["late one"].customer, lines["good one"].customer) == ("Harbor Works", "")
    assert lines["late one"].moves == 0
    assert lines["late one"].by == ("QZ",)
    page = client.get("/results").text
    assert "late one" in page
    assert "good one" in page
    assert 'class="is-' in page
    assert well


def test_filters_narrow_page_and_file_alike(client: TestClient, shop: Shop) -> None:
    late = events(shop, "late one", 4.0)
    events(shop, "good one", 0.0)
    client.post(f"/jobs/{late}/sheet/particulars", data=FOR)
    for query in ("customer=harbor", "customer=g-40"):
        page = client.get(f"/results?{query}").text
        assert "late one" in page
        assert "good one" not in page
        assert "good one" not in client.get(f"/results.csv?{query}").text
    tomorrow = (datetime.now(UTC) + timedelta(days=2)).date().isoformat()
    assert "No job of that kind" in client.get(f"/results?since={tomorrow}").text
    assert "late one" in client.get("/results?since=not-a-day&who=qz").text
    assert "No job of that kind" in client.get("/results?who=zz").text


def test_the_workbook_has_numbers_of_few_digits_and_no_formula(client: TestClient, shop: Shop) -> None:
    key = events(shop, "late one", 4.0)
    client.post(f"/jobs/{key}/sheet/particulars", data={**FOR, "customer": "=1+1"})
    sheet = load_workbook(io.BytesIO(client.get("/results.xlsx").content))["Results"]
    header, line = list(sheet.iter_rows(values_only=True))[:2]
    found = dict(zip(header, line, strict=True))
    assert found["customer"] == "=1+1"
    assert sheet["C2"].data_type == "s"
    assert found["late"] == round(found["late"], 1)
    assert "'=1+1" in client.get("/results.csv").text


def test_whom_it_is_for_is_on_list_sheet_and_label(client: TestClient, shop: Shop) -> None:
    key = events(shop, "late one", 4.0)
    assert client.post(f"/jobs/{key}/sheet/particulars", data=FOR).status_code == 200
    assert "Harbor Works" in client.get("/").text
    assert "For Harbor Works; engine number 771; grind number G-40" in client.get(f"/jobs/{key}/sheet").text
    assert "Harbor Works 771" in client.get(f"/jobs/{key}/label").text


def test_cams_as_found_are_laid_beside_each_other_by_card_and_by_hand(client: TestClient, shop: Shop) -> None:
    late, again, other = events(shop, "late one", 4.0), events(shop, "late two", 2.0), events(shop, "other", -3.0)
    for key in (late, again):
        client.post(f"/jobs/{key}/sheet/particulars", data={**FOR, "cam_maker": "Aldermoor"})
    with shop.read() as session:
        lines = {line.job.key: line for line in results.of_jobs(loading.page(session).jobs)}
    assert (lines[late].cam, lines[other].cam) == ("Aldermoor G-40", "12-52-54-14")
    assert lines[other].groups("who") == ("QZ",)
    drawn = client.get("/results?group=card").text
    assert "Mean of cams as found, crank degrees late: Aldermoor G-40 +3.0; 12-52-54-14 -3.0" in drawn
    assert "crank degrees late: QZ +1.0" in client.get("/results?group=who").text
    assert "3 cams as found" in client.get("/results?group=sideways").text


def test_what_was_found_first_stays_when_the_cam_was_moved(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "moved")
        filled(session, key, "drive", **KEYS)
        four_events(session, key, io=("8", "btdc"), ic=("56", "abdc"), eo=("50", "bbdc"), ec=("18", "atdc"))
        before = results.of_job(loading.load(session, key))
    client.post(f"/jobs/{key}/adjust", data={"choice": "both:0", "token": "t"}, headers={"HX-Request": "true"})
    with shop.read() as session:
        after = results.of_job(loading.load(session, key))
    assert before is not None
    assert after is not None
    assert after.moves == before.moves + 1
    assert after.found_deg == before.found_deg
    assert abs(after.found_deg or 0.0) > 1


def test_early_is_left_of_late_in_every_row() -> None:
    body = rows({"a": [Found(0, -3.0, 0.2, "out", "x")], "b": [Found(0, 3.0, 0.2, "out", "y")]}).body
    places = [float(each.split()[0]) for each in body.split('class="star solid" d="M')[1:]]
    assert places[0] < places[1]


def test_late_is_above_early_and_each_mark_has_its_verdict() -> None:
    def height(late_deg: float) -> float:
        body = history([Found(0.5, late_deg, 0.2, "in", "x")], "a", "b").body
        return float(body.split('class="star solid" d="M')[1].split()[1].split("m")[0])

    assert height(3.0) < height(0.0) < height(-3.0)
    drawn = history([Found(0.0, 3.0, 0.2, "out", "x"), Found(1.0, 0.1, 0.2, "in", "y")], "a", "b")
    assert 'class="is-out"' in drawn.body
    assert 'class="is-in"' in drawn.body


def test_machines_get_what_the_pages_show(client: TestClient, shop: Shop) -> None:
    key = events(shop, "late one", 4.0)
    client.post(f"/jobs/{key}/sheet/particulars", data=FOR)
    lines = client.get("/results.json?customer=harbor").json()["jobs"]
    assert [(line["key"], line["customer"]) for line in lines] == [(key, "Harbor Works")]
    assert abs(lines[0]["late"] - 4.0) < 0.3
    assert client.get("/results.json?who=zz").json() == {"jobs": []}
    client.post("/library/card", data={"library_name": "G", "as_printed": "LSA 110", "unit": "inch", "by": "QZ"})
    kept = client.get("/library.json").json()["card"]
    assert [(each["name"], each["typed"]["as_printed"]) for each in kept] == [("G", "LSA 110")]
