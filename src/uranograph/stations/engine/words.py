"""What is said at engine."""

REFUSALS = {
    "cylinders-outside": "“{typed}” cylinders cannot be. Type a whole number from 1 to {most_cylinders}.",
    "rocker-ratio-unlikely": "A rocker ratio of {ratio:g} is not likely. It is usually 1 to 2.",
}
