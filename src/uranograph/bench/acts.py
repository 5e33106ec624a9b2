"""What is done to engine and set-up between two readings, and what each act disturbs.

A station says what its readings rest on. A reading holds until an act disturbs something it rests on.
"""

from dataclasses import dataclass
from functools import lru_cache

ACT = "act"
# Stands for an act of which nothing more is said.
DONE = "done"


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


def disturbs(slot: str) -> tuple[str, ...]:
    """What the act of a slot disturbs.

    Examples
    --------
    >>> disturbs("act.1.gear-turned"), disturbs("photo.1.taken")
    (('mesh', 'phase'), ())
    """
    act = ACTS.get(kind_of(slot))
    return act.disturbs if act else ()
