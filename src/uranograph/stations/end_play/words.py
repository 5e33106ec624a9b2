"""What is said at end play."""

from uranograph.bench.finding import Said

FOUND = {
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
    "not-a-blade": "“{drop}” is no blade: inches or mm?",
}
