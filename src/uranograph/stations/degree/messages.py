"""Messages of the intake and exhaust station."""

from functools import partial

from uranograph.bench.messages import message

MESSAGES = {
    "chance-of-a-fault": "a fault",
}
say = partial(message, MESSAGES)
