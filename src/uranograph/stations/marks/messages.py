"""What is said at marks."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "proved": Said("{why}", "In", "Measure the backlash."),
    "gears-missing": Said("The marks need the train.", next_step="Describe the gears first."),
    "out": Said("{why}", "Out", "{step}"),
    "cannot-tell": Said("{why}", "Cannot tell", "{step}"),
    "under-way": Said("{limit} of {count} looked at.", next_step="{step}"),
    "pin-still-in": Said("{label} is still in.", next_step="Take the pin out and count it."),
    "nothing-there": Said(
        "There are no marks, keys or parts to look at: nothing was judged.",
        "Nothing to judge",
        "Prove the cam by split overlap, by its hole sets, or degree it.",
    ),
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
    "turn-on-outside": "“{typed}” deg: turn on by 2 to 10, no more.",
    "gears-missing": "Describe the gears first.",
}
SAID = {
    "card-s-io-btdc": "the card's IO, {opening_deg} BTDC",
    "set-s-shift": " (+{shift_deg} crank deg)",
    "one-fits-perfectly": "Exactly one set fits perfectly. Try every one, and do not settle for nearly.",
    "set-far-off": "Set {number} of {count}: how far off",
    "crank-cam-forward-opening": (
        "Crank at {at}, cam forward to its opening flank at the checking lift. Offer the gear by set {number}."
    ),
    "0-where-lines-else": (
        "0 where it lines up; else by how much, minus where its holes lag. Try every set: “close” is not it."
    ),
    "intake-lift-after-two": "Intake lift, after two turns",
    "turn-forward-two-full": (
        "Turn forward two full turns, back to the same place of the crank. Read the intake lift again."
    ),
    "moved-indicator-base-shows": "A moved indicator base shows the same way as a slipped gear.",
    "tried-still-try": "Tried {count} of {count_2}; still to try: {left}. Do not settle for “close”.",
    "none-sets-tried-yet": "None of the {count} sets is tried yet.",
    "set-fits-best-by-eye": "Set {best} fits best, by eye ({seen})",
    "set-lines-best-off": "Set {best} lines up best, {best_mm} off",
    "sets-about-good-each": "Sets {best} and {second} are about as good as each other: try both again.",
    "but-neighbors-not-off": "{words}, but its neighbors are not off by like amounts to either side: try them again.",
    "neighbors-alike-either-side": (
        "{words}, its neighbors alike to either side. Fit it, turn twice, read the lift again."
    ),
    "yet-after-two-turns": "{words}; yet after two turns the lift reads {off_deg} deg {way}: gear, or moved indicator?",
    "after-two-turns-lift": (
        "{words}; after two turns the lift is back to {off_deg} deg. Expect the card's IO when degreeing."
    ),
    "turn-crank-until-key": "Turn the crank until its key stands at {stated_deg} deg by the level. Read it.",
    "leave-crank": "Leave the crank. Hold the flag to the cam's key and read its direction.",
    "key-degrees-straight": "{end} key, degrees from straight up",
    "clockwise-straight-seen-front": (
        "Clockwise from straight up, seen from the front. A level good to a degree is plenty."
    ),
    "cam-s-key-cam": (
        "The cam's key is {difference_cam_deg} cam deg from its place, near half a turn: the crank was on "
        "its other turn. Turn the crank once more and read both keys again."
    ),
    "cam-s-key-cam-2": (
        "The cam's key is {off_deg} cam deg {way}, about as near to one tooth as to the next "
        "({per_tooth_cam_deg} each): read both keys again."
    ),
    "keys-agree-cam-deg": (
        "The keys agree to {off_deg} cam deg, and a tooth either way is clearly worse. The key decides: this is right."
    ),
    "keys-cam-cam-deg": (
        "By the keys the cam is {teeth} {way} {way_2} ({off_deg} cam deg). The key decides, whatever the "
        "marks say: the lobes are ground from it."
    ),
    "read-few-degrees": "read a few degrees on",
    "turn-crank-forward-degrees": "Turn the crank forward by the degrees below. Read the {lobe} lifter again.",
    "without-card-tells-steep": "Without a card this tells how steep the flanks are.",
    "set-crank-overlap-tdc": "Set the crank at overlap TDC: both lifters partly up. Read the {lobe} lifter.",
    "both-shut-free-firing": "Both shut and free is the firing top: turn once more, a whole turn.",
    "turned-crank-deg": "Turned on, crank deg",
    "intake-exhaust-overlap-tdc": "Intake {intake_mm}, exhaust {exhaust_mm} at overlap TDC",
    "both-down-firing-top": (
        "{both}: both are down, so this is the firing top. Turn the crank once more and read both again. (A "
        "very small cam: roll the crank a few degrees each way; at the firing top neither lifter moves.)"
    ),
    "shut-well-cam-tooth": (
        "{both}: the {shut} is shut and the {up} well up, so the cam is a tooth or more {tooth_or_more}. "
        "{way} it by a tooth, then read both lifters again."
    ),
    "but-turning-intake-must": (
        "{both}; but turning on, the intake must rise and the exhaust fall. Read again: is this overlap, and forward?"
    ),
    "turn-few-degrees-read": "{both}. Turn on a few degrees and read both again: that tells how steep the flanks are.",
    "alike-cam-about-straight": (
        "{both}: alike, so the cam is about straight up. Only a start: prove it by the valves at both tops."
    ),
    "as-the-card-has-it": (
        "{both}: the intake belongs {apart_mm} {way} than the exhaust by the card, and so it stands. Only a start: prove it by "
        "the valves at both tops."
    ),
    "teeth-crank-gear": ", {shift:.1f} teeth of the crank gear",
    "cam-deg-slopes": (
        "{both}: {way} the cam {shift_deg} deg{teeth} (slopes {slopes_from}). Only a start: prove it by the "
        "valves at both tops."
    ),
    "pin-sprung-gear-before": (
        "Pin the sprung gear “{name}” before it comes off. Count the pin in; count it out at the end."
    ),
    "pin-forgotten-gear-broken": "A pin forgotten in the gear is a broken tooth.",
    "key": "Look {way}: is the key of “{name}” in it?",
    "taper-gear-tightened-beside": "On a taper a gear can be tightened beside its key and feel right.",
    "ring-key-plate-gear": (
        "Ring, key, plate, gear: in this order, chamfer to the shoulder, oil grooves to what they feed, marks outward?"
    ),
    "clean-marks-paint-them": "Clean the marks and paint them so that they can be told at a glance.",
    "plain-enough-they": "plain enough as they are",
    "piston-s-own-top": "Piston's own top beside the marks, “{name}”",
    "find-piston-s-own": (
        "Find the piston's own top by stop or dial: with “{name}” there, do its marks stand where they belong?"
    ),
    "pressed-gear-slip-shaft": "A pressed gear can slip on its shaft: its marks stay right while the timing is wrong.",
    "crank-stands": "Where the crank stands",
    "where-does-crank": "Set the crank where the manual wants it for the marks. Where does it stand?",
    "marks-mean-nothing": "Marks mean nothing until this is known: at the other TDC of number one a right cam looks half a turn out.",
    "two-turns-hand": "Two turns by hand",
    "turn-crank-two-full": "Turn the crank two full turns by hand. Smooth all the way?",
    "stop-may-stand-tool": "A stop may be the stand or a tool in the way: look, never push.",
    "marks-after-two-turns": "Marks after two turns",
    "valves-overlap-tdc": "Valves at overlap TDC",
    "rock-crank-about-overlap": "Rock the crank about overlap TDC: does the exhaust shut as the intake opens?",
    "valves-firing-tdc": "Valves at firing TDC",
    "turn-once-more-firing": "Turn once more to firing TDC: are both valves shut and free?",
    "chain-s-links": "on the chain's links",
    "facing-each-other": "facing each other on the line through both shafts",
    "teeth-off": "Teeth, if off",
    "line-centers": "on the line of centers",
    "marks": "Look at the marks{label} of “{up}” and “{down}” {where}.",
    "tooth-crank-deg-cam": "One tooth here is {shift_deg:3} crank deg at the cam.",
    "intake-lift-after-two-2": "intake lift after two turns",
    "hole-set-off": "hole set {kind}, off by",
    "move-cam-gear-many": "Move the cam gear by that many teeth, then read both keys again.",
    "cam-stands-crank-deg": "{places}: the cam stands {shift_deg:2} crank deg {way}{expect}.",
    "part-gears-shift-tooth": "Part the gears, shift that tooth, and look again.",
    "part-gears-shift-teeth": "Part the gears, shift those teeth, and look again.",
    "put-right-answer": "Put it right, then answer again.",
    "move-cam-tooth-read": "Move the cam by a tooth, then read both lifters again.",
    "move-cam-whole-teeth": "Move the cam by whole teeth, then read both lifters again.",
    "turn-crank-once-more": "Turn the crank once more; read both keys again.",
    "read-both-keys": "Read both keys again.",
    "turn-crank-once-more-2": "Turn the crank once more; read both lifters again.",
    "turn-few-degrees-read-2": "Turn on a few degrees and read both: that tells how steep the flanks are.",
    "find-way-see-read": "Find a way to see it, or read both keys: the key decides.",
    "try-sets": "Try the sets again.",
    "every-mark-where-belongs": "Every mark is where it belongs. {when_back}",
    "marks-keys-disagree-key": "The marks and the keys disagree: the key decides.",
    "turns-deg-teeth-while": (
        "“{helix_gear}” turns {turn_deg:2} deg ({teeth_deg:2} teeth) while it slides in: start it that much "
        "{way} it turns on its way in, so that it ends on the mark."
    ),
    "marks-cam-stands-deg": "By the marks the cam stands {shift_deg} deg {way}: expect ICL {icl_deg}.",
    "gear-fitted-card-s": "The gear was fitted at the card's opening point: expect IO {opening_deg} BTDC.",
}
say = partial(tell, SAID)
