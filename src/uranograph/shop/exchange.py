"""Jobs as JSON, out and in, without loss. The format is told in docs/formats.md."""

import json
import secrets
from base64 import b64encode
from collections import Counter
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from pydantic import AwareDatetime, Base64Bytes, BaseModel, ConfigDict, Field, ValidationError, model_validator
from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph import __version__
from uranograph.bench.acts import (
    ACT,
    ACTS,
    CAM_MOVED,
    DETAILS,
    DONE,
    checked_details,
    details_of,
    kind_of,
    moved_words,
    noted_with,
)
from uranograph.bench.job import PHOTO, Entry, Job, Reading, TypedForm, Void
from uranograph.bench.renamed import slot_now, station_now, upcast
from uranograph.bench.slots import slot_of
from uranograph.bench.station import lawful
from uranograph.bench.words import refusal
from uranograph.core.errors import Impossible
from uranograph.core.plain import plain
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Side
from uranograph.shop import documents
from uranograph.shop.asides import media_type
from uranograph.shop.jobs import LONGEST, NoSuchJob, load
from uranograph.shop.tables import FormRow, HeadRow, JobRow, PhotoRow, ReadingRow, SignatureRow, VoidRow
from uranograph.stations import ORDER

FORMAT = "uranograph-job"
VERSION = 3
# Versions 1 and 2 are read as well: acts stood among their readings.
Initials = Annotated[str, Field(min_length=1, max_length=LONGEST["by"])]
Seq = Annotated[int, Field(ge=1, le=1_000_000)]
Digest = Annotated[str, Field(pattern="^[0-9a-f]{64}$")]


class _Kept(BaseModel):
    model_config = ConfigDict(extra="forbid")


class KeptForm(_Kept):
    """One version of a form as typed."""

    type: Literal["sheet"] = "sheet"
    seq: Seq
    kind: Annotated[str, Field(max_length=LONGEST["kind"])]
    typed: dict[str, Annotated[str, Field(max_length=LONGEST["list"])]]
    by: Initials
    at: AwareDatetime

    @model_validator(mode="after")
    def _known_kind(self) -> "KeptForm":
        if self.kind not in ORDER.forms:
            raise ValueError(f"there is no form of the kind {self.kind}")
        if unknown := sorted(self.typed.keys() - set(ORDER.forms[self.kind].fields)):
            raise ValueError(f"the form {self.kind} has no field {', '.join(unknown)}")
        return self


class KeptReading(_Kept):
    """One reading as typed."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True, serialize_by_alias=True)

    type: Literal["reading"] = "reading"
    seq: Seq
    station: Annotated[str, Field(max_length=LONGEST["station"])]
    slot: Annotated[str, Field(max_length=LONGEST["slot"])]
    text: Annotated[str, Field(max_length=LONGEST["text"])]
    side: Side | None = None
    approach: Literal["forward", "backward"]
    second: Annotated[str | None, Field(max_length=LONGEST["second"], alias="drop")] = None
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
        if kind_of(self.slot) or not ORDER.has_slot(self.station, self.slot):
            raise ValueError(f"the station {self.station} has no reading {self.slot}")
        return self


class KeptMove(_Kept):
    """One adjuster moved, by its name; its shift in crank degrees, advance positive."""

    model_config = ConfigDict(extra="forbid", populate_by_name=True, serialize_by_alias=True)

    name: Annotated[str, Field(max_length=80)] = ""
    adjuster: Annotated[int, Field(ge=0, le=9)] | None = None
    from_: Annotated[str, Field(max_length=80, alias="from")]
    to: Annotated[str, Field(max_length=80)]
    shift_deg: Annotated[float, Field(ge=-720, le=720)]


class KeptAct(_Kept):
    """Something done to engine or set-up; a cam moved to a position says which cam, what was moved, and how far."""

    type: Literal["act"] = "act"
    seq: Seq
    kind: str
    station: str = ""
    what: Annotated[str, Field(max_length=LONGEST["text"])] = ""
    scope: Annotated[str, Field(max_length=40)] | None = None
    cam: Annotated[str, Field(pattern="^(bank[12]-)?(both|intake|exhaust)$")] | None = None
    of: Annotated[str, Field(max_length=40)] | None = None
    gear: Annotated[str, Field(max_length=40)] | None = None
    teeth: Annotated[int, Field(ge=1, le=99)] | None = None
    way: Literal["earlier", "later"] | None = None
    moves: Annotated[list[KeptMove], Field(max_length=9)] | None = None
    shift_deg: Annotated[float, Field(ge=-720, le=720)] | None = None
    by: Initials
    at: AwareDatetime

    @model_validator(mode="after")
    def _known(self) -> "KeptAct":
        if self.kind not in ACTS:
            raise ValueError(f"there is no act of the kind {self.kind}")
        own = {CAM_MOVED: ORDER.mover} if self.moves is not None else {}
        self.station = self.station or own.get(self.kind) or next(s.key for s in ORDER.stations if self.kind in s.acts)
        if self.station not in ORDER.by_key:
            raise ValueError(f"there is no station {self.station}")
        if self.moves is not None:
            if self.cam is None or self.kind != CAM_MOVED or self.scope:
                raise ValueError("a cam moved to a position has cam and moves, and no other act has moves")
            return self
        try:
            checked_details(self.kind, {name: getattr(self, name) for name in DETAILS})
        except Impossible as error:
            raise ValueError(f"an act of the kind {self.kind} has no such {error.field}") from error
        return self

    def row(self, number: int) -> dict[str, Any]:
        """The act as it stands in the log."""
        what, note = self.what or DONE, self.scope
        if self.moves is not None:
            shift = sum(move.shift_deg for move in self.moves) if self.shift_deg is None else self.shift_deg
            moves = [move.model_dump(by_alias=True, exclude_none=True) for move in self.moves]
            what = self.what or moved_words(shift)
            note = json.dumps({"cam": self.cam, "shift_deg": shift, "moves": moves}, ensure_ascii=False)
        else:
            note = noted_with(
                self.scope or "", {name: value for name in DETAILS if (value := getattr(self, name)) is not None}
            )
        slot = slot_of(ACT, number, self.kind)
        entry = Entry(self.station, slot, what, note=note)
        return {**entry.fields, "seq": self.seq, "by": self.by, "at": self.at}


def _plain(entry: Any) -> Any:
    """An entry without what cannot be seen in its texts; two deep, as entries are."""
    if isinstance(entry, str):
        return plain(entry)
    if not isinstance(entry, dict):
        return entry
    return {
        name: _plain(value) if isinstance(value, str | dict) and name != "picture" else value
        for name, value in entry.items()
    }


def _as_act(entry: Any) -> Any:
    """An entry of versions 1 and 2: where it is a reading that tells of an act, the act."""
    if not isinstance(entry, dict) or entry.get("type") != "reading":
        return entry
    slot, note, text = str(entry.get("slot", "")), entry.get("note"), str(entry.get("text", ""))
    kept = {"type": "act", **{name: entry.get(name) for name in ("seq", "station", "by", "at")}}
    if slot == "moved" and entry.get("station") == "tdc":
        return {**kept, "kind": "wheel-moved"}
    if kind := kind_of(slot):
        return {**kept, "kind": kind, "what": "" if text == DONE else text, "scope": note}
    if cam := _MOVED_BEFORE.get(slot.split(".")[0]):
        try:
            moves, shift = json.loads(note or "[]"), float(text)
        except ValueError:
            return entry
        return {**kept, "kind": CAM_MOVED, "cam": cam, "moves": moves, "shift_deg": shift}
    return entry


_MOVED_BEFORE = {"try": "both", "try-intake": "intake", "try-exhaust": "exhaust"}


class KeptVoid(_Kept):
    """Why the reading with number `of` no longer counts."""

    type: Literal["void"] = "void"
    seq: Seq
    of: Seq
    reason: Annotated[str, Field(min_length=1, max_length=LONGEST["reason"])]
    by: Initials
    at: AwareDatetime


class KeptSignature(_Kept):
    """A build sheet as it was signed, with the bytes that were signed and what proves them.

    A page is read of files that still bring one, to prove them; it is never taken in.
    """

    revision: Annotated[int, Field(ge=1, le=100_000)]
    seq: Seq
    by: Initials
    name: Annotated[str, Field(min_length=1, max_length=80)]
    at: AwareDatetime
    changed: Annotated[str, Field(max_length=300)] = ""
    rules: Annotated[str, Field(max_length=40)]
    judged: dict[str, Any]
    exceptions: Annotated[list[Annotated[str, Field(max_length=1000)]], Field(max_length=100)]
    page: Annotated[str, Field(max_length=4_000_000, exclude=True)] = ""
    digest: Digest
    signed: Annotated[str, Field(max_length=40_000_000)] | None = None
    seal: Annotated[str, Field(pattern="^([0-9a-f]{128})?$")] | None = None
    key_id: Annotated[str, Field(pattern="^([0-9a-f]{64})?$")] | None = None
    page_digest: Digest | None = None
    title: Annotated[str, Field(max_length=LONGEST["title"])] | None = None


class KeptJob(_Kept):
    """A whole job: everything written to it, in order, and the sheets that were signed."""

    format: Literal["uranograph-job"] = FORMAT
    version: Literal[1, 2, 3] = VERSION
    written_by: Annotated[str, Field(max_length=40)] = f"uranograph {__version__}"
    title: Annotated[str, Field(min_length=1, max_length=LONGEST["title"])]
    created_at: AwareDatetime
    touched_at: AwareDatetime
    entries: list[Annotated[KeptForm | KeptReading | KeptAct | KeptVoid, Field(discriminator="type")]]
    signatures: Annotated[list[KeptSignature], Field(max_length=1000)] = []

    @model_validator(mode="before")
    @classmethod
    def _of_earlier_versions(cls, data: Any) -> Any:
        if not isinstance(data, dict) or not isinstance(data.get("entries"), list):
            return data
        entries = data["entries"]
        if data.get("version") in (1, 2):
            data, entries = {**data, "version": VERSION}, [_as_act(entry) for entry in entries]
        named = [upcast(each) if isinstance(each, dict) else each for each in entries]
        # What was signed stays as it was signed, whatever cannot be seen in it.
        return {**data, "entries": named if data.get("signatures") else [_plain(each) for each in named]}

    @model_validator(mode="after")
    def _in_order(self) -> "KeptJob":
        numbers = [entry.seq for entry in self.entries]
        if numbers != sorted(set(numbers)):
            raise ValueError("entries must be numbered upward by seq, each number once")
        readings = {entry.seq: entry for entry in self.entries if isinstance(entry, KeptReading | KeptAct)}
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
            slot = slot_of(ACT, 1, reading.kind) if isinstance(reading, KeptAct) else reading.slot
            if ends := ORDER.ended_by(reading.station, slot):
                standing = {key: before for key, before in standing.items() if key[0] not in ends}
            if isinstance(reading, KeptAct):
                continue
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
    entries: list[KeptForm | KeptReading | KeptAct | KeptVoid] = []
    for filled in session.scalars(select(FormRow).where(FormRow.job_id == job.id)):
        entries.append(KeptForm(**upcast({"type": "sheet", **_fields(filled, KeptForm)})))
    seq_of: dict[int, int] = {}
    pictures = {
        row.reading_id: row.data
        for row in session.scalars(select(PhotoRow).join(ReadingRow).where(ReadingRow.job_id == job.id))
    }
    for reading in session.scalars(select(ReadingRow).where(ReadingRow.job_id == job.id)):
        seq_of[reading.id] = reading.seq
        if kind_of(reading.slot):
            entries.append(_act(reading))
            continue
        picture = b64encode(pictures[reading.id]) if reading.id in pictures else None
        entries.append(KeptReading(picture=picture, **upcast({"type": "reading", **_fields(reading, KeptReading)})))
    for void in session.scalars(select(VoidRow).join(ReadingRow).where(ReadingRow.job_id == job.id)):
        entries.append(KeptVoid(of=seq_of[void.reading_id], **_fields(void, KeptVoid)))
    return KeptJob(
        title=job.title,
        created_at=job.created_at,
        touched_at=job.touched_at,
        entries=sorted(entries, key=lambda entry: entry.seq),
        signatures=[
            KeptSignature(**_fields(row, KeptSignature))
            for row in session.scalars(
                select(SignatureRow).where(SignatureRow.job_id == job.id).order_by(SignatureRow.revision)
            )
        ],
    )


def _act(row: ReadingRow) -> KeptAct:
    noted = details_of(row.note)
    plain = moved_words(noted["shift_deg"]) if "moves" in noted else DONE
    return KeptAct(
        seq=row.seq,
        kind=kind_of(slot_now(row.station, row.slot)),
        station=station_now(row.station),
        what="" if row.text == plain else row.text,
        scope=noted.get("scope"),
        **{name: noted.get(name) for name in DETAILS},
        moves=[KeptMove(**move) for move in noted["moves"]] if "moves" in noted else None,
        shift_deg=noted.get("shift_deg"),
        by=row.by,
        at=row.at,
    )


def _fields(row: object, model: type[BaseModel]) -> dict[str, Any]:
    return {name: getattr(row, name) for name in model.model_fields if name != "type" and hasattr(row, name)}


def read_job(text: str | bytes) -> KeptJob:
    """Read a job file.

    Raises
    ------
    Impossible
        When the text is no job file, or a form in it cannot be read; the message names the place, or form and field.
    """
    try:
        kept = KeptJob.model_validate_json(text)
        prove_signatures(kept)
    except RecursionError as error:
        raise Impossible("file", "not-a-job-file", where="signatures", detail="it is nested too deep") from error
    except ValidationError as error:
        first = error.errors(include_url=False, include_context=False, include_input=False)[0]
        where = ".".join(str(part) for part in first["loc"]) or "the file"
        raise Impossible("file", "not-a-job-file", where=where, detail=first["msg"]) from error
    _refuse_forms(kept)
    return kept


def _refuse_forms(kept: KeptJob) -> None:
    """Refuse a form that decides and cannot be read: nothing it says is to be dropped in silence."""
    job = as_job(kept)
    newest = {filled.kind: filled for filled in job.forms}
    # Readings keep the wheel that stood when they were taken.
    for filled in job.forms:
        form = ORDER.forms[filled.kind]
        if filled is not newest[filled.kind] and filled.kind != "wheel":
            continue
        found = form.read(filled.typed, job)
        if found.value is None or not lawful(form, found.value, found.errors.values()):
            field, why = next(iter(found.errors.items()), ("", ""))
            typed = filled.typed.get(field, "")
            raise Impossible(
                "file", "form-cannot-be", entry=filled.seq, form=form.title, name=field, typed=typed, why=why
            )


def as_job(kept: KeptJob) -> Job:
    """A job file as the bench sees it, without a shop; numbers of readings are those of the log."""
    voids = {entry.of: Void(entry.reason, entry.by, entry.at) for entry in kept.entries if isinstance(entry, KeptVoid)}
    forms: list[TypedForm] = []
    readings: list[Reading] = []
    acts: Counter[str] = Counter()
    for entry in kept.entries:
        if isinstance(entry, KeptForm):
            forms.append(TypedForm(entry.kind, entry.seq, entry.typed, entry.by, entry.at))
        elif isinstance(entry, KeptReading):
            data = entry.model_dump(exclude={"type", "picture"}, by_alias=False)
            readings.append(Reading(**data, id=entry.seq, void=voids.get(entry.seq)))
        elif isinstance(entry, KeptAct):
            acts[entry.station] += 1
            readings.append(Reading(**entry.row(acts[entry.station]), id=entry.seq, void=voids.get(entry.seq)))
    seq = kept.entries[-1].seq if kept.entries else 0
    return Job("judged", kept.title, tuple(forms), tuple(readings), seq=seq, slots=ORDER.slots)


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
    if broken := [revision for revision, holds in prove_signatures(kept).items() if not holds]:
        raise Impossible("file", "digest-does-not-match", revision=broken[0])
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
    acts: Counter[str] = Counter()
    for entry in kept.entries:
        data = entry.model_dump(exclude={"type", "of", "picture"}, by_alias=False)
        if isinstance(entry, KeptAct):
            acts[entry.station] += 1
            data = entry.row(acts[entry.station])
        if isinstance(entry, KeptVoid):
            session.add(VoidRow(reading_id=id_of[entry.of], **data))
        elif isinstance(entry, KeptForm):
            session.add(FormRow(job_id=job.id, **data))
        else:
            reading = ReadingRow(job_id=job.id, **data)
            session.add(reading)
            session.flush()
            if isinstance(entry, KeptReading) and entry.picture is not None:
                kind = media_type(entry.picture)
                session.add(PhotoRow(reading_id=reading.id, media_type=kind, data=entry.picture))
            id_of[entry.seq] = reading.id
    _take_signatures(session, job, kept)
    _prove_readable(session, job.key)
    return job.key


def _take_signatures(session: Session, job: JobRow, kept: KeptJob) -> None:
    """Signatures of a file, each with the bytes it was made from; a page that comes with it is not taken in."""
    for signed, text in zip(kept.signatures, _documents(kept), strict=True):
        data = signed.model_dump() | {"signed": text, "page": "", "page_digest": _page_digest(signed)}
        session.add(SignatureRow(job_id=job.id, token=secrets.token_hex(16), **data))
        # Counted without a seal: this shop did not sign it.
        counted = {"job_key": job.key, "title": job.title, "revision": signed.revision, "digest": signed.digest}
        session.add(HeadRow(**counted, seal="", key_id=""))


def signed_entries(kept: KeptJob, seq: int) -> list[dict[str, Any]]:
    """A job's log up to a number, each entry as it stands in what is signed."""
    return [documents.entry(entry.model_dump(mode="json", by_alias=True)) for entry in kept.entries if entry.seq <= seq]


def _page_digest(signed: KeptSignature) -> str:
    return documents.digest_of(signed.page) if signed.page else signed.page_digest or ""


def _documents(kept: KeptJob) -> list[str]:
    """What was signed of each revision: the bytes that came with it, or those that its entries and its page give."""
    found, before = [], ""
    for signed in kept.signatures:
        text = signed.signed or documents.made(
            signed_entries(kept, signed.seq), signed.model_dump(), _page_digest(signed), before, {}
        )
        found.append(text)
        before = signed.digest
    return found


def prove_signatures(kept: KeptJob) -> dict[int, bool]:
    """Whether each signed revision of a job is still what was signed, by its number.

    It is where its bytes give its digest, and log, findings, page and signer are those of the bytes.
    """
    found, before = {}, ""
    for signed, text in zip(kept.signatures, _documents(kept), strict=True):
        found[signed.revision] = documents.digest_of(text) == signed.digest and _is_said_in(text, kept, signed, before)
        before = signed.digest
    return found


def _is_said_in(text: str, kept: KeptJob, signed: KeptSignature, before: str) -> bool:
    """Whether a document says of log, findings, page and signer what stands there now."""
    try:
        document = json.loads(text)
        then = [upcast(entry) for entry in document["entries"]]
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
        raise Impossible("file", "file-cannot-be-judged") from error
