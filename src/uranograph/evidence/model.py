"""One Gaussian model of all readings of a cam: what they share, where the cam stands, how sure that is.

Every reading is written as its deviation from what card and set-up make one expect. All deviations together are Gaussian;
their covariance is the sum of what they share: the wheel's zero, the phase, the grind of each lobe, and their own noise.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import TYPE_CHECKING

from uranograph.evidence.covariance import (
    PHASE_DEG,
    SEPARATION_DEG,
    Expected,
    Seen,
    conditions,
    covariances,
    deviations,
    shared,
)

if TYPE_CHECKING:
    from numpy import float64
    from numpy.typing import NDArray

    Array = NDArray[float64]

# Coverage of a k = 2 interval.
TWO_SIGMA = 0.9545
LOBES = ("intake", "exhaust")


def normal_cdf(x: "Array") -> "Array":
    """The normal distribution function, to 1e-7.

    References
    ----------
    Abramowitz and Stegun, 7.1.26.
    """
    import numpy as np

    z = np.abs(x) / math.sqrt(2)
    t = 1 / (1 + 0.3275911 * z)
    poly = t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))))
    upper = 0.5 * poly * np.exp(-z * z)
    return np.asarray(np.where(x >= 0, 1 - upper, upper))


@dataclass(frozen=True, eq=False)
class Phase:
    """Where a cam stands, crank degrees late: a mixture of Gaussians, one for each way everything can be.

    Parameters
    ----------
    parts
        (m, 3): share, mean and standard deviation of each.

    Examples
    --------
    >>> one = Phase.of(0.0, 0.5)
    >>> round(one.chance_within(1.0), 3), round(Phase.of(3.0, 0.5).chance_within(1.0), 3)
    (0.954, 0.0)
    >>> round(abs(one.late_deg), 2), round(one.sd_deg, 2)
    (0.0, 0.5)
    """

    parts: "Array"

    @classmethod
    def of(cls, late_deg: float, sd_deg: float) -> "Phase":
        """A single Gaussian."""
        import numpy as np

        return cls(np.array([[1.0, late_deg, sd_deg]]))

    def chance_below(self, deg: float) -> float:
        """The chance that the true phase is less late than this."""
        share, late, sd = self.parts.T
        return float(share @ normal_cdf((deg - late) / sd))

    def chance_within(self, tolerance_deg: float, ahead_deg: float = 0.0) -> float:
        """Probability that the true phase, with a target ahead of the card, is within a tolerance."""
        share, late, sd = self.parts.T
        off = late + ahead_deg
        return float(share @ (normal_cdf((tolerance_deg - off) / sd) - normal_cdf((-tolerance_deg - off) / sd)))

    @cached_property
    def late_deg(self) -> float:
        """The middle of the mixture: as likely later as earlier."""
        low = float((self.parts[:, 1] - 6 * self.parts[:, 2]).min())
        high = float((self.parts[:, 1] + 6 * self.parts[:, 2]).max())
        return _bisected(lambda deg: self.chance_below(deg) - 0.5, low, high)

    @cached_property
    def sd_deg(self) -> float:
        """Half of what holds the truth, about the middle, as often as two standard deviations of a Gaussian do."""
        return self.reach(self.late_deg) / 2

    def reach(self, about_deg: float) -> float:
        """Radius about a value that holds the truth with the probability of two Gaussian standard deviations."""
        most = float((abs(self.parts[:, 1] - about_deg) + 6 * self.parts[:, 2]).max())
        return _bisected(lambda wide: self.chance_within(wide, -about_deg) - TWO_SIGMA, 0.0, most)


def _bisected(rises: Callable[[float], float], low: float, high: float) -> float:
    """Where a rising function passes zero, to a thousandth of a degree."""
    while high - low > 1e-3:
        middle = (low + high) / 2
        low, high = (low, middle) if rises(middle) > 0 else (middle, high)
    return (low + high) / 2


def toward_phase(
    readings: tuple[Seen, ...], expected: Expected, cam: str = "both", lobes: tuple[str, ...] = ()
) -> "tuple[Array, float]":
    """Prior covariance of the readings with the phase of a cam, (n,), and the phase's prior variance.

    Where a cam stands is the mean of its lobes as they are ground, so a wide or narrow grind is no doubt of it.
    """
    own = lobes or ((cam,) if cam != "both" else LOBES)
    parts = shared(readings, expected)
    toward = PHASE_DEG * parts[f"phase-{cam}"]
    for lobe in own:
        if f"separation-{lobe}" in parts:
            toward = toward + SEPARATION_DEG / len(own) * parts[f"separation-{lobe}"]
    return toward, PHASE_DEG**2 + SEPARATION_DEG**2 / len(own)


def phase(readings: tuple[Seen, ...], expected: Expected, cam: str = "both", lobes: tuple[str, ...] = ()) -> Phase:
    """The phase of one cam, given all readings and nothing wrong.

    Parameters
    ----------
    readings
        Every reading that holds; those of one frame of the wheel share its zero.
    expected
        What card and set-up make one expect.
    cam
        `both`, or `intake` or `exhaust` where the cams are apart.
    lobes
        The lobes whose mean is the phase; both of one cam unless given.

    Returns
    -------
    Phase
        Mean k' C^-1 y and variance s^2 - k' C^-1 k of each condition, weighed by how likely it makes the readings.

    References
    ----------
    docs/methods.md, "All readings together".
    """
    return Model(readings, expected).phase(cam, lobes)


class Model:
    """The covariance of readings under every condition, inverted once: all else is weighed against it.

    Parameters
    ----------
    readings, expected
        As for `phase`.
    coming
        Readings that could be taken next: what they share with the others is kept in `whole`.

    Attributes
    ----------
    y
        Deviations, (n,).
    ways
        The conditions, g of them; `inverse` is (g, n, n), `whole` (g, n + m, n + m), `rest` (g,) what prior and determinant take off.
    """

    def __init__(self, readings: tuple[Seen, ...], expected: Expected, coming: tuple[Seen, ...] = ()) -> None:
        import numpy as np

        self.readings, self.coming, self.expected = readings, coming, expected
        self.y = deviations(readings, expected)
        ways, n = conditions(readings, expected), len(readings)
        whole = covariances(readings + coming, expected, ways)
        inverse = np.linalg.inv(whole[:, :n, :n])
        _, log_det = np.linalg.slogdet(whole[:, :n, :n])
        rest = np.log([way.prior for way in ways]) - 0.5 * (log_det + n * math.log(2 * math.pi))
        fit = rest - 0.5 * np.einsum("i,gij,j->g", self.y, inverse, self.y)
        self.ways, self.whole, self.inverse, self.rest, self._fit = ways, whole, inverse, rest, fit

    @property
    def shares(self) -> "Array":
        """How likely each condition is, nothing else being wrong, (g,)."""
        import numpy as np

        weights = np.exp(self._fit - self._fit.max())
        return np.asarray(weights / weights.sum())

    def pulls(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> list[tuple[float, float, float]]:
        """For each reading how far it is off what the others foretell, one standard deviation of that, and how far it pulls the
        phase: under the likeliest condition.

        Left out, a reading of weight w = (C^-1 k)_j changes the phase by w r, with r = (C^-1 y)_j / (C^-1)_jj.
        """
        import numpy as np

        inverse = self.inverse[int(self.shares.argmax())]
        toward, _ = toward_phase(self.readings, self.expected, cam, lobes)
        alone = np.diag(inverse)
        off = inverse @ self.y / alone
        pulled = (inverse @ toward) * off
        return [(float(r), float(1 / math.sqrt(a)), float(p)) for r, a, p in zip(off, alone, pulled, strict=True)]

    def phase(self, cam: str = "both", lobes: tuple[str, ...] = (), by_usual_hand: bool = False) -> Phase:
        """The phase of one cam, as `phase` has it; as a hand of the usual noise alone would have read it where that is asked."""
        import numpy as np

        toward, wide = toward_phase(self.readings, self.expected, cam, lobes)
        solved = self.inverse @ toward
        late = solved @ self.y
        sd = np.sqrt(np.maximum(wide - solved @ toward, 1e-6))
        shares = self.shares
        if by_usual_hand:
            shares = shares * np.array([(way.hand, way.centering) == (1.0, 1.0) for way in self.ways])
            shares = np.full(len(shares), 1 / len(shares)) if not shares.sum() else shares / shares.sum()
        return Phase(np.stack([shares, late, sd], axis=1))
