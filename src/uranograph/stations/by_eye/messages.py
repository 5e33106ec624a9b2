"""What is said at marks by eye."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "teeth-off": Said("{places}.", "Out: a mark is off", "Turn that gear {way} by {teeth} and look again."),
    "tooth-early": Said(
        "At the top the exhaust is shut and the intake well up: the cam is a tooth or more early.",
        "Out: early by a tooth or more",
        "Move the cam gear a tooth back (later), then look at both lifters again.",
    ),
    "tooth-late": Said(
        "At the top the intake is shut and the exhaust well up: the cam is a tooth or more late.",
        "Out: late by a tooth or more",
        "Move the cam gear a tooth on (earlier), then look at both lifters again.",
    ),
    "early": Said(
        "At the top the intake stands higher: the cam is early, by less than the eye can tell.",
        "Cannot tell: early by eye",
        "Read both lifters with a dial (Timing marks, split overlap), or degree the cam.",
    ),
    "late": Said(
        "At the top the exhaust stands higher: the cam is late, by less than the eye can tell.",
        "Cannot tell: late by eye",
        "Read both lifters with a dial (Timing marks, split overlap), or degree the cam.",
    ),
    "firing-top": Said(
        "Both lifters are down: this is the firing top, or a very small cam. Roll the crank a few degrees each way: at the "
        "firing top neither moves.",
        "Cannot tell: the firing top",
        "Turn the crank once more, to overlap, and look at both lifters again.",
    ),
    "turn-out": Said(
        "At the firing TDC of number one a lifter stands up: crank and cam are a whole turn of the crank apart.",
        "Out: a whole turn of the crank out",
        "Is it the firing TDC? If so, part the drive, turn the crank once, and look again.",
    ),
    "nothing-there": Said(
        "There is none of what was listed: the eye judged nothing here.",
        "Nothing to judge",
        "Read both lifters with a dial, or degree the cam.",
    ),
    "rotor-half-turn": Said(
        "The lifters say that this is the {top} top, and the rotor says the other: it is half a turn out.",
        "Out: the rotor is half a turn out",
        "Lift the drive and turn it half a turn; then look at lifters and rotor again.",
    ),
    "bad": Said("{check}: {answer}.", "Out", "Put it right, then look again."),
    "not-seen": Said(
        "{check}: it cannot be seen.", "Cannot tell", "Find a way to see it, or look at the lifters at the top."
    ),
    "in-doubt": Said("{check}: {answer}.", "Cannot tell", "Settle that first, then look again."),
    "looking": Said("{looked} of {count} looked at.", next_step="{step}"),
    "pin-in": Said("{label} is still in.", "A pin is in", "Take the pin out and count it."),
    "nothing-seen": Said(
        "Nothing was there to look at: the eye tells nothing here.",
        "Cannot tell",
        "Read both lifters with a dial, or degree the cam.",
    ),
    "all-seen": Said("Every mark stands where it belongs, and two turns by hand were smooth.", "In", "Go on."),
    "by-the-lifters": Said(
        "Both lifters stand alike at overlap, and the valves do as they must at both tops.",
        "In by eye",
        "Degree it to prove it.",
    ),
}
REFUSALS: dict[str, str] = {}
SAID = {
    "choose-end": "Choose the end that it is seen from.",
    "choose-mark": "Choose what the mark is, and what it meets.",
    "name-too-long": "A name has {longest} letters at the most: write a shorter one.",
    "choose-driven": "Choose what is driven.",
    "what-carries-mark": "Say what carries this mark.",
    "what-it-meets": "Say what carries the mark that it meets.",
    "look-at-mark": "Look from {end}: {mark}. Is it on?",
    "teeth-where-off": "Off by more than a tooth? Type how many below. No tooth needs to be counted round.",
    "tooth-either-way": "Try “{name}” a tooth early and a tooth late: is the middle one plainly best?",
    "pictures-beside": "Keep a picture of each look; they stand side by side below.",
    "crank-set": "Crank at the centerline",
    "set-crank-to": "Set the crank to the intake centerline that is wanted.",
    "set-crank-to-deg": "Set the crank to {wanted_deg} deg after the overlap top, the intake centerline that is wanted. Is it there?",
    "cam-at-peak": "Cam at its peak",
    "turn-cam-to-peak": "Turn the cam to the peak of the intake lobe, by equal lifts each side. Is it there?",
    "gear-fixed": "Gear fixed",
    "fix-gear": "Fix the gear without moving either. Is it fixed?",
    "dry-try": "Dry try, gear sliding in",
    "slide-in-dry": "Slide the gear in dry from the mark: which way did it turn, and by how many teeth?",
    "teeth-it-turned": "Count the teeth between where it began and where it stopped.",
    "teeth-off": "Teeth off",
    "teeth": "Teeth",
    "lifters-at-top": "Lifters at the top",
    "which-lifter-is-up": "Number one at the top, on its overlap: which lifter is up?",
    "number-one-at-top": "Both down is the firing top. Look at the lifters, not at the rockers.",
    "valves-at-overlap": "Valves at overlap TDC",
    "rock-about-overlap": "Rock the crank about overlap TDC: does the exhaust shut as the intake opens?",
    "valves-at-firing": "Valves at firing TDC",
    "turn-on-to-firing": "Turn once more to firing TDC: are both valves shut and free?",
    "rotor-at-top": "Rotor at that top",
    "where-rotor-points": "Leave the crank at that top: where does the rotor point?",
    "crank-stands": "Where the crank stands",
    "where-does-crank": "Set the crank where it is to be looked at. Where does it stand?",
    "marks-mean-nothing": "Marks mean nothing until this is known: at the other TDC of number one a right cam looks half a turn out.",
    "lifters-at-firing": "Lifters at firing TDC",
    "which-lifter-at-firing": "Number one at its firing TDC: which lifter is up?",
    "down-proves-half": "Both down proves the firing TDC and no more: the cam's place shows at overlap.",
    "key-decides": "Off, with keys, pins or dowels right: {marks}. The key decides; leave the gear where it is.",
    "two-turns": "Two turns by hand",
    "turn-two-turns": "Turn the crank two full turns by hand. Smooth all the way?",
    "look-never-push": "A stop may be the stand or a tool in the way: look, never push.",
    "marks-after-turns": "Marks after two turns",
    "all-back": "After two turns every gear and case mark must be back. Is it so?",
    "some-not-back": (
        "After two turns these must be back: {names}. Idlers and bright links need not be, until they have come round: {others}. Is it so?"
    ),
    "pin-before": "Pin “{name}” before it comes loose. Count the pin in; count it out at the end.",
    "count-pins": "A pin left in breaks what it holds.",
    "tooth-at-that-shaft": "One tooth there is {deg:.1f} deg of its own shaft.",
    "retimed": "Does “{name}” stand where it belongs, timed again with the cam?",
    "looked-at": "looked at",
    "pins-in-out": "Pins in and out",
    "start-to-the-other": "It turned by {teeth} as it slid in: start it {teeth} teeth to the {way}, so that it ends on the mark.",
    "only-a-start": "Crank at the centerline and cam at its peak are only a start: degree it.",
    "lifters-straight-up": "By the lifters at the top the cam is about straight up.",
    "lifters-as-ground": "By the lifters at the top the cam stands about as it is ground: one lifter belongs higher.",
    "lifters-early": "By the lifters at the top the cam is early.",
    "lifters-late": "By the lifters at the top the cam is late.",
    "lifters-tooth-early": "By the lifters at the top the cam is a tooth or more early.",
    "lifters-tooth-late": "By the lifters at the top the cam is a tooth or more late.",
    "lifters-firing-top": "Both lifters down: the firing top. A whole turn of the crank brings overlap.",
}
say = partial(tell, SAID)
