"""Effect of each fault on every reading, at several sizes."""

import math
from collections.abc import Callable, Iterator
from dataclasses import replace
from functools import partial
from typing import TYPE_CHECKING

from uranograph.evidence.covariance import PHASE_DEG, Expected, Seen, deviation
from uranograph.evidence.model import LOBES
from uranograph.evidence.shifted_readings import Hypothesis, Setup, ShiftedReadings

if TYPE_CHECKING:
    from uranograph.evidence.model import Array


NOTHING = "nothing"
PRIOR = {
    "wheel-moved": 0.04,
    "typing-slip": 0.04,
    "set-backward": 0.03,
    "one-backward": 0.05,
    "wrong-lobe": 0.03,
    "other-cylinder": 0.03,
    "wheel-end": 0.032,
    "numbers-rise": 0.028,
    "tooth-off": 0.03,
    "lash-wrong": 0.03,
    "wrong-checking-lift": 0.02,
    "indicator-askew": 0.03,
    "card-misprint": 0.03,
    "wrong-side": 0.02,
    "gear-slipping": 0.02,
    "bleeding-lifter": 0.03,
    "springs-on": 0.02,
    "lobes-apart": 0.01,
    "gear-slipped-before": 0.0,
}
PRESSED_SHARE, SLIPPED_BEFORE_DEG = 0.1, 8.0
# How likely a lifter bleeds, and lash is wrong, by the tappets that are in while checking.
BLEEDS = {"solid": 0.0, "stand-in": 0.0, "hydraulic": 0.25, "": PRIOR["bleeding-lifter"]}
LASH_WRONG = {"solid": 0.03, "stand-in": 0.01, "hydraulic": 0.005, "": PRIOR["lash-wrong"]}
# Usual sizes: crank degrees, percent of lift, hundredths of a mm.
MOVED_DEG, SLIPPED_DEG, BACKWARD_DEG, APART_DEG, SPRUNG_DEG = 2.0, 4.0, 1.5, 4.0, 1.0
# A slack that was measured counts as this at least: it was measured on one lobe, turned slowly.
LEAST_SLACK_DEG = 0.25
ASKEW_PERCENT, LASH, BLED, CHECKED = 4.0, 12.0, 10.0, 25.0
# Sizes from a quarter to eight times the usual, with their probabilities.
SIZES = (0.25, 0.5, 1.0, 2.0, 4.0, 8.0)
SIZE_SHARES = (0.05, 0.15, 0.35, 0.25, 0.13, 0.07)
# A fault that acts over a flank's slope acts on degrees as far as that slope is known: to a third of them, lobe by lobe.
SLOPE_SHARE, BETWEEN_SIZES = 0.35, 0.35
SLIPS_DEG = (1.0, 2.0, 5.0, 9.0, 10.0, 20.0)
MISPRINTS_DEG = (3.0, 4.0, 5.0, 10.0)
ANY_SLIP_DEG, ANY_SLIP_SHARE, SLIP_SPREAD_DEG, TOOTH_PHASE_DEG = 15.0, 0.2, 0.3, 1.3
# How much of the odds against crossed contacts and clashing cards is kept where nothing of that kind is wrong.
CROSSED_BY_CHANCE, CLASH_BY_CHANCE = 0.005, 0.1
# A question that was answered no keeps so much of its odds: people look, and are seldom wrong.
DENIED = 0.02
# Up to so many readings on the wheel any two of them may both have come backward.
MAX_PAIRED, PAIRED_SHARE = 12, 0.1
FAR_SHARE, FAR_PHASE_DEG = 0.1, 15.0
OTHER = {"intake": "exhaust", "exhaust": "intake"}


def hypotheses(
    readings: tuple[Seen, ...], expected: Expected, setup: Setup, coming: tuple[Seen, ...]
) -> Iterator[tuple[Hypothesis, float]]:
    """Every way something can be wrong, and nothing wrong, with the chance of each before any reading."""
    import numpy as np

    priors = _priors(setup)
    zero = np.zeros(len(readings) + len(coming))
    rows = ShiftedReadings(readings + coming, len(readings), expected)
    nothing, anywhere = 1.0 - sum(priors.values()), FAR_PHASE_DEG
    # A cam can be fitted at any phase, but rarely far off.
    yield Hypothesis(NOTHING, 1.0, zero, zero), (1.0 - FAR_SHARE) * nothing
    yield Hypothesis(NOTHING, 1.0, zero, anywhere * rows.lobes, moves=(anywhere, anywhere)), FAR_SHARE * nothing
    for code, prior in priors.items():
        own = list(_MAKERS[code](code, rows, setup)) if prior else []
        whole = sum(each.share for each in own)
        until = setup.denied.get(code, -1)
        for each in own:
            looked = until > (readings[-1].seq if each.seq is None else each.seq)
            yield each, prior * each.share / whole * (DENIED if looked else 1.0)


def _priors(setup: Setup) -> dict[str, float]:
    """Each fault's prior, raised or lowered by what needs no reading to be seen."""
    priors = dict(PRIOR)
    priors["bleeding-lifter"], priors["lash-wrong"] = BLEEDS[setup.tappets], LASH_WRONG[setup.tappets]
    if setup.springs:
        # Their effect is part of the model.
        priors["springs-on"] = 0.0
    if setup.pressed:
        priors["gear-slipped-before"] = PRESSED_SHARE
    # On a wheel that counts to 360 the two show the same; the end is mistaken a little more often.
    mirrored = ("wheel-end", "numbers-rise") if setup.full_wheel else ("wheel-end",)
    if not setup.full_wheel:
        priors["wheel-end"] += priors.pop("numbers-rise")
    if setup.crossed:
        return _raised(priors, mirrored, CROSSED_BY_CHANCE)
    return _raised(priors, ("card-misprint",), CLASH_BY_CHANCE) if setup.clash else priors


def _raised(priors: dict[str, float], codes: tuple[str, ...], by_chance: float) -> dict[str, float]:
    """An observation that these faults make likely."""
    weights = {code: prior * (1.0 if code in codes else by_chance) for code, prior in priors.items()}
    whole = sum(weights.values()) + (1.0 - sum(priors.values())) * by_chance
    return {code: weight / whole for code, weight in weights.items()}


def _moved(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """The wheel from some reading on, the stop included, or the gear, the stop left out; before the first reading too."""
    wheel = code == "wheel-moved"
    size = MOVED_DEG if wheel else SLIPPED_DEG
    last = rows.readings[rows.taken - 1].frame
    lobes = rows.at_lobes
    moves = rows.where(lambda each: each.on_wheel and each.frame == last and (wheel or each.kind != "stop"))
    for j in range(lobes[0], rows.taken) if wheel else lobes[1:]:
        first = rows.readings[j]
        if moves[j]:
            along = size * moves * (rows.seqs >= first.seq)
            own = (0.0, 0.0) if wheel else (size, size)
            yield Hypothesis(code, 1.0, rows.zero, along, first.seq, sized=True, moves=own)


def _backward(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """One reading or two through the slack of the drive; or all of a set, till one place is come up to again."""
    usual = BACKWARD_DEG if setup.slack_deg is None else max(LEAST_SLACK_DEG, setup.slack_deg)
    if code == "one-backward":
        for k, j in enumerate(rows.singly):
            seq = rows.readings[j].seq
            yield Hypothesis(code, 1.0, rows.zero, usual * rows.at(j), seq, sized=True)
            for i in rows.singly[:k] if len(rows.singly) <= MAX_PAIRED else ():
                both = usual * (rows.at(j) + rows.at(i))
                yield Hypothesis(code, PAIRED_SHARE, rows.zero, both, seq, sized=True)
        return
    # Until a place is approached again or another method begins.
    places = [rows.readings[n].place for n in rows.at_lobes]
    again = [
        n for k, n in enumerate(rows.at_lobes) if k and (places[k] in places[:k] or places[k][0] != places[k - 1][0])
    ]
    ends = [rows.readings[n].seq for n in again] or [rows.readings[rows.taken - 1].seq + 1]
    for end in ends:
        yield Hypothesis(code, 1.0, rows.zero, -usual * rows.lobes * (rows.seqs < end), sized=True)


def _slips(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """A figure off by what swapped digits, a five, a nine or a ten make, or by anything; of a stop half as much."""
    for j in range(rows.taken):
        seen = rows.readings[j]
        if not seen.on_wheel or seen.own_deg is not None:
            continue
        here = rows.at(j)
        part = 0.5 if seen.kind == "stop" else 1.0
        sizes = [*SLIPS_DEG, *([seen.swap_deg] * 2 if seen.swap_deg else [])]
        spread = SLIP_SPREAD_DEG * here
        for size in sizes:
            for sign in (-part, part):
                yield Hypothesis(code, 1.0 / len(sizes), sign * size * here, spread, seen.seq)
        yield Hypothesis(code, 2 * ANY_SLIP_SHARE, rows.zero, part * ANY_SLIP_DEG * here, seen.seq, sized=True)


def _wrong_side(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    for j in rows.singly:
        seen = rows.readings[j]
        off = deviation(seen, rows.expected) - deviation(replace(seen, at_deg=-seen.at_deg), rows.expected)
        yield Hypothesis(code, 1.0, off * rows.at(j), rows.zero, seen.seq)


def _turned(rows: ShiftedReadings, turn: Callable[[Seen], Seen]) -> "Array":
    """Excess deviation of a reading over the same reading transformed by `turn`."""
    import numpy as np

    def off(seen: Seen) -> float:
        as_it_was = turn(seen)
        return deviation(seen, rows.expected) - deviation(as_it_was, rows.expected)

    found = [off(each) if n < rows.taken and each.on_wheel else 0.0 for n, each in enumerate(rows.readings)]
    # A place read again gives the same value.
    at = {each.place: found[n] for n, each in enumerate(rows.readings[: rows.taken])}
    coming = [at.get(each.place, 0.0) for each in rows.readings[rows.taken :]]
    return np.array([*found[: rows.taken], *coming])


def _mirrored(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """Before the top read as after it: the wheel at the other end, or its numbers the other way."""
    yield Hypothesis(code, 1.0, _turned(rows, lambda seen: replace(seen, at_deg=-seen.at_deg)), rows.zero)


def _wrong_lobe(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """The other lobe read for one, or each for the other; its greatest lift is the other's as well."""
    expected = rows.expected
    if len(expected.middle_deg) < 2:
        return
    read = {rows.readings[n].lobe for n in rows.at_lobes}
    for which in ({"intake"}, {"exhaust"}, {"intake", "exhaust"}):
        if not which <= read:
            continue
        adds = _turned(rows, partial(_read_for_another, which))
        if len(expected.lift_mm) == 2:
            for n, each in enumerate(rows.readings):
                if each.kind == "peak" and each.lobe in which:
                    adds[n] = 100 * (expected.lift_mm[OTHER[each.lobe]] / expected.lift_mm[each.lobe] - 1)
        yield Hypothesis(code, 1.0, adds, rows.zero)


def _read_for_another(which: set[str], seen: Seen) -> Seen:
    return replace(seen, lobe=OTHER[seen.lobe]) if seen.lobe in which else seen


def _turned_on(shift_deg: float, seen: Seen) -> Seen:
    return replace(seen, at_deg=seen.at_deg - shift_deg) if seen.lobe else seen


def _other_cylinder(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    if not setup.firing_deg:
        return
    for k in range(1, round(360 / setup.firing_deg)):
        yield Hypothesis(code, 1.0, _turned(rows, partial(_turned_on, k * setup.firing_deg)), rows.zero)


def _tooth(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """Near whole teeth the phase is as it was fitted, and no more anything."""
    if not setup.crank_teeth:
        return
    known = math.sqrt(PHASE_DEG**2 - TOOTH_PHASE_DEG**2)
    for teeth in (-2, -1, 1, 2):
        off = teeth * 360 / setup.crank_teeth
        yield Hypothesis(code, 1.0, off * rows.lobes, known * rows.lobes, sign=-1, moves=(known, known), places=off)


def _slipped_before(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    far = SLIPPED_BEFORE_DEG
    yield Hypothesis(code, 1.0, rows.zero, far * rows.lobes, moves=(far, far))


def _apart(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    if rows.expected.apart or {rows.readings[n].lobe for n in rows.at_lobes} != {"intake", "exhaust"}:
        return
    side = rows.where(lambda each: each.lobe == "intake") - rows.where(lambda each: each.lobe == "exhaust")
    along = APART_DEG * side * rows.lobes
    yield Hypothesis(code, 1.0, rows.zero, along, sized=True, moves=(APART_DEG, -APART_DEG))


def _over_slopes(
    code: str, rows: ShiftedReadings, usual: float, moves: Callable[[Seen], float], signs: tuple[int, ...] = (-1, 1)
) -> Iterator[Hypothesis]:
    """A fault that acts on lifts: on degrees through slopes that are known only so well, and of each lobe for itself.

    Its size is one of `SIZES` and any between, and what it does to lifts and to degrees has one sign.
    """
    import numpy as np

    along = usual * np.array([moves(each) for each in rows.readings])
    of_lobe = [along * rows.where(partial(_on_wheel_of, lobe)) for lobe in LOBES]
    for size, share in zip(SIZES, SIZE_SHARES, strict=True):
        spread = np.stack([BETWEEN_SIZES * along, *(SLOPE_SHARE * own for own in of_lobe)], axis=1)
        for sign in signs:
            yield Hypothesis(code, share / len(signs), sign * size * along, size * spread)


def _on_wheel_of(lobe: str, each: Seen) -> float:
    return float(each.lobe == lobe and each.on_wheel)


def _by_slope(each: Seen, mm: float) -> float:
    """Crank degrees that a flank takes for so many mm."""
    return mm / each.slope_mm if each.slope_mm else 0.0


def _askew(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """Lifts read so many percent over: an opening comes earlier, a closing later, a half width grows by half as much."""

    def percent(each: Seen) -> float:
        if each.kind == "event":
            return each.side * _by_slope(each, 0.01 * rows.expected.check_mm)
        if each.kind == "lift":
            return -each.side * 0.005 * rows.expected.width_deg.get(each.seq, 0.0)
        return 1.0 if each.kind == "peak" else 0.0

    yield from _over_slopes(code, rows, ASKEW_PERCENT, percent)


def _lash(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """So much more lash: openings later, closings earlier, the greatest lift short by it; the base is not."""

    def hundredth(each: Seen) -> float:
        if each.kind == "event":
            return -each.side * _by_slope(each, 0.01)
        return -1.0 / rows.expected.lift_mm[each.lobe] if each.kind == "peak" else 0.0

    yield from _over_slopes(code, rows, LASH, hundredth)


def _checked(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """Events read at another lift than the card's: openings later and closings earlier, or both the other way; no lift is short."""

    def hundredth(each: Seen) -> float:
        return -each.side * _by_slope(each, 0.01) if each.kind == "event" else 0.0

    yield from _over_slopes(code, rows, CHECKED, hundredth)


def _bleeding(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """A lifter that leaks down on its way: closings early by all of it, lifts by half, the base low at the end."""

    def hundredth(each: Seen) -> float:
        if each.kind in ("event", "lift") and each.side > 0:
            return -_by_slope(each, 0.01 if each.kind == "event" else 0.005)
        if each.kind == "peak":
            return -0.5 / rows.expected.lift_mm[each.lobe]
        return -1.0 if each.kind == "base" else 0.0

    yield from _over_slopes(code, rows, BLED, hundredth, signs=(1,))


def _sprung(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """Valve springs that push the cam ahead through the drive's slack on its closing flanks."""
    closing = rows.where(lambda each: each.side > 0 and each.kind in ("event", "lift"))
    yield Hypothesis(code, 1.0, rows.zero, -SPRUNG_DEG * closing, sized=True)


def _misprint(code: str, rows: ShiftedReadings, setup: Setup) -> Iterator[Hypothesis]:
    """One figure of the card off by a usual misprint: that event, and half of it the middle of its lobe."""
    import numpy as np

    for lobe in rows.expected.middle_deg:
        for side in (-1, 1):

            def along(each: Seen, lobe: str = lobe, side: int = side) -> float:
                if each.lobe != lobe or not each.on_wheel:
                    return 0.0
                return float(each.side == side) if each.kind == "event" else 0.5

            direction = np.array([along(each) for each in rows.readings])
            if not direction.any():
                continue
            for size in MISPRINTS_DEG:
                for sign in (-1, 1):
                    yield Hypothesis(code, 1.0, sign * size * direction, SLIP_SPREAD_DEG * direction)


_MAKERS = {
    "wheel-moved": _moved,
    "gear-slipping": _moved,
    "one-backward": _backward,
    "set-backward": _backward,
    "typing-slip": _slips,
    "wrong-side": _wrong_side,
    "wheel-end": _mirrored,
    "numbers-rise": _mirrored,
    "wrong-lobe": _wrong_lobe,
    "other-cylinder": _other_cylinder,
    "tooth-off": _tooth,
    "gear-slipped-before": _slipped_before,
    "lobes-apart": _apart,
    "indicator-askew": _askew,
    "lash-wrong": _lash,
    "bleeding-lifter": _bleeding,
    "wrong-checking-lift": _checked,
    "springs-on": _sprung,
    "card-misprint": _misprint,
}
