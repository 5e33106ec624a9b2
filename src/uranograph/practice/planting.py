"""Engines of the exercises: drawn by a seed, with what is to be found planted in them."""

import random
from dataclasses import replace

from uranograph.world import geometry
from uranograph.world.made import made
from uranograph.world.parts import Adjuster, Fit, Shaft, Thrust, Valve
from uranograph.world.state import DialMount, WheelMount, World

# Keyways every two degrees; a slot every one.
KEYWAYS = {("0" if k == 0 else f"{'A' if k > 0 else 'R'}{abs(k)}"): float(k) for k in range(-8, 9, 2)}
SLOT = {("0" if k == 0 else f"{'A' if k > 0 else 'R'}{abs(k)}"): float(k) for k in range(-10, 11)}
# Where the cam's key belongs with the crank at the firing TDC, degrees clockwise from straight up.
CAM_KEY_DEG = 118.0
# How far a valve that meets its piston would go into it, mm.
MEETS_MM = 0.3
# Faults of a lobe, a drive or a set-up that can be named from readings of wheel and dial.
NAMED = {
    "tooth-off": "the cam is a tooth off",
    "cam-late": "the cam is late or early in its drive, by less than a tooth",
    "bleeding": "a lifter bleeds down",
    "wheel-mirrored": "the wheel's numbers run the other way",
    "uneven-lobes": "the lobes are uneven",
    "slack": "more than two degrees of slack in the drive",
}
SLACK_DEG = 2.6


def four(seed: int, faults: tuple[str, ...] = ()) -> World:
    """A four-cylinder with gears, its wheel well mounted, 150 degrees after its overlap TDC.

    Parameters
    ----------
    seed
        The same seed is the same engine.
    faults
        Of the world's own; see `made`.

    Examples
    --------
    >>> four(3) == four(3), len(four(3).parts.order)
    (True, 4)
    """
    world = made(seed, faults, chain=False, cylinders=4)
    wheel = WheelMount(0.0, "half", False, 1.0, 0.05, 0.0)
    parts = replace(world.parts, ratchet=False, rotation="clockwise", slack_deg=0.8)
    return replace(world, parts=parts).but(wheel=wheel, dial=DialMount("intake"), crank_deg=720.0 + 150)


def wheel_off(world: World, deg: float) -> World:
    """The same, its wheel showing so many degrees after at true TDC."""
    return world.but(wheel=replace(world.state.wheel, zero_deg=deg))


def late(world: World, deg: float) -> World:
    """The same, its cam so late."""
    return world.but(late_deg=deg)


def with_positions(world: World, kind: str, cam_degrees: bool = False) -> World:
    """An engine with an adjuster of a kind, fitted at its zero."""
    positions = SLOT if kind == "slot" else KEYWAYS
    adjuster = Adjuster(kind, positions, "0", cam_degrees, kind != "slot")
    return replace(world, parts=replace(world.parts, adjuster=adjuster)).but(position="0")


def slack(world: World, deg: float) -> World:
    """The same with so much slack in its drive, crank degrees."""
    return replace(world, parts=replace(world.parts, slack_deg=deg))


def askew(world: World, lean: float) -> World:
    """The same with a dial on its piston that leans from the line of travel."""
    return world.but(dial=replace(world.state.dial, on="piston", lean=lean))


def mirrored(world: World) -> World:
    """The same, its wheel turned round."""
    return world.but(wheel=replace(world.state.wheel, mirrored=True, scale="full"))


def measured_by(world: World, on: str) -> World:
    """The same with the dial on something, the crank at overlap TDC."""
    return world.but(dial=DialMount(on), crank_deg=720.0, wheel=replace(world.state.wheel, off_center_deg=0.0))


def thick_faces(seed: int) -> World:
    """A cam whose thrust faces are too thick: less play than is allowed."""
    world = measured_by(four(seed), "cam-end")
    short = random.Random(f"faces {seed}").choice((0.03, 0.04, 0.05))
    cam = Thrust(0.08 - short, 0.9, 0.08, 0.16, way="faces", spare_mm=0.2)
    return replace(world, parts=replace(world.parts, thrusts={**world.parts.thrusts, "cam": cam}))


def by_heat(seed: int) -> World:
    """A cam gear that goes on hot; somebody heated it once already, not hot enough."""
    r = random.Random(f"heat {seed}")
    fit = Fit(float(r.choice((30, 32, 36))), r.choice((0.03, 0.035, 0.04)), 0.02, 11.7e-6, 230.0, keyed=True, bolts=0)
    world = four(seed)
    cool = 20 + 0.8 * fit.needed_c
    parts = replace(world.parts, fit=fit)
    return replace(world, parts=parts).but(gear_on=False, gear_home=False, gear_c=cool, heated_s=0.0)


def gears_at_marks(seed: int, idler: bool, faults: tuple[str, ...] = ()) -> World:
    """Gears with marks, 40 degrees before the firing TDC at which they meet."""
    world = four(seed, faults)
    teeth = random.Random(f"gears {seed}").choice((18, 20, 22))
    mesh = replace(world.parts.mesh, crank_teeth=teeth, cam_teeth=2 * teeth, idler_teeth=27 if idler else 0)
    return replace(world, parts=replace(world.parts, mesh=mesh)).but(crank_deg=360.0 - 40)


def slipped(seed: int) -> World:
    """A crank gear that slipped on its seat by part of a tooth: its marks still meet the cam gear's."""
    world = gears_at_marks(seed, idler=False)
    r = random.Random(f"slipped {seed}")
    by = r.choice((-1, 1)) * (r.choice((0.4, 0.6)) * world.parts.mesh.tooth_deg)
    pressed = replace(world, parts=replace(world.parts, fit=replace(world.parts.fit, keyed=False)))
    return pressed.but(gear_slipped_deg=by, dial=DialMount("piston"))


def near_valve(seed: int) -> World:
    """One valve of the first cylinder that comes too near its piston; the rockers are off."""
    world = measured_by(four(seed), "intake-valve")
    r = random.Random(f"valve {seed}")
    struck = r.choice(("intake", "exhaust"))
    first = world.parts.order[0]
    found = []
    for valve in world.parts.valves:
        lobe = world.parts.lobes[valve.kind]
        reach = max(lobe.lift(deg) - geometry.drop_mm(world.parts, deg) for deg in range(-40, 41))
        gap = reach - MEETS_MM if valve.kind == struck else reach + 6.0
        found.append(Valve(valve.cylinder, valve.kind, 0.0, gap if valve.cylinder == first else 9.0, 0.0))
    return replace(world, parts=replace(world.parts, valves=tuple(found))).but(
        taken_off=frozenset({"rockers"}), crank_deg=720.0 - 60
    )


def drawn_faults(seed: int, count: int) -> tuple[str, ...]:
    """Which faults a free engine has by its seed, by their names in `NAMED`."""
    r = random.Random(f"faults {seed} {count}")
    kinds = r.sample(sorted(NAMED), 4)
    # A tooth off and a cam that is late besides are one thing to whoever reads it.
    if "tooth-off" in kinds[:count] and "cam-late" in kinds[:count]:
        kinds.remove("cam-late")
    return tuple(sorted(kinds[:count]))


def with_faults(seed: int, faults: tuple[str, ...]) -> World:
    """An engine with some of `NAMED`, ready to be degreed from the wheel on."""
    world = four(seed, tuple(each for each in faults if each != "slack"))
    off = random.Random(f"wheel {seed}").uniform(1.5, 4.0)
    world = wheel_off(world, off)
    if "wheel-mirrored" in faults:
        world = mirrored(world)
    if "cam-late" not in faults:
        world = late(world, 0.1)
    return slack(world, SLACK_DEG) if "slack" in faults else world


def bent(seed: int) -> World:
    """A crank whose gear seat runs out, most of it bend."""
    world = measured_by(four(seed), "seat")
    seat = Shaft(0.12, random.Random(f"bent {seed}").uniform(0, 360), 0.006, 40.0)
    return replace(world, parts=replace(world.parts, seat=seat))
