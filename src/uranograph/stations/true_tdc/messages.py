"""Messages of true tdc."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

_AGREE = "Before and after agree within half a degree. Lock the wheel and do not touch it."
FINDINGS = {
    "wheel-missing": FindingMessage("True TDC needs a wheel.", next_step="Set up the wheel."),
    "contacts-cannot-be": FindingMessage(
        "{why}", "Cannot tell", "Void the wrong reading and read it again.", leads="void"
    ),
    "contacts-mirrored": FindingMessage(
        "Before the top the wheel shows after it, and after the top before it. The wheel is at the other end than was stated, "
        "or its numbers increase the other way.",
        "Cannot tell: the wheel is read the wrong way round",
        "Set the wheel up as it is, at Degree wheel.",
        leads="own",
    ),
    "not-found": FindingMessage(
        "Two readings, one each side of the top, find it. Near TDC the piston hardly moves.",
        "TDC is not found yet",
        "Read before and after.",
    ),
    "moved-unproved": FindingMessage(
        "The wheel was moved. Nothing shows yet that it is right now.", "Prove it", "Do both readings again."
    ),
    "found": FindingMessage(
        "The wheel shows {zero_deg:2,abs} {side} at true TDC. Both readings become {corrected_deg:2} once it is moved. Or leave it: "
        "the error is taken off every reading.",
        "Found: move it, or subtract it",
        "Move the pointer or the wheel, then read both again.",
        "POINTER {zero_deg:2,abs}° {pointer}",
        "Facing the wheel; or the wheel on the crank as much {wheel}.",
        leads="own",
    ),
    "moved-wrong-way": FindingMessage(
        "The wheel was off by {before_deg:2,abs} and is off by {zero_deg:2,abs} {side} now, twice as much: pointer or wheel went "
        "the wrong way. Or leave it: the error is taken off every reading.",
        "Cannot tell: moved the wrong way",
        "Move it back, then read both again.",
        "POINTER {zero_deg:2,abs}° {pointer}",
        "Facing the wheel; or the wheel on the crank as much {wheel}.",
        leads="own",
    ),
    "as-stated": FindingMessage("Taken as stated, not read here: {words}.", "In: TDC as stated", "Degree the intake."),
    "in-doubt": FindingMessage("{why}", "Cannot tell", "Void the doubtful reading; read it again.", leads="void"),
    "proved-after-moving": FindingMessage(_AGREE, "In: proved after moving", "Degree the intake."),
    "shows-tdc": FindingMessage(_AGREE, "In: the wheel shows true TDC", "Degree the intake."),
    "left-as-it-is": FindingMessage(
        "The wheel shows {zero_deg:2,abs} {side} at true TDC. It is left so: that much is taken off every reading on this wheel.",
        "In: TDC found, and subtracted",
        "Degree the intake.",
    ),
}
REFUSALS = {
    "pair-far-from-others": (
        "With “{typed}” this pair puts the top at {top}, while the earlier pairs put it at {earlier}: more "
        "than {furthest_apart_deg:g} deg apart. Read again. If the earlier ones are wrong, void them first; "
        "if the wheel was moved, say so first."
    ),
    "below-tdc-missing": "Type how far below the top the piston is, such as 0.200 or 5mm.",
    "not-below-tdc": "A drop of “{drop}” is not below the top. Use {low_mm:u} to {high_mm:u}.",
}
MESSAGES = {
    "tdc-of-cylinder-read": "TDC is of cylinder {top}; cylinder {read} is read, its top after by",
    "pair-against-geometry": (
        "Pair {number}: {drop} down should be {expected_deg} each side, and is {corrected_deg}. Wrong stroke "
        "or rod, wrong wheel scale, or a drop misread."
    ),
    "pair-against-others": (
        "Pair {number} puts TDC {gap_deg} deg from where the others do. A reading slipped, or the wheel or "
        "the stop moved: say so, or re-read it."
    ),
    "depth-at-stop": "Piston depth at the stop",
    "pin-offset-effect": "Pin offset sets the middle off by",
    "spread-of-pairs": "Spread of the zeros",
    "wheel-left": "wheel left as it is",
}
say = partial(message, MESSAGES)
