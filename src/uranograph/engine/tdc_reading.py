"""The next reading that TDC asks for."""

from collections.abc import Mapping

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.pairs import Pair
from uranograph.bench.slots import slot_of
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.messages import say
from uranograph.engine.tdc import (
    KEY,
    LEFT,
    frames,
)

METHOD_WORDS = {"stop": "piston stop", "drop": "dial, equal drop each side"}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next.

    Parameters
    ----------
    job
        The job.
    query
        `method` (`stop` or `drop`) and `drop`, as the user set them.

    Returns
    -------
    Prompt or None
        None where no wheel is set up.
    """
    if wheel_of(job) is None:
        return None
    frame = frames(job)[-1]
    waiting = next((pair for pair in frame.pairs if not pair.complete), None)
    standing = [reading for reading in job.active_readings(KEY) if reading.slot != LEFT]
    if waiting is None:
        last = standing[-1] if standing else None
        method = query.get("method") or (last.spot.kind if last else "stop")
        number = max((reading.spot.number for reading in standing), default=0) + 1
        waiting = Pair(method if method in METHOD_WORDS else "stop", number)
    method, place = waiting.kind, waiting.missing or "before"
    if method == "stop":
        instruction = say("turn-to-stop", way="forward" if place == "before" else "backward")
        hint = say("touch-stop-hint")
        drop = None
    else:
        drop = waiting.drop or query.get("drop") or ("0.200" if job.unit == "inch" else "5")
        instruction = say("read-drop-before", drop=drop) if place == "before" else say("read-drop-after", drop=drop)
        hint = say("overshot-stop")
    return Prompt(
        slot=slot_of(method, waiting.number, place),
        label=f"{METHOD_WORDS[method].capitalize()}, {place} the top",
        instruction=instruction,
        hint=hint,
        side="btdc" if place == "before" else "atdc",
        approach="backward" if method == "stop" and place == "after" else "forward",
        second=drop,
        second_fixed=waiting.drop is not None,
        second_label="Below TDC",
        by_wheel=True,
    )
