"""What is said at marks."""

from uranograph.bench.finding import Said

FOUND = {
    "proved": Said("{why}", "In", "Measure the backlash."),
    "gears-missing": Said("The marks need the train.", next_step="Describe the gears first."),
    "out": Said("{why}", "Out", "{step}"),
    "cannot-tell": Said("{why}", "Cannot tell", "{step}"),
    "under-way": Said("{limit} of {count} looked at.", next_step="{step}"),
    "pin-still-in": Said("{label} is still in.", next_step="Take the pin out and count it."),
    "no-marks": Said(
        "There are no marks: prove the cam by its keys, by split overlap, or by its hole sets.",
        next_step="Read both lifters at overlap TDC.",
    ),
}
REFUSALS = {
    "no-such-hole-set": "This gear has no such set of holes.",
    "more-than-a-tooth": "“{typed}” is more than a tooth: how far are the holes from lining up?",
    "not-a-lifter-height": "A lifter does not stand “{typed}” up.",
    "more-than-a-turn": "“{typed}” is more than a turn: degrees clockwise from straight up.",
    "not-a-lifter-height-zero": "A lifter does not stand “{typed}” up. Zero the dial on the base circle first.",
    "turn-on-outside": "“{drop}” deg: turn on by 2 to 10, no more.",
    "gears-missing": "Describe the gears first.",
}
