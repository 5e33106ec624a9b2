"""Library of cards, drives, wheels and lists, and the shop's settings for new jobs."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import bindparam, func, select
from sqlalchemy.orm import Session

from uranograph.bench.instruments import HOUSE_NAMES
from uranograph.bench.shop_limits import ShopLimit
from uranograph.core.errors import InvalidInput
from uranograph.shop import own_log
from uranograph.shop.jobs import initials
from uranograph.shop.own_log import Kind
from uranograph.shop.tables import LibraryRow, LimitRow
from uranograph.stations import ORDER

KINDS = tuple(kind for kind, form in ORDER.forms.items() if form.shelved)


@dataclass(frozen=True)
class ShelvedForm:
    """One thing in the library."""

    id: int
    name: str
    typed: Mapping[str, str]
    by: str


def keep(session: Session, kind: str, name: str, typed: Mapping[str, str], by: str, at: datetime | None = None) -> None:
    """Keep a card or a drive under a name; an older one of the same name stays in the record behind it.

    Raises
    ------
    InvalidInput
        When the name is missing or too long, or there is nothing to keep.
    """
    name = name.strip()
    if not name or len(name) > 80:
        raise InvalidInput("library_name", "name-missing")
    kept = {field: typed[field].strip() for field in ORDER.forms[kind].fields if typed.get(field, "").strip()}
    if not kept.keys() - {"unit"}:
        raise InvalidInput("library_name", "nothing-to-keep")
    before = next((each.typed for each in shelf(session, kind) if each.name == name), None)
    signed, at = initials(by), at or datetime.now(UTC)
    session.add(LibraryRow(kind=kind, name=name, typed=kept, by=signed, at=at))
    old = "" if before is None else json.dumps(dict(before), ensure_ascii=False, sort_keys=True)
    new = json.dumps(kept, ensure_ascii=False, sort_keys=True)
    own_log.write(session, Kind.LIBRARY, f"{kind}/{name}", old, new, signed, at)


_L = LibraryRow.__table__.c
_NEWEST = select(func.max(_L.id)).where(_L.kind == bindparam("kind")).group_by(_L.name)
_SHELF = select(_L.id, _L.name, _L.typed, _L.by).where(_L.id.in_(_NEWEST)).order_by(_L.name)


def shelf(session: Session, kind: str) -> list[ShelvedForm]:
    """Library items of one kind, the newest of each name, by name."""
    session.flush()
    newest = [ShelvedForm(*row) for row in session.connection().execute(_SHELF, {"kind": kind})]
    return [each for each in newest if each.typed]


def remove(session: Session, kind: str, name: str, by: str, at: datetime | None = None) -> None:
    """Take a thing out of the library; what it was stays in the record behind it.

    Raises
    ------
    InvalidInput
        When the initials are missing, or there is no such thing.
    """
    before = next((each.typed for each in shelf(session, kind) if each.name == name), None)
    if before is None:
        raise InvalidInput("library_name", "not-in-library", typed=name)
    signed, at = initials(by), at or datetime.now(UTC)
    session.add(LibraryRow(kind=kind, name=name, typed={}, by=signed, at=at))
    own_log.write(
        session,
        Kind.LIBRARY,
        f"{kind}/{name}",
        json.dumps(dict(before), ensure_ascii=False, sort_keys=True),
        "",
        signed,
        at,
    )


def default_of(session: Session, name: str) -> str | None:
    """Shop setting, or None."""
    return session.scalar(select(LimitRow.value).where(LimitRow.name == name).order_by(LimitRow.id.desc()).limit(1))


def set_default(session: Session, name: str, value: str, by: str, at: datetime | None = None) -> None:
    """Set something for all new jobs."""
    signed, at = initials(by), at or datetime.now(UTC)
    own_log.write(session, Kind.LIMIT, name, default_of(session, name) or "", value, signed, at)
    session.add(LimitRow(name=name, value=value, by=signed, at=at))


def shop_values(session: Session) -> dict[str, ShopLimit]:
    """The limits persons have set, the newest of each; those at their starting value are left out."""
    newest = {change.name: change.value for change in default_history(session, newest_first=False)}
    return {name: value for name, value in newest.items() if value.text}


@dataclass(frozen=True)
class DefaultChange:
    """One setting of one limit; an empty text took the starting value up again."""

    name: str
    value: ShopLimit


def default_history(session: Session, newest_first: bool = True) -> list[DefaultChange]:
    """Every setting of every limit."""
    order = LimitRow.id.desc() if newest_first else LimitRow.id
    rows = session.scalars(select(LimitRow).where(LimitRow.name.in_(HOUSE_NAMES)).order_by(order))
    return [DefaultChange(row.name, ShopLimit(row.value, row.by, row.at)) for row in rows]


def set_limits(session: Session, texts: Mapping[str, str], by: str, at: datetime | None = None) -> None:
    """Write down the limits that differ from what counts now.

    Raises
    ------
    InvalidInput
        When the initials are missing or too long.
    """
    signed = initials(by)
    now = {name: value.text for name, value in shop_values(session).items()}
    for name, text in texts.items():
        if name in HOUSE_NAMES and text != now.get(name, ""):
            set_default(session, name, text, signed, at)
