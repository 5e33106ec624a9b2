"""Messages of card."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "holds-together": FindingMessage("Centerlines: {middles}.", "The card holds together", "Set up the wheel."),
    "no-card": FindingMessage("No spec card yet.", next_step="Type what the card gives, any part of it."),
    "contradicts-itself": FindingMessage("{why}", "The card contradicts itself", "Look at the card again."),
    "lifts-only": FindingMessage("Lift at overlap TDC for {lobes}.", "The card gives lifts", "Set up the wheel."),
    "more-needed": FindingMessage(
        "No centerline follows from this yet.",
        "More is needed",
        "Add a centerline, or duration and separation, or both events of a lobe.",
    ),
}
MESSAGES = {
    "centerline-is-of-peak": (
        "{lobe} centerline {peak} is taken as that of the peak: the middle of the printed events is {middle}, and events decide."
    ),
    "centerline-may-be-of-peak": (
        "The card does not say whether its centerline is of the peak or of the middle of the events: both are allowed for. "
        "Ask the grinder, and say it below."
    ),
}
say = partial(message, MESSAGES)
