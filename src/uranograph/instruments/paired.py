"""An encoder and a dial read together while a shaft is turned by hand: pairs as they come."""

import threading
from dataclasses import dataclass, field

from uranograph.instruments.hub import Point

# A dial between two figures of the encoder that are no further apart than this has an angle of its own, s.
TOGETHER_S = 0.15
# A turn backward of more than this is seen as such; a step forward wider than this is a gap, degrees.
BACKWARD_DEG, GAP_DEG = 0.5, 4.0
# Pairs that are kept of one turning; whoever forgets to end it fills no memory.
MAX_PAIRS = 20_000


@dataclass(frozen=True)
class Pair:
    """An angle on the encoder, unwrapped, degrees, and the dial there, mm, with the line that the dial came by."""

    deg: float
    mm: float
    raw: str


@dataclass
class Paired:
    """Pairs of an encoder and a dial.

    Both on one line are one pair. On lines of their own, the angle is that between the encoder's figures before and after the
    dial's, in proportion to the time.

    Parameters
    ----------
    angle, length
        Names of the encoder and of the dial.

    Attributes
    ----------
    lines
        All lines that came, with their times, for a capture.
    """

    angle: str
    length: str
    pairs: list[Pair] = field(default_factory=list)
    behind: list[Pair] = field(default_factory=list)
    backward: bool = False
    gaps: int = 0
    lines: list[tuple[float, str]] = field(default_factory=list)
    _seen: Point | None = None
    _waiting: Point | None = None
    _deg: float = 0.0
    _newest_deg: float | None = None
    _lock: threading.Lock = field(default_factory=threading.Lock)

    @property
    def title(self) -> str:
        """What is read, in words."""
        return "a turn"

    def take(self, name: str, point: Point) -> None:
        """Take a figure of an instrument as it comes."""
        with self._lock:
            if name in (self.angle, self.length):
                self._note_line(point)
            if name == self.angle:
                self._turned(point)
            elif name == self.length and self._seen is not None and self._seen.raw == point.raw:
                self._pair(self._deg, point)
            elif name == self.length:
                self._waiting = point

    def _note_line(self, point: Point) -> None:
        """Keep the line; both figures of one line are one."""
        line = (point.at_s, point.raw)
        if len(self.lines) < MAX_PAIRS and (not self.lines or self.lines[-1] != line):
            self.lines.append(line)

    def _turned(self, point: Point) -> None:
        before, from_deg = self._seen, self._deg
        turned = 0.0 if before is None else (point.value - before.value + 180) % 360 - 180
        self._seen, self._deg = point, point.value if before is None else from_deg + turned
        waiting, self._waiting = self._waiting, None
        if waiting is None:
            return
        if waiting.raw == point.raw:
            self._pair(self._deg, waiting)
        elif before is not None and before.at_s <= waiting.at_s and point.at_s - before.at_s <= TOGETHER_S:
            share = (waiting.at_s - before.at_s) / max(1e-9, point.at_s - before.at_s)
            self._pair(from_deg + share * turned, waiting)

    def _pair(self, deg: float, point: Point) -> None:
        found = Pair(deg, point.value, point.raw)
        newest = self.pairs[-1].deg if self.pairs else None
        if self._newest_deg is not None and deg < self._newest_deg and len(self.behind) < MAX_PAIRS:
            self.behind.append(found)
        self._newest_deg = deg
        if newest is not None and deg < newest - BACKWARD_DEG:
            self.backward = True
        if (newest is not None and deg <= newest) or len(self.pairs) >= MAX_PAIRS:
            return
        self.backward = False
        if newest is not None and deg - newest > GAP_DEG:
            self.gaps += 1
        self.pairs.append(found)

    @property
    def turned_deg(self) -> float:
        """How far it was turned forward, degrees."""
        return self.pairs[-1].deg - self.pairs[0].deg if self.pairs else 0.0

    def forward(self) -> list[Pair]:
        """Pairs that were taken turning forward, so far."""
        with self._lock:
            return list(self.pairs)

    def backward_pairs(self) -> list[Pair]:
        """Pairs that were taken turning backward, so far."""
        with self._lock:
            return list(self.behind)
