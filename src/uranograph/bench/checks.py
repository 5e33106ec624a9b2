"""Inspections: what is looked at and answered, rather than measured."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import slot_of
from uranograph.core.errors import InvalidInput

PLACE = "seen"
# Wherever crank or cam is turned without the other.
TURNED_ALONE = (
    "Crank or cam turned alone: first all pistons well down (crank 90 deg off) or rockers and followers out. If it is not "
    "known to be freewheeling, treat it as not."
)


# Wherever the crank is turned backward.
NEVER_BACKWARD = "Never backward where a tensioner ratchets or is oil-fed: back off only as the manual says."


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
class CheckAnswer:
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
    def shown(self) -> str:
        """As it is drawn: where there is no such thing nothing was right or wrong."""
        return "skipped" if self.text == NONE[0] else self.state

    @property
    def state(self) -> str:
        """As a glyph: in, out, unsure, or not begun."""
        if self.reading is None:
            return "not-begun"
        if self.text in self.check.good:
            return "in"
        return "out" if self.text in self.check.bad else "unsure"


def answers(job: Job, station: str, checks: Sequence[Check]) -> list[CheckAnswer]:
    """Each check with its newest standing answer."""
    newest: dict[str, Reading] = {}
    for reading in job.active_readings(station):
        kind, _, place = reading.spot
        if place == PLACE:
            newest[kind] = reading
    return [CheckAnswer(check, newest.get(check.kind)) for check in checks]


def next_of(found: Sequence[CheckAnswer], wanted: str = "") -> Check | None:
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


def refuse_pinned(pins: Sequence[CheckAnswer]) -> None:
    """Refuse two turns while a pin is in.

    Raises
    ------
    InvalidInput
        When any is, with the first of them.
    """
    if pins:
        raise InvalidInput("text", "pin-still-in", label=pins[0].check.label)


def pins_first(found: Sequence[CheckAnswer], check: Check | None) -> Check | None:
    """The next check, or the pin that is still in, before anything is turned."""
    if check is None or check.kind != "turned":
        return check
    return next((each.check for each in found if each.check.kind.startswith("pin") and each.text == "in"), check)


# Marks mean something only where it is known where the crank stands.
CRANK_AT = "crank-at"
FIRING, OVERLAP = "firing", "overlap"
AT = (
    (FIRING, "firing TDC of number one"),
    (OVERLAP, "overlap TDC of number one"),
    ("other", "where the manual says"),
    ("unknown", "not known"),
)


def crank_at(label: str, instruction: str, hint: str) -> Check:
    """The question where the crank stands, which comes before any mark is looked at."""
    return Check(CRANK_AT, label, instruction, AT, (FIRING, OVERLAP, "other"), hint=hint)


def nothing_there(found: Sequence[CheckAnswer]) -> bool:
    """Whether everything was answered, and there was none of any of it."""
    return bool(found) and all(answer.text == NONE[0] for answer in found)


def accept(checks: Sequence[Check], entry: Entry) -> None:
    """Refuse an answer that was not offered.

    Raises
    ------
    InvalidInput
        When the check is not of this job, or the answer not among those offered.
    """
    kind = entry.spot.kind
    check = next((check for check in checks if check.kind == kind), None)
    if check is None:
        raise InvalidInput("text", "no-such-check")
    if entry.text not in dict(check.options):
        raise InvalidInput("text", "not-an-answer")
