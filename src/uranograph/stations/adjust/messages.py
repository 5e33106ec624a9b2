"""What is said at adjust."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "drive-missing": Said("What this drive offers is not described yet.", next_step="Describe its adjusters."),
    "moved": Said("The cam was moved. Degree it again to see what it did.", next_step="Measure at this position."),
    "moved-wheel-too": Said(
        "The cam was moved, and what was opened for it took the wheel's zero along.",
        next_step="Find TDC again, then degree it.",
    ),
    "not-degreed": Said("Degree the cam first.", next_step="Measure at this position."),
    "no-move-needed": Said(
        "Within tolerance; nothing needs to move.", "In: no move is needed", "Prove the clearances next, then lock up."
    ),
    "better-position": Said(
        "Within tolerance. {best}", "In: a better position is offered", "Leave it, or choose the better position."
    ),
    "not-sure-enough": Said("Degreeing cannot tell yet where the cam stands. {best}", "Cannot tell yet", "{step}"),
    "position-cures": Said("{best}", "A position cures it", "Choose a position, move it, degree again."),
    "no-position-cures": Said(
        "{best}", "Out: no position brings it within tolerance", "Choose a position, move it, degree again."
    ),
    "drive-cannot-be": Said("{why}", "Cannot tell", "Describe the drive again."),
}
REFUSALS = {
    "chain-too-long": "A chain “{typed}” % longer is not likely: most are worn out at 2 %.",
    "not-a-label-with-shift": "“{typed}” is no label with a shift. Type it such as A4: 4, with commas between.",
    "label-twice": "“{typed}” stands twice.",
    "position-not-offered": "This position is not offered any more: look at the list again.",
    "nothing-to-try": "This leaves everything as it is: there is nothing to try.",
}
SAID = {
    "would-come-too-near": "would cure it, and leaves {gap_mm:unit} at {name}: too near.",
    "set-live": (
        "Or set it by the dial: hold the crank where the wheel shows {figure}, keep the gear back against its slack, turn the "
        "{cam} forward until the {lobe} is up to {lift_mm:u}, and tighten. Mark and step are then no matter."
    ),
    "set-live-by-lift": (
        "Or set it by the dial: zero the dial on the greatest lift of the {lobe}. Hold the crank where the wheel shows {figure}, "
        "keep the gear back against its slack, turn the {cam} forward until the {lobe} rises to {drop_mm:u} below max lift, and "
        "tighten. Mark and step are then no matter."
    ),
    "mark-is-worth": "By the move of it a degree on the marks of “{name}” is worth {worth_deg:2}; that is counted from now on.",
    "drive-offers-move-cam": "Say what this drive offers to move the cam by.",
    "each-choice-shift-r4": "Type each choice and its shift, such as R4: -4, 0: 0, A4: 4.",
    "crank-gear-s-teeth": "Type the crank gear's teeth.",
    "many-holes-sprocket": "Type how many holes the sprocket has.",
    "many-holes-hub": "Type how many holes the hub has.",
    "cam-gear-s-teeth": "Type the cam gear's teeth.",
    "many-sets-holes": "Type how many sets of holes it has.",
    "choose-kind-adjuster": "Choose what kind of adjuster this is.",
    "far-goes-either-way": "Type how far it goes either way.",
    "finely-set": "Type how finely it can be set.",
    "leave": "leave it as it is",
    "not-measured-before-move": "It was not measured before the move.",
    "measure-predicted": "Measure again: {before} is predicted.",
    "chain-longer-makes-cam": "The chain, {elongation_pct:g} % longer, makes the cam about {late_deg} deg late.",
    "makes-cam-about-deg": "{cut} makes the cam about {late_deg} deg {way}.",
    "block-head-cut": "Block or head cut by {words}",
    "within-tolerance-nothing-needs": "{figure}within tolerance; nothing needs to move.",
    "moving-cam-not-cure": "{named}moving the cam does not cure this: its lobes say different things.",
    "read-the-other-cam": "One adjuster moves both cams: read the {cam} as well, before anything is moved.",
    "on-bank": "Bank {bank}: {words}",
    "nothing-described-moves": "{named}nothing described here moves it.",
    "predicted-less-these-readings": (
        "{phrase}; {wanted} were predicted, less than these readings tell apart (± {uncertainty_deg:.1f})."
    ),
    "did-not-move-deg": "It did not move: {wanted} deg were predicted. Was the cam put back where it was?",
    "wrong-way-moved-backward": "{phrase} the wrong way, {way}: it was moved backward.",
    "twice-predicted-these-marks": "{phrase}, twice the {wanted} predicted: these marks are cam degrees.",
    "half-predicted-these-marks": (
        "{phrase}, half the {wanted} predicted: these marks are crank degrees, or half the move was made."
    ),
    "where-predicted-moved-re": "{phrase} where {wanted} were predicted: look at what was moved, and re-read.",
}
say = partial(tell, SAID)
