"""Tasks and hands: what can be done when."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Found, Input

MAX_TASKS, MAX_HANDS = 120, 40
SAME_MIN = 1e-9
Minutes = Annotated[float, Field(ge=0, le=100_000)]


class Task(Input):
    """A task: how long, how many hands all the while, and what comes before it."""

    name: str = Field(min_length=1, max_length=80)
    minutes: Minutes
    hands: int = Field(1, ge=0, le=MAX_HANDS, description="0 where it only has to be waited for.")
    after: list[str] = Field(default=[], max_length=MAX_TASKS)


class Scheduled(Found):
    """A task in the plan; minutes from the start."""

    name: str
    start: float
    end: float
    who: list[int] = Field(description="Which of the hands, from 1.")


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
    """Reforecast the rest of a plan after part of it has happened.

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
