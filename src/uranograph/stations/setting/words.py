"""What is said at setting."""

REFUSALS = {
    "thicknesses-missing": "Type the thicknesses, such as 0.20 + 0.15, or 0 where none is fitted.",
    "too-many-thicknesses": "These are {count} thicknesses: up to 60, please.",
    "not-set-this-way": "The {part} is not set this way: look at the set-up.",
    "not-a-part-thickness": "“{typed}” is no thickness of these parts: inches or mm?",
    "not-a-shim": "“{piece}” is no shim: it has some thickness, and less than {most_mm:u}.",
    "thicker-than-before": "“{typed}” is thicker than before this pass: measure it again.",
}
