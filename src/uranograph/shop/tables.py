"""The tables. Sheets and readings are only ever added; a void is a row of its own."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    JSON,
    DateTime,
    Dialect,
    ForeignKey,
    Index,
    LargeBinary,
    MetaData,
    String,
    Text,
    TypeDecorator,
    UniqueConstraint,
    text,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Moment(TypeDecorator[datetime]):
    """A point in time, kept in UTC, which the database has no type for."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return value.astimezone(UTC).replace(tzinfo=None) if value else None

    def process_result_value(self, value: Any, dialect: Dialect) -> datetime | None:
        return value.replace(tzinfo=UTC) if value else None


class Base(DeclarativeBase):
    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


class JobRow(Base):
    """One engine on the bench. `seq` numbers everything written to it."""

    __tablename__ = "jobs"
    __table_args__ = (
        Index("ix_jobs_touched_at_id", "touched_at", "id"),
        Index("ix_jobs_archived_at", "archived_at", sqlite_where=text("archived_at IS NOT NULL")),
        Index("ix_jobs_binned_at", "binned_at", sqlite_where=text("binned_at IS NOT NULL")),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(String(16), unique=True)
    token: Mapped[str] = mapped_column(String(64), unique=True)
    title: Mapped[str] = mapped_column(String(120))
    created_at: Mapped[datetime] = mapped_column(Moment)
    touched_at: Mapped[datetime] = mapped_column(Moment)
    seq: Mapped[int] = mapped_column(default=0)
    archived_at: Mapped[datetime | None] = mapped_column(Moment)
    binned_at: Mapped[datetime | None] = mapped_column(Moment)


class FormRow(Base):
    """One version of a form as typed."""

    __tablename__ = "sheets"
    __table_args__ = (UniqueConstraint("job_id", "seq"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"))
    seq: Mapped[int]
    kind: Mapped[str] = mapped_column(String(16))
    typed: Mapped[dict[str, str]] = mapped_column(JSON)
    by: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(Moment)


class ReadingRow(Base):
    """One reading as typed."""

    __tablename__ = "readings"
    __table_args__ = (UniqueConstraint("job_id", "seq"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"))
    seq: Mapped[int]
    token: Mapped[str | None] = mapped_column(String(64), unique=True)
    station: Mapped[str] = mapped_column(String(24))
    slot: Mapped[str] = mapped_column(String(64))
    text: Mapped[str] = mapped_column(String(64))
    side: Mapped[str | None] = mapped_column(String(8))
    approach: Mapped[str] = mapped_column(String(16))
    second: Mapped[str | None] = mapped_column("drop", String(32), key="second")
    unit: Mapped[str] = mapped_column(String(8))
    instrument: Mapped[str] = mapped_column(String(32))
    note: Mapped[str | None] = mapped_column(String(600))
    by: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(Moment)


class VoidRow(Base):
    """Why a reading no longer counts."""

    __tablename__ = "voids"

    reading_id: Mapped[int] = mapped_column(ForeignKey("readings.id"), primary_key=True)
    seq: Mapped[int]
    reason: Mapped[str] = mapped_column(String(200))
    by: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(Moment)


class PhotoRow(Base):
    """A picture that belongs to a reading of its own."""

    __tablename__ = "photos"

    reading_id: Mapped[int] = mapped_column(ForeignKey("readings.id"), primary_key=True)
    media_type: Mapped[str] = mapped_column(String(16))
    data: Mapped[bytes] = mapped_column(LargeBinary)


class SignatureRow(Base):
    """A build sheet as it was signed: the page, what judged it, and the bytes of all of that and of the log up to `seq`.

    `signed` is those bytes, `digest` theirs, `seal` what the shop's key made of the digest. A page that came in with a file
    is not kept, only its digest.
    """

    __tablename__ = "signatures"
    __table_args__ = (UniqueConstraint("job_id", "revision"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"))
    revision: Mapped[int]
    token: Mapped[str] = mapped_column(String(64), unique=True)
    seq: Mapped[int]
    by: Mapped[str] = mapped_column(String(8))
    name: Mapped[str] = mapped_column(String(80))
    at: Mapped[datetime] = mapped_column(Moment)
    changed: Mapped[str] = mapped_column(String(300))
    rules: Mapped[str] = mapped_column(String(40))
    judged: Mapped[dict[str, Any]] = mapped_column(JSON)
    exceptions: Mapped[list[str]] = mapped_column(JSON)
    page: Mapped[str] = mapped_column(Text)
    digest: Mapped[str] = mapped_column(String(64))
    signed: Mapped[str | None] = mapped_column(Text)
    seal: Mapped[str | None] = mapped_column(String(128))
    key_id: Mapped[str | None] = mapped_column(String(64))
    page_digest: Mapped[str | None] = mapped_column(String(64))
    title: Mapped[str | None] = mapped_column(String(120))


class HeadRow(Base):
    """One signature counted, beside the table of signatures: what is taken away there is missing here."""

    __tablename__ = "heads"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_key: Mapped[str] = mapped_column(String(16))
    title: Mapped[str] = mapped_column(String(120))
    revision: Mapped[int]
    digest: Mapped[str] = mapped_column(String(64))
    seal: Mapped[str] = mapped_column(String(128))
    key_id: Mapped[str] = mapped_column(String(64))


class ShopLogRow(Base):
    """What was changed of the shop itself: a job's name or shelf, a limit, a thing in the library; from what to what."""

    __tablename__ = "shop_log"
    __table_args__ = (Index("ix_shop_log_kind_name", "kind", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(Moment)
    by: Mapped[str] = mapped_column(String(8))
    kind: Mapped[str] = mapped_column(String(16))
    name: Mapped[str] = mapped_column(String(120))
    old: Mapped[str] = mapped_column(Text)
    new: Mapped[str] = mapped_column(Text)


class LibraryRow(Base):
    """A card or a drive kept for other jobs. A newer one of the same name stands before an older."""

    __tablename__ = "library"
    __table_args__ = (Index("ix_library_kind_name_id", "kind", "name", "id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(16))
    name: Mapped[str] = mapped_column(String(80))
    typed: Mapped[dict[str, str]] = mapped_column(JSON)
    by: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(Moment)


class HouseRow(Base):
    """What the shop has set for all new jobs; the newest of a name counts."""

    __tablename__ = "house"
    __table_args__ = (Index("ix_house_name_id", "name", "id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(40))
    value: Mapped[str] = mapped_column(String(80))
    by: Mapped[str] = mapped_column(String(8))
    at: Mapped[datetime] = mapped_column(Moment)
