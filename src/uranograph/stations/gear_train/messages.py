"""Messages of gear train."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "no-gears": FindingMessage(
        "No gears yet.", next_step="Describe the gears or the chain between crank and cam: teeth first."
    ),
    "half-speed": FindingMessage(
        "The cam turns at half speed, {value} the crank. {back}", "In: half speed", "See the marks."
    ),
    "not-half-speed": FindingMessage(
        "“{cam}” turns at {cam_speed_ratio:.4f} of the crank's speed. {spoiler}",
        "Out: not half speed",
        "Count the teeth again.",
    ),
}
MESSAGES = {
    "tooth-count-spoils-ratio": "“{name}” spoils it: with {teeth} teeth instead of {teeth_2} it would be half.",
    "no-single-count-cures": "No single gear's count would cure it: count them all again.",
}
say = partial(message, MESSAGES)
