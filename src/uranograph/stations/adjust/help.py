"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Choose the position of the drive that cures the error.",
    needed=(
        "the verdict of the degree station",
        "what the drive offers: keyways, bushings, pins, slots",
    ),
    steps=(
        "Describe what the drive offers, and what is fitted now.",
        "Read the best positions, what each leaves, and how near the valves come.",
        "Bring all pistons well down before the cam is turned alone.",
        "Move it as it says, bolts snug, and choose the position here.",
        "Degree again: only that proves the move.",
    ),
    wrong=(
        (
            "A mark in cam degrees taken for crank degrees",
            "The change then comes twice as large: it says so afterwards.",
        ),
        ("The wrong way", "Late is cured by advancing."),
        ("A position that brings a valve to its piston", "It stands beside each position; none of these is advised."),
    ),
    why="Moving the cam cures its phase alone; durations and separation are the grind's.",
)
