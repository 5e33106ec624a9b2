"""Made-up engines, hands and faults for the evidence, written without the model: only what a wheel would show."""

import math
import random
from dataclasses import dataclass
from typing import TYPE_CHECKING

from uranograph.evidence.covariance import Expected, Seen

if TYPE_CHECKING:
    from collections.abc import Callable

LOBES = ("intake", "exhaust")
FIRING_DEG, TEETH = 180.0, 24


@dataclass
class Told:
    """One engine as it was read: what the wheel showed, what the card says, and where the cam truly stands, deg late."""

    readings: tuple[Seen, ...]
    expected: Expected
    late_deg: float


def quarter(deg: float) -> float:
    return round(deg * 4) / 4


def read_engine(r: random.Random, method: str, fault: str = "") -> Told:
    """Take two stop pairs, the four events or two drops of each lobe, and the stop once more."""
    card = {"intake": r.uniform(100, 114), "exhaust": -r.uniform(104, 118)}
    half = {lobe: r.uniform(210, 250) / 2 for lobe in LOBES}
    late = r.uniform(-12, 12) if r.random() < 0.5 and fault != "tooth-off" else r.gauss(0, 1)
    middle = {lobe: card[lobe] + late + r.gauss(0, 0.25) for lobe in LOBES}
    true_half = {lobe: half[lobe] + r.gauss(0, 0.25) for lobe in LOBES}
    uneven = {lobe: r.choice((-1, 1)) * r.uniform(1, 3) if r.random() < 1 / 8 else r.gauss(0, 0.3) for lobe in LOBES}
    plan: list[tuple[str, str, int, float]] = [("stop", "", 0, 0.0)] * 2
    if method == "events":
        plan += [("event", lobe, side, 0.0) for lobe in LOBES for side in (-1, 1)]
    else:
        plan += [("lift", lobe, side, drop) for lobe in LOBES for drop in (1.0, 4.0) for side in (-1, 1)]
    plan.append(("stop", "", 0, 0.0))
    at_lobes = [n for n, each in enumerate(plan) if each[1]]
    knocked, which = r.choice(at_lobes[1:]), r.choice(at_lobes)
    moved, slip = r.choice((-1, 1)) * r.uniform(2, 5), r.choice((-1, 1)) * r.choice((5, 9, 10, 20))
    zero = r.uniform(-3, 3)
    teeth = r.choice((-1, 1))
    mirror: Callable[[float], float] = (
        (lambda deg: -deg) if fault in ("wheel-end", "numbers-rise") else (lambda deg: deg)
    )
    readings, widths = [], {}
    for n, (kind, lobe, side, drop) in enumerate(plan):
        after = n >= knocked
        eye = r.gauss(0, 0.12) + r.gauss(0, 0.07)
        if kind == "stop":
            shift = moved if fault == "wheel-moved" and after else 0.0
            readings.append(
                Seen("stop", mirror((quarter(40 + zero + shift + eye) - quarter(40 - zero - shift)) / 2), n)
            )
            continue
        read = {"intake": "exhaust", "exhaust": "intake"}[lobe] if fault == "wrong-lobe" else lobe
        wide, nose, needle = true_half[read], 0.0, 0.04
        if kind == "lift":
            wide = math.sqrt(drop) * 22 * (1 + 0.1 * (true_half[read] / 115 - 1))
            nose, needle, widths[n] = 1 - wide / true_half[read], 0.1, math.sqrt(drop) * 22
        shown = middle[read] + uneven[read] * nose + side * wide + zero + 0.1 + r.gauss(0, needle) + eye
        shown += moved if fault in ("wheel-moved", "gear-slipping") and after else 0.0
        shown += {"other-cylinder": FIRING_DEG, "tooth-off": teeth * 360 / TEETH}.get(fault, 0.0)
        shown += {"lash-wrong": -side * 2.5, "bleeding-lifter": -2.5 * (side > 0)}.get(fault, 0.0)
        shown += (4.0 if lobe == "intake" else -4.0) if fault == "lobes-apart" else 0.0
        shown = quarter(shown + (slip if fault == "typing-slip" and n == which else 0.0))
        shown = -shown if fault == "wrong-side" and n == which else shown
        slope = 0.06 if kind == "event" else 2 * drop / wide
        readings.append(Seen(kind, mirror(shown), n, lobe, side, needle, nose, slope, drop=f"{drop:g}" if drop else ""))
    true_late = late + sum(middle[lobe] - card[lobe] - late for lobe in LOBES) / 2
    return Told(tuple(readings), Expected(card, half, widths), true_late)
