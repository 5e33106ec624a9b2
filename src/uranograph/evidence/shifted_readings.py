"""Readings in rows and columns as hypotheses shift them."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, NamedTuple

from uranograph.evidence.covariance import Expected, Seen

if TYPE_CHECKING:
    from uranograph.evidence.model import Array


@dataclass(frozen=True)
class Setup:
    """Other known facts of engine, wheel and card.

    Parameters
    ----------
    crank_teeth
        Teeth of the gear on the crank; None where they are not counted.
    firing_deg
        How far apart cylinders fire, crank degrees; None where it is uneven or not known.
    full_wheel
        Whether the wheel counts 0 to 360.
    crossed
        Whether both contacts at the top were read on the wrong side of it.
    clash
        Whether the card's figures contradict each other.
    pressed
        Whether the cam's gear is held by its fit alone, so that it can have slipped before.
    tappets
        `solid`, `hydraulic`, `stand-in`, or nothing where it is not said: what is in while checking.
    springs
        `none`, `light`, `real`, or nothing: which valve springs are on while checking.
    slack_deg
        Slack of the drive where it was measured, crank degrees: what a reading that came backward is off by.
    denied
        Faults that somebody looked for and did not find, by code, and up to which reading that counts.
    """

    crank_teeth: int | None = None
    firing_deg: float | None = None
    full_wheel: bool = False
    crossed: bool = False
    clash: bool = False
    pressed: bool = False
    tappets: str = ""
    springs: str = ""
    slack_deg: float | None = None
    denied: Mapping[str, int] = field(default_factory=dict)


class Hypothesis(NamedTuple):
    """One way a fault can be: what it adds to each reading, and the directions in which it adds an unknown size.

    `along` is (n,) or (n, k); `share` is its part of the fault's prior; `sign` is −1 where the direction is known better instead;
    `sized` whether its usual size may be missed by a factor, as for `SIZES`. `moves` is how far intake and exhaust themselves stand
    later by one of its size, `places` by what it adds: a slipped gear did move the cam, a knocked wheel did not.
    """

    code: str
    share: float
    adds: "Array"
    along: "Array"
    seq: int | None = None
    sign: int = 1
    sized: bool = False
    moves: tuple[float, float] = (0.0, 0.0)
    places: float = 0.0


@dataclass
class ShiftedReadings:
    """The readings as columns: where each fault can lie, and what it would do to each."""

    readings: tuple[Seen, ...]
    taken: int
    expected: Expected
    zero: "Array" = field(init=False)
    lobes: "Array" = field(init=False)
    seqs: "Array" = field(init=False)

    def __post_init__(self) -> None:
        import numpy as np

        self.zero = np.zeros(len(self.readings))
        self.seqs = np.array([each.seq for each in self.readings])
        self.lobes = self.where(lambda each: each.kind in ("event", "lift"))

    def where(self, test: Callable[[Seen], float]) -> "Array":
        """1 or a size for each reading."""
        import numpy as np

        return np.array([float(test(each)) for each in self.readings])

    def at(self, n: int) -> "Array":
        """1 at this reading alone."""
        here = self.zero.copy()
        here[n] = 1.0
        return here

    @property
    def at_lobes(self) -> list[int]:
        """Numbers of the wheel readings of lobes that are taken already."""
        return [n for n in range(self.taken) if self.lobes[n]]

    @property
    def singly(self) -> list[int]:
        """Of those the ones that a hand read and typed one by one."""
        return [n for n in self.at_lobes if self.readings[n].own_deg is None]
