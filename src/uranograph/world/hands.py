"""Hands: how well they see, and what they do wrong."""

import random
from dataclasses import dataclass, field


@dataclass
class Hand:
    """A person at the engine; the same seed does the same.

    Parameters
    ----------
    seed
        Of everything this hand does.
    noise
        Times the usual scatter of eye and needle.
    overshoot_deg
        Mean of how far a turn goes too far, crank degrees.
    backward, mistypes, knocks
        Chances that a reading is come up to backward, that a digit is typed wrong, that the wheel is knocked at an act.
    """

    seed: int
    noise: float = 1.0
    overshoot_deg: float = 0.06
    backward: float = 0.0
    mistypes: float = 0.0
    knocks: float = 0.0
    r: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self.r = random.Random(f"hand {self.seed}")

    def scatter(self, sd: float) -> float:
        """What a single look is off by."""
        return self.r.gauss(0, sd * self.noise)

    def overshoots(self) -> float:
        """How far a turn goes too far, crank degrees."""
        return self.r.expovariate(1 / self.overshoot_deg) if self.overshoot_deg else 0.0

    def chance(self, share: float) -> bool:
        """Whether something of this chance happens now."""
        return self.r.random() < share

    def typed(self, text: str) -> str:
        """A figure as it is typed: now and then a digit is another."""
        if not self.chance(self.mistypes):
            return text
        places = [k for k, letter in enumerate(text) if letter.isdigit()]
        at = self.r.choice(places)
        return f"{text[:at]}{(int(text[at]) + self.r.randint(1, 9)) % 10}{text[at + 1 :]}"
