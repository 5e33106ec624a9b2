"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Prove by hand that the engine turns freely as it is put together.",
    needed=(
        "a bar or wrench on the crank",
        "plugs out",
    ),
    steps=(
        "Take the stop and all tools out.",
        "Turn two full turns by hand, slowly.",
        "Where it stops, do not push: look.",
        "Write down the angle, and what was found.",
        "Turn again once it is cured.",
    ),
    wrong=(
        ("Pushed past a stop", "That is a bent valve: back off and look."),
        ("A bolt of the stand in the way", "It may be that, and it may be a valve: look before you say so."),
    ),
    why="The starter bends in one blow what a hand feels in time.",
)
