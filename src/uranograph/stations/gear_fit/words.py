"""What is said at gear fit."""

REFUSALS = {
    "no-such-stage": "There is no such bolt or stage: look at the set-up.",
    "torque-far-past": "“{typed}” is far past {both}: which unit?",
}
