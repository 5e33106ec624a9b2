"""A sweep as it comes: the crank turned slowly by hand, an encoder and a dial read together, forward alone."""

import threading
from dataclasses import dataclass, field

from uranograph.instruments.hub import Point

# Both instruments are read together when their figures came within this of each other, s.
TOGETHER_S = 0.06
# A turn backward of more than this is seen as such; a step forward wider than this is a gap, degrees.
BACKWARD_DEG, GAP_DEG = 0.5, 4.0
WHOLE_DEG = 720.0
# So far to each side of its greatest lift a lobe is kept, degrees; and where it begins, as a share of that lift.
ASIDE_DEG, BEGINS = 175.0, 0.004
MARGIN_DEG = 8.0
FEWEST = 12


@dataclass(frozen=True)
class Pair:
    """An angle on the encoder, unwrapped, degrees, and the dial there, mm, with the line it came by."""

    deg: float
    mm: float
    raw: str


@dataclass
class Sweeping:
    """One lobe being swept.

    Parameters
    ----------
    lobe
        `intake` or `exhaust`.
    angle, length
        Names of the encoder and of the dial.
    step_deg
        Of the points that are kept.
    """

    lobe: str
    angle: str
    length: str
    step_deg: float = 2.0
    pairs: list[Pair] = field(default_factory=list)
    backward: bool = False
    gaps: int = 0
    _last: Point | None = None
    _lift: Point | None = None
    _deg: float | None = None
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def take(self, name: str, point: Point) -> None:
        """Take a figure of an instrument as it comes."""
        with self._lock:
            if name == self.angle:
                self._turned(point)
            elif name == self.length and self._length_first(point):
                self._pair(point.value, point.raw)
            if name == self.length:
                self._lift = point

    def _length_first(self, point: Point) -> bool:
        return self._last is not None and abs(point.at_s - self._last.at_s) <= TOGETHER_S

    def _turned(self, point: Point) -> None:
        before, self._last = self._deg, point
        if before is None:
            self._deg = point.value
        else:
            self._deg = before + (point.value - before + 180) % 360 - 180
        lift = self._lift
        if lift is not None and lift.raw == point.raw:
            # One line with both on it, the dial first.
            self._pair(lift.value, point.raw)

    def _pair(self, mm: float, raw: str) -> None:
        deg = self._deg
        if deg is None:
            return
        newest = self.pairs[-1].deg if self.pairs else None
        if newest is not None and deg < newest - BACKWARD_DEG:
            self.backward = True
        if newest is not None and deg <= newest:
            return
        self.backward = False
        if newest is not None and deg - newest > GAP_DEG:
            self.gaps += 1
        self.pairs.append(Pair(deg, mm, raw))

    @property
    def turned_deg(self) -> float:
        """How far it was turned forward, degrees."""
        return self.pairs[-1].deg - self.pairs[0].deg if self.pairs else 0.0

    @property
    def is_whole(self) -> bool:
        """Whether two turns were swept."""
        return self.turned_deg >= WHOLE_DEG

    def points(self) -> list[Pair]:
        """Readings that are kept: those nearest to each step, from where the lobe begins to where it ends.

        None is made up: each was read as it stands.
        """
        with self._lock:
            pairs = list(self.pairs)
        if len(pairs) < FEWEST:
            return []
        peak = max(pairs, key=lambda each: each.mm)
        near = [each for each in pairs if abs(each.deg - peak.deg) <= ASIDE_DEG]
        lifted = [each.deg for each in near if each.mm > max(0.02, BEGINS * peak.mm)]
        if not lifted:
            # Still on the base circle.
            return []
        low, high = min(lifted) - MARGIN_DEG, max(lifted) + MARGIN_DEG
        nearest: dict[int, Pair] = {}
        for each in near:
            if not low <= each.deg <= high:
                continue
            k = round(each.deg / self.step_deg)
            kept = nearest.get(k)
            if kept is None or abs(each.deg - k * self.step_deg) < abs(kept.deg - k * self.step_deg):
                nearest[k] = each
        return [nearest[k] for k in sorted(nearest)]
