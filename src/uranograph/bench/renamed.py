"""What was ever called otherwise: entries of older logs and files, brought to the names of today.

A station, slot, form, act or limit that gets another name has its old one here, for good: what was written under it is read
under the new one, and what was signed under it still holds. A test keeps every name that was ever shipped.
"""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.acts import ACT

# From the old name to the new, for each kind of name. A slot is named with its station: `station/kind`.
STATIONS: dict[str, str] = {}
SLOTS: dict[str, str] = {}
FORMS: dict[str, str] = {}
FIELDS: dict[str, str] = {}
ACT_KINDS: dict[str, str] = {}
LIMITS: dict[str, str] = {}


def station_now(station: str) -> str:
    """A station's name of today."""
    return STATIONS.get(station, station)


def slot_now(station: str, slot: str) -> str:
    """A slot's name of today, in a station under its name of today or of then.

    Examples
    --------
    >>> slot_now("tdc", "stop.1.before")
    'stop.1.before'
    """
    kind, dot, rest = slot.partition(".")
    if kind == ACT:
        number, _, act = rest.partition(".")
        return f"{ACT}.{number}.{ACT_KINDS.get(act, act)}"
    if not SLOTS:
        return slot
    new = SLOTS.get(f"{station}/{kind}") or SLOTS.get(f"{station_now(station)}/{kind}") or kind
    return f"{new}{dot}{rest}"


def typed_now(kind: str, typed: Mapping[str, str]) -> Mapping[str, str]:
    """What was typed into a form, by the names that its fields have today; a field is named with its form: `form/field`."""
    if not FIELDS:
        return typed
    return {FIELDS.get(f"{kind}/{name}", name): text for name, text in typed.items()}


def upcast(entry: Mapping[str, Any]) -> dict[str, Any]:
    """An entry of a job file or of a signed document under the names of today.

    Parameters
    ----------
    entry
        With its `type`; what it does not have stays away.

    Examples
    --------
    >>> upcast({"type": "void", "of": 3})
    {'type': 'void', 'of': 3}
    """
    found = dict(entry)
    kind = entry.get("type")
    if isinstance(entry.get("station"), str):
        found["station"] = station_now(entry["station"])
    if kind == "reading" and isinstance(entry.get("slot"), str):
        found["slot"] = slot_now(str(entry.get("station", "")), entry["slot"])
    if kind == "act" and isinstance(entry.get("kind"), str):
        found["kind"] = ACT_KINDS.get(entry["kind"], entry["kind"])
    if kind == "sheet" and isinstance(entry.get("kind"), str):
        found["kind"] = FORMS.get(entry["kind"], entry["kind"])
        if isinstance(entry.get("typed"), dict):
            found["typed"] = dict(typed_now(entry["kind"], entry["typed"]))
    return found
