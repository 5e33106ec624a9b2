"""What is said at wheel."""

from uranograph.bench.finding import Said

FOUND = {
    "described": Said(
        "{scale} at the {end}. Facing it, forward is {faced}{counting}.", "Wheel described", "Find true TDC."
    ),
    "not-described": Said("The wheel is not set up.", next_step="Say how the wheel is mounted and numbered."),
}
REFUSALS = {
    "not-a-wheel-division": "“{typed}” is no division a wheel has. It is usually 1 degree.",
    "not-a-dial-division": "“{typed}” is no division a dial has. It is usually 0.001 in or 0.01 mm.",
    "no-such-side": "“{side}” is no side a wheel has.",
    "wheel-without-sides": "“{typed}”: a {scale} wheel has no sides. Type the number alone.",
}
