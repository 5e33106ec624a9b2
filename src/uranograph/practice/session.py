"""A practice job: begun, acted on, and the made-up engine as it stands at any moment."""

import math
import secrets
from collections import OrderedDict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.core.errors import InvalidInput
from uranograph.practice.exercises import EXERCISES, Exercise
from uranograph.practice.forms import filled_forms
from uranograph.practice.planting import NAMED
from uranograph.shop import jobs, loading
from uranograph.shop.tables import EntryRow, JobRow, PracticeActRow, PracticeRow
from uranograph.world.acts import KINDS, Act, Consequence, act
from uranograph.world.state import World

# Most acts in one go, and the widest turn of one.
MAX_ACTS, MAX_TURN_DEG = 60, 1500.0
# What is written beside acts of the world: a fault named at the end.
NAMES = "named"


@dataclass(frozen=True)
class Practice:
    """A practice job: its key, its exercise, and the seed of its engine."""

    key: str
    exercise: Exercise
    seed: int
    begun: datetime


@dataclass(frozen=True)
class Done:
    """One thing done to the engine, and when."""

    act: Act
    at: datetime


def begin(session: Session, number: int, by: str, token: str = "", seed: int | None = None) -> str:
    """Begin an exercise on an engine of its own.

    Parameters
    ----------
    session
        A writing session.
    number
        Of the exercise.
    by
        Initials.
    token
        The same token twice is one job.
    seed
        Of the engine; drawn unless given.

    Returns
    -------
    str
        The job's key.

    Raises
    ------
    InvalidInput
        When there is no such exercise, or the initials are missing.
    """
    if number not in EXERCISES:
        raise InvalidInput("exercise", "no-such-exercise", typed=number)
    exercise = EXERCISES[number]
    key = jobs.begin(session, f"Practice {number}: {exercise.title}", by, token)
    row = loading.row_of(session, key)
    if session.get(PracticeRow, row.id) is not None:
        return key
    seed = secrets.randbelow(1_000_000) if seed is None else seed
    session.add(PracticeRow(job_id=row.id, exercise=number, seed=seed))
    for kind, typed in filled_forms(exercise, exercise.planted(seed)).items():
        jobs.save_form(session, key, kind, typed, by)
    return key


def practice_of(session: Session, key: str) -> Practice | None:
    """Which exercise a job is, or None where it is a real one."""
    found = session.execute(
        select(PracticeRow.exercise, PracticeRow.seed, JobRow.created_at)
        .join(JobRow, JobRow.id == PracticeRow.job_id)
        .where(JobRow.key == key)
    ).one_or_none()
    return None if found is None else Practice(key, EXERCISES[found[0]], found[1], found[2])


def done_to(session: Session, key: str) -> list[Done]:
    """Everything that was done to the engine of a practice job, oldest first."""
    rows = session.execute(
        select(PracticeActRow.kind, PracticeActRow.on, PracticeActRow.by, PracticeActRow.at)
        .join(JobRow, JobRow.id == PracticeActRow.job_id)
        .where(JobRow.key == key)
        .order_by(PracticeActRow.id)
    )
    return [Done(Act(kind, on, by), at) for kind, on, by, at in rows]


def world_of(practice: Practice, done: Sequence[Done], until: datetime | None = None) -> World:
    """The engine as it stood at a moment.

    Parameters
    ----------
    practice
        The exercise and its seed.
    done
        What was done to the engine, oldest first.
    until
        The moment; now unless given.

    Returns
    -------
    World
        With everything that was done until then.
    """
    world = practice.exercise.planted(practice.seed)
    for each in done:
        if until is not None and each.at > until:
            break
        if each.act.kind == NAMES:
            continue
        world, _ = act(world.but(now_s=(each.at - practice.begun).total_seconds()), each.act)
    return world if until is None else world.but(now_s=(until - practice.begun).total_seconds())


@dataclass(frozen=True)
class _Known:
    """An engine as it stood after an act, by the act's number."""

    last: int
    world: World


# Engines that were looked at, the oldest forgotten first: each act is only ever done once to what is known.
MAX_KNOWN = 64
_KNOWN: "OrderedDict[tuple[str, str], _Known]" = OrderedDict()


def world_now(session: Session, practice: Practice) -> World:
    """The engine as it stands now, from what is known of it and what was done since.

    Parameters
    ----------
    session
        Any session of the shop; nothing that it has not written yet counts.
    practice
        The job.
    """
    name = (practice.key, practice.begun.isoformat())
    known = _KNOWN.pop(name, None) or _Known(0, practice.exercise.planted(practice.seed))
    rows = session.execute(
        select(PracticeActRow.id, PracticeActRow.kind, PracticeActRow.on, PracticeActRow.by, PracticeActRow.at)
        .join(JobRow, JobRow.id == PracticeActRow.job_id)
        .where(JobRow.key == practice.key, PracticeActRow.id > known.last, PracticeActRow.kind != NAMES)
        .order_by(PracticeActRow.id)
    )
    for number, kind, on, by, at in rows:
        world, _ = act(known.world.but(now_s=(at - practice.begun).total_seconds()), Act(kind, on, by))
        known = _Known(number, world)
    _KNOWN[name] = known
    while len(_KNOWN) > MAX_KNOWN:
        _KNOWN.popitem(last=False)
    return known.world.but(now_s=(datetime.now(UTC) - practice.begun).total_seconds())


def do(
    session: Session, practice: Practice, acts: Sequence[Act], at: datetime | None = None
) -> tuple[World, tuple[Consequence, ...]]:
    """Do something to the engine of a practice job, and write it down.

    Parameters
    ----------
    session
        A writing session.
    practice
        The job.
    acts
        What is done, in order.
    at
        When; now unless given.

    Returns
    -------
    tuple
        The engine after it, and what came of it.

    Raises
    ------
    InvalidInput
        When there is no such act, or it is past all sense.
    """
    if len(acts) > MAX_ACTS:
        raise InvalidInput("acts", "too-many-acts", most=MAX_ACTS)
    at = at or datetime.now(UTC)
    world = world_now(session, practice)
    came: list[Consequence] = []
    job_id = loading.row_of(session, practice.key).id
    for each in acts:
        if each.kind not in KINDS or not math.isfinite(each.by) or abs(each.by) > MAX_TURN_DEG:
            raise InvalidInput("acts", "no-such-act-here", typed=each.kind[:20])
        try:
            world, more = act(world.but(now_s=(at - practice.begun).total_seconds()), each)
        except (KeyError, ValueError) as error:
            raise InvalidInput("acts", "no-such-act-here", typed=each.kind[:20]) from error
        came += more
        session.add(PracticeActRow(job_id=job_id, kind=each.kind, on=each.on[:16], by=each.by, at=at))
    return world, tuple(came)


def name_faults(session: Session, practice: Practice, faults: Sequence[str], at: datetime | None = None) -> None:
    """Write down what is named as wrong with an engine.

    Parameters
    ----------
    session
        A writing session.
    practice
        The job.
    faults
        By their names in `NAMED`.
    at
        When; now unless given.

    Raises
    ------
    InvalidInput
        When none is named, or there is no such fault.
    """
    if not faults:
        raise InvalidInput("faults", "no-fault-named")
    if unknown := set(faults) - set(NAMED):
        raise InvalidInput("faults", "no-such-act-here", typed=min(unknown)[:20])
    job_id, at = loading.row_of(session, practice.key).id, at or datetime.now(UTC)
    for each in sorted(set(faults)):
        session.add(PracticeActRow(job_id=job_id, kind=NAMES, on=each, by=0.0, at=at))


def records(session: Session, by: str) -> dict[int, list[str]]:
    """The practice jobs of a person by exercise, newest first; those without a reading are left out."""
    wrote = select(EntryRow.job_id).where(EntryRow.by == by, EntryRow.kind == "reading")
    rows = session.execute(
        select(PracticeRow.exercise, JobRow.key)
        .join(JobRow, JobRow.id == PracticeRow.job_id)
        .where(JobRow.binned_at.is_(None), JobRow.id.in_(wrote))
        .order_by(JobRow.touched_at.desc())
    )
    found: dict[int, list[str]] = {}
    for exercise, key in rows:
        found.setdefault(exercise, []).append(key)
    return found
