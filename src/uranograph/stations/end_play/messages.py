"""Messages of end play."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "all-within": FindingMessage("{plays}", "In", "Go on."),
    "set-up-missing": FindingMessage(
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
MESSAGES = {
    "single-figure-window": "{allowed} ({single} ± {rule})",
    "read-dial-travel": "Lever the {part} fully back, set the dial to zero, lever it fully forward. Read it.",
    "push-all-the-way": "Push all the way: a part that feels free may still have travel left. Three times.",
    "blade-fit-hint": "A blade goes when it slides with a light drag, without force.",
    "play-in-another-blade": "It is in. Try another blade, or go on.",
    "try-blade": "Lever the {part} fully one way. Try the blade named below.",
    "limiting-parts-of": "limiting parts of the {kind}",
}
say = partial(message, MESSAGES)
