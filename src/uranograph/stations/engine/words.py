"""What is said at engine."""

from uranograph.bench.finding import Said

FOUND = {
    "described": Said("{why}", "Engine described", "Enter the spec card."),
    "not-described": Said("The engine is not described yet.", next_step="Describe the engine."),
}
REFUSALS = {
    "cylinders-outside": "“{typed}” cylinders cannot be. Type a whole number from 1 to {most_cylinders}.",
    "rocker-ratio-unlikely": "A rocker ratio of {ratio:g} is not likely. It is usually 1 to 2.",
}
