"""Messages of wheel."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "described": FindingMessage(
        "{scale} at the {end}. Facing it, forward is {faced}{counting}.", "Wheel described", "Find true TDC."
    ),
    "not-described": FindingMessage("The wheel is not set up.", next_step="Say how the wheel is mounted and numbered."),
}
MESSAGES = {
    "numbers-count": " and its numbers count {way}",
}
say = partial(message, MESSAGES)
