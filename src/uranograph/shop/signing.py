"""Signing a build sheet: frozen with what judged it, superseded by a new revision alone, proved by its digest."""

import json
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph import __version__
from uranograph.bench.finding import STATE_WORDS, Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.core.errors import Impossible
from uranograph.shop import exchange, jobs, judging
from uranograph.shop.jobs import Changed
from uranograph.shop.tables import JobRow, SignatureRow
from uranograph.stations import ORDER

LONGEST_NAME, LONGEST_CHANGED = 80, 300
# Stands in a frozen page where its digest is shown, which is worked out from the page.
DIGEST_HERE = "····-····-····"


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


def stands_open(job: Job) -> list[Open]:
    """What keeps a job from being signed: stations on its way, or begun beside it, that are neither right nor settled by a reason."""
    found = []
    findings = ORDER.overview(job)
    way = ORDER.on_way(job)
    for station in ORDER.stations:
        finding = findings[station.key]
        if station not in way and finding.state in ("not-begun", "skipped"):
            continue
        if station.must_close and finding.state not in ("in", "skipped"):
            found.append(Open(station, finding, False))
        elif finding.state not in ("in", "skipped") and not job.accepted(station.key):
            found.append(Open(station, finding, True))
    return found


def exceptions(job: Job) -> list[str]:
    """What is signed without having been judged: skipped, accepted as it is, or nothing there to judge."""
    said = []
    findings = ORDER.overview(job)
    for station in ORDER.stations:
        skipped, accepted = job.skipped(station.key), job.accepted(station.key)
        if skipped is not None:
            said.append(f"{station.title}: skipped, {skipped.note} ({skipped.by})")
        elif accepted is not None:
            said.append(f"{station.title}: {accepted.text}, accepted, {accepted.note} ({accepted.by})")
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
        Made anew for each form drawn: the same token twice is one signature.
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
    Impossible
        When something is open, names or reasons are missing, or nothing was written since it was signed.
    NoSuchJob
        When there is no such job.
    """
    before = session.scalar(select(SignatureRow).where(SignatureRow.token == token))
    if before is not None:
        return before.revision
    job = jobs.load(session, key)
    row = session.scalar(select(JobRow).where(JobRow.key == key))
    assert row is not None
    if job.seq != seen:
        raise Changed("Something was written to this job since this sheet was drawn.")
    last = latest(session, key)
    by, name, changed = jobs.initials(by), name.strip()[:LONGEST_NAME], changed.strip()[:LONGEST_CHANGED]
    _refuse(job, last, name, changed)
    signature = Signature(
        revision=last.revision + 1 if last else 1,
        seq=job.seq,
        by=by,
        name=name,
        at=(at or datetime.now(UTC)).replace(microsecond=0),
        changed=changed,
        rules=__version__,
        exceptions=tuple(exceptions(job)),
        digest="",
    )
    kept = exchange.export_job(session, key)
    judged = judging.judge(kept, job)
    judged.pop("next", None)
    # As it comes back from the file.
    judged = json.loads(json.dumps(judged))
    fields = {
        **signature.__dict__,
        "exceptions": list(signature.exceptions),
        "judged": judged,
        "page": page(job, signature),
    }
    signed = exchange.KeptSignature.model_construct(**fields)
    fields["digest"] = exchange.digest_of(kept, signed, last.digest if last else "")
    session.add(SignatureRow(job_id=row.id, token=token, **fields))
    session.flush()
    return signature.revision


def _refuse(job: Job, last: Signature | None, name: str, changed: str) -> None:
    if not job.forms and not job.readings:
        raise Impossible("sign", "nothing-to-sign")
    if last is not None and last.seq == job.seq:
        raise Impossible("sign", "signed-already", revision=last.revision)
    found = stands_open(job)
    if found:
        closed = next((each for each in found if not each.reason_helps), None)
        if closed is not None and len(found) == 1:
            state = STATE_WORDS[closed.finding.state]
            raise Impossible("sign", "must-be-closed", title=closed.station.title, state=state)
        listed = ", ".join(f"{each.station.title} is {STATE_WORDS[each.finding.state]}" for each in found)
        raise Impossible("sign", "still-open", listed=listed)
    if not name:
        raise Impossible("name", "signer-missing")
    if last is not None and not changed:
        raise Impossible("changed", "changed-missing", revision=last.revision)


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
        row.revision, row.seq, row.by, row.name, row.at, row.changed, row.rules, tuple(row.exceptions), row.digest
    )


def page_of(session: Session, key: str, revision: int) -> tuple[Signature, str, dict[str, Any]] | None:
    """A revision as it was signed: its page and what was found; None where there is none."""
    row = session.scalar(select(SignatureRow).join(JobRow).where(JobRow.key == key, SignatureRow.revision == revision))
    if row is None:
        return None
    signature = _signature(row)
    return signature, row.page.replace(DIGEST_HERE, signature.short), row.judged


@dataclass(frozen=True)
class Proof:
    """Whether a signed revision is still what was signed."""

    key: str
    title: str
    signature: Signature
    holds: bool


def proofs(session: Session) -> Iterator[Proof]:
    """Prove the digest of every signed revision of a shop, job by job."""
    for row in session.scalars(select(JobRow).where(JobRow.id.in_(select(SignatureRow.job_id))).order_by(JobRow.id)):
        try:
            held = exchange.prove_signatures(exchange.export_job(session, row.key))
        except ValueError:
            # A file changed outside may hold what no program of ours writes.
            held = {}
        for signature in signatures(session, row.key):
            yield Proof(row.key, row.title, signature, held.get(signature.revision, False))
