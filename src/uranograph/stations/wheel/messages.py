"""What is said at wheel."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

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
SAID = {
    "wheel-numbered": "Say how the wheel is numbered.",
    "which-end-crank-carries": "Say which end of the crank carries the wheel.",
    "which-way-numbers-rise": "Say which way its numbers rise as you face it.",
    "numbers-count": " and its numbers count {way}",
}
say = partial(tell, SAID)
