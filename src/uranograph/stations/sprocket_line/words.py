"""What is said at sprocket line."""

REFUSALS = {
    "deeper-than-any-case": "“{typed}” is deeper than any timing case: inches or mm?",
}
