"""Messages of the room between valves and pistons."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "nothing-read": FindingMessage(
        "How near the valves come to the pistons, here and at every position of the drive.",
        next_step="Measure the first valve.",
    ),
    "stroke-and-rod-missing": FindingMessage(
        "The drop is kept. Stroke and rod say how fast the piston goes: without them no gap follows from it.",
        "Stroke and rod are missing",
        "Enter stroke and rod at Engine, or press clay.",
    ),
    "lift-missing": FindingMessage(
        "The drop is kept. How the {lobe} valve lifts is not known: no card with its greatest lift, no sweep, no lifts read.",
        "The lift is missing",
        "Enter the greatest lift on the card (and the rocker ratio), or read lifts at stated angles.",
    ),
    "too-near": FindingMessage(
        "{name} comes within {gap_mm:unit} of {what}{at} (minimum {least_mm:unit}).",
        "Out: too near",
        "Do not turn on by force. Another position, a smaller cam, or deeper pockets.",
    ),
    "meets": FindingMessage(
        "{name} and {what} would meet{at}: {gap_mm:unit}.",
        "Out: they would meet",
        "Do not turn the crank past here. Another position, a smaller cam, or deeper pockets.",
    ),
    "near-the-limit": FindingMessage(
        "{name} has {gap_mm:unit}, within the uncertainty of {least_mm:unit}{at}.",
        "Cannot tell",
        "Read it closer: light springs with the dial at several angles, or a sweep of the lobe.",
    ),
    "not-degreed": FindingMessage(
        "As the card has it {name} has {gap_mm:unit}{at}. Where the cam stands is not measured yet.",
        "Cannot tell yet",
        "Degree the cam, or press clay.",
    ),
    "ways-disagree": FindingMessage(
        "Two ways of reading {name} disagree by more than they may; the nearer gives {gap_mm:unit}.",
        "Cannot tell",
        "Read that valve again both ways.",
    ),
    "within-so-far": FindingMessage(
        "{name} has {gap_mm:unit}{at}; the {missing} valve is not read.",
        "Within, so far",
        "Read the {missing} valve of the same cylinder.",
    ),
    "room-enough": FindingMessage(
        "Tightest: {name}, {gap_mm:unit}{at} (minimum {least_mm:unit}).",
        "In",
        "Turn over by hand after every move, and measure again if anything else was changed.",
    ),
}
REFUSALS = {
    "no-such-valve": "This engine has {count} valves.",
    "drop-below-nothing": "It is not less than nothing: type 0 where it touches.",
    "no-such-room": "“{typed}” is more room than any chamber has: inches or mm?",
    "angle-missing": "At what crank angle? Type degrees after overlap TDC, before it with a minus.",
    "angle-not-near-overlap": "“{typed}” is not near overlap: a valve comes near its piston within 60 degrees of it.",
    "lift-unlikely": "“{typed}” is more than any valve lifts: inches or mm?",
    "solid-not-below-fitted": "A spring pressed solid is shorter than fitted, {fitted_mm:full}: look at both.",
    "fitted-not-above-solid": "A fitted spring is longer than pressed solid, {solid_mm:full}: look at both.",
}
MESSAGES = {
    "push-down": "Crank at overlap TDC of cylinder {cylinder}. Push the {lobe} valve down until it touches the piston.",
    "push-down-hint": (
        "With a light spring or none in it; zero the dial on the shut valve. Overlap TDC: both lifters a little up. Never force it."
    ),
    "drop-label": "{name}: drop to the piston",
    "spring-down": "Light springs in. At each angle push the {name} valve on from its lift until it touches.",
    "spring-hint": "The way it goes is the gap there. Every 5 degrees round the least: {round}.",
    "spring-label": "{name}: gap",
    "clay-down": "Clay on the piston under {name}. Turn two turns by hand, take it apart, cut it where it is thinnest.",
    "clay-hint": "The lifter or lash as in service; clay oiled. Turn gently: what is solid under it must not be forced.",
    "clay-label": "{name}: thinnest clay",
    "lift-down": "Dial on the retainer of {name}. Read the valve's lift at stated crank angles.",
    "lift-hint": "Every 5 or 10 degrees, 40 before overlap TDC to 40 after it, turning forward.",
    "lift-label": "{name}: lift",
    "meet-down": "Both valves shut, at their nearest edges: measure the gap between their heads.",
    "meet-hint": "Along the line in which they approach each other: blades, or from the angles and head sizes.",
    "meet-label": "Valve to valve, both shut",
    "bind-fitted": "Measure the {lobe} spring as it is fitted, valve shut.",
    "bind-solid": "Press the {lobe} spring solid and measure it.",
    "bind-retainer": "Measure from the {lobe} retainer down to guide or seal, valve shut.",
    "bind-hint": "Room left at greatest lift is this less the lift. A spring under load: compressor, eyes, hands clear.",
    "fitted-label": "{lobe} spring, fitted",
    "solid-label": "{lobe} spring, solid",
    "retainer-label": "{lobe} retainer to guide",
    "at-label": "At, deg ATDC overlap (before: −)",
    "by-drop": "drop of {name} to the piston",
    "by-clay": "clay at {name}",
    "by-spring": "gap of {name} at {at}",
    "by-lift": "lift of {name} at {at}",
    "by-meet": "valve to valve, both shut",
    "lift-from-sweep": "{lobe} lift: from its sweep.",
    "lift-from-swept-before": "{lobe} lift: from its sweep before the cam was moved.",
    "lift-from-angles": "{lobe} lift: as read at stated angles.",
    "lift-from-card": "{lobe} lift: a nominal lobe by the card, which may be off by {pct:g} % there. A sweep is surer.",
    "lash-left-out": "Lash is left out: with it there is more room, never less.",
    "limits-said": "Shop limits: intake {intake}, exhaust {exhaust}, more for rods that stretch. The engine's manual outranks them.",
    "positions-too-near": "Positions that come too near: {listed}.",
    "at-after-overlap": " at {deg_deg:abs} after overlap TDC",
    "at-before-overlap": " at {deg_deg:abs} before overlap TDC",
    "spring-to-coil-bind": "{lobe} spring to coil bind",
    "retainer-to-guide": "{lobe} retainer to guide",
    "greatest-lift-missing": "Room to coil bind and guide needs the greatest lift of the {lobe} valve.",
}
say = partial(message, MESSAGES)
