"""Readings, what is expected of them, and how their deviations hang together."""

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
SEPARATION_DEG, HALF_DURATION_DEG, HALF_WIDTH_DEG, DROP_WIDTH_DEG = 0.35, 0.35, 6.0, 1.5
EVEN_DEG, UNEVEN_DEG, UNEVEN_UNSEEN_DEG = 0.3, 2.0, 1.0
# One lobe in eight is uneven, and the lobes of a cam are of one family: how alike they are, and how likely none, one, both are.
FAMILY = 0.8
UNEVEN_PRIOR = {0: 0.85, 1: 0.03, 2: 0.09}
UNEVEN_ALONE = 0.125
LATE_BIAS_DEG = 0.1
# Valve springs push the cam ahead on closing flanks: what closings share, by the springs that are on while checking.
SPRINGS_DEG = {"none": 0.0, "light": 0.15, "real": 0.8, "": 0.2}
# The scale of the hand's noise against the usual one, and of the wheel's centering, with the chance of each pair. A hand that
# is far noisier than usual also comes backward now and then: what readings of lobes then share, crank degrees.
HAND_SCALES = (
    (0.6, 1.0, 0.0, 0.15),
    (1.0, 1.0, 0.0, 0.44),
    (1.5, 1.0, 0.0, 0.14),
    (2.2, 1.5, 0.1, 0.08),
    (1.0, 3.0, 0.0, 0.12),
    (2.0, 3.0, 0.1, 0.04),
    (5.0, 2.0, 0.6, 0.03),
)
# Of more readings than this only some scales are tried: repeats tell the hand by themselves, and each costs as much again.
MAX_FOR_ALL_SCALES, FEW_SCALES = 40, ((1.0, 1.0, 0.0, 0.7), (2.2, 1.5, 0.1, 0.15), (1.0, 3.0, 0.0, 0.15))
# Maximum lift in percent of the card's, base circle in hundredths of a mm.
LIFT_GROUND, LIFT_READ, BASE_READ = 0.4, 0.1, 1.2
WHEEL = ("stop", "event", "lift")


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
    apart_deg
        Of a stop, how far its two contacts stand from their middle.
    by_encoder
        Whether an encoder on the shaft read it: it has no wheel that can be off center.
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
    apart_deg: float = 0.0
    by_encoder: bool = False

    @property
    def place(self) -> tuple[str, str, int, str]:
        """Key of the place read; a second reading of one place repeats it."""
        return self.kind, self.lobe, self.side, self.drop

    @property
    def on_wheel(self) -> bool:
        return self.kind in WHEEL


@dataclass(frozen=True)
class Expected:
    """Expected values by card and set-up: midpoint of each lobe about overlap TDC, half durations, half widths of lifts, deg.

    `apart` is whether the lobes are on cams of their own; `division_deg` the wheel's smallest division; `half_doubt_deg` how
    far a half duration may be off, where the card does not give it; `lift_mm` each lobe's greatest lift, `check_mm` the
    lift at which events count; `eye_deg` how this shop reads a 1-degree wheel, one standard deviation; `centering_deg` how far
    its wheel's marks are off center, once a turn; `closing_deg` what closings share by valve springs. `peak_chance` is how likely
    the middles are those of the peaks and not of the events: 0 where the card prints events, 1 where it says so itself.
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
    centering_deg: float = CENTERING_DEG
    closing_deg: float = SPRINGS_DEG[""]
    peak_chance: float = 0.0

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
        share(f"phase-{each.lobe if expected.apart else 'both'}", n, PHASE_DEG)
        share(f"separation-{each.lobe}", n, SEPARATION_DEG)
        if each.kind == "event":
            share(f"duration-{each.lobe}", n, expected.half_doubt_deg.get(each.lobe, HALF_DURATION_DEG) * each.side)
        if each.side > 0:
            share("closings", n, expected.closing_deg)
        if each.kind == "lift":
            share(f"width-{each.lobe}", n, HALF_WIDTH_DEG * each.side)
            share(f"width-{each.lobe}-{each.drop}", n, DROP_WIDTH_DEG * each.side)
    return found


def reading_variance(division_deg: float, eye_deg: float = USUAL_EYE_DEG) -> float:
    """Variance of what a hand reads off a wheel: the eye, the quarter it is read to, the contact.

    `eye_deg` is the eye on a 1-degree wheel; a finer wheel is read better in the proportion that `EYE_BY_DIVISION` has.

    Examples
    --------
    >>> [round(reading_variance(division) ** 0.5, 3) for division in (1.0, 0.5)]
    [0.149, 0.119]
    """
    return eye_variance(division_deg, eye_deg) + unread_variance(division_deg)


def eye_variance(division_deg: float, eye_deg: float = USUAL_EYE_DEG) -> float:
    """Variance of the eye alone on a wheel of this division."""
    return ((EYE_DEG + EYE_BY_DIVISION * division_deg) * eye_deg / USUAL_EYE_DEG) ** 2


def unread_variance(division_deg: float) -> float:
    """Variance of the quarter that a wheel is read to, and of the contact."""
    step = max(FINEST_READ_DEG, division_deg / 4)
    return step**2 / 12 + CONTACT_DEG**2


def off_center(readings: tuple[Seen, ...], expected: Expected) -> "Array":
    """Effect of an off-center wheel on each reading, as two directions of one standard deviation each, (2k, n) for k frames.

    Its marks are off by a sine once a turn; of a stop the mean of both contacts counts.
    """
    import numpy as np

    frames = sorted({each.frame for each in readings if each.on_wheel and each.frame >= 0})
    found = np.zeros((2 * len(frames), len(readings)))
    for n, each in enumerate(readings):
        if each.on_wheel and each.frame >= 0 and not each.by_encoder:
            at, row = math.radians(each.at_deg), 2 * frames.index(each.frame)
            part = expected.centering_deg * math.cos(math.radians(each.apart_deg))
            found[row, n], found[row + 1, n] = part * math.cos(at), part * math.sin(at)
    return found


def independent_noise(readings: tuple[Seen, ...], expected: Expected) -> "tuple[Array, Array]":
    """Independent variance of each reading: from the reader, and from other sources."""
    import numpy as np

    hand = reading_variance(expected.division_deg, expected.eye_deg)

    def individual(seen: Seen) -> tuple[float, float]:
        if seen.own_deg is not None:
            return 0.0, seen.own_deg**2 + seen.needle_deg**2
        if seen.kind == "stop":
            return hand / 2, 0.0
        if seen.kind in ("peak", "base"):
            return 0.0, (LIFT_READ if seen.kind == "peak" else BASE_READ) ** 2
        return hand + seen.needle_deg**2, 0.0

    both = np.array([individual(seen) for seen in readings]).reshape(-1, 2)
    return both[:, 0], both[:, 1]


def unevenness(readings: tuple[Seen, ...], lobe: str, of_peak: bool = False) -> "Array":
    """How an uneven lobe moves each reading beside the card's middle: of its events, or of its peak.

    Its events' middle is the card's where that is of the events, and lifts drift from it toward the nose; else the peak is.
    """
    import numpy as np

    def moves(each: Seen) -> float:
        if each.lobe != lobe or each.kind not in ("event", "lift"):
            return 0.0
        return (each.near_nose if each.kind == "lift" else 0.0) - of_peak

    return np.array([moves(each) for each in readings])


def _unseen(readings: tuple[Seen, ...], lobe: str, of_peak: bool) -> "Array":
    """Where the middle that the card means is not read: no drop shows how far an uneven lobe's events lie from its lifts."""
    import numpy as np

    kind = "event" if of_peak else "lift"
    return np.array(
        [
            1.0 if each.lobe == lobe and each.kind == kind and (of_peak or each.near_nose > 0) else 0.0
            for each in readings
        ]
    )


@dataclass(frozen=True)
class Condition:
    """One way everything that readings share can be: which lobes are uneven, what the card's middle is of, and the hand's scale."""

    uneven: frozenset[str] = frozenset()
    of_peak: bool = False
    hand: float = 1.0
    centering: float = 1.0
    careless_deg: float = 0.0
    prior: float = 1.0


PLAIN = Condition()


def conditions(readings: tuple[Seen, ...], expected: Expected) -> tuple[Condition, ...]:
    """Every way the lobes read can be ground, the card be meant, and the hand read, with its chance before any reading."""
    by_events = expected.peak_chance < 1.0
    meant = [(False, 1 - expected.peak_chance)] if by_events else []
    meant += [(True, expected.peak_chance)] if expected.peak_chance > 0 else []
    scales = HAND_SCALES if len(readings) <= MAX_FOR_ALL_SCALES else FEW_SCALES
    found = []
    for of_peak, chance in meant:
        kinds = ("event", "lift") if of_peak else ("lift",)
        lobes = sorted({each.lobe for each in readings if each.kind in kinds})
        for which in range(1 << len(lobes)):
            uneven = frozenset(lobe for n, lobe in enumerate(lobes) if which >> n & 1)
            alone = UNEVEN_ALONE if uneven else 1 - UNEVEN_ALONE
            grind = UNEVEN_PRIOR[len(uneven)] if len(lobes) == 2 else alone if lobes else 1.0
            found += [
                Condition(uneven, of_peak, hand, centering, careless, chance * grind * prior)
                for hand, centering, careless, prior in scales
            ]
    return tuple(found)


def covariance(readings: tuple[Seen, ...], expected: Expected, condition: Condition = PLAIN) -> "Array":
    """The covariance of all deviations, (n, n), under one condition."""
    one: Array = covariances(readings, expected, (condition,))[0]
    return one


def covariances(readings: tuple[Seen, ...], expected: Expected, ways: tuple[Condition, ...]) -> "Array":
    """The covariance of all deviations under each of some conditions, (g, n, n)."""
    import numpy as np

    parts = np.array(list(shared(readings, expected).values())).reshape(-1, len(readings))
    center = off_center(readings, expected)
    hand, beside = independent_noise(readings, expected)
    common, wheel = np.diag(beside) + parts.T @ parts, center.T @ center
    on_lobes = np.array([float(each.kind in ("event", "lift")) for each in readings])
    careless = np.outer(on_lobes, on_lobes)
    grinds: dict[tuple[frozenset[str], bool], Array] = {}
    found = []
    for way in ways:
        grind = way.uneven, way.of_peak
        if grind not in grinds:
            grinds[grind] = common + _ground(readings, *grind)
        own = way.hand**2 * np.diag(hand) + way.centering**2 * wheel + way.careless_deg**2 * careless
        found.append(grinds[grind] + own)
    return np.array(found)


def _ground(readings: tuple[Seen, ...], uneven: frozenset[str], of_peak: bool) -> "Array":
    """Covariance added by asymmetric lobes, which are alike within a family."""
    import numpy as np

    lobes = sorted({each.lobe for each in readings if each.kind in ("event", "lift")})
    total = np.zeros((len(readings), len(readings)))
    for one in lobes:
        for other in lobes:
            alike = 1.0 if one == other else FAMILY
            sizes = [UNEVEN_DEG if lobe in uneven else EVEN_DEG for lobe in (one, other)]
            moved = [unevenness(readings, lobe, of_peak) for lobe in (one, other)]
            total += alike * sizes[0] * sizes[1] * np.outer(moved[0], moved[1])
            if {one, other} <= uneven:
                hidden = [_unseen(readings, lobe, of_peak) for lobe in (one, other)]
                total += alike * UNEVEN_UNSEEN_DEG**2 * np.outer(hidden[0], hidden[1])
    return total
