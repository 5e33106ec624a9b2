"""What is done to engine and set-up between two readings, and what each act disturbs.

A station says what its readings rest on. A reading holds until an act disturbs something it rests on.
"""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from types import MappingProxyType
from typing import Any

from uranograph.core.errors import Impossible

ACT = "act"
# Stands for an act of which nothing more is said.
DONE = "done"
CAM_MOVED, POSITION = "cam-moved", "position"


# What was taken off or fitted, in words, and what each disturbs; where nobody says, it may have been any of them.
PARTS = {
    "gears": "gears, chain or belt",
    "limits": "parts that limit end play",
    "other": "other parts",
}
_PARTS_DISTURB = {
    "gears": ("parts", "limits", "gear", "mesh", "phase"),
    "limits": ("parts", "limits"),
    "other": ("parts",),
}
WAYS = {"earlier": "earlier (advanced)", "later": "later (retarded)"}
MOST_TEETH = 99


@dataclass(frozen=True)
class Act:
    """Something done: the name it is written under, what it says, what it disturbs, and what more can be said of it."""

    kind: str
    words: str
    disturbs: tuple[str, ...]
    details: tuple[str, ...] = ()


ACTS = {
    act.kind: act
    for act in (
        Act("wheel-moved", "The wheel or its pointer was moved", ("wheel",)),
        Act("wheel-refitted", "The wheel came off and went on again", ("wheel",)),
        Act("cam-moved", "The cam was moved in its drive", ("phase",), ("cam",)),
        Act("cam-refitted", "The cam came out and went in again", ("room", "mesh", "phase"), ("cam",)),
        Act("gear-turned", "A gear was turned by teeth", ("mesh", "phase"), ("gear", "teeth", "way", "cam")),
        Act("gear-exchanged", "A gear was exchanged", ("gear", "mesh", "phase"), ("gear", "cam")),
        Act("parts-fitted", "Parts were fitted", _PARTS_DISTURB["gears"], ("of",)),
        Act("parts-removed", "Parts were taken off", _PARTS_DISTURB["gears"], ("of",)),
        Act("shims-changed", "Shims went in or came out", ("shims",)),
        Act("cheek-sanded", "A thrust face was sanded", ("shims",)),
        Act("shaft-trued", "The shaft was trued", ("shaft",)),
        Act("sprocket-shimmed", "A sprocket was shimmed", ("sprockets",)),
        Act("indicator-moved", "The indicator or its base was moved", ("indicator",)),
        Act("lash-changed", "Valve lash was changed", ("lash",)),
    )
}


@lru_cache(maxsize=4096)
def kind_of(slot: str) -> str:
    """The kind of act that a slot names, empty where it names none.

    Examples
    --------
    >>> kind_of("act.2.shaft-trued"), kind_of("set-1.1.dial")
    ('shaft-trued', '')
    """
    first, _, rest = slot.partition(".")
    return rest.partition(".")[2] if first == ACT else ""


def said(slot: str, text: str, note: str | None = None) -> str:
    """What was done, as it stands within a sentence.

    Examples
    --------
    >>> said("act.1.shaft-trued", "to 0.02"), said("act.2.shaft-trued", DONE), said("anew.1.said", "shim out")
    ('the shaft was trued, to 0.02', 'the shaft was trued', 'shim out')
    """
    act = ACTS.get(kind_of(slot))
    if act is None:
        return text
    more = [details_in_words(note), "" if text == DONE else text]
    return ", ".join([f"{act.words[0].lower()}{act.words[1:]}", *(part for part in more if part)])


@lru_cache(maxsize=4096)
def details_of(note: str | None) -> Mapping[str, Any]:
    """What more is noted with an act: fields of `DETAILS`, the moves of a position, or the `scope` that it was done to.

    Examples
    --------
    >>> dict(details_of("crank")), dict(details_of('{"gear": "idler", "teeth": 1}'))
    ({'scope': 'crank'}, {'gear': 'idler', 'teeth': 1})
    """
    if not note:
        return MappingProxyType({})
    return MappingProxyType(json.loads(note) if note.startswith("{") else {"scope": note})


def checked_details(kind: str, given: Mapping[str, Any]) -> dict[str, Any]:
    """What is said of an act beyond its kind, or an error that names what cannot be.

    Parameters
    ----------
    kind
        One of `ACTS`.
    given
        `of` (one of `PARTS`), `gear` (a name), `teeth` (1 to 99), `way` (one of `WAYS`), `cam` (as `both` or `bank2-intake`);
        what is empty is left out.

    Raises
    ------
    Impossible
        With the field at fault.

    Examples
    --------
    >>> checked_details("gear-turned", {"gear": "cam gear", "teeth": "1", "way": "later", "of": ""})
    {'gear': 'cam gear', 'teeth': 1, 'way': 'later'}
    """
    found: dict[str, Any] = {}
    for name, value in given.items():
        text = str(value if value is not None else "").strip()
        if not text or name not in DETAILS:
            continue
        if name not in ACTS[kind].details:
            raise Impossible(name, "act-has-no-such-detail")
        if name == "teeth":
            if not text.isdecimal() or not 1 <= int(text) <= MOST_TEETH:
                raise Impossible("teeth", "teeth-cannot-be", typed=text, most=MOST_TEETH)
            found[name] = int(text)
            continue
        if text not in {"of": PARTS, "way": WAYS, "cam": CAMS}.get(name, (text,)) or len(text) > LONGEST_GEAR:
            raise Impossible(name, "detail-cannot-be", typed=text)
        found[name] = text
    return found


DETAILS = ("of", "gear", "teeth", "way", "cam")
CAMS = ("both", "intake", "exhaust", *(f"bank{n}-{cam}" for n in (1, 2) for cam in ("both", "intake", "exhaust")))
LONGEST_GEAR = 40


def noted_with(scope: str, details: Mapping[str, Any]) -> str | None:
    """Scope and details of an act as they are noted: a scope alone as it is."""
    if not details:
        return scope or None
    return json.dumps({**({"scope": scope} if scope else {}), **details}, ensure_ascii=False)


def disturbs(slot: str, note: str | None = None) -> tuple[str, ...]:
    """What the act of a slot disturbs; a cam moved to a known position begins that position, and leaves the one before it told.

    Examples
    --------
    >>> disturbs("act.1.gear-turned"), disturbs("photo.1.taken"), disturbs("act.3.parts-fitted", '{"of": "limits"}')
    (('mesh', 'phase'), (), ('parts', 'limits'))
    >>> disturbs("act.2.cam-moved", '{"cam": "both", "shift_deg": 4, "moves": []}')
    ('position',)
    """
    kind = kind_of(slot)
    if kind == CAM_MOVED and to_position(note):
        return (POSITION,)
    if kind not in ACTS:
        return ()
    of = details_of(note).get("of")
    return _PARTS_DISTURB[of] if of in _PARTS_DISTURB else ACTS[kind].disturbs


def to_position(note: str | None) -> bool:
    """Whether what is noted with an act is the position that the cam was moved to."""
    return "moves" in details_of(note)


def scope_of(note: str | None) -> str | None:
    """What an act was done to, such as one shaft; None where it was done to all, or nobody said."""
    scope: str | None = details_of(note).get("scope")
    return scope


def details_in_words(note: str | None) -> str:
    """What more is said of an act, within a sentence; empty where nothing is.

    Examples
    --------
    >>> details_in_words('{"gear": "idler", "teeth": 2, "way": "earlier", "cam": "bank2-both"}')
    'idler, 2 teeth earlier, cam of bank 2'
    """
    told = details_of(note)
    teeth = told.get("teeth")
    turned = f"{teeth} {'tooth' if teeth == 1 else 'teeth'} " if teeth else ""
    cam = str(told.get("cam", "")) if not to_position(note) else ""
    of, dash, own = cam.rpartition("-")
    named = ("cam" if own == "both" else f"{own} cam") if cam else ""
    parts = (
        PARTS.get(str(told.get("of", "")), ""),
        str(told.get("gear", "")),
        f"{turned}{told.get('way', '')}".strip(),
        f"{named} of bank {of.removeprefix('bank')}" if dash else named,
    )
    return ", ".join(part for part in parts if part)


def moved_words(shift_deg: float) -> str:
    """Which way and how far a cam was moved, crank degrees.

    Examples
    --------
    >>> moved_words(4), moved_words(-7.9375)
    ('advance 4', 'retard 7.938')
    """
    return f"{'retard' if shift_deg < 0 else 'advance'} {abs(shift_deg):.4g}"
