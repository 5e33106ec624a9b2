"""A job as the bench sees it: its forms and readings, in the order they were written."""

from collections.abc import Callable, Hashable, Mapping
from dataclasses import dataclass, field, fields, replace
from datetime import datetime
from functools import cached_property
from itertools import chain
from operator import attrgetter
from typing import Any, TypeVar

from uranograph.bench.acts import ACT, details_of, disturbs, to_position
from uranograph.bench.forms import Filled, Form
from uranograph.bench.house import LIMITS, HouseValue, Measure, lawful
from uranograph.bench.kept import Answer, Asked, kept, note, noted
from uranograph.bench.slots import INDICATOR, Slot, Spot, Together, bank_of, spot_of, within_bank
from uranograph.core.quantities import LengthUnit, parse_length

T = TypeVar("T")
# The form that a job begins with: its unit of bare lengths holds wherever another form says none.
FIRST_FORM = "engine"
# The form of limits that hold for one job alone, beside those of the house.
LIMITS_FORM = "limits"
# Written beside a station's readings without being one: why it is passed over, pictures, that something was changed, so
# that what this station read before is history, and acts, which end what rests on what they disturb, wherever it was read.
SKIP, PHOTO, ANEW = "skip", "photo", "anew"
# A note in free words, of the station or of one reading; what is out or in doubt, accepted as it is.
NOTE, ACCEPTED = "note", "accepted"
BESIDE = (SKIP, PHOTO, ANEW, NOTE, ACCEPTED, ACT)


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
    second: str | None = None
    unit: LengthUnit = LengthUnit.INCH
    instrument: str = "by eye"
    note: str | None = None

    @cached_property
    def spot(self) -> Spot:
        """Where it belongs: what it is of, which of them, and its place."""
        return spot_of(self.slot)

    @cached_property
    def kind_name(self) -> str:
        """Its station and what it is of, as it is asked for."""
        return _kind_name(self.station, self.spot.kind)

    @property
    def fields(self) -> dict[str, Any]:
        """What was typed, by name."""
        return {each.name: getattr(self, each.name) for each in fields(Entry)}

    @property
    def mm(self) -> float:
        """What was typed as a length, mm, in the unit it was typed in."""
        return parse_length(self.text, self.unit)


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
        return self.spot.kind in BESIDE

    @cached_property
    def imprint(self) -> tuple[object, ...]:
        """What a finding can depend on, in a form that can be told apart by value."""
        one = (self.id, self.seq, self.slot, self.text, self.side, self.second, self.approach)
        return (*one, self.note, self.unit, self.void is None)


@dataclass(frozen=True)
class TypedForm:
    """One version of a form as typed: `engine`, `card` or `wheel`."""

    kind: str
    seq: int
    typed: Mapping[str, str]
    by: str
    at: datetime


class Limits:
    """The limits of this job, or else of the house, each noted as it is asked for."""

    def __init__(self, job: "Job") -> None:
        self.job = job

    def get(self, name: str) -> HouseValue | None:
        note(self.job, ("house", name))
        own = self.job.whole.latest(LIMITS_FORM)
        if own is not None and own.typed.get(name):
            text, unit = own.typed[name], own.typed.get("unit", "mm")
            if name in LIMITS and LIMITS[name].measure is Measure.LENGTH:
                text = _with_unit(text, unit)
            if name not in LIMITS or lawful(name, text):
                return HouseValue(text, own.by, own.at, of_job=True)
        return self.job.house_values.get(name)


def _with_unit(text: str, unit: str) -> str:
    """A length with the unit that it was typed in, where it carries none of its own."""
    bare = text[-1:] in "0123456789.,"
    return f"{text} {'in' if unit == LengthUnit.INCH else 'mm'}" if bare else text


# One object for the same writing, so that imprints are told apart by identity.
_IMPRINTS: dict[tuple[object, ...], tuple[object, ...]] = {}
MOST_IMPRINTS = 4096


def _one(imprint: tuple[object, ...]) -> tuple[object, ...]:
    if len(_IMPRINTS) >= MOST_IMPRINTS:
        _IMPRINTS.clear()
    return _IMPRINTS.setdefault(imprint, imprint)


@dataclass(frozen=True, eq=False)
class Job:
    """Everything written to one job. What it means is worked out on every look, and what is asked of it is noted.

    A view of a job, such as at an earlier position of its cam, has the whole behind it as `origin`; `made_from` is what of
    the whole decided which readings the view holds. `slots` says what each station has readings for. `judged_until` is when an earlier
    position was left: what it is judged against is what stood then. `held` has what was worked out from it (`kept`).
    `bank` is which bank's cams it is the job of, where each bank has its own; 0 for the job of the whole engine.
    """

    key: str
    title: str
    forms: tuple[TypedForm, ...] = ()
    readings: tuple[Reading, ...] = ()
    seq: int = 0
    earlier: tuple[Reading, ...] = ()
    origin: "Job | None" = None
    house_values: Mapping[str, HouseValue] = field(default_factory=dict)
    slots: Mapping[str, tuple[Slot[Any], ...]] = field(default_factory=dict)
    made_from: frozenset[Asked] = frozenset()
    judged_until: int | None = None
    bank: int = 0
    views: dict[object, "Job"] = field(default_factory=dict, init=False, repr=False)
    held: dict[Hashable, Answer] = field(default_factory=dict, init=False, repr=False)
    # What held before the last writing, and what of the job that writing changed.
    held_before: dict[Hashable, Answer] = field(default_factory=dict, init=False, repr=False)
    changed: set[Asked] = field(default_factory=set, init=False, repr=False)
    _imprints: dict[Asked, tuple[object, ...]] = field(default_factory=dict, init=False, repr=False)
    _standing: dict[tuple[str, tuple[str, ...]], tuple[tuple[Reading, ...], set[Asked]]] = field(
        default_factory=dict, init=False, repr=False
    )

    @property
    def whole(self) -> "Job":
        """The job this is a view of, or itself: sheets and true TDC are the same for all views of a job."""
        return self.origin or self

    @property
    def house(self) -> Limits:
        """The limits the house has set."""
        return Limits(self)

    def imprint(self, asked: Asked) -> tuple[object, ...]:
        """All that is written under what was asked for, as one object for the same writing."""
        seen = self._imprints.get(asked)
        if seen is None:
            kind, name = asked
            if kind == "readings":
                seen = tuple(r.imprint for r in self.everything(name))
            elif kind == "slot":
                seen = tuple(r.imprint for r in self._by_kind.get(name, ()))
            elif kind == "written":
                seen = tuple(
                    r.imprint for r in (*(r for r in self.earlier if r.station == name), *self.everything(name))
                )
            elif kind == "acts":
                seen = tuple(r.imprint for r in self._acts if name in disturbs(r.slot, r.note))
            elif kind == "form":
                seen = tuple((filled.seq, *filled.typed.items()) for filled in self.forms if filled.kind == name)
            else:
                seen = (self.house_values.get(name),)
            seen = self._imprints[asked] = _one((kind, name, *seen))
        return seen

    def caught_up(
        self,
        forms: tuple[TypedForm, ...],
        readings: tuple[Reading, ...],
        voids: Mapping[int, Void],
        seq: int,
        title: str,
    ) -> "Job":
        """The same job with what was written since; what was not written to stays as it is known."""
        voided = {r.id: replace(r, void=voids[r.id]) for r in self.readings if r.id in voids} if voids else {}

        def with_voids(own: tuple[Reading, ...]) -> tuple[Reading, ...]:
            return tuple(voided.get(reading.id, reading) for reading in own)

        before = with_voids(self.readings) if voided else self.readings
        job = Job(
            self.key,
            title,
            (*self.forms, *forms),
            (*before, *readings),
            seq=seq,
            slots=self.slots,
            house_values=self.house_values,
        )
        anew = [*voided.values(), *readings]
        touched = {filled.kind for filled in forms}, {r.station for r in anew} | {r.kind_name for r in anew}
        acted = any(reading.spot.kind == ACT for reading in anew)
        for asked, seen in self._imprints.items():
            if (asked[0] != "acts" or not acted) and asked[1] not in touched[asked[0] != "form"]:
                job._imprints[asked] = seen
        if "_acts" in self.__dict__ and not acted:
            job.__dict__["_acts"] = self._acts
        if not acted:
            job.held_before.update(self.held)
            job.changed.update(("form", kind) for kind in touched[0])
            job.changed.update((kind, name) for kind in ("readings", "written", "slot") for name in touched[1])
        job._standing.update(
            {what: known for what, known in self._standing.items() if job._imprints.keys() >= known[1]}
        )
        for name, group in (("_by_station", _station), ("_by_kind", _name)):
            if name in self.__dict__:
                groups = dict(self.__dict__[name])
                for each in {group(reading) for reading in anew}:
                    since = (reading for reading in readings if group(reading) == each)
                    groups[each] = (*with_voids(groups.get(each, ())), *since)
                job.__dict__[name] = groups
        return job

    @cached_property
    def _by_station(self) -> dict[str, tuple[Reading, ...]]:
        found: dict[str, list[Reading]] = {}
        for reading in self.readings:
            found.setdefault(reading.station, []).append(reading)
        return {station: tuple(own) for station, own in found.items()}

    @cached_property
    def _by_kind(self) -> dict[str, tuple[Reading, ...]]:
        found: dict[str, list[Reading]] = {}
        for reading in self.readings:
            found.setdefault(reading.kind_name, []).append(reading)
        return {name: tuple(own) for name, own in found.items()}

    def everything(self, station: str) -> tuple[Reading, ...]:
        """All that is written at a station, what stands beside its readings and what was voided too; not noted as asked for."""
        return self._by_station.get(station, ())

    def versions(self, kind: str) -> list[TypedForm]:
        """Every version of a form, oldest first."""
        note(self, ("form", kind))
        return [filled for filled in self.forms if filled.kind == kind]

    def latest(self, kind: str) -> TypedForm | None:
        """The newest version of a form."""
        note(self, ("form", kind))
        return next((filled for filled in reversed(self.forms) if filled.kind == kind), None)

    def written(self, station: str) -> list[Reading]:
        """All that was ever written at a station, voided and left behind too, oldest first."""
        note(self, ("written", station))
        return [*(reading for reading in self.earlier if reading.station == station), *self.everything(station)]

    def next_number(self, station: str, kind: str) -> int:
        """The first number free for a kind of slot, counting readings at earlier positions of the cam."""
        taken = [
            reading.spot.number
            for reading in self.written(station)
            if reading.void is None and reading.spot.kind == kind
        ]
        return max(taken, default=0) + 1

    def standing(self, station: str, *kinds: str) -> list[Reading]:
        """A station's readings that hold, of some kinds or of all: neither voided nor disturbed since, oldest first."""
        known = self._standing.get((station, kinds))
        if known is None:
            found, notes = noted(self, lambda: self._holding(station, *kinds))
            self._standing[station, kinds] = known = tuple(found), notes.own
        else:
            note(self, *known[1])
        return list(known[0])

    def _holding(self, station: str, *kinds: str) -> list[Reading]:
        if kinds:
            names = [_kind_name(station, kind) for kind in kinds]
            note(self, *(("slot", name) for name in names))
            found = [self._by_kind.get(name, ()) for name in names]
            written = list(found[0]) if len(found) == 1 else sorted(chain(*found), key=_seq)
        else:
            note(self, ("readings", station))
            written = list(self.everything(station))
        changed = max((change.seq for change in self.aside(station, ANEW)), default=0)
        ended: dict[str, int] = {}
        standing = []
        for reading in written:
            kind = reading.spot.kind
            if reading.void is not None or kind in BESIDE:
                continue
            if kind not in ended:
                ended[kind] = max(changed, self._disturbed(station, kind))
            if reading.seq > ended[kind]:
                standing.append(reading)
        return self._in_one_go(station, standing)

    def _slot(self, station: str, kind: str) -> Slot[Any] | None:
        return next((slot for slot in self.slots.get(station, ()) if slot.of_kind(kind)), None)

    def _disturbed(self, station: str, kind: str) -> int:
        """When an act last disturbed what readings of this kind rest on."""
        slot = self._slot(station, kind)
        if slot is None:
            return 0
        lobe = slot.lobe_of(kind) if slot.lobe_of else ""
        acts = (act for thing in slot.rests_on for act in self.acts(thing))
        return max((act.seq for act in acts if not _of_other_cam(act, lobe)), default=0)

    def _in_one_go(self, station: str, standing: list[Reading]) -> list[Reading]:
        """Without half pairs from before the indicator was moved, and without what of a series was read before that."""
        if not any(slot.together is not Together.NOT for slot in self.slots.get(station, ())):
            return standing
        moves = [act.seq for act in self.acts(INDICATOR)]
        if not moves:
            return standing
        newest: dict[object, int] = {}
        for reading in standing:
            newest[reading.spot.kind] = newest[reading.spot.kind, reading.spot.number] = reading.seq

        def holds(reading: Reading) -> bool:
            slot = self._slot(station, reading.spot.kind)
            together = slot.together if slot else Together.NOT
            if together is Together.NOT:
                return True
            own = newest[(reading.spot.kind, reading.spot.number) if together is Together.PAIR else reading.spot.kind]
            after = [seq for seq in moves if seq > reading.seq]
            whole = together is Together.SERIES or any(
                other.spot[:2] == reading.spot[:2] and other is not reading for other in standing
            )
            return not after or (whole and own < after[0])

        return [reading for reading in standing if holds(reading)]

    def aside(self, station: str, kind: str) -> list[Reading]:
        """What stands beside a station's readings, of one kind of `BESIDE`."""
        name = _kind_name(station, kind)
        note(self, ("slot", name))
        return [reading for reading in self._by_kind.get(name, ()) if reading.void is None]

    @cached_property
    def _acts(self) -> list[Reading]:
        return [reading for reading in self.readings if reading.void is None and reading.spot.kind == ACT]

    def acts(self, thing: str) -> list[Reading]:
        """The acts that disturbed something, wherever they were said, oldest first."""
        note(self, ("acts", thing))
        return [act for act in self._acts if thing in disturbs(act.slot, act.note)]

    def _rests(self, station: str) -> set[str]:
        return {thing for slot in self.slots.get(station, ()) for thing in slot.rests_on}

    def changes(self, station: str) -> list[Reading]:
        """What ended a station's readings: acts that disturbed what they rest on, and changes said there, oldest first."""
        found = {act.id: act for thing in self._rests(station) for act in self.acts(thing)}
        found |= {change.id: change for change in self.aside(station, ANEW)}
        return sorted(found.values(), key=lambda change: change.seq)

    def before_change(self, station: str) -> tuple["Job", Reading] | None:
        """The job as it was read before the newest change at a station, and that change; None where nothing was changed.

        Of changes without a reading between them the first counts: it ended what was read.
        """
        changes = self.changes(station)
        if not changes:
            return None
        note(self, ("readings", station))
        read = (r.seq for r in self.everything(station) if r.void is None and not r.beside and r.seq < changes[-1].seq)
        last = max(read, default=0)
        change = next(change for change in changes if change.seq > last)
        until = change.seq
        made_from = {("readings", station), *(("acts", thing) for thing in self._rests(station))}
        return self.view(("before", station, until), lambda reading: reading.seq < until, made_from), change

    def view(
        self,
        tag: object,
        keeps: Callable[[Reading], bool],
        made_from: set[Asked],
        judged_until: int | None = None,
        station: str | None = None,
    ) -> "Job":
        """The job with only some of its readings, the others put aside as `earlier`; the same view for the same tag.

        Where only one station's readings are chosen among, all else is taken over as it is known.
        """
        seen = self.views.get(tag)
        if seen is None:
            among = self.readings if station is None else self.everything(station)
            aside = tuple(reading for reading in among if not keeps(reading))
            gone = {reading.seq for reading in aside}
            seen = replace(
                self,
                readings=tuple(reading for reading in self.readings if reading.seq not in gone),
                earlier=aside,
                origin=self.whole,
                made_from=self.made_from | made_from,
                judged_until=judged_until,
            )
            if station is not None:
                seen._take_over(self, station, gone)
            self.views[tag] = seen
        return seen

    def of_bank(self, bank: int) -> "Job":
        """The job as far as it is of one bank's cams, as if the engine had no other; the same for the same bank.

        Of slots that each bank has for itself only that bank's stand in it, under their plain names.
        """
        seen = self.views.get(("bank", bank))
        if seen is None:
            found = (self._in_bank(reading, bank) for reading in self.readings)
            readings = tuple(reading for reading in found if reading is not None)
            seen = replace(self, key=f"{self.key}#{bank}", readings=readings, bank=bank)
            self.views["bank", bank] = seen
        return seen

    def _in_bank(self, reading: Reading, bank: int) -> Reading | None:
        if reading.spot.kind == ACT and not to_position(reading.note):
            # What was done to another bank's cam alone leaves this one as it is.
            cam = str(details_of(reading.note).get("cam", ""))
            return reading if not cam.startswith("bank") or bank_of(cam) == bank else None
        slot = self._slot(reading.station, reading.spot.kind)
        if slot is None or not slot.by_bank:
            return reading
        if bank_of(reading.slot) != bank:
            return None
        return reading if bank == 1 else replace(reading, slot=within_bank(reading.slot))

    def _take_over(self, other: "Job", station: str, gone: set[int]) -> None:
        """What is known of another job that has the same readings, but for some of one station."""
        for name, own in (("_by_station", station), ("_by_kind", f"{station}/")):
            self.__dict__[name] = {
                group: tuple(r for r in readings if r.seq not in gone) if group.startswith(own) else readings
                for group, readings in getattr(other, name).items()
            }
        self._imprints.update(
            {asked: seen for asked, seen in other._imprints.items() if not asked[1].startswith(station)}
        )

    def skipped(self, station: str) -> Reading | None:
        """Why a station is passed over, unless it was worked at since."""
        passed_over = self.aside(station, SKIP)
        if not passed_over:
            return None
        worked = [reading.seq for reading in self.standing(station)]
        worked += [filled.seq for filled in self.versions(station)]
        return passed_over[-1] if passed_over[-1].seq > max(worked, default=0) else None

    def accepted(self, station: str) -> Reading | None:
        """Why a station's finding was accepted as it is, unless the station was worked at since."""
        taken = self.aside(station, ACCEPTED)
        worked = max((reading.seq for reading in self.standing(station)), default=0)
        return taken[-1] if taken and taken[-1].seq > worked else None

    def filled(self, form: Form[T]) -> Filled[T] | None:
        """The newest version of a form as read; None where it was never filled in. The same for all views."""
        return _read(self.whole, form, self.judged_until if form.standard else None)

    def form(self, form: Form[T]) -> T | None:
        """What the newest version of a form says, where it can be read."""
        filled = self.filled(form)
        return filled.value if filled else None

    @property
    def unit(self) -> LengthUnit:
        """What bare lengths are taken in, as the first form says."""
        note(self.whole, ("form", FIRST_FORM))
        return self.whole._unit

    @cached_property
    def _unit(self) -> LengthUnit:
        typed = self.latest(FIRST_FORM)
        text = typed.typed.get("unit", "") if typed else ""
        return LengthUnit(text) if text in tuple(LengthUnit) else LengthUnit.INCH


def _of_other_cam(act: Reading, lobe: str) -> bool:
    """Whether an act was done to the cam of another lobe than this one."""
    cam = str(details_of(act.note).get("cam", "")).rpartition("-")[2]
    return bool(lobe and cam) and cam not in ("both", lobe)


_seq, _station, _name = attrgetter("seq"), attrgetter("station"), attrgetter("kind_name")


def _kind_name(station: str, kind: str) -> str:
    return f"{station}/{kind}"


@kept
def _read(job: Job, form: Form[T], until: int | None) -> Filled[T] | None:
    versions = job.versions(form.kind)
    if until is not None:
        # A form that was only written later is better than none.
        versions = [filled for filled in versions if filled.seq <= until] or versions[: 0 if form.none_counts else 1]
    return form.read(versions[-1].typed, job) if versions else None
