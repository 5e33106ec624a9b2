"""No marks and no card: the cam set by both lifters at overlap TDC, and proved by the valves at both tops."""

from dataclasses import dataclass
from functools import lru_cache

from uranograph.bench import train
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.pairs import parts_of, slot_of
from uranograph.core.errors import Impossible
from uranograph.core.lobe import lift_at
from uranograph.core.quantities import format_angle, format_length, parse_angle, parse_length
from uranograph.core.split import Split, SplitGiven, split_overlap

STATION = "marks"
KIND = "split"
PLACES = ("intake", "exhaust", "intake-on", "exhaust-on")
TURN_ON_DEG = "4"


@dataclass(frozen=True)
class SplitRead:
    """One reading of both lifters: lifts in mm, slopes where they are known and where they come from."""

    number: int
    intake_mm: float
    exhaust_mm: float
    slopes: tuple[float, float] | None
    slopes_from: str
    found: Split | None


@lru_cache(maxsize=128)
def measured(job: Job) -> SplitRead | None:
    """The newest whole reading of both lifters."""
    sets: dict[int, dict[str, Reading]] = {}
    for reading in job.standing(STATION):
        kind, number, place = parts_of(reading.slot)
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
            SplitGiven(
                intake_mm=lifts["intake"],
                exhaust_mm=lifts["exhaust"],
                intake_slope_mm_per_deg=slopes[0],
                exhaust_slope_mm_per_deg=slopes[1],
            )
        )
    return SplitRead(max(whole), lifts["intake"], lifts["exhaust"], slopes, source, found)


def latest(job: Job) -> dict[str, float]:
    """The lifts of the newest set of readings, mm, by place; perhaps not all of them."""
    sets: dict[int, dict[str, float]] = {}
    for reading in job.standing(STATION):
        kind, number, place = parts_of(reading.slot)
        if kind == KIND:
            sets.setdefault(number, {})[place] = parse_length(reading.text, reading.unit)
    return sets[max(sets)] if sets else {}


def _slopes(job: Job, places: dict[str, Reading], lifts: dict[str, float]) -> tuple[tuple[float, float] | None, str]:
    if {"intake-on", "exhaust-on"} <= places.keys():
        turned = parse_angle(places["intake-on"].drop or TURN_ON_DEG)
        rise = (lifts["intake-on"] - lifts["intake"]) / turned
        fall = (lifts["exhaust"] - lifts["exhaust-on"]) / parse_angle(places["exhaust-on"].drop or TURN_ON_DEG)
        if rise > 0 and fall > 0:
            return (rise, fall), "read a few degrees on"
        return None, "wrong way"
    if job.card is None:
        return None, ""
    slopes = []
    for lobe, sign in (("intake", 1), ("exhaust", -1)):
        shape = job.card.lobe(lobe)
        slope = sign * (lift_at(shape, 1) - lift_at(shape, -1)) / 2 if shape else 0.0
        if slope <= 0:
            return None, ""
        slopes.append(slope)
    return (slopes[0], slopes[1]), "of the card's lobes"


def _next_place(job: Job) -> tuple[int, str]:
    taken: dict[int, set[str]] = {}
    for reading in job.standing(STATION):
        kind, number, place = parts_of(reading.slot)
        if kind == KIND:
            taken.setdefault(number, set()).add(place)
    for number, places in sorted(taken.items(), reverse=True):
        for place in PLACES[:2]:
            if place not in places:
                return number, place
        found = measured(job)
        unknown = found is not None and found.number == number and found.slopes_from == ""
        missing = [place for place in PLACES[2:] if place not in places]
        if missing and (unknown or len(missing) == 1):
            return number, missing[0]
        break
    return job.next_number(STATION, KIND), "intake"


def prompt(job: Job) -> Prompt:
    """Ask for both lifts at overlap TDC, and where the slopes are not known, for both a few degrees on."""
    number, place = _next_place(job)
    lobe = place.removesuffix("-on")
    on = place.endswith("-on")
    if on:
        instruction = f"Turn the crank forward by the degrees below. Read the {lobe} lifter again."
        hint = "Without a card this tells how steep the flanks are."
    else:
        instruction = f"Set the crank at overlap TDC: both lifters partly up. Read the {lobe} lifter."
        hint = "Both shut and free is the firing top: turn once more, a whole turn."
    return Prompt(
        slot=slot_of(KIND, number, place),
        label=f"{lobe.capitalize()} lift{', a few degrees on' if on else ' at overlap TDC'}",
        instruction=instruction,
        hint=hint,
        drop=TURN_ON_DEG if on else None,
        drop_label="Turned on, crank deg",
        unit=job.unit.value,
        extra={"method": "split"},
    )


def accept(entry: Entry) -> None:
    """Refuse a lift that cannot be.

    Raises
    ------
    Impossible
        With the field at fault: `text` or `drop`.
    """
    if not 0 <= parse_length(entry.text, entry.unit) <= 25:
        raise Impossible("text", f"A lifter does not stand “{entry.text}” up. Zero the dial on the base circle first.")
    if parts_of(entry.slot)[2].endswith("-on"):
        try:
            turned = parse_angle(entry.drop or "")
        except Impossible as error:
            raise Impossible("drop", error.message) from error
        if not 1 <= turned <= 15:
            raise Impossible("drop", f"“{entry.drop}” deg: turn on by 2 to 10, no more.")


def told(job: Job, of: SplitRead) -> str:
    """What to do about it, in words."""
    both = f"Intake {format_length(of.intake_mm, job.unit)}, exhaust {format_length(of.exhaust_mm, job.unit)} at overlap TDC"
    if of.slopes_from == "wrong way":
        return f"{both}; but turning on, the intake must rise and the exhaust fall. Read again: is this overlap, and forward?"
    if of.found is None:
        return f"{both}. Turn on a few degrees and read both again: that tells how steep the flanks are."
    shift = of.found.shift_deg
    if abs(shift) < 0.5:
        return f"{both}: alike, so the cam is about straight up. Only a start: prove it by the valves at both tops."
    gear = train.described(job)
    teeth = f", {abs(shift) / (360 / gear.crank.teeth):.1f} teeth of the crank gear" if gear else ""
    return (
        f"{both}: {'advance' if shift > 0 else 'retard'} the cam {format_angle(abs(shift))} deg{teeth} "
        f"(slopes {of.slopes_from}). Only a start: prove it by the valves at both tops."
    )
