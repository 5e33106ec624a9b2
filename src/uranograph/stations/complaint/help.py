"""What an apprentice is told of this station."""

from uranograph.bench.help import Help

HELP = Help(
    purpose="Follow a complaint to its cause: a reported deviation, marks that stand off, a gear that may have slipped.",
    needed=(
        "what was reported, in crank degrees or teeth",
        "the tooth count of the crank gear",
        "a light and a mirror",
    ),
    steps=(
        "Type what was reported, and who or what reported it.",
        "Look whether the marks meet each other, then at true TDC: it parts a slipped gear from a jumped tooth.",
        "Look at key, dowel or witness point, and write down what you see.",
        "Read which cause stands first, and what speaks for it.",
        "Say what was found and what was done, then measure or look again: only that closes the complaint.",
    ),
    wrong=(
        (
            "Degrees taken for teeth",
            "One tooth is 360 over the crank gear's teeth: less than half of that is no jumped tooth.",
        ),
        (
            "Marks trusted on a pressed gear",
            "A pressed or shrunk gear can slip while its marks stay right: look at true TDC.",
        ),
        ("One reason taken for proof", "None is ruled out by one look alone."),
    ),
    why="A whole number of teeth speaks for a jumped tooth; anything else for a slipped gear, a sheared key, a worn chain or a wrong part.",
)
