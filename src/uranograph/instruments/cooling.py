"""A heated part on its way: a thermometer on it, its curve, and when it grips."""

import threading
from collections import deque
from dataclasses import dataclass, field
from typing import Any

from uranograph.core.cooling import forecast
from uranograph.instruments.hub import Point

# So much of the curve counts: the air about it changes when it is carried.
WINDOW_S, EVERY_S = 60.0, 0.5


@dataclass
class CoolingWatch:
    """A part that cools.

    Parameters
    ----------
    temperature
        Name of the thermometer.
    ambient_c, grips_c
        Of the air, and where the part grips, C.
    """

    temperature: str
    ambient_c: float
    grips_c: float
    _points: "deque[tuple[float, float]]" = field(default_factory=deque)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def take(self, name: str, point: Point) -> None:
        """Take a figure of an instrument as it comes."""
        if name != self.temperature:
            return
        with self._lock:
            if self._points and point.at_s - self._points[-1][0] < EVERY_S:
                return
            if self._points and point.value > self._points[-1][1] + 1.0:
                # It is heated again.
                self._points.clear()
            self._points.append((point.at_s, point.value))
            while self._points[0][0] < point.at_s - WINDOW_S:
                self._points.popleft()

    def left_s(self) -> float | None:
        """Seconds until it grips; None where that cannot be told yet."""
        with self._lock:
            points = list(self._points)
        return forecast(points, self.ambient_c, self.grips_c)

    def progress(self) -> dict[str, Any]:
        """Its curve, and when it grips, for the page that watches it."""
        with self._lock:
            points = list(self._points)
        left = self.left_s()
        return {
            "of": "cool",
            "whole": False,
            "now": round(points[-1][1], 1) if points else None,
            "grips": round(self.grips_c, 1),
            "left": None if left is None else round(left),
            "points": [[round(at - points[0][0], 1), round(c, 1)] for at, c in points],
        }
