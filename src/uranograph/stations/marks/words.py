"""What is said at marks."""

REFUSALS = {
    "no-such-hole-set": "This gear has no such set of holes.",
    "more-than-a-tooth": "“{typed}” is more than a tooth: how far are the holes from lining up?",
    "not-a-lifter-height": "A lifter does not stand “{typed}” up.",
    "more-than-a-turn": "“{typed}” is more than a turn: degrees clockwise from straight up.",
    "not-a-lifter-height-zero": "A lifter does not stand “{typed}” up. Zero the dial on the base circle first.",
    "turn-on-outside": "“{drop}” deg: turn on by 2 to 10, no more.",
    "gears-missing": "Describe the gears first.",
}
