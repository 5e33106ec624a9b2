"""Messages of turning over by hand."""

from functools import partial

from uranograph.bench.messages import message

REFUSALS = {
    "stop-angle-outside": "“{typed}” is no crank angle: degrees after TDC, before it with a minus, −360 to 360.",
}
MESSAGES = {
    "ask-where-stopped": "Where did it stop? Read the wheel, or say about where.",
    "where-label": "Crank degrees after TDC (before: −)",
    "where-hint": "Within 30 degrees of a TDC it is most likely a valve; elsewhere look at stand, tools and pins first.",
    "by-turned": "turned over by hand",
    "by-where": "where it stopped",
    "by-what": "what stopped it",
}
say = partial(message, MESSAGES)
