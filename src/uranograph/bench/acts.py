"""What is done to engine and set-up between two readings, and what each act disturbs.

A station says what its readings rest on. A reading holds until an act disturbs something it rests on.
"""

from dataclasses import dataclass
from functools import lru_cache

ACT = "act"
# Stands for an act of which nothing more is said.
DONE = "done"
CAM_MOVED, POSITION = "cam-moved", "position"


@dataclass(frozen=True)
class Act:
    """Something done: the name it is written under, what it says, and what it disturbs."""

    kind: str
    words: str
    disturbs: tuple[str, ...]


ACTS = {
    act.kind: act
    for act in (
        Act("wheel-moved", "The wheel or its pointer was moved", ("wheel",)),
        Act("wheel-refitted", "The wheel came off and went on again", ("wheel",)),
        Act("cam-moved", "The cam was moved in its drive", ("phase",)),
        Act("cam-refitted", "The cam came out and went in again", ("room", "mesh", "phase")),
        Act("gear-turned", "A gear was turned by teeth", ("mesh", "phase")),
        Act("gear-exchanged", "A gear was exchanged", ("gear", "mesh", "phase")),
        Act("parts-fitted", "Parts were fitted", ("parts",)),
        Act("parts-removed", "Parts were taken off", ("parts",)),
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


def said(slot: str, text: str) -> str:
    """What was done, as it stands within a sentence.

    Examples
    --------
    >>> said("act.1.shaft-trued", "to 0.02"), said("act.2.shaft-trued", DONE), said("anew.1.said", "shim out")
    ('the shaft was trued, to 0.02', 'the shaft was trued', 'shim out')
    """
    act = ACTS.get(kind_of(slot))
    if act is None:
        return text
    words = f"{act.words[0].lower()}{act.words[1:]}"
    return words if text == DONE else f"{words}, {text}"


def disturbs(slot: str, note: str | None = None) -> tuple[str, ...]:
    """What the act of a slot disturbs; a cam moved to a known position begins that position, and leaves the one before it told.

    Examples
    --------
    >>> disturbs("act.1.gear-turned"), disturbs("photo.1.taken")
    (('mesh', 'phase'), ())
    >>> disturbs("act.2.cam-moved", '{"cam": "both", "shift_deg": 4, "moves": []}')
    ('position',)
    """
    kind = kind_of(slot)
    if kind == CAM_MOVED and to_position(note):
        return (POSITION,)
    return ACTS[kind].disturbs if kind in ACTS else ()


def to_position(note: str | None) -> bool:
    """Whether what is noted with an act is the position that the cam was moved to."""
    return note is not None and note.startswith("{")


def moved_words(shift_deg: float) -> str:
    """Which way and how far a cam was moved, crank degrees.

    Examples
    --------
    >>> moved_words(4), moved_words(-7.9375)
    ('advance 4', 'retard 7.938')
    """
    return f"{'retard' if shift_deg < 0 else 'advance'} {abs(shift_deg):.4g}"
