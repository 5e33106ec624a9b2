"""Messages of lobe room."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "preferred": FindingMessage("Every lobe has the clearance that is preferred.", "In", "Go on."),
    "nothing-read": FindingMessage("Every lobe, at its tightest.", next_step="Measure the first lobe."),
    "too-little": FindingMessage(
        "The lobe of {lobe} has less than the least room.",
        "Out: too little room",
        "Relieve the case, or another grind.",
    ),
    "too-near-limit": FindingMessage(
        "The lobe of {lobe} is within the uncertainty of the measurement from the least.",
        "Cannot tell",
        "Measure that lobe again, finer.",
    ),
    "within-so-far": FindingMessage(
        "{read} of {lobes} lobes; the smallest so far at {lobe}.", "Within, so far", "Read on."
    ),
    "less-than-preferred": FindingMessage(
        "Enough everywhere, though less than is preferred at {lobe}.", "In, less than preferred", "Go on."
    ),
}
REFUSALS = {
    "no-such-lobe": "This engine has {count} lobes.",
    "gap-below-nothing": "A gap is not less than nothing: type 0 where it touches.",
    "more-than-any-room": "“{typed}” is more room than any case has: inches or mm?",
}
MESSAGES = {
    "clearance-hint": (
        "To the lifter's face or the case: a strip of clay, wire or blades. Turn a little either way for the least."
    ),
    "measure-lobe-clearance": "Turn the {names} lobe toward its lifter bore. Measure the gap where it is least.",
    "every-lobe-measured": "Every lobe is read. Read the tightest again, or go on.",
    "clearance-at-lobe": "room at the {lobe} lobe of {number}",
    "clearance-limits": "Shop limits: least {said}, preferred {said_2}. The engine's manual outranks them.",
}
say = partial(message, MESSAGES)
