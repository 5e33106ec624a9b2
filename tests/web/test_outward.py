"""Readings as a table, figures by themselves, and two jobs side by side."""

import csv
import io
import xml.etree.ElementTree as ET

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job, take, true_top
from uranograph.demo.shop import furnish
from uranograph.shop import asides, comparing, jobs, loading, signing
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.web.routes.sheet import frozen


def events(shop: Shop, title: str, late: float) -> str:
    with shop.write() as session:
        key = a_job(session, title=title)
        true_top(session, key)
        read = (
            ("io", 12 - late, "btdc"),
            ("ic", 128 - late, "btdc"),
            ("eo", 126 + late, "atdc"),
            ("ec", 14 + late, "atdc"),
        )
        take(session, key, "degree", [(f"{kind}.1.forward", f"{at:g}", side) for kind, at, side in read])
    return key


def test_every_reading_is_a_line_as_typed_voided_ones_too(client: TestClient, shop: Shop) -> None:
    key = events(shop, "as typed", 0)
    with shop.write() as session:
        last = loading.load(session, key).active_readings("degree")[-1]
        jobs.void(session, key, last.id, "=misread", "QZ")
        asides.act(session, key, "tdc", "wheel-moved", "+nudged", "QZ")
    answer = client.get(f"/jobs/{key}.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    lines = list(csv.DictReader(io.StringIO(answer.content.decode("utf-8-sig"))))
    with shop.read() as session:
        entries = loading.load(session, key).entries
    assert [line["slot"] for line in lines] == [getattr(entry, "slot", "") for entry in entries]
    voided = next(line for line in lines if line["voided"])
    # What a spreadsheet would reckon with is text.
    assert voided["why"] == "'=misread"
    assert lines[-1]["as typed"] == "'+nudged"
    assert lines[0]["as typed"] == "40"


@pytest.mark.parametrize("name", [station.key for station in ORDER.stations])
def test_a_figure_stands_by_itself_with_its_inks(client: TestClient, shop: Shop, name: str) -> None:
    key = events(shop, "figures", 0)
    answer = client.get(f"/jobs/{key}/{name}.svg")
    assert answer.status_code == 200
    assert answer.headers["content-type"] == "image/svg+xml"
    if answer.text:
        root = ET.fromstring(answer.text)
        assert root.tag.endswith("svg")
        style = next(each for each in root if each.tag.endswith("style"))
        assert "--out: #c2371a" in style.text
        assert ".measured-curve" in style.text
    assert client.get(f"/jobs/{key}/nothing.svg").status_code == 404


def test_a_cam_that_came_back_late_is_told_with_what_was_done_in_between(client: TestClient, shop: Shop) -> None:
    before = events(shop, "last season", 0.5)
    after = events(shop, "this season", 3.0)
    with shop.write() as session:
        asides.act(session, after, "degree", "lash-changed", "all valves", "QZ")
        asides.act(session, after, "turn-over", "parts-fitted", "new plate", "QZ")
    with shop.read() as session:
        found = comparing.compare(session, after, before)
    assert (found.one.key, found.other.key) == (before, after)
    # The lash ended what was degreed: only what still stands is compared.
    page = client.get(f"/compare?one={after}&other={before}").text
    assert "new plate" in page
    later = events(shop, "next season", 3.0)
    with shop.read() as session:
        found = comparing.compare(session, before, later)
    assert found.later_deg["both"] == pytest.approx(2.5, abs=0.1)
    io = next(line for line in found.lines if line.label == "IO")
    assert (io.one, io.other, io.change) == ("11.5", "9.0", "−2.5")
    page = client.get(f"/compare?one={before}&other={later}").text
    assert "2.5 crank deg later" in page
    assert "stretched" in page


def test_two_revisions_of_one_job_are_compared_as_they_were_signed(client: TestClient, shop: Shop) -> None:
    furnish(shop, drawn=frozen)
    with shop.read() as session:
        key = next(job.key for job in loading.page(session).jobs if job.title.startswith("Harbor"))
        offered = dict(comparing.offered(session, key, signing.signatures(session, key)))
        found = comparing.compare(session, f"{key}@2", f"{key}@1")
    assert {f"{key}@1", f"{key}@2"} <= offered.keys()
    assert (found.one.revision, found.other.revision) == (1, 2)
    changed = [line for line in found.lines if line.one != line.other]
    assert changed == []
    assert client.get(f"/compare?one={key}@1&other={key}").status_code == 200


@pytest.mark.parametrize("query", ["one=none&other=none", "one=", "one=none@1&other=x@999999999", ""])
def test_what_is_not_there_is_said(client: TestClient, query: str) -> None:
    assert client.get(f"/compare?{query}").status_code == 404
