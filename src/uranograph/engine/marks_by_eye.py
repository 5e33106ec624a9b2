"""Marks checked by eye, listed without tooth counts: marks, driven parts, timing pins."""

from collections.abc import Iterator
from dataclasses import dataclass

from uranograph.bench.fields import Choice, Count, Fields, Fold, Text
from uranograph.bench.forms import Filled, Form, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine.messages import say

MAX_MARKS, MAX_DRIVEN = 12, 8
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
# Items that need no name.
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
# Driven parts that are not timed unless stated.
UNTIMED = ("pump", "tensioner", "idler")
# Keys, pins and dowels overrule dots: lobes are ground relative to them.
DECIDES = ("keyway", "dowel")
MAX_NAME_LENGTH = 60
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
    """A part timed with crank or cam: its teeth if counted, and whether a pin holds it."""

    n: int
    kind: str
    name: str
    teeth: int | None
    pinned: bool
    timed: bool = True

    @property
    def points(self) -> bool:
        """Whether a rotor distinguishes firing TDC from overlap TDC."""
        return self.kind in ("distributor", "magneto")


@dataclass(frozen=True)
class ListedMarks:
    """Everything that is looked at by eye."""

    marks: tuple[Mark, ...] = ()
    driven: tuple[Driven, ...] = ()
    end: str = ""
    helical: bool = False
    no_marks: bool = False


YES = (("", "no"), ("yes", "yes"))
TIMED = (("", "as usual"), ("yes", "yes"), ("no", "needs no timing"))


class Name(Text):
    """A name as it was typed, whole: one that is too long is refused, never cut."""

    def parse(self, text: str, unit: LengthUnit) -> str:
        if len(text) > MAX_NAME_LENGTH:
            raise InvalidInput("name", "name-too-long", longest=MAX_NAME_LENGTH)
        return text


class MarkFields(Fields):
    """One row of the marks to look at."""

    on = Name("on", "Mark on", "such as cam gear")
    kind = Choice("kind", "It is a", MARKS.items(), unknown=say("mark-missing"))
    meets = Choice("meets", "It meets", MEETS.items(), unknown=say("mark-missing"), default="mark")
    other = Name("other", "Of", "such as crank gear, plate, case")
    label = Name("label", "Its own number or letter", "if any")
    idler = Choice("idler", "On an idler", YES, unknown=say("mark-missing"))

    def check(self) -> Iterator[tuple[str, str]]:
        if not self.on and self.other:
            yield "on", say("mark-carrier-missing")
        if self.on and not self.other and self.meets not in BY_ITSELF:
            yield "other", say("meeting-part-missing")

    def mark(self, n: int) -> Mark:
        """The mark of row `n`."""
        return Mark(n, self.on, self.kind, self.meets, self.other, self.label, self.idler == "yes")


class DrivenFields(Fields):
    """One row of what is driven."""

    kind = Choice("kind", "It drives a", (("", "nothing more"), *DRIVEN.items()), unknown=say("driven-part-missing"))
    name = Name("name", "Called")
    teeth = Count(
        "teeth", "Teeth of its gear", "where degrees are wanted", least=3, most=1000, counted="teeth cannot be"
    ).optional()
    timed = Choice("timed", "It is timed", TIMED, unknown=say("driven-part-missing"))
    pinned = Choice("pinned", "It is pinned", YES, unknown=say("driven-part-missing"))

    def driven(self, n: int) -> Driven:
        """The driven part of row `n`."""
        timed = self.kind not in UNTIMED if not self.timed else self.timed == "yes"
        return Driven(n, self.kind, self.name or DRIVEN[self.kind], self.teeth, self.pinned == "yes", timed)


class LookingFields(Fields):
    """How marks are looked at."""

    fold = Fold("How it is looked at")
    end = Choice("end", "Seen from", ENDS.items(), unknown=say("end-missing"))
    helical = Choice("helical", "A gear turns as it slides in", YES, unknown=say("end-missing"))
    no_marks = Choice("no_marks", "Set by the peak of a lobe", YES, unknown=say("end-missing"))


@remembered
def read(typed: Typed) -> Filled[ListedMarks]:
    """Read the list as typed; an empty one is a list too.

    Examples
    --------
    >>> read({"m1_on": "cam gear", "m1_meets": "mark"}).errors
    {'m1_other': 'Say what carries the mark that it meets.'}
    """
    marks = {n: MarkFields.read(typed, prefix=f"m{n}_") for n in range(1, MAX_MARKS + 1)}
    driven = {n: DrivenFields.read(typed, prefix=f"d{n}_") for n in range(1, MAX_DRIVEN + 1)}
    looking = LookingFields.read(typed)
    errors = dict(looking.errors)
    for row in marks.values():
        errors |= row.errors
    for part in driven.values():
        errors |= part.errors
    if errors or looking.value is None:
        return Filled(None, errors)
    return Filled(
        ListedMarks(
            tuple(row.value.mark(n) for n, row in marks.items() if row.value and row.value.on),
            tuple(part.value.driven(n) for n, part in driven.items() if part.value and part.value.kind),
            looking.value.end,
            looking.value.helical == "yes",
            looking.value.no_marks == "yes",
        )
    )


def _groups() -> tuple[Group, ...]:
    """Each row shown once the one before it is filled."""
    marks = (
        Group(MarkFields.groups(f"m{n}_")[0].asks, f"Mark {n}" if n > 1 else "", f"m{n - 1}_on" if n > 1 else "")
        for n in range(1, MAX_MARKS + 1)
    )
    driven = (
        Group(DrivenFields.groups(f"d{n}_")[0].asks, f"Driven with it, {n}", f"d{n - 1}_kind" if n > 1 else "")
        for n in range(1, MAX_DRIVEN + 1)
    )
    return (*marks, *driven, *LookingFields.groups())


FORM = Form(
    "by-eye",
    "marks to look at",
    lambda typed, job: read(typed),
    shelved=True,
    instruction="List the marks to look at. None? Keep it empty: the lifters at TDC tell.",
    groups=_groups(),
)


def listed(job: Job) -> ListedMarks:
    """Return the listed marks; empty if none are listed."""
    return job.form(FORM) or ListedMarks()
