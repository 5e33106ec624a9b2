"""One Gaussian model of all readings of a cam: what they share, where the cam stands, how sure that is.

Every reading is written as its deviation from what card and set-up make one expect. All deviations together are Gaussian;
their covariance is the sum of what they share: the wheel's zero, the phase, the grind of each lobe, and their own noise.
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
EYE_DEG, EYE_BY_DIVISION = 0.04, 0.08
USUAL_EYE_DEG = EYE_DEG + EYE_BY_DIVISION
FINEST_READ_DEG = 0.25
CENTERING_DEG, CONTACT_DEG = 0.1, 0.05
ZERO_DEG, PHASE_DEG = 30.0, 5.0
SEPARATION_DEG, HALF_DURATION_DEG, HALF_WIDTH_DEG, DROP_WIDTH_DEG = 0.35, 0.35, 3.0, 0.6
EVEN_DEG, UNEVEN_DEG, UNEVEN_UNSEEN_DEG, UNEVEN_SHARE = 0.3, 2.0, 1.0, 0.125
LATE_BIAS_DEG = 0.1
# Greatest lift in percent of the card's, the base circle in hundredths of a mm.
LIFT_GROUND, LIFT_READ, BASE_READ = 0.4, 0.1, 1.2
WHEEL = ("stop", "event", "lift")
LOBES = ("intake", "exhaust")


@dataclass(frozen=True)
class Seen:
    """One reading: on the wheel, crank degrees as it shows them about overlap TDC; or a lift at the nose or on the base.

    Parameters
    ----------
    kind
        `stop` for a pair at the top (its middle), `event` at the checking lift, `lift` at an equal lift each side, `peak` for
        the greatest lift (percent over the card's), `base` for the dial back on the base circle (hundredths of a mm).
    at_deg
        What is shown, signed, in the unit of its kind.
    seq
        Its number in the log.
    lobe, side
        `intake` or `exhaust`; −1 before the peak, +1 after it; both empty for a stop.
    needle_deg
        What the dial leaves open, one standard deviation.
    near_nose
        How near the peak it was taken: 0 at the events, 1 at the nose.
    slope_mm
        How steep the flank is there, mm a crank degree; 0 where that is not known.
    backward
        Whether it was approached backward.
    frame
        Which frame of the wheel it was taken in; readings of one share its zero.
    own_deg
        One standard deviation of it by itself, where that is not what hand and wheel make it.
    swap_deg
        By how much its figure is off if two of its digits were swapped; 0 where that changes nothing.
    drop
        The drop of an equal lift as typed, so that it can be read again.
    """

    kind: str
    at_deg: float
    seq: int
    lobe: str = ""
    side: int = 0
    needle_deg: float = 0.0
    near_nose: float = 0.0
    slope_mm: float = 0.0
    backward: bool = False
    frame: int = 0
    own_deg: float | None = None
    swap_deg: float = 0.0
    drop: str = ""

    @property
    def place(self) -> tuple[str, str, int, str]:
        """What it is a reading of; a second reading of one place repeats it."""
        return self.kind, self.lobe, self.side, self.drop

    @property
    def on_wheel(self) -> bool:
        return self.kind in WHEEL


@dataclass(frozen=True)
class Expected:
    """What card and set-up make one expect: each lobe's middle about overlap TDC, half durations, half widths of lifts, deg.

    `apart` is whether the lobes are on cams of their own; `division_deg` the wheel's smallest division; `half_doubt_deg` how
    far a half duration may be off, where the card does not give it; `lift_mm` each lobe's greatest lift, `check_mm` the
    lift at which events count; `eye_deg` how this shop reads a 1-degree wheel, one standard deviation.
    """

    middle_deg: Mapping[str, float]
    half_deg: Mapping[str, float]
    width_deg: Mapping[int, float] = field(default_factory=dict)
    apart: bool = False
    division_deg: float = 1.0
    half_doubt_deg: Mapping[str, float] = field(default_factory=dict)
    lift_mm: Mapping[str, float] = field(default_factory=dict)
    check_mm: float = 1.0
    eye_deg: float = USUAL_EYE_DEG

    def place(self, seen: Seen) -> float:
        """Where a reading is expected, with the cam on its card and the wheel at its top."""
        if seen.kind not in ("event", "lift"):
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


def deviation(seen: Seen, expected: Expected) -> float:
    """A reading less what is expected of it, on the wheel to the nearest turn and less the lateness of forward readings."""
    if not seen.on_wheel:
        return seen.at_deg
    late = 0.0 if seen.kind == "stop" or seen.backward else LATE_BIAS_DEG
    return wrapped(seen.at_deg - expected.place(seen)) - late


def deviations(readings: tuple[Seen, ...], expected: Expected) -> "Array":
    """All deviations, (n,)."""
    import numpy as np

    return np.array([deviation(seen, expected) for seen in readings])


def shared(readings: tuple[Seen, ...], expected: Expected) -> "dict[str, Array]":
    """Each thing that readings share, as one standard deviation in each of them."""
    import numpy as np

    found: dict[str, Array] = {}

    def share(name: str, n: int, size: float) -> None:
        if size:
            if name not in found:
                found[name] = np.zeros(len(readings))
            found[name][n] = size

    for n, each in enumerate(readings):
        if each.on_wheel:
            share(f"zero-{each.frame}", n, ZERO_DEG)
        if each.kind == "peak":
            share(f"ground-{each.lobe}", n, LIFT_GROUND)
        if each.kind not in ("event", "lift"):
            continue
        # A wheel off center is off by as much whenever the same place is read again.
        share(f"centering-{each.kind}-{each.lobe}-{each.side}-{each.drop}-{each.frame}", n, CENTERING_DEG)
        share(f"phase-{each.lobe if expected.apart else 'both'}", n, PHASE_DEG)
        share(f"separation-{each.lobe}", n, SEPARATION_DEG)
        if each.kind == "event":
            share(f"duration-{each.lobe}", n, expected.half_doubt_deg.get(each.lobe, HALF_DURATION_DEG) * each.side)
        else:
            share(f"width-{each.lobe}", n, HALF_WIDTH_DEG * each.side)
            share(f"width-{each.lobe}-{each.drop}", n, DROP_WIDTH_DEG * each.side)
    return found


def hand_variance(division_deg: float, eye_deg: float = USUAL_EYE_DEG) -> float:
    """Variance of what a hand reads off a wheel: the eye, the quarter it is read to, the contact.

    `eye_deg` is the eye on a 1-degree wheel; a finer wheel is read better in the proportion that `EYE_BY_DIVISION` has.

    Examples
    --------
    >>> [round(hand_variance(division) ** 0.5, 3) for division in (1.0, 0.5)]
    [0.149, 0.119]
    """
    return eye_variance(division_deg, eye_deg) + beside_the_eye(division_deg)


def eye_variance(division_deg: float, eye_deg: float = USUAL_EYE_DEG) -> float:
    """Variance of the eye alone on a wheel of this division."""
    return ((EYE_DEG + EYE_BY_DIVISION * division_deg) * eye_deg / USUAL_EYE_DEG) ** 2


def beside_the_eye(division_deg: float) -> float:
    """Variance of the quarter that a wheel is read to, and of the contact."""
    step = max(FINEST_READ_DEG, division_deg / 4)
    return step**2 / 12 + CONTACT_DEG**2


def own_noise(readings: tuple[Seen, ...], expected: Expected) -> "Array":
    """Variance of each reading by itself."""
    import numpy as np

    hand = hand_variance(expected.division_deg, expected.eye_deg)

    def own(seen: Seen) -> float:
        if seen.own_deg is not None:
            return seen.own_deg**2 + seen.needle_deg**2
        if seen.kind == "stop":
            return (hand + CENTERING_DEG**2) / 2
        return {"peak": LIFT_READ**2, "base": BASE_READ**2}.get(seen.kind, hand + seen.needle_deg**2)

    return np.array([own(seen) for seen in readings])


def unevenness(readings: tuple[Seen, ...], lobe: str) -> "Array":
    """How an uneven lobe moves each reading: not at its events, and most near its nose."""
    import numpy as np

    return np.array([each.near_nose if each.lobe == lobe and each.kind == "lift" else 0.0 for each in readings])


def covariance(readings: tuple[Seen, ...], expected: Expected, uneven: frozenset[str] = frozenset()) -> "Array":
    """The covariance of all deviations, (n, n), with these lobes ground uneven."""
    return covariances(readings, expected, (uneven,))[0]


def covariances(readings: tuple[Seen, ...], expected: Expected, grinds: tuple[frozenset[str], ...]) -> "list[Array]":
    """The covariance of all deviations for each of some ways in which the lobes can be ground."""
    import numpy as np

    parts = np.array(list(shared(readings, expected).values()))
    common = np.diag(own_noise(readings, expected)) + parts.T @ parts
    found = []
    for uneven in grinds:
        total = common
        for lobe in {each.lobe for each in readings if each.kind == "lift"}:
            nose = unevenness(readings, lobe)
            size = UNEVEN_DEG if lobe in uneven else EVEN_DEG
            total = total + size**2 * np.outer(nose, nose)
            if lobe in uneven:
                whole = (nose > 0).astype(float)
                total = total + UNEVEN_UNSEEN_DEG**2 * np.outer(whole, whole)
        found.append(total)
    return found


@dataclass(frozen=True)
class Phase:
    """Where a cam stands, crank degrees late, and one standard deviation of that.

    `parts` holds it for each way the lobes can be ground: its share, where the cam stands if so, one standard deviation.
    """

    late_deg: float
    sd_deg: float
    parts: tuple[tuple[float, float, float], ...] = ()

    def chance_within(self, tolerance_deg: float, ahead_deg: float = 0.0) -> float:
        """The chance that the true phase, aimed so far ahead of the card, lies within a tolerance.

        Examples
        --------
        >>> round(Phase(0.0, 0.5).chance_within(1.0), 3), round(Phase(3.0, 0.5).chance_within(1.0), 3)
        (0.954, 0.0)
        """

        def part(late: float, sd: float) -> float:
            reach, off = sd * math.sqrt(2), late + ahead_deg
            return 0.5 * (math.erf((tolerance_deg - off) / reach) + math.erf((tolerance_deg + off) / reach))

        parts = self.parts or ((1.0, self.late_deg, self.sd_deg),)
        return sum(share * part(late, sd) for share, late, sd in parts)


def toward_phase(
    readings: tuple[Seen, ...], expected: Expected, cam: str = "both", lobes: tuple[str, ...] = ()
) -> "tuple[Array, float]":
    """What the readings have in common with the phase of a cam, (n,), and the variance of that phase before any reading.

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
    """The phase of one cam, given all readings.

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
        Mean k' C^-1 y and variance s^2 - k' C^-1 k, the grinds weighed by how likely each makes the readings.

    References
    ----------
    docs/methods.md, "All readings together".
    """
    return Grounds(readings, expected).phase(cam, lobes)


def _grinds(readings: tuple[Seen, ...]) -> tuple[frozenset[str], ...]:
    """Every way the lobes that were read by lifts can be ground."""
    lobes = sorted({each.lobe for each in readings if each.kind == "lift"})
    return tuple(frozenset(lobe for n, lobe in enumerate(lobes) if which >> n & 1) for which in range(1 << len(lobes)))


def _prior(uneven: frozenset[str], readings: tuple[Seen, ...]) -> float:
    lobes = {each.lobe for each in readings if each.kind == "lift"}
    return UNEVEN_SHARE ** len(uneven) * (1 - UNEVEN_SHARE) ** (len(lobes) - len(uneven))


@dataclass(frozen=True)
class Ground:
    """One way the lobes can be ground: which are uneven, its prior with what C's determinant takes off, and C^-1."""

    uneven: frozenset[str]
    rest: float
    inverse: "Array"


class Grounds:
    """The covariance of readings for every way their lobes can be ground, inverted once: all else is weighed against it.

    Parameters
    ----------
    readings, expected
        As for `phase`.
    coming
        Readings that could be taken next: what they share with the others is kept beside, in `whole`.
    """

    def __init__(self, readings: tuple[Seen, ...], expected: Expected, coming: tuple[Seen, ...] = ()) -> None:
        import numpy as np

        self.readings, self.coming, self.expected = readings, coming, expected
        self.y = deviations(readings, expected)
        self.parts: list[Ground] = []
        grinds, n = _grinds(readings), len(readings)
        self.whole = covariances(readings + coming, expected, grinds)
        for uneven, whole in zip(grinds, self.whole, strict=True):
            cov = whole[:n, :n]
            _, log_det = np.linalg.slogdet(cov)
            rest = math.log(_prior(uneven, readings)) - 0.5 * (float(log_det) + n * math.log(2 * math.pi))
            self.parts.append(Ground(uneven, rest, np.linalg.inv(cov)))

    @property
    def shares(self) -> list[float]:
        """How likely each grind is, nothing else being wrong."""
        terms = [part.rest - 0.5 * float(self.y @ part.inverse @ self.y) for part in self.parts]
        most = max(terms)
        weights = [math.exp(term - most) for term in terms]
        return [weight / sum(weights) for weight in weights]

    def pulls(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> list[tuple[float, float, float]]:
        """For each reading how far it is off what the others foretell, one standard deviation of that, and how far it pulls the
        phase: by the likeliest grind.

        Left out, a reading of weight w = (C^-1 k)_j changes the phase by w r, with r = (C^-1 y)_j / (C^-1)_jj.
        """
        import numpy as np

        shares = self.shares
        inverse = self.parts[shares.index(max(shares))].inverse
        toward, _ = toward_phase(self.readings, self.expected, cam, lobes)
        alone = np.diag(inverse)
        off = inverse @ self.y / alone
        pulled = (inverse @ toward) * off
        return [(float(r), float(1 / math.sqrt(a)), float(p)) for r, a, p in zip(off, alone, pulled, strict=True)]

    def phase(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> Phase:
        """The phase of one cam, as `phase` has it."""
        toward, wide = toward_phase(self.readings, self.expected, cam, lobes)
        parts = []
        for share, ground in zip(self.shares, self.parts, strict=True):
            solved = ground.inverse @ toward
            parts.append((share, float(solved @ self.y), math.sqrt(max(wide - float(solved @ toward), 1e-6))))
        mean = sum(share * late for share, late, _ in parts)
        spread = sum(share * (sd**2 + (late - mean) ** 2) for share, late, sd in parts)
        return Phase(mean, math.sqrt(spread), tuple(parts))
