"""Messages of marks."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "proved": FindingMessage("{why}", "In", "Measure the backlash."),
    "gears-missing": FindingMessage("The marks need the train.", next_step="Describe the gears first."),
    "out": FindingMessage("{why}", "Out", "{step}"),
    "cannot-tell": FindingMessage("{why}", "Cannot tell", "{step}"),
    "under-way": FindingMessage("{limit} of {count} looked at.", next_step="{step}"),
    "pin-still-in": FindingMessage("{label} is still in.", next_step="Take the pin out and count it."),
    "nothing-there": FindingMessage(
        "There are no marks, keys or parts to look at: nothing was judged.",
        "Nothing to judge",
        "Prove the cam by split overlap, by its hole sets, or degree it.",
    ),
    "no-marks": FindingMessage(
        "There are no marks: prove the cam by its keys, by split overlap, or by its hole sets.",
        next_step="Read both lifters at overlap TDC.",
    ),
}
REFUSALS = {
    "gears-missing": "Describe the gears first.",
}
MESSAGES = {
    "teeth-off-label": "Teeth, if off",
    "lift-after-two-turns-of": "intake lift after two turns",
    "hole-set-of": "hole set {kind}, off by",
    "move-gear-by-teeth": "Move the cam gear by that many teeth, then read both keys again.",
    "marks-say-cam-off": "{places}: the cam stands {shift_deg:2} crank deg {way}{expect}.",
    "shift-one-tooth": "Part the gears, shift that tooth, and look again.",
    "shift-teeth": "Part the gears, shift those teeth, and look again.",
    "put-right-and-answer": "Put it right, then answer again.",
    "move-cam-one-tooth": "Move the cam by a tooth, then read both lifters again.",
    "move-cam-teeth": "Move the cam by whole teeth, then read both lifters again.",
    "turn-crank-reread-keys": "Turn the crank once more; read both keys again.",
    "mark-off-key-decides": "Seen off: {places}. The key decides, and it is stated where both belong.",
    "lifters-alone-cannot-tell": "Get the card, or read both keys: lifters alone cannot tell this tooth from the next.",
    "read-both-keys": "Read both keys with a level before anything is moved.",
    "reread-keys": "Read both keys again.",
    "turn-crank-reread-lifters": "Turn the crank once more; read both lifters again.",
    "turn-on-read-both": "Turn on a few degrees and read both: that tells how steep the flanks are.",
    "find-a-way-to-see": "Find a way to see it, or read both keys: the key decides.",
    "try-sets-again": "Try the sets again.",
    "every-mark-right": "Every mark is where it belongs. {when_back}",
    "marks-against-keys": "The marks and the keys disagree: the key decides.",
    "helical-gear-turns": (
        "“{helix_gear}” turns {turn_deg:2} deg ({teeth_deg:2} teeth) while it slides in: start it that much "
        "{way} it turns on its way in, so that it ends on the mark."
    ),
}
say = partial(message, MESSAGES)
