"""What of an engine is on paper before an exercise begins: the forms a learner finds filled in."""

from collections.abc import Callable, Mapping

from uranograph.practice.exercises import Exercise, Goal
from uranograph.practice.planting import CAM_KEY_DEG
from uranograph.world.state import World

Form = Mapping[str, str]
Forms = dict[str, Form]


def filled_forms(exercise: Exercise, world: World) -> Mapping[str, Form]:
    """The forms of a practice job, by kind, as typed.

    Parameters
    ----------
    exercise
        Which says what its drive offers and what it is about.
    world
        The engine. What is planted in it stands on no paper.
    """
    own = _OF_GOAL.get(exercise.goal)
    if own is not None:
        return {"engine": engine_form(world), **own(exercise, world)}
    forms = {"engine": engine_form(world), "way": {"way": "degree"}, "card": card_form(world), "wheel": _wheel(world)}
    if exercise.top_stated:
        forms["top"] = _top()
    positions = world.parts.adjuster.positions
    if exercise.drive == "keyway":
        options = ", ".join(f"{label}: {shift:g}" for label, shift in positions.items())
        forms["drive"] = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": options, "a1_fitted": "0"}
    elif exercise.drive == "slot":
        forms["drive"] = {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1", "a1_marks": "crank"}
    return forms


def engine_form(world: World) -> Form:
    """The engine as its owner would describe it."""
    parts = world.parts
    return {
        "cylinders": str(parts.cylinders),
        "firing_order": "-".join(map(str, parts.order)),
        "rotation": parts.rotation,
        "unit": "mm",
        "stroke": f"{parts.stroke_mm:g}",
        "rod": f"{parts.rod_mm:g}",
        "valvetrain": "pushrod",
        "lift_at": "lifter",
        "rocker_ratio": "1",
    }


def card_form(world: World) -> Form:
    """The card as the grinder printed it."""
    return {name: f"{value:g}" for name, value in world.parts.card.items()} | {"unit": "mm"}


def _wheel(world: World) -> Form:
    wheel = world.state.wheel
    return {
        "scale": wheel.scale,
        "mount": "front",
        "numbers_rise": "counterclockwise",
        "division": f"{wheel.division_deg:g}",
        "dial_division": "0.01",
        "unit": "mm",
    }


def _top() -> Form:
    return {"how": "stop", "by_whom": "whoever was here before", "stated_doubt": "0.25"}


def _runout(exercise: Exercise, world: World) -> Forms:
    setup = {"where": "the gear's seat", "places": "8", "dial_division": "0.01", "unit": "mm"}
    return {"way": {"way": "play"}, "runout": setup}


def _play(exercise: Exercise, world: World) -> Forms:
    cam = world.parts.thrusts["cam"]
    limits = {"cam_min": f"{cam.least_mm}", "cam_max": f"{cam.most_mm}", "cam_limits": "thrust plate and gear"}
    forms: Forms = {
        "way": {"way": "play"},
        "end-play": {**limits, "cam_way": "dial", "dial_division": "0.01", "unit": "mm"},
    }
    if exercise.goal is Goal.FACES:
        forms["setting"] = {"cam_way": "cheeks", "crank_way": "left", "unit": "mm"}
    return forms


def _backlash(exercise: Exercise, world: World) -> Forms:
    return {"way": {"way": "play"}, "backlash": backlash_form(world)}


def backlash_form(world: World) -> Form:
    """The gears as their maker's sheet has them, read at the pitch line at twelve places."""
    mesh = world.parts.mesh
    return {
        "pitch_radius": f"{mesh.pitch_radius_mm}",
        "indicator_radius": f"{mesh.pitch_radius_mm}",
        "spec_min": f"{mesh.least_mm}",
        "spec_max": f"{mesh.most_mm}",
        "pressure_angle": f"{mesh.pressure_deg:g}",
        "places": "12",
        "dial_division": "0.01",
        "unit": "mm",
    }


def _heat(exercise: Exercise, world: World) -> Forms:
    fit = world.parts.fit
    setup = {
        "bore": f"{fit.bore_mm:g}",
        "interference": f"{fit.interference_mm:g}",
        "slip": f"{fit.slip_mm:g}",
        "limit_c": f"{fit.limit_c:g}",
        "held": "key",
        "unit": "mm",
        "torque_unit": "N m",
    }
    return {"way": {"way": "gear"}, "gear-fit": setup}


def _marks(exercise: Exercise, world: World) -> Forms:
    mesh = world.parts.mesh
    marks = {"mark": "straddle", "there": "tooth", "how": "mesh", "held": "key"}
    typed = {"g1_name": "crank", "g1_teeth": str(mesh.crank_teeth), "g1_role": "crank", "g1_held": "key"}
    train = [("cam", mesh.cam_teeth, "cam")]
    if mesh.idler_teeth:
        train.insert(0, ("idler", mesh.idler_teeth, "idler"))
    for number, (name, teeth, role) in enumerate(train, 2):
        gear = {"name": name, "teeth": str(teeth), "role": role, "on": str(number - 1), **marks}
        typed |= {f"g{number}_{field}": text for field, text in gear.items()}
    if exercise.goal is Goal.MARKS and not mesh.idler_teeth:
        typed |= {"crank_key": "0", "cam_key": f"{CAM_KEY_DEG:g}"}
    return {"way": {"way": "marks"}, "train": typed}


def _valves(exercise: Exercise, world: World) -> Forms:
    clear = {"intake_angle": "0", "exhaust_angle": "0", "unit": "mm"}
    return {
        "way": {"way": "degree"},
        "card": card_form(world),
        "wheel": _wheel(world),
        "top": _top(),
        "piston-valve": clear,
    }


def _cause(exercise: Exercise, world: World) -> Forms:
    off = world.state.gear_slipped_deg
    way = "late" if off > 0 else "early"
    return {
        "way": {"way": "wrong"},
        "complaint": {
            "complaint": f"runs badly; the scan tool says the cam is {way}",
            "by_what": "scan",
            "offset": f"{off:.1f}",
            "crank_teeth": str(world.parts.mesh.crank_teeth),
            "drive_kind": "gears",
            "held": "pressed",
        },
    }


_OF_GOAL: Mapping[Goal, Callable[[Exercise, World], Forms]] = {
    Goal.RUNOUT: _runout,
    Goal.PLAY: _play,
    Goal.FACES: _play,
    Goal.HEAT: _heat,
    Goal.MARKS: _marks,
    Goal.BACKLASH: _backlash,
    Goal.VALVES: _valves,
    Goal.CAUSE: _cause,
}
