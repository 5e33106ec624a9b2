"""Expected information of a reading: about the faults, and about in or out."""

import math
from collections import defaultdict
from dataclasses import dataclass
from typing import TYPE_CHECKING

from uranograph.core.verdict import FALSE_VERDICT
from uranograph.evidence.covariance import Expected, Seen
from uranograph.evidence.faults import Weighing
from uranograph.evidence.hypotheses import NOTHING
from uranograph.evidence.model import Phase, toward_phase
from uranograph.evidence.shifted_readings import Setup

if TYPE_CHECKING:
    from uranograph.evidence.model import Array

# Places and weights of Gauss and Hermite's rule of five points, for a standard normal.
_FIVE = ((-2.856970, 0.011257), (-1.355626, 0.222076), (0.0, 0.533333), (1.355626, 0.222076), (2.856970, 0.011257))


# Faults below this probability are left out of the predictions.
MIN_FORETOLD = 1e-4


@dataclass(frozen=True)
class Gain:
    """Expected information of a reading, nats: about the faults and about in or out; and the two faults it separates best."""

    faults: float
    verdict: float
    parts: tuple[str, str]


def gains(
    readings: tuple[Seen, ...],
    expected: Expected,
    setup: Setup,
    coming: tuple[Seen, ...],
    tolerance_deg: float,
    cam: str = "both",
    lobes: tuple[str, ...] = (),
    ahead_deg: float = 0.0,
    false_verdict: float = FALSE_VERDICT,
) -> tuple[Gain, ...]:
    """Expected information of each candidate reading, if taken next.

    Parameters
    ----------
    readings, expected, setup
        As for `Weighing`.
    coming
        Readings that could be taken; their `seq` lies after all others.
    tolerance_deg, cam, lobes, ahead_deg
        What the verdict is of, crank degrees.
    false_verdict
        How likely wrong a verdict may be where it is given.

    Returns
    -------
    tuple
        One for each reading of `coming`. Each fault foretells the reading as a Gaussian; what is learned of which fault it is
        is bounded from below by how far these lie apart, of in or out by how much narrower the phase becomes.

    References
    ----------
    Mixture information by Bhattacharyya distances; docs/methods.md, "The reading to take next".
    """
    weighing = Weighing(readings, expected, setup, coming)
    foretold = _foretold(weighing)
    phase = weighing.plain_phase(cam, lobes)
    nothing = next(each.share for each in weighing.found if each.code == NOTHING)
    narrower = _narrower(weighing, cam, lobes)
    found = []
    for n in range(len(coming)):
        by_code = {code: (share, *told[n]) for code, (share, told) in foretold.items()}
        found.append(
            Gain(
                _information(list(by_code.values())),
                nothing * _settles(phase, narrower[:, n], tolerance_deg, ahead_deg, false_verdict),
                _parted(by_code),
            )
        )
    return tuple(found)


Told = list[tuple[float, float]]


def _foretold(weighing: Weighing) -> dict[str, tuple[float, Told]]:
    """By fault: its share, and mean and variance of each coming reading's deviation if that fault is there."""
    import numpy as np

    by_code: dict[str, list[tuple[Array, Array, Array]]] = defaultdict(list)
    for block in weighing.blocks:
        means, spreads = block.foretell()
        for h, each in enumerate(block.hypotheses):
            by_code[each.code].append((block.weights[:, h].sum(axis=1), means[:, h], spreads[:, h]))
    found: dict[str, tuple[float, Told]] = {}
    for code, own in by_code.items():
        share = float(sum(weight.sum() for weight, _, _ in own))
        if share < MIN_FORETOLD:
            continue
        mean = np.sum([weight @ means for weight, means, _ in own], axis=0) / share
        second = np.sum([weight @ (spread + means**2) for weight, means, spread in own], axis=0) / share
        found[code] = share, [(float(m), float(max(q - m**2, 1e-6))) for m, q in zip(mean, second, strict=True)]
    return found


def _apart(one: tuple[float, float, float], other: tuple[float, float, float]) -> float:
    """Bhattacharyya distance of two Gaussians, each (share, mean, variance)."""
    both = one[2] + other[2]
    return (one[1] - other[1]) ** 2 / (4 * both) + 0.5 * math.log(both / (2 * math.sqrt(one[2] * other[2])))


def _information(parts: list[tuple[float, float, float]]) -> float:
    whole = sum(part[0] for part in parts)
    return -sum(
        one[0] / whole * math.log(sum(other[0] / whole * math.exp(-_apart(one, other)) for other in parts))
        for one in parts
    )


def _parted(by_code: dict[str, tuple[float, float, float]]) -> tuple[str, str]:
    """The two faults that weigh most together of those the reading parts."""
    pairs = [
        (by_code[one][0] * by_code[other][0] * (1 - math.exp(-_apart(by_code[one], by_code[other]))), one, other)
        for k, one in enumerate(by_code)
        for other in list(by_code)[k + 1 :]
    ]
    best = max(pairs, default=(0.0, NOTHING, NOTHING))
    return best[1], best[2]


def _narrower(weighing: Weighing, cam: str, lobes: tuple[str, ...]) -> "Array":
    """By how much each coming reading narrows the variance of the phase, (g, m): under each condition."""
    import numpy as np

    n, model = len(weighing.readings), weighing.model
    toward, _ = toward_phase(weighing.readings + weighing.coming, weighing.expected, cam, lobes)
    cross = model.whole[:, :n, n:]
    reach = model.inverse @ cross
    left = toward[n:] - np.einsum("gnc,n->gc", reach, toward[:n])
    alone = np.einsum("gcc->gc", model.whole[:, n:, n:]) - (cross * reach).sum(axis=1)
    return np.asarray(left**2 / np.maximum(alone, 1e-9))


def _settles(phase: Phase, narrower: "Array", tolerance_deg: float, ahead_deg: float, false_verdict: float) -> float:
    """How much less in doubt in or out is, on the mean, once the phase is so much narrower under each condition."""
    import numpy as np

    share, late, sd = phase.parts.T
    less = np.minimum(narrower, 0.999 * sd**2)
    then = 0.0
    for place, weight in _FIVE:
        parts = Phase(np.stack([share, late + place * np.sqrt(less), np.sqrt(sd**2 - less)], axis=1))
        then += weight * _doubt(parts.chance_within(tolerance_deg, ahead_deg), false_verdict)
    return max(0.0, _doubt(phase.chance_within(tolerance_deg, ahead_deg), false_verdict) - then)


def _doubt(chance: float, false_verdict: float) -> float:
    """How far a yes or no is from being given: 0 where it is, ln 2 where it is open."""
    least = max(min(chance, 1 - chance), 1e-15)
    return math.log(2) * max(0.0, math.log(least / false_verdict) / math.log(0.5 / false_verdict))
