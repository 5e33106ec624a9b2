"""What is said at runout."""

REFUSALS = {
    "too-many-turns": "Up to {most_sets} times round, please: more tell nothing new.",
    "more-than-any-dial": "“{typed}” is more than any dial shows here: inches or mm?",
    "no-place-of-turn": "“{drop}” is no place of the turn: 0 to 360 degrees.",
}
