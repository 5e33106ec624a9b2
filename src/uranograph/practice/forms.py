"""What of an engine is on paper before an exercise begins: the forms a learner finds filled in."""

from collections.abc import Mapping

from uranograph.practice.exercises import Exercise
from uranograph.world.state import World


def filled_forms(exercise: Exercise, world: World) -> Mapping[str, Mapping[str, str]]:
    """The forms of a practice job, by kind, as typed.

    Parameters
    ----------
    exercise
        Which says what its drive offers.
    world
        The engine. What is planted in it stands on no paper.
    """
    parts, wheel = world.parts, world.state.wheel
    forms: dict[str, Mapping[str, str]] = {
        "engine": {
            "cylinders": str(parts.cylinders),
            "firing_order": "-".join(map(str, parts.order)),
            "rotation": parts.rotation,
            "unit": "mm",
            "stroke": f"{parts.stroke_mm:g}",
            "rod": f"{parts.rod_mm:g}",
            "valvetrain": "pushrod",
            "lift_at": "lifter",
        },
        "way": {"way": "degree"},
        "card": {name: f"{value:g}" for name, value in parts.card.items()} | {"unit": "mm"},
        "wheel": {
            "scale": wheel.scale,
            "mount": "front",
            "numbers_rise": "counterclockwise",
            "division": f"{wheel.division_deg:g}",
            "dial_division": "0.01",
            "unit": "mm",
        },
    }
    if exercise.top_stated:
        forms["top"] = {"how": "stop", "by_whom": "whoever was here before", "stated_doubt": "0.25"}
    if exercise.drive == "keyway":
        options = ", ".join(f"{label}: {shift:g}" for label, shift in parts.adjuster.positions.items())
        forms["drive"] = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": options, "a1_fitted": "0"}
    elif exercise.drive == "slot":
        forms["drive"] = {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1", "a1_marks": "crank"}
    return forms
