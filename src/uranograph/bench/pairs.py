"""Readings that belong two by two: before and after."""

import re
from dataclasses import dataclass

from uranograph.bench.job import Reading
from uranograph.core.quantities import parse_length

# Beside the readings of any station: why it is passed over, pictures, and that something was changed.
ASIDE = r"skip\.[0-9]{1,4}\.said|photo\.[0-9]{1,4}\.taken|anew\.[0-9]{1,4}\.said"
# Every slot a station has a reading for: kind, number, place.
SLOTS = {
    "engine": ASIDE,
    "card": ASIDE,
    "runout": r"set-[1-9]\.[0-9]{1,4}\.dial",
    "choice": r"(seat|camseat|journals|center|chosen)\.[0-9]{1,4}\.seen",
    "end-play": r"(crank|cam|idler)\.[0-9]{1,4}\.(blade|travel)|fitted-(crank|cam|idler)\.[0-9]{1,4}\.seen",
    "setting": (
        r"(shims-(crank|cam|idler))\.[0-9]{1,4}\.fitted|(spacer|plate)-(crank|cam|idler)\.[0-9]{1,4}\.thickness"
        r"|cheek-(crank|cam|idler)\.[0-9]{1,4}\.(front|rear)"
    ),
    "gear-fit": (
        r"(bearing|ring|keytried|plate|rehearsed|paint|marks|pattern|key|free|turns|locker)\.[0-9]{1,4}\.seen"
        r"|torque-[0-9]-[0-9]{1,2}\.[0-9]{1,4}\.pulled"
    ),
    "lobe-room": r"lobe-[0-9]{1,2}\.[0-9]{1,4}\.gap",
    "train": ASIDE,
    "wheel": ASIDE,
    "marks": (
        r"(mesh|key|pin|top)-[0-9]{1,2}\.[0-9]{1,4}\.seen|(order|paint|turned|back|proof-overlap|proof-firing)\.[0-9]{1,4}\.seen"
        r"|keyway-(crank|cam)\.[0-9]{1,4}\.level|split\.[0-9]{1,4}\.(intake|exhaust|intake-on|exhaust-on)"
        r"|set-[0-9]{1,2}\.[0-9]{1,4}\.tried|again\.[0-9]{1,4}\.lift"
    ),
    "backlash": r"place\.[0-9]{1,4}\.travel",
    "sprocket": r"(driver|driven)\.[0-9]{1,4}\.depth",
    "tdc": r"moved|left|(stop|drop)\.[0-9]{1,4}\.(before|after)",
    "degree": (
        r"(intake|exhaust)\.[0-9]{1,4}\.(before|after)|(io|ic|eo|ec)\.[0-9]{1,4}\.(forward|backward)"
        r"|sweep-(intake|exhaust)\.[0-9]{1,4}\.point|overlap-(intake|exhaust)\.[0-9]{1,4}\.lift"
    ),
    "adjust": r"try(-intake|-exhaust)?\.[0-9]{1,4}\.chosen",
}


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
        return next((reading.drop for reading in self.readings), None)

    @property
    def drop_mm(self) -> float | None:
        """The drop, mm, in the unit it was typed in."""
        return next((parse_length(r.drop, r.unit) for r in self.readings if r.drop), None)

    @property
    def missing(self) -> str | None:
        if self.before is None:
            return "before"
        return "after" if self.after is None else None


def has_slot(station: str, slot: str) -> bool:
    """Whether a station has such a slot.

    Examples
    --------
    >>> has_slot("tdc", "stop.1.before"), has_slot("tdc", "intake.1.before")
    (True, False)
    """
    return station in SLOTS and re.fullmatch(f"{SLOTS[station]}|{ASIDE}", slot) is not None


def slot_of(kind: str, number: int, place: str) -> str:
    """Name a place in a pair.

    Examples
    --------
    >>> slot_of("intake", 1, "before")
    'intake.1.before'
    """
    return f"{kind}.{number}.{place}"


def parts_of(slot: str) -> tuple[str, int, str]:
    """Take a slot's name apart: the inverse of `slot_of`.

    Examples
    --------
    >>> parts_of("intake.1.before")
    ('intake', 1, 'before')
    """
    kind, number, place = slot.split(".")
    return kind, int(number), place


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
        kind, number, place = parts_of(reading.slot)
        held.setdefault((kind, number), {})[place] = reading
    ordered = sorted(held.items(), key=lambda item: item[0][1])
    return [Pair(kind, number, places.get("before"), places.get("after")) for (kind, number), places in ordered]
