"""Every page's data as JSON beside it, tables and workbooks that are taken out, and the page that tries calculations."""

import csv
import io
import json
import re

import pytest
from fastapi.testclient import TestClient
from openpyxl import load_workbook

from tests.phase.test_weighed import four_events, ready
from uranograph.bench.calculations import CALCULATIONS, calculate, examples
from uranograph.bench.shop_limits import LIMITS
from uranograph.core.quantities import LengthUnit
from uranograph.shop import asides, exchange, workbook
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations import ORDER
from uranograph.web.routes.data import addresses


@pytest.fixture
def degreed(shop: Shop) -> str:
    with shop.write() as session:
        key = ready(session, "=1+1, a title")
        four_events(session, key, io=("9", "btdc"), ic=("55", "abdc"), eo=("51", "bbdc"), ec=("17", "atdc"))
        asides.note(session, key, "degree", "=cmd, on a note", "RK")
    return key


def test_a_station_says_what_its_page_does_and_what_it_asks_next(client: TestClient, shop: Shop, degreed: str) -> None:
    for station in ORDER.stations:
        answer = client.get(f"/jobs/{degreed}/{station.key}.json")
        assert answer.status_code == 200, station.key
        assert answer.headers["content-type"] == "application/json"
    told = client.get(f"/jobs/{degreed}/degree.json").json()
    with shop.read() as session:
        job, kept = jobs.load(session, degreed), exchange.export_job(session, degreed)
    wanted = judge(kept, job)["stations"]["degree"]
    assert {name: told[name] for name in wanted} == json.loads(json.dumps(wanted))
    assert told["verdict"] == "out"
    assert [each["text"] for each in told["readings"] if each["type"] == "reading"] == [
        *("9", "55", "51", "17"),
    ]
    asked = client.get(f"/jobs/{degreed}/degree.json?method=events&event=io").json()["asked"]
    assert asked["slot"] == "io.2.forward"


def test_overview_sheet_and_list_agree(client: TestClient, degreed: str) -> None:
    overview = client.get(f"/jobs/{degreed}/overview.json").json()
    sheet = client.get(f"/jobs/{degreed}/sheet.json").json()
    assert overview["stations"] == sheet["stations"]
    assert overview["by_cam"]["both"]["error_deg"] == pytest.approx(3.0, abs=0.4)
    assert "degree" in {each["station"] for each in sheet["open"]}
    assert sheet["signed"] == []
    listed = client.get("/jobs.json").json()
    assert [(each["key"], each["worst"]["verdict"]) for each in listed["jobs"]] == [(degreed, "out")]
    assert client.get("/jobs.json?shelf=bin").json()["jobs"] == []
    assert client.get("/jobs.json?q=nothing-like-it").json()["total"] == 0


def test_signed_revisions_and_two_side_by_side_are_data_too(client: TestClient, demo_shop: Shop) -> None:
    client.app.state.shop = demo_shop
    with demo_shop.read() as session:
        key = next(row.key for row in jobs.page(session).jobs if row.title.startswith("Harbor"))
    signed = client.get(f"/jobs/{key}/signed/2.json").json()
    assert re.fullmatch(r"[0-9a-f]{64}", signed["digest"])
    assert signed["judged"]["stations"]["degree"]["verdict"] == "in"
    assert client.get(f"/jobs/{key}/signed/9.json").status_code == 404
    both = client.get(f"/compare.json?one={key}@1&other={key}@2").json()
    assert (both["one"], both["other"]) == (f"{key}@1", f"{key}@2")
    assert both["lines"]


def test_what_if_moves_each_event_by_what_is_asked(client: TestClient, degreed: str) -> None:
    columns = client.get(f"/jobs/{degreed}/what-if.json?intake=4").json()["columns"]
    now, then = columns["now"], columns["then"]
    assert then["io_btdc_deg"] - now["io_btdc_deg"] == pytest.approx(4)
    assert then["ec_atdc_deg"] - now["ec_atdc_deg"] == pytest.approx(-4)
    assert then["overlap_deg"] == pytest.approx(now["overlap_deg"])


def test_pages_without_a_job(client: TestClient) -> None:
    slip = client.get("/diagnosis.json?offset=-17&crank_teeth=21").json()
    assert slip["slip"]["nearest_teeth"] == -1
    assert client.get("/diagnosis.json").json()["errors"]
    assert set(client.get("/house.json").json()["limits"]) == set(LIMITS)
    assert len(client.get("/help.json").json()["stations"]) == len(ORDER.stations)


@pytest.mark.parametrize(
    "path", ["/jobs/nothing.json", "/jobs/nothing/degree.json", "/jobs/{}/nowhere.json", "/jobs/nothing/overview.json"]
)
def test_what_is_not_there_is_said_in_json(client: TestClient, key: str, path: str) -> None:
    answer = client.get(path.format(key))
    assert answer.status_code == 404
    assert answer.json()["error"]["message"]


def test_all_of_it_is_listed_with_a_page_to_try_it(client: TestClient) -> None:
    described = client.get("/openapi.json").json()["paths"]
    page = client.get("/api").text
    for path, words in addresses():
        assert words
        assert described[path]["get"]["summary"] == words
        assert path in page
    for name in CALCULATIONS:
        body = described[f"/api/calc/{name}"]["post"]["requestBody"]["content"]["application/json"]
        assert body["example"] == examples()[name]


def test_every_calculation_has_an_example_that_can_be_sent() -> None:
    assert set(examples()) == set(CALCULATIONS)
    for name, given in examples().items():
        assert calculate(name, given)


def test_the_workbook_has_results_figures_and_readings_and_no_formula(client: TestClient, degreed: str) -> None:
    answer = client.get(f"/jobs/{degreed}.xlsx")
    assert answer.headers["content-disposition"].endswith('.xlsx"')
    book = load_workbook(io.BytesIO(answer.content))
    assert book.sheetnames == ["Results", "Figures", "Readings"]
    results = {row[2].value: row for row in book["Results"].iter_rows(min_row=2)}
    assert set(results) >= {"Engine", "True TDC", "Intake and exhaust"}
    assert results["Intake and exhaust"][4].value == pytest.approx(3.0, abs=0.4)
    assert results["Intake and exhaust"][3].value == "out"
    readings = list(book["Readings"].iter_rows(min_row=2))
    note = next(cell for row in readings for cell in row if cell.value == "=cmd, on a note")
    assert note.data_type == "s"
    cells = [cell for name in book.sheetnames for row in book[name].iter_rows() for cell in row]
    assert not [cell.value for cell in cells if cell.data_type == "f"]
    assert len(list(book["Figures"].iter_rows())) > 8


def test_results_as_a_table(client: TestClient, degreed: str) -> None:
    text = client.get(f"/jobs/{degreed}/results.csv").text.lstrip("\ufeff")
    lines = list(csv.DictReader(io.StringIO(text)))
    assert list(lines[0])[:4] == ["job", "written to", "station", "verdict"]
    cam = next(line for line in lines if line["station"] == "Intake and exhaust")
    assert cam["verdict"] == "out"
    assert re.fullmatch(r"\d{4}-\d\d-\d\d", cam["written to"])
    assert cam["job"]
    assert not re.search(r"\d\.\d{6,}", text)


@pytest.mark.parametrize(
    ("value", "unit", "wanted", "told"),
    [
        ((0.254, 0.0254), "mm", LengthUnit.INCH, (0.01, "inch", 0.001)),
        ((0.1 + 0.2, None), "mm", LengthUnit.MM, (0.3, "mm", None)),
        ((4.0, 1 / 3), "deg", LengthUnit.INCH, (4.0, "deg", 0.3333)),
    ],
)
def test_results_are_in_the_units_of_the_job_and_no_finer_than_measured(
    value: tuple[float, float | None], unit: str, wanted: LengthUnit, told: tuple[object, ...]
) -> None:
    assert workbook._measured(*value, unit, wanted) == told


def test_a_figure_taken_out_carries_its_letters(client: TestClient, degreed: str) -> None:
    drawn = client.get(f"/jobs/{degreed}/degree.svg").text
    assert drawn.count("data:font/woff2;base64,") == 4
    assert "http" not in drawn.replace("http://www.w3.org/2000/svg", "")
