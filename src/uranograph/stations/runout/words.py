"""What is said at runout."""

from uranograph.bench.finding import Said

FOUND = {
    "measured": Said("What it allows is shown at the timing drive.", "Measured", "Go on to the drive."),
    "not-measured": Said(
        "Runout decides the drive: read it before anything is ordered.", "Not measured yet", "Read round the shaft."
    ),
    "did-not-come-back": Said(
        "Back at the start the dial stood {off_mm:fine} off: its base moved, or the shaft did.",
        "Cannot tell",
        "Clamp it firmer; read round again.",
    ),
    "rounds-differ": Said(
        "The rounds differ by {spread_mm:fine}: something moved between them.",
        "Cannot tell",
        "Void the round that is wrong, and read again.",
    ),
    "under-way": Said("So far.", "Under way", "Read on round the shaft."),
}
REFUSALS = {
    "too-many-turns": "Up to {most_sets} times round, please: more tell nothing new.",
    "more-than-any-dial": "“{typed}” is more than any dial shows here: inches or mm?",
    "no-place-of-turn": "“{drop}” is no place of the turn: 0 to 360 degrees.",
}
