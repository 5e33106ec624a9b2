"""What is said at backlash."""

REFUSALS = {
    "set-up-missing-backlash": "Say what the dial stands on first.",
    "travel-below-nothing": "A travel is not less than nothing: type how far the dial moves.",
    "more-than-any-backlash": "“{typed}” is more than any backlash: inches or mm?",
    "no-place-round-cam": "“{drop}” is no place round the cam: 0 to 360 cam degrees.",
}
