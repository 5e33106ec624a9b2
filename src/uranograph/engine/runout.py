"""Runout of the shaft that carries the drive, as it was read."""

from dataclasses import dataclass
from statistics import fmean

from uranograph.bench.fields import above_nothing, count
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Reading
from uranograph.bench.slots import Slot, Together, in_mm
from uranograph.core import runout as core
from uranograph.core.quantities import LengthUnit, parse_angle
from uranograph.core.uncertainty import of_difference

KEY = "runout"


DIAL = Slot[str](
    KEY,
    tuple(f"set-{n}" for n in range(1, 10)),
    ("dial",),
    rests_on=("shaft",),
    together=Together.SERIES,
)


PLACES = 8


@dataclass(frozen=True)
class Turn:
    """How the shaft is read: places a turn, the dial's division in mm, and where the dial stands."""

    places: int = PLACES
    division_mm: float = 0.01
    where: str = ""


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Turn]:
    """Read the set-up as typed.

    Examples
    --------
    >>> read({"places": "12"}, LengthUnit.MM).value.places
    12
    """
    reader = FormReader(typed)
    unit = reader.unit(unit)
    places = reader.take("places", count(3, 72, "places cannot be"))
    division = reader.take("dial_division", above_nothing(unit))
    if reader.errors:
        return Filled(None, reader.errors)
    usual = 0.0254 if unit is LengthUnit.INCH else 0.01
    return Filled(Turn(places or PLACES, division or usual, reader.text("where")[:64]))


SETUP = Form(
    KEY,
    "runout",
    lambda typed, job: read(typed, job.unit),
    instruction="Say how the shaft is read.",
    groups=(
        Group(
            (
                Ask("where", "The dial stands on", "the gear's own seat", free=True),
                Ask("places", "Places a turn", "8 unless typed"),
                Ask("dial_division", "Dial's smallest division", "0.01 mm, 0.001 in"),
            )
        ),
    ),
    needed=False,
)


@kept
def setup(job: Job) -> Turn:
    """How a job's shaft is read."""
    filled = job.filled(SETUP) or read({}, job.unit)
    unread = Turn(division_mm=0.0254 if job.unit is LengthUnit.INCH else 0.01)
    return filled.value or unread


TOTAL = Slot(KEY, ("total",), ("read",), in_mm, rests_on=("shaft",))


@dataclass(frozen=True)
class Round:
    """One time round: (degrees, mm) as read, what it fits, and how far the dial came back to where it began."""

    number: int
    points: tuple[tuple[float, float], ...]
    found: core.Runout | None
    came_back_mm: float | None


@dataclass(frozen=True)
class Shaft:
    """What the rounds say together, mm."""

    rounds: tuple[Round, ...]
    total_mm: float
    doubt_mm: float
    spread_mm: float

    @property
    def newest(self) -> core.Runout:
        return next(each.found for each in reversed(self.rounds) if each.found is not None)


def place_of(reading: Reading) -> float:
    """Degrees of the turn at which the dial was read."""
    return parse_angle(reading.second or "0")


@kept
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
        given = [core.RunoutReading(position_deg=deg, value_mm=mm) for deg, mm in points]
        found = core.runout(core.RunoutGiven(readings=given))
    return Round(number, points, found, came_back)


@kept
def measured(job: Job) -> Shaft | None:
    """Runout over all rounds read far enough, None before."""
    whole = [each for each in rounds(job) if each.found is not None]
    if not whole:
        return _of_totals(TOTAL.values(job), setup(job).division_mm)
    totals = [each.found.total_indicated_mm for each in whole if each.found]
    spread = max(totals) - min(totals)
    return Shaft(rounds(job), fmean(totals), max(of_difference(setup(job).division_mm), spread / 2), spread)


def _of_totals(totals: list[float], division_mm: float) -> Shaft | None:
    """A shaft whose needle was only watched over a turn: its travel, and nothing of where it is high."""
    if not totals:
        return None
    total, spread = fmean(totals), max(totals) - min(totals)
    watched = core.Runout(
        read_mm=total,
        total_indicated_mm=total,
        eccentricity_mm=total / 2,
        high_spot_deg=0.0,
        ovality_mm=None,
        ovality_high_deg=None,
    )
    return Shaft((Round(0, (), watched, None),), total, max(of_difference(division_mm), spread / 2), spread)
