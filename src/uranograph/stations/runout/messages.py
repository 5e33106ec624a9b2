"""Messages of runout."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "measured": FindingMessage("What it allows is shown at the timing drive.", "Measured", "Go on to the drive."),
    "not-measured": FindingMessage(
        "Runout decides the drive: read it before anything is ordered.", "Not measured yet", "Read round the shaft."
    ),
    "did-not-come-back": FindingMessage(
        "Back at the start the dial stood {off_mm:fine} off: its base moved, or the shaft did.",
        "Cannot tell",
        "Clamp it firmer; read round again.",
    ),
    "rounds-differ": FindingMessage(
        "The rounds differ by {spread_mm:fine}: something moved between them.",
        "Cannot tell",
        "Void the round that is wrong, and read again.",
    ),
    "watched": FindingMessage(
        "One whole travel, as it was read: what it allows is shown at the timing drive. Where the shaft is high it does not tell.",
        "Measured, whole travel",
        "Go on to the drive.",
    ),
    "under-way": FindingMessage("So far.", "Under way", "Read on round the shaft."),
}
REFUSALS = {
    "too-many-turns": "Up to {most_sets} times round, please: more tell nothing new.",
    "more-than-any-dial": "“{typed}” is more than any dial shows here: inches or mm?",
    "no-place-of-turn": "“{typed}” is no place of the turn: 0 to 360 degrees.",
}
MESSAGES = {
    "watch-needle": "Turn the shaft once round and watch the needle. Type its whole travel.",
    "watch-needle-hint": "From its lowest to its highest, always the same way round.",
    "whole-travel-only": "The travel alone tells neither where it is high nor whether the seat is worn out of round.",
    "read-once-round": "Read round. Read round again to see that it repeats, or go on.",
    "read-several-rounds": "Read round {number} times. Go on, or read round again.",
    "back-at-start": "Back at the start: does the dial read as it did?",
    "turn-shaft-to": "Turn to {wanted_deg:0} deg. Read the dial, minus where it stands below zero.",
    "turn-shaft-hint": (
        "Every {step:g} deg, always the same way round; dial square to the seat and pressed in a little."
    ),
    "six-places-for-ovality": "Six places or more tell a worn, out-of-round seat from a bent shaft.",
    "seat-out-of-round": (
        "Part of it comes twice a turn: an out-of-round, worn seat, not a bend. Truing the shaft will not "
        "cure that part."
    ),
    "fitted-exceeds-read": (
        "Read {read_mm:fine} over these places; what fits them spans {total_indicated_mm:fine}, and that is "
        "counted. More places tell more."
    ),
}
say = partial(message, MESSAGES)
