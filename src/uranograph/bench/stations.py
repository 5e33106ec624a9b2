"""The stations in working order."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache

from uranograph.bench import adjust, card, degree, drive, engine, rules, tdc, wheel
from uranograph.bench.finding import Finding, Prompt, worst
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.place import KEY as DEGREE


@dataclass(frozen=True)
class Station:
    """A place at the bench: its name, what it finds, and how it takes a sheet or readings."""

    key: str
    title: str
    group: str
    find: Callable[[Job], Finding]
    sheet_fields: tuple[str, ...] = ()
    prompt: Callable[[Job, Mapping[str, str]], Prompt | None] | None = None
    accept: Callable[[Job, Entry], None] | None = None
    describe: Callable[[Reading], str] | None = None


STATIONS = (
    Station("engine", "Engine", "Receive", lambda job: engine.find(job.engine), engine.FIELDS),
    Station("card", "Spec card", "Receive", lambda job: card.find(job.card_sheet), card.FIELDS),
    Station("wheel", "Wheel", "Find top", lambda job: wheel.find(job.wheel_sheet), wheel.FIELDS),
    Station(tdc.KEY, "True TDC", "Find top", tdc.find, prompt=tdc.prompt, accept=tdc.accept, describe=tdc.describe),
    Station(
        DEGREE,
        "Intake and exhaust",
        "Degree",
        degree.find,
        prompt=degree.prompt,
        accept=degree.accept,
        describe=degree.describe,
    ),
    Station(adjust.KEY, "Adjust", "Degree", adjust.find, accept=adjust.accept, describe=adjust.describe),
)
BY_KEY = {station.key: station for station in STATIONS}
# Every sheet a job can hold: what it is called and its fields. The last two belong to a station without being one.
SHEETS = {
    **{station.key: (station.title.lower(), station.sheet_fields) for station in STATIONS if station.sheet_fields},
    "drive": ("drive", drive.FIELDS),
    "rules": ("tolerance", rules.FIELDS),
}


@lru_cache(maxsize=256)
def overview(job: Job) -> dict[str, Finding]:
    """Every station's finding, in working order."""
    return {station.key: station.find(job) for station in STATIONS}


def where_it_stands(findings: dict[str, Finding]) -> tuple[Station, Finding]:
    """The first station that is not done, or the last; and its finding."""
    for station in STATIONS:
        if findings[station.key].state != "in":
            return station, findings[station.key]
    return STATIONS[-1], findings[STATIONS[-1].key]


def worst_finding(findings: dict[str, Finding]) -> Finding:
    """The finding that most needs a person."""
    return worst(list(findings.values()))


def describe(reading: Reading) -> str:
    """Say in words what a reading was of."""
    station = BY_KEY[reading.station]
    return station.describe(reading) if station.describe else reading.slot
