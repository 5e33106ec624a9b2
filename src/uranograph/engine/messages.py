"""Messages about the engine and its set-up."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "binds": FindingMessage(
        "{name} binds: it has less play than none, nobody knows by how much. At least {goal_mm:fine} is missing.",
        "Out: {name} binds",
        "Set it: take off at least half of that each side, then measure again.",
    ),
    "not-read": FindingMessage("{name} not read yet.", "{name} not read", "Measure the {part}."),
    "read-again": FindingMessage(
        "{name} not read yet. Its fit was changed: read it again, as the proof.",
        "{name} not read",
        "Measure the {part}.",
    ),
    "blades-cannot-be": FindingMessage("{name}: {why}", "{name}: cannot tell", "Void the blade that is wrong."),
    "parts-not-fitted": FindingMessage(
        "{name} {bracket}, but its limiting parts are not all fitted: this is not its play.",
        "{name}: cannot tell",
        "Fit them, or stand-ins; read again.",
    ),
    "parts-not-stated": FindingMessage(
        "{name} {bracket}; nobody said whether its limiting parts are fitted.",
        "{name}: cannot tell",
        "Say what is fitted.",
    ),
    "so-far": FindingMessage("{name} {bracket} so far.", "{name} so far", "Repeat it: three times."),
    "straddles": FindingMessage(
        "{name} {bracket}: it straddles a limit.", "{name}: cannot tell", "Read the travel again, finer."
    ),
    "straddles-blade": FindingMessage(
        "{name} {bracket}: it straddles a limit.", "{name}: cannot tell", "Try {blade} {unit} next."
    ),
    "gone-when-hot": FindingMessage(
        "{name} {bracket}. Hot it changes by {change_mm:fine} {unit}: nothing may be left.",
        "{name}: none left hot",
        "Give it more play cold.",
    ),
    "within": FindingMessage("{name} {bracket}.", "{name} in", "Go on."),
    "tight": FindingMessage("{name} {bracket}: tight.", "{name} tight", "Set end play."),
    "loose": FindingMessage("{name} {bracket}: loose.", "{name} loose", "Set end play."),
}

REFUSALS = {
    "name-too-long": "A name has {longest} letters at the most: write a shorter one.",
    # Adjust.
    "chain-too-long": "A chain “{typed}” % longer is not likely: most are worn out at 2 %.",
    "not-a-label-with-shift": "“{typed}” is no label with a shift. Type it such as A4: 4, with commas between.",
    "label-twice": "“{typed}” stands twice.",
    # An encoder beside a wheel.
    "tdc-by-eye": "TDC was found by eye, and {now} has its own zero: read the wheel, or record it as moved and find TDC with {now}.",
    "tdc-by-an-encoder": "TDC was found with {before}, and the wheel has its own zero: read {before}, or record it as moved and find TDC.",
    "tdc-by-another": "TDC was found with {before}; {now} has its own zero: read {before}, or record the wheel as moved and find TDC.",
    # Card.
    "card-line-too-long": "This is {count} letters long; a card's lines have up to {longest}.",
    "card-line-left-over": "“{typed}” is not understood. Write it such as IO 12 IC 44 EO 52 EC 4 @ .050, or 228/236 LSA 110 +4.",
    "card-line-empty": "Nothing of a card is in this. Write it such as IO 12 IC 44 EO 52 EC 4 @ .050, or 228/236 LSA 110 +4.",
    "card-line-twice": "The same figure stands twice and differs: {one} and {other}.",
    "unlikely-checking-lift": "“{typed}” {unit} is not likely a checking lift. Choose what is meant, or type its unit.",
    "not-a-cam-lift": "“{typed}” is no lift a cam has. Check the figure and its unit.",
    # Wheel.
    "not-a-wheel-division": "“{typed}” is no division a wheel has. It is usually 1 degree.",
    "not-a-dial-division": "“{typed}” is no division a dial has. It is usually 0.001 in or 0.01 mm.",
    "no-such-side": "“{side}” is no side a wheel has.",
    "wheel-without-sides": "“{typed}”: a {scale} wheel has no sides. Type the number alone.",
    # Engine.
    "compression-unlikely": "“{typed}” is no compression ratio of an engine: such as 9.5.",
    "cylinders-outside": "“{typed}” cylinders cannot be. Type a whole number from 1 to {most_cylinders}.",
    "rocker-ratio-unlikely": "A rocker ratio of {ratio:g} is not likely. It is usually 1 to 2.",
    # Gear train.
    "mark-past-teeth": "“{name}” has {teeth} teeth: counted from its first mark, 0 to {most}.",
}

MESSAGES = {
    # Adjust.
    "drive-missing": "Say what this drive offers to move the cam by.",
    "choices-missing": "Type each choice and its shift, such as R4: -4, 0: 0, A4: 4.",
    "crank-teeth-missing": "Type the crank gear's teeth.",
    "sprocket-holes-missing": "Type how many holes the sprocket has.",
    "hub-holes-missing": "Type how many holes the hub has.",
    "cam-teeth-missing": "Type the cam gear's teeth.",
    "hole-sets-missing": "Type how many sets of holes it has.",
    "adjuster-kind-missing": "Choose what kind of adjuster this is.",
    "slot-range-missing": "Type how far it goes either way.",
    "slot-step-missing": "Type how finely it can be set.",
    "move-below-resolution": (
        "{phrase}; {wanted} were predicted, less than these readings tell apart (± {uncertainty_deg:.1f})."
    ),
    "did-not-move": "It did not move: {wanted} deg were predicted. Was the cam put back where it was?",
    "moved-the-wrong-way": "{phrase} the wrong way, {way}: it was moved backward.",
    "moved-twice-as-far": "{phrase}, twice the {wanted} predicted: these marks are cam degrees.",
    "moved-half-as-far": (
        "{phrase}, half the {wanted} predicted: these marks are crank degrees, or half the move was made."
    ),
    "moved-otherwise": "{phrase} where {wanted} were predicted: look at what was moved, and re-read.",
    # Backlash.
    "pitch-radius-missing": "Type the cam gear's pitch radius: teeth times module over two.",
    "backlash-limits-crossed": "The least backlash is above the greatest: look at the figures again.",
    "needed-for-hot-backlash": "The hot value needs this too.",
    # Card.
    "understood": "Understood: {listed}.",
    "card-figures-missing": "Type what the card gives: events, durations, centerlines or separation.",
    "checking-lift-above-max-lift": "The checking lift must be less than the maximum lift. Look at the card again.",
    "card-choice-unknown": "Choose one of {allowed}.",
    "seat-duration-too-small": "{typed:g} at the seat is not more than {at_check:g} at the checking lift: look at the card again.",
    "high-lift-duration-too-large": "{typed:g} at .200 in is not less than {at_check:g} at the checking lift: look at the card again.",
    "card-lifts-contradict": (
        "{lobe} valve lift {stated_mm:u}, but lobe lift {top_mm:u} times rocker ratio {ratio:g} less lash {lash_mm:u} is "
        "{wanted_mm:u}: one of them is wrong."
    ),
    "card-angle-out-of-range": "{named} {angles:g} cannot be: it must be {limit} degrees.",
    "overlap-lift-limits-crossed": "The least lift is above the greatest: look at the card again.",
    # Wheel.
    "wheel-scale-missing": "Say how the wheel is numbered.",
    "wheel-end-missing": "Say which end of the crank carries the wheel.",
    "numbers-rise-missing": "Say which way its numbers increase as you face it.",
    # Engine.
    "tappets-missing": "Say which tappets are in while checking: solid, hydraulic, or a solid stand-in.",
    "springs-missing": "Say which valve springs are on while checking: none, light ones, or the real ones.",
    "firing-order-needed": "Type the firing order first: cylinders are named by it.",
    "cylinder-not-in-order": "“{typed}” is no cylinder of this firing order.",
    "cylinders-missing": "Type how many cylinders it has.",
    "firing-order-for-angles": "Type the firing order, such as 1-3-4-2: its angles are counted along it.",
    "rotation-missing": "Say which way it turns, seen from the front.",
    "unit-missing": "Choose the units: inches or millimeters.",
    "valvetrain-missing": "Say how the lobes reach the valves.",
    "lift-position-missing": "Say where the dial reads lift.",
    "stroke-and-rod-together": "Stroke and rod are used together: type both, or leave both empty.",
    # End play.
    "single-figure-or-limits": "One figure alone, or least and greatest: not both.",
    "play-below-zero": "less than nothing: it binds",
    "play-limits-missing": "Type the least and the greatest play of one shaft at least, by the manual.",
    "play-method-missing": "Say how it is read: feelers or a dial.",
    "both-limits-needed": "Both are needed: the least and the greatest play.",
    "play-limits-crossed": "The least play is above the greatest: look at the figures again.",
    "needed-for-hot-play": "The hot value needs this too.",
    "limiting-parts-hint": "thrust plate, gear, bolt",
    "usual-limiting-parts": "thrust plate, gear, bolt or its stand-in",
    "limiting-parts": "Limiting parts of the {part}",
    "ask-limiting-parts": "Are the parts fitted that limit the {part}'s play: {what}?",
    "limiting-parts-first": "Without them a shaft floats far more, and alarms people for nothing.",
    # Gear train.
    "crank-gear-missing": "Begin with the crank gear: its name and its teeth.",
    "first-gear-not-crank": "Begin with the crank gear, and list the others after it.",
    "cam-gear-missing": "Say which gear is the cam's.",
    "gear-name-missing": "Give this gear a name, such as crank, idler or cam.",
    "gear-name-too-long": "A name of up to 24 letters, please: it stands on the gear.",
    "gear-teeth-missing": "Count the teeth of {figure}.",
    "gear-role-missing": "Say what this gear is.",
    "gear-held-missing": "Say how this gear is held.",
    "gear-name-twice": "“{name}” is there twice. Give each gear a name of its own.",
    "second-crank-gear": "There is one crank gear, and “{name}” is it already.",
    "gear-not-described": "There is no gear {text}: choose one that is described.",
    "driver-missing": "Say which gear turns “{name}”.",
    "drive-kind-missing": "Say how it is turned.",
    "mark-position-missing": "Say where the mark stands.",
    "marks-cannot-meet": (
        "These two cannot meet: where one gear has a tooth on the line of centers, the other has a space there."
    ),
    "helical-entry-incomplete": "Helical entry needs all three: module, helix angle, and how far it slides.",
    "sliding-gear-missing": "Say which gear slides in.",
    "no-marks": "There are no marks to meet.",
    "marks-back-after-two-turns": "After two turns every mark is back.",
    "marks-back-later": (
        "After two turns the marks {names} are not back, and nothing has slipped; all meet after {all_back_after}."
    ),
    # By eye.
    "end-missing": "Choose the end that it is seen from.",
    "mark-missing": "Choose what the mark is, and what it meets.",
    "driven-part-missing": "Choose what is driven.",
    "mark-carrier-missing": "Say what carries this mark.",
    "meeting-part-missing": "Say what carries the mark that it meets.",
    # True tdc.
    "tdc-method-missing": "Choose how it was set.",
    "tdc-source-missing": "Say who set it: it stands on the verdict.",
    "tdc-cylinders-missing": "Both are needed: the cylinder whose TDC it is, and the one that is read.",
    "tdc-cylinder-unknown": "“{typed}” is not in the firing order.",
    "tdc-firing-order-missing": "Type the firing order at Engine first: it says how far apart the two tops are.",
    "turn-to-stop": "Turn {way} by hand to the stop. Read the wheel.",
    "touch-stop-hint": "Touch the stop gently, the same each time.",
    "overshot-stop": "Overshot? Back off well past and come up forward again.",
    "read-drop-before": "Come up forward until the piston is {drop} below its highest. Read the wheel.",
    "read-drop-after": "Turn forward over the top until the piston is {drop} down again. Read the wheel.",
    # Turn over.
    "smooth": "smooth",
    "binds-or-stops": "it binds or stops",
    "heavy-at-a-place": "turns, heavy at a place",
    # Clearance.
    "how-far-from-bore": "How far the valve leans from the line of the bore, degrees; 0 where it runs along it.",
}

say = partial(message, MESSAGES)
