"""Two turns by hand: one record of them, wherever at the bench they were asked for."""

from dataclasses import replace

from uranograph.bench.acts import POSITION
from uranograph.bench.checks import PLACE, Check, CheckAnswer
from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import slot_of
from uranograph.engine.messages import say

FREE, HEAVY, STOP = "free", "heavy", "stop"
KIND = "turned"
# Acts that invalidate it: all that could move the cam or obstruct it.
RESTS_ON = ("phase", "mesh", "gear", "room", "parts", POSITION)
# Stations that ask for it among their checks, and the meaning of their answers.
LOOKS = ("marks", "by-eye")
SMOOTH, BINDS = "smooth", "bind"
_OF_LOOK = {SMOOTH: FREE, BINDS: STOP, HEAVY: HEAVY}
_AS_LOOK = {free: look for look, free in _OF_LOOK.items()}
OPTIONS = ((SMOOTH, say("smooth")), (BINDS, say("binds-or-stops")), (HEAVY, say("heavy-at-a-place")))


@memoized
def turns(job: Job) -> tuple[Reading, ...]:
    """Every time it was turned two turns since anything that it rests on was disturbed, oldest first.

    Parameters
    ----------
    job
        The whole job.

    Returns
    -------
    tuple
        Readings whose text is `free`, `heavy` or `stop`, from whichever station asked.
    """
    ended = max((act.seq for thing in RESTS_ON for act in job.acts(thing)), default=0)
    own = [reading for reading in job.active_readings("turn-over", KIND) if reading.spot.place == PLACE]
    looked = [
        replace(reading, text=_OF_LOOK.get(reading.text, reading.text), slot=slot_of(KIND, reading.spot.number, PLACE))
        for station in LOOKS
        for reading in job.active_readings(station, KIND)
    ]
    return tuple(sorted((each for each in (*own, *looked) if each.seq > ended), key=lambda each: each.seq))


def check(label: str, instruction: str, hint: str) -> Check:
    """The question among other looks."""
    return Check(KIND, label, instruction, OPTIONS, good=(SMOOTH,), bad=(BINDS,), hint=hint)


def as_looked(job: Job, answers: list[CheckAnswer]) -> list[CheckAnswer]:
    """Looks with the two turns as they were last made, wherever that was written."""
    last = next(iter(turns(job)[-1:]), None)
    shown = None if last is None else replace(last, text=_AS_LOOK[last.text])
    return [replace(each, reading=shown) if each.check.kind == KIND else each for each in answers]
