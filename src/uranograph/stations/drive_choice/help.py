"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Decide which drive this shaft can carry: gears, chain, belt.",
    needed=(
        "the runout, measured",
        "the drive maker's sheet",
    ),
    steps=(
        "Read the runout first.",
        "Type the backlash that is allowed, where gears are wanted.",
        "Read each drive: yes, only if, or no, and why.",
        "Look at what would change the answer: another drive, or the shaft trued.",
        "Only then order parts.",
    ),
    wrong=(
        (
            "Smaller gears fitted until the backlash measures right",
            "Mean backlash comes good, the swing does not: it whines and wears.",
        ),
        ("A tensioner that hides a bent shaft", "It follows the runout, it does not cure it."),
    ),
    why="The drive is bought once; a shaft that runs out eats it slowly.",
)
