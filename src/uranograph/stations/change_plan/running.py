"""A plan as it runs: what is begun, what is done, and what that does to the rest."""

from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import cached_property, lru_cache

from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core.plan import deciding, first_plan, hands_of, shorter
from uranograph.core.schedule import Work, ahead, length_of, placed
from uranograph.stations.change_plan.tasks import PlannedChange, change_of

KEY = "change-plan"
TICK = Slot[str](KEY, ("task-#",), ("start", "done"))
NOW = "now"
LATE_SHARE, LATE_MIN = 0.2, 2.0
# Cached plans with their lower bound; the solver improves them while a page is open.
MAX_KNOWN = 128
_known: "OrderedDict[Work, tuple[tuple[float, ...], float]]" = OrderedDict()
# Number of plans found, the version of results derived from a plan.
_found = 0
SEARCH_S = 1.5


@lru_cache(maxsize=64)
def _first(work: Work) -> tuple[tuple[int, ...], float]:
    """The plan that there is at once; asked for at every look while nothing of the list changes."""
    order, bound = first_plan(work)
    return tuple(order), bound


@dataclass(frozen=True)
class Tick:
    """When a task was begun and done, as it was said."""

    begun: datetime | None = None
    done: datetime | None = None


@dataclass(frozen=True)
class Running:
    """A plan and how far it has gone; minutes from the first tick."""

    change: PlannedChange
    work: Work
    starts: tuple[float, ...]
    bound: float
    ticks: Mapping[int, Tick]
    began: datetime | None
    now_min: float
    expected: tuple[tuple[float, ...], tuple[float, ...]]

    @property
    def planned_min(self) -> float:
        return max(s + m for s, m in zip(self.starts, self.work.minutes, strict=True))

    @property
    def end_min(self) -> float:
        """When the whole is to be expected to end."""
        return max(self.expected[1])

    @cached_property
    def who(self) -> list[list[int]]:
        """Who does each task, as it is to be expected now."""
        return _who(self)

    def done(self, k: int) -> bool:
        return k in self.ticks and self.ticks[k].done is not None

    def begun(self, k: int) -> bool:
        return k in self.ticks

    @property
    def under_way(self) -> list[int]:
        return [k for k in range(self.work.count) if self.begun(k) and not self.done(k)]

    @cached_property
    def late(self) -> list[int]:
        """Tasks that took, or by now take, clearly longer than planned."""
        return [
            k
            for k in range(self.work.count)
            if self.begun(k) and self.expected[1][k] - self.expected[0][k] > self.allowed(k)
        ]

    def took(self, k: int) -> float | None:
        """Minutes that a task took, where both its beginning and its end were noted."""
        tick = self.ticks.get(k, Tick())
        return (tick.done - tick.begun).total_seconds() / 60 if tick.begun and tick.done else None

    def allowed(self, k: int) -> float:
        return self.work.minutes[k] + max(LATE_MIN, LATE_SHARE * self.work.minutes[k])


def known_plan(work: Work) -> tuple[tuple[float, ...], float]:
    """The best plan known of some tasks, minutes, and a length that none falls below: one is there at once."""
    found = _known.get(work)
    if found is None:
        order, bound = _first(work)
        found = placed(work, order), bound
        _keep(work, found)
    return found


def _keep(work: Work, found: tuple[tuple[float, ...], float]) -> None:
    global _found
    _found += 1
    _known[work] = found
    _known.move_to_end(work)
    while len(_known) > MAX_KNOWN:
        _known.popitem(last=False)


def searched(work: Work, seconds: float = SEARCH_S) -> tuple[tuple[float, ...], float]:
    """The same after some more seconds of looking for a shorter one."""
    starts, bound = known_plan(work)
    if length_of(work, starts) > bound + 1e-6:
        found, low = shorter(work, starts, seconds)
        starts, bound = found, max(bound, low)
        _keep(work, (starts, bound))
    return starts, bound


def running(job: Job) -> Running | None:
    """The plan of a job with what has happened of it; None where none is listed."""
    change = change_of(job)
    if change is not None and change.work is not None:
        known_plan(change.work)
    return _running(job, _found)


@memoized
def _running(job: Job, found: int) -> Running | None:
    change = change_of(job)
    if change is None or change.work is None:
        return None
    work = change.work
    ticks = _ticks(job, change)
    starts, bound = _as_begun(job, work) or known_plan(work)
    moments = [at for tick in ticks.values() for at in (tick.begun, tick.done) if at is not None]
    began = min(moments, default=None)
    order = sorted(range(work.count), key=lambda k: (starts[k], k))
    if began is None:
        ends = tuple(s + m for s, m in zip(starts, work.minutes, strict=True))
        return Running(change, work, starts, bound, {}, None, 0.0, (starts, ends))

    def minutes(at: datetime) -> float:
        return (at - began).total_seconds() / 60

    now = minutes(max(moments))
    ended = {k: minutes(tick.done) for k, tick in ticks.items() if tick.done}
    started = {
        k: minutes(tick.begun) if tick.begun else max(0.0, ended[k] - work.minutes[k]) for k, tick in ticks.items()
    }
    return Running(change, work, starts, bound, ticks, began, now, ahead(work, order, started, ended, now))


def _as_begun(job: Job, work: Work) -> tuple[tuple[float, ...], float] | None:
    """The plan in force: fixed by the first update and not replaced by later solutions."""
    first = next((reading for reading in TICK.taken(job) if reading.order), None)
    if first is None:
        return None
    order = list(first.order)
    if sorted(order) != list(range(work.count)):
        return None
    seen: set[int] = set()
    for k in order:
        if not set(work.after[k]) <= seen:
            return None
        seen.add(k)
    starts = placed(work, order)
    return starts, min(_first(work)[1], length_of(work, starts))


def in_order(found: Running) -> list[int]:
    """Tasks in order of planned start; predecessors come first."""
    rank = {k: n for n, k in enumerate(_first(found.work)[0])}
    return sorted(
        range(found.work.count), key=lambda k: (found.starts[k], found.starts[k] + found.work.minutes[k], rank[k])
    )


def _ticks(job: Job, change: PlannedChange) -> dict[int, Tick]:
    found: dict[int, Tick] = {}
    for reading in TICK.taken(job):
        k = number_of(reading) - 1
        if not 0 <= k < len(change.tasks):
            continue
        at = reading.at - timedelta(minutes=0 if reading.text == NOW else int(reading.text))
        was = found.get(k, Tick())
        found[k] = Tick(at, was.done) if reading.spot.place == "start" else Tick(was.begun, at)
    return found


def number_of(entry: Entry) -> int:
    """Number of the task an update belongs to, from 1, by its place in the list."""
    return int(entry.spot.kind.rpartition("-")[2])


def who(found: Running) -> list[list[int]]:
    """Who does each task as it is to be expected now."""
    return found.who


def _who(found: "Running") -> list[list[int]]:
    starts, ends = found.expected
    work = Work(
        tuple(e - s for s, e in zip(starts, ends, strict=True)), found.work.hands, found.work.after, found.work.there
    )
    # A started task is done by the people the plan assigned.
    planned = hands_of(found.work, found.starts)
    return hands_of(work, starts, {k: planned[k] for k in range(work.count) if found.begun(k)})


def critical(found: Running) -> set[int]:
    """Tasks that decide the end of the plan."""
    return _deciding(found.work, found.starts)


@lru_cache(maxsize=128)
def _deciding(work: Work, starts: tuple[float, ...]) -> set[int]:
    return deciding(work, starts)
