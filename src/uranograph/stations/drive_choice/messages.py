"""Messages of drive choice."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "chosen": FindingMessage("{reason}{others}", "In: {drive}", "Order the parts."),
    "runout-first": FindingMessage(
        "Each drive bears so much runout and no more.", "Runout first", "Measure the runout before ordering."
    ),
    "not-decided": FindingMessage(
        "Gears: {gears}. Hydraulic tensioner: {hydraulic}.", "Not decided yet", "Go through the list, then choose."
    ),
    "does-not-bear": FindingMessage(
        "{reason} What would change it: {would_change}.", "Out: {drive}", "Choose another drive, or cure the shaft."
    ),
    "not-looked-at": FindingMessage(
        "{drive}, but not looked at yet: {unlooked}.", "Cannot tell yet", "Measure these before ordering."
    ),
    "only-if": FindingMessage("{why}", "Only if: {drive}", "Settle it first: {would_change}."),
}
MESSAGES = {
    "runout-title": "Runout",
    "backlash-limits-crossed": "The least backlash is not below the greatest: look at the figures again.",
    "peak-to-peak": "swing of backlash, peak to peak",
    "shop-limits-of-drives": "Shop limits: {phrase}. The drive maker's sheet outranks them.",
}
say = partial(message, MESSAGES)
