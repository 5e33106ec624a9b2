"""What is said at end play."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "binds": Said(
        "{name} binds: it has less play than none, nobody knows by how much. At least {goal_mm:fine} is missing.",
        "Out: {name} binds",
        "Set it: take off at least half of that each side, then measure again.",
    ),
    "not-read": Said("{name} not read yet.", "{name} not read", "Measure the {part}."),
    "read-again": Said(
        "{name} not read yet. Its fit was changed: read it again, as the proof.",
        "{name} not read",
        "Measure the {part}.",
    ),
    "blades-cannot-be": Said("{name}: {why}", "{name}: cannot tell", "Void the blade that is wrong."),
    "parts-not-fitted": Said(
        "{name} {bracket}, but its limiting parts are not all fitted: this is not its play.",
        "{name}: cannot tell",
        "Fit them, or stand-ins; read again.",
    ),
    "parts-not-stated": Said(
        "{name} {bracket}; nobody said whether its limiting parts are fitted.",
        "{name}: cannot tell",
        "Say what is fitted.",
    ),
    "so-far": Said("{name} {bracket} so far.", "{name} so far", "Repeat it: three times."),
    "straddles": Said(
        "{name} {bracket}: it straddles a limit.", "{name}: cannot tell", "Read the travel again, finer."
    ),
    "straddles-blade": Said(
        "{name} {bracket}: it straddles a limit.", "{name}: cannot tell", "Try {blade} {unit} next."
    ),
    "gone-when-hot": Said(
        "{name} {bracket}. Hot it changes by {change_mm:fine} {unit}: nothing may be left.",
        "{name}: none left hot",
        "Give it more play cold.",
    ),
    "within": Said("{name} {bracket}.", "{name} in", "Go on."),
    "all-within": Said("{plays}", "In", "Go on."),
    "tight": Said("{name} {bracket}: tight.", "{name} tight", "Set end play."),
    "loose": Said("{name} {bracket}: loose.", "{name} loose", "Set end play."),
    "set-up-missing": Said(
        "Crank, cam and idler each float by so much and no more.", next_step="Say what play is allowed."
    ),
}
REFUSALS = {
    "play-allowed-missing": "Say what play of the {part} is allowed first.",
    "lever-below-nothing": "A play cannot be less than nothing: lever back, zero the dial, read again.",
    "more-than-any-play": "“{typed}” is more than any end play: inches or mm?",
    "blade-answer-missing": "Say whether the blade goes.",
    "not-a-blade": "“{typed}” is no blade: inches or mm?",
}
SAID = {
    "single-or-both": "One figure alone, or least and greatest: not both.",
    "less-than-nothing": "less than nothing: it binds",
    "single-figure-window": "{allowed} ({single} ± {rule})",
    "least-greatest-play-shaft": "Type the least and the greatest play of one shaft at least, by the manual.",
    "read-feelers-dial": "Say how it is read: feelers or a dial.",
    "both-needed-least-greatest": "Both are needed: the least and the greatest play.",
    "least-play-above-greatest": "The least play is above the greatest: look at the figures again.",
    "hot-value-needs-too": "The hot value needs this too.",
    "thrust-plate-gear-bolt": "thrust plate, gear, bolt",
    "length-room": "{part}: length of the room",
    "thrust-plate-gear-bolt-2": "thrust plate, gear, bolt or its stand-in",
    "limiting-parts": "Limiting parts of the {part}",
    "parts-fitted-limit-s": "Are the parts fitted that limit the {part}'s play: {what}?",
    "without-them-shaft-floats": "Without them a shaft floats far more, and alarms people for nothing.",
    "lever-fully-back-set": "Lever the {part} fully back, set the dial to zero, lever it fully forward. Read it.",
    "push-all-way-part": "Push all the way: a part that feels free may still have travel left. Three times.",
    "blade-goes-when-slides": "A blade goes when it slides with a light drag, without force.",
    "try-another-blade-go": "It is in. Try another blade, or go on.",
    "lever-fully-way": "Lever the {part} fully one way. Try the blade named below.",
    "limiting-parts-2": "limiting parts of the {kind}",
}
say = partial(tell, SAID)
