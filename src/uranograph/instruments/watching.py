"""A dial watched while what it stands on goes round once: its least and its greatest."""

import threading
from dataclasses import dataclass, field
from typing import Any

from uranograph.instruments.hub import Point


@dataclass
class TravelWatch:
    """The travel of a dial from when it is begun to be watched.

    Parameters
    ----------
    length
        Name of the dial.
    band_mm
        Within which it is back where it began.

    Examples
    --------
    >>> watch = TravelWatch("D1")
    >>> for k, mm in enumerate((0.00, 0.05, -0.02, 0.001)):
    ...     watch.take("D1", Point(float(k), mm, ""))
    >>> round(watch.travel_mm, 3), watch.is_back
    (0.07, True)
    """

    length: str
    band_mm: float = 0.004
    raw: str = ""
    _first: float | None = None
    _last: float = 0.0
    _least: float = 0.0
    _most: float = 0.0
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def take(self, name: str, point: Point) -> None:
        """Take a figure of an instrument as it comes."""
        if name != self.length:
            return
        with self._lock:
            if self._first is None:
                self._first = self._least = self._most = point.value
            self._least, self._most = min(self._least, point.value), max(self._most, point.value)
            self._last, self.raw = point.value, point.raw

    @property
    def travel_mm(self) -> float | None:
        """Greatest less least; None before anything came."""
        return None if self._first is None else self._most - self._least

    @property
    def is_back(self) -> bool:
        """Whether it shows again what it showed first."""
        return self._first is not None and abs(self._last - self._first) <= 2 * self.band_mm

    def progress(self) -> dict[str, Any]:
        """How far it has come, for the page that watches it."""
        return {"of": "watch", "travel": self.travel_mm, "back": self.is_back, "raw": self.raw}
