"""A whole shop as one file: out and in again, nothing lost, nothing written where a line is at fault."""

import json

import pytest
from fastapi.testclient import TestClient

from tests.hands import command
from uranograph.core.errors import InvalidInput
from uranograph.shop import exchange, library, shelving, whole
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop


@pytest.fixture
def other(shop: Shop, tmp_path_factory: pytest.TempPathFactory) -> Shop:
    opened = Shop(tmp_path_factory.mktemp("other") / "other.db")
    opened.migrate()
    return opened


def taken_out(shop: Shop) -> bytes:
    with shop.read() as session:
        return "\n".join(whole.lines(session)).encode()


def test_a_shop_goes_out_and_comes_in_as_it_was(demo_shop: Shop, other: Shop) -> None:
    with demo_shop.write() as session:
        binned = next(row.key for row in jobs.page(session).jobs if row.title.startswith("Fire"))
        shelving.move_to(session, binned, "bin")
        library.keep(session, "card", "A card", {"io_btdc_deg": "12"}, "RK")
    settings, kept = whole.read(taken_out(demo_shop))
    assert [job.title for job in kept if job.title.startswith("Fire")] == []
    with other.write() as session:
        assert whole.bring_in(session, settings, kept) == len(kept) == 5
    with demo_shop.read() as here, other.read() as there:
        assert {row.title for row in jobs.page(there).jobs} == {job.title for job in kept}
        mine, theirs = ({name: value.text for name, value in library.shop_values(s).items()} for s in (here, there))
        assert mine == theirs
        assert [each.name for each in library.shelf(there, "card")] == [
            each.name for each in library.shelf(here, "card")
        ]
        for row in jobs.page(there).jobs:
            again = exchange.export_job(there, row.key)
            assert again.entries == next(job for job in kept if job.title == again.title).entries


def test_what_a_shop_has_set_itself_stays(demo_shop: Shop, other: Shop) -> None:
    with other.write() as session:
        library.set_limits(session, {"shaft_own": "0.1 mm"}, "QZ")
        whole.bring_in(session, *whole.read(taken_out(demo_shop)))
        values = library.shop_values(session)
    assert values["shaft_own"].text == "0.1 mm"
    assert values["wheel_name"].text == "W2"


@pytest.mark.parametrize(
    ("change", "line"),
    [
        (lambda lines: [*lines[:2], "{}", *lines[2:]], 3),
        (lambda lines: [lines[0].replace('"house"', '"hous"'), *lines[1:]], 1),
        (lambda lines: [*lines, "not json"], 8),
    ],
)
def test_a_line_at_fault_is_named_and_nothing_is_written(
    demo_shop: Shop, client: TestClient, shop: Shop, change: object, line: int
) -> None:
    assert callable(change)
    lines = change(taken_out(demo_shop).decode().splitlines())[: line + 1]
    content = "\n".join(lines).encode()
    with pytest.raises(InvalidInput) as caught:
        whole.read(content)
    assert (caught.value.code, caught.value.values["line"]) == ("not-a-shop-file", line)
    answer = client.post("/jobs/import", files={"file": ("shop.jsonl", content)})
    assert answer.status_code == 422
    assert f"Line {line} of this file" in answer.text
    with shop.read() as session:
        assert jobs.page(session).total == 0


def test_on_the_pages_and_by_command(demo_shop: Shop, client: TestClient, shop: Shop, other: Shop) -> None:
    content = taken_out(demo_shop)
    page = client.post("/jobs/import", files={"file": ("shop.jsonl", content)}).text
    assert "6 jobs brought in." in page
    out = client.get("/shop.jsonl").text.splitlines()
    assert len(out) == 7
    assert json.loads(out[0])["type"] == "shop"
    by_command = command("export", "--all", "--database", str(shop.path))
    assert by_command.stdout.splitlines() == out
    file = other.path.parent / "shop.jsonl"
    file.write_text(by_command.stdout)
    told = command("import", str(file), "--database", str(other.path))
    assert told.stdout == "6 jobs were brought in.\n"
    for wrong in (("export",), ("export", "x", "--all")):
        refused = command(*wrong)
        assert refused.exit_code == 1
        assert "Name one job by its key, or say --all" in refused.stderr


def test_a_job_alone_is_still_one_job(demo_shop: Shop, client: TestClient) -> None:
    with demo_shop.read() as session:
        key = jobs.page(session).jobs[0].key
        one = exchange.export_job(session, key)
    for text in (one.model_dump_json(), one.model_dump_json(indent=2)):
        assert not whole.holds_several(text.encode())
        led = client.post("/jobs/import", files={"file": ("job.json", text.encode())}, follow_redirects=False)
        assert led.headers["location"].endswith("/overview")
