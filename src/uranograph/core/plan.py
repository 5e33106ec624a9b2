"""The shortest plan of a piece of work for the hands there are: who does what, and which tasks decide its end."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from importlib.util import find_spec
from typing import Annotated, Any

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input

MAX_TASKS, MAX_HANDS = 120, 40
# A calculation asked for by a machine is answered after so long with the best there is, s.
MAX_SECONDS = 6.0
WORKERS = 4
SAME_MIN = 1e-9
# Fractions of a minute that a solver in whole numbers is told in.
_UNITS = (1, 2, 4, 10, 60, 100, 1000)

Minutes = Annotated[float, Field(ge=0, le=100_000)]


class Task(Input):
    """A task: how long, how many hands all the while, and what comes before it."""

    name: str = Field(min_length=1, max_length=80)
    minutes: Minutes
    hands: int = Field(1, ge=0, le=MAX_HANDS, description="0 where it only has to be waited for.")
    after: list[str] = Field(default=[], max_length=MAX_TASKS)


class PlanInput(Input):
    """Tasks and hands."""

    tasks: list[Task] = Field(min_length=1, max_length=MAX_TASKS)
    hands: int = Field(ge=1, le=MAX_HANDS)
    seconds: float = Field(MAX_SECONDS, gt=0, le=MAX_SECONDS, description="How long to look for a shorter one.")


class Scheduled(Found):
    """A task in the plan; minutes from the start."""

    name: str
    start: float
    end: float
    who: list[int] = Field(description="Which of the hands, from 1.")


class Planned(Found):
    """A plan and how good it is."""

    minutes: float
    schedule: list[Scheduled]
    critical: list[str] = Field(description="Each of these, taking longer, delays the end of this plan.")
    proved: bool = Field(description="Whether no plan is shorter.")
    bound_minutes: float = Field(description="No plan is shorter than this.")
    solver: bool = Field(description="Whether a solver was at hand; without one the plan is made by priority alone.")


@dataclass(frozen=True)
class Work:
    """Tasks by number: minutes, hands, and the numbers of those before each."""

    minutes: tuple[float, ...]
    hands: tuple[int, ...]
    after: tuple[tuple[int, ...], ...]
    there: int

    @property
    def count(self) -> int:
        return len(self.minutes)


def plan(given: PlanInput) -> Planned:
    """Find the shortest plan for the hands there are, and prove it where there is time.

    Parameters
    ----------
    given
        Tasks with minutes, hands and what comes before; how many hands there are; seconds that may be spent.

    Returns
    -------
    Planned
        Start and end of each task, minutes, with who does it; tasks that decide the end; whether it is proved the
        shortest, and a length that no plan falls below.

    Raises
    ------
    InvalidInput
        When a name stands twice or is not there, tasks wait for each other in a circle, or one takes more hands than there
        are.

    Examples
    --------
    >>> tasks = [Task(name="drain", minutes=10), Task(name="covers", minutes=15), Task(name="springs", minutes=20, hands=2,
    ...     after=["covers"]), Task(name="move", minutes=5, after=["springs", "drain"])]
    >>> found = plan(PlanInput(tasks=tasks, hands=2))
    >>> found.minutes, found.critical, found.proved
    (40.0, ['covers', 'springs', 'move'], True)

    References
    ----------
    Resource-constrained project scheduling by constraint programming; docs/methods.md, "Plan of a cam change".
    """
    work = understood(given.tasks, given.hands)
    order, bound = first_plan(work)
    starts = placed(work, order)
    if length_of(work, starts) > bound + SAME_MIN:
        starts, bound = shorter(work, starts, given.seconds)
    return explained(given.tasks, work, starts, bound)


def understood(tasks: Sequence[Task], hands: int) -> Work:
    """Tasks by number.

    Raises
    ------
    InvalidInput
        As `plan` does.
    """
    numbers: dict[str, int] = {}
    for k, task in enumerate(tasks):
        if task.name in numbers:
            raise InvalidInput(f"tasks.{k}.name", "task-twice", name=task.name)
        if task.hands > hands:
            raise InvalidInput(f"tasks.{k}.hands", "too-few-hands", name=task.name, wanted=task.hands, there=hands)
        numbers[task.name] = k
    after = []
    for k, task in enumerate(tasks):
        for name in task.after:
            if name not in numbers:
                raise InvalidInput(f"tasks.{k}.after", "no-such-task", name=task.name, wanted=name)
        after.append(tuple(dict.fromkeys(numbers[name] for name in task.after)))
    work = Work(tuple(t.minutes for t in tasks), tuple(t.hands for t in tasks), tuple(after), hands)
    circle = _circle(work)
    if circle:
        raise InvalidInput(
            f"tasks.{circle[0]}.after", "tasks-in-a-circle", names=" → ".join(tasks[k].name for k in circle)
        )
    return work


def _circle(work: Work) -> list[int]:
    """Tasks that wait for each other, the first again at the end; none where there are none."""
    done: set[int] = set()
    for first in range(work.count):
        way: list[int] = []
        stack = [(first, iter(work.after[first]))] if first not in done else []
        while stack:
            task, before = stack[-1]
            if task not in way:
                way.append(task)
            following = next((each for each in before if each not in done), None)
            if following is None:
                done.add(task)
                way.remove(task)
                stack.pop()
            elif following in way:
                return [*way[way.index(following) :], following][::-1]
            else:
                stack.append((following, iter(work.after[following])))
    return []


def first_plan(work: Work) -> tuple[list[int], float]:
    """An order of the tasks that makes a short plan at once, and a length, minutes, that no plan falls below.

    Examples
    --------
    >>> work = Work(minutes=(10, 20, 5), hands=(1, 1, 1), after=((), (), (0,)), there=1)
    >>> first_plan(work)
    ([1, 0, 2], 35.0)
    """
    followers: list[list[int]] = [[] for _ in range(work.count)]
    for k, before in enumerate(work.after):
        for each in before:
            followers[each].append(k)
    tail: dict[int, float] = {}

    def left(k: int) -> float:
        if k not in tail:
            tail[k] = work.minutes[k] + max((left(each) for each in followers[k]), default=0.0)
        return tail[k]

    for k in reversed(_in_order(work)):
        left(k)
    longest = max(tail.values())
    by_hands = sum(m * h for m, h in zip(work.minutes, work.hands, strict=True)) / work.there
    # Two of these never go on at once.
    alone = sum(m for m, h in zip(work.minutes, work.hands, strict=True) if 2 * h > work.there)
    orders = [
        _by_rank(work, rank)
        for rank in (
            lambda k: -tail[k],
            lambda k: -tail[k] * max(1, work.hands[k]),
            lambda k: (-work.hands[k], -tail[k]),
            lambda k: (-len(followers[k]), -tail[k]),
        )
    ]
    best = min(orders, key=lambda order: length_of(work, placed(work, order)))
    return best, _scaled(work, max(longest, by_hands, alone))


def _grain(work: Work) -> float:
    """The most minutes of which every task takes a whole number; 0 where they have none that is coarse enough."""
    unit = next((u for u in _UNITS if all(abs(m * u - round(m * u)) < 1e-6 for m in work.minutes)), 0)
    return math.gcd(*(round(m * unit) for m in work.minutes)) / unit if unit else 0.0


def _scaled(work: Work, bound: float) -> float:
    """A bound raised to what a plan can be long: tasks one after the other."""
    grain = _grain(work)
    return math.ceil(bound / grain - 1e-6) * grain if grain else bound


def _in_order(work: Work) -> list[int]:
    return _by_rank(work, lambda k: 0)


def _by_rank(work: Work, rank: Callable[[int], Any]) -> list[int]:
    left, order, done = list(range(work.count)), list[int](), set[int]()
    while left:
        free = [k for k in left if set(work.after[k]) <= done]
        k = min(free, key=rank)
        order.append(k)
        done.add(k)
        left.remove(k)
    return order


def placed(work: Work, order: Sequence[int]) -> tuple[float, ...]:
    """Put tasks, in an order that lets none come before what it waits for, each as early as hands allow: minutes, (n,)."""
    starts: dict[int, float] = {}
    for k in order:
        ready = max((starts[each] + work.minutes[each] for each in work.after[k]), default=0.0)
        times = sorted({ready, *(end for j in starts if (end := starts[j] + work.minutes[j]) > ready)})
        starts[k] = next(time for time in times if _fits(work, starts, k, time))
    return tuple(starts[k] for k in range(work.count))


def _fits(work: Work, starts: Mapping[int, float], k: int, time: float) -> bool:
    end = time + work.minutes[k]
    near = [j for j in starts if starts[j] < end - SAME_MIN and starts[j] + work.minutes[j] > time + SAME_MIN]
    moments = [time, *(starts[j] for j in near if starts[j] > time)]
    return all(
        work.hands[k] + sum(work.hands[j] for j in near if starts[j] <= moment < starts[j] + work.minutes[j] - SAME_MIN)
        <= work.there
        for moment in moments
    )


def ahead(
    work: Work, order: Sequence[int], started: Mapping[int, float], ended: Mapping[int, float], now: float
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """What is still to come once some of it has happened: the end forecast anew.

    Parameters
    ----------
    work
        Tasks by number.
    order
        In which the others follow.
    started, ended
        Minutes from the start at which tasks began and were done.
    now
        Minutes from the start; nothing that has not begun begins before.

    Returns
    -------
    tuple
        Start and end of every task, minutes: as they were, or as they are to be expected, (n,) each.

    Examples
    --------
    >>> work = Work(minutes=(10, 20, 5), hands=(1, 1, 1), after=((), (0,), (1,)), there=1)
    >>> ahead(work, [0, 1, 2], {0: 0.0}, {0: 14.0}, 14.0)
    ((0.0, 14.0, 34.0), (14.0, 34.0, 39.0))
    """
    starts = dict(started)
    ends = {k: ended.get(k, max(start + work.minutes[k], now)) for k, start in started.items()}
    for k in order:
        if k in starts:
            continue
        ready = max([now, *(ends[each] for each in work.after[k] if each in ends)])
        times = sorted({ready, *(end for end in ends.values() if end > ready)})
        starts[k] = next(time for time in times if _free(work, starts, ends, k, time))
        ends[k] = starts[k] + work.minutes[k]
    return tuple(starts[k] for k in range(work.count)), tuple(ends[k] for k in range(work.count))


def _free(work: Work, starts: Mapping[int, float], ends: Mapping[int, float], k: int, time: float) -> bool:
    end = time + work.minutes[k]
    near = [j for j in starts if starts[j] < end - SAME_MIN and ends[j] > time + SAME_MIN]
    moments = [time, *(starts[j] for j in near if starts[j] > time)]
    return all(
        work.hands[k] + sum(work.hands[j] for j in near if starts[j] <= moment < ends[j] - SAME_MIN) <= work.there
        for moment in moments
    )


def length_of(work: Work, starts: Sequence[float]) -> float:
    """Minutes from the start of a plan to its end."""
    return max(start + minutes for start, minutes in zip(starts, work.minutes, strict=True))


def has_solver() -> bool:
    """Whether the solver is installed (the extra `plan`); without it a plan is made by priority alone."""
    return find_spec("ortools") is not None


def shorter(work: Work, starts: Sequence[float], seconds: float) -> tuple[tuple[float, ...], float]:
    """Look for a shorter plan by a solver, from one that is known.

    Parameters
    ----------
    work
        Tasks by number.
    starts
        A plan, minutes, (n,).
    seconds
        How long to look at the most.

    Returns
    -------
    tuple
        The best plan found, minutes, (n,), and a length that no plan falls below; the plan that is known where there is
        no solver.
    """
    if not has_solver():
        return tuple(starts), first_plan(work)[1]
    from ortools.sat.python import cp_model

    grain = _grain(work) or 1 / _UNITS[-1]
    length = [round(m / grain) for m in work.minutes]
    model = cp_model.CpModel()
    most = sum(length)
    at = [model.new_int_var(0, most, "") for _ in length]
    end = model.new_int_var(0, most, "")
    spans = [model.new_fixed_size_interval_var(start, size, "") for start, size in zip(at, length, strict=True)]
    model.add_cumulative(spans, list(work.hands), work.there)
    for k, before in enumerate(work.after):
        model.add(end >= at[k] + length[k])
        for each in before:
            model.add(at[k] >= at[each] + length[each])
        model.add_hint(at[k], round(starts[k] / grain))
    model.minimize(end)
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = seconds
    solver.parameters.num_workers = WORKERS
    status = solver.solve(model)
    best, bound = tuple(starts), math.ceil(solver.best_objective_bound - 1e-6) * grain
    if status in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        # Of what begins at once, what comes before another is placed first.
        rank = {k: n for n, k in enumerate(_in_order(work))}
        found = placed(work, sorted(range(work.count), key=lambda k: (solver.value(at[k]), rank[k])))
        best = min(best, found, key=lambda each: length_of(work, each))
    if status == cp_model.OPTIMAL:
        bound = length_of(work, best)
    return best, min(max(bound, first_plan(work)[1]), length_of(work, best))


def explained(tasks: Sequence[Task], work: Work, starts: Sequence[float], bound: float) -> Planned:
    """A plan as it is answered, with who does what and the tasks that decide its end."""
    who = hands_of(work, starts)
    order = sorted(range(work.count), key=lambda k: (starts[k], starts[k] + work.minutes[k], k))
    minutes = length_of(work, starts)
    decide = deciding(work, starts)
    return Planned(
        minutes=minutes,
        schedule=[
            Scheduled(name=tasks[k].name, start=starts[k], end=starts[k] + work.minutes[k], who=who[k]) for k in order
        ],
        critical=[tasks[k].name for k in order if k in decide],
        proved=minutes <= bound + 1e-6,
        bound_minutes=min(bound, minutes),
        solver=has_solver(),
    )


def hands_of(work: Work, starts: Sequence[float], settled: Mapping[int, list[int]] | None = None) -> list[list[int]]:
    """Who does each task, hands counted from 1; whoever did what came before it goes on, if free.

    `settled` is who does some of them in any case.
    """
    free = [0.0] * work.there
    who: list[list[int]] = [[] for _ in starts]
    for k, hands in (settled or {}).items():
        who[k] = hands
        for hand in hands:
            free[hand - 1] = max(free[hand - 1], starts[k] + work.minutes[k])
    for k in sorted(range(work.count), key=lambda k: (starts[k], -work.hands[k])):
        if settled and k in settled:
            continue
        before = {hand for each in work.after[k] for hand in who[each]}
        idle = [hand for hand in range(1, work.there + 1) if free[hand - 1] <= starts[k] + SAME_MIN]
        idle.sort(key=lambda hand: (hand not in before, hand))
        # What takes no time keeps nobody.
        who[k] = sorted(idle[: work.hands[k]]) if work.minutes[k] else list(range(1, work.hands[k] + 1))
        for hand in who[k] if work.minutes[k] else ():
            free[hand - 1] = starts[k] + work.minutes[k]
    return who


def deciding(work: Work, starts: Sequence[float]) -> set[int]:
    """Tasks that, taking longer, delay the end: by what comes after them, or by hands that nobody else has free."""
    ends = [start + minutes for start, minutes in zip(starts, work.minutes, strict=True)]
    last = max(ends)
    found = {k for k in range(work.count) if ends[k] >= last - SAME_MIN}
    grown = True
    while grown:
        grown = False
        for k in range(work.count):
            if k not in found and any(_holds_up(work, starts, ends, k, each) for each in found):
                found.add(k)
                grown = True
    return found


def _holds_up(work: Work, starts: Sequence[float], ends: Sequence[float], one: int, other: int) -> bool:
    """Whether a task could not begin, were this one still going on."""
    if abs(ends[one] - starts[other]) > SAME_MIN:
        return False
    if one in work.after[other]:
        return True
    busy = sum(
        work.hands[k]
        for k in range(work.count)
        if k != one and starts[k] <= starts[other] + SAME_MIN and ends[k] > starts[other] + SAME_MIN
    )
    return busy + work.hands[one] > work.there
