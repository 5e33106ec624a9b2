"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Set or check timing by what can be seen: marks, dowels, keys, lifters at overlap, the rotor.",
    needed=(
        "a light",
        "the manual's picture of the marks",
    ),
    steps=(
        "Bring the crank to TDC, or to where the manual says, and say which it is: marks mean nothing without it.",
        "Look at the lifters: both shut and free is firing, both a little up is overlap.",
        "Answer what you see, also *there is none*.",
        "Look at each mark against its neighbor or against what stands still.",
        "Take pins out and count them, turn two full turns by hand, and look again.",
    ),
    wrong=(
        ("Firing TDC taken for overlap TDC", "The piston says nothing of it: the lifters do."),
        ("A mark trusted where the key decides", "Lobes are ground from the key."),
        (
            "A dot followed against a key or dowel",
            "Where key, pin or dowel stand right, a dot that is off turns no gear.",
        ),
        ("An idler's mark hunted for", "It comes back only after many turns; gear and case are back after two."),
    ),
    why="What the eye sees is a reading too, and it costs nothing.",
)
