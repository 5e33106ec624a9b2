"""Readings that belong two by two: before and after."""

from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.slots import spot_of
from uranograph.core.quantities import parse_length


@dataclass(frozen=True)
class Pair:
    """One pair in the making. `kind` is the method at TDC, the lobe at degreeing."""

    kind: str
    number: int
    before: Reading | None = None
    after: Reading | None = None

    @property
    def complete(self) -> bool:
        return self.before is not None and self.after is not None

    @property
    def readings(self) -> list[Reading]:
        return [reading for reading in (self.before, self.after) if reading is not None]

    @property
    def drop(self) -> str | None:
        """The drop as typed with the first reading of the pair."""
        return next((reading.second for reading in self.readings), None)

    @property
    def drop_mm(self) -> float | None:
        """The drop, mm, in the unit it was typed in."""
        return next((parse_length(r.second, r.unit) for r in self.readings if r.second), None)

    @property
    def missing(self) -> str | None:
        if self.before is None:
            return "before"
        return "after" if self.after is None else None


def pairs_of(readings: list[Reading]) -> list[Pair]:
    """Put standing readings together, in order of number.

    Parameters
    ----------
    readings
        Readings in slots named by `slot_of`.

    Returns
    -------
    list
        One pair for each kind and number seen.
    """
    held: dict[tuple[str, int], dict[str, Reading]] = {}
    for reading in readings:
        kind, number, place = reading.spot
        held.setdefault((kind, number), {})[place] = reading
    ordered = sorted(held.items(), key=lambda item: item[0][1])
    return [Pair(kind, number, places.get("before"), places.get("after")) for (kind, number), places in ordered]


def pair_in(job: Job, station: str, slot: str) -> Pair | None:
    """The pair that a slot belongs to, where one of its readings is taken."""
    kind, number, _ = spot_of(slot)
    pairs = pairs_of([r for r in job.active_readings(station) if r.spot.place in ("before", "after")])
    return next((pair for pair in pairs if (pair.kind, pair.number) == (kind, number)), None)
