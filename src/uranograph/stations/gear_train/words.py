"""What is said at gear train."""

REFUSALS = {
    "mark-past-teeth": "“{name}” has {teeth} teeth: counted from its first mark, 0 to {most}.",
}
