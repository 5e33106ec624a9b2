"""The stations in working order."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from uranograph.bench import (
    adjust,
    backlash,
    card,
    choice,
    degree,
    drive,
    end_play,
    engine,
    faults,
    gear_fit,
    lobe_room,
    marks,
    rules,
    runout,
    setting,
    sprocket,
    tdc,
    train,
    wheel,
)
from uranograph.bench.finding import Finding, Prompt, Verdict, worst
from uranograph.bench.job import ANEW, PHOTO, SKIP, Entry, Job, Reading
from uranograph.bench.kept import kept
from uranograph.bench.place import KEY as DEGREE
from uranograph.bench.setup import Setup


@dataclass(frozen=True)
class Station:
    """A place at the bench: its name, what it finds, and how it takes a sheet or readings.

    Its finding is kept for as long as all that it asked of the job is as it was.
    """

    key: str
    title: str
    group: str
    find: Callable[[Job], Finding]
    sheet_fields: tuple[str, ...] = ()
    prompt: Callable[[Job, Mapping[str, str]], Prompt | None] | None = None
    accept: Callable[[Job, Entry], None] | None = None
    describe: Callable[[Reading], str] | None = None
    brief: Callable[[Reading], str] | None = None
    note: Callable[[Job, Entry], str | None] | None = None
    setup: Setup | None = None
    views: Callable[[Job], dict[str, str]] | None = None

    @property
    def takes(self) -> bool:
        """Whether it takes readings one by one, by the panel that all such stations share."""
        return self.prompt is not None and self.key not in (tdc.KEY, DEGREE)


STATIONS = (
    Station(
        "engine",
        "Engine",
        "Receive",
        lambda job: engine.find(job.engine),
        engine.FIELDS,
    ),
    Station(
        "card",
        "Spec card",
        "Receive",
        lambda job: card.find(job.card_sheet),
        card.FIELDS,
    ),
    Station(
        runout.KEY,
        "Runout",
        "Fit",
        runout.find,
        prompt=runout.prompt,
        accept=runout.accept,
        describe=runout.describe,
        brief=runout.brief,
        setup=runout.SETUP,
    ),
    Station(
        choice.KEY,
        "Drive choice",
        "Fit",
        choice.find,
        prompt=choice.prompt,
        accept=choice.accept,
        describe=choice.describe,
        setup=choice.SETUP,
    ),
    Station(
        end_play.KEY,
        "End play",
        "Fit",
        end_play.find,
        prompt=end_play.prompt,
        accept=end_play.accept,
        describe=end_play.describe,
        setup=end_play.SETUP,
        views=end_play.views,
    ),
    Station(
        setting.KEY,
        "Set the play",
        "Fit",
        setting.find,
        prompt=setting.prompt,
        accept=setting.accept,
        describe=setting.describe,
        setup=setting.SETUP,
        views=setting.views,
    ),
    Station(
        gear_fit.KEY,
        "Gear to cam",
        "Fit",
        gear_fit.find,
        prompt=gear_fit.prompt,
        accept=gear_fit.accept,
        describe=gear_fit.describe,
        brief=gear_fit.brief,
        setup=gear_fit.SETUP,
        views=gear_fit.views,
    ),
    Station(
        lobe_room.KEY,
        "Lobe room",
        "Fit",
        lobe_room.find,
        prompt=lobe_room.prompt,
        accept=lobe_room.accept,
        describe=lobe_room.describe,
        brief=lobe_room.brief,
    ),
    Station(
        train.KEY,
        "Gear train",
        "Mark",
        train.find,
        train.FIELDS,
    ),
    Station(
        marks.KEY,
        "Timing marks",
        "Mark",
        marks.find,
        prompt=marks.prompt,
        accept=marks.accept,
        describe=marks.describe,
        note=marks.note,
        views=marks.views,
    ),
    Station(
        backlash.KEY,
        "Backlash",
        "Mark",
        backlash.find,
        prompt=backlash.prompt,
        accept=backlash.accept,
        describe=backlash.describe,
        brief=backlash.brief,
        setup=backlash.SETUP,
    ),
    Station(
        sprocket.KEY,
        "Sprocket line",
        "Mark",
        sprocket.find,
        prompt=sprocket.prompt,
        accept=sprocket.accept,
        describe=sprocket.describe,
        setup=sprocket.SETUP,
    ),
    Station(
        "wheel",
        "Wheel",
        "Find top",
        lambda job: wheel.find(job.wheel_sheet),
        wheel.FIELDS,
    ),
    Station(
        tdc.KEY,
        "True TDC",
        "Find top",
        tdc.find,
        prompt=tdc.prompt,
        accept=tdc.accept,
        describe=tdc.describe,
    ),
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
# Every sheet a job can hold: what it is called and its fields. The later ones belong to a station without being one.
SHEETS = {
    **{station.key: (station.title.lower(), station.sheet_fields) for station in STATIONS if station.sheet_fields},
    **{station.setup.kind: (station.setup.title, station.setup.fields) for station in STATIONS if station.setup},
    "drive": ("drive", drive.FIELDS),
    "rules": ("tolerance", rules.FIELDS),
}


@kept
def overview(job: Job) -> dict[str, Finding]:
    """Every station's finding, in working order; one that is passed over says why."""
    return {station.key: _judged(job, station) for station in STATIONS}


def _judged(job: Job, station: Station) -> Finding:
    """A station's finding; where it cannot be judged, that and an id which the log has, so that all others still stand."""
    try:
        return _passed_over(job, station) or _found(job, station.key)
    except Exception as error:
        fault = faults.note(error, f"job {job.key}, station {station.key}")
        words = f"What is written here could not be judged (fault {fault}, in the log). It is kept: void what is wrong."
        return Finding(Verdict.UNSURE, words, "Cannot be judged", "Look at the readings below.", fault=fault)


@kept
def _found(job: Job, key: str) -> Finding:
    """A station's finding, worked out again only once something that it asked for was written."""
    return BY_KEY[key].find(job)


def _passed_over(job: Job, station: Station) -> Finding | None:
    said = job.skipped(station.key)
    if said is None:
        return None
    return Finding(
        Verdict.SKIPPED, said.note or "No reason is written.", "Skipped", f"{said.by} passed it over.", begun=False
    )


def where_it_stands(job: Job) -> tuple[Station, Finding]:
    """Where the work goes on: the station last worked at unless it is done, else the next one that is not."""
    findings = overview(job)
    here = STATIONS.index(last_worked(job))
    for station in (*STATIONS[here:], *STATIONS[:here]):
        if findings[station.key].state not in ("in", "skipped"):
            return station, findings[station.key]
    return STATIONS[-1], findings[STATIONS[-1].key]


# Sheets that belong to a station of another name.
SHEET_OF = {"drive": adjust.KEY, "rules": DEGREE}


def last_worked(job: Job) -> Station:
    """The station written to last."""
    written = [(sheet.seq, SHEET_OF.get(sheet.kind, sheet.kind)) for sheet in job.sheets]
    written += [(reading.seq, reading.station) for reading in job.readings if reading.void is None]
    return BY_KEY[max(written)[1]] if written else STATIONS[0]


# What had better be settled before a station; advice, never a lock.
BETTER_AFTER: dict[str, tuple[str, ...]] = {
    "choice": ("runout",),
    "setting": ("end-play",),
    "gear-fit": ("choice", "end-play"),
    "marks": ("train",),
    "backlash": ("runout", "end-play"),
    "tdc": ("wheel",),
    "degree": ("card", "end-play", "marks", "tdc"),
    "adjust": ("degree",),
}


def advice(job: Job) -> dict[str, tuple[str, ...]]:
    """For each station still open, what had better come before it."""
    findings = overview(job)
    done = {key for key, finding in findings.items() if finding.state in ("in", "skipped")}
    told: dict[str, tuple[str, ...]] = {}
    for key, earlier in BETTER_AFTER.items():
        waits = [BY_KEY[each].title for each in earlier if each not in done]
        if waits and key not in done:
            told[key] = (f"Better after: {', '.join(waits)}.",)
    return told


def worst_finding(findings: dict[str, Finding]) -> Finding:
    """The finding that most needs a person."""
    return worst(list(findings.values()))


BESIDE_WORDS = {SKIP: "passed over", PHOTO: "picture", ANEW: "changed"}


def describe(reading: Reading) -> str:
    """Say in words what a reading was of."""
    station = BY_KEY[reading.station]
    if reading.beside:
        return BESIDE_WORDS[reading.slot.split(".")[0]]
    return station.describe(reading) if station.describe else reading.slot


def describe_briefly(reading: Reading) -> str:
    """Say it in as little as stands under the station's own name."""
    brief = BY_KEY[reading.station].brief
    return describe(reading) if brief is None or reading.beside else brief(reading)
