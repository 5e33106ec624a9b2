"""All stations in the order of the work, and what is asked of all of them."""

import re
from collections.abc import Collection, Mapping, Sequence
from types import MappingProxyType
from typing import Any

from uranograph.bench import faults
from uranograph.bench import messages as words
from uranograph.bench.acts import ACTS, Act
from uranograph.bench.finding import Finding, Verdict, worst
from uranograph.bench.forms import Form
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.log import Acceptance, Change, Entry, Note, Picture, Reading, Skip, Written
from uranograph.bench.memo import memoized
from uranograph.bench.station import Page, Station
from uranograph.bench.workflows import KIND, Workflow
from uranograph.charts.pen import Figure

ANNOTATION_WORDS = {
    Skip.TYPE: "skipped",
    Picture.TYPE: "picture",
    Change.TYPE: "changed",
    Note.TYPE: "note",
    Acceptance.TYPE: "accepted as it is",
}
# Answers that any checklist may have.
ANSWERS = {"na": "there is none", "unseen": "cannot see", "hidden": "cannot see"}


class Order:
    """Stations in working order, and what is asked of all of them.

    Parameters
    ----------
    stations
        Every station once.
    jobless_pages
        Pages that need no job, by address.
    workflows
        What one comes for, by key.
    workflow_form
        The form that stores the workflow of a job.
    """

    def __init__(
        self,
        stations: Sequence[Station],
        jobless_pages: Mapping[str, Page] = MappingProxyType({}),
        workflows: Mapping[str, Workflow] = MappingProxyType({}),
        workflow_form: Form[Workflow] | None = None,
    ) -> None:
        self.workflows, self.workflow_form = workflows, workflow_form
        self.stations = tuple(sorted(stations, key=lambda station: station.position))
        self.jobless_pages = jobless_pages
        self.by_key = {station.key: station for station in self.stations}
        self.of_form = {form.kind: station for station in self.stations for form in station.forms}
        self.forms: dict[str, Form[Any]] = {form.kind: form for station in self.stations for form in station.forms}
        self.pages = {name: page for station in self.stations for name, page in station.pages.items()}
        self.slots = {station.key: station.slots for station in self.stations}
        self.first = self.of_form[FIRST_FORM]
        # Where a cam is moved to a position.
        self.mover = next((station.key for station in self.stations if station.has("move")), "")
        for station in self.stations:
            words.refusals(station.refusals)

    def has_slot(self, station: str, slot: str) -> bool:
        """Whether there is such a station, with such a slot."""
        return station in self.by_key and self.by_key[station].has_slot(slot)

    def ended_by(self, entry: Written | Entry) -> set[str]:
        """Stations invalidated by an entry: a change, an act, or a reading that ends others."""
        if isinstance(entry, Change):
            return {entry.station}
        if isinstance(entry, Act):
            disturbs = set(ACTS[entry.kind].disturbs)
            return {station.key for station in self.stations if station.rests_on & disturbs}
        return set(self.by_key[entry.station].invalidates) if isinstance(entry, Entry) else set()

    def overview(self, job: Job) -> dict[str, Finding]:
        """Every station's finding, in working order; one that is passed over says why."""
        return _overview(job, self)

    def last_known(self, job: Job, here: Station) -> tuple[dict[str, Finding], bool]:
        """The finding of one station, and what was last known of the others; whether all of that still holds."""
        findings, holds = {}, True
        for station in self.stations:
            last, still = (
                (None, True) if station is here or job.skipped(station.key) else _found.last_known(job, station)
            )
            findings[station.key] = last or _judged(job, station)
            holds = holds and still
        return findings, holds

    def workflow_of(self, job: Job) -> Workflow | None:
        """The workflow of a job: the whole build unless another was chosen."""
        if self.workflow_form is None:
            return None
        return job.form(self.workflow_form) or self.workflows[self.workflow_form.blank[KIND]]

    def in_workflow(self, job: Job) -> tuple[Station, ...]:
        """The stations of a job's workflow, in working order."""
        workflow = self.workflow_of(job)
        return self.stations if workflow is None else self.stations_of(workflow)

    def stations_of(self, workflow: Workflow) -> tuple[Station, ...]:
        """The stations of a workflow, in working order."""
        return tuple(each for each in self.stations if workflow.key in each.workflows)

    def neighbors(self, station: Station, job: Job | None = None) -> tuple[Station | None, Station | None]:
        """The stations before and after one in a job's workflow, where there are any."""
        way = self.stations if job is None else self.in_workflow(job)
        here = self.stations.index(station)
        before = [each for each in way if self.stations.index(each) < here]
        after = [each for each in way if self.stations.index(each) > here]
        return (before[-1] if before else None), (after[0] if after else None)

    def next_station(self, job: Job) -> tuple[Station, Finding]:
        """Where the work goes on: what is out before it, else what an act ended before it, else the station last worked at
        unless done, else the next that is not."""
        findings = self.overview(job)
        here, way = self.stations.index(self.last_worked(job)), self.in_workflow(job)

        def settled(station: Station) -> bool:
            return findings[station.key].state in ("in", "skipped") or job.accepted(station.key) is not None

        # What is out comes before whatever was begun after it; where a station cures it, that one.
        wrong = next((s for s in way if findings[s.key].state == "out" and not settled(s)), None)
        if wrong is not None and self.stations.index(wrong) < here:
            cures = (s for s in way if wrong.key in s.comes_after and findings[s.key].begun and not settled(s))
            station = next(cures, wrong)
            return station, findings[station.key]
        ended = (each for each in way if self.stations.index(each) < here and not settled(each) and _ended(job, each))
        for station in (*ended, *self.stations[here:], *self.stations[:here]):
            if station in way and not settled(station):
                return station, findings[station.key]
        return way[-1], findings[way[-1].key]

    def last_worked(self, job: Job) -> Station:
        """The station written to last."""
        written = [(filled.seq, self.of_form[filled.kind].key) for filled in job.forms if filled.kind != KIND]
        written += [(entry.seq, entry.station) for entry in job.entries if entry.void is None]
        return self.by_key[max(written)[1]] if written else self.stations[0]

    def last_written(self, job: Job, station: str, readings: bool = True) -> int:
        """When a station, or what its readings hang on, was last written to: forms, acts, and what ends its readings.

        Without `readings`, those that were taken there do not count: two people read beside each other.
        """
        where = self.by_key[station]
        kinds = {*where.governed_by, *(form.kind for form in (where.form, where.setup) if form is not None)}
        ending = {each.key for each in self.stations if station in each.invalidates}
        written = [
            entry.seq
            for entry in job.entries
            if entry.station in {station, *ending} and (readings or entry.void or not isinstance(entry, Reading))
        ]
        written += [act.seq for act in (*job.changes(station), *(a for kind in kinds for a in job.acts(kind)))]
        written += [filled.seq for filled in job.forms if filled.kind in kinds]
        return max(written, default=0)

    def advice(self, job: Job) -> dict[str, tuple[str, ...]]:
        """For each station still open, what had better come before it."""
        findings = self.overview(job)
        done = {key for key, finding in findings.items() if finding.state in ("in", "skipped")}
        by_name: dict[str, tuple[str, ...]] = {}
        for station in self.stations:
            waits = [self.by_key[each].title for each in station.comes_after if each not in done]
            if waits and station.key not in done:
                by_name[station.key] = (f"Better after: {', '.join(waits)}.",)
        return by_name

    def describe(self, entry: Written) -> str:
        """Describe an entry: what was read, or the annotation."""
        station = self.by_key[entry.station]
        if isinstance(entry, Act):
            return station.describe_move(entry) if entry.to_position else entry.title
        if not isinstance(entry, Reading):
            return ANNOTATION_WORDS[entry.TYPE]
        return station.describe(entry)

    def answered(self, entry: Written) -> str:
        """Typed text; a chosen answer appears under its label."""
        if not isinstance(entry, Reading):
            return entry.text
        kind, words = re.sub("[0-9]+", "#", entry.spot.kind), self.by_key[entry.station].answer_words
        return words.get(f"{kind}:{entry.text}") or words.get(entry.text) or ANSWERS.get(entry.text, entry.text)

    def describe_briefly(self, entry: Written) -> str:
        """Short description of an entry, for use under the station's name."""
        return (
            self.by_key[entry.station].describe_briefly(entry) if isinstance(entry, Reading) else self.describe(entry)
        )

    def thumbnail(self, job: Job) -> Figure | None:
        """The small chart of a job, for lists."""
        return next((station.thumbnail(job) for station in self.stations if station.has("thumbnail")), None)

    def headline(self, job: Job) -> list[str]:
        """Context for the header of every page of a job."""
        return [fact for station in self.stations for fact in station.headline(job)]

    def cams(self, job: Job) -> dict[str, str]:
        """The cams that can be moved each for itself."""
        return {name: words for station in self.stations for name, words in station.cams(job).items()}

    def tools(self, job: Job) -> list[str]:
        """Parsed input of the job's stations."""
        return [tool for station in self.stations if (tool := station.tool(job))]


def _ended(job: Job, station: Station) -> bool:
    """Whether a station was read, and nothing of that holds since something was done."""
    read = [reading.seq for reading in job.written(station.key) if reading.void is None and not reading.beside]
    if not read or job.active_readings(station.key):
        return False
    return any(change.seq > max(read) for change in job.changes(station.key))


def worst_finding(findings: Mapping[str, Finding]) -> Finding:
    """The finding that most needs a person."""
    return worst(list(findings.values()))


def storable(form: Form[Any], value: Any, errors: Collection[str]) -> bool:
    """Whether what is wrong with a form is only what it is kept with all the same, such as a card at odds with itself."""
    return value is not None and set(errors) <= set(form.bears(value))


@memoized
def _overview(job: Job, order: Order) -> dict[str, Finding]:
    return {station.key: _judged(job, station) for station in order.stations}


def _judged(job: Job, station: Station) -> Finding:
    """A station's finding; where it cannot be judged, that and an id which the log has, so that all others still stand."""
    try:
        return _passed_over(job, station) or _found(job, station)
    except Exception as error:
        fault = faults.note(error, f"job {job.key}, station {station.key}")
        sentence = (
            f"What is written here could not be judged (fault {fault}, in the log). It is kept: void what is wrong."
        )
        return Finding(Verdict.UNSURE, sentence, "Cannot be judged", "Look at the readings below.", fault=fault)


@memoized
def _found(job: Job, station: Station) -> Finding:
    """A station's finding, worked out again only once something that it asked for was written."""
    return station.find(job)


def _passed_over(job: Job, station: Station) -> Finding | None:
    passed_over = job.skipped(station.key)
    if passed_over is None:
        return None
    return Finding(
        Verdict.SKIPPED,
        passed_over.reason or "No reason is written.",
        "Skipped",
        f"{passed_over.by} skipped it.",
        begun=False,
    )
