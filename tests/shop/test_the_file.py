"""The shop's file: only ever added to, its owner's alone, and kept as it was before it changes."""

import json
import sqlite3
import threading
from contextlib import closing
from pathlib import Path

import pytest
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from tests.hands import ENGINE, a_job, true_top
from tests.shop.test_asides_and_house import PIXEL
from uranograph.shop import asides, jobs, loading
from uranograph.shop.database import APPLICATION_ID, NotAShop, Shop

LOG = ("entries", "pictures", "library", "house")


@pytest.mark.parametrize("table", LOG)
@pytest.mark.parametrize("act", ["UPDATE {} SET rowid = rowid", "DELETE FROM {}"])
def test_what_is_written_can_neither_be_changed_nor_removed(shop: Shop, key: str, table: str, act: str) -> None:
    with shop.write() as session:
        job = true_top(session, key)
        jobs.void(session, key, job.readings[0].id, "slip", "QZ")
        asides.attach(session, key, "tdc", "", PIXEL, "QZ")
        session.execute(text("INSERT INTO library VALUES (1, 'card', 'x', '{}', 'QZ', '2026-01-01')"))
        session.execute(text("INSERT INTO house VALUES (1, 'unit', 'mm', 'QZ', '2026-01-01')"))
    with pytest.raises(IntegrityError, match="only ever added to"), shop.write() as session:
        session.execute(text(act.format(table)))


def test_what_is_told_as_recorded_outlives_a_power_cut(shop: Shop) -> None:
    with shop.read() as session:
        assert session.execute(text("PRAGMA synchronous")).scalar() == 2
        assert session.execute(text("PRAGMA journal_mode")).scalar() == "wal"
        assert session.execute(text("PRAGMA application_id")).scalar() == APPLICATION_ID


def opened(path: Path) -> Shop:
    shop = Shop(path)
    shop.migrate()
    return shop


def test_another_programs_file_is_refused_and_left_as_it_is(tmp_path: Path) -> None:
    path = tmp_path / "other.db"
    with closing(sqlite3.connect(path)) as other:
        other.execute("CREATE TABLE things (x)")
        other.commit()
    before = path.read_bytes()
    with pytest.raises(NotAShop, match="another program"):
        opened(path)
    assert path.read_bytes() == before
    marked = tmp_path / "marked.db"
    with closing(sqlite3.connect(marked)) as other:
        other.execute("PRAGMA application_id = 12345")
    with pytest.raises(NotAShop, match="another program"):
        opened(marked)


def test_what_is_no_database_and_what_a_newer_program_wrote_are_told_in_a_sentence(tmp_path: Path) -> None:
    words = tmp_path / "words.db"
    words.write_text("These are only words. " * 100)
    with pytest.raises(NotAShop, match="cannot be opened"):
        opened(words)
    with pytest.raises(NotAShop, match="cannot be opened"):
        opened(tmp_path)
    newer = tmp_path / "newer.db"
    opened(newer).close()
    with closing(sqlite3.connect(newer)) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
        connection.commit()
    with pytest.raises(NotAShop, match="newer"):
        opened(newer)


def test_a_copy_is_kept_before_the_tables_change_and_everything_comes_over(tmp_path: Path) -> None:
    from alembic import command
    from alembic.config import Config

    from uranograph.shop.database import MIGRATIONS

    path = tmp_path / "shop.db"
    older = Shop(path)
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with older.engine.connect().execution_options(write=True) as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0003")
        connection.commit()
    # As the program of that day wrote it, with the columns that there were.
    at = "2026-01-05 08:00:00.000000"
    older.close()
    with closing(sqlite3.connect(path)) as connection:
        connection.execute("INSERT INTO jobs VALUES (1, 'k1', 't1', 'Test bench four', ?, ?, 1)", (at, at))
        typed = json.dumps(ENGINE)
        connection.execute("INSERT INTO sheets VALUES (1, 1, 1, 'engine', ?, 'QZ', ?)", (typed, at))
        connection.commit()
    shop = opened(path)
    with shop.read() as session:
        job = loading.load(session, "k1")
        assert (job.title, dict(job.latest("engine").typed)) == ("Test bench four", ENGINE)
    kept = list(tmp_path.glob("shop.db.before-*-from-0003"))
    assert len(kept) == 1
    with closing(sqlite3.connect(kept[0])) as copy:
        assert copy.execute("SELECT version_num FROM alembic_version").fetchone() == ("0003",)
        assert copy.execute("SELECT title FROM jobs").fetchall() == [("Test bench four",)]
    shop.close()
    opened(path).close()
    assert len(list(tmp_path.glob("shop.db.before-*"))) == 1


def test_two_threads_that_forget_and_look_at_once_meet_no_missing_job(
    shop: Shop, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(loading, "MAX_SEEN", 1)
    with shop.write() as session:
        keys = [a_job(session, title=f"Job {n}") for n in range(4)]
    faults: list[BaseException] = []

    def look() -> None:
        try:
            for n in range(150):
                with shop.read() as session:
                    loading.load(session, keys[n % 4])
                    loading.page(session)
        except BaseException as error:
            faults.append(error)

    threads = [threading.Thread(target=look) for _ in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert faults == []
