"""Messages of the intake and exhaust station."""

from functools import partial

from uranograph.bench.messages import message

MESSAGES = {
    "chance-of-a-fault": "a fault",
    "move-the-cam": "Move the cam.",
    "choose-a-position": "Choose a position",
    "touch-the-stop-again": "Touch the stop again, both ways.",
    "read-first-again": "Read the first one again.",
    "read-it-again": "Read it again",
    "at-true-tdc": "True TDC",
}
say = partial(message, MESSAGES)
