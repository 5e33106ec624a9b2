"""The plan of a cam change and its running clock: who does what, what is late, and when it will end."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot, slot_of
from uranograph.core.errors import InvalidInput
from uranograph.stations.change_plan.messages import FINDINGS, say
from uranograph.stations.change_plan.running import KEY, NOW, TICK, Running, in_order, number_of, running, who

RESULT = Slot[str](KEY, ("run-#",), ("result",))
CAUTIONS = (
    "Ignition and fuel off, battery disconnected; hot coolant and a running engine on its bed burn and catch. Springs and "
    "tensioners let go hard.",
)
AGO = ((NOW, "now"), ("5", "5 min ago"), ("10", "10 min ago"), ("20", "20 min ago"))
FARTHEST_AGO = 600


def label_entry(job: Job, entry: Entry) -> Entry:
    """With the task's name; with the first tick, the order of the plan that is begun as well."""
    if not (TICK.has(entry.slot) or RESULT.has(entry.slot)):
        return entry
    found, k = running(job), number_of(entry) - 1
    if found is None or not 0 <= k < found.work.count:
        return entry
    named = replace(entry, about=found.change.tasks[k].task.name)
    return named if found.ticks or not TICK.has(entry.slot) else replace(named, order=tuple(in_order(found)))


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next tick: what is under way and due first, else what is to begin next; or for the result of a run."""
    found = running(job)
    if found is None:
        return None
    item = query.get("item", "")
    if item.isdecimal() and 1 <= int(item) <= found.work.count:
        k = int(item) - 1
        if not found.done(k):
            return _ask_tick(job, found, k)
        if found.change.tasks[k].target:
            return _ask_result(job, found, k)
    waiting = _without_result(job, found)
    if waiting is not None:
        return _ask_result(job, found, waiting)
    following = _next(found)
    return None if following is None else _ask_tick(job, found, following)


def _next(found: Running) -> int | None:
    starts, ends = found.expected
    left = [k for k in range(found.work.count) if not found.done(k)]
    if not left:
        return None
    ready = [k for k in left if not found.begun(k) and starts[k] <= found.now_min + 1e-6]
    if ready:
        return min(ready, key=lambda k: (starts[k], k))
    return min(left, key=lambda k: (ends[k] if found.begun(k) else starts[k], k))


def _ask_tick(job: Job, found: Running, k: int) -> Prompt:
    listed, at = found.change.tasks[k], "done" if found.begun(k) else "start"
    names = found.change.names(who(found)[k])
    kind = f"task-{k + 1}"
    if at == "done":
        begun = found.expected[0][k]
        told_who = names or "Nobody"
        hint = say("finish-task-hint", who=told_who, clock=f"+{span(begun)}", minutes=span(found.work.minutes[k]))
        label, instruction = say("task-done", name=listed.task.name), say("finish-task", name=listed.task.name)
    else:
        tray = say("tray", tray=listed.tray) if listed.tray else ""
        after = say("after-tasks", listed=", ".join(listed.task.after)) if listed.task.after else ""
        hint = say(
            "begin-task-hint", who=say("who-does", who=names) if names else say("nobody"), tray=tray, after=after
        )
        label, instruction = say("task-begun", name=listed.task.name), say("begin-task", name=listed.task.name)
    return Prompt(
        slot=slot_of(kind, job.next_number(KEY, kind), at),
        label=label,
        instruction=instruction,
        hint=hint,
        options=AGO,
        extra={"item": str(k + 1)},
    )


def _ask_result(job: Job, found: Running, k: int) -> Prompt:
    listed = found.change.tasks[k]
    return Prompt(
        slot=RESULT.next(job, f"run-{k + 1}"),
        label=say("task-result-label", name=listed.task.name),
        instruction=say("task-result", name=listed.task.name),
        hint=say("task-result-hint", target=listed.target),
        extra={"item": str(k + 1)},
    )


def _without_result(job: Job, found: Running) -> int | None:
    read = results(job)
    return next(
        (k for k, each in enumerate(found.change.tasks) if each.target and found.done(k) and k not in read), None
    )


def results(job: Job) -> dict[int, str]:
    """Result of each run as typed, by its index."""
    return {number_of(reading) - 1: reading.text for reading in RESULT.taken(job)}


def accept(job: Job, entry: Entry) -> None:
    """Refuse a tick of what is not planned, or a second one.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    found, k = running(job), number_of(entry) - 1
    if found is None or not 0 <= k < found.work.count:
        raise InvalidInput("text", "no-such-task-here")
    if RESULT.has(entry.slot):
        if not entry.text.strip():
            raise InvalidInput("text", "result-empty")
        return
    if entry.text != NOW and not (entry.text.isdecimal() and int(entry.text) <= FARTHEST_AGO):
        raise InvalidInput("text", "not-a-tick")
    name = found.change.tasks[k].task.name
    if found.done(k):
        raise InvalidInput("text", "already-done", name=name)
    if entry.spot.place == "start" and found.begun(k):
        raise InvalidInput("text", "already-begun", name=name)


def describe(reading: Reading) -> str:
    """Say which task it was of."""
    name = reading.about or f"task {number_of(reading)}"
    if reading.spot.kind.startswith("run"):
        return say("task-result-label", name=name)
    return say("task-begun", name=name) if reading.spot.place == "start" else say("task-done", name=name)


def span(minutes: float) -> str:
    """Minutes as they are said.

    Examples
    --------
    >>> str(span(45)), str(span(125))
    ('45 min', '2 h 05 min')
    """
    whole = round(minutes)
    if whole < 60:
        return say("minutes", minutes=whole)
    return say("hours", hours=whole // 60, minutes=whole % 60)


def find(job: Job) -> Finding:
    """Say how long the plan is, or how far it has gone and when it will end."""
    found = running(job)
    bare = Finding(Verdict.OPEN, cautions=CAUTIONS)
    if found is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "not-planned", begun=False)
    read = results(job)
    base = Finding(
        Verdict.OPEN,
        cautions=CAUTIONS,
        rows=tuple(_row(found, k, read) for k in sorted(range(found.work.count), key=lambda k: found.expected[0][k])),
        columns=("", "planned", "now", "result"),
    )
    count, hands = found.work.count, found.change.hands
    if found.began is None:
        # The plan's length is shown live: it shrinks while the solver runs.
        return base.judged(Verdict.OPEN, FINDINGS, "planned", count=count, hands=hands)
    done = sum(found.done(k) for k in range(count))
    minutes, against = span(found.end_min), _against(found)
    if done == count:
        return base.judged(Verdict.IN, FINDINGS, "done", count=count, minutes=minutes, against=against)
    clock, now = f"+{span(found.now_min)}", "; ".join(doing(found)) or say("nothing-now")
    if found.late:
        late = ", ".join(found.change.tasks[k].task.name for k in found.late)
        return base.judged(
            Verdict.OPEN,
            FINDINGS,
            "late",
            late=f"{late[0].upper()}{late[1:]}",
            done=done,
            count=count,
            clock=clock,
            minutes=minutes,
            against=against,
            now=now,
        )
    return base.judged(
        Verdict.OPEN,
        FINDINGS,
        "under-way",
        done=done,
        count=count,
        clock=clock,
        minutes=minutes,
        against=against,
        now=now,
    )


def _against(found: Running) -> str:
    by = round(found.end_min - found.planned_min)
    if by == 0:
        return say("as-planned")
    return say("later-than-planned", minutes=span(by)) if by > 0 else say("sooner-than-planned", minutes=span(-by))


def doing(found: Running) -> list[str]:
    """Current task of each person."""
    hands = who(found)
    lines: list[str] = []
    for n, person in enumerate(found.change.people, 1):
        at = next((k for k in found.under_way if n in hands[k]), None)
        if at is not None:
            lines.append(say("now-doing", who=person, name=found.change.tasks[at].task.name))
    return lines


def _row(found: Running, k: int, read: Mapping[int, str]) -> Row:
    listed = found.change.tasks[k]
    start, end = found.expected[0][k], found.expected[1][k]
    now = f"+{round(start)} to +{round(end)}" if found.begun(k) else f"+{round(start)}"
    result = read.get(k, f"{say('wanted-column')}: {listed.target}" if listed.target else "")
    return Row(listed.task.name, f"+{round(found.starts[k])}", now, result)
