"""The shop's page: name and mark on its papers, and a backup from the browser."""

import sqlite3
from datetime import UTC, datetime, timedelta
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job
from tests.web.test_outward import events
from uranograph.shop import asides, letterhead, own_log, shelving
from uranograph.shop.database import Shop, copy_database, restore_database


def picture(data: bytes) -> bytes:
    return asides.PNG + b"\0\0\0\rIHDR" + b"\0\0\0\x01" * 2 + b"\x08\0\0\0\0" + data


MARK = {"shop_mark": ("mark.png", picture(b"mark"), "image/png")}


def test_name_and_mark_are_on_every_sheet_and_stay_on_the_signed_one(client: TestClient, shop: Shop) -> None:
    key = events(shop, "late one", 4.0)
    assert client.post("/shop", data={"shop_name": " Quay Works ", "shop_address": "Pier 4", "by": "qz"}, files=MARK)
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "<b>Quay Works</b><br>Pier 4" in sheet
    assert 'src="data:image/png;base64,' in sheet
    with shop.read() as session:
        head = letterhead.letterhead(session)
    assert (head.name, head.address) == ("Quay Works", "Pier 4")
    client.post("/shop", data={"shop_name": "Quay Works", "shop_address": "", "without_mark": "1", "by": "QZ"})
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "data:image/png" not in sheet
    assert "Pier 4" not in sheet
    with shop.read() as session:
        changes = own_log.of(session, own_log.Kind.LIMIT, letterhead.NAME)
        assert [(each.new, each.by) for each in changes] == [("Quay Works", "QZ")]
        assert len(letterhead.marks(session)) == 1


@pytest.mark.parametrize(
    ("data", "files", "words"),
    [
        ({"shop_name": "x" * 81, "by": "QZ"}, None, "There is room for 80 letters."),
        ({"shop_name": "x", "by": "QZ"}, {"shop_mark": ("m.png", b"GIF89a", "image/png")}, "no PNG or JPEG"),
        (
            {"shop_name": "x", "by": "QZ"},
            {"shop_mark": ("m.png", picture(b"m") + bytes(letterhead.MAX_MARK_BYTES), "image/png")},
            "larger than 150 kB",
        ),
        ({"shop_name": "x", "by": " "}, None, "Who is here?"),
    ],
)
def test_what_cannot_be_a_name_or_a_mark_is_said_beside_it(
    client: TestClient, shop: Shop, data: dict[str, str], files: dict[str, tuple[str, bytes, str]] | None, words: str
) -> None:
    answer = client.post("/shop", data=data, files=files or {"shop_mark": ("", b"", "")})
    assert answer.status_code == 422
    assert words in answer.text
    assert f'value="{data["shop_name"]}"' in answer.text
    with shop.read() as session:
        assert letterhead.letterhead(session) == letterhead.Letterhead()


def test_a_backup_from_the_page_is_the_whole_shop_and_its_day_is_noted(
    client: TestClient, shop: Shop, tmp_path: Path
) -> None:
    events(shop, "late one", 4.0)
    assert "No backup was ever made." in client.get("/shop").text
    client.post("/bench/who", data={"by": "QZ"})
    answer = client.post("/shop/backup")
    assert answer.status_code == 200
    assert answer.headers["content-disposition"].endswith('.db"')
    copy = tmp_path / "copy.db"
    copy.write_bytes(answer.content)
    count, kept = restore_database(copy, tmp_path / "back.db", "now")
    assert (count, kept) == (1, None)
    with sqlite3.connect(tmp_path / "back.db") as restored:
        assert restored.execute("SELECT title FROM jobs").fetchone() == ("late one",)
        assert restored.execute("SELECT by FROM shop_log WHERE kind = 'backup'").fetchone() == ("QZ",)
    assert "Last backup: <b>" in client.get("/shop").text


def test_a_mark_stays_when_a_job_with_the_same_picture_goes(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        asides.attach(session, key, "degree", "the mark", picture(b"mark"), "QZ")
        letterhead.set_letterhead(session, "Quay Works", "", "QZ", picture(b"mark"))
        shelving.move_to(session, key, shelving.Shelf.BIN, datetime.now(UTC) - timedelta(days=31))
        assert shelving.purge(session) == 1
        assert letterhead.letterhead(session).mark


def test_a_copy_is_a_shop(shop: Shop, tmp_path: Path) -> None:
    with shop.write() as session:
        own_log.backed_up(session, "QZ")
        last = own_log.last_backup(session)
    assert last is not None
    assert last.by == "QZ"
    assert copy_database(shop.path, tmp_path / "copy.db") == 0
