"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Say how the degree wheel is mounted and numbered, so that you can type what your eye reads.",
    needed=(
        "the degree wheel and a stiff pointer",
        "a bolt that holds the wheel fast",
    ),
    steps=(
        "Fix the wheel, and bend the pointer to its rim.",
        "Choose its numbering: 0-360, 0-180-0, or 0-90-0-90.",
        "Say at which end it sits: front or flywheel.",
        "For 0-360, say which way its numbers rise as you face it.",
        "Give its smallest division, and that of the dial.",
    ),
    wrong=(
        ("The wheel described from the wrong end", "Both contacts then come on the wrong side: it asks about that."),
        ("A wheel that slips", "Tighten it; whatever was read before is history."),
    ),
    why="A reading is kept as your eye saw it; only the wheel's description makes an angle of it.",
)
