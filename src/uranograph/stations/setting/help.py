"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Bring an end play to its middle: shims, spacer and plate, or thrust faces taken down.",
    needed=(
        "the play, measured",
        "the shims in stock, each measured",
        "glass, fine paper and a micrometer for thrust faces",
    ),
    steps=(
        "Choose what sets the play on this engine.",
        "Say which way a shim works: more play or less.",
        "Type the thicknesses that you have.",
        "Fit the pack that it names, or take off what it says, both faces alike.",
        "Put it together and measure the play again: nothing else proves it.",
    ),
    wrong=(
        ("Hoping it wears in", "A tight thrust face never wears in: the bearing turns in its seat."),
        (
            "One face sanded more than the other",
            "The bearing then no longer stands in the middle: both alike, in passes.",
        ),
        ("Bearing dust in the nose", "It may hold lead: wet, gloves, wiped up."),
    ),
    why="Half the window either side of the middle is room for heat and wear.",
)
