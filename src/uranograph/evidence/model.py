"""One Gaussian model of all wheel readings of a cam: what they share, where the cam stands, how sure that is.

Every reading is written as its deviation from what the card makes one expect. All deviations together are Gaussian; their
covariance is the sum of what they share: the wheel's zero, the phase, the grind of each lobe, and each reading's own noise.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from numpy import float64
    from numpy.typing import NDArray

    Array = NDArray[float64]

# Standard deviations, crank degrees; docs/methods.md says where each comes from.
EYE_DEG = {1.0: 0.12, 0.5: 0.08}
QUARTER_DEG = 0.25 / math.sqrt(12)
CENTERING_DEG, CONTACT_DEG = 0.1, 0.05
ZERO_DEG, PHASE_DEG = 30.0, 5.0
SEPARATION_DEG, HALF_DURATION_DEG, HALF_WIDTH_DEG = 0.35, 0.35, 3.0
EVEN_DEG, UNEVEN_DEG, UNEVEN_UNSEEN_DEG, UNEVEN_SHARE = 0.3, 2.0, 1.0, 0.125
LATE_BIAS_DEG = 0.1


@dataclass(frozen=True)
class Seen:
    """One wheel reading, crank degrees as the wheel shows it, about overlap TDC.

    Parameters
    ----------
    kind
        `stop` for a pair at the top (its middle), `event` at the checking lift, `lift` at an equal lift each side.
    at_deg
        What the wheel shows, signed.
    seq
        Its number in the log.
    lobe, side
        `intake` or `exhaust`; −1 before the peak, +1 after it; both empty for a stop.
    needle_deg
        What the dial leaves open, one standard deviation.
    near_nose
        How near the peak it was taken: 0 at the events, 1 at the nose.
    backward
        Whether it was approached backward.
    """

    kind: str
    at_deg: float
    seq: int
    lobe: str = ""
    side: int = 0
    needle_deg: float = 0.0
    near_nose: float = 0.0
    backward: bool = False


@dataclass(frozen=True)
class Expected:
    """What card and set-up make one expect: each lobe's middle about overlap TDC, half durations, half widths of lifts, deg.

    `apart` is whether the lobes are on cams of their own; `division_deg` the wheel's smallest division.
    """

    middle_deg: Mapping[str, float]
    half_deg: Mapping[str, float]
    width_deg: Mapping[int, float] = field(default_factory=dict)
    apart: bool = False
    division_deg: float = 1.0

    def place(self, seen: Seen) -> float:
        """Where a reading is expected, with the cam on its card and the wheel at its top."""
        if seen.kind == "stop":
            return 0.0
        half = self.half_deg[seen.lobe] if seen.kind == "event" else self.width_deg[seen.seq]
        return self.middle_deg[seen.lobe] + seen.side * half


def wrapped(deg: float) -> float:
    """An angle to the nearest turn, [-180, 180).

    Examples
    --------
    >>> wrapped(350), wrapped(-190)
    (-10.0, 170.0)
    """
    return (deg + 180.0) % 360.0 - 180.0


def deviations(readings: tuple[Seen, ...], expected: Expected) -> "Array":
    """Each reading less what is expected of it, to the nearest turn, less the lateness of forward readings."""
    import numpy as np

    return np.array(
        [
            wrapped(seen.at_deg - expected.place(seen))
            - (0.0 if seen.kind == "stop" or seen.backward else LATE_BIAS_DEG)
            for seen in readings
        ]
    )


def shared(readings: tuple[Seen, ...], expected: Expected, cam: str = "both") -> "dict[str, Array]":
    """Each thing that readings share, as one standard deviation in each of them."""
    import numpy as np

    ones = {
        "zero": [ZERO_DEG] * len(readings),
        **{
            f"phase-{name}": [PHASE_DEG if each.lobe and name in ("both", each.lobe) else 0.0 for each in readings]
            for name in (("intake", "exhaust") if expected.apart else ("both",))
        },
    }
    for lobe in ("intake", "exhaust"):
        own = [each.lobe == lobe for each in readings]
        ones[f"separation-{lobe}"] = [SEPARATION_DEG * mine for mine in own]
        ones[f"duration-{lobe}"] = [
            HALF_DURATION_DEG * each.side * (mine and each.kind == "event")
            for each, mine in zip(readings, own, strict=True)
        ]
        ones[f"width-{lobe}"] = [
            HALF_WIDTH_DEG * each.side * (mine and each.kind == "lift")
            for each, mine in zip(readings, own, strict=True)
        ]
    return {name: np.array(values) for name, values in ones.items() if any(values)}


def own_noise(readings: tuple[Seen, ...], expected: Expected) -> "Array":
    """Variance of each reading by itself."""
    import numpy as np

    eye = EYE_DEG[1.0] if expected.division_deg > 0.75 else EYE_DEG[0.5]
    rest = eye**2 + QUARTER_DEG**2 + CENTERING_DEG**2
    return np.array(
        [
            (rest + CONTACT_DEG**2) / 2 if seen.kind == "stop" else rest + CONTACT_DEG**2 + seen.needle_deg**2
            for seen in readings
        ]
    )


def unevenness(readings: tuple[Seen, ...], lobe: str) -> "Array":
    """How an uneven lobe moves each reading: not at its events, and most near its nose."""
    import numpy as np

    return np.array([each.near_nose if each.lobe == lobe and each.kind == "lift" else 0.0 for each in readings])


def covariance(readings: tuple[Seen, ...], expected: Expected, uneven: frozenset[str] = frozenset()) -> "Array":
    """The covariance of all deviations, (n, n), with these lobes ground uneven."""
    import numpy as np

    total = np.diag(own_noise(readings, expected))
    for values in shared(readings, expected).values():
        total += np.outer(values, values)
    for lobe in ("intake", "exhaust"):
        nose = unevenness(readings, lobe)
        size = UNEVEN_DEG if lobe in uneven else EVEN_DEG
        total += size**2 * np.outer(nose, nose)
        if lobe in uneven:
            whole = (nose > 0).astype(float)
            total += UNEVEN_UNSEEN_DEG**2 * np.outer(whole, whole)
    return total


@dataclass(frozen=True)
class Phase:
    """Where a cam stands, crank degrees late, and one standard deviation of that."""

    late_deg: float
    sd_deg: float

    def chance_within(self, tolerance_deg: float) -> float:
        """The chance that the true phase lies within a tolerance.

        Examples
        --------
        >>> round(Phase(0.0, 0.5).chance_within(1.0), 3), round(Phase(3.0, 0.5).chance_within(1.0), 3)
        (0.954, 0.0)
        """
        reach = self.sd_deg * math.sqrt(2)
        return 0.5 * (
            math.erf((tolerance_deg - self.late_deg) / reach) + math.erf((tolerance_deg + self.late_deg) / reach)
        )


def phase(readings: tuple[Seen, ...], expected: Expected, cam: str = "both") -> Phase:
    """The phase of one cam, given all readings.

    Parameters
    ----------
    readings
        Every reading that holds, of one mounting of the wheel.
    expected
        What card and set-up make one expect.
    cam
        `both`, or `intake` or `exhaust` where the cams are apart.

    Returns
    -------
    Phase
        Mean k' C^-1 y and variance s^2 - k' C^-1 k, the two grinds weighed by how likely each makes the readings.

    References
    ----------
    docs/methods.md, "All readings together".
    """
    import numpy as np

    y = deviations(readings, expected)
    # Where the cam stands is the mean of its lobes as they are ground, so a wide or narrow grind is no doubt of it.
    lobes = [cam] if cam != "both" else sorted({each.lobe for each in readings if each.lobe})
    shares_of = shared(readings, expected)
    toward = PHASE_DEG * shares_of[f"phase-{cam}"]
    for lobe in lobes:
        toward = toward + SEPARATION_DEG / len(lobes) * shares_of[f"separation-{lobe}"]
    wide = PHASE_DEG**2 + SEPARATION_DEG**2 / len(lobes)
    parts = []
    for uneven in _grinds(readings):
        cov = covariance(readings, expected, uneven)
        solved, (_, log_det) = np.linalg.solve(cov, toward), np.linalg.slogdet(cov)
        weight = math.log(_prior(uneven, readings)) - 0.5 * (float(y @ np.linalg.solve(cov, y)) + float(log_det))
        parts.append((weight, float(solved @ y), max(wide - float(solved @ toward), 1e-6)))
    most = max(weight for weight, _, _ in parts)
    shares = [math.exp(weight - most) for weight, _, _ in parts]
    total = sum(shares)
    mean = sum(share * late for share, (_, late, _) in zip(shares, parts, strict=True)) / total
    spread = sum(
        share * (variance + (late - mean) ** 2) for share, (_, late, variance) in zip(shares, parts, strict=True)
    )
    return Phase(mean, math.sqrt(spread / total))


def _grinds(readings: tuple[Seen, ...]) -> tuple[frozenset[str], ...]:
    """Every way the lobes that were read by lifts can be ground."""
    lobes = sorted({each.lobe for each in readings if each.kind == "lift"})
    return tuple(frozenset(lobe for n, lobe in enumerate(lobes) if which >> n & 1) for which in range(1 << len(lobes)))


def _prior(uneven: frozenset[str], readings: tuple[Seen, ...]) -> float:
    lobes = {each.lobe for each in readings if each.kind == "lift"}
    return UNEVEN_SHARE ** len(uneven) * (1 - UNEVEN_SHARE) ** (len(lobes) - len(uneven))


class Grounds:
    """The covariance of readings for every way their lobes can be ground, inverted once: many faults are weighed against it.

    Parameters
    ----------
    readings, expected
        As for `phase`.
    less
        A direction whose variance is taken off again, such as a phase that is known better.
    """

    def __init__(self, readings: tuple[Seen, ...], expected: Expected, less: "Array | None" = None) -> None:
        import numpy as np

        self.parts: list[tuple[float, Array]] = []
        for uneven in _grinds(readings):
            cov = covariance(readings, expected, uneven)
            if less is not None:
                cov = cov - np.outer(less, less)
            _, log_det = np.linalg.slogdet(cov)
            rest = math.log(_prior(uneven, readings)) - 0.5 * (float(log_det) + len(readings) * math.log(2 * math.pi))
            self.parts.append((rest, np.linalg.inv(cov)))

    def log_likelihood(self, y: "Array", extra: "Array | None" = None) -> float:
        """How likely deviations are, over every way of grinding, with something more that they share.

        A rank-one addition v v' to C leaves (y' C^-1 v)^2 / (1 + v' C^-1 v) less of the square, and its determinant
        1 + v' C^-1 v times as large.
        """
        terms = []
        for rest, inverse in self.parts:
            toward = inverse @ y
            square, term = float(y @ toward), rest
            if extra is not None:
                more = 1.0 + float(extra @ inverse @ extra)
                square -= float(extra @ toward) ** 2 / more
                term -= 0.5 * math.log(more)
            terms.append(term - 0.5 * square)
        most = max(terms)
        return most + math.log(sum(math.exp(term - most) for term in terms))
