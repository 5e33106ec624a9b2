"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Enter what the grinder's card says, so that what you measure stands beside it.",
    needed=("the card that came with the cam",),
    steps=(
        "Copy the line as it is printed, or fill the fields one by one.",
        "Give the checking lift, and whether it is at the lifter or at the valve.",
        "Look at what follows from it, drawn hollow.",
        "Where two figures cannot both be true, look at the card again.",
        "Say what its centerline means where the lobe is uneven: middle of the events, or highest lift.",
    ),
    wrong=(
        ("Lobe lift taken for valve lift", "Valve lift is lobe lift times the rocker ratio, less the lash."),
        ("A misprint", "Figures that contradict one another are flagged: ask the grinder."),
        ("A sign lost", "An event on the other side of its dead center is negative."),
    ),
    why="An event means nothing without the lift at which it counts.",
)
