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
MESSAGES = {
    "proof-taken": "Proof taken: what was read first was read again. 20 of 20.",
    "proof-missing": "No proof: what was read first was not read again. 0 of 20.",
    "all-forward": "Every reading of the lobes was come up to forward. 20 of 20.",
    "some-backward": "{count} of the readings of the lobes had slack in them: come up forward. 0 of 20.",
    "nothing-forced": "Nothing was forced. 10 of 10.",
    "something-forced": "Something was forced, bent or spoiled. 0 of 10.",
    "misread": "Read {deg:.1f}° off what the wheel showed.",
    "wrong-side-or-way": "The side, or the way the numbers rise, is not what the wheel showed.",
    "came-backward": "Slack of {deg:.1f}° lay in it: it was come up to backward.",
    "true-zero": "The wheel showed {deg:.2f}° {side} at true TDC.",
    "found-zero": "Found: {deg:.2f}° {side} at true TDC.",
    "true-late": "The cam stood {deg:.1f}° {way} in the end.",
    "found-late": "Found: {deg:.1f}° {way}. {verdict}",
    "nothing-found": "Nothing was found yet.",
}
say = partial(message, MESSAGES)
