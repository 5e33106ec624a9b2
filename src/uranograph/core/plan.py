"""The shortest plan of a piece of work for the hands there are: who does what, and which tasks decide its end."""

import math
from collections.abc import Callable, Mapping, Sequence
from importlib.util import find_spec
from typing import Any

from pydantic import Field

from uranograph.core.models import Found, Input
from uranograph.core.schedule import (
    MAX_HANDS,
    MAX_TASKS,
    SAME_MIN,
    Scheduled,
    Task,
    Work,
    length_of,
    placed,
    understood,
)

# Time limit of an API calculation, s; the best plan so far is returned.
MAX_SECONDS = 6.0
WORKERS = 4
# Resolution of the integer solver, fractions of a minute.
_UNITS = (1, 2, 4, 10, 60, 100, 1000)


class PlanInput(Input):
    """Tasks and hands."""

    tasks: list[Task] = Field(min_length=1, max_length=MAX_TASKS)
    hands: int = Field(ge=1, le=MAX_HANDS)
    seconds: float = Field(MAX_SECONDS, gt=0, le=MAX_SECONDS, description="How long to look for a shorter one.")


class Planned(Found):
    """A plan and how good it is."""

    minutes: float
    schedule: list[Scheduled]
    critical: list[str] = Field(description="Each of these, taking longer, delays the end of this plan.")
    proved: bool = Field(description="Whether no plan is shorter.")
    bound_minutes: float = Field(description="No plan is shorter than this.")
    solver: bool = Field(description="Whether a solver was at hand; without one the plan is made by priority alone.")


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
    # Two of these cannot run at the same time.
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
        # Of tasks that start together, predecessors are placed first.
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
        # A task without duration occupies nobody.
        who[k] = sorted(idle[: work.hands[k]]) if work.minutes[k] else list(range(1, work.hands[k] + 1))
        for hand in who[k] if work.minutes[k] else ():
            free[hand - 1] = starts[k] + work.minutes[k]
    return who


def deciding(work: Work, starts: Sequence[float]) -> set[int]:
    """Critical tasks: a delay of them delays the end, through successors or a lack of free hands."""
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
