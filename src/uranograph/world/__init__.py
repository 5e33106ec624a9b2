"""Made-up engines whose truth is known: parts, state, acts with consequences, instruments, hands and faults.

No interface, no sentence and no clock: time is passed in, and the same seed gives the same engine everywhere.
"""
