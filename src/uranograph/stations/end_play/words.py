"""What is said at end play."""

REFUSALS = {
    "play-allowed-missing": "Say what play of the {part} is allowed first.",
    "lever-below-nothing": "A play cannot be less than nothing: lever back, zero the dial, read again.",
    "more-than-any-play": "“{typed}” is more than any end play: inches or mm?",
    "blade-answer-missing": "Say whether the blade goes.",
    "not-a-blade": "“{drop}” is no blade: inches or mm?",
}
