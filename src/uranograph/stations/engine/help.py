"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Say which engine is on the bench, so that everything after it is reckoned for this one.",
    needed=(
        "the engine's manual",
        "its firing order and which way it turns",
    ),
    steps=(
        "Name the job and count the cylinders.",
        "Give the firing order as the engine numbers its cylinders.",
        "Say which way it turns, seen from the front.",
        "Add stroke and rod where you know them: a drop of the piston can then be checked.",
        "Say where lift is read, and with which tappets and lash.",
    ),
    wrong=(
        (
            "Direction seen from the flywheel end",
            "It is the other way round from there: always say it from the timing end.",
        ),
        (
            "An uneven firing engine taken for an even one",
            "Give the firing angles: companions and stops follow from them, not from the count.",
        ),
        ("A bleeding hydraulic lifter", "It reads low: put a solid stand-in in its place, or pump it up."),
    ),
    why="Companion cylinders, the places of other tops, and the stops for the lash all follow from firing order and rotation.",
)
