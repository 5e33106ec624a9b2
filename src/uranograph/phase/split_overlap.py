"""No marks and no card: the cam set by both lifters at overlap TDC, and proved by the valves at both tops."""

import math
from dataclasses import dataclass

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm, slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import lift_at
from uranograph.core.quantities import parse_angle, parse_length
from uranograph.core.split import Split, SplitInput, split_overlap
from uranograph.core.verdict import Verdict, judge
from uranograph.engine import gear_train
from uranograph.engine.card import card_of
from uranograph.phase.events import NOMINAL_SLOPE_DOUBT
from uranograph.phase.marks_messages import say
from uranograph.phase.overlaps import DOWN_MM, READ_SLOPE_DOUBT
from uranograph.phase.target import target_of

STATION = "marks"
KIND = "split"
LIFT = Slot(STATION, (KIND,), ("intake", "exhaust", "intake-on", "exhaust-on"), in_mm, rests_on=("mesh",))
PLACES = ("intake", "exhaust", "intake-on", "exhaust-on")
TURN_ON_DEG = "4"
# How far the advance that is ground into cams in general is from none (k = 2), crank degrees.
GROUND_IN_DEG = 6.0


@dataclass(frozen=True)
class SplitRead:
    """One reading of both lifters: lifts in mm, slopes where they are known and where they come from."""

    number: int
    intake_mm: float
    exhaust_mm: float
    slopes: tuple[float, float] | None
    slopes_from: str
    found: Split | None
    down: tuple[str, ...] = ()

    @property
    def slope_share(self) -> float:
        """How far the slopes, and so the shift, may be off, as a share of it."""
        return NOMINAL_SLOPE_DOUBT if self.slopes_from == NOMINAL else READ_SLOPE_DOUBT

    @property
    def firing(self) -> bool:
        """Both lifters down: this is the firing top, or a very small cam."""
        return len(self.down) == 2

    @property
    def undecided(self) -> bool:
        """Whether both are up but unequal in a way that says nothing before their slopes are known."""
        return self.found is None and not self.firing and not self.tooth_or_more and self.slopes_from != "wrong way"

    @property
    def tooth_or_more(self) -> str:
        """`late` or `early` where one lifter is shut and the other well up: the cam is out by a tooth or more."""
        if len(self.down) != 1 or max(self.intake_mm, self.exhaust_mm) < WELL_UP_MM:
            return ""
        return "late" if self.down == ("intake",) else "early"


NOMINAL = "of the card's lobes"
# Lift of a lifter that is clearly raised.
WELL_UP_MM = 0.5


@memoized
def measured(job: Job) -> SplitRead | None:
    """The newest whole reading of both lifters."""
    sets: dict[int, dict[str, Reading]] = {}
    for reading in LIFT.taken(job):
        kind, number, place = reading.spot
        if kind == KIND:
            sets.setdefault(number, {})[place] = reading
    whole = [number for number, places in sets.items() if {"intake", "exhaust"} <= places.keys()]
    if not whole:
        return None
    places = sets[max(whole)]
    lifts = {name: parse_length(places[name].text, places[name].unit) for name in places}
    slopes, source = _slopes(job, places, lifts)
    found = None
    if slopes is not None:
        found = split_overlap(
            SplitInput(
                intake_mm=lifts["intake"],
                exhaust_mm=lifts["exhaust"],
                intake_slope_mm_per_deg=slopes[0],
                exhaust_slope_mm_per_deg=slopes[1],
                wanted_difference_mm=wanted_mm(job),
            )
        )
    down = tuple(lobe for lobe in ("intake", "exhaust") if lifts[lobe] <= DOWN_MM)
    return SplitRead(max(whole), lifts["intake"], lifts["exhaust"], slopes, source, found, down)


# A smaller advance counts as straight up.
STRAIGHT_UP_DEG = 0.5
# A difference of the card's lobes at overlap under this is none that a dial shows, mm.
MIN_DIFFERENCE_MM = 0.05


def wanted_mm(job: Job) -> float:
    """How much higher than the exhaust the intake belongs at overlap TDC, mm; 0 where card and target say straight up, or nothing."""
    card, aimed_at = card_of(job), target_of(job)
    if card is None:
        return 0.0
    ground_in = (card.card.advance_deg or 0.0) + (aimed_at.advance(job, "intake") or 0.0)
    if abs(ground_in) < STRAIGHT_UP_DEG and not card.overlap_ranges:
        return 0.0
    lifts = []
    for lobe in ("intake", "exhaust"):
        shape, middle = card.lobe(lobe), aimed_at.centerline(job, lobe)
        ends = card.overlap_range(lobe)
        if ends is not None:
            lifts.append(sum(ends) / 2)
        elif shape is not None and middle is not None:
            lifts.append(lift_at(shape.model_copy(update={"centerline_deg": middle}), 0))
    if len(lifts) < 2 or abs(lifts[0] - lifts[1]) < MIN_DIFFERENCE_MM:
        return 0.0
    return lifts[0] - lifts[1]


def latest(job: Job) -> dict[str, float]:
    """The lifts of the newest set of readings, mm, by place; perhaps not all of them."""
    sets: dict[int, dict[str, float]] = {}
    for reading in LIFT.taken(job):
        kind, number, place = reading.spot
        if kind == KIND:
            sets.setdefault(number, {})[place] = reading.mm
    return sets[max(sets)] if sets else {}


def _slopes(job: Job, places: dict[str, Reading], lifts: dict[str, float]) -> tuple[tuple[float, float] | None, str]:
    if {"intake-on", "exhaust-on"} <= places.keys():
        turned = parse_angle(places["intake-on"].second or TURN_ON_DEG)
        rise = (lifts["intake-on"] - lifts["intake"]) / turned
        fall = (lifts["exhaust"] - lifts["exhaust-on"]) / parse_angle(places["exhaust-on"].second or TURN_ON_DEG)
        if rise > 0 and fall > 0:
            return (rise, fall), say("turned-on-lift")
        return None, "wrong way"
    card = card_of(job)
    if card is None:
        return None, ""
    slopes = []
    for lobe, sign in (("intake", 1), ("exhaust", -1)):
        shape = card.lobe(lobe)
        slope = sign * (lift_at(shape, 1) - lift_at(shape, -1)) / 2 if shape else 0.0
        if slope <= 0:
            return None, ""
        slopes.append(slope)
    return (slopes[0], slopes[1]), NOMINAL


def _next_place(job: Job) -> tuple[int, str]:
    taken: dict[int, set[str]] = {}
    for reading in LIFT.taken(job):
        kind, number, place = reading.spot
        if kind == KIND:
            taken.setdefault(number, set()).add(place)
    for number, places in sorted(taken.items(), reverse=True):
        for place in PLACES[:2]:
            if place not in places:
                return number, place
        found = measured(job)
        clear = found is not None and (found.firing or found.tooth_or_more)
        nominal = found is not None and found.slopes_from == NOMINAL and whole_teeth(job, found) is Verdict.UNSURE
        unknown = found is not None and found.number == number and (found.slopes_from == "" or nominal) and not clear
        missing = [place for place in PLACES[2:] if place not in places]
        if missing and (unknown or len(missing) == 1):
            return number, missing[0]
        break
    return job.next_number(STATION, KIND), "intake"


def whole_teeth(job: Job, lifters: SplitRead) -> Verdict:
    """`out` where the shift asked for is surely half a tooth or more, which no adjuster but the teeth can give."""
    gear = gear_train.described(job)
    if lifters.found is None or gear is None:
        return Verdict.OPEN
    shift = abs(lifters.found.shift_deg)
    # Without a card nobody knows how much advance is ground in: lifters alike are straight up, and the cam may not be.
    ground_in = 0.0 if card_of(job) else GROUND_IN_DEG
    return judge(shift, math.hypot(shift * lifters.slope_share, ground_in), most=360 / gear.crank.teeth / 2)


def is_exhausted_by_slopes(job: Job, lifters: SplitRead) -> bool:
    """Whether the lifters were read with their own slopes, and still cannot tell one tooth from the next."""
    return lifters.slopes_from not in ("", NOMINAL, "wrong way") and whole_teeth(job, lifters) is Verdict.UNSURE


def prompt(job: Job) -> Prompt:
    """Ask for both lifts at overlap TDC, and where the slopes are not known, for both a few degrees on."""
    number, place = _next_place(job)
    lobe = place.removesuffix("-on")
    on = place.endswith("-on")
    if on:
        instruction = say("turn-on-read-lifter", lobe=lobe)
        hint = say("slope-without-card")
    else:
        instruction = say("read-lifter-at-overlap", lobe=lobe)
        hint = say("shut-and-free-is-firing")
    return Prompt(
        slot=slot_of(KIND, number, place),
        label=f"{lobe.capitalize()} lift{', a few degrees on' if on else ' at overlap TDC'}",
        instruction=instruction,
        hint=hint,
        second=TURN_ON_DEG if on else None,
        second_label=say("turned-on-by"),
        unit=job.unit.value,
        extra={"method": "split"},
    )


def accept(entry: Entry) -> None:
    """Refuse a lift that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text` or `second`.
    """
    if not 0 <= entry.mm <= 25:
        raise InvalidInput("text", "not-a-lifter-height-zero", typed=entry.text)
    if entry.spot.place.endswith("-on"):
        try:
            turned = parse_angle(entry.second or "")
        except InvalidInput as error:
            raise error.at("second") from error
        if not 1 <= turned <= 15:
            raise InvalidInput("second", "turn-on-outside", typed=entry.second)


def summary(job: Job, lifters: SplitRead) -> str:
    """Recommended action, as a sentence."""
    both = say("lifts-at-overlap", job.unit, intake_mm=lifters.intake_mm, exhaust_mm=lifters.exhaust_mm)
    if lifters.firing:
        return say("lifters-both-down", both=both)
    if lifters.tooth_or_more:
        up, shut = ("exhaust", "intake") if lifters.tooth_or_more == "late" else ("intake", "exhaust")
        way = "Advance" if lifters.tooth_or_more == "late" else "Retard"
        return say("one-lifter-shut", both=both, shut=shut, up=up, tooth_or_more=lifters.tooth_or_more, way=way)
    if lifters.slopes_from == "wrong way":
        return say("lifts-turn-the-wrong-way", both=both)
    if lifters.found is None:
        return say("turn-on-for-slope", both=both)
    shift = lifters.found.shift_deg
    aim = wanted_mm(job)
    if abs(shift) < 0.5 and aim:
        return say("lifts-as-card-has-it", job.unit, both=both, apart_mm=abs(aim), way="higher" if aim > 0 else "lower")
    if abs(shift) < 0.5:
        return say("lifts-alike", both=both)
    gear = gear_train.described(job)
    teeth = say("in-crank-gear-teeth", shift=abs(shift) / (360 / gear.crank.teeth)) if gear else ""
    return say(
        "lifts-say-move",
        both=both,
        way="advance" if shift > 0 else "retard",
        shift_deg=abs(shift),
        teeth=teeth,
        slopes_from=lifters.slopes_from,
    )
