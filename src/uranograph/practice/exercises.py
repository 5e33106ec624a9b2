"""The exercises: what is planted, where it begins, and what is learned."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum

from uranograph.world.made import made
from uranograph.world.parts import Adjuster
from uranograph.world.state import DialMount, WheelMount, World

# Keyways every two degrees; a slot every one.
KEYWAYS = {("0" if k == 0 else f"{'A' if k > 0 else 'R'}{abs(k)}"): float(k) for k in range(-8, 9, 2)}
SLOT = {("0" if k == 0 else f"{'A' if k > 0 else 'R'}{abs(k)}"): float(k) for k in range(-10, 11)}


class Goal(StrEnum):
    """What an exercise is scored by."""

    TOP = "top"
    PHASE = "phase"
    IN = "in"


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
    best_moves, best_readings
        What a builder who does all that is asked, and no more, takes.
    planted
        Makes an engine by a seed.
    drive
        What its drive offers: `keyway`, `slot`, or nothing.
    top_stated
        Whether TDC was found before, and the learner begins at the lobes.
    """

    number: int
    title: str
    learn: str
    station: str
    goal: Goal
    best_readings: int
    planted: Callable[[int], World]
    best_moves: int = 0
    drive: str = ""
    top_stated: bool = False


def _four(seed: int, faults: tuple[str, ...] = ()) -> World:
    """A four-cylinder with gears, the wheel well mounted, the cam as the faults have it."""
    world = made(seed, faults, chain=False, cylinders=4)
    wheel = WheelMount(0.0, "half", False, 1.0, 0.05, 0.0)
    parts = replace(world.parts, ratchet=False, rotation="clockwise", slack_deg=0.8)
    return replace(world, parts=parts).but(wheel=wheel, dial=DialMount("intake"), crank_deg=720.0 + 150)


def _zero(world: World, deg: float) -> World:
    return world.but(wheel=replace(world.state.wheel, zero_deg=deg))


def _late(world: World, deg: float) -> World:
    return world.but(late_deg=deg)


def _with(world: World, kind: str, cam_degrees: bool = False) -> World:
    """An engine with an adjuster of a kind, fitted at its zero."""
    positions = SLOT if kind == "slot" else KEYWAYS
    adjuster = Adjuster(kind, positions, "0", cam_degrees, kind != "slot")
    return replace(world, parts=replace(world.parts, adjuster=adjuster)).but(position="0")


def _slack(world: World, deg: float) -> World:
    return replace(world, parts=replace(world.parts, slack_deg=deg))


def _askew(world: World, lean: float) -> World:
    return world.but(dial=replace(world.state.dial, on="piston", lean=lean))


def _mirrored(world: World) -> World:
    return world.but(wheel=replace(world.state.wheel, mirrored=True, scale="full"))


_ALL = (
    Exercise(
        1,
        "True TDC by the stop",
        "The mark on a wheel is where somebody put it. Two contacts, one each side, say where the top is.",
        "tdc",
        Goal.TOP,
        4,
        lambda seed: _zero(_four(seed), 4.0 if seed % 2 else -4.0),
    ),
    Exercise(
        2,
        "True TDC by a dial on the piston",
        "The piston hardly moves at the top: read well below it, as much on each side.",
        "tdc",
        Goal.TOP,
        4,
        lambda seed: _askew(_zero(_four(seed), 3.0), 0.97),
    ),
    Exercise(
        3,
        "Intake centerline",
        "As far below the greatest lift on each side: the middle is the centerline.",
        "degree",
        Goal.PHASE,
        4,
        lambda seed: _late(_four(seed), 0.3),
        top_stated=True,
    ),
    Exercise(
        4,
        "The same, with slack in the drive",
        "Overshot? Back off well past and come up again: only forward takes the slack up.",
        "degree",
        Goal.PHASE,
        4,
        lambda seed: _slack(_late(_four(seed), -0.4), 2.0),
        top_stated=True,
    ),
    Exercise(
        5,
        "Four events",
        "Openings and closings at the checking lift say late or early, and whether the durations are the card's.",
        "degree",
        Goal.PHASE,
        6,
        lambda seed: _late(_four(seed), 3.0),
        top_stated=True,
    ),
    Exercise(
        6,
        "Move it: keyways of the crank gear",
        "The gear comes off, and the wheel with it: find TDC again before anything is read.",
        "degree",
        Goal.IN,
        14,
        lambda seed: _with(_late(_four(seed), 4.0), "choices"),
        1,
        "keyway",
    ),
    Exercise(
        7,
        "A slot whose marks are cam degrees",
        "One degree at the cam is two at the crank: measured against predicted tells which the marks are.",
        "degree",
        Goal.IN,
        16,
        lambda seed: _with(_late(_four(seed), 4.0), "slot", cam_degrees=True),
        2,
        "slot",
    ),
    Exercise(
        8,
        "The wheel turned round",
        "Numbers that run the wrong way read before for after: look which way they rise before you believe them.",
        "tdc",
        Goal.PHASE,
        8,
        lambda seed: _mirrored(_zero(_late(_four(seed), 1.5), 2.0)),
    ),
    Exercise(
        9,
        "An uneven lobe",
        "Near the nose an uneven lobe leans: the events, or a deep drop, say where it stands.",
        "degree",
        Goal.PHASE,
        8,
        lambda seed: _late(_four(seed, ("uneven-lobes",)), 0.0),
        top_stated=True,
    ),
    Exercise(
        10,
        "A lifter that bleeds down",
        "A hydraulic lifter sinks while one reads: closings come early and the greatest lift falls short. Solid stand-ins tell.",
        "degree",
        Goal.PHASE,
        8,
        lambda seed: _late(_four(seed, ("bleeding",)), 0.0),
        top_stated=True,
    ),
)
EXERCISES: Mapping[int, Exercise] = {each.number: each for each in _ALL}
