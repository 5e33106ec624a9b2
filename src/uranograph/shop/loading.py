"""Jobs read from the shop's file, and held in memory while nothing is written."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from sqlalchemy import ColumnElement, and_, bindparam, exists, func, literal_column, or_, select, text, true
from sqlalchemy.orm import Session

from uranograph.bench.instruments import HOUSE_NAMES
from uranograph.bench.job import Job
from uranograph.bench.log import Log, TypedForm, Void, Written
from uranograph.bench.shop_limits import ShopLimit
from uranograph.shop.entries import form_on_bench, on_bench
from uranograph.shop.tables import IS_PARTICULARS, EntryRow, JobRow, LimitRow, PracticeRow
from uranograph.shop.upcasters import VERSION, limit_now, renames, upcast
from uranograph.stations import ORDER


class NoSuchJob(LookupError):
    """No job has this key."""


class ListOrder(StrEnum):
    """In which order jobs are listed."""

    NEWEST = ""
    NAME = "name"
    CUSTOMER = "customer"
    WANTED_BY = "wanted"


@dataclass(frozen=True)
class JobPage:
    """One page of the job list."""

    jobs: list[Job]
    total: int
    page: int
    pages: int


def row_of(session: Session, key: str) -> JobRow:
    """The row of a job.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    row = session.scalar(select(JobRow).where(JobRow.key == key))
    if row is None:
        raise NoSuchJob(key)
    return row


def load(session: Session, key: str) -> Job:
    """Everything written to one job.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    session.flush()
    row = session.connection().execute(_JOB_BY_KEY, {"key": key}).first()
    if row is None:
        raise NoSuchJob(key)
    return _assembled(session, [row])[0]


def page(
    session: Session,
    number: int = 1,
    search: str = "",
    size: int = 25,
    where: ColumnElement[bool] | None = None,
    order: ListOrder = ListOrder.NEWEST,
    by: str = "",
    total: int | None = None,
) -> JobPage:
    """A page of the job list.

    Parameters
    ----------
    session
        A reading session.
    number
        From 1; a number past the end gives the last page.
    search
        Part of a title, a customer or a number stated with the job, any case.
    size
        Jobs a page.
    where
        What else holds for them; all jobs unless given.
    order
        Newest writing first unless given; jobs that do not state what they are ordered by come last.
    by
        Initials of somebody who wrote to them; anybody unless given.
    total
        How many there are in all, where that is known already.

    Returns
    -------
    JobPage
        The jobs, and how many pages there are.
    """
    words = search.strip()
    wanted = and_(
        or_(*(column.contains(words, autoescape=True) for column in _SEARCHED)) if words else true(),
        exists().where(EntryRow.job_id == JobRow.id, EntryRow.by == by) if by else true(),
        true() if where is None else where,
    )
    if total is None:
        total = session.scalar(select(func.count()).select_from(JobRow).where(wanted)) or 0
    pages = max(1, -(-total // size))
    number = min(max(1, number), pages)
    chosen = (
        select(_J.id, _J.key, _J.title, _J.seq, _HOUSE_AT)
        .where(wanted)
        .order_by(*_SORTED_BY[order])
        .offset((number - 1) * size)
        .limit(size)
    )
    session.flush()
    rows = session.connection().execute(chosen).all()
    return JobPage(_assembled(session, rows), total, number, pages)


def with_form(session: Session, kind: str, count: int, but: str = "") -> list[Job]:
    """The newest jobs outside the bin that have a form of a kind.

    Parameters
    ----------
    session
        A reading session.
    kind
        Of form.
    count
        How many at the most.
    but
        Key of a job that is left out.
    """
    has = exists().where(
        EntryRow.job_id == JobRow.id,
        EntryRow.kind == "sheet",
        literal_column("json_extract(payload, '$.kind')") == kind,
    )
    own = and_(JobRow.binned_at.is_(None), JobRow.key != but, JobRow.id.not_in(select(PracticeRow.job_id)))
    return page(session, 1, size=count, where=and_(has, own), total=count).jobs


def _stated(name: str) -> ColumnElement[str]:
    """What the newest particulars of a job state, looked up by the index of particulars."""
    return (
        select(literal_column(f"json_extract(payload, '$.typed.{name}')"))
        .select_from(EntryRow)
        .where(EntryRow.job_id == JobRow.id, text(IS_PARTICULARS))
        .order_by(EntryRow.seq.desc())
        .limit(1)
        .scalar_subquery()
    )


_NEWEST_FIRST = (JobRow.touched_at.desc(), JobRow.id.desc())
_CUSTOMER, _WANTED_BY = (func.lower(func.nullif(func.trim(_stated(name)), "")) for name in ("customer", "wanted_by"))
_SORTED_BY: Mapping[ListOrder, Sequence[Any]] = {
    ListOrder.NEWEST: _NEWEST_FIRST,
    ListOrder.NAME: (func.lower(JobRow.title), JobRow.id),
    ListOrder.CUSTOMER: (_CUSTOMER.asc().nulls_last(), *_NEWEST_FIRST),
    ListOrder.WANTED_BY: (_WANTED_BY.asc().nulls_last(), *_NEWEST_FIRST),
}
_SEARCHED = (JobRow.title, *(_stated(name) for name in ("customer", "engine_number", "cam_number", "grind_number")))
# Looked up on every page, so they are put together once, over plain tables.
_J, _E, _H = JobRow.__table__.c, EntryRow.__table__.c, LimitRow.__table__.c
_HOUSE = select(_H.name, _H.value, _H.by, _H.at).order_by(_H.id)
# Each cached job notes how far the shop's limits were written; limits are append-only, so an equal number means unchanged.
_HOUSE_AT = select(func.max(_H.id)).scalar_subquery().label("house_at")
_JOB_BY_KEY = select(_J.id, _J.key, _J.title, _J.seq, _HOUSE_AT).where(_J.key == bindparam("key"))
_ENTRY = (_E.job_id, _E.id, _E.seq, _E.kind, _E.version, _E.station, _E.payload, _E.by, _E.at)
_ENTRIES = select(*_ENTRY).where(_E.job_id.in_(bindparam("ids", expanding=True))).order_by(_E.job_id, _E.seq)
_ENTRIES_SINCE = select(*_ENTRY).where(_E.job_id == bindparam("id"), _E.seq > bindparam("seq")).order_by(_E.seq)
# What is remembered of jobs that were looked at: so many of them, and so many of their readings in all. A job with all that
# was worked out from it takes some 0.7 MB, a reading some 5 kB.
MAX_SEEN, MAX_READINGS_SEEN = 26, 4000
# More jobs than these at once are read whole in one go.
MAX_CAUGHT_UP = 3


def _assembled(session: Session, rows: Sequence[Any]) -> list[Job]:
    """The jobs of these rows. A job is only ever added to, so one seen at the same `seq` is still the same.

    Only sessions that look remember: what a write has not committed yet may never come to be. A write begins from what they
    remember, which was committed, and reads on from there.
    """
    remembers = "seen" in session.info
    seen: dict[str, Job] = session.info.get("seen" if remembers else "committed", {})
    house = _limits_at(session, rows[0].house_at) if rows else {}
    # Looked up once: another thread may clear what is remembered at any moment.
    before = {row.key: job for row in rows if (job := seen.get(row.key))}
    found = {
        row.key: before[row.key]
        for row in rows
        if row.key in before
        and (before[row.key].seq, before[row.key].title) == (row.seq, row.title)
        and before[row.key].shop_values is house
    }
    known = [row for row in rows if row.key in before and before[row.key].seq < row.seq]
    caught_up = [_catch_up(session, before[row.key], row) for row in known[:MAX_CAUGHT_UP]]
    done = found.keys() | {job.key for job in caught_up}
    fresh = _read_through(session, [row for row in rows if row.key not in done])
    found |= {job.key: _with_limits(job, house) for job in (*caught_up, *fresh)}
    for job in found.values() if remembers else ():
        # The newest last, so that the oldest go first.
        seen.pop(job.key, None)
        seen[job.key] = job
    if remembers:
        _let_go(seen)
    return [found[row.key] for row in rows]


def _let_go(seen: dict[str, Job]) -> None:
    """Forget the jobs that were looked at longest ago, until what is left is little enough."""
    # Another thread may forget at the same moment.
    known = list(seen.items())
    readings = sum(len(job.entries) for _, job in known)
    left = len(known)
    for key, job in known[:-1]:
        if left <= MAX_SEEN and readings <= MAX_READINGS_SEEN:
            return
        seen.pop(key, None)
        left, readings = left - 1, readings - len(job.entries)


def _with_limits(job: Job, house: dict[str, ShopLimit]) -> Job:
    """The job with the shop's current limits."""
    return job if job.shop_values is house else replace(job, shop_values=house)


def _catch_up(session: Session, job: Job, row: Any) -> Job:
    """A job seen before with what was written since: a log only grows."""
    rows = session.connection().execute(_ENTRIES_SINCE, {"id": row.id, "seq": job.seq})
    forms, entries, voids = _parted(rows)
    return job.caught_up(forms, entries, voids, row.seq, row.title)


def _parted(rows: Iterable[Any]) -> tuple[tuple[TypedForm, ...], tuple[Written, ...], dict[int, Void]]:
    """Rows of one log as forms, as entries, and as voids by the number of what they void: those of earlier rows alone."""
    forms: list[TypedForm] = []
    entries: dict[int, Written] = {}
    voids: dict[int, Void] = {}
    renamed = renames()
    for _, number, seq, kind, version, station, payload, by, at in rows:
        own: Mapping[str, Any] = payload
        if version != VERSION or renamed:
            raw = upcast({"type": kind, "station": station, **payload}, version)
            kind, station = raw.pop("type"), raw.pop("station", "")
            own = {name: value for name, value in raw.items() if value is not None}
        if kind == "sheet":
            forms.append(form_on_bench(own, seq, by, at))
        elif kind == "void":
            voids[own["of"]] = Void(own["reason"], by, at)
        else:
            entries[seq] = on_bench(kind, station, own, number, seq, by, at)
    for seq in voids.keys() & entries.keys():
        entries[seq] = replace(entries[seq], void=voids.pop(seq))
    return tuple(forms), tuple(entries.values()), voids


def _limits_at(session: Session, at: int | None) -> dict[str, ShopLimit]:
    """The limits that persons have set, the newest of each name; an empty one is the starting value again."""
    seen = session.info.get("house")
    if seen is not None and at in seen:
        known: dict[str, ShopLimit] = seen[at]
        return known
    committed: dict[int | None, dict[str, ShopLimit]] = session.info.get("committed_house", {})
    if (there := committed.get(at)) is not None:
        return there
    found = _limits_read(session)
    if seen is not None:
        seen.clear()
        seen[at] = found
    return found


def _limits_read(session: Session) -> dict[str, ShopLimit]:
    rows = session.connection().execute(_HOUSE)
    named = ((limit_now(name), value, by, at) for name, value, by, at in rows)
    newest = {name: ShopLimit(value, by, at) for name, value, by, at in named if name in HOUSE_NAMES}
    return {name: value for name, value in newest.items() if value.text}


def _read_through(session: Session, rows: Sequence[Any]) -> list[Job]:
    if not rows:
        return []
    found: dict[int, list[Any]] = {row.id: [] for row in rows}
    for entry in session.connection().execute(_ENTRIES, {"ids": list(found)}):
        found[entry.job_id].append(entry)
    jobs = []
    for row in rows:
        forms, entries, _ = _parted(found[row.id])
        jobs.append(Job(row.key, row.title, Log(forms, entries), seq=row.seq, slots=ORDER.slots))
    return jobs
