"""One bench hand of the demo shop, writing as a user would."""

from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from uranograph.bench.checks import PLACE
from uranograph.bench.log import Entry
from uranograph.bench.slots import slot_of
from uranograph.core.quantities import LengthUnit, parse_length
from uranograph.demo.true_engine import TrueEngine
from uranograph.phase import offers
from uranograph.shop import asides, jobs, loading
from uranograph.stations import ORDER


class DemoBuilder:
    """One bench hand writing to one job, a minute a reading."""

    def __init__(self, session: Session, key: str, by: str, unit: LengthUnit, at: datetime) -> None:
        self.session, self.key, self.by, self.unit, self.at = session, key, by, unit, at

    def form(self, kind: str, typed: dict[str, str], minutes: float = 3) -> None:
        self.at += timedelta(minutes=minutes)
        jobs.save_form(self.session, self.key, kind, typed, self.by, at=self.at)

    def read(
        self, station: str, slot: str, text: str, side: str | None = None, second: str | None = None, **more: str
    ) -> None:
        self.at += timedelta(seconds=40)
        entry = Entry(station, slot, text, side, more.get("approach", "forward"), second, self.unit)
        jobs.record(self.session, self.key, entry, self.by, None, None, self.at)

    def next(self, station: str, kind: str) -> int:
        """The number of the next reading of a kind."""
        return loading.load(self.session, self.key).next_number(station, kind)

    def choose(self, number: int, cam: str = "both") -> None:
        self.at += timedelta(minutes=6)
        act = offers.act_of(loading.load(self.session, self.key), cam, number)
        jobs.move(self.session, self.key, act, self.by, None, None, self.at)

    def look(self, kind: str, answer: str, station: str = "marks") -> None:
        """Answer an inspection as the bench would ask for it."""
        self.at += timedelta(seconds=50)
        number = loading.load(self.session, self.key).next_number(station, kind)
        entry = Entry(station, slot_of(kind, number, PLACE), answer, unit=self.unit)
        entry = ORDER.by_key[station].label_entry(loading.load(self.session, self.key), entry)
        jobs.record(self.session, self.key, entry, self.by, None, None, self.at)

    def tick(self, at: datetime, station: str, slot: str) -> None:
        """Say that something was begun or done, as it happens."""
        self.at = at
        entry = Entry(station, slot, "now", unit=self.unit)
        entry = ORDER.by_key[station].label_entry(loading.load(self.session, self.key), entry)
        jobs.record(self.session, self.key, entry, self.by, None, None, self.at)

    def pass_over(self, reason: str, *stations: str) -> None:
        self.at += timedelta(seconds=30)
        asides.skip(self.session, self.key, list(stations), reason, self.by, self.at)

    def done(self, station: str, kind: str, what: str = "") -> None:
        """Say what was done to engine or set-up."""
        self.at += timedelta(minutes=25)
        asides.act(self.session, self.key, station, kind, what, self.by, at=self.at)

    def void_last(self, station: str, reason: str) -> None:
        last = loading.load(self.session, self.key).active_readings(station)[-1]
        jobs.void(self.session, self.key, last.id, reason, self.by, self.at)

    def equal_lifts(self, truth: TrueEngine, lobe: str, drop: str) -> None:
        number = loading.load(self.session, self.key).next_number("degree", lobe)
        for place in ("before", "after"):
            shown = truth.at_drop(lobe, parse_length(drop, self.unit), place)
            self.read("degree", slot_of(lobe, number, place), *shown, second=drop)
