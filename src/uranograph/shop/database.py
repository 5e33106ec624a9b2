"""Opening the shop's file: write-ahead log, foreign keys, migrations, one transaction a write."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, Engine, create_engine, event, inspect, text
from sqlalchemy.orm import Session

from uranograph.bench.job import Job

MIGRATIONS = Path(__file__).parent / "migrations"


class Shop:
    """One SQLite file and the ways to read and write it."""

    def __init__(self, path: Path) -> None:
        self.path = path
        path.parent.mkdir(parents=True, exist_ok=True)
        self.engine = _engine(path)
        self.seen: dict[str, Job] = {}

    def migrate(self) -> None:
        """Bring the file to the newest tables; does nothing where it is there already."""
        if self._revision() == max(file.name.split("_")[0] for file in (MIGRATIONS / "versions").glob("[0-9]*.py")):
            return
        # Only a file that must change pays for loading the machinery.
        from alembic import command
        from alembic.config import Config

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        with self.engine.connect().execution_options(write=True) as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
            connection.commit()

    def _revision(self) -> str | None:
        with self.engine.connect() as connection:
            if not inspect(connection).has_table("alembic_version"):
                return None
            revision: str | None = connection.scalar(text("SELECT version_num FROM alembic_version"))
            return revision

    @contextmanager
    def read(self) -> Iterator[Session]:
        """A session that only looks."""
        with Session(self.engine, info={"seen": self.seen}) as session:
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


def _engine(path: Path) -> Engine:
    engine = create_engine(f"sqlite:///{path}", connect_args={"timeout": 5})

    @event.listens_for(engine, "connect")
    def prepare(connection: Any, _record: Any) -> None:
        # The driver must not open transactions by itself, or BEGIN IMMEDIATE below comes too late.
        connection.isolation_level = None
        cursor = connection.cursor()
        cursor.execute("PRAGMA journal_mode=WAL")
        cursor.execute("PRAGMA synchronous=NORMAL")
        cursor.execute("PRAGMA foreign_keys=ON")
        cursor.close()

    @event.listens_for(engine, "begin")
    def begin(connection: Connection) -> None:
        wants_lock = connection.get_execution_options().get("write")
        connection.exec_driver_sql("BEGIN IMMEDIATE" if wants_lock else "BEGIN")

    return engine
