"""What is said at degree."""

from uranograph.bench.finding import Said

FOUND = {
    "nothing-to-compare": Said(
        "Measured: {told}. The card gives nothing to compare with.",
        "Cannot tell",
        "Add a centerline, or what it follows from, to the spec card.",
    ),
    "reading-cannot-be": Said("{why}", "Cannot tell", "Void the reading and take it again."),
    "not-read": Said("{why}", next_step="{step}"),
    "in": Said("{why}", "In: {cam} is where the card wants it", "{step}"),
    "late": Said("{why}", "Out: {cam} is late", "{step}"),
    "early": Said("{why}", "Out: {cam} is early", "{step}"),
    "lobes-apart": Said("{why}", "Out: the lobes are apart", "{step}"),
    "reads-late": Said("{why}", "Cannot tell: {cam} reads late", "{step}"),
    "reads-early": Said("{why}", "Cannot tell: {cam} reads early", "{step}"),
    "lobes-disagree": Said("{why}", "Cannot tell: the lobes disagree", "{step}"),
}
REFUSALS = {
    "wheel-missing": "Set up the wheel first: the reading cannot be placed without it.",
    "below-max-missing": "Type how far below maximum lift the dial is, such as 0.050 or 1.27mm.",
    "not-below-max": "A drop of “{drop}” is not below maximum lift. Use about 0.050 in or 1 mm.",
    "off-the-lobe": "“{drop}” down is off the lobe: its whole lift is {lift_mm:u}.",
    "same-side-of-lobe": (
        "“{typed}” is where the other side of the lobe was read: turn past maximum lift and read again."
    ),
    "not-a-lobe-lift": "“{typed}” is no lift a lobe has. Check the figure and its unit.",
    "tolerance-unlikely": "A tolerance of “{typed}” deg is not likely. Strict is 0.5, usual 1, easy 2.",
    "not-taken-here": "This station does not take such a reading.",
    "not-a-swept-lift": "“{drop}” is no lift a lobe has. Check the figure and its unit.",
    "lift-there-already": "The lift at “{typed}” is there already: void that one first, or read elsewhere.",
    "sweep-file-empty": "Nothing is here. The first line names the columns: angle_deg,lift_mm.",
    "sweep-file-too-long": "{count} lines are more than the {most_rows} a sweep can have.",
    "sweep-file-columns": "Line 1: “{value}” is not angle,lift. Name two columns: angle_deg,lift_mm.",
    "sweep-file-unit": "Line 1: the lift column does not say its unit. Write lift_mm or lift_in.",
    "sweep-file-again": (
        "The {lobe} lift at {angle} is there already, and {count} of these {angles} angles in all: void "
        "those first, or bring in only the others."
    ),
    "sweep-line-figures": "Line {number}: two figures are wanted, angle and lift; “{value}” has not.",
    "sweep-line-angle": "Line {number}: {angle:g} is not within a turn of overlap TDC.",
    "sweep-line-again": "Line {number}: the angle {angle:g} stands in line {seen} already.",
    "sweep-gap": "Line {line}: after {low_deg} nothing is read for {step_deg} deg. Fill the gap.",
    "sweep-line-unit": "“{lift}” carries a unit of its own; the header says {unit} for all.",
    "sweep-line-refused": "Line {number}: {cause}",
}
