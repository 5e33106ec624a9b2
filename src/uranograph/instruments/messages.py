"""Sentences of instruments."""

from functools import partial

from uranograph.bench.messages import message, refusals

MESSAGES = {
    "instrument-name-missing": "Give it a name: D1, E1.",
    "instrument-url-missing": "Say where it is: a serial port, socket://host:port, bridge:NAME or world:7.",
    "instrument-pattern-missing": "Say what its lines are: number, channels, angle-count, counts, counts-index, or your own.",
    "instrument-kind-missing": "Choose one of these.",
    "instrument-unit-missing": "Choose a unit.",
    "instrument-unit-unfit": "That unit does not go with this kind of instrument.",
    "state-live": "live",
    "state-connecting": "connecting",
    "state-not-there": "not there",
    "state-silent": "silent for {s:.0f} s",
    "state-babbling": "babbling: check the speed of the line",
    "state-unread": "not understood: “{line}”",
    "state-jumping": "jumping: its figures do not follow one another",
    "note-was-away": "it was away, and an encoder can lose its zero so: check one reading",
    "note-turn-past-index": "it was away: turn it past its index, then its zero holds again",
    "note-index-found": "it was away, and has found its zero again at its index",
    "state-of-another-kind": "nothing on its channel",
}
REFUSALS = refusals(
    {
        "pattern-without-figure": "“{typed}” has no figure in it: name one in braces, value, angle or count.",
        "pattern-unknown-place": "“{typed}” is no place of a line: there are value, unit, angle, count, index, name and any, each once.",
        "no-instrument-address": "“{typed}” is no address of an instrument: a serial port, socket://host:port, or world:number.",
        "no-scale": "“{typed}” is no scale: a number such as 1 or 0.001.",
        "no-zero": "“{typed}” is no zero: a number such as 0 or 1.25.",
        "nothing-to-zero": "“{typed}” shows nothing to zero at now.",
        "no-uncertainty": "“{typed}” is no uncertainty: a number above 0, such as 0.01.",
        "too-many-instruments": "Up to {most} instruments: take one off the list first.",
        "nothing-to-sweep-with": "A sweep needs an encoder and a dial that are live: see Instruments.",
        "no-thermometer-is-live": "That takes a thermometer that is live: see Instruments.",
        "no-dial-is-live": "That takes a dial that is live: see Instruments.",
        "nothing-swept": "Nothing was swept yet: turn the crank slowly forward, two turns.",
        "no-capture-line": "Line {number} is none of a capture: it has a time t and a line raw.",
        "no-such-instrument": "There is no instrument “{typed}”.",
    }
)
say = partial(message, MESSAGES)
