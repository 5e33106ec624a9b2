"""The shop's own log: names, shelves, limits, the library and backups, each change with who, when, from what and to what."""

from dataclasses import dataclass
from datetime import UTC, datetime
from enum import StrEnum

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.shop.tables import ShopLogRow


class Kind(StrEnum):
    """The kind of change."""

    NAME = "name"
    SHELF = "shelf"
    LIMIT = "limit"
    LIBRARY = "library"
    BACKUP = "backup"


@dataclass(frozen=True)
class SettingChange:
    """One change of the shop; `name` is a job's key, a limit, or kind and name of a thing in the library."""

    kind: str
    name: str
    old: str
    new: str
    by: str
    at: datetime


def write(session: Session, kind: Kind, name: str, old: str, new: str, by: str, at: datetime | None = None) -> None:
    """Write down a change; the same as before is none.

    Parameters
    ----------
    session
        A writing session.
    kind, name
        What was changed.
    old, new
        From what, to what.
    by, at
        Initials, as they are known; when, now unless given.
    """
    if old != new:
        session.add(ShopLogRow(kind=kind, name=name, old=old, new=new, by=by, at=at or datetime.now(UTC)))


def of(session: Session, kind: Kind, name: str | None = None) -> list[SettingChange]:
    """Every change of a kind, or of one thing of that kind, oldest first."""
    wanted = select(ShopLogRow).where(ShopLogRow.kind == kind).order_by(ShopLogRow.id)
    if name is not None:
        wanted = wanted.where(ShopLogRow.name == name)
    return [SettingChange(row.kind, row.name, row.old, row.new, row.by, row.at) for row in session.scalars(wanted)]


def backed_up(session: Session, by: str, at: datetime | None = None) -> None:
    """Write down that the shop was backed up: by whom, as far as known, and when."""
    at = at or datetime.now(UTC)
    write(session, Kind.BACKUP, "shop", "", at.isoformat(timespec="seconds"), by, at)


def last_backup(session: Session) -> SettingChange | None:
    """The newest backup, or None where there was none."""
    made = of(session, Kind.BACKUP)
    return made[-1] if made else None
