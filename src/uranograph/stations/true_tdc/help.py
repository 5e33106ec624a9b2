"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Find true TDC: where the piston stands highest.",
    needed=(
        "a piston stop, or a dial on the piston",
        "the degree wheel and its pointer",
    ),
    steps=(
        "Fit the stop; turn by hand only.",
        "Turn forward to the stop, and read the wheel.",
        "Turn the other way to the stop, and read again.",
        "Move pointer or wheel by half the difference, as it says.",
        "Do both again: they must agree within half a degree. Then do not touch the wheel.",
    ),
    wrong=(
        ("Read at TDC itself", "The piston dwells there for more than a degree: use two places on either side."),
        ("The starter used with a stop fitted", "Never: it breaks piston or stop."),
        ("The stop left in", "It comes out before the crank is turned on, and must not reach an open valve."),
        ("The wheel knocked afterwards", "Touch the stop again at the end: that proves it."),
    ),
    why="At the same height before and after, the crank is as far from TDC on either side.",
)
