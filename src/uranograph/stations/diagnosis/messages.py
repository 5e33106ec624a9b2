"""What is said at diagnosis."""

from functools import partial

from uranograph.bench.words import tell

SAID = {
    "count-teeth-crank-gear": "Count the teeth of the crank gear.",
    "reported-crank-degrees-late": "Type what is reported, in crank degrees, late positive; or a claim to check below.",
    "chain-worn-long-retards": "A chain worn long retards the cam; measure its length over many links.",
    "deg-within-report-tell": "{shown} deg is within what such a report can tell.",
    "deg-deg-over-marks": (
        "{shown} deg {way} is {words} of {per} deg, {left} {over}: the marks were missed, or it jumped."
    ),
    "marks-tensioner-before-gear": "Look at the marks and at the tensioner before the gear is moved back.",
    "teeth-jumped-worn-all": "Teeth that jumped are worn: look at all of them.",
    "deg-less-half-tooth": "{shown} deg is less than half a tooth ({per} deg): it cannot be a jumped tooth.",
    "deg-not-near-whole": "{shown} deg is not near a whole number of teeth of {per} deg ({near} would be {whole}).",
    "pressed-gear-slipped-shaft": "A pressed gear has slipped on its shaft, or a key is sheared. {pressed}",
    "wrong-gear-right-wrong": "A wrong gear, or the right one in a wrong bolt pattern.",
    "sensor-ring-moved-report": (
        "A sensor ring that has moved, or a report in cam degrees: ask which degrees are meant."
    ),
    "crank-teeth-crank-deg": "with {crank_teeth} crank teeth, {words} is {true_deg} crank deg ({true_2_deg} cam deg)",
    "claim-cam-degrees": "The claim is in cam degrees: {fact}.",
    "claim-not-hold-not": "The claim does not hold: {fact}, not {claimed_deg}.",
}
say = partial(tell, SAID)
