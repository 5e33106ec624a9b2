"""Messages of marks by eye."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "teeth-off": FindingMessage("{places}.", "Out: a mark is off", "Turn that gear {way} by {teeth} and look again."),
    "tooth-early": FindingMessage(
        "At the top the exhaust is shut and the intake well up: the cam is a tooth or more early.",
        "Out: early by a tooth or more",
        "Move the cam gear a tooth back (later), then look at both lifters again.",
    ),
    "tooth-late": FindingMessage(
        "At the top the intake is shut and the exhaust well up: the cam is a tooth or more late.",
        "Out: late by a tooth or more",
        "Move the cam gear a tooth on (earlier), then look at both lifters again.",
    ),
    "early": FindingMessage(
        "At the top the intake stands higher: the cam is early, by less than the eye can tell.",
        "Cannot tell: early by eye",
        "Read both lifters with a dial (Timing marks, split overlap), or degree the cam.",
    ),
    "late": FindingMessage(
        "At the top the exhaust stands higher: the cam is late, by less than the eye can tell.",
        "Cannot tell: late by eye",
        "Read both lifters with a dial (Timing marks, split overlap), or degree the cam.",
    ),
    "firing-top": FindingMessage(
        "Both lifters are down: this is the firing top, or a very small cam. Roll the crank a few degrees each way: at the "
        "firing top neither moves.",
        "Cannot tell: the firing top",
        "Turn the crank once more, to overlap, and look at both lifters again.",
    ),
    "turn-out": FindingMessage(
        "At the firing TDC of number one a lifter stands up: crank and cam are a whole turn of the crank apart.",
        "Out: a whole turn of the crank out",
        "Is it the firing TDC? If so, part the drive, turn the crank once, and look again.",
    ),
    "nothing-there": FindingMessage(
        "There is none of what was listed: the eye judged nothing here.",
        "Nothing to judge",
        "Read both lifters with a dial, or degree the cam.",
    ),
    "rotor-half-turn": FindingMessage(
        "The lifters say that this is the {top} top, and the rotor says the other: it is half a turn out.",
        "Out: the rotor is half a turn out",
        "Lift the drive and turn it half a turn; then look at lifters and rotor again.",
    ),
    "bad": FindingMessage("{check}: {answer}.", "Out", "Put it right, then look again."),
    "not-seen": FindingMessage(
        "{check}: it cannot be seen.", "Cannot tell", "Find a way to see it, or look at the lifters at the top."
    ),
    "in-doubt": FindingMessage("{check}: {answer}.", "Cannot tell", "Settle that first, then look again."),
    "looking": FindingMessage("{looked} of {count} looked at.", next_step="{step}"),
    "pin-in": FindingMessage("{label} is still in.", "A pin is in", "Take the pin out and count it."),
    "nothing-seen": FindingMessage(
        "Nothing was there to look at: the eye tells nothing here.",
        "Cannot tell",
        "Read both lifters with a dial, or degree the cam.",
    ),
    "right-by-the-key": FindingMessage(
        "Keys, pins or dowels stand where they belong, and two turns by hand were smooth; a mark beside them does not.",
        "In by its key",
        "Go on, and mark the gear anew.",
    ),
    "all-seen": FindingMessage(
        "Every mark stands where it belongs, and two turns by hand were smooth.", "In", "Go on."
    ),
    "by-the-lifters": FindingMessage(
        "Both lifters stand alike at overlap, and the valves do as they must at both tops.",
        "In by eye",
        "Degree it to prove it.",
    ),
}
MESSAGES = {
    "set-crank-to-deg": "Set the crank to {wanted_deg} deg after overlap TDC, the intake centerline that is wanted. Is it there?",
    "teeth-off": "Teeth off",
    "teeth": "Teeth",
    "key-decides-over-marks": "Off, with keys, pins or dowels right: {marks}. The key decides; leave the gear where it is.",
    "mark-looked-at": "looked at",
    "pins-counted": "Pins in and out",
    "start-helical-gear-off-mark": "It turned by {teeth} as it slid in: start it {teeth} teeth to the {way}, so that it ends on the mark.",
    "centerline-setting-is-a-start": "Crank at the centerline and cam at its peak are only a start: degree it.",
}
say = partial(message, MESSAGES)
