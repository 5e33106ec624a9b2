"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Describe the gears between crank and cam: what one tooth is worth, and when the marks meet again.",
    needed=(
        "the tooth counts",
        "which gears carry marks, and of which kind",
    ),
    steps=(
        "Count the teeth of crank gear, idlers and cam gear.",
        "Say which meshes with which, and which share a shaft.",
        "Give the marks: on a tooth, in a space, or straddling.",
        "Turn the picture by teeth, and compare.",
        "Read after how many turns every mark is back.",
    ),
    wrong=(
        ("An idler's mark not back after two turns", "That is how it must be; it says after how many it is."),
        ("Pumps given marks", "Vacuum, steering and oil pumps need no timing: leave them untimed."),
    ),
    why="A mesh slipped by a tooth turns the cam by 360 over its own teeth; at two-gear idlers that differs from mesh to mesh.",
)
