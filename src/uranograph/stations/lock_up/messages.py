"""Messages of locking up."""

from functools import partial

from uranograph.bench.finding import FindingMessage
from uranograph.bench.messages import message

FINDINGS = {
    "nothing-there": FindingMessage(
        "Nothing was loosened, pinned or driven by what was done here: nothing was judged.",
        "Nothing to judge",
        "Go on.",
    ),
    "not-begun": FindingMessage(
        "What was loosened, moved, pinned or fitted dry on the way, each to be closed before the covers.",
        next_step="Answer for the first.",
    ),
    "left-snug": FindingMessage(
        "{what}: {answer}. Nothing is closed while this is so.",
        "Out: not closed",
        "Put it right, then answer again.",
    ),
    "turn-first": FindingMessage(
        "All of that is closed; the engine was not turned two turns by hand since it was last moved.",
        "Turn it over",
        "Turn it two turns by hand, at Turn over by hand.",
    ),
    "prove-first": FindingMessage(
        "All of that is closed. TDC and the first reading of the lobe are not read again since: a wheel or a gear may have moved unseen.",
        "Read again",
        "Touch the stop again and come up to the first reading again, at Intake and exhaust.",
    ),
    "cam-out": FindingMessage(
        "All of that is closed. {out}: nothing is closed over it unless that is accepted, with a reason.",
        "Not yet",
        "Move the cam at Adjust, or accept it as it is at Intake and exhaust.",
    ),
    "cam-unsure": FindingMessage(
        "All of that is closed, but where the cam stands cannot be told: {cam}",
        "Cannot tell",
        "Read on at Intake and exhaust, or accept it as it is there, with a reason.",
    ),
    "closing": FindingMessage("{done} of {count} are closed.", "Under way", "{step}"),
    "closed": FindingMessage(
        "All {count} are closed; it turns by hand{proved}.{accepted}",
        "In",
        "Covers on; then sign the build sheet.",
    ),
}
REFUSALS = {
    "pins-not-counted": "{put_in} were noted as put in and {out} counted out, at Marks by eye. Count them out there first.",
}
MESSAGES = {
    "turn-it-over": "Turn it two turns by hand.",
    "at-turn-over": "Turn over by hand",
    "read-stop-and-first-again": "Touch the stop and read the first reading again.",
    "at-degree": "Intake and exhaust",
    "adjuster": "{name}: tightened as it is to stay?",
    "adjuster-hint": "It was moved to a position, and bolts were only snug meanwhile. Torque in stages, threadlocker where called for.",
    "gears": "Gears: bolts and retainers tightened?",
    "cam-bolts": "The cam's gear or adjuster, moved in its drive: bolts tightened, locked?",
    "cam-parts": "Cam: thrust plate, retainer and gear tightened?",
    "crank-bolt": "Crank bolt tightened?",
    "parts": "Parts that were fitted or taken off: all on and tightened?",
    "shims": "What was opened for shims or thrust faces: closed and tightened?",
    "sprockets": "Sprocket and its shims tightened?",
    "lock-nuts": "Lock nuts of the rockers tightened, every one?",
    "tight-hint": "To the manual's torque and in its stages. Past its torque: loosen, look, a new one where it stretches.",
    "stop-out": "Piston stop out?",
    "stop-hint": "A stop left in bends a valve or a rod at the first turn of the starter.",
    "pins-out": "Pins and locks: as many out as went in?",
    "pins-hint": "Count them into your hand. {told}",
    "pins-told": "Noted as put in: {put_in}; counted out: {out}.",
    "lubed": "Lobes and followers lubed again?",
    "lubed-hint": "The measuring wiped them; a dry lobe is gone within a minute.",
    "driven": "What the cam drives: re-timed?",
    "driven-hint": "Distributor, magneto, sensor, injection or fuel pump and its eccentric have moved with it.",
    "wheel-off": "Degree wheel, pointer, dial and light springs off?",
    "wheel-hint": "A light spring left in floats its valve into the piston.",
    "row-turned": "Turned two turns by hand",
    "row-proved": "TDC and first reading read again",
    "yes-since": "yes, since it was last moved",
    "not-since": "not since it was last moved",
    "cam-accepted": " The cam was accepted as it is: {text}.",
    "and-proved": ", and TDC and the first reading came again as they were",
    "label-adjuster": "{name}",
    "label-gears": "Gears",
    "real-tappets": "Solid stand-ins out, the real lifters in?",
    "real-springs": "Checking springs out, the real springs on, their keepers seated?",
    "clay-out": "All clay off pistons and valves?",
    "real-parts": "Stand-ins for the parts that limit end play out, the real parts in and tightened?",
    "each-counted": "Count them in and out.",
    "clay-hint": "What is left burns on, or blocks an oil hole.",
    "label-real-tappets": "Real lifters",
    "label-real-springs": "Real springs",
    "label-clay": "Clay",
    "label-real-parts": "Real thrust parts",
    "label-cam-bolts": "Bolts of the cam that was moved",
    "label-cam": "Cam",
    "label-crank-bolt": "Crank bolt",
    "label-parts": "Parts",
    "label-shims": "Shims and thrust faces",
    "label-sprockets": "Sprockets",
    "label-lock-nuts": "Lock nuts",
    "label-stop": "Piston stop",
    "label-pins": "Pins and locks",
    "label-lubed": "Lobes lubed",
    "label-driven": "Driven parts",
    "label-wheel": "Wheel and dial",
}
say = partial(message, MESSAGES)
