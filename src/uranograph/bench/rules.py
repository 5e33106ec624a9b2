"""Which rules judge: a number that moves with every change of what they find, so that a signature names what judged it."""

# A test pins the findings of complete jobs to this number.
RULES = 3
