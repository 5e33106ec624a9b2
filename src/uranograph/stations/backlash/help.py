"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Measure the play between gear teeth round the cam: tightest and loosest place, and what the swing comes from.",
    needed=(
        "a dial indicator near the pitch line",
        "something that locks one gear",
    ),
    steps=(
        "Lock one gear.",
        "Set the dial square to the tooth, and say at which radius.",
        "Rock the other gear, and read its travel.",
        "Turn on to the next place: twelve round the cam.",
        "Read tightest and loosest against what is allowed, and the swing by itself.",
    ),
    wrong=(
        ("Judged by its mean", "Gears bind at the tightest place."),
        ("The dial at another radius than the pitch line", "The reading is scaled: give the radius."),
        ("Cold backlash alone", "Case and gears grow: gone when hot is out."),
    ),
    why="A gear that runs out shows once a turn of its own; another size moves the mean and never the swing.",
)
