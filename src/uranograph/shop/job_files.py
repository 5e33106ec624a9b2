"""A job as a file: its model."""

import hashlib
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import Base64Bytes, Field, model_validator

from uranograph import __version__
from uranograph.bench.log import Void, Written
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.plain import plain
from uranograph.shop import documents
from uranograph.shop.asides import attached_type
from uranograph.shop.entries import (
    Digest,
    Initials,
    Seq,
    StoredAny,
    StoredForm,
    StoredModel,
    StoredPicture,
    StoredReading,
    StoredVoid,
    When,
    on_bench,
)
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.shop.upcasters import VERSION, upcast
from uranograph.stations import ORDER

FORMAT = "uranograph-job"


def _plain(entry: Any) -> Any:
    """An entry without what cannot be seen in its texts; two deep, as entries are."""
    if isinstance(entry, str):
        return plain(entry)
    if not isinstance(entry, dict):
        return entry
    return {name: _plain(value) if isinstance(value, str | dict) else value for name, value in entry.items()}


class StoredSignature(StoredModel):
    """A build sheet as it was signed, with the bytes that were signed and what proves them.

    A page is read of files that still bring one, to prove them; it is never taken in.
    """

    revision: Annotated[int, Field(ge=1, le=100_000)]
    seq: Seq
    by: Initials
    name: Annotated[str, Field(min_length=1, max_length=MAX_LENGTH["signer"])]
    at: When
    changed: Annotated[str, Field(max_length=MAX_LENGTH["changed"])] = ""
    rules: Annotated[str, Field(max_length=MAX_LENGTH["rules"])]
    judged: dict[str, Any]
    exceptions: Annotated[list[Annotated[str, Field(max_length=1000)]], Field(max_length=100)]
    page: Annotated[str, Field(max_length=4_000_000, exclude=True)] = ""
    digest: Digest
    signed: Annotated[str, Field(max_length=40_000_000)] | None = None
    seal: Annotated[str, Field(pattern="^([0-9a-f]{128})?$")] | None = None
    key_id: Annotated[str, Field(pattern="^([0-9a-f]{64})?$")] | None = None
    page_digest: Digest | None = None
    title: Annotated[str, Field(max_length=MAX_LENGTH["title"])] | None = None


class StoredJob(StoredModel):
    """A whole job: everything written to it, in order, its pictures once each, and the sheets that were signed."""

    format: Literal["uranograph-job"] = "uranograph-job"
    version: Literal[1, 2, 3, 4] = 4
    written_by: Annotated[str, Field(max_length=40)] = f"uranograph {__version__}"
    title: Annotated[str, Field(min_length=1, max_length=MAX_LENGTH["title"])]
    created_at: When
    touched_at: When
    entries: list[Annotated[StoredAny, Field(discriminator="type")]]
    pictures: Annotated[dict[Digest, Base64Bytes], Field(max_length=1000, default_factory=dict)]
    signatures: Annotated[list[StoredSignature], Field(max_length=1000, default_factory=list)]

    @model_validator(mode="before")
    @classmethod
    def _of_earlier_versions(cls, data: Any) -> Any:
        if not isinstance(data, dict) or not isinstance(data.get("entries"), list):
            return data
        version, entries = data.get("version"), data["entries"]
        if type(version) is int and 0 < version < VERSION:
            data = {**data, "version": VERSION, "signatures": _with_documents(data)}
        # What programs append may be in the form of version 3, whatever the file is of.
        first = version if type(version) is int and version in (1, 2) else VERSION - 1
        named = [upcast(each, first) if isinstance(each, dict) else each for each in entries]
        pictures = data.get("pictures", {})
        for each in named:
            if isinstance(each, dict) and "data" in each and isinstance(pictures, dict):
                pictures = {**pictures, str(each.get("digest")): each.pop("data")}
        # What was signed stays as it was signed, whatever cannot be seen in it.
        written = named if data.get("signatures") else [_plain(each) for each in named]
        return {**data, "entries": written, **({"pictures": pictures} if pictures else {})}

    @model_validator(mode="after")
    def _pictures_are_there(self) -> "StoredJob":
        for entry in self.entries:
            if not isinstance(entry, StoredPicture):
                continue
            data = self.pictures.get(entry.digest)
            if data is None or hashlib.sha256(data).hexdigest() != entry.digest:
                raise ValueError(f"the picture of entry {entry.seq} is not in the file")
            try:
                attached_type(data)
            except InvalidInput as error:
                raise ValueError(refusal(error)) from error
        return self

    @model_validator(mode="after")
    def _in_order(self) -> "StoredJob":
        numbers = [entry.seq for entry in self.entries]
        if numbers != sorted(set(numbers)):
            raise ValueError("entries must be numbered upward by seq, each number once")
        written = {entry.seq: entry for entry in self.entries if not isinstance(entry, StoredForm | StoredVoid)}
        voids = [entry for entry in self.entries if isinstance(entry, StoredVoid)]
        if len({entry.of for entry in voids}) != len(voids):
            raise ValueError("a reading can be voided once only")
        for entry in voids:
            if entry.of not in written or entry.of > entry.seq:
                raise ValueError(f"entry {entry.seq} voids {entry.of}, which is no reading before it")
        voided_at = {entry.of: entry.seq for entry in voids}
        standing: dict[tuple[str, str], int] = {}
        for seq, kept in written.items():
            # Readings taken again after an entry such as a cam move may use the same slots.
            if ends := ORDER.ended_by(job_on_bench(kept)):
                standing = {key: before for key, before in standing.items() if key[0] not in ends}
            if not isinstance(kept, StoredReading):
                continue
            key = (kept.station, kept.slot)
            before = standing.get(key)
            if kept.slot.count(".") and before is not None and voided_at.get(before, seq + 1) > seq:
                raise ValueError(f"entry {seq} fills {kept.slot} again, which entry {before} holds")
            standing[key] = seq
        return self


def _with_documents(data: dict[str, Any]) -> Any:
    """Signatures of a file of an earlier version, each with the bytes it was made from: those are of the entries as they were."""
    entries, signatures = data["entries"], data.get("signatures", [])
    if not isinstance(signatures, list) or not all(isinstance(each, dict) for each in (*entries, *signatures)):
        return signatures
    found, before = [], ""
    for signed in signatures:
        if not signed.get("signed"):
            try:
                covered = [documents.entry(each) for each in entries if each["seq"] <= signed["seq"]]
                page = signed.get("page")
                page_digest = documents.digest_of(page) if page else signed.get("page_digest") or ""
                of_then = {**signed, "at": datetime.fromisoformat(str(signed["at"]))}
                signed = {**signed, "signed": documents.made(covered, of_then, page_digest, before, {})}
            except (KeyError, ValueError, TypeError, AttributeError):
                # What it lacks is named where it is read.
                return signatures
        before = str(signed.get("digest", ""))
        found.append(signed)
    return found


def job_on_bench(kept: StoredAny, void: Void | None = None) -> Written:
    """A stored entry as the bench takes it."""
    return on_bench(kept.type, kept.station, kept.payload, kept.seq, kept.seq, kept.by, kept.at, void)
