"""Who looks at which job, and where: for as long as their pages keep a line open."""

import itertools
from dataclasses import dataclass


@dataclass(frozen=True)
class Onlooker:
    """One page: whose, of which job, at which station, and what is being typed there."""

    by: str
    job: str
    station: str
    holds: str = ""


class Presence:
    """Pages that are open now. All of it is forgotten when the server ends."""

    def __init__(self) -> None:
        self._numbers = itertools.count(1)
        self._pages: dict[int, Onlooker] = {}
        self.version = 0

    def enter(self, by: str, job: str, station: str) -> int:
        """A page was opened; answers its number."""
        number = next(self._numbers)
        self._pages[number] = Onlooker(by, job, station)
        self.version += 1
        return number

    def leave(self, number: int) -> None:
        """A page was closed."""
        if self._pages.pop(number, None) is not None:
            self.version += 1

    def hold(self, by: str, job: str, station: str, slot: str) -> None:
        """Say which question somebody is answering, or none: it goes by itself with the page."""
        for number, each in list(self._pages.items()):
            if (each.by, each.job, each.station) == (by, job, station):
                self._pages[number] = Onlooker(by, job, station, slot)
                self.version += 1

    def at(self, job: str) -> list[Onlooker]:
        """Pages of one job."""
        return [each for each in self._pages.values() if each.job == job]

    def every(self) -> list[Onlooker]:
        """All pages."""
        return list(self._pages.values())
