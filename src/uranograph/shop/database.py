"""Opening the shop's file: whose it is, write-ahead log, foreign keys, migrations, one transaction a write."""

import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from functools import cache
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session

from uranograph.bench.house import HouseValue
from uranograph.bench.job import Job

MIGRATIONS = Path(__file__).parent / "migrations"
# "URAN", written into every shop's file so that another program's is never taken for one.
APPLICATION_ID = 0x5552414E


class NotAShop(RuntimeError):
    """The file cannot be opened as a shop: one sentence that says why."""


class Shop:
    """One SQLite file and the ways to read and write it."""

    def __init__(self, path: Path) -> None:
        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise NotAShop(f"{path.parent} cannot be made: {error.strerror or error}.") from error
        self.engine = _engine(path)
        self.seen: dict[str, Job] = {}
        self.house: dict[int | None, dict[str, HouseValue]] = {}

    def migrate(self) -> None:
        """Bring the file to the newest tables; does nothing where it is there already.

        A copy of the file as it was is kept beside it before its tables change.

        Raises
        ------
        NotAShop
            When the file is another program's, no database, or written by a newer version of this one.
        """
        revision = _revision(self.path)
        if revision == _revisions()[-1]:
            return
        if revision is not None:
            _keep_copy(self.path, revision)
        # Only a file that must change pays for loading the machinery.
        from alembic import command
        from alembic.config import Config

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        with self.engine.connect().execution_options(write=True) as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            connection.commit()

    @contextmanager
    def read(self) -> Iterator[Session]:
        """A session that only looks."""
        with Session(self.engine, info={"seen": self.seen, "house": self.house}) as session:
            yield session

    @contextmanager
    def write(self) -> Iterator[Session]:
        """A session that takes the write lock at once and commits at the end, or undoes everything."""
        with self.engine.connect().execution_options(write=True) as connection, Session(connection) as session:
            with session.begin():
                yield session
            connection.commit()

    def close(self) -> None:
        self.engine.dispose()


@cache
def _revisions() -> list[str]:
    """Every revision of the tables that this version knows, oldest first."""
    return sorted(file.name.split("_")[0] for file in (MIGRATIONS / "versions").glob("[0-9]*.py"))


def _revision(path: Path) -> str | None:
    """The revision of a shop's file; None where there is nothing yet."""
    try:
        with closing(sqlite3.connect(path)) as connection:
            owner = connection.execute("PRAGMA application_id").fetchone()[0]
            tables = {row[0] for row in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
            ours = {"alembic_version", "jobs"} <= tables
            if owner not in (0, APPLICATION_ID) or (tables and not ours):
                raise NotAShop(f"{path} is another program's file: name a file of your own.")
            if not tables:
                return None
            revision: str = connection.execute("SELECT version_num FROM alembic_version").fetchone()[0]
    except sqlite3.DatabaseError as error:
        raise NotAShop(f"{path} cannot be opened as a shop's file: {error}.") from error
    if revision not in _revisions():
        raise NotAShop(f"{path} was written by a newer Uranograph: start that one, or name another file.")
    return revision


def _keep_copy(path: Path, revision: str) -> None:
    copy = path.with_name(f"{path.name}.before-{_revisions()[-1]}-from-{revision}")
    if copy.exists():
        return
    with closing(sqlite3.connect(path)) as before, closing(sqlite3.connect(copy)) as kept:
        before.backup(kept)


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 5})

    @event.listens_for(engine, "connect")
    def prepare(connection: Any, _record: Any) -> None:
        # The driver must not open transactions by itself, or BEGIN IMMEDIATE below comes too late.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        # What a person has been told is recorded outlives a power cut.
        cursor.execute("PRAGMA synchronous=FULL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.close()

    @event.listens_for(engine, "begin")
    def begin(connection: Connection) -> None:
        wants_lock = connection.get_execution_options().get("write")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if wants_lock else "BEGIN")

    return engine
