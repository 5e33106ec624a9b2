"""What is said at card."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

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
    "card-line-too-long": "This is {count} letters long; a card's lines have up to {longest}.",
    "card-line-left-over": "“{typed}” is not understood. Write it such as IO 12 IC 44 EO 52 EC 4 @ .050, or 228/236 LSA 110 +4.",
    "card-line-empty": "Nothing of a card is in this. Write it such as IO 12 IC 44 EO 52 EC 4 @ .050, or 228/236 LSA 110 +4.",
    "card-line-twice": "The same figure stands twice and differs: {one} and {other}.",
    "not-a-cam-lift": "“{typed}” is no lift a cam has. Check the figure and its unit.",
}
SAID = {
    "understood": "Understood: {listed}.",
    "card-gives-events-durations": "Type what the card gives: events, durations, centerlines or separation.",
    "checking-lift-must-less": "The checking lift must be less than the maximum lift. Look at the card again.",
    "must-degrees": "{named} {angles:g} cannot be: it must be {limit} degrees.",
    "least-greatest-used-together": "Least and greatest are used together: type both.",
    "least-lift-above-greatest": "The least lift is above the greatest: look at the card again.",
}
say = partial(tell, SAID)
