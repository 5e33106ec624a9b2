"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Measure how far a shaft runs out before any part is bought, since it decides the drive.",
    needed=(
        "a dial indicator on a stand",
        "two blocks or the engine's own bearings",
        "a felt pen",
    ),
    steps=(
        "Clean the seat, and mark equal steps round it: eight or twelve.",
        "Set the dial square to the shaft and zero it at the first mark.",
        "Turn on to each mark and read, always the same way round.",
        "Come back to the first mark: it must read what it did.",
        "Read a second round; then look at what it allows at Timing drive.",
    ),
    wrong=(
        ("Too few places", "Four places can miss nearly a third of it: read eight or more."),
        (
            "An oval journal taken for a bent shaft",
            "Once a turn is bent or off center, twice a turn is worn oval: the figure shows both apart.",
        ),
        ("The dial did not come back", "Stand or magnet moved: read the round again."),
    ),
    why="A gear on a shaft that runs out by T swings the backlash by 2 T times the tangent of the pressure angle: no gear size cures that.",
)
