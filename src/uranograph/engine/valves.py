"""The valves of an engine, how they stand, and what is read of their room."""

from dataclasses import dataclass

from uranograph.bench.acts import POSITION
from uranograph.bench.fields import above_nothing, angle
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Entry
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.quantities import LengthUnit
from uranograph.engine.description import engine_of
from uranograph.engine.messages import say

KEY = "piston-valve"
LOBES = ("intake", "exhaust")
STRANGERS = 4
# A gap that was read where the cam stood is of that position alone; what a valve drops to the piston is the same at all.
MOVED = ("phase", "mesh", "gear", POSITION)
DROP = Slot(KEY, ("drop-#",), ("gap",), in_mm)
CLAY = Slot(KEY, ("clay-#",), ("gap",), in_mm, rests_on=MOVED)
SPRING = Slot(KEY, ("spring-#",), ("gap",), in_mm, rests_on=MOVED)
LIFT = Slot(KEY, ("lift-#",), ("lift",), in_mm, rests_on=(*MOVED, "lash"))
MEET = Slot(KEY, ("meet",), ("gap",), in_mm)
BIND = Slot(
    KEY, tuple(f"{what}-{lobe}" for what in ("fitted", "solid", "retainer") for lobe in LOBES), ("length",), in_mm
)
OF_VALVES = (DROP, CLAY, SPRING, LIFT)


@dataclass(frozen=True)
class Stand:
    """How the valves stand: degrees from the line of the bore, and what a length is read to, mm."""

    intake_deg: float
    exhaust_deg: float
    gauge_mm: float

    def angle_deg(self, lobe: str) -> float:
        return self.intake_deg if lobe == "intake" else self.exhaust_deg


@dataclass(frozen=True)
class Valve:
    """A valve: its number, intake before exhaust cylinder by cylinder, and its lobe."""

    number: int
    name: str
    lobe: str


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Stand]:
    """Read how the valves stand, as typed.

    Examples
    --------
    >>> read({"intake_angle": "14"}, LengthUnit.MM).value
    Stand(intake_deg=14.0, exhaust_deg=14.0, gauge_mm=0.05)
    """
    reader = FormReader(typed)
    own = reader.unit(unit)
    intake = reader.take("intake_angle", angle(0, 60), say("how-far-from-bore"))
    exhaust = reader.take("exhaust_angle", angle(0, 60))
    gauge = reader.take("gauge", above_nothing(own))
    if reader.errors or intake is None:
        return Filled(None, reader.errors)
    usual = 0.0508 if own is LengthUnit.INCH else 0.05
    return Filled(Stand(intake, intake if exhaust is None else exhaust, gauge or usual))


SETUP = Form(
    KEY,
    "valves over the piston",
    lambda typed, job: read(typed, job.unit),
    instruction="Say how the valves stand.",
    groups=(
        Group(
            (
                Ask("intake_angle", "Intake valve, deg from the bore", "0 where it runs along the bore"),
                Ask("exhaust_angle", "Exhaust valve, deg from the bore", "as the intake unless typed"),
                Ask("gauge", "Lengths are read to", "0.05 mm, .002 in"),
            )
        ),
    ),
)


def stand_of(job: Job) -> Stand | None:
    """How the valves stand, where that was said."""
    return job.form(SETUP)


@kept
def valves(job: Job) -> tuple[Valve, ...]:
    """Every valve, cylinder by cylinder."""
    engine = engine_of(job)
    cylinders = engine.cylinders if engine else STRANGERS
    names = [f"{n} {lobe}" for n in range(1, cylinders + 1) for lobe in LOBES]
    return tuple(Valve(k, name, name.split()[1]) for k, name in enumerate(names, 1))


def number_of(entry: Entry) -> int:
    """Which valve a reading is of; 0 where it is of none."""
    number = entry.spot.kind.rpartition("-")[2]
    return int(number) if number.isdecimal() else 0
