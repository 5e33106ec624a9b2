"""The made-up engine as a drawing, to scale from its geometry, and what a page needs to turn it.

The drawing has no figure of the truth written in it: a wheel, a needle and a piston stand where they stand, and the eye reads them.
"""

from dataclasses import replace
from typing import Any

from uranograph.charts.pen import Figure, Pen, Point, polar
from uranograph.world import geometry
from uranograph.world.state import World

WIDTH, HEIGHT = 742.0, 580.0
WHEEL: Point = (214.0, 330.0)
RIM, HUB = 176.0, 40.0
CAM_GEAR: Point = (214.0, 104.0)
CRANK: Point = (486.0, 440.0)
THROW = 40.0
DIAL: Point = (646.0, 146.0)
LOBE: Point = (646.0, 440.0)
BASE_PX, PX_PER_MM = 34.0, 5.5
LOUPE: Point = (84.0, 484.0)
LOUPE_R, LOUPE_TIMES = 66.0, 3.2
# Steps of the table of lift by crank angle, degrees.
LIFT_STEP = 0.5
# Acts after which lobes stand otherwise against the crank.
MOVES_THE_CAM = ("position", "teeth", "tappets", "fit-gear", "off", "on")
# What a dial can stand on.
DIAL_ON = {"intake": "intake lifter", "exhaust": "exhaust lifter", "piston": "piston"}


def scene(world: World) -> Figure:
    """The engine from its front, a cylinder cut open, a lifter on its lobe, the dial, and a loupe at the pointer.

    Parameters
    ----------
    world
        The engine; everything that turns is drawn as with the wheel's own TDC at the pointer, and turned by the page.

    Returns
    -------
    Figure
        742 by 580; groups that move carry ids.
    """
    pen = Pen()
    pen.text((22, 42), "The engine", "title", "start")
    _gear(pen, world)
    pen.begin('id="wheel"')
    _wheel(pen, world)
    pen.end()
    pen.begin('id="handle"')
    pen.line(WHEEL, (WHEEL[0], WHEEL[1] - RIM + 34), "handle-line")
    pen.circle((WHEEL[0], WHEEL[1] - RIM + 34), 13, "handle-grip")
    pen.end()
    pen.circle(WHEEL, HUB - 14, "ink-shape")
    _pointer(pen)
    _cylinder(pen, world)
    _lifter(pen)
    _dial(pen)
    _loupe(pen)
    return pen.figure(WIDTH, HEIGHT, "The made-up engine: wheel and pointer, piston, lifter and dial.", "engine-scene")


def _gear(pen: Pen, world: World) -> None:
    teeth = world.parts.mesh.cam_teeth
    points = []
    for k in range(teeth):
        for share, radius in ((-0.3, 48), (-0.14, 54), (0.14, 54), (0.3, 48)):
            points.append(polar(CAM_GEAR, radius, (k + share) * 360 / teeth))
    pen.begin('id="cam-gear"')
    pen.path("M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in points) + "Z", "gear")
    for deg in (60, 180, 300):
        pen.circle(polar(CAM_GEAR, 26, deg), 5, "ink")
    pen.circle(CAM_GEAR, 9, "ink")
    pen.circle(polar(CAM_GEAR, 44, 180), 2.4, "gear-mark")
    pen.end()
    pen.text((CAM_GEAR[0] + 64, CAM_GEAR[1] - 20), "cam gear", "small", "start")


def numbers(scale: str, deg: int) -> str:
    """What a wheel has printed at so many degrees after its TDC mark, up to 360.

    Examples
    --------
    >>> numbers("half", 200), numbers("quarter", 100), numbers("full", 200)
    ('160', '80', '200')
    """
    if scale == "full":
        return str(deg % 360)
    half = min(deg % 360, 360 - deg % 360)
    return str(half if scale == "half" else min(half, 180 - half))


def _wheel(pen: Pen, world: World) -> None:
    wheel = world.state.wheel
    # Numbers that rise against the turning show degrees after TDC as they come; a wheel turned round has them the other way.
    way = 1 if wheel.mirrored else -1
    pen.circle(WHEEL, RIM, "wheel-face")
    for half_deg in range(0, 720, 1 if wheel.division_deg == 0.5 else 2):
        deg = half_deg / 2
        long = 14 if deg % 10 == 0 else 10 if deg % 5 == 0 else 6 if deg % 1 == 0 else 4
        at = way * deg
        pen.line(polar(WHEEL, RIM - long, at), polar(WHEEL, RIM, at), "wheel-line" if long > 9 else "wheel-tick")
    for deg in range(0, 360, 10):
        at = way * deg
        named = {0: "TDC", 180: "BDC"}.get(deg, numbers(wheel.scale, deg))
        if len(named) == 3 and named.isdecimal() and deg % 20:
            # Three figures every ten degrees would join.
            continue
        x, y = polar(WHEEL, RIM - 26, at)
        pen.text((x, y + 4), named, "wheel-name" if named.isalpha() else "wheel-number", "middle", at)


def _pointer(pen: Pen) -> None:
    tip = (WHEEL[0], WHEEL[1] - RIM + 3)
    pen.path(f"M64 118Q{WHEEL[0] - 34} 100 {tip[0]} {tip[1] - 12}", "pointer-wire")
    pen.path(f"M{tip[0]} {tip[1]}L{tip[0] - 4} {tip[1] - 15}L{tip[0] + 4} {tip[1] - 15}Z", "pointer")
    pen.circle((64, 118), 6, "ink-shape")
    pen.text((54, 100), "pointer", "small", "middle")


def _cylinder(pen: Pen, world: World) -> None:
    x, top = CRANK[0], CRANK[1] - THROW - _rod_px(world) - 26
    for side in (-38, 38):
        pen.line((x + side, top - 34), (x + side, CRANK[1] - THROW - 6), "ink")
    for start, end in ((-38, -9), (9, 38)):
        pen.line((x + start, top - 34), (x + end, top - 34), "ink")
    pen.begin('id="stop"')
    pen.rect(x - 8, top - 60, 16, 60, "ink-shape")
    pen.end()
    pen.begin('id="piston"')
    pen.rect(x - 36, top, 72, 40, "ink-shape")
    for line in (8, 14):
        pen.line((x - 36, top + line), (x + 36, top + line), "hair")
    pen.circle((x, top + 26), 5, "ink")
    pen.end()
    pen.circle(CRANK, THROW, "hair")
    for name in ("rod", "throw"):
        pen.begin(f'id="{name}"')
        pen.line(CRANK, CRANK, "rod-line")
        pen.end()
    pen.circle(CRANK, 8, "ink-shape")
    pen.text((x, CRANK[1] + THROW + 22), "cylinder 1", "small")


def _rod_px(world: World) -> float:
    return THROW * 2 * world.parts.rod_mm / world.parts.stroke_mm


def _lifter(pen: Pen) -> None:
    pen.begin('id="lobe"')
    pen.path("M0 0", "ink-curve")
    pen.circle(LOBE, 3.5, "ink")
    pen.end()
    pen.begin('id="lifter"')
    pen.rect(LOBE[0] - 20, LOBE[1] - BASE_PX - 46, 40, 46, "ink-shape")
    pen.line((LOBE[0], LOBE[1] - BASE_PX - 46), (LOBE[0], DIAL[1] + 60), "ink-curve")
    pen.end()
    for side in (-24, 24):
        pen.line((LOBE[0] + side, LOBE[1] - BASE_PX - 74), (LOBE[0] + side, LOBE[1] - BASE_PX - 20), "hair")


def _dial(pen: Pen) -> None:
    pen.circle(DIAL, 64, "wheel-face")
    for k in range(100):
        long = 10 if k % 10 == 0 else 6 if k % 5 == 0 else 4
        pen.line(polar(DIAL, 62 - long, 3.6 * k), polar(DIAL, 62, 3.6 * k), "ink" if k % 10 == 0 else "tick")
    for k in range(0, 100, 10):
        x, y = polar(DIAL, 43, 3.6 * k)
        pen.text((x, y + 4), str(k), "wheel-number")
    small = (DIAL[0], DIAL[1] + 20)
    pen.circle(small, 13, "hair")
    for k in range(10):
        pen.line(polar(small, 10, 36 * k), polar(small, 13, 36 * k), "tick")
    pen.begin('id="small-hand"')
    pen.line(small, (small[0], small[1] - 11), "ink-curve")
    pen.end()
    pen.begin('id="needle"')
    pen.line((DIAL[0], DIAL[1] + 14), (DIAL[0], DIAL[1] - 52), "needle")
    pen.end()
    pen.circle(DIAL, 4, "gear-mark")
    pen.text((DIAL[0], DIAL[1] - 76), "0.01 mm; small hand 1 mm", "small")


def _loupe(pen: Pen) -> None:
    x, y = LOUPE
    pen.circle(LOUPE, LOUPE_R, "wheel-face")
    pen.begin('clip-path="url(#loupe-clip)"')
    moved = (x - LOUPE_TIMES * WHEEL[0], y - LOUPE_TIMES * (WHEEL[1] - RIM + 16))
    pen.begin(f'transform="translate({moved[0]:.1f} {moved[1]:.1f}) scale({LOUPE_TIMES:g})"')
    pen.begin('href="#wheel"', "use")
    pen.end("use")
    pen.end()
    pen.path(f"M{x} {y - 48}L{x - 5} {y - 66}L{x + 5} {y - 66}Z", "pointer")
    pen.line((x, y - 50), (x, y - 20), "pointer-hair")
    pen.end()
    pen.circle(LOUPE, LOUPE_R, "ink-curve")
    pen.begin('id="loupe-clip"', "clipPath")
    pen.circle(LOUPE, LOUPE_R, "clip")
    pen.end("clipPath")
    pen.text((x, y + LOUPE_R + 20), "what the eye sees", "small")


def lifts(world: World, lobe: str) -> list[float]:
    """Lift of a lobe of the first cylinder by crank angle over a cycle, mm: every half degree, slack taken up forward."""
    own, at_zero = world.parts.lobes[lobe], world.but(crank_deg=0.0, lag_deg=0.0)
    short = own.lift_mm - _greatest(at_zero, lobe)
    behind = at_zero.cam_deg
    return [round(max(0.0, own.lift(k * LIFT_STEP + behind) - short), 4) for k in range(round(720 / LIFT_STEP))]


def _greatest(world: World, lobe: str) -> float:
    """The lift that a dial on the lifter of a lobe sees at the most, mm: less than the lobe's where a lifter bleeds."""
    peak = world.parts.lobes[lobe].peak_deg - world.cam_deg
    return world.but(crank_deg=peak).lift_mm(lobe)


def turning(world: World, whole: bool = True) -> dict[str, Any]:
    """What a page needs to turn the engine by itself: geometry, and how everything stands now.

    Parameters
    ----------
    world
        The engine.
    whole
        With `lifts` of its lobes; they stay as they are while it is only turned.

    Returns
    -------
    dict
        Angles in crank degrees, lengths in mm; `lifts` by lobe.
    """
    state, parts = world.state, world.parts
    half = geometry.stop_half_deg(world)
    return {
        "crank": round(state.crank_deg, 4),
        "lag": round(state.lag_deg, 4),
        "slack": parts.slack_deg,
        "stop": None if half is None else round(half, 4),
        "stop_mm": state.stop_depth_mm,
        "held": bool(state.pinned),
        # How the wheel stands now, and how its marks run out of true.
        "wheel": [geometry.wheel_shows(_facing(world)), state.wheel.off_center_deg, state.wheel.high_deg],
        "stroke": parts.stroke_mm,
        "rod": parts.rod_mm,
        "dial": {"on": state.dial.on, "zero": state.dial.zero_mm, "lean": state.dial.lean},
        **({"lifts": {lobe: lifts(world, lobe) for lobe in parts.lobes}} if whole else {}),
        "step": LIFT_STEP,
        "position": state.position,
        "positions": list(parts.adjuster.positions),
        "solid": state.solid_tappets,
        "harm": list(state.harm),
    }


def _facing(world: World) -> World:
    """The same with the wheel as it turns, whichever way its numbers run."""
    return world.but(wheel=replace(world.state.wheel, mirrored=False))
