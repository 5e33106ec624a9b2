"""Messages about turning the engine over by hand."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "not-turned": FindingMessage(
        "Nothing has proved yet that the engine turns freely as it is put together.",
        next_step="Turn it two turns by hand, plugs out.",
    ),
    "turn-again": FindingMessage(
        "It turned freely, and since then {why}.",
        "Turn it again",
        "Turn it two turns by hand again, before anything turns it by power.",
    ),
    "stopped": FindingMessage(
        "It stopped{where}{what}. A stop means look, not push.",
        "Out: it stopped",
        "Find what it is and take it away; then turn two turns again.",
    ),
    "stopped-and-unexplained": FindingMessage(
        "It stopped{where}, and what it was is not known. It turned after that, which explains nothing.",
        "Cannot tell",
        "Look for it: turn back to where it stopped and look at valves, stand, pins and tools.",
    ),
    "heavy": FindingMessage(
        "Two turns, though heavy at a place. A tight journal, a valve that just touches or dry parts feel like that.",
        "Cannot tell",
        "Find the place: plugs out, rockers off, turn again.",
    ),
    "pinned": FindingMessage(
        "{label} is still in: two turns prove nothing with a pin in, and break what it holds.",
        "A pin is in",
        "Take the pin out and count it, then turn.",
    ),
    "turns-freely": FindingMessage(
        "Two turns by hand, free all the way{after}.",
        "In",
        "Whatever moves the cam after this opens it again.",
    ),
}

MESSAGES = {
    "ask-turn": "Plugs out. Turn the crank by hand two full turns, in the running direction.",
    "turn-hint": "A long bar hides a touch: use a short one. Stop at the first resistance, look, never push.",
    "turned-label": "Two turns by hand",
    "ask-what-stopped": "What was it? Look before anything is turned on.",
    "what-label": "What was found",
    "what-hint": "A note or a picture beside it helps whoever comes next.",
    "at-deg": " at {at_deg:abs} {side}",
    "it-was": ": {what}",
    "after-a-stop": ", after a stop{what}",
    "row-turned": "Two turns by hand",
    "row-where": "It stopped at",
    "row-what": "What it was",
}

say = partial(message, MESSAGES)
