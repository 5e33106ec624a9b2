"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Bring crank and cam together at their marks, keys or hole sets, and prove it.",
    needed=(
        "a light",
        "a level and a flag for the keys",
        "a soft hose to turn a journal by",
    ),
    steps=(
        "Turn all pistons well down before the cam is turned alone.",
        "Bring crank and cam to their marks, and say at which TDC the crank stands.",
        "Fit the gear, and look at every pair of marks that it asks for.",
        "Try one tooth early and one tooth late: both must be clearly worse.",
        "Take pins out, turn two turns by hand, and look again.",
    ),
    wrong=(
        ("A mark that looks right in two places", "Then the key decides: measure it with a level."),
        ("A helical gear that turns as it slides in", "Start it so much to one side that it ends on its mark."),
        ("A sprung gear's pin left in", "It is counted in, and counted out."),
        ("Close taken for lined up", "Of a blind gear's hole sets exactly one fits: try every one."),
    ),
    why="One tooth is many degrees: the neighbors of the right place are always clearly wrong.",
)
