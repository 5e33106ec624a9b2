"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Plan a cam change: who does what when, and how long it takes with the hands there are.",
    needed=(
        "the list of tasks with their minutes",
        "how many people help",
    ),
    steps=(
        "List the tasks, or take the usual ones.",
        "Say what must come before what, and how many hands each takes.",
        "Read how long it takes, and which tasks nothing may hold up.",
        "Lay out tools and spares task by task.",
        "Start the clock and tick what is begun and done.",
    ),
    wrong=(
        (
            "Springs unloaded after the cam is moved",
            "Unload them first: springs under load turn the cam by themselves.",
        ),
        ("One person at wheel and dial", "Two places want two people; both can follow this job on a screen."),
        (
            "A caution forgotten when hot",
            "On a dyno the coolant is hot and the engine may turn: read the cautions first.",
        ),
    ),
    why="The time of the whole is that of its longest chain of tasks; more hands do not shorten that.",
)
