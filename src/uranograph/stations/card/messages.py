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
    "choose-one-of": "“{typed}” is none of {allowed}.",
    "duration-not-wider": "{typed:g} at the seat is not more than {at_check:g} at the checking lift: look at the card again.",
    "duration-not-narrower": "{typed:g} at .200 in is not less than {at_check:g} at the checking lift: look at the card again.",
    "lifts-clash": (
        "{lobe} valve lift {stated_mm:u}, but lobe lift {top_mm:u} times rocker ratio {ratio:g} less lash {lash_mm:u} is "
        "{wanted_mm:u}: one of them is wrong."
    ),
    "centerline-of-peak": (
        "{lobe} centerline {peak} is taken as that of the peak: the middle of the printed events is {middle}, and events decide."
    ),
    "centerline-of-either": (
        "The card does not say whether its centerline is of the peak or of the middle of the events: both are allowed for. "
        "Ask the grinder, and say it below."
    ),
    "must-degrees": "{named} {angles:g} cannot be: it must be {limit} degrees.",
    "least-lift-above-greatest": "The least lift is above the greatest: look at the card again.",
}
say = partial(tell, SAID)
