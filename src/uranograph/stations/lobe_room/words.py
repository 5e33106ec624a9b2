"""What is said at lobe room."""

REFUSALS = {
    "no-such-lobe": "This engine has {count} lobes.",
    "gap-below-nothing": "A gap is not less than nothing: type 0 where it touches.",
    "more-than-any-room": "“{typed}” is more room than any case has: inches or mm?",
}
