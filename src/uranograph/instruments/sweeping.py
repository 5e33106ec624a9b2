"""A sweep as it comes: the crank turned slowly by hand, an encoder and a dial on a lobe read together."""

from dataclasses import dataclass
from itertools import pairwise
from statistics import median
from typing import Any

from uranograph.core.errors import InvalidInput
from uranograph.instruments.paired import GAP_DEG, Pair, Paired

WHOLE_DEG = 720.0
# After so much a sweep is kept with the gaps that it has.
MAX_TURNED_DEG = 3 * WHOLE_DEG
# So far to each side of its greatest lift a lobe is kept, degrees; and where it begins, as a share of that lift.
ASIDE_DEG, BEGINS, BEGINS_MM = 175.0, 0.004, 0.02
MARGIN_DEG, STEP_DEG = 8.0, 2.0
FEWEST = 12
# Turned backward, a lobe begins and ends below this share of its lift, which is this at least.
BACK_SHARE, LEAST_NOSE_MM = 0.05, 1.0


@dataclass
class Sweeping(Paired):
    """One lobe being swept, `intake` or `exhaust`; `back` where it is turned backward over it, for the slack."""

    lobe: str = "intake"
    back: bool = False

    @property
    def title(self) -> str:
        """What is read, in words."""
        return f"the {self.lobe} sweep{', backward' if self.back else ''}"

    @property
    def is_complete(self) -> bool:
        """Whether two turns were swept without a gap in the lobe; backward, whether it came down from the nose to the base circle again."""
        if not self.back:
            return self.turned_deg >= WHOLE_DEG and (self.gap_deg is None or self.turned_deg >= MAX_TURNED_DEG)
        taken = self.backward_pairs()
        peak = max((each.mm for each in taken), default=0.0)
        return peak > LEAST_NOSE_MM and all(each.mm < BACK_SHARE * peak for each in (taken[0], taken[-1]))

    @property
    def gap_deg(self) -> float | None:
        """The middle of the widest gap in the lobe that is still to be passed over again, encoder degrees; None where there is none."""
        points = self.points()
        wide = [(b.deg - a.deg, (a.deg + b.deg) / 2) for a, b in pairwise(points) if b.deg - a.deg > STEP_DEG + GAP_DEG]
        return max(wide)[1] if wide and not self.back else None

    def points(self) -> list[Pair]:
        """Readings that are kept: those nearest to each step, from where the lobe begins to where it ends.

        None is made up: each was read as it stands. What was passed over again fills what was passed too fast before.
        """
        pairs = self.backward_pairs() if self.back else self.forward()
        if len(pairs) < FEWEST:
            return []
        peak = max(pairs, key=lambda each: each.mm)
        if pairs[-1].deg - pairs[0].deg > WHOLE_DEG:
            pairs = [Pair(_folded(each.deg, peak.deg), each.mm, each.raw) for each in pairs]
        near = [each for each in pairs if abs(each.deg - peak.deg) <= ASIDE_DEG]
        lifted = [each.deg for each in near if each.mm > max(BEGINS_MM, BEGINS * peak.mm)]
        if not lifted:
            # Still on the base circle.
            return []
        low, high = min(lifted) - MARGIN_DEG, max(lifted) + MARGIN_DEG
        nearest: dict[int, Pair] = {}
        for each in near:
            if not low <= each.deg <= high:
                continue
            k = round(each.deg / STEP_DEG)
            kept = nearest.get(k)
            if kept is None or abs(each.deg - k * STEP_DEG) < abs(kept.deg - k * STEP_DEG):
                nearest[k] = each
        return [nearest[k] for k in sorted(nearest)]

    def progress(self) -> dict[str, Any]:
        """How far it has come, for the page that watches it."""
        return {
            "gap_deg": self.gap_deg if self.turned_deg >= WHOLE_DEG else None,
            "of": f"sweep-{self.lobe}",
            "turned": round(self.turned_deg),
            "whole": self.is_complete,
            "back": self.back,
            "backward": self.backward and not self.back,
            "gaps": self.gaps,
            "points": [[round(each.deg, 1), round(each.mm, 3)] for each in self.points()],
        }


def _folded(deg: float, about_deg: float) -> float:
    """An angle within one cycle about another."""
    return deg - WHOLE_DEG * round((deg - about_deg) / WHOLE_DEG)


# One valve is passed once this much of its base circle was seen on either side, degrees, of which the outer half counts: a lobe
# has ramps. It begins above so much, mm, and its base is the same on both sides to so much.
BASE_DEG, LIFTED_MM, BASE_DRIFT_MM = 20.0, 0.1, 0.05


@dataclass(frozen=True)
class Passed:
    """One valve that was passed over: its greatest lift, mm, and where it rose and fell through the checking lift, encoder degrees.

    Each with the line that it came by.
    """

    lift: Pair
    opens: Pair
    closes: Pair


@dataclass
class ValveSweep(Sweeping):
    """One valve passed over once, from base circle to base circle; `number` is which."""

    number: int = 0

    @property
    def title(self) -> str:
        """What is read, in words."""
        return f"valve {(self.number + 1) // 2} {self.lobe}"

    def _passed(self) -> tuple[int, int, int] | None:
        """The pairs where it leaves the base circle, is highest, and is back; None before it was passed."""
        pairs = self.forward()
        if len(pairs) < FEWEST:
            return None
        top = max(range(len(pairs)), key=lambda k: pairs[k].mm)
        base = min(each.mm for each in pairs)
        if pairs[top].mm - base < LEAST_NOSE_MM:
            return None
        lifted = base + LIFTED_MM
        rose = next((k for k in range(top, -1, -1) if pairs[k].mm < lifted), None)
        fell = next((k for k in range(top, len(pairs)) if pairs[k].mm < lifted), None)
        if rose is None or fell is None:
            return None
        if pairs[rose].deg - pairs[0].deg < BASE_DEG or pairs[-1].deg - pairs[fell].deg < BASE_DEG:
            return None
        return rose, top, fell

    @property
    def is_complete(self) -> bool:
        """Whether the valve was passed from base circle to base circle."""
        return self._passed() is not None

    def read(self, check_lift_mm: float) -> Passed:
        """What the pass comes to, lifts from the base circle on either side of it.

        Parameters
        ----------
        check_lift_mm
            Lift at which it opens and closes.

        Raises
        ------
        InvalidInput
            When it was not passed whole, or the dial did not come back to its base circle.
        """
        passed, pairs = self._passed(), self.forward()
        if passed is None:
            raise InvalidInput("what", "valve-swept-short")
        rose, top, fell = passed
        sides = (
            [each.mm for each in pairs if BASE_DEG / 2 <= pairs[rose].deg - each.deg <= BASE_DEG],
            [each.mm for each in pairs if BASE_DEG / 2 <= each.deg - pairs[fell].deg <= BASE_DEG],
        )
        if not all(sides):
            raise InvalidInput("what", "valve-swept-fast")
        before, after = (median(side) for side in sides)
        if abs(after - before) > BASE_DRIFT_MM:
            raise InvalidInput("what", "valve-base-moved", drift_mm=after - before)
        base = (before + after) / 2
        peak = pairs[top]
        opens = _through(pairs[rose : top + 1], base + check_lift_mm)
        closes = _through(pairs[top : fell + 1], base + check_lift_mm)
        if opens is None or closes is None:
            raise InvalidInput("what", "valve-swept-short")
        if max(after.deg - before.deg for before, after in pairwise(pairs[rose : fell + 1])) > GAP_DEG:
            raise InvalidInput("what", "valve-swept-fast")
        return Passed(Pair(peak.deg, peak.mm - base, peak.raw), opens, closes)

    def progress(self) -> dict[str, Any]:
        """How far it has come, for the page that watches it."""
        return super().progress() | {"of": f"sweep-valve-{self.number}", "valve": True}


def _through(flank: list[Pair], mm: float) -> Pair | None:
    """Where a flank passes a lift, in proportion between the two figures about it."""
    for one, other in pairwise(flank):
        if min(one.mm, other.mm) <= mm <= max(one.mm, other.mm) and one.mm != other.mm:
            return Pair(one.deg + (other.deg - one.deg) * (mm - one.mm) / (other.mm - one.mm), mm, other.raw)
    return None
