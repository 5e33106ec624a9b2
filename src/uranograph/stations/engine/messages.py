"""Messages of engine."""

from uranograph.bench.finding import FindingMessage

FINDINGS = {
    "not-described": FindingMessage("The engine is not described yet.", next_step="Describe the engine."),
    "described-without-order": FindingMessage(
        "Turns {rotation} seen from the front. Its firing order is not given: companions and the other cylinders' TDC are "
        "not shown.",
        "Engine described",
        "Enter the spec card.",
    ),
    "described": FindingMessage(
        "Fires {order}, turns {rotation} seen from the front. Rising together: {companions}.",
        "Engine described",
        "Enter the spec card.",
    ),
    "described-without-companions": FindingMessage(
        "Fires {order}, turns {rotation} seen from the front. No two cylinders rise together.",
        "Engine described",
        "Enter the spec card.",
    ),
}
