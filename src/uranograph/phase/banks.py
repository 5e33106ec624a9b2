"""Engines with cams on each bank: banks are degreed separately and reported together."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench.finding import WORST_FIRST, Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.repeats import RepeatedReading
from uranograph.bench.slots import bank_of, slot_in_bank, within_bank
from uranograph.core.errors import InvalidInput
from uranograph.engine import positions
from uranograph.engine.cams import KEY, banks, key_in
from uranograph.phase import finding, judgment, methods, overlaps, repeats
from uranograph.phase.messages import say


def bank_read(reading: Entry) -> int:
    """The bank a reading is of: by its slot, or by its number where that is a lift at overlap."""
    return overlaps.bank_of(reading) if overlaps.LIFT.of_kind(reading.spot.kind) else bank_of(reading.slot)


def of_slot(job: Job, slot: str) -> Job:
    """The job of the bank that a slot is of."""
    return banks(job)[min(bank_read(Entry(KEY, slot, "")), len(banks(job))) - 1]


def position_now(job: Job, slot: str) -> Job:
    """The job of a slot's bank, at its cam's current position."""
    return positions.at_position(of_slot(job, slot))


def chosen(job: Job, query: Mapping[str, str]) -> Job:
    """The job of the bank asked for; else of the one last read while it wants reading, else of the first that does."""
    by_bank = banks(job)
    if len(by_bank) == 1:
        return job
    asked = query.get("bank", "")
    if asked.isdecimal() and 1 <= int(asked) <= len(by_bank):
        return by_bank[int(asked) - 1]
    read = [reading for reading in job.active_readings(KEY) if not reading.beside]
    last = by_bank[bank_read(read[-1]) - 1] if read else by_bank[0]
    return next((own for own in (last, *by_bank) if wants_reading(own)), last)


def wants_reading(job: Job) -> bool:
    """Whether a lobe that decides is not read yet on this bank."""
    view = positions.at_position(job)
    if methods.chosen_method(view, {}) == "overlap":
        return overlaps.wanted(view) is not None
    try:
        # A lobe with only one event is incomplete.
        half = any(result.centerline_deg is None for result in judgment.leading(view))
        return not judgment.judged(view) or half or bool(judgment.unread(view))
    except InvalidInput:
        return False


@memoized
def find(job: Job) -> Finding:
    """Judge every bank's cams, the finding that most needs a person first; *in* only where each bank's is."""
    by_bank = banks(job)
    found = [(own.bank, finding.find(own)) for own in by_bank]
    if len(found) == 1:
        return found[0][1]
    bank, first = min(found, key=lambda each: WORST_FIRST.index(each[1].verdict))
    named = bool(first.values.get("cam"))
    return replace(
        first,
        begun=any(each.begun for _, each in found),
        sentence=first.sentence if named else say("on-bank", bank=bank, words=first.sentence),
        next_step=say("on-bank", bank=bank, words=first.next_step),
        rows=tuple(_of_bank(row, own) for own, each in found for row in each.rows),
        doubts=tuple(say("on-bank", bank=own, words=words) for own, each in found for words in each.doubts),
        notes=(
            *_apart(by_bank),
            *(say("on-bank", bank=own, words=str(words)) for own, each in found for words in each.notes),
        ),
    )


def _of_bank(row: Row, bank: int) -> Row:
    return replace(row, label=say("row-of-bank", bank=bank, label=row.label.strip()))


def _apart(by_bank: tuple[Job, ...]) -> tuple[str, ...]:
    """Phase difference of the second bank's cams from the first's, if both are measured."""
    first, second = (_phases(own) for own in by_bank[:2])
    sentences = []
    for cam in first.keys() & second.keys():
        gap = second[cam][0] - first[cam][0]
        way = "later" if gap > 0 else "earlier"
        sentences.append(say("banks-apart", cam="cam" if cam == "both" else f"{cam} cam", gap_deg=abs(gap), way=way))
    return tuple(sorted(sentences))


def _phases(job: Job) -> dict[str, tuple[float, float]]:
    try:
        return judgment.phases(positions.at_position(job))
    except InvalidInput:
        return {}


def phases(job: Job) -> dict[str, tuple[float, float]]:
    """Current phase error and uncertainty of every cam, crank degrees, by its name in the engine."""
    return {key_in(job, own, cam): found for own in banks(job) for cam, found in _phases(own).items()}


def chance_in(job: Job) -> float | None:
    """The chance that every cam of every bank is within its tolerance; None where a bank was not read on the wheel."""
    product = 1.0
    for own in banks(job):
        within = judgment.chance_in(positions.at_position(own))
        if within is None:
            return None
        product *= within
    return product


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next, on the bank asked for or the one that wants it."""
    own = chosen(job, query)
    found = methods.prompt(own, query)
    return found if found is None or not own.bank else _on_bank(found, own.bank)


def _on_bank(found: Prompt, bank: int) -> Prompt:
    by_number = overlaps.LIFT.of_kind(found.spot.kind)
    return replace(
        found,
        slot=found.slot if by_number else slot_in_bank(found.slot, bank),
        label=say("label-of-bank", bank=bank, label=found.label),
        instruction=say("on-bank", bank=bank, words=found.instruction),
        extra={**found.extra, "bank": str(bank)},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be, on its own bank.

    Raises
    ------
    InvalidInput
        With the field at fault, or where the engine has no such bank.
    """
    if bank_of(entry.slot) > len(banks(job)):
        raise InvalidInput("text", "no-such-bank", bank=bank_of(entry.slot))
    methods.accept(of_slot(job, entry.slot), replace(entry, slot=within_bank(entry.slot)))


def describe(reading: Reading) -> str:
    """Say what a reading was of, with its bank where it is not the first."""
    words = methods.describe(replace(reading, slot=within_bank(reading.slot)))
    return words if bank_of(reading.slot) == 1 else say("label-of-bank", bank=bank_of(reading.slot), label=words)


def read_again(job: Job) -> Mapping[str, tuple[RepeatedReading, ...]]:
    """Repeated readings on all banks."""
    found = [repeats.repeats(own) for own in banks(job)]
    return {name: tuple(each for own in found for each in own[name]) for name in found[0]}


def worst(job: Job) -> Job:
    """The job of the bank that most needs a person."""
    return min(banks(job), key=lambda own: WORST_FIRST.index(finding.find(own).verdict))


def every_in(job: Job) -> bool:
    """Whether every cam on every bank is in."""
    return find(job).verdict is Verdict.IN
