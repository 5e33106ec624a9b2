"""Messages of what is wrong."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "no-complaint": FindingMessage("Nothing is complained of yet.", next_step="Say what is complained of."),
    "nothing-yet": FindingMessage(
        "“{complaint}”: nothing speaks for one cause yet. {looked} looked at.",
        "Looking",
        "Look at what tells most apart.",
    ),
    "likely": FindingMessage(
        "Most speaks for: {causes}: {reasons}.", "Likely: {causes}", "Look on, or say what was found."
    ),
    "found": FindingMessage(
        "It was: {cause}.",
        "Found: {cause}",
        "Put it right, and say under What was done? what that was; then look again.",
    ),
    "repaired": FindingMessage(
        "It was: {cause}. Done: {done}.", "Repaired: {cause}", "Look or measure again: is it cured?"
    ),
    "cured-as-seen": FindingMessage("{cause}. Done: {done}. Seen after it: {seen}.", "Cured", "Go on."),
    "not-cured-as-seen": FindingMessage(
        "{cause}. Done: {done}. Seen after it: {seen}.",
        "Out: not cured",
        "Look again: something else is wrong as well.",
    ),
    "cannot-see-cure": FindingMessage(
        "{cause}. Done: {done}. Seen after it: {seen}.",
        "Cannot tell",
        "Measure the deviation again, or degree the cam.",
    ),
    "cured": FindingMessage("{cause}: {before} before, {again_deg} deg now.", "Cured", "Go on."),
    "not-cured": FindingMessage(
        "{cause}: {before} before, {again_deg} deg now.",
        "Out: not cured",
        "Look again: something else is wrong as well.",
    ),
    "hardly-cured": FindingMessage(
        "{cause}: {before} before, {again_deg} deg now; that is too near the limit to tell.",
        "Cannot tell",
        "Degree the cam.",
    ),
}
REFUSALS = {
    "complaint-missing": "Say what is complained of first.",
    "more-than-a-turn-off": "“{typed}” is more than a turn of the crank.",
}
MESSAGES = {
    "complaint-choice-missing": "Choose one of these.",
    "complaint-missing": "Say what is complained of, in the owner's words.",
    "degrees-and-teeth-apart": "Degrees and teeth go opposite ways: late is plus in both.",
    "pair-against-each-other": "Marks against each other",
    "do-marks-meet": "Leave the piston out of it: do the marks of the gears, or of chain or belt, meet each other?",
    "parts-slip-from-jump": (
        "Meeting each other and wrong at the piston's own top: a gear slipped on its seat. Not meeting: a tooth jumped."
    ),
    "marks-at-own-top": "Marks, with the piston's own top",
    "put-own-top-beside": "Put the piston's own top beside the marks: where do they stand?",
    "own-top-by-stop": "By stop or dial, not by the marks themselves. A pressed gear can slip, its marks still right.",
    "witness-point": "Witness point of the cam",
    "does-witness-stand": "At that top, does the witness point of the cam itself stand where it belongs?",
    "dowel-against-boss": "Such as a dowel against a boss. It is on the shaft, not on the gear.",
    "key-and-keyway": "Key and keyway",
    "is-key-whole": "Is the key whole, and in its slot?",
    "slack-in-drive": "Slack of the drive",
    "more-slack-than-allowed": "Is there more slack in chain or belt than is allowed?",
    "teeth-sound": "Teeth",
    "are-teeth-sound": "Are all teeth and links sound, none sheared or ridden over?",
    "right-parts": "Right parts",
    "are-parts-right": "Are gear and cam the right ones for this engine?",
    "sensor-and-ring": "Sensor and its ring",
    "is-sensor-sound": "Are sensor, ring and wiring sound and in their place?",
    "what-it-was": "What it was",
    "what-was-found": "What was found in the end?",
    "say-in-a-note": "More of it belongs in a note, with a picture.",
    "found-to-be": "found to be",
    "seen-again": "Looked at again, at the piston's own top",
    "look-again-cured": "After the repair: do the marks meet, at the piston's own top, and did two turns by hand leave them so?",
    "or-measure-again": "Or measure the deviation again, under Measured again.",
    "done-nothing-to-repair": "nothing was to be repaired",
    "claim-takes-teeth": "It holds with a crank gear of {teeth} teeth: count them.",
    "pair-is-off": "the marks do not meet each other",
    "pair-stands-right": "the marks meet each other",
    "pair-right-top-wrong": "the marks meet each other and are wrong at the piston's own top",
    "teeth-are-sound": "all teeth and links are sound",
    "no-witness-rules-it-out": "no witness point on the shaft rules it out",
    "deviation-again": "Deviation, measured again",
    "measure-again": "Measure the deviation again, in the same way as it was reported.",
    "late-plus-early-minus": "Crank degrees: late plus, early minus.",
    "complaint-as-told": "Complaint: {complaint}",
    "was-done": "Done: {what} ({by}).",
    "near-whole-teeth": "it is near {teeth} whole teeth",
    "less-than-half-a-tooth": "it is less than half a tooth of {per_deg} deg",
    "not-whole-teeth": "it is no whole number of teeth of {per_deg} deg",
    "marks-off-by-teeth": "the marks are off by whole teeth",
    "marks-stand-right": "the marks stand right",
    "teeth-show-it": "teeth or links show it",
    "nothing-but-the-press": "nothing but its grip holds the gear",
    "held-otherwise": "the gear is held by {held}",
    "marks-right-witness-wrong": "the marks are right and the shaft itself is not",
    "witness-right": "the shaft itself stands right",
    "any-amount": "it is off by a part of a tooth",
    "key-is-not-whole": "the key is not whole",
    "key-is-whole": "no key is sheared",
    "gears-do-not-stretch": "gears do not stretch",
    "wear-makes-late": "wear makes late, and this is early",
    "late-by-little": "it is late by less than a tooth",
    "slack-is-seen": "there is slack",
    "no-slack-seen": "there is no slack",
    "part-is-not-right": "a part is not the right one",
    "part-is-right": "the parts are the right ones",
    "sensor-is-not-sound": "the sensor is not sound",
    "sensor-is-sound": "the sensor is sound",
    "only-the-scan-says-so": "only the scan tool says so, marks and shaft stand right",
    "no-sensor-told-it": "no sensor told it",
    "what-was-reported": "what was reported",
    "claim-holds": "it is {true_deg} deg, as claimed",
    "claim-in-cam-degrees": "it is {true_deg} crank deg; {half_deg} is in cam degrees",
    "claim-does-not-hold": "by the teeth it is {true_deg} crank deg",
}
say = partial(message, MESSAGES)
