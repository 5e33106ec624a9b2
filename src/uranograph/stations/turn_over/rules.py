"""Prove: the crank turned two turns by hand after everything that could have moved the cam."""

from collections.abc import Mapping

from uranograph.bench.checks import PLACE, Check, refuse_pinned
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot, slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_angle
from uranograph.engine.turning import RESTS_ON
from uranograph.phase.turning import KEY, TURNING, WHATS, pins_in, turned
from uranograph.stations.turn_over.messages import say

TURNED = Slot[str](KEY, ("turned",), (PLACE,), rests_on=RESTS_ON)
MAX_DEG = 360.0


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask to turn; after a stop, where it was and what it was."""
    found = turned(job)
    asked = query.get("item", "")
    if asked == "what" or (not asked and found.stopped and found.where and not found.what):
        return _choose(job, WHATS)
    if asked == "where" or (not asked and found.stopped and not found.where):
        return Prompt(
            slot=slot_of("where", job.next_number(KEY, "where"), "at"),
            label=say("where-label"),
            instruction=say("ask-where-stopped"),
            hint=say("where-hint"),
            unit="deg",
            extra={"item": "where"},
        )
    return _choose(job, TURNING)


def _choose(job: Job, check: Check) -> Prompt:
    return Prompt(
        slot=slot_of(check.kind, job.next_number(KEY, check.kind), PLACE),
        label=check.label,
        instruction=check.instruction,
        hint=check.hint,
        options=check.options,
        extra={"item": check.kind} if check is WHATS else {},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, and a place that no crank has.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    kind = entry.spot.kind
    if kind == "where":
        at = parse_angle(entry.text)
        if abs(at) > MAX_DEG:
            raise InvalidInput("text", "stop-angle-outside", typed=entry.text)
        return
    check = TURNING if kind == "turned" else WHATS
    if kind == "turned":
        refuse_pinned(pins_in(job))
    if entry.text not in dict(check.options):
        raise InvalidInput("text", "not-an-answer")


def describe(reading: Reading) -> str:
    """Say what was answered."""
    return {"turned": say("by-turned"), "where": say("by-where"), "what": say("by-what")}[reading.spot.kind]
