"""What is truly so at each place of an engine: what a verdict is held against."""

import math
from collections.abc import Iterable
from enum import StrEnum

from uranograph.world import geometry
from uranograph.world.state import World


class Truth(StrEnum):
    """How a place stands; near a limit nothing that is read can decide it."""

    IN = "in"
    OUT = "out"
    NEAR = "near"


def held(value: float, least: float | None, most: float | None, near: float) -> Truth:
    """A figure against its limits.

    Parameters
    ----------
    value, least, most
        In one unit; a limit that is None does not count.
    near
        Within this of a limit it is `near`.

    Examples
    --------
    >>> [held(each, 0.05, 0.15, 0.01).value for each in (0.1, 0.3, 0.155)]
    ['in', 'out', 'near']
    """
    margins = [
        m for m in (None if least is None else value - least, None if most is None else most - value) if m is not None
    ]
    worst = min(margins, default=math.inf)
    if abs(worst) <= near:
        return Truth.NEAR
    return Truth.IN if worst > 0 else Truth.OUT


def end_play(world: World, shaft: str) -> Truth:
    """The play of a shaft against what is allowed, with its limiting parts on."""
    thrust = world.parts.thrusts[shaft]
    play = world.state.plays_mm.get(shaft, thrust.play_mm)
    return held(play, thrust.least_mm, thrust.most_mm, 0.012)


def backlash(world: World) -> Truth:
    """Backlash at its tightest and its loosest place against what is allowed."""
    mesh = world.parts.mesh
    least, most = mesh.tightest()
    found = held(least, mesh.least_mm, None, 0.015), held(most, None, mesh.most_mm, 0.015)
    return Truth.OUT if Truth.OUT in found else Truth.NEAR if Truth.NEAR in found else Truth.IN


def lobe_room(world: World, least_mm: float = 1.5) -> Truth:
    """The smallest room of any lobe against the least that is allowed."""
    return held(min(valve.room_mm for valve in world.parts.valves), least_mm, None, 0.06)


# What each drive bears of runout, mm: gears, and a chain whose tensioner follows.
BEARS_MM = {"gears": 0.05, "hydraulic": 0.25}


def drive(world: World, chosen: str) -> Truth:
    """Whether a drive bears what its shaft runs out: gears past what they are good to, and no further, are near."""
    total = world.parts.seat.total_mm(world.state.runout_left)
    if chosen == "gears" and BEARS_MM["gears"] < total <= 0.09:
        return Truth.NEAR
    return held(total, None, min(BEARS_MM[chosen], 0.08 if chosen == "gears" else 0.25), 0.012)


LEAST_MM = {"intake": 2.0, "exhaust": 2.5}


def clearances(world: World, valves: Iterable[int]) -> Truth:
    """The least gap of some valves to their pistons, by their places in the list, against what is allowed."""
    kinds = {world.parts.valves[number].kind for number in valves}
    found = [clearance(world.but(taken_off=frozenset()), LEAST_MM[kind], kind) for kind in sorted(kinds)]
    return Truth.OUT if Truth.OUT in found else Truth.NEAR if Truth.NEAR in found or not found else Truth.IN


def sprockets(world: World) -> Truth:
    """Both sprocket faces against each other."""
    line = world.parts.sprockets
    return held(abs(line.driven_mm - line.driver_mm - line.offset_mm), None, line.tolerance_mm, 0.05)


def marks(world: World) -> Truth:
    """Whether the cam stands by its keys: a dot that is wrong decides nothing."""
    return Truth.OUT if world.state.teeth_off else Truth.IN


def clearance(world: World, least_mm: float, kind: str) -> Truth:
    """The least gap of a valve of the first cylinder over a whole turn of the cam, against what is allowed."""
    found = min(geometry.gap_mm(world.but(crank_deg=720.0 + deg, lag_deg=0.0), kind) for deg in range(-60, 61))
    return held(found, least_mm, None, 0.2)


def phase(world: World, tolerance_deg: float = 1.0) -> Truth:
    """How late the cam stands against its card."""
    late = world.state.crank_deg + world.state.lag_deg - world.cam_deg
    return held(abs(late), None, tolerance_deg, 0.5)
