"""Memoized results of a job, valid while everything they read is unchanged.

A job notes what is asked of it. A function marked `kept` is worked out once and then answered from memory while each thing it
asked for, itself or through others, still has the same fingerprint. Nothing is declared by hand, so nothing can be forgotten.
"""

from collections import OrderedDict
from collections.abc import Callable, Hashable, Mapping
from contextvars import ContextVar
from functools import update_wrapper
from typing import Any, Concatenate, Generic, ParamSpec, Protocol, TypeVar

# What can be asked for: the `readings` of a station that stand, those of one kind (`slot`, "station/kind"), all that was ever
# `written` there, the versions of a `form`, a limit of the `house`, the `acts` that disturbed something; and which.
DependencyKey = tuple[str, str]


class Source(Protocol):
    """A job, or a view of one, as far as answers are kept for it."""

    @property
    def key(self) -> str:
        """Which job."""

    @property
    def bank(self) -> int:
        """Which bank's cams it is the job of; 0 for the whole engine."""

    @property
    def judged_until(self) -> int | None:
        """When an earlier position was left."""

    @property
    def made_from(self) -> frozenset[DependencyKey]:
        """Dependencies on the full job that decided which readings a view holds."""

    @property
    def memory(self) -> "Memory":
        """Its memoized results."""

    @property
    def full_job(self) -> "Source":
        """The job behind a view, or itself."""

    def fingerprint(self, asked: DependencyKey) -> tuple[object, ...]:
        """All that is written under what was asked for, as one object for the same writing."""


J = TypeVar("J", bound=Source)
P = ParamSpec("P")
R = TypeVar("R")


class Dependencies:
    """Dependencies of one computation on its job and, for a view, on the full job behind it."""

    __slots__ = ("full_job_keys", "job", "view_keys")

    def __init__(self, job: Source) -> None:
        self.job = job
        self.view_keys: set[DependencyKey] = set()
        self.full_job_keys: set[DependencyKey] = set()

    def add(self, source: Source, asked: set[DependencyKey]) -> None:
        """Note what was asked of a job: this one, the whole behind it, or another view of it."""
        if not asked:
            return
        if source is self.job:
            self.view_keys |= asked
            return
        if source.bank and not self.job.bank:
            # What a bank has under a plain name the whole job has under its own: all of that station counts.
            asked = asked | {("readings", name.partition("/")[0]) for kind, name in asked if kind == "slot"}
        tracked = self.view_keys if self.job is self.job.full_job else self.full_job_keys
        tracked |= asked
        tracked |= source.made_from


_TRACKING: ContextVar[Dependencies | None] = ContextVar("tracked_dependencies", default=None)


def track(source: Source, *asked: DependencyKey) -> None:
    """Record what the computation under way asked for."""
    notes = _TRACKING.get()
    if notes is not None:
        notes.add(source, set(asked))


def tracked(job: Source, work: Callable[[], R]) -> tuple[R, Dependencies]:
    """Run a computation on a job and return it with its dependencies."""
    outer = _TRACKING.get()
    notes = Dependencies(job)
    token = _TRACKING.set(notes)
    try:
        return work(), notes
    finally:
        _TRACKING.reset(token)
        # Also where the work failed: the caller that catches it depends on what made it fail.
        _propagate(outer, notes)


def _propagate(outer: Dependencies | None, notes: Dependencies) -> None:
    if outer is not None:
        outer.add(notes.job, notes.view_keys)
        outer.add(notes.job.full_job, notes.full_job_keys)


class MemoizedAnswer:
    """One answer, with the fingerprint of each thing that was asked for."""

    __slots__ = ("asked", "full_job_keys", "value", "view_keys")

    def __init__(self, job: Source, notes: Dependencies, value: Any) -> None:
        self.view_keys = tuple((asked, job.fingerprint(asked)) for asked in notes.view_keys)
        self.full_job_keys = tuple((asked, job.full_job.fingerprint(asked)) for asked in notes.full_job_keys)
        # What was asked for alone: the job itself is not kept for it.
        self.asked = (notes.view_keys, notes.full_job_keys)
        self.value = value

    def holds(self, job: Source) -> bool:
        """Whether all that was asked for has the fingerprint that it had."""
        whole = job.full_job
        return all(_same(job.fingerprint(asked), seen) for asked, seen in self.view_keys) and all(
            _same(whole.fingerprint(asked), seen) for asked, seen in self.full_job_keys
        )

    def untouched(self, changed: set[DependencyKey]) -> bool:
        """Whether nothing that was asked for is among what changed since it held."""
        return all(asked.isdisjoint(changed) for asked in self.asked)


def _same(one: tuple[object, ...], other: tuple[object, ...]) -> bool:
    return one is other or one == other


class Memory:
    """Memory of one job: results, fingerprints, active readings, views."""

    __slots__ = ("active", "changed", "fingerprints", "held", "held_before", "views")

    def __init__(self) -> None:
        self.held: dict[Hashable, MemoizedAnswer] = {}
        # What held before the last writing, and what of the job that writing changed.
        self.held_before: dict[Hashable, MemoizedAnswer] = {}
        self.changed: set[DependencyKey] = set()
        self.fingerprints: dict[DependencyKey, tuple[object, ...]] = {}
        self.active: dict[tuple[str, tuple[str, ...]], tuple[tuple[Any, ...], set[DependencyKey]]] = {}
        self.views: dict[object, Any] = {}

    def take_over(self, before: "Memory", forms: set[str], written: set[str], acted: bool) -> None:
        """Keep of the job before a writing all that the writing does not touch.

        Parameters
        ----------
        before
            What was known.
        forms, written
            Kinds of the forms that were written, and the stations and kinds of slots that were.
        acted
            Whether an act was written or voided: then readings may hold no longer, wherever they are.
        """
        for asked, seen in before.fingerprints.items():
            if (asked[0] != "acts" or not acted) and asked[1] not in (forms if asked[0] == "form" else written):
                self.fingerprints[asked] = seen
        if not acted:
            self.held_before.update(before.held)
            self.changed.update(("form", kind) for kind in forms)
            self.changed.update((kind, name) for kind in ("readings", "written", "slot") for name in written)
        self.active.update({w: known for w, known in before.active.items() if self.fingerprints.keys() >= known[1]})


MAX_MEMOIZED = 512
# Answers to one question that are kept side by side: views of a job ask the same of different readings.
SIDE_BY_SIDE = 6
_MEMO: OrderedDict[Hashable, tuple[MemoizedAnswer, ...]] = OrderedDict()


class Memoized(Generic[J, P, R]):
    """A function of a job that is answered from memory while everything that was asked of the job stands as it did.

    Parameters
    ----------
    work
        A function of a job and of positional, hashable arguments.
    """

    def __init__(self, work: Callable[Concatenate[J, P], R]) -> None:
        self.work = work
        self.name = f"{work.__module__}.{work.__qualname__}"
        update_wrapper(self, work)

    def __call__(self, job: J, /, *args: P.args, **more: P.kwargs) -> R:
        key = self._question(job, args, more)
        answer = self._holding(job, key)
        if answer is None:
            value, notes = tracked(job, lambda: self.work(job, *args, **more))
            answer = job.memory.held[key] = MemoizedAnswer(job, notes, value)
            _keep(key, (answer, *_MEMO.get(key, ())[: SIDE_BY_SIDE - 1]))
            return value
        if (outer := _TRACKING.get()) is not None:
            own, whole = answer.asked
            outer.add(job, own)
            outer.add(job.full_job, whole)
        found: R = answer.value
        return found

    def last_known(self, job: J, /, *args: P.args, **more: P.kwargs) -> tuple[R | None, bool]:
        """The newest answer there is, without working anything out, and whether it holds; None where there never was one."""
        key = self._question(job, args, more)
        answer = self._holding(job, key)
        if answer is not None:
            return answer.value, True
        last = _MEMO.get(key)
        return (last[0].value if last else None), False

    def _question(self, job: Source, args: tuple[Hashable, ...], more: Mapping[str, Hashable]) -> tuple[Hashable, ...]:
        """Dependency key with its time: an earlier position is judged by the card of that time."""
        return (self.name, job.key, job.judged_until, args, *more.items())

    def _holding(self, job: Source, key: tuple[Hashable, ...]) -> MemoizedAnswer | None:
        """The answer that holds; a job never changes, so what holds for it once holds for it always."""
        memory = job.memory
        answer = memory.held.get(key)
        if answer is None:
            answer = memory.held_before.get(key)
            if answer is None or not answer.untouched(memory.changed):
                answer = next((one for one in _MEMO.get(key, ()) if one.holds(job)), None)
            if answer is not None:
                memory.held[key] = answer
        return answer


memoized = Memoized


def _keep(key: Hashable, answers: tuple[MemoizedAnswer, ...]) -> None:
    _MEMO[key] = answers
    while len(_MEMO) > MAX_MEMOIZED:
        try:
            _MEMO.popitem(last=False)
        except KeyError:
            break


def clear_memo() -> None:
    """Forget every answer: for tests that look at what is asked for."""
    _MEMO.clear()
