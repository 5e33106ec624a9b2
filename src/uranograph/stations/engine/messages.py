"""What is said at engine."""

from functools import partial

from uranograph.bench.finding import Said
from uranograph.bench.words import tell

FOUND = {
    "described": Said("{why}", "Engine described", "Enter the spec card."),
    "not-described": Said("The engine is not described yet.", next_step="Describe the engine."),
}
REFUSALS = {
    "compression-unlikely": "“{typed}” is no compression ratio of an engine: such as 9.5.",
    "cylinders-outside": "“{typed}” cylinders cannot be. Type a whole number from 1 to {most_cylinders}.",
    "rocker-ratio-unlikely": "A rocker ratio of {ratio:g} is not likely. It is usually 1 to 2.",
}
SAID = {
    "choose-tappets": "Say which tappets are in while checking: solid, hydraulic, or a solid stand-in.",
    "choose-springs": "Say which valve springs are on while checking: none, light ones, or the real ones.",
    "firing-order-wanted": "Type the firing order first: cylinders are named by it.",
    "no-such-cylinder": "“{typed}” is no cylinder of this firing order.",
    "many-cylinders": "Type how many cylinders it has.",
    "firing-order-1-3": "Type the firing order, such as 1-3-4-2: its angles are counted along it.",
    "turns-order-not-given": "Turns {rotation} seen from the front. Its firing order is not given: companions and other tops are not told.",
    "which-way-turns-seen": "Say which way it turns, seen from the front.",
    "whether-bare-lengths-inches": "Say whether bare lengths are inches or mm.",
    "lobes-reach-valves": "Say how the lobes reach the valves.",
    "where-dial-reads-lift": "Say where the dial reads lift.",
    "stroke-rod-used-together": "Stroke and rod are used together: type both, or leave both empty.",
    "fires-turns-seen-front": "Fires {order}, turns {rotation} seen from the front.",
    "no-two-cylinders-rise": " No two cylinders rise together.",
}
say = partial(tell, SAID)
