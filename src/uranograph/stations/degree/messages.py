"""What is said at the intake and exhaust station."""

from functools import partial

from uranograph.bench.words import tell

SAID = {
    "chance-of-a-fault": "a fault",
}
say = partial(tell, SAID)
