"""Messages of adjust."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "drive-missing": FindingMessage(
        "What this drive offers is not described yet.", next_step="Describe its adjusters."
    ),
    "moved": FindingMessage(
        "The cam was moved. Degree it again to see what it did.", next_step="Measure at this position."
    ),
    "moved-wheel-too": FindingMessage(
        "The front came apart: find TDC again.",
        next_step="Find TDC again, then degree it.",
    ),
    "not-degreed": FindingMessage("Degree the cam first.", next_step="Measure at this position."),
    "no-move-needed": FindingMessage(
        "Within tolerance; nothing needs to move.", "In: no move is needed", "Prove the clearances next, then lock up."
    ),
    "better-position": FindingMessage(
        "Within tolerance. {best}", "In: a better position is offered", "Leave it, or choose the better position."
    ),
    "not-sure-enough": FindingMessage(
        "Degreeing cannot tell yet where the cam stands. {best}", "Cannot tell yet", "{step}"
    ),
    "position-cures": FindingMessage("{best}", "Here is the fix", "Choose a position, move it, degree again."),
    "no-position-cures": FindingMessage(
        "{best}", "Out: no position brings it within tolerance", "Choose a position, move it, degree again."
    ),
    "drive-cannot-be": FindingMessage("{why}", "Cannot tell", "Describe the drive again."),
}
MESSAGES = {
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
    "nothing-to-move": "{figure}within tolerance; nothing needs to move.",
    "moving-cannot-cure": "{named}moving the cam does not cure this: its lobes say different things.",
    "read-the-other-cam": "One adjuster moves both cams: read the {cam} as well, before anything is moved.",
    "no-adjuster-moves-it": "{named}nothing described here moves it.",
}
say = partial(message, MESSAGES)
