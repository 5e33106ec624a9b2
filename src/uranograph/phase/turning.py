"""Turning over by hand: how it turned since anything was last moved, and what that means."""

from dataclasses import dataclass, replace

from uranograph.bench.acts import Act
from uranograph.bench.checks import PLACE, Check, CheckAnswer
from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Change, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core.quantities import format_angle, parse_angle
from uranograph.engine.turning import FREE, HEAVY, RESTS_ON, STOP, turns
from uranograph.phase import marks, marks_by_eye
from uranograph.phase.turning_messages import FINDINGS, say

KEY = "turn-over"
STOPPED_BY = Slot[str](KEY, ("what",), (PLACE,), rests_on=RESTS_ON)
STOPPED_AT = Slot[str](KEY, ("where",), ("at",), rests_on=RESTS_ON)
CAUTIONS = (
    "By hand, plugs out, ignition off, battery disconnected; never by the starter. The piston stop is out first. "
    "A stop means look, not push.",
)
TURNING = Check(
    "turned",
    say("turned-label"),
    say("ask-turn"),
    ((FREE, "free all the way"), (HEAVY, "turns, heavy at a place"), (STOP, "it stopped")),
    (FREE,),
    (STOP,),
    say("turn-hint"),
)
UNKNOWN = "unknown"
WHATS = Check(
    "what",
    say("what-label"),
    say("ask-what-stopped"),
    (
        ("valve", "a valve on its piston"),
        ("valves", "two valves on each other"),
        ("stop", "the piston stop"),
        ("tool", "a tool or a rag"),
        ("stand", "a bolt of the stand"),
        ("pin", "a pin left in"),
        ("gear", "teeth that bind"),
        (UNKNOWN, "nothing found"),
    ),
    (),
    hint=say("what-hint"),
)


@dataclass(frozen=True)
class Turned:
    """How it turned: each time as it was answered, and the last stop with where and what, while nothing was moved since."""

    answers: tuple[Reading, ...]
    where: Reading | None
    what: Reading | None

    @property
    def last(self) -> str:
        return self.answers[-1].text if self.answers else ""

    @property
    def stopped(self) -> Reading | None:
        """The newest stop."""
        return next((each for each in reversed(self.answers) if each.text == STOP), None)


@memoized
def turned(job: Job) -> Turned:
    """How the engine turned since anything was last moved."""
    answers = turns(job)
    stop = max((each.seq for each in answers if each.text == STOP), default=0)
    where, what = (
        next((each for each in reversed(slot.taken(job)) if each.seq > stop), None) if stop else None
        for slot in (STOPPED_AT, STOPPED_BY)
    )
    return Turned(answers, where, what)


def pins_in(job: Job) -> list[CheckAnswer]:
    """Pins that were put in and are not out again, at the gears and by eye."""
    looks = (*marks.answers(job), *marks_by_eye.answers(job))
    return [answer for answer in looks if answer.check.kind.startswith("pin") and answer.text == "in"]


def find(job: Job) -> Finding:
    """Say whether it turns freely since anything was last moved."""
    found = turned(job)
    bare = Finding(Verdict.OPEN, cautions=CAUTIONS, rows=_rows(found), columns=("", "", "found", ""))
    if not found.answers:
        before = job.before_change(KEY)
        freed = before is not None and any(each.text == FREE for each in turns(before[0]))
        if before is None or not freed:
            return bare.judged(Verdict.OPEN, FINDINGS, "not-turned", begun=False)
        return bare.judged(Verdict.OPEN, FINDINGS, "turn-again", why=_why(before[1]))
    pinned = [pin for pin in pins_in(job) if pin.reading and pin.reading.seq < found.answers[-1].seq]
    if pinned:
        return bare.judged(Verdict.OPEN, FINDINGS, "pinned", label=pinned[0].check.label)
    what = _what(found)
    if found.last == STOP:
        named = say("it-was", what=what) if what else ""
        return bare.judged(Verdict.OUT, FINDINGS, "stopped", where=_where(found), what=named)
    if found.last == HEAVY:
        return bare.judged(Verdict.UNSURE, FINDINGS, "heavy")
    if found.stopped and (found.what is None or found.what.text == UNKNOWN):
        return bare.judged(Verdict.UNSURE, FINDINGS, "stopped-and-unexplained", where=_where(found))
    after = say("after-a-stop", what=f" by {what}" if what else "") if found.stopped else ""
    return bare.judged(Verdict.IN, FINDINGS, "turns-freely", after=after)


def _why(change: Act | Change) -> str:
    # The position is named where it was chosen.
    return (
        replace(change, moves=None, cam=None, what="").in_sentence
        if isinstance(change, Act) and change.to_position
        else change.in_sentence
    )


def _where(found: Turned) -> str:
    if found.where is None:
        return ""
    at = parse_angle(found.where.text)
    return say("at-deg", at_deg=at, side="BTDC" if at < 0 else "ATDC")


def _what(found: Turned) -> str:
    return dict(WHATS.options)[found.what.text] if found.what and found.what.text != UNKNOWN else ""


def _rows(found: Turned) -> tuple[Row, ...]:
    rows = [Row(say("row-turned"), "", dict(TURNING.options)[each.text]) for each in found.answers]
    if found.where is not None:
        rows.append(Row(say("row-where"), "", f"{format_angle(parse_angle(found.where.text), 0)} deg"))
    if found.what is not None:
        rows.append(Row(say("row-what"), "", dict(WHATS.options)[found.what.text]))
    return tuple(rows)
