"""Messages of engine."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "described": FindingMessage("{why}", "Engine described", "Enter the spec card."),
    "not-described": FindingMessage("The engine is not described yet.", next_step="Describe the engine."),
}
MESSAGES = {
    "turns-without-order": (
        "Turns {rotation} seen from the front. Its firing order is not given: companions and the "
        "other cylinders' TDC are not shown."
    ),
    "fires-and-turns": "Fires {order}, turns {rotation} seen from the front.",
    "no-companions": " No two cylinders rise together.",
}
say = partial(message, MESSAGES)
