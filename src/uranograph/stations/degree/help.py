"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Measure where the cam stands against its card.",
    needed=(
        "a dial indicator in line with the lifter",
        "the wheel, with true TDC found",
        "the card",
    ),
    steps=(
        "Zero the dial on the base circle.",
        "Turn forward to the lift that it asks for; never read backward.",
        "Read the wheel, and type what you see with its side.",
        "Go on as it asks: events, or equal lift each side of the peak.",
        "Take the readings that it asks for last: they prove the verdict.",
    ),
    wrong=(
        ("Overshot and turned back", "The slack comes in: go well back and come up again."),
        ("Dial askew to the lifter", "It reads short: greatest lift tells."),
        ("The wrong lobe", "Its readings fit the other lobe's card: it asks about that."),
        ("Cam degrees taken for crank degrees", "One cam degree is two crank degrees."),
    ),
    why="Two places of the same lift enclose the lobe's middle; a late cam is cured by moving it, a wrong duration is not.",
)
