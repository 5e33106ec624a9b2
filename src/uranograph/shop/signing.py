"""Signing a build sheet: frozen with what judged it, superseded by a new revision alone, proved by its digest."""

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from enum import StrEnum
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph import __version__
from uranograph.bench.finding import STATE_WORDS, Finding
from uranograph.bench.job import Job
from uranograph.bench.log import Log
from uranograph.bench.rules import RULES
from uranograph.bench.shop_limits import ShopLimit
from uranograph.bench.station import Station
from uranograph.core.errors import InvalidInput, Missing
from uranograph.shop import documents, exchange, jobs, judging, loading
from uranograph.shop.jobs import Changed
from uranograph.shop.keys import ShopKey, sealed_by
from uranograph.shop.tables import EntryRow, HeadRow, JobRow, SignatureRow
from uranograph.shop.upcasters import VERSION
from uranograph.stations import ORDER

MAX_NAME_LENGTH, MAX_CHANGED_LENGTH = 80, 300
# Stands in a frozen page where its digest is shown, which is worked out from the page.
DIGEST_HERE = "····-····-····"
# Signature fields that are part of the signed document.
SIGNED = ("revision", "by", "name", "at", "changed", "rules")


@dataclass(frozen=True)
class Signature:
    """A sheet as it was signed; `seq` is the last of the log that it covers."""

    revision: int
    seq: int
    by: str
    name: str
    at: datetime
    changed: str
    rules: str
    exceptions: tuple[str, ...]
    digest: str
    title: str = ""
    key_id: str = ""

    @property
    def short(self) -> str:
        """The digest as it is printed."""
        return f"{self.digest[:4]} {self.digest[4:8]} {self.digest[8:12]}" if self.digest else DIGEST_HERE


@dataclass(frozen=True)
class Open:
    """A station that keeps a sheet from being signed, and whether a reason would let it."""

    station: Station
    finding: Finding
    reason_helps: bool


def unsettled(job: Job) -> list[Open]:
    """Reasons a job cannot be signed: stations of its workflow, or started ones, that are neither in nor accepted with a reason."""
    found = []
    findings = ORDER.overview(job)
    way = ORDER.in_workflow(job)
    for station in ORDER.stations:
        finding = findings[station.key]
        if station not in way and finding.state in ("not-begun", "skipped"):
            continue
        if station.blocks_signing and finding.state not in ("in", "skipped"):
            found.append(Open(station, finding, False))
        elif finding.state not in ("in", "skipped") and not job.accepted(station.key):
            found.append(Open(station, finding, True))
    return found


def exceptions(job: Job) -> list[str]:
    """Stations signed without a verdict: skipped, accepted as is, or nothing to judge."""
    said = []
    findings = ORDER.overview(job)
    for station in ORDER.stations:
        skipped, accepted = job.skipped(station.key), job.accepted(station.key)
        if skipped is not None:
            said.append(f"{station.title}: skipped, {skipped.reason} ({skipped.by})")
        elif accepted is not None:
            said.append(f"{station.title}: {accepted.was}, accepted, {accepted.reason} ({accepted.by})")
        elif findings[station.key].state == "skipped":
            said.append(f"{station.title}: {findings[station.key].sentence}")
    return said


def sign(
    session: Session,
    key: str,
    by: str,
    name: str,
    changed: str,
    token: str,
    seen: int,
    page: Callable[[Job, Signature], str],
    at: datetime | None = None,
) -> int:
    """Sign a job's build sheet, once.

    Parameters
    ----------
    session
        A writing session.
    key, by, name
        The job; initials and name of who signs.
    changed
        What has changed since the revision before, where there is one.
    token
        Generated for each form rendered; a repeated token writes only one signature.
    seen
        The job's `seq` when the sheet was drawn that is signed.
    page
        Draws the sheet as it is frozen.
    at
        When; now unless given.

    Returns
    -------
    int
        The revision.

    Raises
    ------
    Changed
        When something was written since the sheet was drawn.
    InvalidInput
        When something is open, names or reasons are missing, or nothing was written since it was signed.
    NoSuchJob
        When there is no such job.
    """
    before = session.scalar(select(SignatureRow).where(SignatureRow.token == token))
    if before is not None:
        return before.revision
    job = loading.load(session, key)
    row = session.scalar(select(JobRow).where(JobRow.key == key))
    if row is None:
        raise Missing("row")
    if job.seq != seen:
        raise Changed("Something was written to this job since this sheet was drawn.")
    last = latest(session, key)
    by, name, changed = jobs.initials(by), name.strip()[:MAX_NAME_LENGTH], changed.strip()[:MAX_CHANGED_LENGTH]
    _refuse(job, last, name, changed, row.binned_at is not None)
    signature = Signature(
        revision=last.revision + 1 if last else 1,
        seq=job.seq,
        by=by,
        name=name,
        at=(at or datetime.now(UTC)).replace(microsecond=0),
        changed=changed,
        rules=f"{__version__}, rules {RULES}",
        exceptions=tuple(exceptions(job)),
        digest="",
    )
    kept = exchange.export_job(session, key)
    judged = judging.judge_job(job, judging.Last(*jobs.last_written(session, key)))
    judged.pop("next", None)
    # As it comes back from the file.
    judged = json.loads(json.dumps(judged))
    drawn = page(job, signature)
    page_digest = documents.digest_of(drawn)
    counted = session.scalar(select(HeadRow).order_by(HeadRow.id.desc()).limit(1))
    fields = {name: getattr(signature, name) for name in SIGNED} | {
        "exceptions": list(signature.exceptions),
        "judged": judged,
    }
    more = {
        "title": row.title,
        "limits": {name: value.text for name, value in sorted(job.shop_values.items())},
        "before": counted.digest if counted else "",
        "entries_version": VERSION,
    }
    text = documents.made(
        exchange.signed_entries(kept, job.seq), fields, page_digest, last.digest if last else "", more
    )
    digest = documents.digest_of(text)
    shop_key: ShopKey = session.info["key"]
    seal, key_id = shop_key.seal(digest.encode())
    stored = fields | {"digest": digest, "signed": text, "seal": seal, "key_id": key_id}
    stored |= {"page": drawn, "page_digest": page_digest, "title": row.title, "seq": job.seq}
    session.add(SignatureRow(job_id=row.id, token=token, **stored))
    _count(session, shop_key, row, signature.revision, digest, counted)
    session.flush()
    return signature.revision


def _count(session: Session, key: ShopKey, row: JobRow, revision: int, digest: str, before: HeadRow | None) -> None:
    """Count a signature outside its own table, with a seal over the one before it."""
    head = HeadRow(
        id=before.id + 1 if before else 1, job_key=row.key, title=row.title, revision=revision, digest=digest
    )
    head.seal, head.key_id = key.seal(_counted(head.id, digest, before.seal if before else ""))
    session.add(head)


def _counted(number: int, digest: str, seal_before: str) -> bytes:
    return f"{number} {digest} {seal_before}".encode()


def _refuse(job: Job, last: Signature | None, name: str, changed: str, binned: bool) -> None:
    if binned:
        raise InvalidInput("sign", "binned-is-not-signed")
    if not job.forms and not job.entries:
        raise InvalidInput("sign", "nothing-to-sign")
    if last is not None and last.seq == job.seq:
        raise InvalidInput("sign", "signed-already", revision=last.revision)
    found = unsettled(job)
    if found:
        closed = next((each for each in found if not each.reason_helps), None)
        if closed is not None and len(found) == 1:
            state = STATE_WORDS[closed.finding.state]
            raise InvalidInput("sign", "must-be-closed", title=closed.station.title, state=state)
        listed = ", ".join(f"{each.station.title} is {STATE_WORDS[each.finding.state]}" for each in found)
        raise InvalidInput("sign", "still-open", listed=listed)
    if not name:
        raise InvalidInput("name", "signer-missing")
    if last is not None and not changed:
        raise InvalidInput("changed", "changed-missing", revision=last.revision)


def signatures(session: Session, key: str) -> list[Signature]:
    """Every revision that was signed, oldest first."""
    rows = session.scalars(select(SignatureRow).join(JobRow).where(JobRow.key == key).order_by(SignatureRow.revision))
    return [_signature(row) for row in rows]


def latest(session: Session, key: str) -> Signature | None:
    """The newest revision that was signed."""
    found = signatures(session, key)
    return found[-1] if found else None


def _signature(row: SignatureRow) -> Signature:
    return Signature(
        row.revision,
        row.seq,
        row.by,
        row.name,
        row.at,
        row.changed,
        row.rules,
        tuple(row.exceptions),
        row.digest,
        row.title or "",
        row.key_id or "",
    )


@dataclass(frozen=True)
class Signed:
    """A revision as it was signed: its page, empty where it came in with a file, what was found, and whether it holds."""

    signature: Signature
    page: str
    judged: dict[str, Any]
    proof: "Proof"


def page_of(session: Session, key: str, revision: int) -> Signed | None:
    """A revision as it was signed; None where there is none."""
    row = session.scalar(select(SignatureRow).join(JobRow).where(JobRow.key == key, SignatureRow.revision == revision))
    if row is None:
        return None
    signature = _signature(row)
    return Signed(
        signature, row.page.replace(DIGEST_HERE, signature.short), row.judged, proof_of(session, key)[revision]
    )


def as_signed(session: Session, key: str, signature: Signature) -> Job:
    """A job with what was written up to a signature, by the limits that are in its document.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    job, row = loading.load(session, key), loading.row_of(session, key)
    voids = select(EntryRow.payload).where(
        EntryRow.job_id == row.id, EntryRow.kind == "void", EntryRow.seq > signature.seq
    )
    voided_since = {payload["of"] for payload in session.scalars(voids)}
    entries = tuple(
        replace(entry, void=None) if entry.seq in voided_since else entry
        for entry in job.entries
        if entry.seq <= signature.seq
    )
    text = session.scalar(select(SignatureRow.signed).where(SignatureRow.digest == signature.digest).limit(1))
    limits = json.loads(text).get("limits", {}) if text else {}
    values = {name: ShopLimit(value, "", signature.at) for name, value in limits.items()}
    return Job(
        key,
        signature.title or job.title,
        Log(tuple(form for form in job.forms if form.seq <= signature.seq), entries),
        seq=signature.seq,
        slots=job.slots,
        shop_values=values,
    )


class State(StrEnum):
    """Result of checking a signed revision."""

    HOLDS = "holds"
    UNSEALED = "holds; signed before this shop had a key"
    FOREIGN = "not made by this shop"
    CHANGED = "changed"
    MISSING = "missing"


@dataclass(frozen=True)
class Proof:
    """Whether a signed revision is still what was signed."""

    key: str
    title: str
    revision: int
    short: str
    state: State
    why: str = ""

    @property
    def holds(self) -> bool:
        """Whether nothing of it was changed and it is there; who made it is another matter."""
        return self.state not in (State.CHANGED, State.MISSING)


def proof_of(session: Session, key: str) -> dict[int, Proof]:
    """Prove every signed revision of a job, by its number.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    row = loading.row_of(session, key)
    try:
        held = exchange.prove_signatures(exchange.export_job(session, key))
    except ValueError:
        # A file changed outside may hold invalid values.
        held = {}
    shop_key: ShopKey = session.info["key"]
    found = {}
    for each in session.scalars(select(SignatureRow).where(SignatureRow.job_id == row.id)):
        state, why = _state(each, held.get(each.revision, False), shop_key)
        found[each.revision] = Proof(key, row.title, each.revision, _signature(each).short, state, why)
    return found


def _state(row: SignatureRow, held: bool, key: ShopKey) -> tuple[State, str]:
    if not held:
        return State.CHANGED, "log, findings, page, signer or date are not those that were signed"
    if not row.seal:
        return State.UNSEALED, ""
    if not sealed_by(row.key_id or "", row.seal, row.digest.encode()):
        return State.CHANGED, "its seal is not of the key that it names"
    if row.key_id != key.id:
        return State.FOREIGN, f"made with the key {(row.key_id or '')[:12]}"
    return State.HOLDS, ""


def proofs(session: Session) -> Iterator[Proof]:
    """Prove every signed revision of a shop, job by job, and name those that are counted and no longer there."""
    there: dict[str, list[str]] = {}
    for row in session.scalars(select(JobRow).where(JobRow.id.in_(select(SignatureRow.job_id))).order_by(JobRow.id)):
        there[row.key] = list(session.scalars(select(SignatureRow.digest).where(SignatureRow.job_id == row.id)))
        for _, proof in sorted(proof_of(session, row.key).items()):
            yield proof
    yield from _counted_proofs(session, there)


def _counted_proofs(session: Session, there: dict[str, list[str]]) -> Iterator[Proof]:
    """Faults shown by the signature count: missing revision, altered count, uncounted signature."""
    before, number, counted = "", 0, set()
    for head in session.scalars(select(HeadRow).order_by(HeadRow.id)):
        number += 1
        short = f"{head.digest[:4]} {head.digest[4:8]} {head.digest[8:12]}"
        of = Proof(head.job_key, head.title, head.revision, short, State.CHANGED, "its place in the count was changed")
        counted.add((head.job_key, head.digest))
        if head.digest not in there.get(head.job_key, ()):
            yield replace(of, state=State.MISSING, why="it was counted when it was signed, and is not there")
        own = bool(head.seal) and head.key_id == session.info["key"].id
        if head.id != number or (own and not sealed_by(head.key_id, head.seal, _counted(head.id, head.digest, before))):
            yield of
        before, number = head.seal, head.id
    for key, digests in there.items():
        for digest in digests:
            if (key, digest) not in counted:
                short = f"{digest[:4]} {digest[4:8]} {digest[8:12]}"
                yield Proof(key, "", 0, short, State.CHANGED, "it was never counted: it was not signed by this program")
