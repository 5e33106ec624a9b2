"""Opening the shop's file: whose it is, write-ahead log, foreign keys, migrations, one transaction a write."""

import sqlite3
from collections import deque
from collections.abc import Iterator
from contextlib import closing, contextmanager
from functools import cache
from pathlib import Path
from threading import Event, Lock
from typing import TYPE_CHECKING, Any

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.orm import Session

from uranograph.shop.keys import ShopKey

if TYPE_CHECKING:
    from uranograph.bench.job import Job
    from uranograph.bench.shop_limits import ShopLimit

MIGRATIONS = Path(__file__).parent / "migrations"
# "URAN", the application ID in the database header, so that no other database is opened as a shop.
APPLICATION_ID = 0x5552414E


# Idle connections kept in the pool.
KEPT_OPEN = 16


class NotAShop(RuntimeError):
    """The file cannot be opened as a shop: one sentence that says why."""


class WriterQueue:
    """Whoever writes waits in line: the file has one writer at a time, and lets it be anybody of those who wait."""

    def __init__(self) -> None:
        self._waiting: deque[Event] = deque()
        self._lock = Lock()

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Wait until all who came before are done."""
        mine = Event()
        with self._lock:
            self._waiting.append(mine)
            if self._waiting[0] is mine:
                mine.set()
        mine.wait()
        try:
            yield
        finally:
            with self._lock:
                self._waiting.popleft()
                if self._waiting:
                    self._waiting[0].set()


class Shop:
    """One SQLite file and the ways to read and write it."""

    def __init__(self, path: Path) -> None:
        self.path = path
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise NotAShop(f"{path.parent} cannot be made: {error.strerror or error}.") from error
        self.engine = _engine(path)
        self.key = ShopKey(path)
        self.line = WriterQueue()
        self.seen: dict[str, Job] = {}
        self.house: dict[int | None, dict[str, ShopLimit]] = {}
        # How often something was written since the file was opened.
        self.writes = 0

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
        # Alembic is imported only if the file needs a migration.
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
        with Session(self.engine, info={"seen": self.seen, "house": self.house, "key": self.key}) as session:
            yield session

    @contextmanager
    def write(self) -> Iterator[Session]:
        """A session that takes the write lock in its turn and commits at the end, or undoes everything."""
        with (
            self.line.turn(),
            self.engine.connect().execution_options(write=True) as connection,
            Session(
                connection, info={"committed": self.seen, "committed_house": self.house, "key": self.key}
            ) as session,
        ):
            with session.begin():
                yield session
            connection.commit()
        self.writes += 1

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
            found = connection.execute("SELECT version_num FROM alembic_version").fetchone()
            if found is None:
                raise NotAShop(f"{path} does not say which revision it is of: put a backup in its place.")
            revision: str = found[0]
    except sqlite3.OperationalError as error:
        if "locked" in str(error):
            raise NotAShop(f"{path} is locked by another program: close that one, then start again.") from error
        raise NotAShop(f"{path} cannot be opened as a shop's file: {error}.") from error
    except sqlite3.DatabaseError as error:
        raise NotAShop(f"{path} cannot be opened as a shop's file: {error}.") from error
    if revision not in _revisions():
        raise NotAShop(f"{path} was written by a newer Uranograph: start that one, or name another file.")
    return revision


def copy_database(path: Path, file: Path) -> int:
    """Copy a shop's file as it stands at one moment, also while it is written to.

    Parameters
    ----------
    path, file
        The shop's file, and where its copy goes.

    Returns
    -------
    int
        How many jobs are in it.

    Raises
    ------
    NotAShop
        When there is a file already, or what is copied is no shop.
    """
    if _revision(path) is None:
        raise NotAShop(f"{path} holds no shop yet: there is nothing to copy.")
    if file.exists():
        raise NotAShop(f"{file} is there already: name another file, or take it away first.")
    if not file.parent.is_dir():
        raise NotAShop(f"There is no folder {file.parent}.")
    with closing(sqlite3.connect(path)) as here, closing(sqlite3.connect(file)) as there:
        here.backup(there)
        if there.execute("PRAGMA integrity_check").fetchone()[0] != "ok":
            raise NotAShop(f"{file} is not whole: copy it again.")
        count: int = there.execute("SELECT count(*) FROM jobs").fetchone()[0]
        return count


def restore_database(file: Path, path: Path, at: str) -> tuple[int, Path | None]:
    """Put a copy in the place of a shop's file; what was there is kept beside it.

    Parameters
    ----------
    file, path
        The copy, and the shop's file.
    at
        Stands in the name of what was there.

    Returns
    -------
    tuple
        How many jobs are in it, and where what was there is kept, None where there was nothing.

    Raises
    ------
    NotAShop
        When the copy is no shop, or the shop's file is in use.
    """
    if not file.is_file() or _revision(file) is None:
        raise NotAShop(f"{file} is no copy of a shop.")
    kept = None
    if path.exists():
        with closing(sqlite3.connect(path, timeout=0.5)) as now:
            try:
                # Possible only if no other process has it open.
                now.execute("PRAGMA journal_mode=DELETE")
            except sqlite3.OperationalError as error:
                raise NotAShop(f"{path} is in use: stop the server first.") from error
        kept = path.with_name(f"{path.name}.before-restore-{at}")
        path.rename(kept)
    path.parent.mkdir(parents=True, exist_ok=True)
    return copy_database(file, path), kept


def _keep_copy(path: Path, revision: str) -> None:
    copy = path.with_name(f"{path.name}.before-{_revisions()[-1]}-from-{revision}")
    if copy.exists():
        return
    with closing(sqlite3.connect(path)) as before, closing(sqlite3.connect(copy)) as kept:
        before.backup(kept)


def _engine(path: Path) -> Engine:
    # As many connections as hands ask at once: nobody waits for one, least of all while he holds the line of writers.
    engine = create_engine(
        f"sqlite:///{path}",
        connect_args={"timeout": 5},
        pool_size=KEPT_OPEN,
        max_overflow=-1,
        pool_use_lifo=True,
    )

    @event.listens_for(engine, "connect")
    def prepare(connection: Any, _record: Any) -> None:
        # The driver must not open transactions by itself, or BEGIN IMMEDIATE below comes too late.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        # An acknowledged entry survives a power cut.
        cursor.execute("PRAGMA synchronous=FULL")
        cursor.execute("PRAGMA foreign_keys=ON")
        # Cache per connection, KiB; the operating system caches the file anyway.
        cursor.execute("PRAGMA cache_size=-256")
        cursor.close()

    @event.listens_for(engine, "begin")
    def begin(connection: Connection) -> None:
        wants_lock = connection.get_execution_options().get("write")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if wants_lock else "BEGIN")

    return engine
