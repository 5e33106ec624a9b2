"""Messages of the intake and exhaust station."""

from functools import partial

from uranograph.bench.messages import message

MESSAGES = {
    "chance-of-a-fault": "a fault",
    "set-wheel-right": "Set it right at Degree wheel, and tick that it was like this from the start.",
    "set-card-right": "Set it right on the card.",
    "set-engine-right": "Set it right at Engine: which lifters and springs are in while checking.",
    "at-wheel": "Degree wheel",
    "at-card": "Spec card",
    "at-engine": "Engine",
    "move-the-cam": "Move the cam.",
    "choose-a-position": "Choose a position",
    "touch-the-stop-again": "Touch the stop again, both ways.",
    "read-first-again": "Read the first one again.",
    "read-it-again": "Read it again",
    "at-true-tdc": "True TDC",
}
say = partial(message, MESSAGES)
