"""What is said at card."""

from uranograph.bench.finding import Said

FOUND = {
    "holds-together": Said("Centerlines: {middles}.", "The card holds together", "Set up the wheel."),
    "no-card": Said("No spec card yet.", next_step="Type what the card gives, any part of it."),
    "contradicts-itself": Said("{why}", "The card contradicts itself", "Look at the card again."),
    "lifts-only": Said("Lift at overlap TDC for {lobes}.", "The card gives lifts", "Set up the wheel."),
    "more-needed": Said(
        "No centerline follows from this yet.",
        "More is needed",
        "Add a centerline, or duration and separation, or both events of a lobe.",
    ),
}
REFUSALS = {
    "not-a-cam-lift": "“{typed}” is no lift a cam has. Check the figure and its unit.",
}
