"""Messages of valve lash and the stops at which it is set."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "nothing-read": FindingMessage(
        "Valve by valve, each where it rests on its base circle.",
        next_step="Say what lash is wanted.",
    ),
    "stops-known": FindingMessage(
        "{count} crank stops serve every valve of this cam.",
        "",
        "Turn to the first stop and set its valves.",
    ),
    "too-tight": FindingMessage(
        "{name} has {found} of lash, and {wanted} is wanted: a valve that never shuts burns.",
        "Out: too tight",
        "Set {name} again.",
    ),
    "too-loose": FindingMessage(
        "{name} has {found} of lash, and {wanted} is wanted.",
        "Out: too loose",
        "Set {name} again.",
    ),
    "bracket-straddles": FindingMessage(
        "{name}: {found} says neither in nor out of {wanted}.",
        "Cannot tell",
        "Try {name} with the next blades, thicker and thinner.",
    ),
    "in-firing-order": FindingMessage(
        "{count} stops in firing order: each cylinder at its own firing TDC, about every {apart_deg:.0f} crank deg, its intake and then "
        "its exhaust.",
        "",
        "Turn to the firing TDC of the first cylinder and set its valves.",
    ),
    "valve-by-valve": FindingMessage(
        "{count} valves, and no stop is known that serves several.", "", "Turn each lobe away and set its valve."
    ),
    "within-so-far": FindingMessage(
        "{set} of {count} valves are set; all of these within.",
        "Within, so far",
        "Go on at {stop}.",
    ),
    "all-set": FindingMessage(
        "All {count} valves are set as wanted, {wanted}.",
        "In",
        "Turn two turns and try a few again, then go on.",
    ),
}
REFUSALS = {
    "no-such-valve-here": "This engine has {count} valves.",
    "lash-below-nothing": "Lash is not less than nothing: type 0 where no blade goes.",
    "lash-past-any": "“{typed}” is more lash than any valve has: inches or mm?",
    "blades-upside-down": "A blade of {goes_mm:full} goes and {stops_mm:full} does not? The one that does not is the thicker.",
    "turns-outside": "“{typed}” turns is no preload: such as 3/4, and never more than 3.",
}
MESSAGES = {
    "lash-choice-unknown": "Choose one of these.",
    "lash-missing": "Lash of the intake valves, or the turns of preload where lifters are hydraulic.",
    "read-lash": "{where}. {name}: slide blades in. Type the thickest that goes.",
    "read-lash-hint": "And the thinnest that does not, beside it: the lash lies between. Wanted: {wanted}.",
    "lash-as-set-goes": "{name} as set: goes",
    "lash-as-found-goes": "{name} as found: goes",
    "lash-does-not-go": "does not go",
    "read-preload": "{where}. {name}: turn down to no lash, then count the turns to where it is left.",
    "preload-hint": "No lash: the pushrod just stops turning between two fingers. Wanted: {wanted}.",
    "preload-label": "{name}: turns past no lash",
    "at-stop": "Crank at {place}",
    "lobe-turned-away": "Its lobe turned away",
    "place-tdc": "the firing TDC of {cylinder}",
    "place-after-firing-tdc": "{crank_deg:abs} after {first}'s firing TDC",
    "lash-as-set": "{name} as set",
    "lash-as-found": "{name} as found",
    "preload-of": "{name}, preload",
    "stops-from-sweeps": "Events at the lash by the sweeps, {margin:g} deg kept free on either side.",
    "stops-from-card": "Events at the lash by a nominal lobe of the card, {margin:g} deg kept free on either side.",
    "no-stops": "No stops without a firing order: turn each lobe away by itself.",
    "stops-by-firing-order": "Fewer stops serve once a card or sweeps say when this cam lifts.",
    "both-wanted": "intake {intake}; exhaust {exhaust}",
    "on-the-rim": "On a rim {rim_mm:unit} across its marks lie {listed} after that of the firing TDC of {first}.",
    "one-mark": "One mark on the balancer, at the firing TDC of {first}, serves every stop.",
    "card-without-lash": "The card is checked without lash: set it, and events move by it.",
    "turns-words": "{turns:g} turns",
}
say = partial(message, MESSAGES)
