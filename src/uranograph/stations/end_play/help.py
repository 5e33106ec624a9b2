"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Measure how far crank, cam or idler moves along its axis, and whether that is allowed.",
    needed=(
        "a dial indicator or feeler blades",
        "a lever that hurts nothing",
        "the parts that limit it, fitted",
    ),
    steps=(
        "Fit what limits the play: thrust plate, gear, bolt or a stand-in.",
        "Say what is fitted, honestly.",
        "Lever it fully back, and zero the dial there.",
        "Lever it fully forward, and read; three times in all.",
        "By blades: the thickest that goes, and the thinnest that does not.",
    ),
    wrong=(
        ("Measured without the limiting parts", "A crank without them floats far more, and alarms people for nothing."),
        ("Not pushed all the way", "A part that feels free may still have travel left."),
        ("One blade alone", "The play lies between two: try the one that it names."),
    ),
    why="Too little play and the shaft binds when it grows hot; too much and gears or rods run off their line.",
)
