"""Messages of setting."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "pack-unknown": FindingMessage(
        "Shims of the {part} went in or came out, and what is fitted now is not written.",
        "{name}: which shims?",
        "Write the pack that is fitted now, then measure the end play.",
    ),
    "read-it-first": FindingMessage(
        "The {part}'s play is not read yet.", "{name}: read it first", "Measure the end play."
    ),
    "parts-first": FindingMessage(
        "The {part} read {bracket} without the parts that limit it: that is not its play.",
        "{name}: fit its parts first",
        "Fit the limiting parts or stand-ins, and measure the end play again.",
    ),
    "left-as-it-is": FindingMessage(
        "The {part}'s play is left as it is: {bracket}.", "{name}: left as it is", "Go on."
    ),
    "stands-off": FindingMessage(
        "{name}: the shim stands the plate off, so it is the play. {advice}", "{name} being set", "Set it."
    ),
    "set-and-proved": FindingMessage("{play}", "{name} set and proved", "Go on."),
    "set-again": FindingMessage("{play} {advice}", "{title}", "Set it again."),
    "changed-not-proved": FindingMessage(
        "{name}: {change}", "{name} changed, not proved", "Prove it: measure the end play again."
    ),
    "in-as-it-is": FindingMessage("{name} {bracket}: nothing to set.", "{name} in as it is", "Go on."),
    "out-of-reach": FindingMessage(
        "{name} was {bracket}, {goal_mm:fine} is wanted. {problem}",
        "{name}: out of reach",
        "Look again at what is wanted.",
    ),
    "being-set": FindingMessage(
        "{name} was {bracket}, {goal_mm:fine} is wanted. {advice}", "{name} being set", "Set it."
    ),
    "being-sanded": FindingMessage(
        "{name} was {bracket}, {goal_mm:fine} is wanted. {advice}",
        "{name} being set",
        "Sand on, a little at a time.",
    ),
    "way-missing": FindingMessage("Only where a play is out.", next_step="Say how it is set."),
    "nothing-to-set": FindingMessage("All end play is in spec.", "Nothing to set", "Go on."),
    "play-missing": FindingMessage("Only where a play is out.", next_step="Measure the end play first."),
}
REFUSALS = {
    "thicknesses-missing": "Type the thicknesses, such as 0.20 + 0.15, or 0 where none is fitted.",
    "too-many-thicknesses": "These are {count} thicknesses: up to 60, please.",
    "not-set-this-way": "The {part} is not set this way: look at the set-up.",
    "not-a-part-thickness": "“{typed}” is no thickness of these parts: inches or mm?",
    "not-a-shim": "“{piece}” is no shim: it has some thickness, and less than {most_mm:u}.",
    "thicker-than-before": "“{typed}” is thicker than before this pass: measure it again.",
}
MESSAGES = {
    "end-play-title": "End play",
    "setting-missing": "Say how it is set.",
    "stock-missing": "Type the thicknesses in stock, such as 0.10 0.15 0.20.",
    "no-shaft-set": "Say of one shaft at least how its play is set.",
    "shims-act-so": "Shims work so that",
    "most-pieces": "Pieces, at the most",
    "fit-pack": "Fit {words}. Write down what is fitted.",
    "take-pack-out": "Take the pack out, and write down 0.",
    "set-proved": "It is set and proved. Write down another pack only if one is fitted.",
    "measure-pack-hint": "Measure each shim and the pack together; a burr or oil counts as thickness.",
    "measure-part": "Measure the {way} in several places.",
    "play-is-difference": "The play is what the spacer is thicker than the plate.",
    "measure-face": "Measure the {sides} as it is, in several places.",
    "sand-face": "Sand the {sides} flat on glass: {left_mm:fine} {unit_name} to go. Measure it.",
    "face-at-goal": "The {sides} is at its goal. Measure it again if it was touched.",
    "sand-face-hint": (
        "A little at a time, both sides alike, clean, try again. It never “wears in”. Not measured? Say so under "
        "What was done: a thrust face was sanded."
    ),
    "spacer-or-plate-changed": "spacer or plate changed.",
    "faces-unlike": " The sides are {apart_mm:fine} unlike; alike to {allowed} is wanted.",
    "stock-cannot-reach": "The stock cannot bring it within: nearest is {words}, which leaves {play_mm:fine}.",
    "no-shims": "no shims at all",
    "too-much-play-to-sand": "It has more play than is wanted: sanding cannot give it back.",
    "take-off-faces": (
        "Take {wanted_mm:fine} off each thrust face; {left_mm:fine} front and {left_2_mm:fine} rear to go.{unlike}"
    ),
    "sanded-not-measured": "sanded, the thickness not measured.",
    "take-off-at-least": "It binds: take at least {wanted_mm:fine} off each thrust face, both alike, then measure the play.",
    "shims-at-least": "It binds: begin with {words}, then measure; it may want more.",
    "measure-spacer-plate": "Measure spacer and plate.",
    "spacer-for-play": ("Spacer less plate is {play_mm:fine}; a spacer of {plate_mm:fine} gives what is wanted."),
}
say = partial(message, MESSAGES)
