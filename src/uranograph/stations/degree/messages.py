"""What is said at the intake and exhaust station."""

from functools import partial

from uranograph.bench.messages import message

SAID = {
    "chance-of-a-fault": "a fault",
}
say = partial(message, SAID)
