"""What is said at card."""

REFUSALS = {
    "not-a-cam-lift": "“{typed}” is no lift a cam has. Check the figure and its unit.",
}
