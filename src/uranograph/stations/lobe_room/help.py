"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="See that every lobe clears lifter bore, case and rods.",
    needed=(
        "a strip of known thickness, or blades",
        "a light",
    ),
    steps=(
        "Turn the lobe toward what it could touch.",
        "Find the thickest strip that passes.",
        "Type it for that lobe.",
        "Go on lobe by lobe; the tightest decides.",
        "Read the tightest again.",
    ),
    wrong=(
        ("Only one lobe tried", "Cores are cast: they differ from lobe to lobe."),
        ("Tried without the thrust plate", "The cam then lies elsewhere along its axis."),
    ),
    why="A lobe that touches once takes the case or the lifter with it.",
)
