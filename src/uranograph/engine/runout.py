"""Runout of the shaft that carries the drive, as it was read."""

from dataclasses import dataclass
from statistics import fmean

from uranograph.bench.fields import DIAL_DIVISION, Count, Fields, Length, Text
from uranograph.bench.job import Job
from uranograph.bench.log import Reading, coarsest
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Grouping, Slot, in_mm
from uranograph.core import runout
from uranograph.core.quantities import parse_angle
from uranograph.core.uncertainty import of_difference

KEY = "runout"


DIAL = Slot[str](
    KEY,
    tuple(f"set-{n}" for n in range(1, 10)),
    ("dial",),
    rests_on=("shaft",),
    together=Grouping.SERIES,
)


PLACES = 8


class RunoutSetup(Fields):
    """How the shaft is read: places a turn, the dial's division in mm, and where the dial stands.

    Examples
    --------
    >>> RunoutSetup.read({"places": "12"}).value.places
    12
    """

    where = Text("where", "The dial stands on", "the gear's own seat")
    places = Count("places", "Places a turn", least=3, most=72, counted="places cannot be", default=PLACES)
    division_mm = Length("dial_division", "Dial's smallest division", above_zero=True, default=DIAL_DIVISION)


SETUP = RunoutSetup.form(KEY, "runout", instruction="Say how the shaft is read.", needed=False)


@memoized
def setup(job: Job) -> RunoutSetup:
    """How a job's shaft is read."""
    return job.form(SETUP) or RunoutSetup.blank(job.unit)


TOTAL = Slot(KEY, ("total",), ("read",), in_mm, rests_on=("shaft",))


@dataclass(frozen=True)
class Round:
    """One time round: (degrees, mm) as read, what it fits, and how far the dial came back to where it began."""

    number: int
    points: tuple[tuple[float, float], ...]
    found: runout.Runout | None
    came_back_mm: float | None


@dataclass(frozen=True)
class Shaft:
    """Combined result of the rounds, mm."""

    rounds: tuple[Round, ...]
    total_mm: float
    doubt_mm: float
    spread_mm: float

    @property
    def newest(self) -> runout.Runout:
        return next(each.found for each in reversed(self.rounds) if each.found is not None)


def place_of(reading: Reading) -> float:
    """Degrees of the turn at which the dial was read."""
    return parse_angle(reading.second or "0")


@memoized
def rounds(job: Job) -> tuple[Round, ...]:
    """Every time round, oldest first."""
    sets: dict[int, list[Reading]] = {}
    for reading in DIAL.taken(job):
        sets.setdefault(int(reading.spot.kind.removeprefix("set-")), []).append(reading)
    return tuple(_round(number, sets[number]) for number in sorted(sets))


def _round(number: int, readings: list[Reading]) -> Round:
    points = tuple((place_of(reading), reading.mm) for reading in readings)
    firsts: dict[float, float] = {}
    came_back = None
    for deg, mm in points:
        if deg % 360 in firsts:
            apart = mm - firsts[deg % 360]
            came_back = apart if came_back is None or abs(apart) > abs(came_back) else came_back
        else:
            firsts[deg % 360] = mm
    found = None
    if len(firsts) >= 3:
        given = [runout.RunoutReading(position_deg=deg, value_mm=mm) for deg, mm in points]
        found = runout.runout(runout.RunoutInput(readings=given))
    return Round(number, points, found, came_back)


@memoized
def measured(job: Job) -> Shaft | None:
    """Runout over all rounds read far enough, None before."""
    whole = [each for each in rounds(job) if each.found is not None]
    if not whole:
        return _of_totals(TOTAL.values(job), coarsest(TOTAL.taken(job), setup(job).division_mm))
    totals = [each.found.total_indicated_mm for each in whole if each.found]
    spread = max(totals) - min(totals)
    division = coarsest(DIAL.taken(job), setup(job).division_mm)
    return Shaft(rounds(job), fmean(totals), max(of_difference(division), spread / 2), spread)


def _of_totals(totals: list[float], division_mm: float) -> Shaft | None:
    """A shaft whose needle was only watched over a turn: its travel, and nothing of where it is high."""
    if not totals:
        return None
    total, spread = fmean(totals), max(totals) - min(totals)
    watched = runout.Runout(
        read_mm=total,
        total_indicated_mm=total,
        eccentricity_mm=total / 2,
        high_spot_deg=0.0,
        ovality_mm=None,
        ovality_high_deg=None,
    )
    return Shaft((Round(0, (), watched, None),), total, max(of_difference(division_mm), spread / 2), spread)
