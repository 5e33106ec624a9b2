"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Know how near every valve comes to its piston, here and at every position of the drive.",
    needed=(
        "a dial on the valve, or clay, or light springs",
        "the angle of the valves to the bore",
    ),
    steps=(
        "Give the valve's angle, and how you read.",
        "At TDC push each valve to its piston, and read the drop.",
        "Take lift from a sweep, from angles, or from the card.",
        "Read the least room, and where it is.",
        "Prove it again after every move of the cam.",
    ),
    wrong=(
        ("Only at TDC", "The least room is 5 to 15 degrees beside it."),
        ("One cylinder for all", "Heads and decks differ: read those that look tightest."),
        ("Lash left out", "That is on the safe side, and said so."),
    ),
    why="A valve that touches once bends; the room is reckoned before a move is made, not after.",
)
