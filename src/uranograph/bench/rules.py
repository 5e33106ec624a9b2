"""Which rules judge: a number that moves with every change of what they find, so that a signature names what judged it."""

# A test holds what the rules find of whole jobs to this number.
RULES = 1
