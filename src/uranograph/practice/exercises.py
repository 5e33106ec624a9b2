"""The exercises: what is planted, where it begins, what one has at hand, and what is learned."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from enum import StrEnum

from uranograph.practice import planting as planted
from uranograph.world.state import World


class Goal(StrEnum):
    """What an exercise is scored by."""

    TOP = "top"
    PHASE = "phase"
    IN = "in"
    RUNOUT = "runout"
    PLAY = "play"
    FACES = "thrust-faces"
    HEAT = "heat"
    MARKS = "marks"
    BACKLASH = "backlash"
    VALVES = "valves"
    CAUSE = "cause"
    FAULTS = "faults"


class View(StrEnum):
    """How the engine is drawn: the degree wheel on its nose, its gears with their marks, or a gear that is heated."""

    WHEEL = "wheel"
    GEARS = "gears"
    HEAT = "heat"


@dataclass(frozen=True)
class Tool:
    """A button: what it does to the engine, and its words."""

    kind: str
    words: str
    on: str = ""
    by: float = 0.0


@dataclass(frozen=True)
class Exercise:
    """One exercise.

    Parameters
    ----------
    number, title
        Its place in the order of work, and what it is called.
    learn
        The one thing to learn.
    station
        Where it begins.
    goal
        What it is scored by.
    best_readings, best_moves
        What a builder who does all that is asked, and no more, takes.
    planted
        Makes an engine by a seed.
    method
        By which method it is read, where the station has several.
    drive
        What its drive offers: `keyway`, `slot`, or nothing.
    top_stated
        Whether TDC was found before, and the learner begins at the lobes.
    view
        How the engine is drawn.
    dials
        What the dial can stand on.
    tools
        What else can be done to the engine.
    checks
        What its method is judged by, by their names in `checks`; nothing forced comes on top.
    faults
        How many faults are to be named at the end.
    """

    number: int
    title: str
    learn: str
    station: str
    goal: Goal
    best_readings: int
    planted: Callable[[int], World]
    best_moves: int = 0
    method: str = ""
    drive: str = ""
    top_stated: bool = False
    view: View = View.WHEEL
    dials: tuple[str, ...] = ("intake", "exhaust", "piston")
    tools: tuple[Tool, ...] = ()
    checks: tuple[str, ...] = ("proof", "forward")
    faults: int = 0

    @property
    def is_free(self) -> bool:
        """Whether what is planted is drawn by the engine's number."""
        return self.number > LAST_NUMBERED


LAST_NUMBERED = 20
_LEVER = (Tool("lever", "Lever back", by=0.0), Tool("lever", "Lever forward", by=1.0))
_PLATE = (Tool("on", "Thrust plate on", "cam-limits"), Tool("off", "Thrust plate off", "cam-limits"))
_SAND = tuple(
    Tool("sand", f"Sand {side} face {by:.2f}", f"cam-{side}", by) for side in ("front", "rear") for by in (0.01, 0.03)
)
_TOOTH = (Tool("teeth", "Cam gear a tooth earlier", by=-1.0), Tool("teeth", "Cam gear a tooth later", by=1.0))
_VALVE = (Tool("lever", "Let the valve shut", by=0.0), Tool("lever", "Push the valve to touch", by=1.0))

_ALL = (
    Exercise(
        1,
        "True TDC by the stop",
        "The mark on a wheel is where somebody put it. Two contacts, one each side, say where the top is.",
        "tdc",
        Goal.TOP,
        4,
        lambda seed: planted.wheel_off(planted.four(seed), 4.0 if seed % 2 else -4.0),
    ),
    Exercise(
        2,
        "True TDC by a dial on the piston",
        "The piston hardly moves at the top: read well below it, as much on each side.",
        "tdc",
        Goal.TOP,
        4,
        lambda seed: planted.askew(planted.wheel_off(planted.four(seed), 3.0), 0.97),
        method="drop",
    ),
    Exercise(
        3,
        "Intake centerline",
        "As far below the greatest lift on each side: the middle is the centerline.",
        "degree",
        Goal.PHASE,
        4,
        lambda seed: planted.late(planted.four(seed), 0.3),
        top_stated=True,
        method="lifts",
    ),
    Exercise(
        4,
        "The same, with slack in the drive",
        "Overshot? Back off well past and come up again: only forward takes the slack up.",
        "degree",
        Goal.PHASE,
        4,
        lambda seed: planted.slack(planted.late(planted.four(seed), -0.4), 2.0),
        top_stated=True,
        method="lifts",
    ),
    Exercise(
        5,
        "Four events",
        "Openings and closings at the checking lift say late or early, and whether the durations are the card's.",
        "degree",
        Goal.PHASE,
        6,
        lambda seed: planted.late(planted.four(seed), 3.0),
        top_stated=True,
        method="events",
    ),
    Exercise(
        6,
        "Move it: keyways of the crank gear",
        "The gear comes off, and the wheel with it: find TDC again before anything is read.",
        "degree",
        Goal.IN,
        14,
        lambda seed: planted.with_positions(planted.late(planted.four(seed), 4.0), "choices"),
        best_moves=1,
        drive="keyway",
    ),
    Exercise(
        7,
        "A slot whose marks are cam degrees",
        "One degree at the cam is two at the crank: measured against predicted tells which the marks are.",
        "degree",
        Goal.IN,
        16,
        lambda seed: planted.with_positions(planted.late(planted.four(seed), 4.0), "slot", cam_degrees=True),
        best_moves=2,
        drive="slot",
    ),
    Exercise(
        8,
        "The wheel turned round",
        "Numbers that run the wrong way read before for after: look which way they rise before you believe them.",
        "tdc",
        Goal.PHASE,
        8,
        lambda seed: planted.mirrored(planted.wheel_off(planted.late(planted.four(seed), 1.5), 2.0)),
    ),
    Exercise(
        9,
        "An uneven lobe",
        "Near the nose an uneven lobe leans: the events, or a deep drop, say where it stands.",
        "degree",
        Goal.PHASE,
        8,
        lambda seed: planted.late(planted.four(seed, ("uneven-lobes",)), 0.0),
        top_stated=True,
        method="events",
    ),
    Exercise(
        10,
        "A lifter that bleeds down",
        "A hydraulic lifter sinks while one reads: closings come early and the greatest lift falls short. Solid stand-ins tell.",
        "degree",
        Goal.PHASE,
        8,
        lambda seed: planted.late(planted.four(seed, ("bleeding",)), 0.0),
        top_stated=True,
        method="events",
    ),
    Exercise(
        11,
        "Runout, then truing",
        "How much the shaft runs out decides the drive: read it all round, and all round again once it is trued.",
        "runout",
        Goal.RUNOUT,
        18,
        planted.bent,
        dials=("seat",),
        tools=(Tool("true-shaft", "True the shaft"),),
        checks=("round-closed", "read-after-truing"),
    ),
    Exercise(
        12,
        "End play of the cam",
        "Without the parts that limit it a shaft floats ten times as far: they go on first.",
        "end-play",
        Goal.PLAY,
        4,
        lambda seed: planted.measured_by(planted.four(seed), "cam-end").but(taken_off=frozenset({"cam-limits"})),
        dials=("cam-end",),
        tools=(*_LEVER, *_PLATE),
        checks=("limits-first", "three-times"),
    ),
    Exercise(
        13,
        "Thrust faces too thick",
        "Half from each face, in passes, measured in between: what is sanded away never comes back.",
        "end-play",
        Goal.FACES,
        16,
        planted.thick_faces,
        dials=("cam-end", "cam-front", "cam-rear"),
        tools=(*_LEVER, *_SAND),
        checks=("in-passes", "both-alike"),
    ),
    Exercise(
        14,
        "A gear by heat",
        "What counts is what the thermometer shows on its way to the shaft: too cool it sticks, too hot it is spoiled.",
        "gear-fit",
        Goal.HEAT,
        9,
        planted.by_heat,
        view=View.HEAT,
        dials=(),
        checks=("temperature-read", "on-at-first"),
    ),
    Exercise(
        15,
        "Marks through an idler",
        "One tooth is seen where two marks meet. Set right, it is turned two whole turns: crank and cam must be back, the idler need not.",
        "marks",
        Goal.MARKS,
        10,
        lambda seed: planted.gears_at_marks(seed, True, ("tooth-off",)),
        best_moves=1,
        view=View.GEARS,
        tools=_TOOTH,
        checks=("marks-at-top", "two-turns"),
    ),
    Exercise(
        16,
        "The key against the dot",
        "Where a dot and a key disagree, the key decides: the lobes were ground from it.",
        "marks",
        Goal.MARKS,
        10,
        lambda seed: planted.gears_at_marks(seed, False, ("dot-wrong",)),
        view=View.GEARS,
        tools=_TOOTH,
        checks=("key-read", "left-by-the-key"),
    ),
    Exercise(
        17,
        "Backlash with a tight place",
        "The mean may be good and one place too tight: rock it all round the cam, and look at the least.",
        "backlash",
        Goal.BACKLASH,
        12,
        lambda seed: planted.measured_by(planted.four(seed, ("tight-place",)), "tooth"),
        dials=("tooth",),
        tools=_LEVER,
        checks=("all-round", "pushed"),
    ),
    Exercise(
        18,
        "Piston to valve: one comes too near",
        "Pushed open by hand at TDC, each valve says how near it comes: before the engine is turned over, not by turning it over.",
        "piston-valve",
        Goal.VALVES,
        2,
        planted.near_valve,
        top_stated=True,
        dials=("intake-valve", "exhaust-valve"),
        tools=(*_VALVE, Tool("on", "Rockers on", "rockers"), Tool("off", "Rockers off", "rockers")),
        checks=("both-valves", "rockers-off"),
    ),
    Exercise(
        19,
        "A complaint: jumped, or slipped?",
        "Marks that meet each other and stand wrong against the piston's own top: a gear slipped on its seat, and no tooth jumped.",
        "wrong",
        Goal.CAUSE,
        4,
        planted.slipped,
        view=View.GEARS,
        dials=("piston", "intake", "exhaust"),
        checks=("own-top-looked-at", "marks-looked-at"),
    ),
    Exercise(
        20,
        "Something is wrong",
        "Two faults at once hide each other: find TDC, degree it, answer what is asked, then name both.",
        "tdc",
        Goal.FAULTS,
        16,
        lambda seed: planted.with_faults(seed, planted.drawn_faults(seed, 2)),
        faults=2,
    ),
    Exercise(
        21,
        "A free engine, easy",
        "One thing is wrong. Find TDC, degree it, name it.",
        "tdc",
        Goal.FAULTS,
        12,
        lambda seed: planted.with_faults(seed, planted.drawn_faults(seed, 1)),
        faults=1,
    ),
    Exercise(
        22,
        "A free engine, hard",
        "Three things are wrong. Find TDC, degree it, name them.",
        "tdc",
        Goal.FAULTS,
        24,
        lambda seed: planted.with_faults(seed, planted.drawn_faults(seed, 3)),
        faults=3,
    ),
)
EXERCISES: Mapping[int, Exercise] = {each.number: each for each in _ALL}
