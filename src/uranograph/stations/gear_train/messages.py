"""What is said at gear train."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "no-gears": Said("No gears yet.", next_step="Describe the gears or the chain between crank and cam: teeth first."),
    "half-speed": Said("The cam turns at half speed, {value} the crank. {back}", "In: half speed", "See the marks."),
    "not-half-speed": Said(
        "“{cam}” turns at {cam_speed_ratio:.4f} of the crank's speed. {spoiler}",
        "Out: not half speed",
        "Count the teeth again.",
    ),
}
REFUSALS = {
    "mark-past-teeth": "“{name}” has {teeth} teeth: counted from its first mark, 0 to {most}.",
}
SAID = {
    "begin-crank-gear-name": "Begin with the crank gear: its name and its teeth.",
    "begin-crank-gear-list": "Begin with the crank gear, and list the others after it.",
    "which-gear-cam-s": "Say which gear is the cam's.",
    "give-gear-name-crank": "Give this gear a name, such as crank, idler or cam.",
    "name-24-letters-please": "A name of up to 24 letters, please: it stands on the gear.",
    "count-teeth": "Count the teeth of {figure}.",
    "gear": "Say what this gear is.",
    "gear-held": "Say how this gear is held.",
    "twice": "“{name}” is there twice. Give each gear a name of its own.",
    "crank-gear-already": "There is one crank gear, and “{name}” is it already.",
    "no-gear-choose-described": "There is no gear {text}: choose one that is described.",
    "which-gear-turns": "Say which gear turns “{name}”.",
    "turned": "Say how it is turned.",
    "where-mark-stands": "Say where the mark stands.",
    "these-two-meet-where": (
        "These two cannot meet: where one gear has a tooth on the line of centers, the other has a space there."
    ),
    "helical-entry-needs-all": "Helical entry needs all three: module, helix angle, and how far it slides.",
    "which-gear-slides": "Say which gear slides in.",
    "spoils-teeth-instead-would": "“{name}” spoils it: with {teeth} teeth instead of {teeth_2} it would be half.",
    "no-single-gear-s": "No single gear's count would cure it: count them all again.",
    "no-marks-meet": "There are no marks to meet.",
    "after-two-turns-every": "After two turns every mark is back.",
    "after-two-turns-marks": (
        "After two turns the marks {names} are not back, and nothing has slipped; all meet after {all_back_after}."
    ),
}
say = partial(tell, SAID)
