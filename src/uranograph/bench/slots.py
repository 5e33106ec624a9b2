"""Slots: what a station has readings for, where in it a reading belongs, and what such readings rest on."""

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from enum import Enum
from typing import Generic, Protocol, TypeVar

from uranograph.bench.log import Reading
from uranograph.bench.log import Spot as Spot
from uranograph.bench.log import slot_of as slot_of
from uranograph.bench.log import spot_of as spot_of

V = TypeVar("V")
NUMBER = "[0-9]{1,4}"
# Things a group of readings depends on until the group is complete.
INDICATOR = "indicator"


class Read(Protocol):
    """A job, as far as slots ask it."""

    def active_readings(self, station: str, *kinds: str) -> list[Reading]:
        """A station's readings that hold."""

    def next_number(self, station: str, kind: str) -> int:
        """The first number free for a kind of slot."""


class Grouping(Enum):
    """Readings that mean something only with others, taken without the indicator being moved between them."""

    NOT = ""
    # Before and after readings with one number.
    PAIR = "pair"
    # All of one kind, such as the points of a sweep.
    SERIES = "series"


_OF_BANK = re.compile("bank([1-9])-")


def bank_of(slot: str) -> int:
    """The bank whose cam a slot is of, where the station keeps them apart; the first bank's slots carry no name of it.

    Examples
    --------
    >>> bank_of("bank2-io.1.forward"), bank_of("io.1.forward")
    (2, 1)
    """
    found = _OF_BANK.match(slot)
    return int(found[1]) if found else 1


def within_bank(slot: str) -> str:
    """A slot as its own bank has it: the inverse of `slot_in_bank`."""
    return _OF_BANK.sub("", slot, count=1)


def slot_in_bank(slot: str, bank: int) -> str:
    """A slot of one bank's cam as it is written in the log.

    Examples
    --------
    >>> slot_in_bank("io.1.forward", 2), slot_in_bank("io.1.forward", 1)
    ('bank2-io.1.forward', 'io.1.forward')
    """
    return slot if bank < 2 else f"bank{bank}-{slot}"


def _text(reading: Reading) -> str:
    return reading.text


def in_mm(reading: Reading) -> float:
    """Reading as a length, mm."""
    return reading.mm


@dataclass(frozen=True, eq=False)
class Slot(Generic[V]):
    """Reading slots of a station.

    Parameters
    ----------
    station
        The station's key.
    kinds
        What each reading is of; `#` stands for a number, as in `lobe-#`.
    places
        What is read of it; empty where the kind alone is the name, as for an act at the wheel.
    value
        How a reading is read; its text as typed unless given.
    rests_on
        What an act must disturb to end such readings (`bench/acts.py`).
    together
        With which others it must be read in one go.
    lobe_of
        The lobe that a kind is of, where an act on the cam of the other leaves it.
    by_bank
        Whether each bank of an engine has its own, where each has a cam of its own.
    """

    station: str
    kinds: tuple[str, ...]
    places: tuple[str, ...] = ()
    value: Callable[[Reading], V] = _text  # type: ignore[assignment]
    rests_on: tuple[str, ...] = ()
    together: Grouping = Grouping.NOT
    by_bank: bool = False
    lobe_of: Callable[[str], str] | None = None
    _kind: re.Pattern[str] = field(init=False, repr=False)
    _name: re.Pattern[str] = field(init=False, repr=False)

    def __post_init__(self) -> None:
        kinds = "|".join(re.escape(kind).replace(r"\#", "[0-9]{1,2}") for kind in self.kinds)
        kinds = f"(?:bank2-)?(?:{kinds})" if self.by_bank else kinds
        places = rf"\.{NUMBER}\.({'|'.join(map(re.escape, self.places))})" if self.places else ""
        object.__setattr__(self, "_kind", re.compile(kinds))
        object.__setattr__(self, "_name", re.compile(f"({kinds}){places}"))

    def of_kind(self, kind: str) -> bool:
        """Whether readings of this kind belong to it."""
        return self._kind.fullmatch(kind) is not None

    def has(self, name: str) -> bool:
        """Whether it has a reading of this name."""
        return self._name.fullmatch(name) is not None

    def next(self, job: Read, kind: str, place: str = "") -> str:
        """The name of the next reading of a kind."""
        return slot_of(kind, job.next_number(self.station, kind), place or self.places[0])

    def taken(self, job: Read, *kinds: str) -> list[Reading]:
        """Its readings that hold, of some kinds or of all, oldest first."""
        if not kinds and not any("#" in kind for kind in self.kinds):
            kinds = self.kinds
        return [r for r in job.active_readings(self.station, *kinds) if kinds or self.of_kind(r.spot.kind)]

    def values(self, job: Read, *kinds: str) -> list[V]:
        """Parsed values of those readings."""
        return [self.value(reading) for reading in self.taken(job, *kinds)]
