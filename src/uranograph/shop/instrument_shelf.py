"""The shop's instruments that say themselves what they show: kept by name, the newest of each; never taken over from a file."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from uranograph.core.errors import InvalidInput
from uranograph.instruments.definition import Definition
from uranograph.shop import own_log
from uranograph.shop.jobs import initials
from uranograph.shop.own_log import Kind
from uranograph.shop.tables import LibraryRow

KIND = "instrument"
MOST = 40


@dataclass(frozen=True)
class StoredInstrument:
    """One instrument as it was typed; `definition` is None where a later version cannot read it any more."""

    name: str
    typed: Mapping[str, str]
    by: str
    definition: Definition | None


def stored(session: Session) -> tuple[StoredInstrument, ...]:
    """The instruments of the shop, by name."""
    newest = select(func.max(LibraryRow.id)).where(LibraryRow.kind == KIND).group_by(LibraryRow.name)
    rows = session.scalars(select(LibraryRow).where(LibraryRow.id.in_(newest)).order_by(LibraryRow.name))
    return tuple(
        StoredInstrument(row.name, row.typed, row.by, Definition.read(row.typed).value) for row in rows if row.typed
    )


def definitions(session: Session) -> dict[str, Definition]:
    """What is to be read, by name."""
    return {each.name: each.definition for each in stored(session) if each.definition is not None}


def keep(session: Session, typed: Mapping[str, str], by: str, at: datetime | None = None) -> str:
    """Keep an instrument; an older one of the same name stays in the record behind it.

    Parameters
    ----------
    session
        A writing session.
    typed
        By field of `Definition`.
    by
        Initials.
    at
        When; now unless given.

    Returns
    -------
    str
        Its name.

    Raises
    ------
    InvalidInput
        When there are too many, or the initials are missing. What is wrong in `typed` is found by `Definition.read` before.
    """
    name = typed["name"].strip()
    there = {each.name: each for each in stored(session)}
    if name not in there and len(there) >= MOST:
        raise InvalidInput("name", "too-many-instruments", most=MOST)
    own = {field.name: typed[field.name].strip() for field in Definition.fields() if typed.get(field.name, "").strip()}
    _write(session, name, dict(there[name].typed) if name in there else {}, own, by, at)
    return name


def remove(session: Session, name: str, by: str, at: datetime | None = None) -> None:
    """Take an instrument off the list; what it was stays in the record behind it.

    Raises
    ------
    InvalidInput
        When there is none of this name, or the initials are missing.
    """
    there = {each.name: each for each in stored(session)}
    if name not in there:
        raise InvalidInput("name", "no-such-instrument", typed=name[:40])
    _write(session, name, dict(there[name].typed), {}, by, at)


def as_it_was(session: Session, name: str) -> dict[str, str]:
    """What was typed of an instrument that was taken off the list; empty where it is there, or never was."""
    rows = session.scalars(
        select(LibraryRow)
        .where(LibraryRow.kind == KIND, LibraryRow.name == name)
        .order_by(LibraryRow.id.desc())
        .limit(2)
    ).all()
    return dict(rows[1].typed) if len(rows) == 2 and not rows[0].typed else {}


def _write(
    session: Session, name: str, before: dict[str, str], after: dict[str, str], by: str, at: datetime | None
) -> None:
    signed, at = initials(by), at or datetime.now(UTC)
    session.add(LibraryRow(kind=KIND, name=name, typed=after, by=signed, at=at))
    old, new = (json.dumps(each, ensure_ascii=False, sort_keys=True) if each else "" for each in (before, after))
    own_log.write(session, Kind.LIBRARY, f"{KIND}/{name}", old, new, signed, at)
    session.flush()
