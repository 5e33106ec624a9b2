"""A job as the bench sees it: its sheets and readings, in the order they were written."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime
from functools import cached_property

from uranograph.bench import card as cards
from uranograph.bench import drive as drives
from uranograph.bench import engine as engines
from uranograph.bench import rules
from uranograph.bench import wheel as wheels
from uranograph.bench.house import HouseValue
from uranograph.bench.typed import Sheet
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn

# Written beside a station's readings without being one: why it is passed over, pictures, and that something was
# changed, so that what was read before is history.
SKIP, PHOTO, ANEW = "skip", "photo", "anew"
BESIDE = (SKIP, PHOTO, ANEW)


@dataclass(frozen=True)
class Void:
    """Why and by whom a reading no longer counts."""

    reason: str
    by: str
    at: datetime


@dataclass(frozen=True)
class Entry:
    """A reading about to be written: what was typed, and what for."""

    station: str
    slot: str
    text: str
    side: str | None = None
    approach: str = "forward"
    drop: str | None = None
    unit: LengthUnit = LengthUnit.INCH
    instrument: str = "by eye"
    note: str | None = None


@dataclass(frozen=True)
class Reading(Entry):
    """A reading as it was written. `seq` orders everything written to one job."""

    id: int = 0
    seq: int = 0
    by: str = ""
    at: datetime = datetime.min
    void: Void | None = None

    @property
    def beside(self) -> bool:
        """Whether it stands beside the station's readings without being one."""
        return self.slot.split(".")[0] in BESIDE

    @property
    def imprint(self) -> tuple[object, ...]:
        """What a finding can depend on, in a form that can be told apart by value."""
        one = (self.id, self.seq, self.slot, self.text, self.side, self.drop, self.approach)
        return (*one, self.note, self.unit, self.void is None)


@dataclass(frozen=True)
class TypedSheet:
    """One version of a sheet as typed: `engine`, `card` or `wheel`."""

    kind: str
    seq: int
    typed: Mapping[str, str]
    by: str
    at: datetime


@dataclass(frozen=True, eq=False)
class Job:
    """Everything written to one job. What it means is worked out on every look."""

    key: str
    title: str
    sheets: tuple[TypedSheet, ...] = ()
    readings: tuple[Reading, ...] = ()
    seq: int = 0
    earlier: tuple[Reading, ...] = ()
    origin: "Job | None" = None
    house: Mapping[str, HouseValue] = field(default_factory=dict)

    @cached_property
    def imprints(self) -> dict[str, tuple[object, ...]]:
        """All that is written under each name, of a sheet or of a station, in a form that can be told apart by value."""
        found: dict[str, list[object]] = {}
        for sheet in self.sheets:
            found.setdefault(sheet.kind, []).append((sheet.seq, *sheet.typed.items()))
        for reading in (*self.readings, *self.earlier):
            found.setdefault(reading.station, []).append(reading.imprint)
        return {name: tuple(items) for name, items in found.items()}

    @property
    def whole(self) -> "Job":
        """The job this is a view of, or itself: sheets and true TDC are the same for all views of a job."""
        return self.origin or self

    def latest(self, kind: str) -> TypedSheet | None:
        """The newest version of a sheet."""
        return next((sheet for sheet in reversed(self.sheets) if sheet.kind == kind), None)

    def next_number(self, station: str, kind: str) -> int:
        """The first number free for a kind of slot, counting readings at earlier positions of the cam."""
        taken = [
            int(parts[1])
            for reading in (*self.readings, *self.earlier)
            if reading.station == station and reading.void is None and (parts := reading.slot.split("."))[0] == kind
        ]
        return max(taken, default=0) + 1

    def standing(self, station: str) -> list[Reading]:
        """A station's readings that are not voided and not of before a change, oldest first."""
        changed = max((reading.seq for reading in self.aside(station, ANEW)), default=0)
        return [
            reading
            for reading in self.readings
            if reading.station == station and reading.void is None and reading.seq > changed and not reading.beside
        ]

    def aside(self, station: str, kind: str) -> list[Reading]:
        """What stands beside a station's readings, of one kind of `BESIDE`."""
        return [
            reading
            for reading in self.readings
            if reading.station == station and reading.void is None and reading.slot.split(".")[0] == kind
        ]

    def before_change(self, station: str) -> tuple["Job", Reading] | None:
        """The job as it was read before the newest change at a station, and that change; None where nothing was changed."""
        changes = self.aside(station, ANEW)
        if not changes:
            return None
        until = changes[-1].seq
        kept = tuple(reading for reading in self.readings if reading.seq < until)
        return replace(self, readings=kept, seq=until, origin=self.whole), changes[-1]

    def skipped(self, station: str) -> Reading | None:
        """Why a station is passed over, unless it was worked at since."""
        said = self.aside(station, SKIP)
        if not said:
            return None
        worked = [reading.seq for reading in self.standing(station)]
        worked += [sheet.seq for sheet in self.sheets if sheet.kind == station]
        return said[-1] if said[-1].seq > max(worked, default=0) else None

    @cached_property
    def engine_sheet(self) -> Sheet[engines.Engine] | None:
        if self.origin is not None:
            return self.origin.engine_sheet
        typed = self.latest("engine")
        return engines.read(typed.typed) if typed else None

    @property
    def engine(self) -> engines.Engine | None:
        return self.engine_sheet.value if self.engine_sheet else None

    @property
    def unit(self) -> LengthUnit:
        return self.engine.unit if self.engine else LengthUnit.INCH

    @property
    def rotation(self) -> Turn | None:
        return self.engine.rotation if self.engine else None

    @cached_property
    def rules(self) -> rules.Rules:
        """Tolerance and basis for this job."""
        if self.origin is not None:
            return self.origin.rules
        typed = self.latest("rules")
        return (rules.read(typed.typed).value if typed else None) or rules.Rules()

    @property
    def tolerance_deg(self) -> float:
        return self.rules.tolerance_deg

    @cached_property
    def card_sheet(self) -> Sheet[cards.SpecCard] | None:
        if self.origin is not None:
            return self.origin.card_sheet
        typed = self.latest("card")
        return cards.read(typed.typed, self.unit) if typed else None

    @property
    def card(self) -> cards.SpecCard | None:
        return self.card_sheet.value if self.card_sheet else None

    @cached_property
    def wheel_sheet(self) -> Sheet[wheels.Mounted] | None:
        if self.origin is not None:
            return self.origin.wheel_sheet
        typed = self.latest("wheel")
        return self.mounted_by(typed) if typed else None

    @property
    def wheel(self) -> wheels.Mounted | None:
        return self.wheel_sheet.value if self.wheel_sheet else None

    @cached_property
    def drive(self) -> drives.Drive | None:
        if self.origin is not None:
            return self.origin.drive
        typed = self.latest("drive")
        return drives.read(typed.typed, self.unit).value if typed else None

    def mounted_by(self, sheet: TypedSheet) -> Sheet[wheels.Mounted]:
        """One version of the wheel sheet, read for this engine."""
        return wheels.read(sheet.typed, self.rotation, self.unit)
