"""Where jobs are kept: archive, bin and what goes for good; names, copies, and what is undone."""

import re
import sqlite3
from datetime import UTC, datetime, timedelta

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import update

from tests.hands import CARD, a_job, take, true_top
from uranograph.bench.order import worst_finding
from uranograph.core.errors import InvalidInput
from uranograph.shop import asides, jobs, loading, shelving
from uranograph.shop.database import Shop
from uranograph.shop.shelving import Shelf
from uranograph.shop.tables import JobRow
from uranograph.stations import ORDER

TENDER = "Harbor tender, four"


def listed(shop: Shop, shelf: Shelf, **how: loading.ListOrder) -> list[str]:
    with shop.read() as session:
        return [job.title for job in loading.page(session, where=shelving.on(shelf), **how).jobs]


def put(shop: Shop, key: str, shelf: Shelf) -> None:
    with shop.write() as session:
        shelving.move_to(session, key, shelf)


def test_a_job_stands_on_one_shelf_and_comes_back(shop: Shop, key: str) -> None:
    title = listed(shop, Shelf.BENCH)[0]
    for shelf in (Shelf.ARCHIVED, Shelf.BIN):
        put(shop, key, shelf)
        assert listed(shop, shelf) == [title]
        assert listed(shop, Shelf.BENCH) == listed(shop, Shelf.UNSIGNED) == []
        put(shop, key, Shelf.BENCH)
        assert listed(shop, shelf) == []
        assert listed(shop, Shelf.BENCH) == [title]
    put(shop, key, Shelf.ARCHIVED)
    put(shop, key, Shelf.BIN)
    assert listed(shop, Shelf.ARCHIVED) == []


def test_signed_is_what_was_not_written_to_since(demo_shop: Shop) -> None:
    assert listed(demo_shop, Shelf.SIGNED) == [TENDER]
    assert TENDER not in listed(demo_shop, Shelf.UNSIGNED)
    with demo_shop.write() as session:
        key = next(job.key for job in loading.page(session).jobs if job.title == TENDER)
        asides.note(session, key, "engine", "painted", "QZ")
    assert listed(demo_shop, Shelf.SIGNED) == []
    assert TENDER in listed(demo_shop, Shelf.UNSIGNED)
    with demo_shop.read() as session:
        counts = shelving.counts(session)
    assert counts[Shelf.BENCH] == counts[Shelf.SIGNED] + counts[Shelf.UNSIGNED] == len(listed(demo_shop, Shelf.BENCH))
    with demo_shop.write() as session, pytest.raises(InvalidInput) as refused:
        shelving.move_to(session, key, Shelf.BIN)
    assert refused.value.code == "signed-is-kept"


def test_names_are_changed_at_once_and_put_in_order(shop: Shop, key: str) -> None:
    with shop.write() as session:
        a_job(session, title="alder")
        shelving.rename(session, key, "  Birch ")
    assert listed(shop, Shelf.BENCH, order=loading.ListOrder.NAME) == ["alder", "Birch"]
    assert listed(shop, Shelf.BENCH)[0] == "alder"
    with shop.write() as session:
        shelving.rename(session, key, "Aspen")
    # A job that is carried over in memory has its new name too.
    with shop.read() as session:
        assert loading.load(session, key).title == "Aspen"
    for title, code in (("  ", "title-missing"), ("x" * 121, "too-many-letters-to-keep")):
        with shop.write() as session, pytest.raises(InvalidInput) as refused:
            shelving.rename(session, key, title)
        assert refused.value.code == code


def test_a_copy_has_engine_card_drive_and_way_and_no_reading(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        jobs.save_form(session, key, "way", {"way": "degree"}, "QZ")
        new = shelving.copy(session, key, "The next", "rk", "once")
        assert shelving.copy(session, key, "The next", "rk", "once") == new
    with shop.read() as session:
        job, pattern = loading.load(session, new), loading.load(session, key)
    assert job.readings == ()
    assert {form.kind for form in job.forms} == {"engine", "card", "way"}
    assert {form.kind for form in pattern.forms} > {form.kind for form in job.forms}
    assert dict(job.latest("card").typed) == CARD
    assert {form.by for form in job.forms} == {"RK"}


@pytest.mark.parametrize(("days", "gone"), [(29.9, 0), (30.1, 1)])
def test_what_was_in_the_bin_for_thirty_days_goes_for_good_and_nothing_else(
    shop: Shop, key: str, days: float, gone: int
) -> None:
    with shop.write() as session:
        other = a_job(session, title="Stays")
        for each in (key, other):
            true_top(session, each)
            asides.note(session, each, "engine", "found so", "QZ")
            jobs.void(session, each, loading.load(session, each).readings[0].id, "slip", "QZ")
        shelving.move_to(session, key, Shelf.BIN)
        long_ago = datetime.now(UTC) - timedelta(days=days)
        session.execute(update(JobRow).where(JobRow.key == key).values(binned_at=long_ago))
    with shop.write() as session:
        assert shelving.purge(session) == gone
    with shop.read() as session:
        assert len(loading.load(session, other).entries) == 3
        assert loading.page(session).total == 2 - gone
    if gone:
        with shop.read() as session, pytest.raises(loading.NoSuchJob):
            loading.load(session, key)


def test_the_file_keeps_every_row_of_a_job_that_was_not_long_in_the_bin(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        jobs.void(session, key, loading.load(session, key).readings[0].id, "slip", "QZ")
        shelving.move_to(session, key, Shelf.BIN)
    with sqlite3.connect(shop.path) as file, pytest.raises(sqlite3.IntegrityError, match="only ever added to"):
        file.execute("DELETE FROM entries")


def test_what_was_done_last_is_undone_once_with_what_it_brought(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        before = jobs.last_done(loading.load(session, key))
        job = take(session, key, "tdc", [("moved", "nudged", None)])
        last = jobs.last_done(job)
        assert last.text == "nudged"
        for _ in range(2):
            jobs.void(session, key, last.id, "undone", "QZ")
        job = loading.load(session, key)
    assert jobs.last_done(job).id == before.id
    assert {entry.void.reason for entry in job.entries if entry.void} == {"undone"}


def test_a_form_written_after_a_reading_leaves_nothing_to_undo(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        assert jobs.last_done(loading.load(session, key)) is not None
        jobs.save_form(session, key, "card", {**CARD, "io_btdc_deg": "13"}, "QZ")
        assert jobs.last_done(loading.load(session, key)) is None


def test_undo_on_the_page_says_what_it_undid(shop: Shop, client: TestClient, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        last = jobs.last_done(loading.load(session, key))
    page = client.get(f"/jobs/{key}/degree").text
    assert f'action="/jobs/{key}/degree/undo/{last.id}"' in page
    answer = client.post(f"/jobs/{key}/degree/undo/{last.id}", headers={"HX-Request": "true"})
    assert answer.status_code == 200
    assert "Undone: True TDC, pair 1, piston stop, after" in answer.text
    with shop.read() as session:
        assert jobs.last_done(loading.load(session, key)).id != last.id
    assert client.post(f"/jobs/{key}/degree/undo/999", headers={"HX-Request": "true"}).status_code == 422


def test_the_pages_of_keeping_a_job(client: TestClient, key: str) -> None:
    assert client.post(f"/jobs/{key}/rename", data={"title": "Alder six"}).status_code == 200
    assert "Alder six" in client.get("/").text
    refused = client.post(f"/jobs/{key}/rename", data={"title": " "})
    assert refused.status_code == 422
    assert "Give the job a name" in refused.text
    long = client.post(f"/jobs/{key}/copy", data={"copy_title": "y" * 121, "token": "t"})
    assert long.status_code == 422
    assert "y" * 121 in long.text
    copied = client.post(f"/jobs/{key}/copy", data={"copy_title": "Alder six, two", "token": "t"})
    assert copied.status_code == 200
    assert "Alder six, two" in client.get("/?order=name").text
    assert client.post(f"/jobs/{key}/put/archived").status_code == 200
    assert "Alder six</span>" not in client.get("/").text
    assert "Alder six</span>" in client.get("/?shelf=archived").text
    assert "Put on the bench" in client.get(f"/jobs/{key}/overview").text
    client.post(f"/jobs/{key}/put/bin")
    assert "gone for good on" in client.get(f"/jobs/{key}/overview").text
    assert client.post(f"/jobs/{key}/put/nowhere").status_code == 422
    assert client.get("/?shelf=nowhere").status_code == 200
    assert "Nothing is archived." in client.get("/?shelf=archived").text


def test_the_list_is_narrowed_to_how_jobs_stand_among_the_first_of_them(
    client: TestClient, shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    with shop.write() as session:
        fresh, late = a_job(session, title="Fresh four"), a_job(session, title="Late four")
        true_top(session, late)
        events = {"io": ("2", "btdc"), "ic": ("118", "btdc"), "eo": ("136", "atdc"), "ec": ("24", "atdc")}
        take(session, late, "degree", [(f"{kind}.1.forward", *at) for kind, at in events.items()])
        assert worst_finding(ORDER.overview(loading.load(session, late))).state == "out"

    def titles(query: str) -> list[str]:
        return re.findall(r'class="job-title">([^<]+)<', client.get(f"/?{query}").text)

    assert titles("") == ["Late four", "Fresh four"]
    assert titles("stands=out") == ["Late four"]
    assert titles("stands=well") == ["Fresh four"]
    assert titles("stands=unsure") == []
    assert "No job fits all of that." in client.get("/?stands=unsure").text
    assert titles("stands=nonsense") == titles("")
    assert titles("stands=out&q=fresh") == []
    # A list of thousands is judged from its beginning only, and says so.
    monkeypatch.setattr("uranograph.web.routes.jobs.JUDGED_AT_MOST", 1)
    page = client.get("/?stands=well").text
    assert "0 of the 1 that come first in the list of 2." in page
    assert "Fresh four" in client.get("/?stands=well&order=name").text
    assert fresh in client.get("/?stands=well&order=name").text
