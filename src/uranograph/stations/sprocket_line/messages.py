"""Messages of sprocket line."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

_COME, _NEXT = "The {which} must come {way}.", "Shim it, then measure again."
_LEAVES = " {shims} shim{several} behind it; that leaves {left_mm}"
_STILL = ", still too much: other shims."
FINDINGS = {
    "out-of-line": FindingMessage(_COME, "Out of line", _NEXT),
    "less-than-half-a-shim": FindingMessage(_COME + " Less than half a shim: use thinner ones.", "Out of line", _NEXT),
    "add-shims": FindingMessage(_COME + " Add" + _LEAVES + ".", "Out of line", _NEXT),
    "take-shims": FindingMessage(_COME + " Take away" + _LEAVES + ".", "Out of line", _NEXT),
    "add-shims-still-out": FindingMessage(_COME + " Add" + _LEAVES + _STILL, "Out of line", _NEXT),
    "take-shims-still-out": FindingMessage(_COME + " Take away" + _LEAVES + _STILL, "Out of line", _NEXT),
    "no-sprockets": FindingMessage(
        "The train has gears alone: no sprockets to line up.", "Nothing to read here", "Go on."
    ),
    "not-measured": FindingMessage("Both faces, from one datum.", "Not measured yet", "Measure both depths."),
    "first-in-line": FindingMessage(
        "The {which} is in line; the {waiting} is not measured yet.", "So far in line", "Measure the other depth."
    ),
    "too-near-limit": FindingMessage(
        "Out of line by about what is allowed; the gauge cannot tell which side of it.",
        "Cannot tell",
        "Measure both depths again.",
    ),
    "in-line": FindingMessage("The chain will run straight.", "In line", "Fit the chain."),
}
REFUSALS = {
    "deeper-than-any-case": "“{typed}” is deeper than any timing case: inches or mm?",
}
MESSAGES = {
    "second-sprocket-unknown": "Say whether there is a second cam sprocket, and what drives it.",
    "out-of-line-of": "Out of line, {which}",
    "depth-label": "Depth of the {which}'s face",
    "measure-depth": "From one datum, such as the cover's face, measure down to the {which}.",
    "measure-depth-hint": "The same datum for both; straight edge flat, shaft pushed to the side it runs on.",
    "alignment-limit": "Allowed: {said}; the drive maker's sheet outranks it.",
    "before-line": "Before ({said}): out of line by {out_of_line_mm}.",
    "toward-cover": "out toward the cover",
    "toward-block": "in toward the block",
}
say = partial(message, MESSAGES)
