"""Faults of the set-up as changes of the model, weighed by likelihood against nothing being wrong."""

import math
from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from uranograph.evidence.model import PHASE_DEG, Expected, Grounds, Seen, deviations

if TYPE_CHECKING:
    from uranograph.evidence.model import Array

NOTHING = "nothing"
PRIOR = {
    "wheel-moved": 0.05,
    "gear-slipping": 0.02,
    "one-backward": 0.03,
    "typing-slip": 0.05,
    "wrong-side": 0.03,
    "wrong-lobe": 0.03,
    "other-cylinder": 0.03,
    "wheel-end": 0.03,
    "numbers-rise": 0.03,
    "tooth-off": 0.03,
    "lash-wrong": 0.03,
    "bleeding-lifter": 0.02,
    "lobes-apart": 0.02,
}
# Usual sizes, crank degrees.
MOVED_DEG, SLIPPED_DEG, BACKWARD_DEG, LASH_DEG, BLED_DEG, APART_DEG = 2.0, 4.0, 1.5, 3.0, 3.0, 4.0
SLIPS_DEG = (1.0, 2.0, 5.0, 9.0, 10.0, 20.0)
SLIP_SPREAD_DEG, TOOTH_PHASE_DEG = 0.3, 1.3
LEAST_SHARE, MOST_ASKED = 0.02, 6


@dataclass(frozen=True)
class Suspect:
    """A fault with its share of the belief, and the reading it lies in, where it lies in one."""

    code: str
    share: float
    seq: int | None = None


@dataclass(frozen=True)
class Setup:
    """What else is known: the crank gear's teeth, how far apart cylinders fire, and whether the wheel counts 0 to 360."""

    crank_teeth: int | None = None
    firing_deg: float | None = None
    full_wheel: bool = False


def suspects(readings: tuple[Seen, ...], expected: Expected, setup: Setup) -> tuple[Suspect, ...]:
    """Every fault with its share, the likeliest first; nothing wrong has the rest.

    Parameters
    ----------
    readings
        Every reading that holds, of one mounting of the wheel, in the order they were taken.
    expected
        What card and set-up make one expect.
    setup
        What else is known of engine and wheel.

    Returns
    -------
    tuple
        Shares of all faults and of `nothing` make one together.

    References
    ----------
    docs/methods.md, "All readings together".
    """
    y, grounds = deviations(readings, expected), Grounds(readings, expected)
    weights: list[tuple[str, float, int | None]] = []
    left = 1.0 - sum(PRIOR.values())
    weights.append((NOTHING, math.log(left) + grounds.log_likelihood(y), None))
    for code, prior in PRIOR.items():
        ways = list(_ways(code, readings, expected, setup, y, grounds))
        for way, seq in ways:
            weights.append((code, math.log(prior / len(ways)) + way, seq))
    most = max(weight for _, weight, _ in weights)
    parts = [(code, math.exp(weight - most), seq) for code, weight, seq in weights]
    total = sum(part for _, part, _ in parts)
    found = []
    for code in (NOTHING, *PRIOR):
        own = [(part, seq) for each, part, seq in parts if each == code]
        if own:
            found.append(Suspect(code, sum(part for part, _ in own) / total, max(own, key=lambda each: each[0])[1]))
    return tuple(sorted(found, key=lambda each: -each.share))


def asked(found: tuple[Suspect, ...]) -> tuple[Suspect, ...]:
    """What is worth asking: nothing while nothing wrong is likelier than not, else the likeliest faults."""
    nothing = next(each.share for each in found if each.code == NOTHING)
    if nothing > 0.5:
        return ()
    return tuple(each for each in found if each.code != NOTHING and each.share >= LEAST_SHARE)[:MOST_ASKED]


def _ways(
    code: str, readings: tuple[Seen, ...], expected: Expected, setup: Setup, y: "Array", grounds: Grounds
) -> Iterator[tuple[float, int | None]]:
    """How likely a fault makes the readings, for each place and size it can have, and the reading it lies in."""
    import numpy as np

    def with_share(direction: list[float], size: float) -> float:
        return grounds.log_likelihood(y, size * np.array(direction))

    lobes = [n for n, each in enumerate(readings) if each.lobe]
    if code in ("wheel-moved", "gear-slipping"):
        size = MOVED_DEG if code == "wheel-moved" else SLIPPED_DEG
        for j in lobes:
            after = [
                float(each.seq >= readings[j].seq and (code == "wheel-moved" or bool(each.lobe))) for each in readings
            ]
            # Moved before every reading of the lobes and never seen again at the stop it is a phase like any other.
            if sum(after) > 0 and (
                j != lobes[0] or any(a and not each.lobe for a, each in zip(after, readings, strict=True))
            ):
                yield with_share(after, size), readings[j].seq
    elif code == "one-backward":
        for j in lobes:
            yield with_share([float(n == j) for n in range(len(readings))], BACKWARD_DEG), readings[j].seq
    elif code == "typing-slip":
        for j in lobes:
            for slip in SLIPS_DEG:
                for sign in (-1, 1):
                    moved = y - sign * slip * np.array([float(n == j) for n in range(len(readings))])
                    spread = SLIP_SPREAD_DEG * np.array([float(n == j) for n in range(len(readings))])
                    yield grounds.log_likelihood(moved, spread), readings[j].seq
    elif code == "wrong-side":
        for j in lobes:
            mirrored = tuple(replace(each, at_deg=-each.at_deg) if n == j else each for n, each in enumerate(readings))
            yield grounds.log_likelihood(deviations(mirrored, expected)), readings[j].seq
    elif code in ("wheel-end", "numbers-rise"):
        if (code == "numbers-rise") == setup.full_wheel:
            mirrored = tuple(replace(each, at_deg=-each.at_deg) for each in readings)
            yield grounds.log_likelihood(deviations(mirrored, expected)), None
    elif code == "wrong-lobe":
        other = {"intake": "exhaust", "exhaust": "intake"}
        if len(expected.middle_deg) == 2 and not any(
            each.kind == "lift" and not expected.width_deg for each in readings
        ):
            for which in ({"intake"}, {"exhaust"}, {"intake", "exhaust"}):
                if which <= {each.lobe for each in readings}:
                    swapped = tuple(
                        replace(each, lobe=other[each.lobe]) if each.lobe in which else each for each in readings
                    )
                    yield Grounds(swapped, expected).log_likelihood(deviations(swapped, expected)), None
    elif code == "other-cylinder" and setup.firing_deg:
        for k in range(1, round(360 / setup.firing_deg)):
            shift = k * setup.firing_deg
            turned = tuple(replace(each, at_deg=each.at_deg - shift) if each.lobe else each for each in readings)
            yield grounds.log_likelihood(deviations(turned, expected)), None
    elif code == "tooth-off" and setup.crank_teeth:
        tooth = 360 / setup.crank_teeth
        # Near whole teeth the phase is as it was fitted, and no more anything.
        known = math.sqrt(PHASE_DEG**2 - TOOTH_PHASE_DEG**2) * np.array([float(bool(each.lobe)) for each in readings])
        fitted = Grounds(readings, expected, known)
        for teeth in (-2, -1, 1, 2):
            moved = y - teeth * tooth * np.array([float(bool(each.lobe)) for each in readings])
            yield fitted.log_likelihood(moved), None
    elif code == "lash-wrong":
        yield with_share([float(-each.side * (each.kind == "event")) for each in readings], LASH_DEG), None
    elif code == "bleeding-lifter":
        yield with_share([float(-(each.side > 0)) for each in readings], BLED_DEG), None
    elif code == "lobes-apart" and {each.lobe for each in readings if each.lobe} == {"intake", "exhaust"}:
        apart = [1.0 if each.lobe == "intake" else -1.0 if each.lobe else 0.0 for each in readings]
        yield with_share(apart, APART_DEG), None
