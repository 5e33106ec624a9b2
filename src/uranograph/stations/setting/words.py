"""What is said at setting."""

from uranograph.bench.finding import Said

FOUND = {
    "pack-unknown": Said(
        "Shims of the {part} went in or came out, and what is fitted now is not written.",
        "{name}: which shims?",
        "Write the pack that is fitted now, then measure the end play.",
    ),
    "read-it-first": Said("The {part}'s play is not read yet.", "{name}: read it first", "Measure the end play."),
    "set-and-proved": Said("{play}", "{name} set and proved", "Go on."),
    "set-again": Said("{play} {advice}", "{title}", "Set it again."),
    "changed-not-proved": Said(
        "{name}: {change}", "{name} changed, not proved", "Prove it: measure the end play again."
    ),
    "in-as-it-is": Said("{name} {bracket}: nothing to set.", "{name} in as it is", "Go on."),
    "out-of-reach": Said(
        "{name} was {bracket}, {goal_mm:fine} is wanted. {problem}",
        "{name}: out of reach",
        "Look again at what is wanted.",
    ),
    "being-set": Said("{name} was {bracket}, {goal_mm:fine} is wanted. {advice}", "{name} being set", "Set it."),
    "being-sanded": Said(
        "{name} was {bracket}, {goal_mm:fine} is wanted. {advice}",
        "{name} being set",
        "Sand on, a little at a time.",
    ),
    "way-missing": Said("Only where a play is out.", next_step="Say how it is set."),
    "nothing-to-set": Said("Every play is in as it is: nothing to set.", "Nothing to set", "Go on."),
    "play-missing": Said("Only where a play is out.", next_step="Measure the end play first."),
}
REFUSALS = {
    "thicknesses-missing": "Type the thicknesses, such as 0.20 + 0.15, or 0 where none is fitted.",
    "too-many-thicknesses": "These are {count} thicknesses: up to 60, please.",
    "not-set-this-way": "The {part} is not set this way: look at the set-up.",
    "not-a-part-thickness": "“{typed}” is no thickness of these parts: inches or mm?",
    "not-a-shim": "“{piece}” is no shim: it has some thickness, and less than {most_mm:u}.",
    "thicker-than-before": "“{typed}” is thicker than before this pass: measure it again.",
}
