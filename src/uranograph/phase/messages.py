"""Messages of degree."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "nothing-to-compare": FindingMessage(
        "Measured: {told}. The card gives nothing to compare with.",
        "Cannot tell",
        "Add a centerline to the spec card, or say below what is aimed at.",
    ),
    "reading-cannot-be": FindingMessage("{why}", "Cannot tell", "Void the reading and take it again."),
    "not-read": FindingMessage("{reasons}", next_step="{step}"),
    "in": FindingMessage("{reasons}", "In: {cam} is where {wanted}", "{step}", "LEAVE IT", "Nothing to move."),
    "lobe-unread": FindingMessage("{reasons}", "Cannot tell yet: the {lobe} is not read", "{step}"),
    "late": FindingMessage(
        "{reasons}",
        "Out: {cam} is late",
        "{step}",
        "{order} {move_deg:abs}° crank",
        "= {at_cam_deg:2,abs}° at the cam.{others}",
    ),
    "early": FindingMessage(
        "{reasons}",
        "Out: {cam} is early",
        "{step}",
        "{order} {move_deg:abs}° crank",
        "= {at_cam_deg:2,abs}° at the cam.{others}",
    ),
    "lobes-apart": FindingMessage("{reasons}", "Out: the lobes are apart", "{step}"),
    "reads-late": FindingMessage("{reasons}", "Cannot tell: {cam} reads late", "{step}"),
    "reads-right": FindingMessage("{reasons}", "Cannot tell yet: {cam} reads right on", "{step}"),
    "reads-early": FindingMessage("{reasons}", "Cannot tell: {cam} reads early", "{step}"),
    "lobes-disagree": FindingMessage("{reasons}", "Cannot tell: the lobes disagree", "{step}"),
}
REFUSALS = {
    "turn-on-too-far": "“{typed}” deg: turn on by a few degrees, {most_deg:g} at the most.",
    "wheel-missing": "Set up the wheel first: the reading cannot be placed without it.",
    "below-max-missing": "Type how far below maximum lift the dial is, such as 0.050 or 1.27mm.",
    "not-below-max": "A drop of “{drop}” is not below maximum lift. Use about 0.050 in or 1 mm.",
    "off-the-lobe": "“{drop}” down is off the lobe: its whole lift is {lift_mm:u}.",
    "same-side-of-lobe": (
        "“{typed}” is where the other side of the lobe was read: turn past maximum lift and read again."
    ),
    "not-on-the-base": "“{typed}” is far from the base circle: zero the dial there first, {most_mm:u} at the most.",
    "not-a-lobe-lift": "“{typed}” is no lift a lobe has. Check the figure and its unit.",
    "tolerance-unlikely": "A tolerance of “{typed}” deg is not likely. Strict is 0.5, usual 1, easy 2.",
    "no-such-bank": "This engine has no cam of its own on bank {bank}: say so on the engine's form first.",
    "not-taken-here": "This station does not take such a reading.",
    "not-yes-or-no": "“{typed}” is neither yes nor no.",
    "not-a-swept-lift": "“{drop}” is no lift a lobe has. Check the figure and its unit.",
    "lift-there-already": "The lift at “{typed}” is there already: void that one first, or read elsewhere.",
    "no-such-column": "The file has no such column.",
    "same-column": "Angle and lift are two columns: choose another.",
    "sweep-file-empty": "Nothing is here. The first line names the columns: angle_deg,lift_mm.",
    "sweep-file-too-long": "{count} lines are more than the {most_rows} a sweep can have.",
    "sweep-file-columns": "Line 1: “{value}” is not angle,lift. Name two columns: angle_deg,lift_mm.",
    "sweep-file-unit": "Line 1: the lift column does not say its unit. Write lift_mm or lift_in.",
    "sweep-file-again": (
        "The {lobe} lift at {angle} is there already, and {count} of these {angles} angles in all: void "
        "those first, or bring in only the others."
    ),
    "sweep-line-figures": "Line {number}: two figures are wanted, angle and lift; “{value}” has not.",
    "sweep-line-angle": "Line {number}: {angle:g} is not within a turn of overlap TDC.",
    "sweep-line-again": "Line {number}: the angle {angle:g} stands in line {seen} already.",
    "sweep-gap": "Line {line}: after {low_deg} nothing is read for {step_deg} deg. Fill the gap.",
    "sweep-line-unit": "“{lift}” carries a unit of its own; the header says {unit} for all.",
    "sweep-line-refused": "Line {number}: {cause}",
}
# Every question about the set-up, by its code, and the same in as few words as stand within a sentence.
ASKED = {
    "wheel-moved": "Was the wheel or its pointer moved before {where} was read? Touch the stop again.",
    "gear-slipping": (
        "Does a gear slip? From {where} on the readings are off, and the stop is not. Read the first one again."
    ),
    "one-backward": "Was {where} approached backward, or overshot? Come up to it again from well behind.",
    "typing-slip": "A slip of typing or reading in {where}? Read it again.",
    "wrong-side": "Was {where} on the other side of the dead center? Read it again.",
    "set-backward": (
        "Was the whole set approached backward, through the slack of the drive? Come up to the last one again "
        "from well behind."
    ),
    "firing-top": "Is this the firing top? Both lifters are down. Turn the crank once more and read both again.",
    "gear-slipped-before": (
        "Has the cam's gear slipped on its seat before? It is held by its fit alone: look for a witness mark, and "
        "ask what the engine did."
    ),
    "cam-degrees": (
        "Are the marks that were moved by cam degrees where crank degrees were stated, or the other way? The move "
        "came out so."
    ),
    "indicator-askew": (
        "Is the dial in line with the lifter's travel, and the rocker's ratio as stated? The greatest lift is off "
        "in proportion."
    ),
    "card-misprint": "Is a figure of the card misprinted, or copied wrong? Compare it with the card again.",
    "uneven-lobe": (
        "Is a lobe ground uneven? Its middle drifts with the lift: read the events, and ask the grinder what the "
        "centerline means."
    ),
    "wrong-lobe": "Is the dial on the other lobe, exhaust for intake? Look which valve it moves.",
    "other-cylinder": "Is this the top of another cylinder than the one that is read? Find the top of this one.",
    "wheel-end": (
        "Is the wheel at the other end of the engine than was stated? Set it right at Degree wheel, and tick that the "
        "wheel was like this from the start. Where before and after were mixed up, void those and read them again."
    ),
    "numbers-rise": (
        "Do the wheel's numbers increase the other way than was stated? Set it right at Degree wheel, and tick that the "
        "wheel was like this from the start."
    ),
    "tooth-off": "Is the cam a tooth off? Count the marks.",
    "wrong-checking-lift": (
        "Are the events read at the card's checking lift? Every duration is as much off, and the greatest lift is not."
    ),
    "springs-on": (
        "Are the valve springs on? They push the cam ahead on closing flanks. Take light ones, or say so at Engine."
    ),
    "centerline-of-peak": (
        "Is the card's centerline that of the peak? Yes for the peak, no for the middle of its events: ask the grinder."
    ),
    "lobe-read-twice": "Was one lobe swept twice? Void the sweep that is not wanted.",
    "lash-wrong": (
        "Is the lash, or the checking lift, as the card has it? Openings and closings are off against each other."
    ),
    "bleeding-lifter": (
        "Does a lifter bleed down? Closings come early. See whether the dial comes back to zero on the base circle."
    ),
    "lobes-apart": (
        "Are the lobes ground further apart or nearer than the card has it? Read the greatest lift of both."
    ),
    "pointer-moved-wrong": "Was the pointer or the wheel moved the wrong way? The error is twice what it was.",
}
NAMED = {
    "nothing": "nothing wrong",
    "wheel-moved": "wheel moved",
    "gear-slipping": "gear slipping",
    "one-backward": "one read backward",
    "typing-slip": "a slip of typing",
    "wrong-side": "a wrong side",
    "set-backward": "all read backward",
    "wrong-lobe": "wrong lobe",
    "other-cylinder": "another cylinder's TDC",
    "firing-top": "firing TDC",
    "wheel-end": "wheel at the other end",
    "numbers-rise": "numbers the other way",
    "tooth-off": "a tooth off",
    "gear-slipped-before": "gear slipped before",
    "cam-degrees": "marks in cam degrees",
    "indicator-askew": "dial askew",
    "lash-wrong": "lash not the card's",
    "wrong-checking-lift": "another checking lift",
    "bleeding-lifter": "bleeding lifter",
    "springs-on": "valve springs on",
    "card-misprint": "card misprinted",
    "uneven-lobe": "lobe ground uneven",
    "lobes-apart": "lobes ground apart",
    "centerline-of-peak": "centerline of the peak",
    "lobe-read-twice": "a lobe swept twice",
    "pointer-moved-wrong": "moved the wrong way",
}
MESSAGES = {
    "order-advance": "ADVANCE {cam}",
    "order-retard": "RETARD {cam}",
    "advance-the-cam": " Advance the {cam} {move_deg:abs} crank deg.",
    "retard-the-cam": " Retard the {cam} {move_deg:abs} crank deg.",
    "stop-by-name": "the stop",
    "why-other-half": "It is the other half of a pair.",
    "sweep-thinned": "The file of the {lobe} sweep had {count} points: {kept} of them are kept, spread evenly.",
    "why-other-lobe": "This lobe decides as well.",
    "centerline-source-missing": "Say who states it: it stands on the verdict.",
    "centerline-stated": "{lobe} centerline, stated by {by}",
    "prove-readings": (
        "Come up to the first reading again from well behind, then touch the stop again: a knock or a set read backward "
        "would hide in single readings."
    ),
    "why-question": "The verdict waits for the answer.",
    "why-off-the-curve": "It lies off the curve: {guess}",
    "why-lifts-settle": "The card's centerline may be that of the peak: equal lifts near the nose tell where that lies.",
    "why-events-settle": "Equal lifts alone leave it open: the events of this lobe settle it.",
    "why-stop-again": "It proves that the wheel was not knocked since.",
    "why-first-again": "It proves that nothing slipped, and that all was approached forward.",
    "why-settles": "It settles in or out soonest.",
    "why-parts": "Shows whether it is “{other}” or “{one}”.",
    "answer-label": "What did you find?",
    "answer-hint": "Look before you answer: the verdict waits for it.",
    "answer-yes": "Yes, it is so",
    "answer-no": "No, looked: it is not",
    "lift-turned-on": "{lobe} lift, turned on",
    "turn-on-and-read": "Turn forward by the degrees below. Read the {lobe} lift again.",
    "tells-how-steep": "That tells how steep the flank is, so that degrees follow from the lift.",
    "turned-on-deg": "Turned on, crank deg",
    "lift-on-of": "{kind} lift, {typed} deg past overlap TDC",
    "greatest-lift": "{lobe}, greatest lift",
    "back-on-base": "{lobe}, dial back on the base circle",
    "back-on-base-of": "{lobe}, dial back on the base circle",
    "turn-on-to-base": (
        "Turn forward past the {lobe} lobe to its base circle. Type what the dial shows, minus below zero."
    ),
    "base-tells": "0 where all is well. Low, and the lifter bled down or the base of the dial moved.",
    "greatest-lift-of": "{lobe}, greatest lift",
    "turn-over-the-nose": "Turn slowly over the nose of the {lobe}. Type the greatest lift on the dial.",
    "zero-on-base-first": (
        "Zero the dial on the base circle first. It tells an askew indicator, lash, or the wrong lobe."
    ),
    "read-on-sweep": "Read on {what}.",
    "where-card-has-it": "the card wants it",
    "where-it-is-aimed": "it is aimed: {aim}",
    "card-has-instead": " (the card has {card})",
    "measured-against-target": "{label} {measured} against {target} aimed at{card}, {off}.",
    "row-against-target": "  against the target",
    "tdc-taken-as-stated": "TDC is taken as stated: {words}. Read it here, and the verdict rests on your own reading.",
    "target-missing": "Say what is aimed at.",
    "target-advance-missing": "Type how far ahead of the card, crank degrees; minus for behind.",
    "target-centerline-missing": "Type the centerline that is wanted, such as 106.",
    "read-event": "Turn forward until the {lobe} is {way} to {lift}. Read the wheel.",
    "overshot-event": "Overshot? Back off well past and come up forward again: that takes the slack out.",
    "read-event-backward": "Go well past, then turn backward until the {lobe} is at {lift} again. Read the wheel.",
    "slack-by-difference": "The difference from the forward reading is the drive's slack.",
    "lobe-far-from-card": (
        "The {lobe} comes out {error_deg} deg from the card. More likely the wrong lobe, the wrong side of a "
        "dead center, or a whole tooth: re-read it."
    ),
    "read-lift-before-max": "Zero the dial at maximum {kind} lift. Back off, then come up forward to {drop} down.",
    "read-wheel-after-backing-off": "Then read the wheel. Back off well past it first: that takes the drive's slack out.",
    "read-lift-after-max": "Turn forward past maximum lift until the dial is {drop} down again. Read the wheel.",
    "overshot-lift": ("Overshot? Back off well past the peak and come up forward again: that takes the slack out."),
    "tdc-missing-for-overlap": "True TDC was not found before the lift at overlap was read: find it, then re-read.",
    "lifter-down-at-overlap": (
        "The {lobe} lifter is down: is this the firing TDC? Turn the crank once more and read both; if "
        "neither moves as the crank is rolled a few degrees, it is."
    ),
    "card-range": "The card wants {wanted_mm} to {wanted_2_mm}.",
    "overlap-lift-label": "{lobe} lift at overlap TDC{way}",
    "read-overlap-lift": ("Turn forward to overlap TDC. Read the {lobe} lift on the dial, zeroed on the base circle."),
    "read-second-bank": "A second bank? Read its {lobe} lift at its own overlap TDC.",
    "card-has-no-overlap-range": "The card gives no range for it: add it to the spec card.",
    "overlap-lift-of": "{kind} lift at overlap TDC{way}",
    "tdc-missing-for-reading": "True TDC was not found before {name} was read: find it, then re-read.",
    "tdc-readings-contradict": "The TDC readings contradict each other: settle true TDC first.",
    "slack-puts-it-off": " By the drive's slack it is about {slack_deg:.1f} deg off.",
    "approached-backward": "{name}{name_2} was approached backward: re-read it turning forward.{off}",
    "lobe-above-card-lift": "The {lobe} reaches {share:.0f} % more than the card's lift: ",
    "lobe-below-card-lift": (
        "The {lobe} reaches {share:.0f} % less than the card's lift: is the indicator in line with the "
        "lifter, its base firm, and a hydraulic lifter pumped up?"
    ),
    "lifter-or-valve": "lifter or valve, and is this the right cam?",
    "lobes-may-be-swapped": (
        "The intake is far from the card: is it the exhaust lobe, or the companion cylinder's TDC, a crank turn out?"
    ),
    "lift-off-the-curve": "The {lobe} lift {drop} at {typed}{side} is off the curve: {guess}",
    "base-circle-drifts": (
        "The {lobe} base circle drifts {drift_mm} {unit_name} over the sweep: a bleeding lifter, a moved "
        "base, or cam runout?"
    ),
    "duration-off-card": (
        "The {lobe} duration is {gap_deg} deg off the card: is it the card's checking lift, at the lifter or "
        "the valve as the card has it, with the card's lash?"
    ),
    "drive-has-slack": (
        "The drive has {free:.1f} deg of slack: approach every reading forward, and look at chain or gears."
    ),
    "deciding-lobes-missing": "Say whether both lobes or the intake alone decide.",
    "swept-both-ways": "by a sweep both ways",
    "events-both-ways": "by events both ways",
    "tdc-missing-for-sweep": "True TDC was not found before the sweep was read: find it, then re-read.",
    "sweep-read-backward": "Part of the {lobe} sweep was read backward: void it and read it forward.",
    "wheel-and-tdc-missing": "Set up the wheel and find true TDC first.",
    "tdc-missing": "Find true TDC first: no zero of the wheel holds for what is read now.",
    "read-both-sides": "Read both sides of maximum lift.",
    "sweep-under-way": "The sweep is under way: {trouble}",
    "no-lobe-read": "No lobe is read on both sides yet.",
    "measure-after-move": "The cam was moved: measure it again.",
    "read-other-lobe": "Read the {unread} as well.",
    "prove-clearances-next": "Prove the clearances next, then lock up.",
    "choose-position": "Choose a position to cure it.",
    "read-both-before-moving": "Read both lobes again before moving it.",
    "measured-against-card": "{label} {measured} against {card} on the card, {off}.",
    "separation-off-card": (
        "The lobe separation (LSA) is {wider_deg} cam deg {way} than the card's: moving the cam cannot cure "
        "that; look at the grind or the readings."
    ),
    "lobes-disagree-reread": "The lobes do not say the same: re-read the {lobe}, then the other.",
    "drops-disagree": "The drops of the {lobe} disagree: re-read them.",
    "near-end-of-card-range": "Too near the end of the card's range for this dial: read the {lobe} lift again, finer.",
    "near-limit-for-wheel": (
        "Too near the limit for this wheel: re-read the {lobe} before and after, and TDC, to a finer part."
    ),
    "wheel-cannot-prove": (
        "On this wheel the four events cannot prove {tolerance_deg:.1f}: read each twice and the stop four times, or take a "
        "wheel of half degrees."
    ),
    "wheel-proves-within": (
        "On this wheel the four events prove {tolerance_deg:.1f} only of a cam within {reach_deg:.1f} of its target: read "
        "each twice and the stop four times, or take a wheel of half degrees."
    ),
    "settle-questions": "Something in the set-up may well be wrong: settle what is asked below, or take the reading named there.",
    "uneven-lobe-deceives": (
        "Equal lifts near the nose deceive by degrees where a lobe is ground uneven: read the {lobe} far below "
        "maximum as well, 0.250 in or 6 mm, or read its events."
    ),
    "lifts-cannot-settle": "Equal lifts leave it open: read the events at checking lift.",
    "methods-disagree": "{method_words} and {method_words_2} put the {lobe} {apart_by_deg} deg apart: {why_apart}",
    "on-bank": "Bank {bank}: {words}",
    "row-of-bank": "Bank {bank}, {label}",
    "label-of-bank": "{label}, bank {bank}",
    "banks-apart": "On bank 2 the {cam} stands {gap_deg:.1f} deg {way} than on bank 1.",
    "banks-apart-by-overlap": "By the {lobe} lift at overlap bank {bank} is {gap_deg} deg {way} than bank {bank_2}.",
    "why-asymmetric": "the lobe is asymmetric, so compare in the way the card states it.",
    "why-slack": "the drive has {free:.1f} deg of slack, and one of them was not approached forward.",
    "why-asymmetric-or-slipped": "an asymmetric lobe, or a reading that slipped. A sweep tells which.",
    "why-setup-or-slip": "a bad set-up or a slipped reading: look at the questions below.",
    "duration-not-by-moving": (
        "{name} duration is {error_deg} deg {way} than the card's: the grind, the lash or rocker, the "
        "checking lift, or the measuring. Moving the cam does not cure it."
    ),
    "left-after-cure": "Once the phase is cured this is left: {parts}. Favor intake closing if you must choose.",
    "row-drive-slack": "Drive slack, crank deg",
    "row-asymmetry": "{name} asymmetry: peak minus middle of events",
    "calculated-from-durations": "Calculated from the card's durations: {parts}.",
    "points-so-far": "{count} of at least {fewest_points} points.",
    "guess-typing-slip": "a typing slip? About {wanted_mm} would fit.",
    "guess-wheel-misread": "the wheel misread by {shift:.0f} deg?",
    "guess-lifter-sticking": "a lifter sticking on the way down?",
    "read-sweep-at": "Turn forward to {words}. Type the lift.",
    "sweep-has-event": "The sweep has {event} at {stated_deg}: read it only to check.",
    "sweep-has-middle": "The sweep has the middle of the {lobe} at {middle_deg}: read it only to check.",
    "swept-middles": "Out of the {lobe} sweep, middle by distance below max lift: {drops}; {spread_deg} apart.",
    "sweep-forward-only": "Only forward. The angle goes on by itself; change it where you stopped elsewhere.",
}
say = partial(message, MESSAGES)
ask = partial(message, ASKED)
named = partial(message, NAMED)
