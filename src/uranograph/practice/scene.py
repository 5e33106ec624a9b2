"""The made-up engine as a drawing, to scale from its geometry, and what a page needs to turn it.

The drawing has no figure of the truth written in it: a wheel, a needle and a piston stand where they stand, and the eye reads them.
"""

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import Any

from uranograph.charts.pen import Figure, Pen
from uranograph.practice import drawing_gears, drawing_heat, drawing_parts, drawing_wheel
from uranograph.practice.exercises import View
from uranograph.world import geometry
from uranograph.world.state import World

WIDTH, HEIGHT = 742.0, 580.0
# Steps of the table of lift by crank angle, degrees.
LIFT_STEP = 0.5
# Acts after which lobes stand otherwise against the crank.
MOVES_THE_CAM = ("position", "teeth", "tappets", "fit-gear", "off", "on")


def scene(world: World, view: View = View.WHEEL) -> Figure:
    """The engine from its front, a cylinder cut open, a lifter on its lobe, the dial; or a gear that is heated.

    Parameters
    ----------
    world
        The engine; everything that turns is drawn as at its mark, and turned by the page.
    view
        How it is drawn.

    Returns
    -------
    Figure
        742 by 580; groups that move carry ids.
    """
    pen = Pen()
    pen.text((22, 42), "The engine", "title", "start")
    words = _DRAWN[view](pen, world)
    return pen.figure(WIDTH, HEIGHT, words, "engine-scene")


def _with_wheel(pen: Pen, world: World) -> str:
    drawing_wheel.front(pen, world)
    _cylinder_and_dial(pen, world)
    drawing_wheel.loupe(pen)
    return "The made-up engine: wheel and pointer, piston, lifter and dial."


def _with_gears(pen: Pen, world: World) -> str:
    drawing_gears.front(pen, world)
    _cylinder_and_dial(pen, world)
    return "The made-up engine: gears with their marks, piston, lifter and dial."


def _with_heat(pen: Pen, world: World) -> str:
    drawing_heat.front(pen, world)
    return "The made-up gear, its shaft and a thermometer."


def _cylinder_and_dial(pen: Pen, world: World) -> None:
    drawing_parts.cylinder(pen, world)
    drawing_parts.lifter(pen, world)
    drawing_parts.dial(pen)


_DRAWN: Mapping[View, Callable[[Pen, World], str]] = {
    View.WHEEL: _with_wheel,
    View.GEARS: _with_gears,
    View.HEAT: _with_heat,
}


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
        "dial": {
            "on": state.dial.on,
            "zero": state.dial.zero_mm,
            "lean": state.dial.lean,
            "under": geometry.under_dial(world, state.dial.on),
        },
        "seat": [
            parts.seat.runout_mm * state.runout_left / 2,
            parts.seat.high_deg,
            parts.seat.out_of_round_mm / 2,
            parts.seat.oval_deg,
        ],
        **({"lifts": {lobe: lifts(world, lobe) for lobe in parts.lobes}} if whole else {}),
        "step": LIFT_STEP,
        # Gears as they stand, clockwise from where their marks meet, and turns to one of the crank.
        "gears": [[each.name, each.deg, each.ratio] for each in geometry.gears(world)],
        # A gear that was heated, and how long ago.
        "heat": [state.gear_c, max(0.0, state.now_s - state.heated_s), state.gear_on, state.gear_home],
        "position": state.position,
        "positions": list(parts.adjuster.positions),
        "solid": state.solid_tappets,
        "harm": list(state.harm),
    }


def _facing(world: World) -> World:
    """The same with the wheel as it turns, whichever way its numbers run."""
    return world.but(wheel=replace(world.state.wheel, mirrored=False))
