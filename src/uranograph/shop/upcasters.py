"""Entries of older logs and files brought to the form and the names of today, one version after the other.

An entry is kept in the version that it was written in, for good: what was signed under it still holds. Each function here takes
entries of one version to the next; what is no entry of that version, or is of the next already, is left as it is. A station,
slot, form, field, act or limit that gets another name has its old one here. A test keeps every name that was ever shipped.
"""

import base64
import hashlib
import json
from collections.abc import Callable, Mapping
from typing import Any

from uranograph.bench.acts import ACT, ACTS, CAM_MOVED

VERSION = 4
Raw = dict[str, Any]

# From the old name to the new, for each kind of name. A slot is named with its station, `station/kind`, a field with its form.
STATIONS: dict[str, str] = {}
SLOTS: dict[str, str] = {}
FORMS: dict[str, str] = {}
FIELDS: dict[str, str] = {}
ACT_KINDS: dict[str, str] = {}
LIMITS: dict[str, str] = {}

_MOVED = {"try": "both", "try-intake": "intake", "try-exhaust": "exhaust"}
_SAID = ("seq", "station", "by", "at")


def _from_1(entry: Raw) -> Raw:
    """Version 1 to 2: slots and fields came, none changed."""
    return entry


def _from_2(entry: Raw) -> Raw:
    """Version 2 to 3: acts, and moves of the cam, stood among the readings."""
    if entry.get("type") != "reading":
        return entry
    slot, note, text = str(entry.get("slot", "")), entry.get("note"), str(entry.get("text", ""))
    act = {"type": "act", **{name: entry.get(name) for name in _SAID}}
    first, _, rest = slot.partition(".")
    if slot == "moved":
        return {**act, "kind": "wheel-moved"}
    if first == ACT and rest.partition(".")[2] in ACTS:
        return {**act, "kind": rest.partition(".")[2], "what": "" if text == "done" else text, "scope": note}
    if first in _MOVED:
        try:
            moves, shift = json.loads(note or "[]"), float(text)
        except ValueError:
            return entry
        return {**act, "kind": CAM_MOVED, "cam": _MOVED[first], "moves": moves, "shift_deg": shift}
    return entry


def _from_3(entry: Raw) -> Raw:
    """Version 3 to 4: annotations were readings, with their details in `note` and `scope`."""
    if entry.get("type") == "act":
        return _act_from_3(entry)
    if entry.get("type") != "reading":
        return entry
    slot, note = str(entry.get("slot", "")), entry.get("note")
    said = {name: entry[name] for name in _SAID if name in entry}
    kind = slot.partition(".")[0]
    if "." in slot and kind in _BESIDE:
        return {**said, **_BESIDE[kind](entry)}
    found = {name: value for name, value in entry.items() if name not in ("note", "picture", "picture_digest")}
    if note:
        if slot.startswith("sweep") and str(note).isdecimal():
            return {**found, "points": int(note)}
        about, line, order = str(note).partition("\n")
        found["about"] = about
        if line:
            found["order"] = [int(each) for each in order.split(",") if each.isdecimal()]
    return found


def _note(entry: Raw) -> Raw:
    about = str(entry.get("drop") or "")
    return {"type": "note", "words": entry.get("note"), "about": int(about) if about.isdecimal() else None}


def _picture(entry: Raw) -> Raw:
    found = {"type": "picture", "caption": entry.get("text")}
    if "picture_digest" in entry:
        return {**found, "digest": entry["picture_digest"], "media_type": entry.get("media_type")}
    data = entry.get("picture")
    return {**found, **picture_of(data)} if isinstance(data, str) else found


_BESIDE: dict[str, Callable[[Raw], Raw]] = {
    "note": _note,
    "photo": _picture,
    "skip": lambda entry: {"type": "skip", "reason": entry.get("note") or ""},
    "anew": lambda entry: {"type": "change", "what": entry.get("text")},
    "accepted": lambda entry: {"type": "acceptance", "was": entry.get("text"), "reason": entry.get("note") or ""},
}


def _act_from_3(entry: Raw) -> Raw:
    scope = entry.get("scope")
    if not isinstance(scope, str):
        return entry
    found = {name: value for name, value in entry.items() if name != "scope"}
    if scope.startswith("with ") and scope[5:].isdecimal():
        return {**found, "brought_by": int(scope[5:])}
    if scope.isascii() and scope.isdecimal():
        return {**found, "since": int(scope)}
    return entry


def picture_of(data: str) -> Raw:
    """Metadata of a picture: SHA-256 and media type by its first bytes.

    Parameters
    ----------
    data
        PNG or JPEG as base64.

    Raises
    ------
    ValueError
        When it is not base64.
    """
    content = base64.b64decode(data, validate=False)
    kind = "image/png" if content.startswith(b"\x89PNG") else "image/jpeg"
    return {"digest": hashlib.sha256(content).hexdigest(), "media_type": kind, "data": data}


# From each version to the next.
UPCASTERS: dict[int, Callable[[Raw], Raw]] = {1: _from_1, 2: _from_2, 3: _from_3}


def upcast(entry: Mapping[str, Any], version: int = 1) -> Raw:
    """An entry of a log, a job file or a signed document as it is written today, under the names of today.

    Parameters
    ----------
    entry
        With its `type`; what it does not have stays away.
    version
        That it was written in; where it may be any, the first.

    Returns
    -------
    dict
        A picture that stood in the entry is in its `data`, as base64.

    Examples
    --------
    >>> upcast({"type": "void", "of": 3})
    {'type': 'void', 'of': 3}
    >>> upcast({"type": "reading", "station": "here", "slot": "anew.1.in_sentence", "text": "shim out"}, 3)
    {'station': 'here', 'type': 'change', 'what': 'shim out'}
    """
    found = dict(entry)
    for number in range(version, VERSION):
        found = UPCASTERS[number](found)
    return named_now(found)


def named_now(entry: Raw) -> Raw:
    """An entry of today's form under the names of today."""
    kind = entry.get("type")
    if kind == "sheet":
        if not FORMS and not FIELDS:
            return entry
        form, typed = str(entry.get("kind")), entry.get("typed")
        named = (
            {FIELDS.get(f"{form}/{name}", name): text for name, text in typed.items()}
            if isinstance(typed, dict)
            else typed
        )
        return {**entry, "kind": FORMS.get(form, form), "typed": named}
    station = entry.get("station")
    if kind == "reading" and SLOTS:
        first, dot, rest = str(entry.get("slot", "")).partition(".")
        now = STATIONS.get(str(station), str(station))
        new = SLOTS.get(f"{station}/{first}") or SLOTS.get(f"{now}/{first}") or first
        entry = {**entry, "slot": f"{new}{dot}{rest}"}
    if kind == "act" and ACT_KINDS:
        entry = {**entry, "kind": ACT_KINDS.get(str(entry.get("kind")), entry.get("kind"))}
    if STATIONS and station in STATIONS:
        entry = {**entry, "station": STATIONS[str(station)]}
    return entry


def renames() -> bool:
    """Whether anything that entries name has another name today."""
    return any((STATIONS, SLOTS, FORMS, FIELDS, ACT_KINDS))


def limit_now(name: str) -> str:
    """A limit's name of today."""
    return LIMITS.get(name, name)
