"""What is said at true tdc."""

REFUSALS = {
    "pair-far-from-others": (
        "With “{typed}” this pair puts the top at {top}, while the earlier pairs put it at {earlier}: more "
        "than {furthest_apart_deg:g} deg apart. Read again. If the earlier ones are wrong, void them first; "
        "if the wheel was moved, say so first."
    ),
    "below-tdc-missing": "Type how far below the top the piston is, such as 0.200 or 5mm.",
    "not-below-tdc": "A drop of “{drop}” is not below the top. Use {low_mm:u} to {high_mm:u}.",
}
