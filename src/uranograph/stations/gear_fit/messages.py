"""Messages of gear fit."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "too-hot": FindingMessage(
        "It would need {gear_c:.0f} °C, and a {material} gear is taken to bear {limit_c:.0f}.",
        "Out: too hot for the gear",
        "Chill the shaft, or have the fit eased.",
    ),
    "heated-past-limit": FindingMessage(
        "The gear was measured at {gear_c:.0f} °C, and a {material} gear is taken to bear {limit_c:.0f}.",
        "Out: hotter than the gear bears",
        "Do not fit it: its temper or its resin may be spoiled. Ask its maker, or take another.",
    ),
    "heated-near-limit": FindingMessage(
        "The gear was measured at {gear_c:.0f} °C, about what a {material} gear is taken to bear ({limit_c:.0f}).",
        "Cannot tell: near what the gear bears",
        "Measure it again with a contact probe, or let it cool a little.",
    ),
    "heated-too-cool": FindingMessage(
        "The gear was measured at {gear_c:.0f} °C, and it grips under {needed_c:.0f}.",
        "Out: too cool to go on",
        "Heat it further and measure it again; do not drive it.",
    ),
    "heated-just-so": FindingMessage(
        "The gear was measured at {gear_c:.0f} °C, about where it grips ({needed_c:.0f}).",
        "Cannot tell: it may grip half way",
        "Heat it further and measure it again.",
    ),
    "heated-short": FindingMessage(
        "The gear was measured at {gear_c:.0f} °C, and {called_c:.0f} was called for.",
        "Out: too cool",
        "Heat it further and measure it again.",
    ),
    "heat-not-measured": FindingMessage(
        "How hot the gear was is not known.",
        "Cannot tell: not measured",
        "Look for shaved metal and marks of heat; accept it with a reason, or fit it again and measure.",
    ),
    "to-be-measured": FindingMessage("To be measured: {what}.", next_step="Measure it before the gear goes on."),
    "nothing-there": FindingMessage(
        "There is none of what was asked about: nothing was judged.", "Nothing to judge", "Go on."
    ),
    "loose-when-hot": FindingMessage(
        "Running at {running_c:.0f} °C nothing is left of the interference, and no key or bolt holds it.",
        "Out: loose when hot",
        "A tighter fit, another material, or a key.",
    ),
    "seen-wrong": FindingMessage("{check}: {answer}. {hint}", "Out", "Put it right first."),
    "bolt-past-torque": FindingMessage(
        "Bolt {bolt} was pulled to {pulled}; {called} is called for.",
        "Out: bolt {bolt} past its torque",
        "Loosen it, look at it (a new one where it stretches), and pull all its stages again.",
    ),
    "bolt-short-of-torque": FindingMessage(
        "Bolt {bolt} was pulled to {pulled}; {called} is called for.",
        "Out: bolt {bolt}",
        "Pull it up to its torque.",
    ),
    "not-seen": FindingMessage("{check}: {answer}.", "Cannot tell", "Look again, with a light."),
    "snug-until-proved": FindingMessage(
        "On, its bolts snug and its threads dry: full torque and threadlocker only once degreeing has proved the position.",
        "Snug until proved",
        "Degree the cam; then torque the bolts.",
    ),
    "looking": FindingMessage("{looked} of {checks} looked at.", next_step="{following}"),
    "looking-and-pulling": FindingMessage(
        "{looked} of {checks} looked at, {done} of {pulls} pulls.", next_step="{following}"
    ),
    "pulling": FindingMessage("{looked} of {checks} looked at, {done} of {pulls} pulls.", next_step="Pull the bolts."),
    "on": FindingMessage("Every part is on and looked at.", "In", "Go on."),
    "on-and-pulled": FindingMessage("Every part is on and looked at, every bolt pulled.", "In", "Go on."),
}
REFUSALS = {
    "no-such-stage": "There is no such bolt or stage: look at the set-up.",
    "turn-far-past": "“{typed}”: {called} is called for.",
    "torque-far-past": "“{typed}” is far past {both}: which unit?",
}
MESSAGES = {
    "bore-and-interference-needed": "Both are needed: bore and interference.",
    "gear-does-not-expand": "A gear that does not grow is not fitted by heat.",
    "interference-too-large": "“{text}” is far too much for this bore: inches or mm?",
    "bore-needed-for-heat": "The bore is needed to say what that temperature allows.",
    "heated-allows-nothing": "At “{typed}” the gear has grown by less than the slip clearance: it goes over nothing.",
    "measure-gear-now": "Measure the gear as it comes out of the heat, and type it. Then put it on in one go.",
    "gear-measured-at": "Gear measured at",
    "shaft-measured-at": "Shaft measured at",
    "measure-shaft-now": "Measure the shaft as it comes out of the cold, and type it.",
    "temperature-none-hint": "Type none where it was not measured.",
    "shaft-temperature": "shaft's temperature",
    "degrees-apart": "{apart_c:.0f} °C apart",
    "grips-by-difference": (
        "It grips once the gear is less than {apart_c:.0f} °C hotter than the shaft: the one cools while the other warms, so be quick."
    ),
    "gear-temperature": "gear's temperature",
    "slips-on-now": "It slips on with {room_mm} to spare, and grips again at {grips_c:.0f} °C.",
    "grips-at-this": "At this it is still {room_mm} too tight: it must be above {grips_c:.0f} °C. Heat it further, do not drive it.",
    "choice-missing": "Choose what is called for.",
    "bolts-and-torque-needed": "Both are needed: how many bolts, and how tight.",
    "torque-hint": "Crosswise, in even pulls, the wrench square. Type what the wrench showed.",
    "torque-turn-hint": "Crosswise, all snug first; mark each head, so that the turn can be seen.",
    "every-bolt-torqued": "Every bolt is pulled. Go on, or write down a pull again.",
    "torque-bolt": "Stage {stage} of {count}: pull bolt {bolt} to {both}.",
    "key-tried-by-hand": "key tried by hand",
    "key-seen-in-slot": "key seen in its slot",
    "thermometer-hint": "Aim the thermometer at the patch of matt black paint. Type none where it was not measured.",
    "no-interference-when-hot": (
        "Running hot nothing is left of the interference: only what else holds the gear keeps its place."
    ),
    "stays-loose-for": (
        "In still air it stays loose about {words}, by a simple estimate; touching the cold shaft it grips in seconds."
    ),
    "material-limit-unknown": "What this material bears is not known here: ask its maker before heating.",
}
say = partial(message, MESSAGES)
