"""Messages for values that core or bench refuse."""

from collections.abc import Callable, Mapping

Template = str | Callable[[Mapping[str, object]], str]


def _firing_order(values: Mapping[str, object]) -> str:
    faults = []
    for name, one, several in (
        ("missing", "is missing", "are missing"),
        ("repeated", "stands twice", "stand twice"),
        ("unknown", "is not among 1 to {0}", "are not among 1 to {0}"),
    ):
        numbers = values[name]
        if isinstance(numbers, list) and numbers:
            listed = " and ".join(filter(None, [", ".join(map(str, numbers[:-1])), str(numbers[-1])]))
            faults.append(f"{listed} {one if len(numbers) == 1 else several}".replace("{0}", str(values["cylinders"])))
    order = values["order"]
    typed = "-".join(map(str, order)) if isinstance(order, list) else ""
    return f"{typed} does not name each cylinder once: {', '.join(faults)}."


REFUSALS: dict[str, Template] = {
    "no-such-check": "There is nothing of this kind to look at here: look at the page again.",
    "not-an-answer": "Choose what you see.",
    "temperature-outside": "“{typed}” is not a temperature of this work.",
    "no-such-expansion": "“{typed}” millionths per °C is no material of this work: steel is 11.7.",
    "too-little": "“{typed}” is less than it can be.",
    "too-long-a-length": "“{typed}” is longer than anything at this bench: inches or mm?",
    "not-above-nothing": "“{typed}” must be more than nothing.",
    "angle-outside": "“{typed}” is not between {least:g} and {most:g} degrees.",
    "not-a-count": "“{typed}” {count}: a whole number from {least} to {most}.",
    "not-a-temperature": "“{typed}” is no temperature. Type it such as 90, or 194 F.",
    "unknown-material": "“{typed}” is not known here. Known: {known}; or type millionths per °C.",
    "fitted-not-offered": "The fitted choice “{fitted}” is not among {offered}.",
    "slot-too-fine": "A slot with {places} places is too fine: use a larger step.",
    "too-many-combinations": "These adjusters make {combinations} combinations: describe them more coarsely.",
    "least-above-greatest-backlash": "The least backlash is above the greatest: look at the figures again.",
    "no-such-calculation": "There is no calculation “{name}”. Known: {known}.",
    "not-an-object": "A calculation takes one JSON object with named fields.",
    "not-valid": "{where}: {detail}.",
    "beyond-reckoning": "These numbers are too large or too small to calculate with.",
    "lobe-not-passed": (
        "Before and after are both {before_deg:g}: the crank has not passed the lobe. Read the second again."
    ),
    "never-grips": "It grips at no temperature above the ambient: it stays loose.",
    "grips-already": "It grips already at this temperature.",
    "least-not-below-greatest-backlash": "The least backlash is not below the greatest: look at the figures again.",
    "gear-limits-crossed": "The limit up to which gears are good is above the one past which they never are.",
    "least-above-greatest-play": "The least play {least_mm:u} is above the greatest {most_mm:u}.",
    "two-ways-at-once": "Feelers and a dial are two ways: judge them one at a time.",
    "nothing-read": "Nothing is read yet.",
    "blades-crossed": "{low_mm:u} went though {high_mm:u} did not: try both blades again.",
    "play-below-nothing": "A play cannot be less than nothing: read again.",
    "no-firing-order": "Type the firing order, such as 1-3-4-2.",
    "firing-order-not-once-each": _firing_order,
    "form-cannot-be": "Entry {entry}, {form}: {name} “{typed}” cannot be. {why}",
    "pin-still-in": "{label} is still in: take it out and count it before anything is turned.",
    "act-has-no-such-detail": "This is not said of such an act: leave it empty.",
    "detail-cannot-be": "“{typed}” is none of these: choose one that is offered, or leave it empty.",
    "teeth-cannot-be": "“{typed}” teeth cannot be: a whole number from 1 to {most}, or leave it empty.",
    "cylinder-of-bank-twice": "Each cylinder stands once in a firing order: {names} more often.",
    "firing-order-count": "{count} stand in it, and the engine has {cylinders}.",
    "firing-angles-count": "{count} angles for {cylinders} cylinders: one for each, in the order in which they fire.",
    "firing-angles-not-rising": "“{typed}”: begin with 0 and rise, all below 720; or type the steps, 720 together.",
    "shaft-expansion-missing": "A shaft at its own temperature needs its expansion per degree as well.",
    "shaft-expansion-missing-hot": "What is left running hot needs the shaft's expansion per degree as well.",
    "checking-lift-too-high": "A checking lift of {check_mm:u} is not below the maximum lift of {top_mm:u}.",
    "least-above-greatest-lift": (
        "The least lift {least_mm:u} is above the greatest {most_mm:u}: look at the card again."
    ),
    "flat-flank": "A flank with no slope cannot say how far to move. Measure it a few degrees on.",
    "file-not-text": "This file is not text: export it as text or CSV first.",
    "table-too-long": "{count} lines are more than the {most} that can be read at once.",
    "table-without-figures": "No two lines with two figures each are in here: an angle and a lift are wanted.",
    "drop-past-travel": "The piston is never {drop_mm:u} down: its whole travel is {travel_mm:u}. Read the drop again.",
    "rod-too-short": (
        "A rod of {rod_mm:u} is not longer than half the stroke ({throw_mm:u}): the crank could not turn. "
        "Check rod and stroke, and their units."
    ),
    "offset-too-large": (
        "With a pin offset of {offset_mm:u} this rod could not pass half the stroke. An offset is usually "
        "{usual_mm:u} or less."
    ),
    "unknown-after-angle": "“{suffix}” after the number is not known here. Type the degrees alone, such as 55 5/8.",
    "nothing-typed": "Nothing is typed here. Type {wanted}, such as {wanted:example}.",
    "too-many-letters": "This is too long to be {wanted}. Type it such as {wanted:example}.",
    "does-not-read": "“{typed}” does not read as {wanted}. Type it such as {wanted:example}.",
    "divides-by-zero": "“{typed}” divides by zero. Type {wanted}, such as {wanted:example}.",
    "length-for-angle": "“{typed}” is a length; this is an angle in degrees, such as 37.5 or 55 5/8.",
    "angle-for-length": "“{typed}” is an angle; this is a length, such as {wanted:example}.",
    "unknown-unit": "“{suffix}” is no unit of length known here. Use mm, cm, in or thou.",
    "longer-than-an-engine": "“{typed}” is longer than any part of an engine: look at figure and unit.",
    "unknown-after-number": "“{suffix}” after the number is not wanted here. Type the number alone, such as 1.6.",
    "number-past-sense": "“{typed}” is past all sense: look at the figure again.",
    "angle-past-sense": "“{typed}” degrees is past all sense: look at the figure again.",
    "too-few-places": "Read at three different places of the turn at least.",
    "shim-of-nothing": "A shim has some thickness: take out what is nothing or less.",
    "angle-twice": "The angle {angle_deg:g} is there twice: void one of the two.",
    "lift-never-reached": "The lobe never reaches {lift_mm:u}: its greatest reading is {top_mm:u}.",
    "sweep-too-short": "The sweep does not go down to {lift_mm:u} on the {side} side: read further out.",
    "contacts-crossed": (
        "Before {before_deg:g} and after {after_deg:g} leave no angle between the two contacts. Check which "
        "reading was taken before the top and which after it."
    ),
    "turn-outside": "“{typed}” is no part of a turn that a bolt is pulled by. Type it such as 90 deg or 1/4 turn.",
    "range-upside-down": "“{typed}”: the lesser torque stands first in a range.",
    "not-a-torque": "“{typed}” is no torque. Type it such as 45, 45 N m or 33 ft lb.",
    "torque-outside": "“{typed}” is no torque of this work.",
    "stages-not-rising": "Each stage is more than the one before: look at the figures again.",
    "stages-missing": "Type one to six stages, such as 20; 40; 60.",
    "crank-is-cam": "Crank and cam gear cannot be the same gear.",
    "nothing-meshes": "Nothing meshes yet: say which gear turns which.",
    "gear-twice": "“{name}” is there twice. Give each gear a name of its own.",
    "no-such-gear": "“{name}” is not among the gears.",
    "mesh-on-one-shaft": "“{up}” and “{down}” turn together: they cannot mesh with each other.",
    "gear-not-driven": "“{name}” meshes with nothing that the crank turns.",
    "mesh-without-gear": "“{name}” meshes but is not among the gears.",
    "loop-cannot-turn": "“{other}” is driven two ways at once, by “{name}” and otherwise: this loop cannot turn.",
    "slip-of-typing": "“{typed}”, where {earlier} was read before: a slip? Choose what is meant.",
    "not-on-wheel": "{reading_deg:g} is not on a {scale} wheel, which shows 0 to {top_deg:g}. Read the wheel again.",
    "side-missing": "A {scale} wheel needs the side as well: {sides:or}.",
    "side-not-on-wheel": "A {scale} wheel counts from TDC only: {sides:or}.",
    "rotation-missing": "Say which way the engine turns, seen from the front.",
    "mount-missing": "Say whether the wheel is at the front or at the flywheel end.",
    "numbers-rise-missing": "Say which way the wheel's numbers rise as you face it.",
    "too-few-lifts": "Lifts at two angles are wanted at the least.",
    "lift-below-nothing": "A lift of {lift_mm:u} is below nothing: look at the sign.",
    "more-than-a-cycle": "The lifts span {span_deg:g} degrees: a cycle has 720.",
    "lift-not-known-there": "Moved {shift_deg:g} degrees, nothing of the lift is known near the top.",
    "lifts-not-known-together": "The two lifts are nowhere known at the same angle: read both round overlap.",
    "nothing-is-trapped": "An intake that closes {ic_deg:g} degrees after BDC leaves nothing to compress.",
    "cylinder-twice": "A cylinder stands twice in the order {order}.",
    "no-base-circle": (
        "The {lobe} lobe lifts for {lift_deg:g} degrees: with {margin_deg:g} kept free on either side no place is left "
        "where its valve rests. Take a smaller margin."
    ),
    "task-twice": "“{name}” stands twice: give each task a name of its own.",
    "too-few-hands": "“{name}” takes {wanted} hands, and there are {there}.",
    "no-such-task": "“{name}” waits for “{wanted}”, which is not among the tasks.",
    "tasks-in-a-circle": "These wait for each other in a circle: {names}.",
}
