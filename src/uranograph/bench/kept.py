"""What was worked out from a job, kept for as long as everything it looked at is as it was.

A job notes what is asked of it. A function marked `kept` is worked out once and then answered from memory while each thing it
asked for, itself or through others, still has the same imprint. Nothing is declared by hand, so nothing can be forgotten.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from contextvars import ContextVar
from functools import update_wrapper
from typing import TYPE_CHECKING, Any, Concatenate, Generic, ParamSpec, TypeVar

if TYPE_CHECKING:
    from uranograph.bench.job import Job

P = ParamSpec("P")
R = TypeVar("R")
# What can be asked for: the `readings` of a station that stand, those of one kind (`slot`, "station/kind"), all that was ever
# `written` there, the versions of a `form`, a limit of the `house`, the `acts` that disturbed something; and which.
Asked = tuple[str, str]


class Notes:
    """What one piece of work asked of its job, and, where that is a view, of the whole job behind it."""

    __slots__ = ("job", "own", "whole")

    def __init__(self, job: "Job") -> None:
        self.job = job
        self.own: set[Asked] = set()
        self.whole: set[Asked] = set()

    def add(self, source: "Job", asked: "set[Asked]") -> None:
        """Note what was asked of a job: this one, the whole behind it, or another view of it."""
        if not asked:
            return
        if source is self.job:
            self.own |= asked
            return
        if source.bank and not self.job.bank:
            # What a bank has under a plain name the whole job has under its own: all of that station counts.
            asked = asked | {("readings", name.partition("/")[0]) for kind, name in asked if kind == "slot"}
        noted = self.own if self.job is self.job.whole else self.whole
        noted |= asked
        noted |= source.made_from


_AT_WORK: ContextVar[Notes | None] = ContextVar("at_work", default=None)


def note(source: "Job", *asked: Asked) -> None:
    """Tell whoever is at work what was asked for."""
    notes = _AT_WORK.get()
    if notes is not None:
        notes.add(source, set(asked))


def noted(job: "Job", work: Callable[[], R]) -> tuple[R, Notes]:
    """Do some work on a job and say what it asked for."""
    outer = _AT_WORK.get()
    notes = Notes(job)
    token = _AT_WORK.set(notes)
    try:
        return work(), notes
    finally:
        _AT_WORK.reset(token)
        # Also where the work failed: whoever catches that depends on what made it fail.
        _hand_on(outer, notes)


def _hand_on(outer: Notes | None, notes: Notes) -> None:
    if outer is not None:
        outer.add(notes.job, notes.own)
        outer.add(notes.job.whole, notes.whole)


class Answer:
    """One answer, with the imprint of each thing that was asked for."""

    __slots__ = ("notes", "own", "value", "whole")

    def __init__(self, job: "Job", notes: Notes, value: Any) -> None:
        self.own = tuple((asked, job.imprint(asked)) for asked in notes.own)
        self.whole = tuple((asked, job.whole.imprint(asked)) for asked in notes.whole)
        self.notes = notes
        self.value = value

    def holds(self, job: "Job") -> bool:
        """Whether all that was asked for has the imprint that it had."""
        whole = job.whole
        return all(job.imprint(asked) is seen for asked, seen in self.own) and all(
            whole.imprint(asked) is seen for asked, seen in self.whole
        )

    def untouched(self, changed: set[Asked]) -> bool:
        """Whether nothing that was asked for is among what changed since it held."""
        return self.notes.own.isdisjoint(changed) and self.notes.whole.isdisjoint(changed)


MOST_KEPT = 768
# Answers to one question that are kept side by side: views of a job ask the same of different readings.
SIDE_BY_SIDE = 6
_KEPT: "OrderedDict[Hashable, tuple[Answer, ...]]" = OrderedDict()


class Kept(Generic[P, R]):
    """A function of a job that is answered from memory while everything that was asked of the job stands as it did.

    Parameters
    ----------
    work
        A function of a job, and of arguments by place that can be told apart by value.
    """

    def __init__(self, work: "Callable[Concatenate[Job, P], R]") -> None:
        self.work = work
        self.name = f"{work.__module__}.{work.__qualname__}"
        update_wrapper(self, work)

    def __call__(self, job: "Job", /, *args: P.args, **more: P.kwargs) -> R:
        key = self._question(job, args, more)
        answer = self._holding(job, key)
        if answer is None:
            value, notes = noted(job, lambda: self.work(job, *args, **more))
            answer = job.held[key] = Answer(job, notes, value)
            _keep(key, (answer, *_KEPT.get(key, ())[: SIDE_BY_SIDE - 1]))
            return value
        if (outer := _AT_WORK.get()) is not None:
            outer.add(job, answer.notes.own)
            outer.add(job.whole, answer.notes.whole)
        found: R = answer.value
        return found

    def at_hand(self, job: "Job", /, *args: P.args, **more: P.kwargs) -> tuple[R | None, bool]:
        """The newest answer there is, without working anything out, and whether it holds; None where there never was one."""
        key = self._question(job, args, more)
        answer = self._holding(job, key)
        if answer is not None:
            return answer.value, True
        last = _KEPT.get(key)
        return (last[0].value if last else None), False

    def _question(self, job: "Job", args: tuple[Hashable, ...], more: Mapping[str, Hashable]) -> tuple[Hashable, ...]:
        """What is asked, and of which time: an earlier position is judged by the card that stood then."""
        return (self.name, job.key, job.judged_until, args, *more.items())

    def _holding(self, job: "Job", key: tuple[Hashable, ...]) -> "Answer | None":
        """The answer that holds; a job never changes, so what holds for it once holds for it always."""
        answer = job.held.get(key)
        if answer is None:
            answer = job.held_before.get(key)
            if answer is None or not answer.untouched(job.changed):
                answer = next((one for one in _KEPT.get(key, ()) if one.holds(job)), None)
            if answer is not None:
                job.held[key] = answer
        return answer


kept = Kept


def _keep(key: Hashable, answers: "tuple[Answer, ...]") -> None:
    _KEPT[key] = answers
    while len(_KEPT) > MOST_KEPT:
        try:
            _KEPT.popitem(last=False)
        except KeyError:
            break


def forget() -> None:
    """Forget every answer: for tests that look at what is asked for."""
    _KEPT.clear()
