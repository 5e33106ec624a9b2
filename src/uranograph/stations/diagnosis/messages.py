"""Messages of diagnosis."""

from functools import partial

from uranograph.bench.messages import message

MESSAGES = {
    "crank-teeth-missing": "Count the teeth of the crank gear.",
    "report-missing": "Type what is reported, in crank degrees, late positive; or a claim to check below.",
    "worn-chain-retards": "A chain worn long retards the cam; measure its length over many links.",
    "within-report-resolution": "{shown} deg is within what such a report can tell.",
    "whole-teeth": ("{shown} deg {way} is {words} of {per} deg, {left} {over}: the marks were missed, or it jumped."),
    "look-before-moving-back": "Look at the marks and at the tensioner before the gear is moved back.",
    "jumped-teeth-are-worn": "Teeth that jumped are worn: look at all of them.",
    "less-than-half-a-tooth": "{shown} deg is less than half a tooth ({per} deg): it cannot be a jumped tooth.",
    "not-near-whole-teeth": "{shown} deg is not near a whole number of teeth of {per} deg ({near} would be {whole}).",
    "gear-slipped-or-key-sheared": "A pressed gear has slipped on its shaft, or a key is sheared. {pressed}",
    "wrong-gear-or-pattern": "A wrong gear, or the right one in a wrong bolt pattern.",
    "sensor-or-cam-degrees": ("A sensor ring that has moved, or a report in cam degrees: ask which degrees are meant."),
    "claim-in-crank-degrees": "with {crank_teeth} crank teeth, {words} is {true_deg} crank deg ({true_2_deg} cam deg)",
    "claim-is-in-cam-degrees": "The claim is in cam degrees: {fact}.",
    "claim-fails": "The claim does not hold: {fact}, not {claimed_deg}.",
}
say = partial(message, MESSAGES)
