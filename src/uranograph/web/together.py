"""Two people at one reading: one reads the wheel, the other the dial, each at a page of their own; matched by their being now."""

import time
from collections.abc import Callable
from dataclasses import dataclass

from uranograph.shop.lengths import MAX_LENGTH

# What belongs together is passed on within this, s.
NOW_S = 20.0
# The two halves of a reading, and a word that the dial is where the wheel is to be read.
WHEEL, DIAL, NOW = "text", "second", "now"
OTHER = {WHEEL: DIAL, DIAL: WHEEL}
MAX_TEXT = 32


@dataclass(frozen=True)
class Passed:
    """Half a reading, or *now*, as one person passed it on to the others at the job."""

    by: str
    slot: str
    what: str
    text: str
    side: str
    at_s: float


class Together:
    """Halves of readings that wait for their other half. All of it is forgotten when the server ends."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self.clock = clock
        self._passed: dict[str, list[Passed]] = {}

    def pass_on(self, job: str, by: str, slot: str, what: str, text: str, side: str) -> Passed | None:
        """Pass something on to whoever else is at a job.

        Parameters
        ----------
        job, by, slot
            Where, who, and what reading it is of.
        what
            `text`, what the wheel reads; `second`, what the dial reads; or `now`.
        text, side
            As typed.

        Returns
        -------
        Passed or None
            The other half, where somebody else passed that on just before: then both are taken, and wait no more.
        """
        there = self.of(job)
        other = next(
            (each for each in there if each.slot == slot and each.by != by and each.what == OTHER.get(what)), None
        )
        kept = [each for each in there if (each.slot, each.by, each.what) != (slot, by, what)]
        if other is None:
            kept.append(Passed(by, slot, what, text[:MAX_TEXT], side[:MAX_TEXT], self.clock()))
        else:
            kept.remove(other)
        self._passed[job] = kept
        return other

    def of(self, job: str) -> list[Passed]:
        """What was passed on at a job and still is now."""
        found = [each for each in self._passed.get(job, ()) if self.clock() - each.at_s <= NOW_S]
        if found:
            self._passed[job] = found
        else:
            self._passed.pop(job, None)
        return found


def both(by: str, other: str) -> str:
    """The initials of two people who took one reading; of the one who recorded it alone where both are too long.

    Examples
    --------
    >>> both("RK", "TN"), both("RK", ""), both("RK", "RK"), both("KARST", "NOVAK")
    ('RK+TN', 'RK', 'RK', 'KARST')
    """
    if not by or not other or other == by:
        return by
    together = f"{by}+{other}"
    return together if len(together) <= MAX_LENGTH["by"] else by
