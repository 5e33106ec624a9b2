"""Messages about timing marks, keyways, lifters and hole sets."""

from functools import partial

from uranograph.bench.messages import message

REFUSALS = {
    "no-such-hole-set": "This gear has no such set of holes.",
    "more-than-a-tooth": "“{typed}” is more than a tooth: how far are the holes from lining up?",
    "not-a-lifter-height": "A lifter does not stand “{typed}” up.",
    "more-than-a-turn": "“{typed}” is more than a turn: degrees clockwise from straight up.",
    "not-a-lifter-height-zero": "A lifter does not stand “{typed}” up. Zero the dial on the base circle first.",
    "turn-on-outside": "“{typed}” deg: turn on by 2 to 10, no more.",
}

MESSAGES = {
    # By eye.
    "look-at-mark": "Look from {end}: {mark}. Is it on?",
    "teeth-off-hint": "Off by more than a tooth? Type how many below. No tooth needs to be counted round.",
    "tooth-either-way": "Try “{name}” a tooth early and a tooth late: is the middle one plainly best?",
    "picture-of-each-look": "Keep a picture of each look; they stand side by side below.",
    "crank-set": "Crank at the centerline",
    "set-crank-to": "Set the crank to the intake centerline that is wanted.",
    "cam-at-peak": "Cam at its peak",
    "turn-cam-to-its-peak": "Turn the cam to the peak of the intake lobe, by equal lifts each side. Is it there?",
    "gear-fixed": "Gear fixed",
    "fix-gear": "Fix the gear without moving either. Is it fixed?",
    "dry-try": "Dry try, gear sliding in",
    "slide-in-dry": "Slide the gear in dry from the mark: which way did it turn, and by how many teeth?",
    "teeth-turned-hint": "Count the teeth between where it began and where it stopped.",
    "lifters-at-top": "Lifters at TDC",
    "which-lifter-is-up": "Number one at overlap TDC: which lifter is up?",
    "both-lifters-down-is-firing": "Both down is firing TDC. Look at the lifters, not at the rockers.",
    "valves-at-overlap": "Valves at overlap TDC",
    "rock-about-overlap": "Rock the crank about overlap TDC: does the exhaust shut as the intake opens?",
    "valves-at-firing": "Valves at firing TDC",
    "turn-on-to-firing": "Turn once more to firing TDC: are both valves shut and free?",
    "rotor-at-top": "Rotor at that TDC",
    "where-rotor-points": "Leave the crank at that TDC: where does the rotor point?",
    "crank-position": "Where the crank stands",
    "ask-crank-position-by-eye": "Set the crank where it is to be looked at. Where does it stand?",
    "crank-position-first": "Marks mean nothing until this is known: at the other TDC of number one a right cam looks half a turn out.",
    "lifters-at-firing": "Lifters at firing TDC",
    "which-lifter-at-firing": "Number one at its firing TDC: which lifter is up?",
    "down-proves-half": "Both down proves the firing TDC and no more: the cam's place shows at overlap.",
    "two-turns-by-hand": "Two turns by hand",
    "turn-two-full-turns": "Turn the crank two full turns by hand. Smooth all the way?",
    "never-push-past-a-stop": "A stop may be the stand or a tool in the way: look, never push.",
    "marks-after-two-full-turns": "Marks after two turns",
    "all-back": "After two turns every gear and case mark must be back. Is it so?",
    "some-not-back": (
        "After two turns these must be back: {names}. Idlers and bright links need not be, until they have come round: {others}. Is it so?"
    ),
    "pin-before": "Pin “{name}” before it comes loose. Count the pin in; count it out at the end.",
    "count-pins": "A pin left in breaks what it holds.",
    "tooth-at-that-shaft": "One tooth there is {deg:.1f} deg of its own shaft.",
    "driven-part-retimed": "Does “{name}” stand where it belongs, timed again with the cam?",
    "lifters-straight-up": "By the lifters at TDC the cam is about straight up.",
    "lifters-as-ground": "By the lifters at TDC the cam stands about as it is ground: one lifter belongs higher.",
    "lifters-early": "By the lifters at TDC the cam is early.",
    "lifters-late": "By the lifters at TDC the cam is late.",
    "lifters-tooth-early": "By the lifters at TDC the cam is a tooth or more early.",
    "lifters-tooth-late": "By the lifters at TDC the cam is a tooth or more late.",
    "lifters-firing-top": "Both lifters down: firing TDC. A whole turn of the crank brings overlap.",
    # Marks.
    "card-intake-opening": "the card's IO, {opening_deg} BTDC",
    "hole-set-shift": " (+{shift_deg} crank deg)",
    "one-set-fits": "Exactly one set fits perfectly. Try every one, and do not settle for nearly.",
    "hole-set-label": "Set {number} of {count}: how far off",
    "try-hole-set": (
        "Crank at {at}, cam forward to its opening flank at the checking lift. Offer the gear by set {number}."
    ),
    "hole-set-hint": (
        "0 where it lines up; else by how much, minus where its holes lag. Try every set: “close” is not it."
    ),
    "intake-lift-after-two-turns": "Intake lift, after two turns",
    "read-lift-after-two-turns": (
        "Turn forward two full turns, back to the same place of the crank. Read the intake lift again."
    ),
    "moved-base-looks-like-slip": "A moved indicator base shows the same way as a slipped gear.",
    "sets-still-to-try": "Tried {count} of {count_2}; still to try: {left}. Do not settle for “close”.",
    "no-set-tried": "None of the {count} sets is tried yet.",
    "set-fits-best-by-eye": "Set {best} fits best, by eye ({seen})",
    "set-fits-best": "Set {best} lines up best, {best_mm} off",
    "sets-equally-good": "Sets {best} and {second} are about as good as each other: try both again.",
    "neighbors-unlike": "{words}, but its neighbors are not off by like amounts to either side: try them again.",
    "neighbors-alike": ("{words}, its neighbors alike to either side. Fit it, turn twice, read the lift again."),
    "lift-differs-after-turns": "{words}; yet after two turns the lift reads {off_deg} deg {way}: gear, or moved indicator?",
    "lift-back-after-turns": (
        "{words}; after two turns the lift is back to {off_deg} deg. Expect the card's IO when degreeing."
    ),
    "read-crank-key": "Turn the crank until its key stands at {stated_deg} deg by the level. Read it.",
    "read-cam-key": "Leave the crank. Hold the flag to the cam's key and read its direction.",
    "key-direction-label": "{end} key, degrees from straight up",
    "key-direction-hint": ("Clockwise from straight up, seen from the front. A level good to a degree is plenty."),
    "key-half-a-turn-off": (
        "The cam's key is {difference_cam_deg} cam deg from its place, near half a turn: the crank was on "
        "its other turn. Turn the crank once more and read both keys again."
    ),
    "key-between-teeth": (
        "The cam's key is {off_deg} cam deg {way}, about as near to one tooth as to the next "
        "({per_tooth_cam_deg} each): read both keys again."
    ),
    "keys-agree": (
        "The keys agree to {off_deg} cam deg, and a tooth either way is clearly worse. The key decides: this is right."
    ),
    "keys-say-teeth-off": (
        "By the keys the cam is {teeth} {way} {way_2} ({off_deg} cam deg). The key decides, whatever the "
        "marks say: the lobes are ground from it."
    ),
    "turned-on-lift": "read a few degrees on",
    "turn-on-read-lifter": "Turn the crank forward by the degrees below. Read the {lobe} lifter again.",
    "slope-without-card": "Without a card this tells how steep the flanks are.",
    "read-lifter-at-overlap": "Set the crank at overlap TDC: both lifters partly up. Read the {lobe} lifter.",
    "shut-and-free-is-firing": "Both shut and free is firing TDC: turn once more, a whole turn.",
    "turned-on-by": "Turned on, crank deg",
    "lifts-at-overlap": "Intake {intake_mm}, exhaust {exhaust_mm} at overlap TDC",
    "lifters-both-down": (
        "{both}: both are down, so this is firing TDC. Turn the crank once more and read both again. (A "
        "very small cam: roll the crank a few degrees each way; at firing TDC neither lifter moves.)"
    ),
    "one-lifter-shut": (
        "{both}: the {shut} is shut and the {up} well up, so the cam is a tooth or more {tooth_or_more}. "
        "{way} it by a tooth, then read both lifters again."
    ),
    "lifts-turn-the-wrong-way": (
        "{both}; but turning on, the intake must rise and the exhaust fall. Read again: is this overlap, and forward?"
    ),
    "turn-on-for-slope": "{both}. Turn on a few degrees and read both again: that tells how steep the flanks are.",
    "lifts-alike": (
        "{both}: alike, so the cam is about straight up. Only a start: prove it by the valves at both tops."
    ),
    "lifts-as-card-has-it": (
        "{both}: the intake belongs {apart_mm} {way} than the exhaust by the card, and so it stands. Only a start: prove it by "
        "the valves at both tops."
    ),
    "in-crank-gear-teeth": ", {shift:.1f} teeth of the crank gear",
    "lifts-say-move": (
        "{both}: {way} the cam {shift_deg} deg{teeth} (slopes {slopes_from}). Only a start: prove it by the "
        "valves at both tops."
    ),
    "pin-sprung-gear": ("Pin the sprung gear “{name}” before it comes off. Count the pin in; count it out at the end."),
    "pin-left-in-breaks-teeth": "A pin forgotten in the gear is a broken tooth.",
    "ask-key": "Look {way}: is the key of “{name}” in it?",
    "taper-hint": "On a taper a gear can be tightened beside its key and feel right.",
    "ask-assembly-order": (
        "Ring, key, plate, gear: in this order, chamfer to the shoulder, oil grooves to what they feed, marks outward?"
    ),
    "paint-marks": "Clean the marks and paint them so that they can be told at a glance.",
    "marks-plain-enough": "plain enough as they are",
    "own-tdc-label": "Piston's own top beside the marks, “{name}”",
    "ask-own-tdc": (
        "Find the piston's own top by stop or dial: with “{name}” there, do its marks stand where they belong?"
    ),
    "pressed-gear-may-slip": "A pressed gear can slip on its shaft: its marks stay right while the timing is wrong.",
    "crank-at-label": "Where the crank stands",
    "ask-crank-at": "Set the crank where the manual wants it for the marks. Where does it stand?",
    "crank-at-first": "Marks mean nothing until this is known: at the other TDC of number one a right cam looks half a turn out.",
    "two-turns-label": "Two turns by hand",
    "ask-two-turns": "Turn the crank two full turns by hand. Smooth all the way?",
    "two-turns-hint": "A stop may be the stand or a tool in the way: look, never push.",
    "marks-after-turns-label": "Marks after two turns",
    "valves-at-overlap-label": "Valves at overlap TDC",
    "ask-valves-at-overlap": "Rock the crank about overlap TDC: does the exhaust shut as the intake opens?",
    "valves-at-firing-label": "Valves at firing TDC",
    "ask-valves-at-firing": "Turn once more to firing TDC: are both valves shut and free?",
    "on-chain-links": "on the chain's links",
    "facing-marks": "facing each other on the line through both shafts",
    "on-line-of-centers": "on the line of centers",
    "ask-mesh-marks": "Look at the marks{label} of “{up}” and “{down}” {where}.",
    "one-tooth-is": "One tooth here is {shift_deg:3} crank deg at the cam.",
    "expect-centerline": "By the marks the cam stands {shift_deg} deg {way}: expect ICL {icl_deg}.",
    "expect-opening": "The gear was fitted at the card's opening point: expect IO {opening_deg} BTDC.",
}

say = partial(message, MESSAGES)
