"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Fit the gear to the cam so that it sits right the first time.",
    needed=(
        "the gear, key or dowel, thrust plate",
        "heat that the gear's material bears, gloves, eye protection",
        "a torque wrench",
    ),
    steps=(
        "Try key and position cold: once it grips it cannot be shifted.",
        "Put on what comes first: spacer ring, plate with its grooves the right way.",
        "Heat the gear to what it says, and no more; measure it as it comes out of the heat, and the shaft where it is chilled.",
        "Put it on with its marks outward, and see the key in its slot with a light.",
        "Prove that the plate is still free; bolts snug until degreeing is done.",
    ),
    wrong=(
        ("Tightened beside the key on a taper", "It feels right: look into the slot and see the key."),
        ("A bolt pattern that fits twice", "Only one place has the mark where it belongs."),
        (
            "Bright metal read by an infrared thermometer",
            "It shows too little: a patch of matt black paint reads true.",
        ),
        (
            "Heated past its temper",
            "Each material has a limit; magnesium sees no flame at all. Grease and paint give off fumes.",
        ),
    ),
    why="A bore grows by its length times alpha times the heat: enough to slip on, never so much that the metal changes.",
)
