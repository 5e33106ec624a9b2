"""A part rocked or pushed between two stops, a dial on it: its travel, from where it rests to where it rests."""

import threading
from collections import deque
from dataclasses import dataclass, field
from statistics import fmean, median
from typing import Any

from uranograph.instruments.hub import Point

# It rests where the dial stays within a band for so long; so often it is rocked, and so well the last ones agree, in bands.
HOLD_S, TIMES, AGREE = 0.25, 3, 4
FEWEST = 3


@dataclass
class Rocking:
    """Travel between the places where a part comes to rest.

    Parameters
    ----------
    length
        Name of the dial.
    band_mm
        Within which it rests.
    """

    length: str
    band_mm: float = 0.004
    rests: list[float] = field(default_factory=list)
    raw: str = ""
    _recent: "deque[Point]" = field(default_factory=deque)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def take(self, name: str, point: Point) -> None:
        """Take a figure of an instrument as it comes."""
        if name != self.length:
            return
        with self._lock:
            self._recent.append(point)
            while len(self._recent) > 1 and self._recent[1].at_s <= point.at_s - HOLD_S:
                self._recent.popleft()
            values = [each.value for each in self._recent]
            held = point.at_s - self._recent[0].at_s >= HOLD_S and len(values) >= FEWEST
            if held and max(values) - min(values) <= self.band_mm:
                self._rested(fmean(values), point.raw)

    def _rested(self, mm: float, raw: str) -> None:
        rests = self.rests
        if rests and abs(mm - rests[-1]) <= 2 * self.band_mm:
            return
        self.raw = raw
        if len(rests) > 1 and (mm - rests[-1]) * (rests[-1] - rests[-2]) > 0:
            # It rested on the way, and went on: the end counts.
            rests[-1] = mm
        else:
            rests.append(mm)

    def travels(self) -> list[float]:
        """How far it went, there and back, mm."""
        with self._lock:
            return [abs(after - before) for before, after in zip(self.rests, self.rests[1:], strict=False)]

    @property
    def is_complete(self) -> bool:
        """Whether it was rocked often enough, and went as far the last times."""
        last = self.travels()[-TIMES:]
        return len(self.travels()) >= 2 * TIMES - 1 and max(last) - min(last) <= AGREE * self.band_mm

    @property
    def travel_mm(self) -> float | None:
        """The middle one of the last travels; None before it was rocked."""
        last = self.travels()[-TIMES:]
        return float(median(last)) if last else None

    def progress(self) -> dict[str, Any]:
        """How far it has come, for the page that watches it."""
        return {
            "of": "rock",
            "times": (len(self.travels()) + 1) // 2,
            "whole": self.is_complete,
            "travel": self.travel_mm,
            "raw": self.raw,
        }
