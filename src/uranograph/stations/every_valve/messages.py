"""Messages about every valve."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "nothing-to-compare": FindingMessage(
        "This engine has one valve of each kind: there is nothing to compare them with.",
        next_step="Degree its cam instead.",
    ),
    "nothing-read": FindingMessage("Every valve beside the others of its kind.", next_step="Read the first valve."),
    "within-so-far": FindingMessage("{read} of {valves} valves read; alike so far.", "Alike, so far", "Read on."),
    "timing-so-far": FindingMessage(
        "All lifts are alike. Timing of {read} of {valves} valves read.", "Alike, so far", "Read on."
    ),
    "lift-apart": FindingMessage(
        "{name} lifts {apart_mm:fine} {way} than the middle {lobe} valve; allowed {limit_mm:full}.",
        "Out: {name} lifts {way}",
        "Check {name}: lash, lifter, rocker. Then read it again.",
    ),
    "timing-apart": FindingMessage(
        "{name} is {apart_deg:abs} crank deg {way} against the middle {lobe} valve; allowed {limit_deg}.",
        "Out: {name} is {way}",
        "Check {name}: lash, and the firing order as typed. Then read it again.",
    ),
    "duration-apart": FindingMessage(
        "{name} is open {apart_deg:abs} crank deg {way} than the middle {lobe} valve; allowed {limit_deg}.",
        "Out: {name} is open {way}",
        "Set the lash of {name} as its neighbors'. Then read it again.",
    ),
    "lifters-bleed": FindingMessage(
        "{name} reads furthest off, but a hydraulic lifter bleeds while it is read, one more than the other.",
        "Cannot tell: the lifters bleed",
        "Fit solid stand-ins, note it at the engine, then read again.",
    ),
    "near-the-limit": FindingMessage(
        "{name} lies within the uncertainty of the readings from the limit.",
        "Cannot tell",
        "Read {name} again, finer.",
    ),
    "tdc-missing": FindingMessage(
        "TDC was not found with the wheel as it stood at every valve: their timing cannot be compared.",
        "Cannot tell",
        "Find TDC, then read opening and closing again.",
    ),
    "lifts-alike": FindingMessage(
        "All {valves} valves lift alike. Their timing was not read.", "In: lifts alike", "Go on, or read the timing."
    ),
    "timing-not-compared": FindingMessage(
        "All {valves} valves lift alike and stay open alike. When they open was not compared.",
        "In: lifts alike",
        "Go on, or name the banks to compare the timing.",
    ),
    "all-alike": FindingMessage("All {valves} valves lift alike, and open and close alike.", "In", "Go on."),
}
REFUSALS = {
    "valve-not-there": "This engine has {count} valves.",
    "valve-lift-unlikely": "“{typed}” is no lift of a valve: inches or mm?",
    "valve-order-missing": "State the firing order first: without it nobody knows when this cylinder is due.",
    "valve-event-backward": "Turned backward, the drive's slack is in it: go back well before it and come up forward.",
    "valve-swept-short": "The lobe was not passed from base circle to base circle: sweep it again.",
    "valve-swept-fast": "It was passed too fast, with gaps in the lobe: sweep it again, slower.",
    "valve-base-moved": (
        "The dial did not come back on the base circle: {drift_mm:full} off. Is it tight, and the lifter free?"
    ),
}
MESSAGES = {
    "read-again": "Read it again",
    "read-again-do": "Read {name} again, finer.",
    "lift-label": "{name}, greatest lift",
    "lift-down": "Zero the dial on the base circle of {name}. Turn over the nose, and type the greatest lift.",
    "lift-hint": "Same dial, same place on each valve.",
    "opens-label": "{name} opens at {lift_mm:u}",
    "opens-down": "Turn forward until {name} has risen {lift_mm:u}. Type what the wheel reads.",
    "closes-label": "{name} closes at {lift_mm:u}",
    "closes-down": "Turn on over the nose until {name} is {lift_mm:u} from shut. Type what the wheel reads.",
    "event-hint": "The wheel stays as it is for all valves: each is placed by the firing order.",
    "by-lift": "valve {name} lift",
    "by-opens": "valve {name} opens",
    "by-closes": "valve {name} closes",
    "middle-note": "middle {middle_deg}, open {duration_deg}",
    "limits-note": "Shop limits beside the middle of its kind: lift ± {lift}, timing ± {timing}. The manual outranks them.",
    "banks-not-named": (
        "Each bank has cams of its own, so timing is compared within a bank: give each cylinder the letter of its bank in the firing order."
    ),
    "timing-note": "Angles are about each cylinder's own overlap TDC, by the firing order.",
}
say = partial(message, MESSAGES)
