"""Every valve of an engine as it was read: how far it opens, and when, about the TDC of its own cylinder."""

import math
from dataclasses import dataclass, replace
from statistics import median

from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.angles import near
from uranograph.core.errors import InvalidInput
from uranograph.core.tdc import Top
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded, of_difference
from uranograph.engine import cams
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.description import by_number, engine_of
from uranograph.engine.stated_tdc import stated_of
from uranograph.engine.tdc import frame_at
from uranograph.engine.valves import MOVED, Valve
from uranograph.engine.valves import valves as valves_by_number
from uranograph.phase.events import NOMINAL_SLOPE_DOUBT, slope_at_check
from uranograph.phase.placing import true_angle

KEY = "every-valve"
LOBES = cams.LOBES
LIFT = Slot(KEY, ("lift-#",), ("dial",), in_mm, rests_on=("lash", "head", "room"))
EVENT = Slot[str](KEY, ("opens-#", "closes-#"), ("forward",), rests_on=(*MOVED, "lash", "head", "room"))
# Half of a usual duration at the checking lift, crank degrees, and the slope of a usual flank there, mm a degree.
USUAL_HALF_DEG, USUAL_SLOPE = 115.0, 0.08
FIRST = {"opens": -1, "closes": 1}
KIND = {("intake", "opens"): "io", ("intake", "closes"): "ic", ("exhaust", "opens"): "eo", ("exhaust", "closes"): "ec"}


@dataclass(frozen=True)
class ValveRead:
    """What was read of one valve, mm and crank degrees about its own overlap TDC; None where it was not."""

    valve: Valve
    lift_mm: float | None
    lift_uncertainty_mm: float
    middle_deg: float | None
    duration_deg: float | None
    event_uncertainty_deg: float


@dataclass(frozen=True)
class Apart:
    """How far a valve is from the middle one of its kind in `what`: `lift`, `timing` or `duration`."""

    what: str
    number: int
    lobe: str
    name: str
    off: float
    uncertainty: float
    middle: float

    @property
    def off_deg(self) -> bool:
        """Whether it is in crank degrees, and not in mm."""
        return self.what != "lift"


@memoized
def valves(job: Job) -> tuple[Valve, ...]:
    """Every valve by the name of its cylinder, which has the letter of its bank where the firing order gives it."""
    engine = engine_of(job)
    plain = valves_by_number(job)
    if engine is None or not engine.fires:
        return plain
    numbered = sorted(engine.fires, key=by_number)
    return tuple(replace(each, name=f"{numbered[(each.number - 1) // len(LOBES)]} {each.lobe}") for each in plain)


def can_compare(job: Job) -> bool:
    """Whether there is more than one valve of a kind."""
    return len(valves(job)) > len(LOBES)


@memoized
def offset_deg(job: Job, valve: Valve) -> float | None:
    """How much later than the cylinder that TDC is found on a valve's own is due, crank degrees; None without a firing order."""
    engine = engine_of(job)
    if engine is None or not engine.fires:
        return None
    read_of = stated_of(job).read_of
    of = read_of if read_of in engine.fires else engine.firing_order[0]
    own = sorted(engine.fires, key=by_number)[(valve.number - 1) // len(LOBES)]
    return engine.fires[own] - engine.fires[of]


def expected_deg(job: Job, valve: Valve, what: str) -> float:
    """Where an event of a valve is to be expected about its own overlap TDC."""
    middle, card = cams.card_centerline(job, valve.lobe), card_of(job)
    duration = getattr(card.card, f"{valve.lobe}_duration_deg") if card else None
    half = USUAL_HALF_DEG if duration is None else duration / 2
    return (cams.USUAL_CENTERLINE_DEG[valve.lobe] if middle is None else middle) + FIRST[what] * half


def _cylinder_angle(job: Job, reading: Reading, valve: Valve, what: str) -> float | None:
    """Where an event of a valve was read, about its own overlap TDC; None where the wheel does not show such an angle."""
    if frame_at(job, reading.seq) is None or (offset := offset_deg(job, valve)) is None:
        return None
    try:
        return near(true_angle(job, reading) - offset, expected_deg(job, valve, what))
    except InvalidInput:
        return None


@memoized
def measured(job: Job) -> tuple[ValveRead, ...]:
    """Every valve, by its newest readings."""
    newest: dict[str, Reading] = {}
    for reading in (*LIFT.taken(job), *EVENT.taken(job)):
        newest[reading.spot.kind] = reading
    return tuple(_read(job, valve, newest) for valve in valves(job))


def _read(job: Job, valve: Valve, newest: dict[str, Reading]) -> ValveRead:
    mounted = wheel_of(job)
    dial = mounted.dial_division_mm if mounted else 0.01
    lift = newest.get(f"lift-{valve.number}")
    events = {what: newest.get(f"{what}-{valve.number}") for what in FIRST}
    at = {
        what: found
        for what, reading in events.items()
        if reading is not None and (found := _cylinder_angle(job, reading, valve, what)) is not None
    }
    whole = len(at) == len(FIRST)
    return ValveRead(
        valve,
        None if lift is None else lift.mm,
        of_difference(dial if lift is None else lift.division(dial)),
        (at["opens"] + at["closes"]) / 2 if whole else None,
        at["closes"] - at["opens"] if whole else None,
        max((_event_uncertainty(job, valve, what, each, dial) for what, each in events.items() if each), default=0.0),
    )


def _event_uncertainty(job: Job, valve: Valve, what: str, reading: Entry, dial_mm: float) -> float:
    mounted = wheel_of(job)
    slope = slope_at_check(job, KIND[valve.lobe, what]) or USUAL_SLOPE
    by_dial = reading.division(dial_mm, 1) / 2 / (slope * (1 - NOMINAL_SLOPE_DOUBT))
    by_wheel = reading.division(mounted.division_deg if mounted else 1.0) / 2
    shared = (APPROACH_DEG,) if reading.is_by_instrument else (CENTERING_DEG, APPROACH_DEG)
    # Off one mounting all have the same error of TDC, and it does not count between them.
    tops = [top.uncertainty_deg for top in _tops(job) if top is not None]
    return math.hypot(expanded((by_wheel, by_dial), shared), max(tops) if len(tops) > 1 else 0.0)


@memoized
def _tops(job: Job) -> tuple[Top | None, ...]:
    """TDC of each mounting of the wheel that an angle was read off."""
    found = {frame.start_seq: frame.top for each in EVENT.taken(job) if (frame := frame_at(job, each.seq)) is not None}
    return tuple(found.values())


def are_placed(job: Job) -> bool:
    """Whether each mounting of the wheel that angles were read off has its TDC."""
    return all(top is not None for top in _tops(job))


@memoized
def apart(job: Job) -> tuple[Apart, ...]:
    """How far each valve is from the middle one of its kind; of kinds of which two or more were read.

    Timing is compared among the valves of one cam.
    """
    found: list[Apart] = []
    for lobe in LOBES:
        own = [each for each in measured(job) if each.valve.lobe == lobe]
        for what in ("lift", "timing", "duration"):
            for group in _groups(job, own, what):
                values = [(each, value) for each in group if (value := _value(each, what)) is not None]
                if len(values) > 1:
                    middle = median(value for _, value in values)
                    found += [_apart(what, each, value, middle, len(values)) for each, value in values]
    return tuple(found)


def banks_named(job: Job) -> bool:
    """Whether it is known which valves are of one cam: each bank has the letter of its own where it has cams of its own."""
    engine = engine_of(job)
    if engine is None or engine.banks == 1:
        return True
    return all(_bank_letter(valve) for valve in valves(job))


def _bank_letter(valve: Valve) -> str:
    letter = valve.name.split()[0][-1:]
    return letter if letter.isalpha() else ""


def _groups(job: Job, reads: list[ValveRead], what: str) -> list[list[ValveRead]]:
    engine = engine_of(job)
    if what != "timing" or engine is None or engine.banks == 1:
        return [reads]
    if not banks_named(job):
        return []
    letters = sorted({_bank_letter(each.valve) for each in reads})
    return [[each for each in reads if _bank_letter(each.valve) == letter] for letter in letters]


def _apart(what: str, read: ValveRead, value: float, middle: float, count: int) -> Apart:
    own = _uncertainty(read, what)
    # The middle one is a valve too: no more certain than the mean of so many.
    uncertainty = math.hypot(own, own / math.sqrt(count))
    return Apart(what, read.valve.number, read.valve.lobe, read.valve.name, value - middle, uncertainty, middle)


def _value(read: ValveRead, what: str) -> float | None:
    return {"lift": read.lift_mm, "timing": read.middle_deg, "duration": read.duration_deg}[what]


def _uncertainty(read: ValveRead, what: str) -> float:
    """Of a lift, of the middle of two events, or of their distance."""
    if what == "lift":
        return read.lift_uncertainty_mm
    return read.event_uncertainty_deg * (math.sqrt(2) if what == "duration" else 1 / math.sqrt(2))
