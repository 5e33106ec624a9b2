"""Acts on engine and set-up between readings, and what each disturbs.

A station says what its readings rest on. A reading holds until an act disturbs something it rests on.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from uranograph.bench.log import Annotation
from uranograph.core.errors import InvalidInput

ACT = "act"
CAM_MOVED, POSITION = "cam-moved", "position"


# What was taken off or fitted, in words, and what each disturbs; where nobody says, it may have been any of them.
PARTS = {
    "gears": "gears, chain or belt",
    "limits": "parts that limit end play",
    "head": "head, gasket, pistons or valves",
    "other": "other parts",
}
_PARTS_DISTURB = {
    "gears": ("parts", "limits", "gear", "mesh", "phase"),
    "limits": ("parts", "limits"),
    "head": ("parts", "head"),
    "other": ("parts",),
}
_ANY_PARTS = tuple(dict.fromkeys(each for disturbed in _PARTS_DISTURB.values() for each in disturbed))
WAYS = {"earlier": "earlier (advanced)", "later": "later (retarded)"}
MAX_TEETH = 99


@dataclass(frozen=True)
class ActKind:
    """A kind of act: its name in the log, what it says, what it disturbs, and what more can be said of it."""

    kind: str
    words: str
    disturbs: tuple[str, ...]
    details: tuple[str, ...] = ()


ACTS = {
    act.kind: act
    for act in (
        ActKind("wheel-moved", "The wheel or its pointer was moved", ("wheel",)),
        ActKind("wheel-refitted", "The wheel came off and went on again", ("wheel",)),
        ActKind("cam-moved", "The cam was moved in its drive", ("phase",), ("cam",)),
        ActKind("cam-refitted", "The cam came out and went in again", ("room", "mesh", "phase"), ("cam",)),
        ActKind("gear-turned", "A gear was turned by teeth", ("mesh", "phase"), ("gear", "teeth", "way", "cam")),
        ActKind("gear-exchanged", "A gear was exchanged", ("gear", "mesh", "phase"), ("gear", "cam")),
        ActKind("parts-fitted", "Parts were fitted", _ANY_PARTS, ("of",)),
        ActKind("parts-removed", "Parts were taken off", _ANY_PARTS, ("of",)),
        ActKind("shims-changed", "Shims went in or came out", ("shims",)),
        ActKind("cheek-sanded", "A thrust face was sanded", ("shims",)),
        ActKind("shaft-trued", "The shaft was trued", ("shaft",)),
        ActKind("sprocket-shimmed", "A sprocket was shimmed", ("sprockets",)),
        ActKind("indicator-moved", "The indicator or its base was moved", ("indicator",)),
        ActKind("lash-changed", "Valve lash was changed", ("lash",)),
    )
}


@dataclass(frozen=True)
class Move:
    """One adjuster moved, by its name and its row: from where to where, and how far, crank degrees, advance positive."""

    name: str
    from_: str
    to: str
    shift_deg: float
    adjuster: int | None = None


@dataclass(frozen=True, kw_only=True)
class Act(Annotation):
    """Something done to engine or set-up.

    `what` is more of it in free words. `scope` is what it was done to, such as one shaft; `of`, `gear`, `teeth`, `way` and `cam`
    are what is known of it. A cam moved to a position has `moves`, and `shift_deg` of them all. `since` is the number in the
    log of the first reading after it, where it was found out later; `brought_by` that of the act that it came with.
    """

    TYPE = ACT
    kind: str
    what: str = ""
    scope: str | None = None
    of: str | None = None
    gear: str | None = None
    teeth: int | None = None
    way: str | None = None
    cam: str | None = None
    moves: tuple[Move, ...] | None = None
    shift_deg: float | None = None
    since: int | None = None
    brought_by: int | None = None

    @property
    def to_position(self) -> bool:
        """Whether a cam was moved to a known position."""
        return self.moves is not None

    @property
    def disturbs(self) -> tuple[str, ...]:
        """Things the act disturbs; a cam moved to a known position starts that position and keeps the previous one as history.

        Examples
        --------
        >>> Act(station="here", kind="gear-turned").disturbs
        ('mesh', 'phase')
        >>> Act(station="here", kind="parts-fitted", of="limits").disturbs
        ('parts', 'limits')
        >>> Act(station="here", kind="cam-moved", moves=(Move("keyway", "0", "A4", 4.0),), shift_deg=4.0).disturbs
        ('position',)
        """
        if self.to_position:
            return (POSITION,)
        if self.kind not in ACTS:
            return ()
        return _PARTS_DISTURB.get(self.of or "", ACTS[self.kind].disturbs)

    @property
    def text(self) -> str:
        """More of it in free words; of a position, which way and how far where nothing else was said."""
        return self.what or (moved_words(self.shift_deg or 0.0) if self.to_position else "")

    @property
    def title(self) -> str:
        """The act, as the start of a line.

        Examples
        --------
        >>> Act(station="here", kind="gear-turned", gear="idler", teeth=2, way="earlier", cam="bank2-both").title
        'A gear was turned by teeth: idler, 2 teeth earlier, cam of bank 2'
        """
        words = ACTS[self.kind].words if self.kind in ACTS else self.kind
        return f"{words}: {self._details}" if self._details else words

    @property
    def in_sentence(self) -> str:
        """The act, as a phrase within a sentence.

        Examples
        --------
        >>> Act(station="here", kind="shaft-trued", what="to 0.02").in_sentence, Act(station="here", kind="shaft-trued").in_sentence
        ('the shaft was trued, to 0.02', 'the shaft was trued')
        """
        words = ACTS[self.kind].words if self.kind in ACTS else self.kind
        return ", ".join([f"{words[0].lower()}{words[1:]}", *(part for part in (self._details, self.text) if part)])

    @property
    def _details(self) -> str:
        turned = f"{self.teeth} {'tooth' if self.teeth == 1 else 'teeth'} " if self.teeth else ""
        of, dash, own = (self.cam or "" if not self.to_position else "").rpartition("-")
        named = ("cam" if own == "both" else f"{own} cam") if own else ""
        parts = (
            PARTS.get(self.of or "", ""),
            self.gear or "",
            f"{turned}{self.way or ''}".strip(),
            f"{named} of bank {of.removeprefix('bank')}" if dash else named,
        )
        return ", ".join(part for part in parts if part)


def checked_details(kind: str, given: Mapping[str, Any]) -> dict[str, Any]:
    """Parse the details of an act; raises an error that names the invalid one.

    Parameters
    ----------
    kind
        One of `ACTS`.
    given
        `of` (one of `PARTS`), `gear` (a name), `teeth` (1 to 99), `way` (one of `WAYS`), `cam` (as `both` or `bank2-intake`);
        what is empty is left out.

    Raises
    ------
    InvalidInput
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
            raise InvalidInput(name, "act-has-no-such-detail")
        if name == "teeth":
            if not text.isdecimal() or not 1 <= int(text) <= MAX_TEETH:
                raise InvalidInput("teeth", "teeth-cannot-be", typed=text, most=MAX_TEETH)
            found[name] = int(text)
            continue
        if text not in {"of": PARTS, "way": WAYS, "cam": CAMS}.get(name, (text,)) or len(text) > MAX_GEAR_LENGTH:
            raise InvalidInput(name, "detail-cannot-be", typed=text)
        found[name] = text
    return found


DETAILS = ("of", "gear", "teeth", "way", "cam")
CAMS = ("both", "intake", "exhaust", *(f"bank{n}-{cam}" for n in (1, 2) for cam in ("both", "intake", "exhaust")))
MAX_GEAR_LENGTH = 40


def moved_words(shift_deg: float) -> str:
    """Which way and how far a cam was moved, crank degrees.

    Examples
    --------
    >>> moved_words(4), moved_words(-7.9375)
    ('advance 4', 'retard 7.938')
    """
    return f"{'retard' if shift_deg < 0 else 'advance'} {abs(shift_deg):.4g}"
