"""What there is to look at, listed without a tooth counted: marks, what is driven with the cam, what is pinned."""

from dataclasses import dataclass

from uranograph.bench.fields import count
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.engine.messages import say

MOST_MARKS, MOST_DRIVEN = 12, 8
MARKS = {
    "dot": "dot",
    "line": "line",
    "number": "number or letter",
    "dowel": "dowel",
    "keyway": "keyway",
    "eccentric": "eccentric",
    "link": "bright link",
}
MEETS = {
    "mark": "the mark of",
    "still": "a line on the still",
    "arrow": "the arrow on",
    "boss": "the boss on",
    "edge": "the edge of",
    "between": "a space between two teeth of",
    "lifters": "the line of the lifters",
    "up": "straight up",
    "level": "level",
    "link": "the bright link of",
}
# What needs nothing named after it.
BY_ITSELF = ("lifters", "up", "level")
DRIVEN = {
    "distributor": "distributor",
    "magneto": "magneto",
    "sensor": "sensor",
    "injection": "injection pump",
    "fuel": "fuel pump",
    "eccentric": "eccentric",
    "pump": "oil or water pump",
    "tensioner": "tensioner",
    "idler": "idler",
    "other": "something else",
}
# What is seldom timed, unless somebody says that it is.
UNTIMED = ("pump", "tensioner", "idler")
# Keys, pins and dowels decide, whatever a dot says: lobes are ground from them.
DECIDES = ("keyway", "dowel")
LONGEST_NAME = 60
ENDS = {"": "the front", "rear": "the rear"}


@dataclass(frozen=True)
class Mark:
    """A mark on a part that turns, and what it is to meet; `n` is its row."""

    n: int
    on: str
    kind: str
    meets: str
    other: str
    label: str = ""
    on_idler: bool = False

    @property
    def decides(self) -> bool:
        """Whether it is a key, pin or dowel, which decides where a dot says otherwise."""
        return self.kind in DECIDES

    @property
    def back_later(self) -> bool:
        """Whether two turns of the crank need not bring it back."""
        return self.by_links or self.on_idler

    @property
    def words(self) -> str:
        """The mark and what it meets.

        Examples
        --------
        >>> Mark(1, "cam gear", "dot", "mark", "crank gear").words, Mark(2, "belt pulley", "line", "up", "").words
        ('dot of “cam gear” to the mark of “crank gear”', 'line of “belt pulley” to straight up')
        """
        other = "" if self.meets in BY_ITSELF else f" “{self.other}”"
        label = f" {self.label}" if self.label else ""
        return f"{MARKS[self.kind]}{label} of “{self.on}” to {MEETS[self.meets]}{other}"

    @property
    def by_links(self) -> bool:
        """Whether it is back only once the links have gone round."""
        return "link" in (self.kind, self.meets)


@dataclass(frozen=True)
class Driven:
    """What the crank or the cam drives and is timed with it: its teeth where they are counted, and whether it is pinned."""

    n: int
    kind: str
    name: str
    teeth: int | None
    pinned: bool
    timed: bool = True

    @property
    def points(self) -> bool:
        """Whether a rotor tells the firing top from overlap."""
        return self.kind in ("distributor", "magneto")


@dataclass(frozen=True)
class Listed:
    """Everything that is looked at by eye."""

    marks: tuple[Mark, ...] = ()
    driven: tuple[Driven, ...] = ()
    end: str = ""
    helical: bool = False
    no_marks: bool = False


@remembered
def read(typed: Typed) -> Filled[Listed]:
    """Read the list as typed; an empty one is a list too.

    Examples
    --------
    >>> read({"m1_on": "cam gear", "m1_meets": "mark"}).errors
    {'m1_other': 'Say what carries the mark that it meets.'}
    """
    reader = FormReader(typed)
    marks = [mark for n in range(1, MOST_MARKS + 1) if (mark := _mark(reader, n))]
    driven = [one for n in range(1, MOST_DRIVEN + 1) if (one := _driven(reader, n))]
    end = reader.text("end")
    if end not in ENDS:
        reader.errors["end"] = say("end-missing")
    if reader.errors:
        return Filled(None, reader.errors)
    flags = (reader.text(name) == "yes" for name in ("helical", "no_marks"))
    return Filled(Listed(tuple(marks), tuple(driven), end, *flags))


def _mark(reader: FormReader, n: int) -> Mark | None:
    on, other, label = (_name(reader, f"m{n}_{part}") for part in ("on", "other", "label"))
    kind, meets = reader.text(f"m{n}_kind") or "dot", reader.text(f"m{n}_meets") or "mark"
    if kind not in MARKS or meets not in MEETS:
        reader.errors[f"m{n}_kind"] = say("mark-missing")
        return None
    if not on:
        if other:
            reader.errors[f"m{n}_on"] = say("mark-carrier-missing")
        return None
    if not other and meets not in BY_ITSELF:
        reader.errors[f"m{n}_other"] = say("meeting-part-missing")
        return None
    return Mark(n, on, kind, meets, other, label, reader.text(f"m{n}_idler") == "yes")


def _name(reader: FormReader, field: str) -> str:
    """A name as it was typed, whole: one that is too long is refused, never cut."""
    text = reader.text(field)
    if len(text) > LONGEST_NAME:
        reader.errors[field] = say("name-too-long", longest=LONGEST_NAME)
    return text


def _driven(reader: FormReader, n: int) -> Driven | None:
    kind = reader.text(f"d{n}_kind")
    teeth = reader.take(f"d{n}_teeth", count(3, 1000, "teeth cannot be"))
    if not kind:
        return None
    if kind not in DRIVEN:
        reader.errors[f"d{n}_kind"] = say("driven-part-missing")
        return None
    name = _name(reader, f"d{n}_name") or DRIVEN[kind]
    timed = {"yes": True, "no": False}.get(reader.text(f"d{n}_timed"), kind not in UNTIMED)
    return Driven(n, kind, name, teeth, reader.text(f"d{n}_pinned") == "yes", timed)


YES = (("", "no"), ("yes", "yes"))
TIMED = (("", "as usual"), ("yes", "yes"), ("no", "needs no timing"))
FORM = Form(
    "by-eye",
    "marks to look at",
    lambda typed, job: read(typed),
    shelved=True,
    instruction="List the marks to look at. None? Keep it empty: the lifters at the top tell.",
    groups=(
        *(
            Group(
                (
                    Ask(f"m{n}_on", "Mark on", "such as cam gear", free=True),
                    Ask(f"m{n}_kind", "It is a", options=tuple(MARKS.items())),
                    Ask(f"m{n}_meets", "It meets", options=tuple(MEETS.items())),
                    Ask(f"m{n}_other", "Of", "such as crank gear, plate, case", free=True),
                    Ask(f"m{n}_label", "Its own number or letter", "if any", free=True),
                    Ask(f"m{n}_idler", "On an idler", options=YES),
                ),
                f"Mark {n}" if n > 1 else "",
                f"m{n - 1}_on" if n > 1 else "",
            )
            for n in range(1, MOST_MARKS + 1)
        ),
        *(
            Group(
                (
                    Ask(f"d{n}_kind", "It drives a", options=(("", "nothing more"), *DRIVEN.items())),
                    Ask(f"d{n}_name", "Called", free=True),
                    Ask(f"d{n}_teeth", "Teeth of its gear", "where degrees are wanted"),
                    Ask(f"d{n}_timed", "It is timed", options=TIMED),
                    Ask(f"d{n}_pinned", "It is pinned", options=YES),
                ),
                f"Driven with it, {n}",
                f"d{n - 1}_kind" if n > 1 else "",
            )
            for n in range(1, MOST_DRIVEN + 1)
        ),
        Group(
            (
                Ask("end", "Seen from", options=tuple(ENDS.items())),
                Ask("helical", "A gear turns as it slides in", options=YES),
                Ask("no_marks", "Set by the peak of a lobe", options=YES),
            ),
            "How it is looked at",
        ),
    ),
)


def listed(job: Job) -> Listed:
    """What there is to look at; nothing where nobody listed it."""
    return job.form(FORM) or Listed()
