"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Set the valve lash at the fewest stops of the crank, each valve on its base circle.",
    needed=(
        "feeler blades",
        "the lash that card or manual names, hot or cold",
    ),
    steps=(
        "Give the lash, and whether cold or hot.",
        "Mark the stops on the balancer, as it lists them.",
        "Turn to the first stop, and set the valves that it names.",
        "Read what goes and what does not.",
        "Go on to the next stop, two turns in all.",
    ),
    wrong=(
        (
            "The usual two-stop list with a big cam",
            "Some valves are then not on their base circle: these stops are for this cam.",
        ),
        ("Set hot figures on a cold engine", "Say which it is."),
        ("A lobe with a ramp", "Stay well within the base circle."),
    ),
    why="On the base circle the lash is the same whichever way the crank is nudged.",
)
