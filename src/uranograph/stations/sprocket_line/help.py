"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Bring the sprockets of a chain into one line.",
    needed=(
        "a straight edge and a depth gauge",
        "shims for the cam stub",
    ),
    steps=(
        "Choose one flat face as the datum.",
        "Read the depth of the driver's face.",
        "Read the depth of the driven face, at the same row.",
        "Fit the shims that it names.",
        "Read again before the chain goes on.",
    ),
    wrong=(
        ("Rows not counted", "Where the faces are not of the same row, give the offset."),
        ("Measured with end play open", "Push both shafts the same way first."),
    ),
    why="A chain that runs askew wears its side plates and its guide.",
)
