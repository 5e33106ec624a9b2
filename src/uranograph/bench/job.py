"""A job as the bench sees it: what of its log holds, and at which position of its cam."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import chain
from operator import attrgetter
from typing import Any, TypeVar

from uranograph.bench.acts import Act
from uranograph.bench.forms import Filled, Form
from uranograph.bench.log import (
    Acceptance,
    Annotation,
    Change,
    Log,
    Reading,
    Skip,
    TypedForm,
    Void,
    Written,
    kind_name,
)
from uranograph.bench.memo import DependencyKey, Memory, memoized, track, tracked
from uranograph.bench.shop_limits import LIMITS, Measure, ShopLimit, is_plausible
from uranograph.bench.slots import INDICATOR, Grouping, Slot, bank_of, within_bank
from uranograph.core.quantities import LengthUnit

B = TypeVar("B", bound=Annotation)
T = TypeVar("T")
# The form that a job begins with: its unit of bare lengths holds wherever another form says none.
FIRST_FORM = "engine"
# Name of the form with limits of one job that override the shop's.
LIMITS_FORM = "limits"


class JobLimits:
    """Limits of this job, falling back to the shop's; each access is tracked."""

    def __init__(self, job: "Job") -> None:
        self.job = job

    def get(self, name: str) -> ShopLimit | None:
        track(self.job, ("house", name))
        own = self.job.full_job.latest(LIMITS_FORM)
        if own is not None and own.typed.get(name):
            text, unit = own.typed[name], own.typed.get("unit", "mm")
            if name in LIMITS and LIMITS[name].measure is Measure.LENGTH:
                text = _with_unit(text, unit)
            if name not in LIMITS or is_plausible(name, text):
                return ShopLimit(text, own.by, own.at, of_job=True)
        return self.job.shop_values.get(name)


def _with_unit(text: str, unit: str) -> str:
    """A length with the unit that it was typed in, where it carries none of its own."""
    bare = text[-1:] in "0123456789.,"
    return f"{text} {'in' if unit == LengthUnit.INCH else 'mm'}" if bare else text


# Equal keys share one object, so that fingerprints mostly compare by identity.
_FINGERPRINTS: dict[tuple[object, ...], tuple[object, ...]] = {}
MAX_FINGERPRINTS = 768


def _one(fingerprint: tuple[object, ...]) -> tuple[object, ...]:
    if len(_FINGERPRINTS) >= MAX_FINGERPRINTS:
        _FINGERPRINTS.clear()
    return _FINGERPRINTS.setdefault(fingerprint, fingerprint)


@dataclass(frozen=True, eq=False)
class Job:
    """A job, or a view of it. What it means is worked out on every look, and what is asked of it is noted.

    A view of a job, such as at an earlier position of its cam, has the whole behind it as `origin`; `made_from` is what of
    the whole decided which entries of its log the view holds, and `earlier` has the others. `slots` says what each station has
    readings for. `judged_until` is when an earlier position was left: what it is judged against is what stood then.
    `bank` is which bank's cams it is the job of, where each bank has its own; 0 for the job of the whole engine.
    `memory` has what was worked out from it (`kept`).
    """

    key: str
    title: str
    log: Log = field(default_factory=Log)
    seq: int = 0
    earlier: tuple[Written, ...] = ()
    origin: "Job | None" = None
    shop_values: Mapping[str, ShopLimit] = field(default_factory=dict)
    slots: Mapping[str, tuple[Slot[Any], ...]] = field(default_factory=dict)
    made_from: frozenset[DependencyKey] = frozenset()
    judged_until: int | None = None
    bank: int = 0
    memory: Memory = field(default_factory=Memory, init=False, repr=False)

    @property
    def forms(self) -> tuple[TypedForm, ...]:
        """Every version of every form, in order."""
        return self.log.forms

    @property
    def entries(self) -> tuple[Written, ...]:
        """Readings and what stands beside them, in order."""
        return self.log.entries

    @property
    def readings(self) -> tuple[Reading, ...]:
        """Readings alone, in order."""
        return self.log.readings

    @property
    def full_job(self) -> "Job":
        """The job this is a view of, or itself: sheets and true TDC are the same for all views of a job."""
        return self.origin or self

    @property
    def shop_limits(self) -> JobLimits:
        """Limits set by the shop."""
        return JobLimits(self)

    def fingerprint(self, asked: DependencyKey) -> tuple[object, ...]:
        """All that is written under what was asked for, as one object for the same writing."""
        seen = self.memory.fingerprints.get(asked)
        if seen is None:
            kind, name = asked
            if kind == "readings":
                seen = tuple(entry.fingerprint for entry in self.station_log(name))
            elif kind == "slot":
                seen = tuple(entry.fingerprint for entry in self.log.by_kind.get(name, ()))
            elif kind == "written":
                earlier = (entry for entry in self.earlier if entry.station == name)
                seen = tuple(entry.fingerprint for entry in (*earlier, *self.station_log(name)))
            elif kind == "acts":
                seen = tuple(act.fingerprint for act in self._acts if name in act.disturbs)
            elif kind == "form":
                seen = tuple((filled.seq, *filled.typed.items()) for filled in self.forms if filled.kind == name)
            else:
                seen = (self.shop_values.get(name),)
            seen = self.memory.fingerprints[asked] = _one((kind, name, *seen))
        return seen

    def caught_up(
        self,
        forms: tuple[TypedForm, ...],
        entries: tuple[Written, ...],
        voids: Mapping[int, Void],
        seq: int,
        title: str,
    ) -> "Job":
        """The same job with what was written since; what was not written to stays as it is known."""
        log, added = self.log.with_more(forms, entries, voids)
        job = Job(self.key, title, log, seq=seq, slots=self.slots, shop_values=self.shop_values)
        acted = any(isinstance(entry, Act) for entry in added)
        written = {entry.station for entry in added} | {entry.kind_name for entry in added}
        job.memory.take_over(self.memory, {filled.kind for filled in forms}, written, acted)
        if "_acts" in self.__dict__ and not acted:
            job.__dict__["_acts"] = self._acts
        return job

    def station_log(self, station: str) -> tuple[Written, ...]:
        """All that is written at a station, what stands beside its readings and what was voided too; not noted as asked for."""
        return self.log.by_station.get(station, ())

    def versions(self, kind: str) -> list[TypedForm]:
        """Every version of a form, oldest first."""
        track(self, ("form", kind))
        return self.log.versions(kind)

    def latest(self, kind: str) -> TypedForm | None:
        """The newest version of a form."""
        track(self, ("form", kind))
        return self.log.latest(kind)

    def written(self, station: str) -> list[Reading]:
        """Every reading that was ever taken at a station, voided and left behind too, oldest first."""
        track(self, ("written", station))
        earlier = (entry for entry in self.earlier if entry.station == station)
        return [entry for entry in (*earlier, *self.station_log(station)) if isinstance(entry, Reading)]

    def next_number(self, station: str, kind: str) -> int:
        """The first number free for a kind of slot, counting readings at earlier positions of the cam."""
        taken = [
            reading.spot.number
            for reading in self.written(station)
            if reading.void is None and reading.spot.kind == kind
        ]
        return max(taken, default=0) + 1

    def active_readings(self, station: str, *kinds: str) -> list[Reading]:
        """A station's readings that hold, of some kinds or of all: neither voided nor disturbed since, oldest first."""
        known = self.memory.active.get((station, kinds))
        if known is None:
            found, notes = tracked(self, lambda: self._holding(station, *kinds))
            self.memory.active[station, kinds] = known = tuple(found), notes.view_keys
        else:
            track(self, *known[1])
        return list(known[0])

    def _holding(self, station: str, *kinds: str) -> list[Reading]:
        written: list[Written]
        if kinds:
            names = [kind_name(station, kind) for kind in kinds]
            track(self, *(("slot", name) for name in names))
            found = [self.log.by_kind.get(name, ()) for name in names]
            written = list(found[0]) if len(found) == 1 else sorted(chain(*found), key=_seq)
        else:
            track(self, ("readings", station))
            written = list(self.station_log(station))
        changed = max((change.seq for change in self.annotations(station, Change)), default=0)
        ended: dict[str, int] = {}
        standing = []
        for reading in written:
            if not isinstance(reading, Reading) or reading.void is not None:
                continue
            kind = reading.spot.kind
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
        if not any(slot.together is not Grouping.NOT for slot in self.slots.get(station, ())):
            return standing
        moves = [act.seq for act in self.acts(INDICATOR)]
        if not moves:
            return standing
        newest: dict[object, int] = {}
        for reading in standing:
            newest[reading.spot.kind] = newest[reading.spot.kind, reading.spot.number] = reading.seq

        def holds(reading: Reading) -> bool:
            slot = self._slot(station, reading.spot.kind)
            together = slot.together if slot else Grouping.NOT
            if together is Grouping.NOT:
                return True
            own = newest[(reading.spot.kind, reading.spot.number) if together is Grouping.PAIR else reading.spot.kind]
            after = [seq for seq in moves if seq > reading.seq]
            whole = together is Grouping.SERIES or any(
                other.spot[:2] == reading.spot[:2] and other is not reading for other in standing
            )
            return not after or (whole and own < after[0])

        return [reading for reading in standing if holds(reading)]

    def annotations(self, station: str, kind: type[B]) -> list[B]:
        """Annotations of one kind at a station."""
        name = kind_name(station, kind.TYPE)
        track(self, ("slot", name))
        written = self.log.by_kind.get(name, ())
        return [entry for entry in written if isinstance(entry, kind) and entry.void is None]

    @cached_property
    def _acts(self) -> list[Act]:
        return [entry for entry in self.entries if isinstance(entry, Act) and entry.void is None]

    def acts(self, thing: str) -> list[Act]:
        """The acts that disturbed something, wherever they were said, oldest first."""
        track(self, ("acts", thing))
        return [act for act in self._acts if thing in act.disturbs]

    def _rests(self, station: str) -> set[str]:
        return {thing for slot in self.slots.get(station, ()) for thing in slot.rests_on}

    def changes(self, station: str) -> list[Act | Change]:
        """Entries that invalidated a station's readings: disturbing acts and changes noted there, oldest first."""
        found: dict[int, Act | Change] = {act.seq: act for thing in self._rests(station) for act in self.acts(thing)}
        found |= {change.seq: change for change in self.annotations(station, Change)}
        return sorted(found.values(), key=_seq)

    def before_change(self, station: str) -> tuple["Job", Act | Change] | None:
        """The job as it was read before the newest change at a station, and that change; None where nothing was changed.

        Of changes without a reading between them the first counts: it ended what was read.
        """
        changes = self.changes(station)
        if not changes:
            return None
        track(self, ("readings", station))
        read = (r.seq for r in self.station_log(station) if r.void is None and not r.beside and r.seq < changes[-1].seq)
        last = max(read, default=0)
        change = next(change for change in changes if change.seq > last)
        until = change.seq
        made_from = {("readings", station), *(("acts", thing) for thing in self._rests(station))}
        return self.view(("before", station, until), lambda reading: reading.seq < until, made_from), change

    def view(
        self,
        tag: object,
        keeps: Callable[[Written], bool],
        made_from: set[DependencyKey],
        judged_until: int | None = None,
        station: str | None = None,
    ) -> "Job":
        """The job with only some of its readings, the others put aside as `earlier`; the same view for the same tag.

        Where only one station's readings are chosen among, all else is taken over as it is known.
        """
        seen = self.memory.views.get(tag)
        if seen is None:
            among = self.entries if station is None else self.station_log(station)
            aside = tuple(entry for entry in among if not keeps(entry))
            seen = replace(
                self,
                log=self.log.without({entry.seq for entry in aside}, station),
                earlier=aside,
                origin=self.full_job,
                made_from=self.made_from | made_from,
                judged_until=judged_until,
            )
            if station is not None:
                known = self.memory.fingerprints.items()
                seen.memory.fingerprints.update(
                    {asked: own for asked, own in known if not asked[1].startswith(station)}
                )
            self.memory.views[tag] = seen
        view: Job = seen
        return view

    def of_bank(self, bank: int) -> "Job":
        """The job as far as it is of one bank's cams, as if the engine had no other; the same for the same bank.

        Of slots that each bank has for itself only that bank's stand in it, under their plain names.
        """
        seen = self.memory.views.get(("bank", bank))
        if seen is None:
            found = (self._in_bank(entry, bank) for entry in self.entries)
            log = replace(self.log, entries=tuple(entry for entry in found if entry is not None))
            seen = replace(self, key=f"{self.key}#{bank}", log=log, bank=bank)
            self.memory.views["bank", bank] = seen
        view: Job = seen
        return view

    def _in_bank(self, entry: Written, bank: int) -> Written | None:
        if isinstance(entry, Act) and not entry.to_position:
            # What was done to another bank's cam alone leaves this one as it is.
            cam = entry.cam or ""
            return entry if not cam.startswith("bank") or bank_of(cam) == bank else None
        if not isinstance(entry, Reading):
            return entry
        slot = self._slot(entry.station, entry.spot.kind)
        if slot is None or not slot.by_bank:
            return entry
        if bank_of(entry.slot) != bank:
            return None
        return entry if bank == 1 else replace(entry, slot=within_bank(entry.slot))

    def skipped(self, station: str) -> Skip | None:
        """Why a station is passed over, unless it was worked at since."""
        passed_over = self.annotations(station, Skip)
        if not passed_over:
            return None
        worked = [reading.seq for reading in self.active_readings(station)]
        worked += [filled.seq for filled in self.versions(station)]
        return passed_over[-1] if passed_over[-1].seq > max(worked, default=0) else None

    def accepted(self, station: str) -> Acceptance | None:
        """Why a station's finding was accepted as it is, unless the station was worked at since, or an act ended what was accepted."""
        taken = self.annotations(station, Acceptance)
        if not taken:
            return None
        since = [reading.seq for reading in self.active_readings(station)]
        since += [change.seq for change in self.changes(station)]
        return taken[-1] if taken[-1].seq > max(since, default=0) else None

    def filled(self, form: Form[T]) -> Filled[T] | None:
        """The newest version of a form as read; None where it was never filled in. The same for all views."""
        return _read(self.full_job, form, self.judged_until if form.standard else None)

    def form(self, form: Form[T]) -> T | None:
        """Parsed newest version of a form, if valid."""
        filled = self.filled(form)
        return filled.value if filled else None

    @property
    def unit(self) -> LengthUnit:
        """Default length unit of the job, from its first form."""
        track(self.full_job, ("form", FIRST_FORM))
        return self.full_job.unit_of_lengths

    @cached_property
    def unit_of_lengths(self) -> LengthUnit:
        typed = self.latest(FIRST_FORM)
        text = typed.typed.get("unit", "") if typed else ""
        return LengthUnit(text) if text in tuple(LengthUnit) else LengthUnit.INCH


def _of_other_cam(act: Act, lobe: str) -> bool:
    """Whether an act was done to the cam of another lobe than this one."""
    cam = (act.cam or "").rpartition("-")[2]
    return bool(lobe and cam) and cam not in ("both", lobe)


_seq = attrgetter("seq")


@memoized
def _read(job: Job, form: Form[T], until: int | None) -> Filled[T] | None:
    versions = job.versions(form.kind)
    if until is not None:
        # A form that was only written later is better than none.
        versions = [filled for filled in versions if filled.seq <= until] or versions[: 0 if form.none_counts else 1]
    return form.read(versions[-1].typed, job) if versions else None
