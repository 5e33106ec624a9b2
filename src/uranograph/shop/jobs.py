"""Jobs: begun, written to, looked up. Nothing here changes or removes what was written."""

import secrets
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import ColumnElement, func, select
from sqlalchemy.orm import Session

from uranograph.bench.job import Entry, Job, Reading, TypedSheet, Void
from uranograph.bench.stations import BY_KEY
from uranograph.bench.typed import Typed
from uranograph.core.errors import Impossible
from uranograph.core.quantities import LengthUnit
from uranograph.shop.tables import JobRow, ReadingRow, SheetRow, VoidRow

LONGEST = {"title": 120, "text": 64, "drop": 32, "by": 8, "reason": 200}


class NoSuchJob(LookupError):
    """No job has this key."""


class Changed(RuntimeError):
    """The job was written to elsewhere since the page was drawn."""


@dataclass(frozen=True)
class JobPage:
    """A stretch of the job list, newest writing first."""

    jobs: list[Job]
    total: int
    page: int
    pages: int


def begin(session: Session, title: str, by: str, token: str, at: datetime | None = None) -> str:
    """Begin a job.

    Parameters
    ----------
    session
        A writing session.
    title, by
        What the job is called, and the initials of who begins it.
    token
        Made anew for each form drawn: the same token twice is one job.
    at
        When; now unless given.

    Returns
    -------
    str
        The job's key.

    Raises
    ------
    Impossible
        When title or initials are missing or too long.
    """
    known = session.scalar(select(JobRow.key).where(JobRow.token == token))
    if known:
        return known
    at = at or datetime.now(UTC)
    title, by = title.strip(), initials(by)
    if not title:
        raise Impossible("title", "Give the job a name, such as the engine and its number.")
    _fits("title", title)
    row = JobRow(key=secrets.token_hex(4), token=token, title=title, created_at=at, touched_at=at, seq=0)
    session.add(row)
    session.flush()
    return row.key


def initials(text: str) -> str:
    """Initials as they are kept.

    Raises
    ------
    Impossible
        When none are given, or more than a few letters.
    """
    short = text.strip().upper()
    if not short:
        raise Impossible("by", "Type your initials: every reading says who took it.")
    if len(short) > LONGEST["by"]:
        raise Impossible("by", f"Initials are a few letters; “{text.strip()}” is longer than {LONGEST['by']}.")
    return short


def _fits(field: str, text: str) -> None:
    if len(text) > LONGEST[field]:
        raise Impossible(field, f"This is {len(text)} letters long; there is room for {LONGEST[field]}.")


def _row(session: Session, key: str) -> JobRow:
    row = session.scalar(select(JobRow).where(JobRow.key == key))
    if row is None:
        raise NoSuchJob(key)
    return row


def _next_seq(row: JobRow, at: datetime) -> int:
    row.seq += 1
    row.touched_at = at
    return row.seq


def save_sheet(
    session: Session, key: str, kind: str, typed: Typed, by: str, seen: int | None = None, at: datetime | None = None
) -> None:
    """Write a new version of a sheet as typed; the same text again is no new version.

    Parameters
    ----------
    session
        A writing session.
    key, kind
        The job, and `engine`, `card` or `wheel`.
    typed
        Text by field name.
    by
        Initials.
    seen
        The job's `seq` when the form was drawn; None to write regardless.
    at
        When; now unless given.

    Raises
    ------
    Changed
        When the sheet has a newer version than the one seen.
    NoSuchJob, Impossible
        When there is no such job, or the initials are missing.
    """
    at = at or datetime.now(UTC)
    row = _row(session, key)
    latest = session.execute(
        select(SheetRow.seq, SheetRow.typed)
        .where(SheetRow.job_id == row.id, SheetRow.kind == kind)
        .order_by(SheetRow.seq.desc())
        .limit(1)
    ).first()
    fields = BY_KEY[kind].sheet_fields
    kept = {name: typed[name].strip() for name in fields if typed.get(name, "").strip()}
    if latest and latest.typed == kept:
        return
    if latest and seen is not None and latest.seq > seen:
        raise Changed(f"The {BY_KEY[kind].title.lower()} was changed in another window since this page was drawn.")
    session.add(SheetRow(job_id=row.id, seq=_next_seq(row, at), kind=kind, typed=kept, by=initials(by), at=at))


def record(
    session: Session, key: str, entry: Entry, by: str, token: str | None, seen: int | None, at: datetime | None = None
) -> None:
    """Write one reading, once.

    Parameters
    ----------
    session
        A writing session.
    key, entry, by
        The job, what was typed and for which slot, and the reader's initials.
    token
        Made anew for each form drawn: the same token twice is one reading.
    seen
        The job's `seq` when the form was drawn; None to write regardless.
    at
        When; now unless given.

    Raises
    ------
    Changed
        When the station or the wheel was written to since, or the slot is filled.
    Impossible
        When the reading cannot be; the field at fault is named.
    NoSuchJob
        When there is no such job.
    """
    at = at or datetime.now(UTC)
    if token and session.scalar(select(ReadingRow.id).where(ReadingRow.token == token)):
        return
    row = _row(session, key)
    job = load(session, key)
    by = initials(by)
    for field in ("text", "drop"):
        _fits(field, getattr(entry, field) or "")
    if seen is not None and _last_written(job, entry.station) > seen:
        raise Changed("This station was written to in another window since this page was drawn.")
    taken = any(reading.slot == entry.slot for reading in job.standing(entry.station))
    if taken and entry.slot.count("."):
        raise Changed("This reading is there already, written in another window.")
    accept = BY_KEY[entry.station].accept
    if accept is None:
        raise Impossible("text", "This station takes no readings.")
    accept(job, entry)
    session.add(ReadingRow(job_id=row.id, seq=_next_seq(row, at), token=token, by=by, at=at, **vars(entry)))


def _last_written(job: Job, station: str) -> int:
    readings = [reading.seq for reading in job.readings if reading.station == station]
    wheels = [sheet.seq for sheet in job.sheets if sheet.kind == "wheel"]
    return max(readings + wheels, default=0)


def void(session: Session, key: str, reading_id: int, reason: str, by: str, at: datetime | None = None) -> None:
    """Say that a reading no longer counts, and why. A reading already voided stays as it was voided.

    Raises
    ------
    Impossible
        When no reason is given, or the job has no such reading.
    NoSuchJob
        When there is no such job.
    """
    at = at or datetime.now(UTC)
    row = _row(session, key)
    reason = reason.strip()
    if not reason:
        raise Impossible("reason", "Say why the reading does not count, such as: read the wrong side.")
    _fits("reason", reason)
    if not session.scalar(select(ReadingRow.id).where(ReadingRow.id == reading_id, ReadingRow.job_id == row.id)):
        raise Impossible("reading", "This job has no such reading.")
    if session.get(VoidRow, reading_id) is None:
        session.add(VoidRow(reading_id=reading_id, seq=_next_seq(row, at), reason=reason, by=initials(by), at=at))


def load(session: Session, key: str) -> Job:
    """Everything written to one job.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    found = _load(session, JobRow.key == key)
    if not found:
        raise NoSuchJob(key)
    return found[0]


def page(session: Session, number: int = 1, search: str = "", size: int = 12) -> JobPage:
    """A page of the job list, newest writing first.

    Parameters
    ----------
    session
        A reading session.
    number
        From 1; a number past the end gives the last page.
    search
        Part of a title, any case.
    size
        Jobs a page.
    """
    wanted = JobRow.title.contains(search.strip(), autoescape=True) if search.strip() else None
    counting = select(func.count()).select_from(JobRow)
    total = session.scalar(counting if wanted is None else counting.where(wanted)) or 0
    pages = max(1, -(-total // size))
    number = min(max(1, number), pages)
    ids = select(JobRow.id).order_by(JobRow.touched_at.desc(), JobRow.id.desc()).offset((number - 1) * size).limit(size)
    chosen = session.scalars(ids if wanted is None else ids.where(wanted)).all()
    return JobPage(_load(session, JobRow.id.in_(chosen)), total, number, pages)


def _load(session: Session, which: ColumnElement[bool]) -> list[Job]:
    rows = session.execute(
        select(JobRow.id, JobRow.key, JobRow.title, JobRow.seq)
        .where(which)
        .order_by(JobRow.touched_at.desc(), JobRow.id.desc())
    ).all()
    ids = [row.id for row in rows]
    sheets: dict[int, list[TypedSheet]] = {id_: [] for id_ in ids}
    for row in session.execute(
        select(SheetRow.job_id, SheetRow.kind, SheetRow.seq, SheetRow.typed, SheetRow.by, SheetRow.at)
        .where(SheetRow.job_id.in_(ids))
        .order_by(SheetRow.seq)
    ):
        sheets[row.job_id].append(TypedSheet(*row[1:]))
    readings = _readings(session, ids)
    return [Job(row.key, row.title, tuple(sheets[row.id]), tuple(readings[row.id]), seq=row.seq) for row in rows]


_READING_FIELDS = ("station", "slot", "text", "side", "approach", "drop", "unit", "instrument", "id", "seq", "by", "at")


def _readings(session: Session, ids: Sequence[int]) -> dict[int, list[Reading]]:
    held: dict[int, list[Reading]] = {id_: [] for id_ in ids}
    columns = [getattr(ReadingRow, name) for name in _READING_FIELDS]
    for row in session.execute(
        select(ReadingRow.job_id, *columns, VoidRow.reason, VoidRow.by, VoidRow.at)
        .outerjoin(VoidRow, VoidRow.reading_id == ReadingRow.id)
        .where(ReadingRow.job_id.in_(ids))
        .order_by(ReadingRow.seq)
    ):
        voided = Void(*row[-3:]) if row[-3] is not None else None
        fields = dict(zip(_READING_FIELDS, row[1:-3], strict=True))
        fields["unit"] = LengthUnit(fields["unit"])
        held[row[0]].append(Reading(**fields, void=voided))
    return held
