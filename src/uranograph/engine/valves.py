"""Valves of an engine, their angles, and their clearance readings."""

from dataclasses import dataclass

from uranograph.bench.acts import POSITION
from uranograph.bench.fields import Angle, ByUnit, Fields, Length
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm
from uranograph.engine.description import engine_of
from uranograph.engine.messages import say

KEY = "piston-valve"
LOBES = ("intake", "exhaust")
STRANGERS = 4
# A clearance is valid for its cam position; a valve's drop to the piston is valid for all.
MOVED = ("phase", "mesh", "gear", POSITION)
# What lies between a valve and its piston whatever the cam does.
HEAD = ("head",)
DROP = Slot(KEY, ("drop-#",), ("gap",), in_mm, rests_on=HEAD)
CLAY = Slot(KEY, ("clay-#",), ("gap",), in_mm, rests_on=(*MOVED, *HEAD))
SPRING = Slot(KEY, ("spring-#",), ("gap",), in_mm, rests_on=(*MOVED, *HEAD))
LIFT = Slot(KEY, ("lift-#",), ("lift",), in_mm, rests_on=(*MOVED, "lash"))
MEET = Slot(KEY, ("meet",), ("gap",), in_mm, rests_on=HEAD)
BIND = Slot(
    KEY,
    tuple(f"{what}-{lobe}" for what in ("fitted", "solid", "retainer") for lobe in LOBES),
    ("length",),
    in_mm,
    rests_on=HEAD,
)
OF_VALVES = (DROP, CLAY, SPRING, LIFT)


class ValveAngles(Fields):
    """How the valves lean from the bore, degrees, and how finely lengths are read, mm.

    Examples
    --------
    >>> found = ValveAngles.read({"intake_angle": "14"}).value
    >>> found.intake_deg, found.exhaust_deg, found.gauge_mm
    (14.0, 14.0, 0.05)
    """

    intake_deg = Angle(
        "intake_angle",
        "Intake valve, deg from the bore",
        "0 where it runs along the bore",
        least=0,
        most=60,
        required=say("how-far-from-bore"),
    )
    exhaust_deg = Angle(
        "exhaust_angle",
        "Exhaust valve, deg from the bore",
        "as the intake unless typed",
        least=0,
        most=60,
        default_from="intake_deg",
    )
    gauge_mm = Length("gauge", "Lengths are read to", above_zero=True, default=ByUnit(0.05, 0.0508))

    def angle_deg(self, lobe: str) -> float:
        """How far one lobe's valve leans, degrees."""
        return self.intake_deg if lobe == "intake" else self.exhaust_deg


SETUP = ValveAngles.form(KEY, "valves over the piston", instruction="Say how the valves stand.")


@dataclass(frozen=True)
class Valve:
    """A valve: its number, intake before exhaust cylinder by cylinder, and its lobe."""

    number: int
    name: str
    lobe: str


def valve_angles(job: Job) -> ValveAngles | None:
    """Return the valve angles, or None."""
    return job.form(SETUP)


@memoized
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
