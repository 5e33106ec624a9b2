"""A whole shop as one open file: JSON Lines, the first its settings, each after that a job."""

import json
from collections.abc import Iterator
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError
from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench.instruments import HOUSE_NAMES
from uranograph.core.errors import InvalidInput
from uranograph.shop import exchange, letterhead, library
from uranograph.shop.job_files import StoredJob
from uranograph.shop.shelving import REAL
from uranograph.shop.tables import JobRow, LibraryRow, LimitRow

Short = Annotated[str, Field(max_length=80)]
MAX_JOBS = 100_000


class StoredSetting(BaseModel):
    """One shop setting: a limit, an instrument, a unit."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(max_length=40)]
    value: Short
    by: Annotated[str, Field(max_length=8)]
    at: datetime


class StoredThing(BaseModel):
    """A card or a drive of the library."""

    model_config = ConfigDict(extra="forbid")

    kind: Annotated[str, Field(max_length=16)]
    name: Short
    typed: dict[str, Annotated[str, Field(max_length=2000)]]
    by: Annotated[str, Field(max_length=8)]
    at: datetime


class StoredShop(BaseModel):
    """The first line: shop settings and library."""

    model_config = ConfigDict(extra="forbid")

    type: Literal["shop"] = "shop"
    house: list[StoredSetting] = Field([], max_length=10_000)
    library: list[StoredThing] = Field([], max_length=10_000)


def lines(session: Session) -> Iterator[str]:
    """A shop line by line, oldest job first; those in the bin are left out.

    Parameters
    ----------
    session
        A reading session.
    """
    settings = [
        StoredSetting(name=row.name, value=row.value, by=row.by, at=row.at)
        for row in session.scalars(select(LimitRow).order_by(LimitRow.id))
    ]
    things = [
        StoredThing(kind=row.kind, name=row.name, typed=row.typed, by=row.by, at=row.at)
        for row in session.scalars(select(LibraryRow).order_by(LibraryRow.id))
    ]
    yield StoredShop(house=settings, library=things).model_dump_json()
    keys = session.scalars(select(JobRow.key).where(JobRow.binned_at.is_(None), REAL).order_by(JobRow.id)).all()
    for file in exchange.files(session, keys):
        yield json.dumps(file, ensure_ascii=False, separators=(",", ":"))


def holds_several(content: bytes) -> bool:
    """Whether a file is lines of JSON rather than one job.

    Examples
    --------
    >>> holds_several(b'{"type": "shop"}\\n{"title": "x"}'), holds_several(b'{\\n "title": "x"\\n}')
    (True, False)
    """
    first, _, rest = content.strip().partition(b"\n")
    try:
        told = json.loads(first)
    except (ValueError, RecursionError):
        return False
    return bool(rest.strip()) or (isinstance(told, dict) and told.get("type") == "shop")


def read(content: bytes) -> tuple[StoredShop, list[StoredJob]]:
    """Read a whole file before anything of it is written.

    Raises
    ------
    InvalidInput
        Where a line is neither settings nor a job, naming the line.
    """
    told = [(n, line) for n, line in enumerate(content.splitlines(), 1) if line.strip()]
    if len(told) > MAX_JOBS:
        raise InvalidInput("file", "too-many-jobs", most=MAX_JOBS)
    settings = StoredShop()
    kept: list[StoredJob] = []
    for n, line in told:
        try:
            if not kept and b'"type":"shop"' in line[:40].replace(b" ", b""):
                settings = StoredShop.model_validate_json(line)
            else:
                kept.append(exchange.read_job(line))
        except ValidationError as error:
            first = error.errors(include_url=False, include_context=False, include_input=False)[0]
            where = ".".join(map(str, first["loc"])) or "the line"
            raise InvalidInput("file", "not-a-shop-file", line=n, where=where, detail=first["msg"]) from error
        except InvalidInput as error:
            detail = error.values.get("detail", error.code)
            raise InvalidInput(
                "file", "not-a-shop-file", line=n, where=error.values.get("where", "job"), detail=detail
            ) from error
    return settings, kept


def bring_in(session: Session, settings: StoredShop, kept: list[StoredJob]) -> int:
    """Write all of it: every job as a new one, and what this shop has not set or kept itself; how many jobs came.

    Raises
    ------
    InvalidInput
        When a job in it cannot be read; then nothing of it is written.
    """
    own = set(session.scalars(select(LimitRow.name)))
    session.add_all(
        LimitRow(name=each.name, value=each.value, by=each.by, at=each.at)
        for each in settings.house
        if each.name not in own
        and each.name in (*HOUSE_NAMES, "unit", "tolerance", letterhead.NAME, letterhead.ADDRESS)
    )
    there = {(kind, name) for kind, name in session.execute(select(LibraryRow.kind, LibraryRow.name))}
    session.add_all(
        LibraryRow(kind=each.kind, name=each.name, typed=each.typed, by=each.by, at=each.at)
        for each in settings.library
        if each.kind in library.KINDS and (each.kind, each.name) not in there
    )
    for job in kept:
        exchange.import_job(session, job)
    return len(kept)
