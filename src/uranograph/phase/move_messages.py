"""Messages about the positions of the drive and how each move turned out."""

from functools import partial

from uranograph.bench.messages import message

REFUSALS = {
    "position-not-offered": "This position is not offered any more: look at the list again.",
    "nothing-to-try": "This leaves everything as it is: there is nothing to try.",
}

MESSAGES = {
    "mark-is-worth": "By the move of it a degree on the marks of “{name}” is worth {worth_deg:2}; that is counted from now on.",
    "leave-as-it-is": "leave it as it is",
    "not-measured-before-move": "It was not measured before the move.",
    "measure-again": "Measure again: {before} is predicted.",
    "chain-stretch-retards": "The chain, {elongation_pct:g} % longer, makes the cam about {late_deg} deg late.",
    "cut-retards": "{cut} makes the cam about {late_deg} deg {way}.",
    "block-or-head-cut": "Block or head cut by {words}",
    "on-bank": "Bank {bank}: {words}",
}

say = partial(message, MESSAGES)
