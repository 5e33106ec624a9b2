"""Two jobs, or two signed revisions, side by side: figure by figure, and what was done in between."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench.acts import Act
from uranograph.bench.job import Job
from uranograph.bench.log import Change
from uranograph.shop import jobs, judging, loading, signing
from uranograph.shop.tables import JobRow
from uranograph.stations import ORDER

MAX_OFFERED = 40


@dataclass(frozen=True)
class ComparedSide:
    """One of the two: which, when it was as it is shown, and what every station found."""

    key: str
    title: str
    revision: int | None
    at: datetime
    judged: Mapping[str, Any]

    @property
    def name(self) -> str:
        return f"{self.title}, revision {self.revision}" if self.revision else self.title

    @property
    def address(self) -> str:
        return f"{self.key}@{self.revision}" if self.revision else self.key


@dataclass(frozen=True)
class ComparedFigure:
    """One figure of both; `change` is the second less the first where both are numbers."""

    station: str
    label: str
    one: str
    other: str
    change: str


@dataclass(frozen=True)
class Compared:
    """Both sides, the earlier first, the figures that they have, how far a cam went, and what was done in between."""

    one: ComparedSide
    other: ComparedSide
    lines: tuple[ComparedFigure, ...]
    later_deg: Mapping[str, float]
    done: tuple[Act | Change, ...]


def side_of(session: Session, address: str) -> ComparedSide:
    """A job by its key, or a signed revision of it by `key@revision`.

    Raises
    ------
    NoSuchJob
        When there is none.
    """
    key, _, number = address.partition("@")
    job = loading.load(session, key)
    if number:
        found = signing.page_of(session, key, int(number)) if number.isdecimal() and len(number) < 7 else None
        if found is None:
            raise loading.NoSuchJob(address)
        return ComparedSide(key, job.title, found.signature.revision, found.signature.at, found.judged)
    last = judging.Last(*jobs.last_written(session, key))
    return ComparedSide(key, job.title, None, loading.row_of(session, key).touched_at, judging.judge_job(job, last))


def compare(session: Session, one: str, other: str) -> Compared:
    """Put two jobs or revisions side by side, the earlier first.

    Raises
    ------
    NoSuchJob
        When either is not there.
    """
    first, second = sorted((side_of(session, each) for each in (one, other)), key=lambda side: side.at)
    lines = [
        line
        for station in ORDER.stations
        for line in _lines(station.title, *(side.judged["stations"].get(station.key) for side in (first, second)))
    ]
    errors = [side.judged.get("by_cam", {}) for side in (first, second)]
    later = {cam: errors[1][cam]["error_deg"] - errors[0][cam]["error_deg"] for cam in errors[0] if cam in errors[1]}
    return Compared(first, second, tuple(lines), later, tuple(_between(session, first, second)))


def _lines(title: str, one: Mapping[str, Any] | None, other: Mapping[str, Any] | None) -> list[ComparedFigure]:
    found = []
    for label in dict.fromkeys(row["label"] for side in (one, other) if side for row in side["rows"]):
        texts = (_text(one, label), _text(other, label))
        # Rows that neither job has, or that are equal as text, are left out.
        if any(texts) and (texts[0] != texts[1] or any(each.isdigit() for each in texts[0])):
            found.append(ComparedFigure(title, label, *texts, _change(list(texts))))
    return found


def _text(side: Mapping[str, Any] | None, label: str) -> str:
    rows = side["rows"] if side else ()
    return next((row["measured"] for row in rows if row["label"] == label), "")


def _change(texts: Sequence[str]) -> str:
    try:
        one, other = (float(text.replace("−", "-")) for text in texts)
    except ValueError:
        return ""
    places = max((len(text.partition(".")[2]) for text in texts), default=0)
    change = f"{other - one:+.{places}f}".replace("-", "−")
    return "0" if float(change.replace("−", "-")) == 0 else change


def _between(session: Session, first: ComparedSide, second: ComparedSide) -> list[Act | Change]:
    """Acts between the earlier and the later state of either job."""
    found = []
    for job in {key: loading.load(session, key) for key in (first.key, second.key)}.values():
        found += [each for each in _acts(job) if first.at < each.at <= second.at]
    return sorted(found, key=lambda each: each.at)


def _acts(job: Job) -> list[Act | Change]:
    return [each for each in job.entries if each.void is None and isinstance(each, Act | Change)]


def offered(session: Session, but: str, signed: Sequence[signing.Signature]) -> list[tuple[str, str]]:
    """Candidates for comparison: recent jobs, and signed revisions of this one."""
    own = [(f"{but}@{each.revision}", f"revision {each.revision} of this job") for each in signed]
    newest = (
        select(JobRow.key, JobRow.title).where(JobRow.key != but).order_by(JobRow.touched_at.desc()).limit(MAX_OFFERED)
    )
    return own + [(key, title) for key, title in session.execute(newest)]
