"""Sentences of the practice bench."""

from functools import partial

from uranograph.bench.messages import message
from uranograph.world.acts import Consequence

CAME = {
    Consequence.STOPPED_BY_STOP: "It is at the stop.",
    Consequence.STOPPED_BY_PIN: "A pin holds it.",
    Consequence.STOPPED_BY_VALVE: "A valve meets its piston there: it goes no further.",
    Consequence.TOOTH_JUMPED: "Something jumped as it was turned backward.",
    Consequence.BENT: "Something bent.",
    Consequence.WHEEL_ZERO_LOST: "The gear came off, and the wheel with it: its zero is lost.",
    Consequence.STUCK_HALF_WAY: "The gear gripped half way.",
    Consequence.SPOILED_BY_HEAT: "The gear was heated past what it bears.",
    Consequence.METAL_GONE: "More was taken off than there was to give.",
    Consequence.STRETCHED: "The bolt stretched.",
}
# What each check asks for.
CHECK_WORDS = {
    "proof": "Proof taken: what was read first was read again",
    "forward": "Every reading of the lobes come up to forward",
    "round-closed": "Read round to where it began",
    "read-after-truing": "Read again once the shaft was trued",
    "limits-first": "The parts that limit it fitted before it was read",
    "three-times": "Pushed and read three times",
    "in-passes": "Sanded in passes, measured in between",
    "both-alike": "Both faces sanded alike",
    "temperature-read": "The thermometer read, and read right",
    "on-at-first": "The gear on at the first try",
    "marks-at-top": "The marks looked at where they meet",
    "two-turns": "Two whole turns by hand after it was set",
    "key-read": "Both keys read with a level",
    "left-by-the-key": "The gear left where its key has it",
    "all-round": "Rocked at twelve places round the cam",
    "pushed": "Every travel read at the end of the rocking",
    "both-valves": "Both valves read at TDC",
    "rockers-off": "The valves pushed by hand, rockers off",
    "own-top-looked-at": "The marks looked at with the piston at its own top",
    "marks-looked-at": "The marks looked at against each other",
}
MESSAGES = {
    "check-passed": "{what}. {worth} of {worth}.",
    "check-missed": "Not seen: {what}. 0 of {worth}.",
    "nothing-forced": "Nothing was forced. 10 of 10.",
    "something-forced": "Something was forced, bent or spoiled. 0 of 10.",
    "misread-wheel": "Read {deg:.1f}° off what the wheel showed.",
    "misread-dial": "Read {mm:.3f} mm off what the dial showed.",
    "misread-thermometer": "Read {c:.0f} °C off what the thermometer showed.",
    "not-what-the-dial-showed": "The dial showed something else then.",
    "wrong-side-or-way": "The side, or the way the numbers rise, is not what the wheel showed.",
    "came-backward": "Slack of {deg:.1f}° lay in it: it was come up to backward.",
    "true-zero": "The wheel showed {deg:.2f}° {side} at true TDC.",
    "found-zero": "Found: {deg:.2f}° {side} at true TDC.",
    "true-late": "The cam stood {deg:.1f}° {way} in the end.",
    "found-late": "Found: {deg:.1f}° {way}. {verdict}",
    "true-runout": "The seat runs out {mm:.3f} mm in the end.",
    "true-play": "The cam has {mm:.3f} mm of end play in the end.",
    "true-tightest": "At its tightest place there is {mm:.3f} mm of backlash.",
    "found-mm": "Found: {mm:.3f} mm.",
    "true-heat": "The gear slips on from {c:.0f} °C, and bears {most:.0f} °C.",
    "gear-home": "It is on, and home.",
    "gear-not-home": "It is not home, or spoiled.",
    "gear-not-on": "It is not on yet.",
    "true-dot": "The dot was a tooth wrong; the key was right.",
    "true-teeth": "The cam gear stands {teeth} {way}.",
    "true-on": "The cam gear is where its marks have it.",
    "true-valve": "The {kind} valve comes too near its piston.",
    "true-slipped": "The crank gear slipped {deg:.1f}° on its seat.",
    "found-cause": "Answered: {cause}.",
    "true-faults": "What was wrong: {faults}.",
    "named": "Named: {faults}.",
    "nothing-named": "Nothing was named yet.",
    "nothing-found": "Nothing was found yet.",
}
say = partial(message, MESSAGES)
