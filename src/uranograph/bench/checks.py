"""Inspections: what is looked at and answered, rather than measured."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.slots import slot_of
from uranograph.core.errors import Impossible

PLACE = "seen"
# Wherever crank or cam is turned without the other.
TURNED_ALONE = (
    "Crank or cam turned alone: first all pistons well down (crank 90 deg off) or rockers and followers out. If it is not "
    "known to be freewheeling, treat it as not."
)


@dataclass(frozen=True)
class Check:
    """One thing to look at. `good` answers settle it, `bad` ones are a fault; any other leaves it in doubt."""

    kind: str
    label: str
    instruction: str
    options: tuple[tuple[str, str], ...]
    good: tuple[str, ...]
    bad: tuple[str, ...] = ()
    hint: str = ""


# Many engines have no ring, plate, dowel or marked links: that there is none is an answer as good as yes.
NONE = ("na", "there is none")
YES_OR_NO = (("yes", "yes"), ("no", "no"), ("unseen", "cannot see"), NONE)


def yes_or_no(kind: str, label: str, instruction: str, hint: str = "") -> Check:
    """A question that is settled by yes, or where there is no such thing."""
    return Check(kind, label, instruction, YES_OR_NO, ("yes", "na"), ("no",), hint)


@dataclass(frozen=True)
class Answer:
    """A check and how it was last answered."""

    check: Check
    reading: Reading | None

    @property
    def text(self) -> str:
        return self.reading.text if self.reading else ""

    @property
    def words(self) -> str:
        """The answer as it was offered."""
        return dict(self.check.options).get(self.text, self.text) if self.reading else "not looked at"

    @property
    def state(self) -> str:
        """As a glyph: in, out, unsure, or not begun."""
        if self.reading is None:
            return "not-begun"
        if self.text in self.check.good:
            return "in"
        return "out" if self.text in self.check.bad else "unsure"


def answers(job: Job, station: str, checks: Sequence[Check]) -> list[Answer]:
    """Each check with its newest standing answer."""
    newest: dict[str, Reading] = {}
    for reading in job.standing(station):
        kind, _, place = reading.spot
        if place == PLACE:
            newest[kind] = reading
    return [Answer(check, newest.get(check.kind)) for check in checks]


def next_of(found: Sequence[Answer], wanted: str = "") -> Check | None:
    """The check asked for, or the first not answered yet."""
    for answer in found:
        if answer.check.kind == wanted:
            return answer.check
    return next((answer.check for answer in found if answer.reading is None), None)


def prompt_of(job: Job, station: str, check: Check, **extra: str) -> Prompt:
    """Ask for one check."""
    return Prompt(
        slot=slot_of(check.kind, job.next_number(station, check.kind), PLACE),
        label=check.label,
        instruction=check.instruction,
        hint=check.hint,
        options=check.options,
        extra={"item": check.kind, **extra},
    )


def accept(checks: Sequence[Check], entry: Entry) -> None:
    """Refuse an answer that was not offered.

    Raises
    ------
    Impossible
        When the check is not of this job, or the answer not among those offered.
    """
    kind = entry.spot.kind
    check = next((check for check in checks if check.kind == kind), None)
    if check is None:
        raise Impossible("text", "no-such-check")
    if entry.text not in dict(check.options):
        raise Impossible("text", "not-an-answer")
