"""What a reading would tell: how far it parts the faults from each other, and in from out."""

import math
from dataclasses import dataclass
from typing import TYPE_CHECKING

from uranograph.core.verdict import FALSE_VERDICT
from uranograph.evidence.faults import NOTHING, Setup, Weighing
from uranograph.evidence.model import Expected, Phase, Seen, toward_phase

if TYPE_CHECKING:
    from uranograph.evidence.model import Array

# Places and weights of Gauss and Hermite's rule of five points, for a standard normal.
_FIVE = ((-2.856970, 0.011257), (-1.355626, 0.222076), (0.0, 0.533333), (1.355626, 0.222076), (2.856970, 0.011257))


@dataclass(frozen=True)
class Gain:
    """What a reading would tell, nats: of the faults, and of in or out; and the two that it parts best."""

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
    """What each of some readings would tell, were it taken next.

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
    phase = weighing.phase(cam, lobes)
    nothing = next(each.share for each in weighing.found if each.code == NOTHING)
    narrower = _narrower(weighing, cam, lobes)
    found = []
    for n in range(len(coming)):
        by_code = {code: (share, *told[n]) for code, (share, told) in foretold.items()}
        found.append(
            Gain(
                _information(list(by_code.values())),
                nothing * _settles(phase, [float(by[n]) for by in narrower], tolerance_deg, ahead_deg, false_verdict),
                _parted(by_code),
            )
        )
    return tuple(found)


Told = list[tuple[float, float]]


def _foretold(weighing: Weighing) -> dict[str, tuple[float, Told]]:
    """By fault: its share, and mean and variance of each coming reading's deviation if that fault is there."""
    import numpy as np

    n, m = len(weighing.readings), len(weighing.coming)
    y = weighing.grounds.y[:, None] - weighing.adds[:n]
    own, further = weighing.along[:n], weighing.along[n:]
    means, spreads = [], []
    for ground, cov in zip(weighing.grounds.parts, weighing.grounds.whole, strict=True):
        cross, alone = cov[:n, n:], np.diag(cov)[n:]
        reach = ground.inverse @ cross
        toward = ground.inverse @ y
        more = 1.0 + weighing.sign * np.einsum("nm,nm->m", own, ground.inverse @ own)
        size = weighing.sign * np.einsum("nm,nm->m", own, toward) / more
        left = further - reach.T @ own
        means.append(weighing.adds[n:] + reach.T @ y + left * size)
        base = alone - np.einsum("nc,nc->c", cross, reach)
        spreads.append(np.maximum(base[:, None] + weighing.sign / more * left**2, 1e-6))
    codes = np.array([each.code for each in weighing.hypotheses])
    found: dict[str, tuple[float, Told]] = {}
    for code in dict.fromkeys(codes):
        mask = codes == code
        weight = weighing.weights[:, mask]
        share = float(weight.sum())
        if share < 1e-4:
            continue
        part = weight / share
        mean = sum(part[g] @ means[g][:, mask].T for g in range(len(means)))
        second = sum(part[g] @ (spreads[g][:, mask] + means[g][:, mask] ** 2).T for g in range(len(means)))
        found[str(code)] = (share, [(float(mean[c]), float(second[c] - mean[c] ** 2)) for c in range(m)])
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


def _narrower(weighing: Weighing, cam: str, lobes: tuple[str, ...]) -> "list[Array]":
    """By how much each coming reading narrows the variance of the phase, for each way the lobes can be ground."""
    import numpy as np

    n, grounds = len(weighing.readings), weighing.grounds
    toward, _ = toward_phase(weighing.readings + weighing.coming, weighing.expected, cam, lobes)
    found = []
    for ground, cov in zip(grounds.parts, grounds.whole, strict=True):
        cross = cov[:n, n:]
        reach = ground.inverse @ cross
        left = toward[n:] - reach.T @ toward[:n]
        found.append(left**2 / np.maximum(np.diag(cov)[n:] - np.einsum("nc,nc->c", cross, reach), 1e-9))
    return found


def _settles(
    phase: Phase, narrower: list[float], tolerance_deg: float, ahead_deg: float, false_verdict: float
) -> float:
    """How much less in doubt in or out is, on the mean, once the phase is so much narrower for each grind."""
    then = 0.0
    for place, weight in _FIVE:
        parts = tuple(
            (share, late + place * math.sqrt(less), math.sqrt(sd**2 - less))
            for (share, late, sd), by in zip(phase.parts, narrower, strict=True)
            for less in [min(by, 0.999 * sd**2)]
        )
        then += weight * _doubt(Phase(0.0, 1.0, parts).chance_within(tolerance_deg, ahead_deg), false_verdict)
    return max(0.0, _doubt(phase.chance_within(tolerance_deg, ahead_deg), false_verdict) - then)


def _doubt(chance: float, false_verdict: float) -> float:
    """How far a yes or no is from being given: 0 where it is, ln 2 where it is open."""
    least = max(min(chance, 1 - chance), 1e-15)
    return math.log(2) * max(0.0, math.log(least / false_verdict) / math.log(0.5 / false_verdict))
