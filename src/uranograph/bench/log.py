"""The append-only log of a job: forms, readings and annotations in the order written."""

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, fields, replace
from datetime import UTC, datetime
from functools import cached_property, lru_cache
from operator import attrgetter
from typing import Any, ClassVar, NamedTuple

from uranograph.core.quantities import LengthUnit, parse_length

# Timestamp of entries not yet written.
UNWRITTEN = datetime(1, 1, 1, tzinfo=UTC)


class Spot(NamedTuple):
    """Where a reading belongs: its kind, its number, and its place, such as the intake's second pair, before."""

    kind: str
    number: int = 0
    place: str = ""


def slot_of(kind: str, number: int, place: str) -> str:
    """Name a place as it is written in the log.

    Examples
    --------
    >>> slot_of("intake", 1, "before")
    'intake.1.before'
    """
    return f"{kind}.{number}.{place}"


@lru_cache(maxsize=8192)
def spot_of(slot: str) -> Spot:
    """Where a name of the log belongs: the inverse of `slot_of`; a name without dots is a kind alone.

    Examples
    --------
    >>> spot_of("intake.1.before")
    Spot(kind='intake', number=1, place='before')
    >>> spot_of("left")
    Spot(kind='left', number=0, place='')
    """
    kind, _, rest = slot.partition(".")
    number, _, place = rest.partition(".")
    return Spot(kind, int(number) if number.isdecimal() else 0, place)


def kind_name(station: str, kind: str) -> str:
    """A station and what something written there is of, as it is asked for."""
    return f"{station}/{kind}"


@dataclass(frozen=True)
class Void:
    """Why and by whom an entry no longer counts."""

    reason: str
    by: str
    at: datetime


@dataclass(frozen=True)
class TypedForm:
    """One version of a form as typed: `engine`, `card` or `wheel`."""

    kind: str
    seq: int
    typed: Mapping[str, str]
    by: str
    at: datetime


@dataclass(frozen=True)
class Entry:
    """A reading about to be written: what was typed, and what for.

    `about` is what it was asked of, in words; `order` the order of the plan that it begins; `points` how many points the
    file had that it is one of. Of a reading that an instrument took: `raw` is the line that it came by, and `uncertainty` the
    instrument's own, expanded (k = 2), of `text` and then of `second`, in mm, degrees, °C or N m; 0 where an eye read it.
    """

    station: str
    slot: str
    text: str
    side: str | None = None
    approach: str = "forward"
    second: str | None = None
    unit: LengthUnit = LengthUnit.INCH
    instrument: str = "by eye"
    about: str | None = None
    order: tuple[int, ...] = ()
    points: int | None = None
    raw: str | None = None
    uncertainty: tuple[float, ...] = ()

    @cached_property
    def spot(self) -> Spot:
        """Where it belongs: what it is of, which of them, and its place."""
        return spot_of(self.slot)

    @cached_property
    def kind_name(self) -> str:
        """Its station and what it is of, as it is asked for."""
        return kind_name(self.station, self.spot.kind)

    @property
    def fields(self) -> dict[str, Any]:
        """Typed values by name."""
        return {each.name: getattr(self, each.name) for each in fields(Entry)}

    @property
    def mm(self) -> float:
        """Typed length, mm, converted from its unit."""
        return parse_length(self.text, self.unit)

    @property
    def is_by_instrument(self) -> bool:
        """Whether an instrument took its figure, and no eye."""
        return bool(self.uncertainty) and self.uncertainty[0] > 0

    @property
    def reader(self) -> str:
        """The instrument that read its figure; empty where an eye did."""
        return self.instrument.partition(",")[0] if self.is_by_instrument else ""

    def division(self, otherwise: float, place: int = 0) -> float:
        """Smallest division that this figure is read to: what is as uncertain as the instrument, or `otherwise` by eye.

        A figure anywhere within one division d has an expanded uncertainty of d/√3 (rectangular, k = 2).

        Examples
        --------
        >>> Entry("tdc", "stop.1.before", "35").division(1.0)
        1.0
        >>> round(Entry("tdc", "stop.1.before", "35.2", uncertainty=(0.1,)).division(1.0), 3)
        0.173
        """
        own = self.uncertainty[place] if place < len(self.uncertainty) else 0.0
        return math.sqrt(3) * own if own > 0 else otherwise


@dataclass(frozen=True)
class Reading(Entry):
    """A reading as it was written. `seq` orders everything written to one job."""

    id: int = 0
    seq: int = 0
    by: str = ""
    at: datetime = UNWRITTEN
    void: Void | None = None

    beside: ClassVar[bool] = False

    @cached_property
    def fingerprint(self) -> tuple[object, ...]:
        """Comparable value that a finding can depend on."""
        one = (self.id, self.seq, self.slot, self.text, self.side, self.second, self.approach)
        return (*one, self.about, self.order, self.points, self.unit, self.uncertainty, self.void is None)


def coarsest(readings: Iterable[Entry], otherwise: float, place: int = 0) -> float:
    """The coarsest division among those that these were read to; `otherwise` where there are none."""
    return max((each.division(otherwise, place) for each in readings), default=otherwise)


@dataclass(frozen=True, kw_only=True)
class Annotation:
    """Annotation of a station's readings. `TYPE` is its name in the log."""

    TYPE: ClassVar[str]
    beside: ClassVar[bool] = True

    station: str
    id: int = 0
    seq: int = 0
    by: str = ""
    at: datetime = UNWRITTEN
    void: Void | None = None

    @property
    def text(self) -> str:
        """Text of the annotation as typed."""
        raise NotImplementedError

    @property
    def in_sentence(self) -> str:
        """The same, within a sentence."""
        return self.text

    @cached_property
    def kind_name(self) -> str:
        """Its station and its type, as it is asked for."""
        return kind_name(self.station, self.TYPE)

    @property
    def payload(self) -> dict[str, Any]:
        """Payload by name, without place, time and author."""
        return {each.name: getattr(self, each.name) for each in fields(self) if each.name not in _OF_ALL}

    @cached_property
    def fingerprint(self) -> tuple[object, ...]:
        """Comparable value that a finding can depend on."""
        return (self.TYPE, self.id, self.seq, self.void is None, *self.payload.values())


_OF_ALL = {each.name for each in fields(Annotation)}


@dataclass(frozen=True, kw_only=True)
class Note(Annotation):
    """A note in free words, of the station, or of the reading whose number in the log is `about`."""

    TYPE = "note"
    words: str
    about: int | None = None

    @property
    def text(self) -> str:
        return self.words


@dataclass(frozen=True, kw_only=True)
class Skip(Annotation):
    """Why a station is passed over."""

    TYPE = "skip"
    reason: str

    @property
    def text(self) -> str:
        return self.reason


@dataclass(frozen=True, kw_only=True)
class Acceptance(Annotation):
    """Why what is out or in doubt is accepted as it is, and what it was."""

    TYPE = "acceptance"
    was: str
    reason: str

    @property
    def text(self) -> str:
        return self.reason


@dataclass(frozen=True, kw_only=True)
class Change(Annotation):
    """That something was changed, in free words, so that what this station read before is history."""

    TYPE = "change"
    what: str

    @property
    def text(self) -> str:
        return self.what


@dataclass(frozen=True, kw_only=True)
class Picture(Annotation):
    """A picture, or a capture of what instruments said: what it shows, and the SHA-256 of the PNG, JPEG or JSON Lines."""

    TYPE = "picture"
    caption: str
    media_type: str
    digest: str

    @property
    def is_capture(self) -> bool:
        """Whether it is lines of instruments, and nothing to be looked at."""
        return not self.media_type.startswith("image/")

    @property
    def text(self) -> str:
        return self.caption


# Entries of a job besides its forms.
Written = Reading | Annotation


@dataclass(frozen=True, eq=False)
class Log:
    """All that was written to one job, or all of it that a view shows, in order."""

    forms: tuple[TypedForm, ...] = ()
    entries: tuple[Written, ...] = ()

    @cached_property
    def readings(self) -> tuple[Reading, ...]:
        """The readings alone."""
        return tuple(entry for entry in self.entries if isinstance(entry, Reading))

    @cached_property
    def by_station(self) -> dict[str, tuple[Written, ...]]:
        """All that is written at each station."""
        return _grouped(self.entries, _station)

    @cached_property
    def by_kind(self) -> dict[str, tuple[Written, ...]]:
        """The same by what it is of, `station/kind`."""
        return _grouped(self.entries, _kind)

    def versions(self, kind: str) -> list[TypedForm]:
        """Every version of a form, oldest first."""
        return [filled for filled in self.forms if filled.kind == kind]

    def latest(self, kind: str) -> TypedForm | None:
        """The newest version of a form."""
        return next((filled for filled in reversed(self.forms) if filled.kind == kind), None)

    def with_more(
        self, forms: tuple[TypedForm, ...], entries: tuple[Written, ...], voids: Mapping[int, Void]
    ) -> "tuple[Log, list[Written]]":
        """The log with what was written since; and what of it is new or was voided by that.

        Parameters
        ----------
        forms, entries
            What was added, in order.
        voids
            By the number in the log of what they void, which stands before what was added.
        """
        voided = {e.seq: replace(e, void=voids[e.seq]) for e in self.entries if e.seq in voids} if voids else {}

        def marked(own: tuple[Written, ...]) -> tuple[Written, ...]:
            return tuple(voided.get(entry.seq, entry) for entry in own) if voided else own

        written = [*voided.values(), *entries]
        log = Log((*self.forms, *forms), (*marked(self.entries), *entries))
        for name, group in (("by_station", _station), ("by_kind", _kind)):
            if name in self.__dict__:
                groups = dict(self.__dict__[name])
                for each in {group(entry) for entry in written}:
                    since = (entry for entry in entries if group(entry) == each)
                    groups[each] = (*marked(groups.get(each, ())), *since)
                log.__dict__[name] = groups
        return log, written

    def without(self, gone: set[int], station: str | None = None) -> "Log":
        """The log without entries of these numbers; where all of them are of one station, the rest is taken over as known."""
        log = replace(self, entries=tuple(entry for entry in self.entries if entry.seq not in gone))
        if station is not None:
            for name, own in (("by_station", station), ("by_kind", f"{station}/")):
                log.__dict__[name] = {
                    group: tuple(e for e in entries if e.seq not in gone) if group.startswith(own) else entries
                    for group, entries in getattr(self, name).items()
                }
        return log


_station, _kind = attrgetter("station"), attrgetter("kind_name")


def _grouped(entries: Iterable[Written], group: Callable[[Written], str]) -> dict[str, tuple[Written, ...]]:
    found: dict[str, list[Written]] = {}
    for entry in entries:
        found.setdefault(group(entry), []).append(entry)
    return {name: tuple(own) for name, own in found.items()}
