"""Where a job is kept: on the bench, put aside, or in the bin; its name; and a new job of the same make."""

from datetime import UTC, datetime, timedelta
from enum import StrEnum

from sqlalchemy import ColumnElement, ScalarSelect, and_, bindparam, delete, exists, func, select
from sqlalchemy.orm import Session

from uranograph.core.errors import InvalidInput
from uranograph.shop import jobs, letterhead, loading, own_log
from uranograph.shop.own_log import Kind
from uranograph.shop.tables import EntryRow, JobRow, PictureRow, PracticeActRow, PracticeRow, SignatureRow
from uranograph.stations import ORDER

# The file itself keeps rows of a job until it was so long in the bin.
BIN_DAYS = 30


class Shelf(StrEnum):
    """Filter of the job list."""

    BENCH = "bench"
    UNSIGNED = "unsigned"
    SIGNED = "signed"
    ARCHIVED = "archived"
    BIN = "bin"


# Practice is never among the shop's jobs; few jobs are, so the others are not looked at.
_PRACTICE = select(PracticeRow.job_id)
REAL = JobRow.id.not_in(_PRACTICE)


def on(shelf: Shelf) -> ColumnElement[bool]:
    """SQL condition for the jobs of a shelf.

    Examples
    --------
    >>> "binned_at IS NOT NULL" in str(on(Shelf.BIN))
    True
    """
    if shelf is Shelf.BIN:
        return and_(REAL, JobRow.binned_at.is_not(None))
    if shelf is Shelf.ARCHIVED:
        return and_(REAL, JobRow.binned_at.is_(None), JobRow.archived_at.is_not(None))
    here = and_(REAL, JobRow.binned_at.is_(None), JobRow.archived_at.is_(None))
    # Signed is what was signed and not written to since.
    signed = exists().where(SignatureRow.job_id == JobRow.id, SignatureRow.seq == JobRow.seq)
    if shelf is Shelf.SIGNED:
        return and_(here, signed)
    return and_(here, ~signed) if shelf is Shelf.UNSIGNED else here


def _counted(*holds: ColumnElement[bool]) -> ScalarSelect[int]:
    return select(func.count()).select_from(JobRow).where(*holds).scalar_subquery()


# From the few that were ever signed, so that the others are not looked at.
_COUNTS = select(
    _counted(REAL),
    _counted(on(Shelf.BIN)),
    _counted(on(Shelf.ARCHIVED)),
    _counted(JobRow.id.in_(select(SignatureRow.job_id)), on(Shelf.SIGNED)),
)


def counts(session: Session) -> dict[Shelf, int]:
    """Number of jobs on each shelf."""
    every, binned, archived, signed = session.execute(_COUNTS).one()
    bench = every - binned - archived
    return {
        Shelf.BENCH: bench,
        Shelf.UNSIGNED: bench - signed,
        Shelf.SIGNED: signed,
        Shelf.ARCHIVED: archived,
        Shelf.BIN: binned,
    }


_J = JobRow.__table__.c
_SHELF = select(_J.binned_at, _J.archived_at).where(_J.key == bindparam("key"))


def shelf_of(session: Session, key: str) -> tuple[Shelf, datetime | None]:
    """Whether a job is on the bench, archived, or in the bin, and when it goes for good from there.

    Raises
    ------
    NoSuchJob
        When there is no such job.
    """
    session.flush()
    row = session.connection().execute(_SHELF, {"key": key}).one_or_none()
    if row is None:
        raise loading.NoSuchJob(key)
    if row.binned_at is not None:
        return Shelf.BIN, row.binned_at + timedelta(days=BIN_DAYS)
    return Shelf.ARCHIVED if row.archived_at is not None else Shelf.BENCH, None


def rename(session: Session, key: str, title: str, by: str = "") -> None:
    """Call a job by another name; sheets that were signed keep the one they were signed under, and say so.

    Raises
    ------
    InvalidInput
        When the name is missing or too long.
    NoSuchJob
        When there is no such job.
    """
    row = loading.row_of(session, key)
    title = jobs.title_of(title)
    own_log.write(session, Kind.NAME, key, row.title, title, by)
    row.title = title


def move_to(session: Session, key: str, shelf: str, at: datetime | None = None, by: str = "") -> None:
    """Put a job on the bench, into the archive, or into the bin.

    Raises
    ------
    InvalidInput
        When it was signed and is to go into the bin, or the shelf is none that a job is put on.
    NoSuchJob
        When there is no such job.
    """
    row, at = loading.row_of(session, key), at or datetime.now(UTC)
    if shelf not in (Shelf.BENCH, Shelf.ARCHIVED, Shelf.BIN):
        raise InvalidInput("shelf", "no-such-shelf")
    if shelf == Shelf.BIN and _was_signed(session, row):
        raise InvalidInput("shelf", "signed-is-kept")
    before, _ = shelf_of(session, key)
    own_log.write(session, Kind.SHELF, key, before, shelf, by, at)
    row.archived_at = at if shelf == Shelf.ARCHIVED else None
    row.binned_at = at if shelf == Shelf.BIN else None


def due(session: Session) -> list[int]:
    """The jobs that were in the bin for thirty days, by the number of their row.

    What was signed is never among them. Nor is anything where the clock stands far from what was written last: a clock that
    jumps empties no bin.
    """
    now = datetime.now(UTC)
    last = session.scalar(select(func.max(JobRow.touched_at)))
    if last is None or now - last > timedelta(days=BIN_DAYS):
        return []
    old = now - timedelta(days=BIN_DAYS, minutes=1)
    unsigned = ~exists().where(SignatureRow.job_id == JobRow.id)
    return list(session.scalars(select(JobRow.id).where(JobRow.binned_at <= old, unsigned)))


def purge(session: Session) -> int:
    """Let go of what was in the bin for thirty days, and say how many jobs that were."""
    gone = due(session)
    if not gone:
        return 0
    pictures = set(
        session.scalars(select(EntryRow.picture).where(EntryRow.job_id.in_(gone), EntryRow.picture.is_not(None)))
    )
    pictures -= letterhead.marks(session)
    session.execute(delete(EntryRow).where(EntryRow.job_id.in_(gone)))
    used = exists().where(EntryRow.picture == PictureRow.digest)
    session.execute(delete(PictureRow).where(PictureRow.digest.in_(pictures), ~used))
    for table in (PracticeActRow, PracticeRow):
        session.execute(delete(table).where(table.job_id.in_(gone)))
    session.execute(delete(JobRow).where(JobRow.id.in_(gone)))
    return len(gone)


def copy(session: Session, key: str, title: str, by: str, token: str) -> str:
    """Begin a new job of the same make: engine, card, drive and way as they are now, without a reading.

    Parameters
    ----------
    session
        A writing session.
    key
        The job that is taken for a pattern.
    title, by
        What the new one is called, and who begins it.
    token
        The same token twice is one job.

    Returns
    -------
    str
        The new job's key.

    Raises
    ------
    InvalidInput
        When title or initials are missing or too long.
    NoSuchJob
        When there is no such job.
    """
    pattern = loading.load(session, key)
    new = jobs.begin(session, title, by, token)
    if not loading.load(session, new).forms:
        for kind, form in ORDER.forms.items():
            latest = pattern.latest(kind)
            if form.of_make and latest is not None:
                jobs.save_form(session, new, kind, latest.typed, by)
    return new


def _was_signed(session: Session, row: JobRow) -> bool:
    return session.scalar(select(exists().where(SignatureRow.job_id == row.id))) or False
