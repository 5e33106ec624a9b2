"""Jobs as JSON, out and in, without loss. The format is told in docs/formats.md."""

import secrets
from base64 import b64encode
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, Base64Bytes, BaseModel, ConfigDict, Field, ValidationError, model_validator
from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph import __version__
from uranograph.bench.job import PHOTO
from uranograph.bench.words import refusal
from uranograph.core.errors import Impossible
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Side
from uranograph.shop.asides import media_type
from uranograph.shop.jobs import LONGEST, NoSuchJob, load
from uranograph.shop.tables import JobRow, PhotoRow, ReadingRow, SheetRow, VoidRow
from uranograph.stations import ORDER

FORMAT = "uranograph-job"
VERSION = 2
# The first version is read as well: it has no slots and no fields that this one has not.
Initials = Annotated[str, Field(min_length=1, max_length=LONGEST["by"])]
Seq = Annotated[int, Field(ge=1, le=1_000_000)]


class _Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class KeptSheet(_Kept):
    """One version of a sheet as typed."""

    type: Literal["sheet"] = "sheet"
    seq: Seq
    kind: Annotated[str, Field(max_length=LONGEST["kind"])]
    typed: dict[str, Annotated[str, Field(max_length=LONGEST["field"])]]
    by: Initials
    at: AwareDatetime

    @model_validator(mode="after")
    def _known_kind(self) -> "KeptSheet":
        if self.kind not in ORDER.forms:
            raise ValueError(f"there is no sheet of the kind {self.kind}")
        if unknown := sorted(self.typed.keys() - set(ORDER.forms[self.kind].fields)):
            raise ValueError(f"the sheet {self.kind} has no field {', '.join(unknown)}")
        return self


class KeptReading(_Kept):
    """One reading as typed."""

    type: Literal["reading"] = "reading"
    seq: Seq
    station: Annotated[str, Field(max_length=LONGEST["station"])]
    slot: Annotated[str, Field(max_length=LONGEST["slot"])]
    text: Annotated[str, Field(max_length=LONGEST["text"])]
    side: Side | None = None
    approach: Literal["forward", "backward"]
    drop: Annotated[str, Field(max_length=LONGEST["drop"])] | None = None
    unit: LengthUnit
    instrument: Annotated[str, Field(max_length=LONGEST["instrument"])]
    note: Annotated[str, Field(max_length=LONGEST["note"])] | None = None
    picture: Base64Bytes | None = None
    by: Initials
    at: AwareDatetime

    @model_validator(mode="after")
    def _picture_where_it_belongs(self) -> "KeptReading":
        if (self.picture is not None) != self.slot.startswith(PHOTO):
            raise ValueError("a picture stands in a slot of its own, and such a slot has one")
        if self.picture is not None:
            try:
                media_type(self.picture)
            except Impossible as error:
                raise ValueError(refusal(error)) from error
        return self

    @model_validator(mode="after")
    def _known_slot(self) -> "KeptReading":
        if not ORDER.has_slot(self.station, self.slot):
            raise ValueError(f"the station {self.station} has no reading {self.slot}")
        return self


class KeptVoid(_Kept):
    """Why the reading with number `of` no longer counts."""

    type: Literal["void"] = "void"
    seq: Seq
    of: Seq
    reason: Annotated[str, Field(min_length=1, max_length=LONGEST["reason"])]
    by: Initials
    at: AwareDatetime


class KeptJob(_Kept):
    """A whole job: everything written to it, in order."""

    format: Literal["uranograph-job"] = FORMAT
    version: Literal[1, 2] = VERSION
    written_by: Annotated[str, Field(max_length=40)] = f"uranograph {__version__}"
    title: Annotated[str, Field(min_length=1, max_length=LONGEST["title"])]
    created_at: AwareDatetime
    touched_at: AwareDatetime
    entries: list[Annotated[KeptSheet | KeptReading | KeptVoid, Field(discriminator="type")]]

    @model_validator(mode="after")
    def _in_order(self) -> "KeptJob":
        numbers = [entry.seq for entry in self.entries]
        if numbers != sorted(set(numbers)):
            raise ValueError("entries must be numbered upward by seq, each number once")
        readings = {entry.seq: entry for entry in self.entries if isinstance(entry, KeptReading)}
        voids = [entry for entry in self.entries if isinstance(entry, KeptVoid)]
        if len({entry.of for entry in voids}) != len(voids):
            raise ValueError("a reading can be voided once only")
        for entry in voids:
            if entry.of not in readings or entry.of > entry.seq:
                raise ValueError(f"entry {entry.seq} voids {entry.of}, which is no reading before it")
        voided_at = {entry.of: entry.seq for entry in voids}
        standing: dict[tuple[str, str], int] = {}
        for seq, reading in readings.items():
            # What is read anew after a reading here, such as a cam that was moved, may be in the same slots.
            ends = ORDER.ended_by(reading.station, reading.slot)
            standing = {key: before for key, before in standing.items() if key[0] not in ends}
            key = (reading.station, reading.slot)
            before = standing.get(key)
            if reading.slot.count(".") and before is not None and voided_at.get(before, seq + 1) > seq:
                raise ValueError(f"entry {seq} fills {reading.slot} again, which entry {before} holds")
            standing[key] = seq
        return self


def export_job(session: Session, key: str) -> KeptJob:
    """Take a job out whole.

    Parameters
    ----------
    session
        A reading session.
    key
        The job's key.

    Returns
    -------
    KeptJob
        Everything written to it; `model_dump_json(indent=2)` is the file.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    job = session.scalar(select(JobRow).where(JobRow.key == key))
    if job is None:
        raise NoSuchJob(key)
    entries: list[KeptSheet | KeptReading | KeptVoid] = []
    for sheet in session.scalars(select(SheetRow).where(SheetRow.job_id == job.id)):
        entries.append(KeptSheet(**_fields(sheet, KeptSheet)))
    seq_of: dict[int, int] = {}
    pictures = {
        row.reading_id: row.data
        for row in session.scalars(select(PhotoRow).join(ReadingRow).where(ReadingRow.job_id == job.id))
    }
    for reading in session.scalars(select(ReadingRow).where(ReadingRow.job_id == job.id)):
        seq_of[reading.id] = reading.seq
        picture = b64encode(pictures[reading.id]) if reading.id in pictures else None
        entries.append(KeptReading(picture=picture, **_fields(reading, KeptReading)))
    for void in session.scalars(select(VoidRow).join(ReadingRow).where(ReadingRow.job_id == job.id)):
        entries.append(KeptVoid(of=seq_of[void.reading_id], **_fields(void, KeptVoid)))
    return KeptJob(
        title=job.title,
        created_at=job.created_at,
        touched_at=job.touched_at,
        entries=sorted(entries, key=lambda entry: entry.seq),
    )


def _fields(row: object, model: type[BaseModel]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in model.model_fields if name != "type" and hasattr(row, name)}


def read_job(text: str | bytes) -> KeptJob:
    """Read a job file.

    Raises
    ------
    Impossible
        When the text is no job file; the message names the place.
    """
    try:
        return KeptJob.model_validate_json(text)
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False, include_input=False)[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise Impossible("file", "not-a-job-file", where=where, detail=first["msg"]) from error


def import_job(session: Session, kept: KeptJob, at: datetime | None = None) -> str:
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
    Impossible
        When a reading in it cannot be read.
    """
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
    id_of: dict[int, int] = {}
    for entry in kept.entries:
        data = entry.model_dump(exclude={"type", "of", "picture"})
        if isinstance(entry, KeptVoid):
            session.add(VoidRow(reading_id=id_of[entry.of], **data))
        elif isinstance(entry, KeptSheet):
            session.add(SheetRow(job_id=job.id, **data))
        else:
            reading = ReadingRow(job_id=job.id, **data)
            session.add(reading)
            session.flush()
            if entry.picture is not None:
                kind = media_type(entry.picture)
                session.add(PhotoRow(reading_id=reading.id, media_type=kind, data=entry.picture))
            id_of[entry.seq] = reading.id
    _prove_readable(session, job.key)
    return job.key


def _prove_readable(session: Session, key: str) -> None:
    """A file may hold what no bench ever wrote; better refused here than met on a page."""
    try:
        found = ORDER.overview(load(session, key))
        if broken := next((finding.fault for finding in found.values() if finding.fault), ""):
            raise ValueError(broken)
    except Exception as error:
        raise Impossible("file", "file-cannot-be-judged") from error
