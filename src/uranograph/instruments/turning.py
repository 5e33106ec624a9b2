"""One turn of a shaft as it comes: an encoder on it, a dial on its seat, and how it runs."""

from dataclasses import dataclass
from typing import Any

from uranograph.core.errors import InvalidInput
from uranograph.core.runout import Runout, RunoutInput, RunoutReading, runout
from uranograph.instruments.paired import Pair, Paired

TURN_DEG = 360.0
FEWEST = 6


@dataclass
class Turning(Paired):
    """A turn read at so many places, and at the first of them again."""

    places: int = 8

    @property
    def is_complete(self) -> bool:
        """Whether it is back where it began."""
        return self.turned_deg >= TURN_DEG

    def points(self) -> list[Pair]:
        """The reading nearest to each place that was passed, degrees from the first; each was read as it stands."""
        pairs = self.forward()
        if not pairs:
            return []
        begun, step = pairs[0].deg, TURN_DEG / self.places
        found = []
        for k in range(self.places + 1):
            nearest = min(pairs, key=lambda each: abs(each.deg - begun - k * step))
            if abs(nearest.deg - begun - k * step) <= step / 8:
                found.append(Pair(nearest.deg - begun, nearest.mm, nearest.raw))
        return found

    def found(self) -> Runout | None:
        """How the shaft runs by all that was read of it so far; None before that can be told."""
        pairs = self.forward()
        if len(pairs) < FEWEST or self.turned_deg < TURN_DEG / 2:
            return None
        every = max(1, len(pairs) // 500)
        given = [RunoutReading(position_deg=each.deg - pairs[0].deg, value_mm=each.mm) for each in pairs[::every]]
        try:
            return runout(RunoutInput(readings=given))
        except InvalidInput:
            return None

    def progress(self) -> dict[str, Any]:
        """How far it has come, for the page that watches it."""
        found = self.found()
        harmonics = None
        if found is not None:
            harmonics = [
                round(found.total_indicated_mm, 4),
                round(found.high_spot_deg % 360),
                round(found.ovality_mm or 0, 4),
            ]
        pairs = self.forward()
        every = max(1, len(pairs) // 180)
        return {
            "of": "turn",
            "turned": round(self.turned_deg),
            "whole": self.is_complete,
            "backward": self.backward,
            "gaps": self.gaps,
            "harmonics": harmonics,
            "points": [[round(each.deg, 1), round(each.mm, 4)] for each in pairs[::every]],
        }
