"""Where things stand and touch in a made-up engine."""

import math
from dataclasses import dataclass

from uranograph.core.piston import Crank, PistonAt, half_angle_at_drop, piston
from uranograph.world.parts import Parts
from uranograph.world.state import World

# Steps in which a turn is looked through for a valve that meets a piston, crank degrees.
STEP_DEG = 2.0
TURN_DEG = 360.0


def drop_mm(parts: Parts, crank_deg: float) -> float:
    """How far the first piston stands below the top of its travel, mm.

    Examples
    --------
    >>> from uranograph.world.made import made
    >>> drop_mm(made(1).parts, 720.0), drop_mm(made(1).parts, 90.0) > 0
    (0.0, True)
    """
    angle = (crank_deg + 180) % 360 - 180
    return piston(PistonAt(stroke_mm=parts.stroke_mm, rod_mm=parts.rod_mm, angle_deg=angle)).drop_mm


def stop_half_deg(world: World) -> float | None:
    """Half the crank angle that the stop keeps the piston out of, degrees; None where there is no stop."""
    depth = world.state.stop_depth_mm
    if depth is None:
        return None
    return half_angle_at_drop(Crank(stroke_mm=world.parts.stroke_mm, rod_mm=world.parts.rod_mm), depth)


def stop_contact(world: World, to_deg: float) -> float | None:
    """The crank angle at which the stop is met on the way to another, degrees; None where it is not."""
    half = stop_half_deg(world)
    if half is None:
        return None
    now = world.state.crank_deg
    # Between two tops, the crank is free from `half` after one to `half` before the next.
    top = 360 * math.floor((now - half) / 360 + 1e-9)
    low, high = top + half, top + 360 - half
    if to_deg > high:
        return high
    return low if to_deg < low else None


def gap_mm(world: World, kind: str) -> float:
    """Least distance between a valve of the first cylinder and its piston as they stand now, mm."""
    valve = next(each for each in world.parts.valves if each.cylinder == world.parts.order[0] and each.kind == kind)
    along = drop_mm(world.parts, world.state.crank_deg) * math.cos(math.radians(valve.angle_deg))
    near = abs((world.state.crank_deg + 360) % 720 - 360) < 180
    return valve.gap_mm + along - (world.lift_mm(kind) if near and "rockers" not in world.state.taken_off else 0.0)


def valve_contact(before: World, after: World) -> float | None:
    """The crank angle before which a valve would meet a piston on the way, degrees; None where none does."""
    start, end = before.state.crank_deg, after.state.crank_deg
    steps = max(1, math.ceil(abs(end - start) / STEP_DEG))
    for k in range(1, steps + 1):
        at = start + (end - start) * k / steps
        # Only near a top is a valve near a piston.
        if abs((at + 180) % 360 - 180) > 60:
            continue
        there = after.but(crank_deg=at)
        if min(gap_mm(there, kind) for kind in ("intake", "exhaust")) < 0:
            return start + (end - start) * (k - 1) / steps
    return None


def is_thickness(on: str) -> bool:
    """Whether what a dial stands on is a thrust face between its anvil and its plunger."""
    return on.endswith(("-front", "-rear"))


def under_dial(world: World, on: str) -> float:
    """What the plunger of a dial on something is pushed to, mm.

    Parameters
    ----------
    world
        The engine.
    on
        A lobe, of another cylinder with its number such as `3-intake`; `piston`; `seat`, of the crank gear; `crank-end` or
        `cam-end`; `cam-front` or `cam-rear`, a thrust face; `tooth`, of the cam gear; `intake-valve` or `exhaust-valve`, pushed
        open by hand. Anything else is 0.
    """
    state, parts = world.state, world.parts
    if on in parts.lobes:
        return world.lift_mm(on)
    if on == "piston":
        return -drop_mm(parts, state.crank_deg)
    if on == "seat":
        return parts.seat.at(state.crank_deg, state.runout_left)
    shaft, _, what = on.partition("-")
    if what in parts.lobes and shaft.isdecimal() and int(shaft) in parts.order:
        return world.lift_mm(what, int(shaft))
    if what == "end":
        thrust = parts.thrusts[shaft]
        free = f"{shaft}-limits" in state.taken_off
        return state.lever * (thrust.float_mm if free else state.plays_mm.get(shaft, thrust.play_mm))
    if what in ("front", "rear"):
        return parts.thrusts[shaft].face_mm - state.faces_mm.get(on, 0.0)
    if what == "valve":
        return state.lever * max(0.0, gap_mm(world, shaft))
    if on == "tooth":
        return state.lever * parts.mesh.backlash_at(state.crank_deg / 2)
    return 0.0


@dataclass(frozen=True)
class GearAt:
    """A gear as it stands: clockwise degrees that it and its marks are turned from the assembly position, and how it turns.

    Attributes
    ----------
    name
        `crank`, `idler` or `cam`.
    teeth
        Its teeth.
    deg
        How far it is turned, clockwise from the front.
    ratio
        Its turns to one of the crank, clockwise positive.
    """

    name: str
    teeth: int
    deg: float
    ratio: float


def gears(world: World) -> tuple[GearAt, ...]:
    """The gears of the drive from the crank up, as seen from the front of an engine that runs clockwise.

    At the firing TDC of the first cylinder all marks of a sound engine are on the lines of centers.
    """
    mesh, state = world.parts.mesh, world.state
    crank = state.crank_deg - TURN_DEG - state.gear_slipped_deg
    train = [GearAt("crank", mesh.crank_teeth, crank, 1.0)]
    if mesh.idler_teeth:
        ratio = -mesh.crank_teeth / mesh.idler_teeth
        train.append(GearAt("idler", mesh.idler_teeth, ratio * crank, ratio))
    ratio = (1 if mesh.idler_teeth else -1) * mesh.crank_teeth / mesh.cam_teeth
    cam = ratio * (world.cam_deg + state.late_deg - TURN_DEG)
    train.append(GearAt("cam", mesh.cam_teeth, cam, ratio))
    return tuple(train)


def wheel_shows(world: World) -> float:
    """What the wheel shows now, signed crank degrees about its own TDC mark, after positive.

    Marks that are off center are wrong once a turn.
    """
    wheel = world.state.wheel
    true = world.state.crank_deg
    shown = true + wheel.zero_deg + wheel.off_center_deg * math.sin(math.radians(true + wheel.high_deg))
    shown = (shown + 180) % 360 - 180
    return -shown if wheel.mirrored else shown
