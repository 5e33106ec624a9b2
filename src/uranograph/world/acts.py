"""What a hand does to a made-up engine, and what comes of it."""

import random
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from enum import StrEnum
from types import MappingProxyType

from uranograph.world import geometry
from uranograph.world.parts import Shaft
from uranograph.world.state import AMBIENT_C, World


class Consequence(StrEnum):
    """What came of an act besides what was meant."""

    STOPPED_BY_STOP = "stopped-by-stop"
    STOPPED_BY_PIN = "stopped-by-pin"
    STOPPED_BY_VALVE = "stopped-by-valve"
    TOOTH_JUMPED = "tooth-jumped"
    BENT = "bent"
    WHEEL_ZERO_LOST = "wheel-zero-lost"
    STUCK_HALF_WAY = "stuck-half-way"
    SPOILED_BY_HEAT = "spoiled-by-heat"
    METAL_GONE = "metal-gone"
    STRETCHED = "stretched"


@dataclass(frozen=True)
class Act:
    """One thing done: its kind, on what, by how much, and whether it is forced."""

    kind: str
    on: str = ""
    by: float = 0.0
    forced: bool = False


Outcome = tuple[World, tuple[Consequence, ...]]


def act(world: World, done: Act) -> Outcome:
    """Do something.

    Parameters
    ----------
    world
        As it stands.
    done
        Its kind is one of `KINDS`.

    Returns
    -------
    tuple
        The world after it, and what came of it.

    Raises
    ------
    KeyError
        When there is no such act.

    Examples
    --------
    >>> from uranograph.world.made import made
    >>> stopped, came = act(made(1).but(crank_deg=690.0, stop_depth_mm=10.0), Act("turn", by=60))
    >>> came[0].value, stopped.state.crank_deg < 720
    ('stopped-by-stop', True)
    """
    return _DONE[done.kind](world, done)


def _luck(world: World, *what: object) -> random.Random:
    return random.Random(f"{world.seed}/{what}/{world.state.now_s:.0f}/{world.state.crank_deg:.2f}")


def _turn(world: World, done: Act) -> Outcome:
    """Turn the crank by so many degrees, forward positive: the cam follows once the slack is taken up."""
    state, parts = world.state, world.parts
    if state.pinned:
        if not done.forced:
            return world, (Consequence.STOPPED_BY_PIN,)
        return world.harmed("bent-pin"), (Consequence.BENT,)
    to = state.crank_deg + done.by
    came: list[Consequence] = []
    contact = geometry.stop_contact(world, to)
    if contact is not None:
        if done.forced:
            return world.harmed("bent-stop"), (Consequence.BENT,)
        to = contact
        came.append(Consequence.STOPPED_BY_STOP)
    by = to - state.crank_deg
    lag = min(parts.slack_deg, max(0.0, state.lag_deg - by))
    turned = world.but(crank_deg=to, lag_deg=lag)
    if by < -5 and parts.ratchet and "tensioner" not in state.taken_off and _luck(world, "ratchet").random() < 0.3:
        turned, came = turned.but(teeth_off=state.teeth_off + 1), [*came, Consequence.TOOTH_JUMPED]
    touched = geometry.valve_contact(world, turned)
    if touched is not None:
        if done.forced:
            return turned.harmed("bent-valve"), (*came, Consequence.BENT)
        turned, came = world.but(crank_deg=touched), [*came, Consequence.STOPPED_BY_VALVE]
    return turned, tuple(came)


def _stop(world: World, done: Act) -> Outcome:
    """Screw a piston stop in so far below the top of travel, mm, or out where it is 0."""
    return world.but(stop_depth_mm=done.by or None), ()


def _dial(world: World, done: Act) -> Outcome:
    """Put the dial on something, its zero where it stands now; a thickness is measured from the anvil."""
    zero = 0.0 if geometry.is_thickness(done.on) else geometry.under_dial(world, done.on)
    return world.but(dial=replace(world.state.dial, on=done.on, zero_mm=zero)), ()


def _zero_dial(world: World, done: Act) -> Outcome:
    dial = world.state.dial
    return world.but(dial=replace(dial, zero_mm=geometry.under_dial(world, dial.on))), ()


def _pointer(world: World, done: Act) -> Outcome:
    """Move the pointer or wheel so that it shows so many degrees more."""
    wheel = world.state.wheel
    return world.but(wheel=replace(wheel, zero_deg=wheel.zero_deg + done.by)), ()


def _refitted(world: World) -> World:
    wheel = world.state.wheel
    off = _luck(world, "wheel").uniform(-4, 4)
    return world.but(wheel=replace(wheel, zero_deg=wheel.zero_deg + off))


def _position(world: World, done: Act) -> Outcome:
    """Set the adjuster to another position; at the crank gear the wheel comes off with it."""
    parts, state = world.parts, world.state
    adjuster = parts.adjuster
    true = 2.0 if adjuster.cam_degrees else 1.0
    shift = true * (adjuster.positions[done.on] - adjuster.positions[state.position])
    lands = {"slot": 0.25, "bushing": 0.1}.get(adjuster.kind, 0.05)
    moved = world.but(late_deg=state.late_deg - shift + _luck(world, done.on).gauss(0, lands), position=done.on)
    return (_refitted(moved), (Consequence.WHEEL_ZERO_LOST,)) if adjuster.at_crank else (moved, ())


def _teeth(world: World, done: Act) -> Outcome:
    """Turn the cam gear by whole teeth, later positive."""
    return world.but(teeth_off=world.state.teeth_off + round(done.by)), ()


def _off(world: World, done: Act) -> Outcome:
    gone = world.but(taken_off=world.state.taken_off | {done.on})
    if done.on == "crank-gear":
        return _refitted(gone), (Consequence.WHEEL_ZERO_LOST,)
    return gone, ()


def _on(world: World, done: Act) -> Outcome:
    return world.but(taken_off=world.state.taken_off - {done.on}), ()


def _pin(world: World, done: Act) -> Outcome:
    return world.but(pinned=world.state.pinned | {done.on}), ()


def _unpin(world: World, done: Act) -> Outcome:
    return world.but(pinned=world.state.pinned - {done.on}), ()


def _wait(world: World, done: Act) -> Outcome:
    """Let so many seconds go by."""
    return world.but(now_s=world.state.now_s + done.by), ()


def _heat(world: World, done: Act) -> Outcome:
    """Heat the gear to so many degrees: past what its material bears it is spoiled."""
    heated = world.but(gear_c=done.by, heated_s=world.state.now_s)
    if done.by > world.parts.fit.limit_c:
        return heated.harmed("gear-spoiled"), (Consequence.SPOILED_BY_HEAT,)
    return heated, ()


def _fit_gear(world: World, done: Act) -> Outcome:
    """Put the gear on its shaft: too cool, it grips half way."""
    over = world.gear_now_c - AMBIENT_C
    if over >= world.parts.fit.needed_c - 1e-9:
        return world.but(gear_on=True, gear_home=True, taken_off=world.state.taken_off - {"cam-gear"}), ()
    return world.but(gear_on=True, gear_home=False).harmed("gear-stuck"), (Consequence.STUCK_HALF_WAY,)


def _sand(world: World, done: Act) -> Outcome:
    """Take so much off one thrust face of a shaft, mm, `cam-front` or `cam-rear`: it never comes back."""
    state = world.state
    on = done.on.partition("-")[0]
    thrust = world.parts.thrusts[on]
    faces = {**state.faces_mm, done.on: state.faces_mm.get(done.on, 0.0) + done.by}
    gone = sum(each for face, each in faces.items() if face.partition("-")[0] == on)
    play = state.plays_mm.get(on, thrust.play_mm) + done.by
    sanded = world.but(faces_mm=faces, plays_mm={**state.plays_mm, on: play})
    if play > thrust.most_mm or gone > thrust.spare_mm:
        return sanded.harmed("face-too-thin"), (Consequence.METAL_GONE,)
    return sanded, ()


def _shim(world: World, done: Act) -> Outcome:
    """Change shims so that the play grows by so much, mm."""
    plays = world.state.plays_mm
    now = plays.get(done.on, world.parts.thrusts[done.on].play_mm)
    return world.but(plays_mm={**plays, done.on: now + done.by}), ()


def _true_shaft(world: World, done: Act) -> Outcome:
    """True the crank: a tenth of its bend is left, out-of-round stays."""
    return world.but(runout_left=0.1), ()


def _torque(world: World, done: Act) -> Outcome:
    """Pull a bolt to its last stage; a second time past yield stretches it where it is of that kind."""
    number = int(done.on)
    times = [*world.state.torqued, *([0] * (number - len(world.state.torqued)))]
    times[number - 1] += 1
    pulled = world.but(torqued=tuple(times))
    if times[number - 1] > 1 and world.parts.fit.stretches:
        return pulled.but(stretched=True).harmed("bolt-stretched"), (Consequence.STRETCHED,)
    return pulled, ()


def _exchange_gear(world: World, done: Act) -> Outcome:
    """Another cam gear, round and of the right size; it goes on where the old one was."""
    mesh, r = world.parts.mesh, _luck(world, "gear")
    sound = replace(
        mesh, backlash_mm=(mesh.least_mm + mesh.most_mm) / 2, cam_gear=Shaft(r.uniform(0.002, 0.01), r.uniform(0, 360))
    )
    fresh = world.but(gear_home=True, gear_slipped_deg=0.0)
    return replace(fresh, parts=replace(world.parts, mesh=sound)), ()


def _clear_lobes(world: World, done: Act) -> Outcome:
    """Relieve case or lifter bores until every lobe has so much room, mm."""
    valves = tuple(replace(each, room_mm=max(each.room_mm, done.by)) for each in world.parts.valves)
    return replace(world, parts=replace(world.parts, valves=valves)), ()


def _relieve_pistons(world: World, done: Act) -> Outcome:
    """Cut the valve pockets deeper, or fit a thicker head gasket: every valve has so much more room, mm."""
    valves = tuple(replace(each, gap_mm=each.gap_mm + done.by) for each in world.parts.valves)
    return replace(world, parts=replace(world.parts, valves=valves)), ()


def _shim_sprocket(world: World, done: Act) -> Outcome:
    """Shim the cam sprocket forward by so much, mm."""
    line = world.parts.sprockets
    return replace(world, parts=replace(world.parts, sprockets=replace(line, driven_mm=line.driven_mm + done.by))), ()


def _lever(world: World, done: Act) -> Outcome:
    """Push a shaft along, or rock a gear: 0 fully back, 1 fully forward."""
    return world.but(lever=max(0.0, min(1.0, done.by))), ()


def _tappets(world: World, done: Act) -> Outcome:
    """Solid stand-ins in, or the engine's own again."""
    return world.but(solid_tappets=done.on == "solid"), ()


_DONE: Mapping[str, Callable[[World, Act], Outcome]] = MappingProxyType(
    {
        "turn": _turn,
        "stop": _stop,
        "dial": _dial,
        "zero-dial": _zero_dial,
        "pointer": _pointer,
        "position": _position,
        "teeth": _teeth,
        "off": _off,
        "on": _on,
        "pin": _pin,
        "unpin": _unpin,
        "wait": _wait,
        "heat": _heat,
        "fit-gear": _fit_gear,
        "sand": _sand,
        "shim": _shim,
        "true-shaft": _true_shaft,
        "torque": _torque,
        "tappets": _tappets,
        "lever": _lever,
        "exchange-gear": _exchange_gear,
        "clear-lobes": _clear_lobes,
        "relieve-pistons": _relieve_pistons,
        "shim-sprocket": _shim_sprocket,
    }
)
KINDS = tuple(_DONE)
