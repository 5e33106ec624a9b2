"""A sweep as it comes: the crank turned slowly by hand, an encoder and a dial on a lobe read together."""

from dataclasses import dataclass
from typing import Any

from uranograph.instruments.paired import Pair, Paired

WHOLE_DEG = 720.0
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
    def is_complete(self) -> bool:
        """Whether two turns were swept; backward, whether it came down from the nose to the base circle again."""
        if not self.back:
            return self.turned_deg >= WHOLE_DEG
        taken = self.backward_pairs()
        peak = max((each.mm for each in taken), default=0.0)
        return peak > LEAST_NOSE_MM and all(each.mm < BACK_SHARE * peak for each in (taken[0], taken[-1]))

    def points(self) -> list[Pair]:
        """Readings that are kept: those nearest to each step, from where the lobe begins to where it ends.

        None is made up: each was read as it stands.
        """
        pairs = self.backward_pairs() if self.back else self.forward()
        if len(pairs) < FEWEST:
            return []
        peak = max(pairs, key=lambda each: each.mm)
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
            "of": f"sweep-{self.lobe}",
            "turned": round(self.turned_deg),
            "whole": self.is_complete,
            "back": self.back,
            "backward": self.backward and not self.back,
            "gaps": self.gaps,
            "points": [[round(each.deg, 1), round(each.mm, 3)] for each in self.points()],
        }
