"""Lossless JSON export and import of jobs. The format is described in docs/formats.md."""

import json
import secrets
from base64 import b64encode
from collections.abc import Iterator, Sequence
from datetime import UTC, datetime
from typing import Any

from pydantic import BaseModel, ValidationError
from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph import __version__
from uranograph.bench.job import Job
from uranograph.bench.log import Log, TypedForm, Void, Written
from uranograph.bench.order import storable
from uranograph.core.errors import InvalidInput
from uranograph.shop import documents
from uranograph.shop.asides import keep_picture
from uranograph.shop.entries import (
    MODELS,
    StoredAny,
    StoredForm,
    StoredPicture,
    StoredVoid,
    form_on_bench,
)
from uranograph.shop.job_files import FORMAT, StoredJob, StoredSignature, job_on_bench
from uranograph.shop.loading import NoSuchJob, load
from uranograph.shop.tables import EntryRow, HeadRow, JobRow, PictureRow, SignatureRow
from uranograph.shop.upcasters import VERSION, renames, upcast
from uranograph.stations import ORDER


def export_job(session: Session, key: str) -> StoredJob:
    """Take a job out whole.

    Parameters
    ----------
    session
        A reading session.
    key
        The job's key.

    Returns
    -------
    StoredJob
        Everything written to it, proved to be what a file can hold; `file_of` is the file.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    job = session.scalar(select(JobRow).where(JobRow.key == key))
    if job is None:
        raise NoSuchJob(key)
    entries = [_entry(row) for row in session.execute(_ENTRIES.where(EntryRow.job_id == job.id))]
    digests = {entry.digest for entry in entries if isinstance(entry, StoredPicture)}
    pictures = session.scalars(select(PictureRow).where(PictureRow.digest.in_(digests))) if digests else ()
    return StoredJob(
        title=job.title,
        created_at=job.created_at,
        touched_at=job.touched_at,
        entries=entries,
        pictures={row.digest: b64encode(row.data) for row in pictures},
        signatures=[
            StoredSignature(**_fields(row, StoredSignature))
            for row in session.scalars(
                select(SignatureRow).where(SignatureRow.job_id == job.id).order_by(SignatureRow.revision)
            )
        ],
    )


_ENTRIES = select(
    EntryRow.job_id,
    EntryRow.kind,
    EntryRow.version,
    EntryRow.station,
    EntryRow.payload,
    EntryRow.seq,
    EntryRow.by,
    EntryRow.at,
).order_by(EntryRow.job_id, EntryRow.seq)


def _entry(row: Any) -> StoredAny:
    """An entry of the shop's file as it is kept in a job file."""
    found = _written(row)
    return MODELS[found["type"]](**found)


def _written(row: Any) -> dict[str, Any]:
    """The same as names and values, its time as it is."""
    raw = {"type": row.kind, "seq": row.seq, **({"station": row.station} if row.station else {}), **row.payload}
    raw |= {"by": row.by, "at": row.at}
    if row.version == VERSION and not renames():
        return raw
    return {name: value for name, value in upcast(raw, row.version).items() if value is not None}


def files(session: Session, keys: Sequence[str], at_once: int = 200) -> Iterator[dict[str, Any]]:
    """Job files as names and values, in the order of their keys, written out as they stand in the shop's file.

    Parameters
    ----------
    session
        A reading session.
    keys
        Of the jobs; one that is not there is left out.
    at_once
        How many are held in memory together.
    """
    for first in range(0, len(keys), at_once):
        part = keys[first : first + at_once]
        found = {row.key: row for row in session.execute(_HEADS.where(JobRow.key.in_(part)))}
        ids = [row.id for row in found.values()]
        entries: dict[int, list[dict[str, Any]]] = {number: [] for number in ids}
        for row in session.execute(_ENTRIES.where(EntryRow.job_id.in_(ids))):
            entry = _written(row)
            entries[row.job_id].append({**entry, "at": _moment(entry["at"])})
        signatures: dict[int, list[SignatureRow]] = {number: [] for number in ids}
        signed = select(SignatureRow).where(SignatureRow.job_id.in_(ids)).order_by(SignatureRow.revision)
        for signature in session.scalars(signed):
            signatures[signature.job_id].append(signature)
        for key in part:
            if key in found:
                head = found[key]
                yield _file(session, head, entries.pop(head.id), signatures[head.id])


_HEADS = select(JobRow.id, JobRow.key, JobRow.title, JobRow.created_at, JobRow.touched_at)


def _file(session: Session, head: Any, entries: list[dict[str, Any]], signatures: list[SignatureRow]) -> dict[str, Any]:
    digests = {entry["digest"] for entry in entries if entry["type"] == "picture"}
    pictures = session.scalars(select(PictureRow).where(PictureRow.digest.in_(digests))) if digests else ()
    return {
        "format": FORMAT,
        "version": VERSION,
        "written_by": f"uranograph {__version__}",
        "title": head.title,
        "created_at": _moment(head.created_at),
        "touched_at": _moment(head.touched_at),
        "entries": entries,
        "pictures": {row.digest: b64encode(row.data).decode() for row in pictures},
        "signatures": [StoredSignature(**_fields(row, StoredSignature)).model_dump(mode="json") for row in signatures],
    }


def _moment(at: datetime) -> str:
    return at.astimezone(UTC).isoformat().replace("+00:00", "Z")


def file_of(session: Session, key: str) -> str:
    """A job file as text.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    found = next(files(session, [key]), None)
    if found is None:
        raise NoSuchJob(key)
    return json.dumps(found, ensure_ascii=False, indent=2)


def _fields(row: object, model: type[BaseModel]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in model.model_fields if name != "type" and hasattr(row, name)}


def read_job(text: str | bytes) -> StoredJob:
    """Read a job file.

    Raises
    ------
    InvalidInput
        When the text is no job file, or a form in it cannot be read; the message names the place, or form and field.
    """
    try:
        kept = StoredJob.model_validate_json(text)
        prove_signatures(kept)
    except RecursionError as error:
        raise InvalidInput("file", "not-a-job-file", where="signatures", detail="it is nested too deep") from error
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False, include_input=False)[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise InvalidInput("file", "not-a-job-file", where=where, detail=first["msg"]) from error
    _refuse_forms(kept)
    return kept


def _refuse_forms(kept: StoredJob) -> None:
    """Refuse a form that decides and cannot be read: nothing it says is to be dropped in silence."""
    job = as_job(kept)
    newest = {filled.kind: filled for filled in job.forms}
    # Readings keep the wheel that stood when they were taken.
    for filled in job.forms:
        form = ORDER.forms[filled.kind]
        if filled is not newest[filled.kind] and filled.kind != "wheel":
            continue
        found = form.read(filled.typed, job)
        if found.value is None or not storable(form, found.value, found.errors.values()):
            field, why = next(iter(found.errors.items()), ("", ""))
            typed = filled.typed.get(field, "")
            raise InvalidInput(
                "file", "form-cannot-be", entry=filled.seq, form=form.title, name=field, typed=typed, why=why
            )


def as_job(kept: StoredJob) -> Job:
    """A job file as the bench sees it, without a shop; numbers of entries are those of the log."""
    voids = {
        entry.of: Void(entry.reason, entry.by, entry.at) for entry in kept.entries if isinstance(entry, StoredVoid)
    }
    forms: list[TypedForm] = []
    entries: list[Written] = []
    for entry in kept.entries:
        if isinstance(entry, StoredForm):
            forms.append(form_on_bench(entry.payload, entry.seq, entry.by, entry.at))
        elif not isinstance(entry, StoredVoid):
            entries.append(job_on_bench(entry, voids.get(entry.seq)))
    seq = kept.entries[-1].seq if kept.entries else 0
    return Job("judged", kept.title, Log(tuple(forms), tuple(entries)), seq=seq, slots=ORDER.slots)


def import_job(session: Session, kept: StoredJob, at: datetime | None = None) -> str:
    """Write a job file as a new job, every entry as it was.

    Parameters
    ----------
    session
        A writing session.
    kept
        The file's contents.
    at
        When it counts as last written to; as in the file unless given.

    Returns
    -------
    str
        The new job's key.

    Raises
    ------
    InvalidInput
        When a reading in it cannot be read.
    """
    if broken := [revision for revision, holds in prove_signatures(kept).items() if not holds]:
        raise InvalidInput("file", "digest-does-not-match", revision=broken[0])
    job = JobRow(
        key=secrets.token_hex(4),
        token=secrets.token_hex(16),
        title=kept.title,
        created_at=kept.created_at,
        touched_at=at or kept.touched_at,
        seq=max((entry.seq for entry in kept.entries), default=0),
    )
    session.add(job)
    session.flush()
    for data in kept.pictures.values():
        keep_picture(session, data)
    session.add_all(
        EntryRow(
            job_id=job.id,
            seq=entry.seq,
            kind=entry.type,
            version=VERSION,
            station=entry.station,
            payload=entry.payload,
            picture=entry.digest if isinstance(entry, StoredPicture) else None,
            by=entry.by,
            at=entry.at,
        )
        for entry in kept.entries
    )
    session.flush()
    _take_signatures(session, job, kept)
    _prove_readable(session, job.key)
    return job.key


def _take_signatures(session: Session, job: JobRow, kept: StoredJob) -> None:
    """Signatures of a file, each with the bytes it was made from; a page that comes with it is not taken in."""
    for signed in kept.signatures:
        data = signed.model_dump() | {"page": "", "page_digest": _page_digest(signed)}
        session.add(SignatureRow(job_id=job.id, token=secrets.token_hex(16), **data))
        # Counted without a seal: this shop did not sign it.
        counted = {"job_key": job.key, "title": job.title, "revision": signed.revision, "digest": signed.digest}
        session.add(HeadRow(**counted, seal="", key_id=""))


def signed_entries(kept: StoredJob, seq: int) -> list[dict[str, Any]]:
    """A job's log up to a number, each entry as written in signed documents."""
    return [entry.model_dump(mode="json", exclude_none=True) for entry in kept.entries if entry.seq <= seq]


def _page_digest(signed: StoredSignature) -> str:
    return documents.digest_of(signed.page) if signed.page else signed.page_digest or ""


def prove_signatures(kept: StoredJob) -> dict[int, bool]:
    """Whether each signed revision of a job is still what was signed, by its number.

    It is where its bytes give its digest, and log, findings, page and signer are those of the bytes.
    """
    found, before = {}, ""
    for signed in kept.signatures:
        text = signed.signed or ""
        found[signed.revision] = documents.digest_of(text) == signed.digest and _is_stated_in(
            text, kept, signed, before
        )
        before = signed.digest
    return found


def _is_stated_in(text: str, kept: StoredJob, signed: StoredSignature, before: str) -> bool:
    """Whether a document matches the stored log, findings, page and signer."""
    try:
        document = json.loads(text)
        then = [upcast(entry, document.get("entries_version", VERSION - 1)) for entry in document["entries"]]
        parts = documents.parts_of(document)
    except (ValueError, KeyError, TypeError, AttributeError):
        return False
    now = signed.model_dump() | {"at": signed.at.astimezone(UTC).isoformat(), "page": _page_digest(signed)}
    now["supersedes"] = before
    return documents.same_entries(then, signed_entries(kept, signed.seq)) and all(
        now[name] == value for name, value in parts.items()
    )


def _prove_readable(session: Session, key: str) -> None:
    """A file may hold what no bench ever wrote; better refused here than met on a page."""
    try:
        found = ORDER.overview(load(session, key))
        if broken := next((finding.fault for finding in found.values() if finding.fault), ""):
            raise ValueError(broken)
    except Exception as error:
        raise InvalidInput("file", "file-cannot-be-judged") from error
