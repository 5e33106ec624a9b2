"""Faults of the set-up as changes of the model, weighed by likelihood against nothing being wrong."""

import math
from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from functools import cached_property, partial
from typing import TYPE_CHECKING, NamedTuple

from uranograph.evidence.model import PHASE_DEG, Expected, Grounds, Phase, Seen, deviation, toward_phase

if TYPE_CHECKING:
    from uranograph.evidence.model import Array

NOTHING = "nothing"
PRIOR = {
    "wheel-moved": 0.05,
    "typing-slip": 0.05,
    "set-backward": 0.03,
    "one-backward": 0.03,
    "wrong-lobe": 0.03,
    "other-cylinder": 0.03,
    "wheel-end": 0.032,
    "numbers-rise": 0.028,
    "tooth-off": 0.03,
    "lash-wrong": 0.03,
    "indicator-askew": 0.03,
    "card-misprint": 0.03,
    "wrong-side": 0.02,
    "gear-slipping": 0.02,
    "bleeding-lifter": 0.02,
    "lobes-apart": 0.01,
    "gear-slipped-before": 0.0,
}
# A fault that moves what is found of a cam by less than this, crank degrees, does no harm.
HARMLESS_DEG = 0.3
# Faults that leave what was measured true: the cam does stand there.
TRUE_ALL_THE_SAME = ("tooth-off", "gear-slipped-before", "lobes-apart")
PRESSED_SHARE, SLIPPED_BEFORE_DEG = 0.1, 8.0
# Usual sizes: crank degrees, percent of lift, hundredths of a mm.
MOVED_DEG, SLIPPED_DEG, BACKWARD_DEG, APART_DEG = 2.0, 4.0, 1.5, 4.0
ASKEW_PERCENT, LASH, BLED = 4.0, 12.0, 8.0
SLIPS_DEG = (1.0, 2.0, 5.0, 9.0, 10.0, 20.0)
MISPRINTS_DEG = (3.0, 4.0, 5.0, 10.0)
ANY_SLIP_DEG, ANY_SLIP_SHARE, SLIP_SPREAD_DEG, TOOTH_PHASE_DEG = 15.0, 0.2, 0.3, 1.3
# How much of the odds against crossed contacts and clashing cards is kept where nothing of that kind is wrong.
CROSSED_BY_CHANCE, CLASH_BY_CHANCE = 0.005, 0.1
TAIL_SHARE = 0.02
FAR_SHARE, FAR_PHASE_DEG = 0.1, 15.0
LEAST_SHARE, MOST_ASKED = 0.02, 6
OTHER = {"intake": "exhaust", "exhaust": "intake"}


@dataclass(frozen=True)
class Suspect:
    """A fault with its share of the belief, and the reading it lies in, where it lies in one."""

    code: str
    share: float
    seq: int | None = None


@dataclass(frozen=True)
class Setup:
    """What else is known of engine, wheel and card.

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
    """

    crank_teeth: int | None = None
    firing_deg: float | None = None
    full_wheel: bool = False
    crossed: bool = False
    clash: bool = False
    pressed: bool = False


class Hypothesis(NamedTuple):
    """One way a fault can be: what it adds to each reading, and the direction in which it adds an unknown size.

    `share` is its part of the fault's prior; `sign` is −1 where the direction is known better instead.
    """

    code: str
    share: float
    adds: "Array"
    along: "Array"
    seq: int | None = None
    sign: int = 1


class Weighing:
    """All faults weighed against the readings at once.

    Parameters
    ----------
    readings
        Every reading that holds, in the order they were taken.
    expected, setup
        What card and set-up make one expect, and what else is known.
    coming
        Readings that could be taken next: each hypothesis is worked out for them too, after those of `readings`.

    References
    ----------
    docs/methods.md, "All readings together".
    """

    def __init__(
        self, readings: tuple[Seen, ...], expected: Expected, setup: Setup, coming: tuple[Seen, ...] = ()
    ) -> None:
        import numpy as np

        self.readings, self.expected, self.setup, self.coming = readings, expected, setup, coming
        self.grounds = Grounds(readings, expected, coming)
        priors = _priors(setup)
        zero = np.zeros(len(readings) + len(coming))
        rows = _Rows(readings + coming, len(readings), expected)
        # A cam can have been fitted anywhere, if seldom far off.
        self.hypotheses = [
            Hypothesis(NOTHING, 1.0, zero, zero),
            Hypothesis(NOTHING, 1.0, zero, FAR_PHASE_DEG * rows.lobes),
        ]
        nothing = 1.0 - sum(priors.values())
        shares = [(1.0 - FAR_SHARE) * nothing, FAR_SHARE * nothing]
        for code, prior in priors.items():
            own = list(_MAKERS[code](code, rows, setup)) if prior else []
            whole = sum(each.share for each in own)
            self.hypotheses += own
            shares += [prior * each.share / whole for each in own]
        n = len(readings)
        self.adds = np.array([each.adds for each in self.hypotheses]).T
        self.along = np.array([each.along for each in self.hypotheses]).T
        self.sign = np.array([each.sign for each in self.hypotheses], dtype=float)
        y = self.grounds.y[:, None] - self.adds[:n]
        prior = np.log(shares)
        self._y = y
        # Of each hypothesis the size it most likely has, and the variance of that.
        self._sizes: list[tuple[Array, Array]] = []
        terms = []
        for ground in self.grounds.parts:
            toward = ground.inverse @ y
            side = np.einsum("nm,nm->m", self.along[:n], toward)
            more = 1.0 + self.sign * np.einsum("nm,nm->m", self.along[:n], ground.inverse @ self.along[:n])
            self._sizes.append((self.sign * side / more, self.sign / more))
            square = np.einsum("nm,nm->m", y, toward) - self.sign * side**2 / more
            fit = ground.rest - 0.5 * np.log(more)
            # A thin wide tail, so that no reading rules by itself.
            near = math.log(1 - TAIL_SHARE) - 0.5 * square
            wide = math.log(TAIL_SHARE) - n * math.log(2) - square / 8
            terms.append(prior + fit + np.logaddexp(near, wide))
        self.by_ground = np.array(terms)
        weights = np.exp(self.by_ground - self.by_ground.max())
        self.weights = weights / weights.sum()

    @cached_property
    def found(self) -> tuple[Suspect, ...]:
        """Every fault with its share, the likeliest first; nothing wrong has the rest."""
        by_code: dict[str, list[tuple[float, int | None]]] = defaultdict(list)
        for each, weight in zip(self.hypotheses, self.weights.sum(axis=0), strict=True):
            by_code[each.code].append((float(weight), each.seq))
        found = [
            Suspect(code, sum(weight for weight, _ in own), max(own, key=lambda each: each[0])[1])
            for code, own in by_code.items()
        ]
        return tuple(sorted(found, key=lambda each: -each.share))

    def sound(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> float:
        """The chance that what was measured of a cam is true: nothing is wrong, or what is wrong leaves its phase as it was read."""
        import numpy as np

        n = len(self.readings)
        toward, _ = toward_phase(self.readings, self.expected, cam, lobes)
        true = np.array([each.code in (NOTHING, *TRUE_ALL_THE_SAME) for each in self.hypotheses])
        total = 0.0
        for ground, weights, (size, spread) in zip(self.grounds.parts, self.weights, self._sizes, strict=True):
            reach = ground.inverse @ toward
            pull = reach @ self.along[:n]
            off = np.abs(reach @ (self._y - self.grounds.y[:, None]) - pull * size) + 2 * np.abs(pull) * np.sqrt(
                np.abs(spread)
            )
            total += float(weights[true | (off < HARMLESS_DEG)].sum())
        return total

    def phase(self, cam: str = "both", lobes: tuple[str, ...] = ()) -> Phase:
        """Where a cam stands if nothing is wrong."""
        return self.grounds.phase(cam, lobes)

    def uneven(self, lobe: str) -> float:
        """The chance that nothing is wrong but that a lobe is ground uneven."""
        pairs = zip(self.weights[:, :2].sum(axis=1), self.grounds.parts, strict=True)
        return sum(float(weight) for weight, ground in pairs if lobe in ground.uneven)


def suspects(readings: tuple[Seen, ...], expected: Expected, setup: Setup) -> tuple[Suspect, ...]:
    """Every fault with its share, the likeliest first; nothing wrong has the rest.

    Parameters
    ----------
    readings
        Every reading that holds, in the order they were taken.
    expected
        What card and set-up make one expect.
    setup
        What else is known of engine and wheel.

    Returns
    -------
    tuple
        Shares of all faults and of `nothing` make one together.
    """
    return Weighing(readings, expected, setup).found


def asked(found: tuple[Suspect, ...]) -> tuple[Suspect, ...]:
    """What is worth asking: nothing while nothing wrong is likelier than not, else the likeliest faults."""
    nothing = next(each.share for each in found if each.code == NOTHING)
    if nothing > 0.5:
        return ()
    return tuple(each for each in found if each.code != NOTHING and each.share >= LEAST_SHARE)[:MOST_ASKED]


def _priors(setup: Setup) -> dict[str, float]:
    """Each fault's prior, raised or lowered by what needs no reading to be seen."""
    priors = dict(PRIOR)
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
    """What was seen comes with these faults, and seldom without them."""
    weights = {code: prior * (1.0 if code in codes else by_chance) for code, prior in priors.items()}
    whole = sum(weights.values()) + (1.0 - sum(priors.values())) * by_chance
    return {code: weight / whole for code, weight in weights.items()}


@dataclass
class _Rows:
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


def _moved(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """The wheel from some reading on, the stop included, or the gear, the stop left out; before the first reading too."""
    wheel = code == "wheel-moved"
    size = MOVED_DEG if wheel else SLIPPED_DEG
    last = rows.readings[rows.taken - 1].frame
    lobes = rows.at_lobes
    moves = rows.where(lambda each: each.on_wheel and each.frame == last and (wheel or each.kind != "stop"))
    for j in range(lobes[0], rows.taken) if wheel else lobes[1:]:
        first = rows.readings[j]
        if moves[j]:
            yield Hypothesis(code, 1.0, rows.zero, size * moves * (rows.seqs >= first.seq), first.seq)


def _backward(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """One reading through the slack of the drive; or all of a set, till one place is come up to again."""
    if code == "one-backward":
        for j in rows.singly:
            yield Hypothesis(code, 1.0, rows.zero, BACKWARD_DEG * rows.at(j), rows.readings[j].seq)
        return
    # Until a place is come up to again, or another way of reading is begun.
    places = [rows.readings[n].place for n in rows.at_lobes]
    again = [
        n for k, n in enumerate(rows.at_lobes) if k and (places[k] in places[:k] or places[k][0] != places[k - 1][0])
    ]
    ends = [rows.readings[n].seq for n in again] or [rows.readings[rows.taken - 1].seq + 1]
    for end in ends:
        yield Hypothesis(code, 1.0, rows.zero, -BACKWARD_DEG * rows.lobes * (rows.seqs < end))


def _slips(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
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
        yield Hypothesis(code, 2 * ANY_SLIP_SHARE, rows.zero, part * ANY_SLIP_DEG * here, seen.seq)


def _wrong_side(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    for j in rows.singly:
        seen = rows.readings[j]
        off = deviation(seen, rows.expected) - deviation(replace(seen, at_deg=-seen.at_deg), rows.expected)
        yield Hypothesis(code, 1.0, off * rows.at(j), rows.zero, seen.seq)


def _turned(rows: _Rows, turn: Callable[[Seen], Seen]) -> "Array":
    """What a reading deviates more than it would, had it been read as `turn` makes it."""
    import numpy as np

    def off(seen: Seen) -> float:
        as_it_was = turn(seen)
        return deviation(seen, rows.expected) - deviation(as_it_was, rows.expected)

    found = [off(each) if n < rows.taken and each.on_wheel else 0.0 for n, each in enumerate(rows.readings)]
    # A place that is read again shows again what it showed.
    at = {each.place: found[n] for n, each in enumerate(rows.readings[: rows.taken])}
    coming = [at.get(each.place, 0.0) for each in rows.readings[rows.taken :]]
    return np.array([*found[: rows.taken], *coming])


def _mirrored(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """Before the top read as after it: the wheel at the other end, or its numbers the other way."""
    yield Hypothesis(code, 1.0, _turned(rows, lambda seen: replace(seen, at_deg=-seen.at_deg)), rows.zero)


def _wrong_lobe(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
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


def _other_cylinder(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    if not setup.firing_deg:
        return
    for k in range(1, round(360 / setup.firing_deg)):
        yield Hypothesis(code, 1.0, _turned(rows, partial(_turned_on, k * setup.firing_deg)), rows.zero)


def _tooth(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """Near whole teeth the phase is as it was fitted, and no more anything."""
    if not setup.crank_teeth:
        return
    known = math.sqrt(PHASE_DEG**2 - TOOTH_PHASE_DEG**2)
    for teeth in (-2, -1, 1, 2):
        yield Hypothesis(code, 1.0, teeth * 360 / setup.crank_teeth * rows.lobes, known * rows.lobes, sign=-1)


def _slipped_before(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    yield Hypothesis(code, 1.0, rows.zero, SLIPPED_BEFORE_DEG * rows.lobes)


def _apart(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    if rows.expected.apart or {rows.readings[n].lobe for n in rows.at_lobes} != {"intake", "exhaust"}:
        return
    side = rows.where(lambda each: each.lobe == "intake") - rows.where(lambda each: each.lobe == "exhaust")
    yield Hypothesis(code, 1.0, rows.zero, APART_DEG * side * rows.lobes)


def _askew(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """Lifts read so many percent over: an opening comes earlier, a closing later, a half width grows by half as much."""
    import numpy as np

    def percent(each: Seen) -> float:
        if each.kind == "event":
            return each.side * 0.01 * rows.expected.check_mm / each.slope_mm if each.slope_mm else 0.0
        if each.kind == "lift":
            return -each.side * 0.005 * rows.expected.width_deg.get(each.seq, 0.0)
        return 1.0 if each.kind == "peak" else 0.0

    yield Hypothesis(code, 1.0, rows.zero, ASKEW_PERCENT * np.array([percent(each) for each in rows.readings]))


def _lash(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """So much more lash: openings later, closings earlier, the greatest lift short by it; the base is not."""
    import numpy as np

    def hundredth(each: Seen) -> float:
        if each.kind == "event":
            return -each.side * 0.01 / each.slope_mm if each.slope_mm else 0.0
        return -1.0 / rows.expected.lift_mm[each.lobe] if each.kind == "peak" else 0.0

    yield Hypothesis(code, 1.0, rows.zero, LASH * np.array([hundredth(each) for each in rows.readings]))


def _bleeding(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
    """A lifter that leaks down on its way: closings early by all of it, lifts by half, the base low at the end."""
    import numpy as np

    def hundredth(each: Seen) -> float:
        if each.kind in ("event", "lift") and each.side > 0 and each.slope_mm:
            return -0.01 / each.slope_mm * (1.0 if each.kind == "event" else 0.5)
        if each.kind == "peak":
            return -0.5 / rows.expected.lift_mm[each.lobe]
        return -1.0 if each.kind == "base" else 0.0

    yield Hypothesis(code, 1.0, rows.zero, BLED * np.array([hundredth(each) for each in rows.readings]))


def _misprint(code: str, rows: _Rows, setup: Setup) -> Iterator[Hypothesis]:
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
    "card-misprint": _misprint,
}
