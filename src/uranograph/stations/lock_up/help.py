"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Close what was left loose, pinned or dry on the way.",
    needed=(
        "a torque wrench",
        "threadlocker where it is called for",
        "lube for the lobes",
    ),
    steps=(
        "Go through what it lists: it is all from this job's own log.",
        "Tighten, torque and lock each.",
        "Take pins and stops out, and count them; real tappets and springs in, clay out.",
        "Re-time what the cam drives, and lube the lobes again.",
        "Read TDC and the last degrees again: they must agree.",
    ),
    wrong=(
        ("A pin left in", "Pins in must be pins out."),
        (
            "A bolt pulled past its torque and left",
            "Loosen it, look, a new one where it stretches, and all stages again.",
        ),
        ("Covers on first", "Nothing is closed before the last readings agree."),
    ),
    why="What is snug while positions are tried turns loose when the engine runs.",
)
