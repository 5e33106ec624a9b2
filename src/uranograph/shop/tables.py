"""The tables. What is written to a job is one log, `entries`, which is only ever added to; a void is an entry of its own."""

from datetime import UTC, datetime
from typing import Any

from sqlalchemy import (
    JSON,
    DateTime,
    Dialect,
    Float,
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

from uranograph.shop.lengths import MAX_LENGTH


class Moment(TypeDecorator[datetime]):
    """A point in time, kept in UTC, which the database has no type for."""

    impl = DateTime
    cache_ok = True

    def process_bind_param(self, value: datetime | None, dialect: Dialect) -> datetime | None:
        return value.astimezone(UTC).replace(tzinfo=None) if value else None

    def process_result_value(self, value: Any, dialect: Dialect) -> datetime | None:
        return value.replace(tzinfo=UTC) if value else None


class Base(DeclarativeBase):
    """Every table of the shop's file."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )


# Rows whose form states whom a job is for; queries must say it in these very words, or its index is not used.
IS_PARTICULARS = "kind = 'sheet' AND json_extract(payload, '$.kind') = 'particulars'"


class JobRow(Base):
    """One engine on the bench. `seq` numbers everything written to it."""

    __tablename__ = "jobs"
    __table_args__ = (
        Index("ix_jobs_touched_at_id", "touched_at", "id"),
        Index("ix_jobs_archived_at", "archived_at", sqlite_where=text("archived_at IS NOT NULL")),
        Index("ix_jobs_binned_at", "binned_at", sqlite_where=text("binned_at IS NOT NULL")),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(String(MAX_LENGTH["key"]), unique=True)
    token: Mapped[str] = mapped_column(String(MAX_LENGTH["token"]), unique=True)
    title: Mapped[str] = mapped_column(String(MAX_LENGTH["title"]))
    created_at: Mapped[datetime] = mapped_column(Moment)
    touched_at: Mapped[datetime] = mapped_column(Moment)
    seq: Mapped[int] = mapped_column(default=0)
    archived_at: Mapped[datetime | None] = mapped_column(Moment)
    binned_at: Mapped[datetime | None] = mapped_column(Moment)


class EntryRow(Base):
    """One entry of a job's log: a form, a reading, an act, a void, a note, a skip, an acceptance, a change or a picture.

    `payload` is what its kind says of its own, in the form of its `version` (`shop/upcasters.py`).
    """

    __tablename__ = "entries"
    __table_args__ = (
        UniqueConstraint("job_id", "seq"),
        Index("ix_entries_picture", "picture", sqlite_where=text("picture IS NOT NULL")),
        Index("ix_entries_particulars", "job_id", "seq", sqlite_where=text(IS_PARTICULARS)),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"))
    seq: Mapped[int]
    kind: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
    version: Mapped[int]
    station: Mapped[str] = mapped_column(String(MAX_LENGTH["station"]))
    payload: Mapped[dict[str, Any]] = mapped_column(JSON)
    picture: Mapped[str | None] = mapped_column(ForeignKey("pictures.digest"))
    token: Mapped[str | None] = mapped_column(String(MAX_LENGTH["token"]), unique=True)
    by: Mapped[str] = mapped_column(String(MAX_LENGTH["by"]))
    at: Mapped[datetime] = mapped_column(Moment)


class PictureRow(Base):
    """The bytes of a picture, once, by their SHA-256."""

    __tablename__ = "pictures"

    digest: Mapped[str] = mapped_column(String(MAX_LENGTH["digest"]), primary_key=True)
    media_type: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
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
    token: Mapped[str] = mapped_column(String(MAX_LENGTH["token"]), unique=True)
    seq: Mapped[int]
    by: Mapped[str] = mapped_column(String(MAX_LENGTH["by"]))
    name: Mapped[str] = mapped_column(String(MAX_LENGTH["signer"]))
    at: Mapped[datetime] = mapped_column(Moment)
    changed: Mapped[str] = mapped_column(String(MAX_LENGTH["changed"]))
    rules: Mapped[str] = mapped_column(String(MAX_LENGTH["rules"]))
    judged: Mapped[dict[str, Any]] = mapped_column(JSON)
    exceptions: Mapped[list[str]] = mapped_column(JSON)
    page: Mapped[str] = mapped_column(Text)
    digest: Mapped[str] = mapped_column(String(MAX_LENGTH["digest"]))
    signed: Mapped[str | None] = mapped_column(Text)
    seal: Mapped[str | None] = mapped_column(String(MAX_LENGTH["seal"]))
    key_id: Mapped[str | None] = mapped_column(String(MAX_LENGTH["digest"]))
    page_digest: Mapped[str | None] = mapped_column(String(MAX_LENGTH["digest"]))
    title: Mapped[str | None] = mapped_column(String(MAX_LENGTH["title"]))


class HeadRow(Base):
    """Count of signatures outside their table, so that a deleted signature is detected."""

    __tablename__ = "heads"

    id: Mapped[int] = mapped_column(primary_key=True)
    job_key: Mapped[str] = mapped_column(String(MAX_LENGTH["key"]))
    title: Mapped[str] = mapped_column(String(MAX_LENGTH["title"]))
    revision: Mapped[int]
    digest: Mapped[str] = mapped_column(String(MAX_LENGTH["digest"]))
    seal: Mapped[str] = mapped_column(String(MAX_LENGTH["seal"]))
    key_id: Mapped[str] = mapped_column(String(MAX_LENGTH["digest"]))


class ShopLogRow(Base):
    """Log of changes to the shop: job names, shelves, limits and library items, with old and new values."""

    __tablename__ = "shop_log"
    __table_args__ = (Index("ix_shop_log_kind_name", "kind", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[datetime] = mapped_column(Moment)
    by: Mapped[str] = mapped_column(String(MAX_LENGTH["by"]))
    kind: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
    name: Mapped[str] = mapped_column(String(MAX_LENGTH["title"]))
    old: Mapped[str] = mapped_column(Text)
    new: Mapped[str] = mapped_column(Text)


class LibraryRow(Base):
    """A card or drive in the library. A newer item of the same name replaces an older one."""

    __tablename__ = "library"
    __table_args__ = (Index("ix_library_kind_name_id", "kind", "name", "id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
    name: Mapped[str] = mapped_column(String(MAX_LENGTH["library name"]))
    typed: Mapped[dict[str, str]] = mapped_column(JSON)
    by: Mapped[str] = mapped_column(String(MAX_LENGTH["by"]))
    at: Mapped[datetime] = mapped_column(Moment)


class LimitRow(Base):
    """Shop settings; the newest row of a name counts."""

    __tablename__ = "house"
    __table_args__ = (Index("ix_house_name_id", "name", "id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(String(MAX_LENGTH["limit"]))
    value: Mapped[str] = mapped_column(String(MAX_LENGTH["value"]))
    by: Mapped[str] = mapped_column(String(MAX_LENGTH["by"]))
    at: Mapped[datetime] = mapped_column(Moment)


class PracticeRow(Base):
    """A job that is practice: which exercise, and the seed of its made-up engine."""

    __tablename__ = "practices"

    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"), primary_key=True)
    exercise: Mapped[int]
    seed: Mapped[int]


class PracticeActRow(Base):
    """One thing done to the made-up engine of a practice job."""

    __tablename__ = "practice_acts"
    __table_args__ = (Index("ix_practice_acts_job_id_id", "job_id", "id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("practices.job_id"))
    kind: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
    on: Mapped[str] = mapped_column(String(MAX_LENGTH["kind"]))
    by: Mapped[float] = mapped_column(Float)
    at: Mapped[datetime] = mapped_column(Moment)
