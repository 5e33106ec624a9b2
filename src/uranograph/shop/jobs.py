"""Jobs: begun, written to, looked up. Nothing here changes or removes what was written."""

import secrets
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench import messages as words
from uranograph.bench.acts import Act
from uranograph.bench.forms import Typed
from uranograph.bench.job import Job
from uranograph.bench.log import Annotation, Entry, Written
from uranograph.bench.slots import within_bank
from uranograph.core.errors import InvalidInput
from uranograph.core.wheel import Side
from uranograph.shop.entries import payload_of
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.shop.loading import load, row_of
from uranograph.shop.refusals import REFUSALS
from uranograph.shop.tables import EntryRow, JobRow
from uranograph.shop.upcasters import VERSION
from uranograph.stations import ORDER

words.refusals(REFUSALS)


class Changed(RuntimeError):
    """The job was written to elsewhere since the page was drawn."""


def begin(session: Session, title: str, by: str, token: str, at: datetime | None = None) -> str:
    """Begin a job.

    Parameters
    ----------
    session
        A writing session.
    title, by
        What the job is called, and the initials of who begins it.
    token
        Generated for each form rendered; a repeated token writes only one job; without one it is always a new job.
    at
        When; now unless given.

    Returns
    -------
    str
        The job's key.

    Raises
    ------
    InvalidInput
        When title or initials are missing or too long.
    """
    token = token or secrets.token_hex(16)
    known = session.scalar(select(JobRow.key).where(JobRow.token == token))
    if known:
        return known
    at = at or datetime.now(UTC)
    title, by = title_of(title), initials(by)
    row = JobRow(key=secrets.token_hex(4), token=token, title=title, created_at=at, touched_at=at, seq=0)
    session.add(row)
    session.flush()
    return row.key


def initials(text: str) -> str:
    """Initials as they are kept.

    Raises
    ------
    InvalidInput
        When none are given, or more than a few letters.
    """
    short = text.strip().upper()
    if not short:
        raise InvalidInput("by", "initials-missing")
    if len(short) > MAX_LENGTH["by"]:
        raise InvalidInput("by", "initials-too-long", typed=text.strip(), longest=MAX_LENGTH["by"])
    return short


def _fits(kind: str, text: str, field: str = "") -> None:
    if len(text) > MAX_LENGTH[kind]:
        raise InvalidInput(field or kind, "too-many-letters-to-keep", count=len(text), longest=MAX_LENGTH[kind])


def title_of(text: str) -> str:
    """A job's name as it is kept.

    Raises
    ------
    InvalidInput
        When it is missing or too long.
    """
    title = text.strip()
    if not title:
        raise InvalidInput("title", "title-missing")
    _fits("title", title)
    return title


def _append(
    session: Session,
    job: JobRow,
    kind: str,
    payload: dict[str, Any],
    by: str,
    at: datetime,
    station: str = "",
    token: str | None = None,
) -> int:
    """Write one entry at the end of a job's log, and say its number there."""
    job.seq += 1
    job.touched_at = at
    session.add(
        EntryRow(
            job_id=job.id,
            seq=job.seq,
            kind=kind,
            version=VERSION,
            station=station,
            payload=payload,
            picture=payload.get("digest"),
            token=token,
            by=by,
            at=at,
        )
    )
    return job.seq


def save_form(
    session: Session, key: str, kind: str, typed: Typed, by: str, seen: int | None = None, at: datetime | None = None
) -> None:
    """Write a new version of a form as typed; the same text again is no new version.

    Parameters
    ----------
    session
        A writing session.
    key, kind
        The job, and one of `ORDER.forms`.
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
        When the form has a newer version than the one seen.
    NoSuchJob, InvalidInput
        When there is no such job, or the initials are missing.
    """
    at = at or datetime.now(UTC)
    row = row_of(session, key)
    latest = load(session, key).latest(kind)
    title, fields = ORDER.forms[kind].title, ORDER.forms[kind].fields
    kept = {name: typed[name].strip() for name in fields if typed.get(name, "").strip()}
    for name, text in kept.items():
        _fits("list" if name in ORDER.forms[kind].lists else "field", text, name)
    if latest and latest.typed == kept:
        return
    if latest and seen is not None and latest.seq > seen:
        raise Changed(f"The {title} was changed in another window since this page was drawn.")
    _append(session, row, "sheet", {"kind": kind, "typed": kept}, initials(by), at)


def taken(session: Session, token: str | None) -> bool:
    """Whether the form with this token was written already."""
    return bool(token and session.scalar(select(EntryRow.id).where(EntryRow.token == token)))


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
        Generated for each form rendered; a repeated token writes only one reading.
    seen
        The job's `seq` when the form was drawn; None to write regardless.
    at
        When; now unless given.

    Raises
    ------
    Changed
        When the station or the wheel was written to since, or the slot is filled.
    InvalidInput
        When the reading cannot be; the field at fault is named.
    NoSuchJob
        When there is no such job.
    """
    at = at or datetime.now(UTC)
    if taken(session, token):
        return
    row = row_of(session, key)
    job = load(session, key)
    by = initials(by)
    if not ORDER.has_slot(entry.station, entry.slot):
        raise InvalidInput("text", "no-such-slot")
    for field in ("text", "second"):
        _fits(field, getattr(entry, field) or "")
    if entry.side is not None and entry.side not in tuple(Side):
        raise InvalidInput("side", "side-unknown", side=entry.side)
    station = ORDER.by_key[entry.station]
    if seen is not None and ORDER.last_written(job, entry.station, readings=False) > seen:
        raise Changed("This station was written to in another window since this page was drawn.")
    # The slot was read at a previous cam position; at this one it is new.
    here = station.position_now(job, entry.slot).active_readings(entry.station)
    filled = any(reading.slot == within_bank(entry.slot) for reading in here)
    if filled and entry.slot.count("."):
        raise Changed("This reading is there already, written in another window.")
    if station.accept is None:
        raise InvalidInput("text", "takes-no-readings")
    station.accept(job, entry)
    _append(session, row, "reading", payload_of(entry), by, at, entry.station, token)


def move(
    session: Session, key: str, act: Act, by: str, token: str | None, seen: int | None, at: datetime | None = None
) -> None:
    """Write that a cam was moved to a position, once, with the act that comes with it.

    Parameters
    ----------
    session
        A writing session.
    key, act, by
        The job, what was done, and the initials of who did it.
    token
        Generated for each form rendered; a repeated token writes only one move.
    seen
        The job's `seq` when the positions were drawn; None to write regardless.
    at
        When; now unless given.

    Raises
    ------
    Changed
        When the station was written to since.
    NoSuchJob, InvalidInput
        When there is no such job, or the initials are missing.
    """
    at = at or datetime.now(UTC)
    if taken(session, token):
        return
    row, job, by = row_of(session, key), load(session, key), initials(by)
    if seen is not None and ORDER.last_written(job, act.station) > seen:
        raise Changed("This station was written to in another window since this page was drawn.")
    moved_at = _append(session, row, Act.TYPE, payload_of(act), by, at, act.station, token)
    if brought := ORDER.by_key[act.station].accompanying_act(job, act):
        kind, what = brought
        second = Act(station=act.station, kind=kind, what=_shortened(what), brought_by=moved_at)
        _append(session, row, Act.TYPE, payload_of(second), by, at, act.station)


def _shortened(text: str) -> str:
    return text[: MAX_LENGTH["text"]]


def record_all(
    session: Session, key: str, entries: list[Entry], by: str, at: datetime | None = None, token: str | None = None
) -> None:
    """Write many readings of one station at once, such as a sweep from a file: all of them or none, and once a token.

    Raises
    ------
    InvalidInput
        When one of them cannot be.
    Changed
        When one of their slots is filled.
    NoSuchJob
        When there is no such job.
    """
    at = at or datetime.now(UTC)
    if taken(session, token):
        return
    row = row_of(session, key)
    job = load(session, key)
    by = initials(by)
    for entry in entries:
        station = ORDER.by_key[entry.station]
        accept = station.accept
        filled = {reading.slot for reading in station.position_now(job, entry.slot).active_readings(entry.station)}
        if accept is None or within_bank(entry.slot) in filled:
            raise Changed("One of these readings is there already, written in another window.")
        accept(job, entry)
        _append(session, row, "reading", payload_of(entry), by, at, entry.station, token)
        token = None


def annotate(
    session: Session, key: str, entry: Annotation, by: str, at: datetime | None = None, token: str | None = None
) -> None:
    """Write what stands beside a station's readings, once a token.

    Raises
    ------
    InvalidInput
        When the initials are missing.
    NoSuchJob
        When there is no such job.
    """
    if not taken(session, token):
        row = row_of(session, key)
        _append(
            session,
            row,
            entry.TYPE,
            payload_of(entry),
            initials(by),
            at or datetime.now(UTC),
            entry.station,
            token,
        )


def void(session: Session, key: str, entry_id: int, reason: str, by: str, at: datetime | None = None) -> None:
    """Say that an entry no longer counts, and why; nor does an act that it brought. One voided before stays as it was.

    Raises
    ------
    InvalidInput
        When no reason is given, or the job has no such entry.
    NoSuchJob
        When there is no such job.
    """
    at = at or datetime.now(UTC)
    row = row_of(session, key)
    reason, by = reason.strip(), initials(by)
    if not reason:
        raise InvalidInput("reason", "void-reason-missing")
    _fits("reason", reason)
    entries = load(session, key).entries
    own = next((entry for entry in entries if entry.id == entry_id), None)
    if own is None:
        raise InvalidInput("reading", "no-such-reading")
    brought = (entry for entry in entries if isinstance(entry, Act) and entry.brought_by == own.seq)
    for each in (own, *brought):
        if each.void is None:
            _append(session, row, "void", {"of": each.seq, "reason": reason}, by, at)


def last_done(job: Job) -> Written | None:
    """The last active entry of a job: a reading, an act, a note, or a skipped station.

    None where a form was written after it: that is what was done last, and a form is corrected, not undone.
    """
    standing = (e for e in job.entries if e.void is None and not (isinstance(e, Act) and e.brought_by is not None))
    last = max(standing, key=lambda entry: entry.seq, default=None)
    return None if last is None or any(form.seq > last.seq for form in job.forms) else last


def last_written(session: Session, key: str) -> tuple[int, str, datetime]:
    """The number of the last entry of a job's log, by whom, and when; where there is none, when the job was begun.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    row = row_of(session, key)
    of_job = select(EntryRow.seq, EntryRow.by, EntryRow.at).where(EntryRow.job_id == row.id)
    last = session.execute(of_job.order_by(EntryRow.seq.desc()).limit(1)).first()
    return (last.seq, last.by, last.at) if last else (0, "", row.created_at)
