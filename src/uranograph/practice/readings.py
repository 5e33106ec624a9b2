"""What was typed beside what stood there: every reading of wheel, dial and thermometer of a practice job."""

from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import parse_length
from uranograph.engine import degree_wheel, tdc
from uranograph.practice.messages import say
from uranograph.practice.session import Done, Practice, world_of
from uranograph.world import geometry
from uranograph.world.state import World

# An eye is off by more than this only by mistake: of a wheel, crank degrees; of a dial, mm; of a thermometer, degrees.
EYE_DEG, EYE_MM, EYE_C = 0.5, 0.012, 6.0
# A drive that was come up to backward has more slack in it than this, crank degrees.
SLACK_DEG = 0.1
# Further off than this, it is another side, another way, or another instrument.
ELSE_DEG, ELSE_MM = 20.0, 0.3
ON_WHEEL = ("before", "after", "forward", "backward")
ON_DIAL = ("dial", "travel", "gap", "front", "rear")
ON_THERMOMETER = ("measured",)


@dataclass(frozen=True)
class ReadingTruth:
    """One reading: what was typed, what stood there, and what went wrong.

    Attributes
    ----------
    reading
        As it was written.
    shown, eye
        What the instrument showed, and how far off it the reading is, in `unit`.
    unit
        `deg`, `mm` or `C`.
    lag_deg
        Slack that lay in it, crank degrees; 0 where none counts.
    words
        What went wrong; empty where it was well read.
    """

    reading: Reading
    shown: float
    eye: float
    unit: str
    lag_deg: float
    words: str

    @property
    def worst(self) -> float:
        """How bad it is, against what an eye may be off."""
        return max(abs(self.eye) / {"deg": EYE_DEG, "mm": EYE_MM, "C": EYE_C}[self.unit], self.lag_deg / SLACK_DEG)


def truths(practice: Practice, job: Job, done: Sequence[Done]) -> tuple[ReadingTruth, ...]:
    """Every reading that counts and was read from an instrument, in order.

    Parameters
    ----------
    practice, job
        The exercise, and what was written down.
    done
        What was done to the engine.
    """
    own = (each for each in job.readings if each.void is None and each.text != tdc.LEFT)
    taken = sorted((each for each in own), key=lambda each: each.seq)
    found = (_truth(practice, job, done, each) for each in taken)
    return tuple(each for each in found if each is not None)


def _truth(practice: Practice, job: Job, done: Sequence[Done], reading: Reading) -> ReadingTruth | None:
    place = reading.spot.place
    if place not in (*ON_WHEEL, *ON_DIAL, *ON_THERMOMETER):
        return None
    world = world_of(practice, done, reading.at)
    if place in ON_WHEEL:
        return _of_wheel(job, reading, world)
    if place in ON_THERMOMETER:
        return _of_thermometer(reading, world)
    return _of_dial(reading, world)


def _of_wheel(job: Job, reading: Reading, world: World) -> ReadingTruth:
    shown = geometry.wheel_shows(world)
    mounted = degree_wheel.wheel_of(job)
    try:
        typed = degree_wheel.crank_angle(mounted, reading.text, reading.side) if mounted else shown
    except InvalidInput:
        typed = shown
    eye = (typed - shown + 180) % 360 - 180
    lag = 0.0 if reading.station == tdc.KEY else world.state.lag_deg
    words = ""
    if abs(eye) > ELSE_DEG:
        words = say("wrong-side-or-way")
    elif abs(eye) > EYE_DEG:
        words = say("misread-wheel", deg=abs(eye))
    elif lag > SLACK_DEG:
        words = say("came-backward", deg=lag)
    return ReadingTruth(reading, shown, eye, "deg", lag, words)


def dial_shows(world: World) -> float:
    """What the dial shows where it stands, mm from its zero."""
    dial = world.state.dial
    return (geometry.under_dial(world, dial.on) - dial.zero_mm) / dial.lean


def _of_dial(reading: Reading, world: World) -> ReadingTruth | None:
    try:
        typed = parse_length(reading.text, reading.unit)
    except InvalidInput:
        return None
    shown = dial_shows(world)
    eye = typed - shown
    words = ""
    if abs(eye) > ELSE_MM:
        words = say("not-what-the-dial-showed")
    elif abs(eye) > EYE_MM:
        words = say("misread-dial", mm=abs(eye))
    return ReadingTruth(reading, shown, eye, "mm", 0.0, words)


def _of_thermometer(reading: Reading, world: World) -> ReadingTruth | None:
    try:
        typed = float(reading.text)
    except ValueError:
        return None
    shown = world.gear_now_c
    words = say("misread-thermometer", c=abs(typed - shown)) if abs(typed - shown) > EYE_C else ""
    return ReadingTruth(reading, shown, typed - shown, "C", 0.0, words)
