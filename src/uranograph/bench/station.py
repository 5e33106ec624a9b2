"""What a station is made of, and what is asked of all of them in their order.

A station lies whole in a folder of its own and hands the bench one `Station`; the bench names none of them.
"""

import re
from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any

from uranograph.bench import faults, words
from uranograph.bench.acts import ACTS, Act
from uranograph.bench.finding import Finding, Prompt, Verdict, worst
from uranograph.bench.forms import Form
from uranograph.bench.help import Help
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Acceptance, Change, Entry, Note, Picture, Reading, Skip, Written
from uranograph.bench.refusals import Template
from uranograph.bench.repeats import Again
from uranograph.bench.slots import INDICATOR, Slot, Together
from uranograph.bench.ways import KIND as WAY
from uranograph.bench.ways import Way
from uranograph.charts.pen import Figure

BESIDE_WORDS = {
    Skip.TYPE: "skipped",
    Picture.TYPE: "picture",
    Change.TYPE: "changed",
    Note.TYPE: "note",
    Acceptance.TYPE: "accepted as it is",
}
# Answers that any list of looks may have.
ANSWERS = {"na": "there is none", "unseen": "cannot see", "hidden": "cannot see"}
DIAL_REASONS = ("misread the dial", "parts not seated", "wrong place", "typing slip")
READING_PANEL = "_reading_panel.html"


@dataclass(frozen=True)
class Look:
    """How a station is looked at: which of its views, what is asked, and what was chosen on the page.

    `rear` is whether the engine is seen from its rear.
    """

    view: str = ""
    prompt: Prompt | None = None
    rear: bool = False
    query: Mapping[str, str] = field(default_factory=dict)


def _by_method(entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
    """What a form was about, so that it is drawn again for the same thing."""
    kind = entry.spot.kind
    return {"method": form.get("method") or kind, "item": form.get("item", "")}


@dataclass(frozen=True, kw_only=True, eq=False)
class Station:
    """A place at the bench: its name, what it asks, what it finds, and how it is drawn.

    Its finding is kept for as long as all that it asked of the job is as it was.

    Parameters
    ----------
    key, title, group
        Its name in addresses and in the log, on the page, and the part of the work it belongs to.
    find
        What is found of a job here.
    docs, help, calculations
        Its section of the methods, what an apprentice is told of it, and the calculations of the core that it rests on.
    refusals
        What is said of each value that it refuses, by code.
    form
        The form that the station is, where it takes no readings.
    setup, beside
        The form that comes before its readings, and other forms that belong to it.
    slots
        What it has readings for, each with what it rests on, so that an act that disturbs it ends them.
    rests_also
        What it rests on beside its readings.
    after
        Stations that had better come before it; advice, never a lock.
    governed_by
        Forms of other stations that say what its readings mean.
    ends
        Stations that are read anew after a reading here.
    acts, acts_by_view, acts_on
        The acts that fit here; whether an act is of what one of its views shows, such as one shaft; or the shaft it always is of.
    prompt, accept, in_words
        What to read next; refusing a reading that cannot be; the reading with what it was asked of in words.
    move, describe_move
        The act of moving a cam to the position that was chosen here; such an act in words.
    as_read
        A reading as it was truly taken, where that is another than the one asked for.
    brings
        The act that comes with a move chosen here: its kind, and what more is said of it.
    answer_words
        The answers that it keeps under short names, in words; of one kind of question alone as `kind:answer`.
    describe, brief
        A reading in words, and in as little as stands under the station's own name.
    position
        The job as far as its readings count where the cam of a slot stands now.
    views
        Ways of looking at it, by name.
    figure, preview
        Its picture; the picture of its form while it is typed, with whether the crank turns clockwise.
    cams
        The cams of the engine that can be moved each for itself, by name, with their words.
    rule, token, facts, tool
        The early and late rule under its verdict; its small chart for lists; what it says of a job at the head of every page.
    shown, told, printed, for_machines
        What its templates need: on the bench, of a form as read, and on the build sheet; what it adds for machines to a job judged.
    coming, enough
        The reading, here or elsewhere, that would tell most once all that it asks for is read; and whether none would any more.
    leaves_open
        Whether what cannot be told then is left as it is, with a reason.
    repeats
        What was read more than once here, nothing moved between, by the name of the limit that it tells of.
    under, panel, fields, found, below, foot, live
        Its templates: what stands under the figure; the panel where the one that all share does not do; what is asked in it,
        what is found, what follows that, its own buttons; what changes while a form is typed.
    on_sheet, sheet_section, rows_on_sheet
        Its templates on the build sheet: at the head, and as a section below; whether its rows stand in its line.
    pages, files
        Pages of a job beside the bench, by address; readings taken from a file, by address.
    again, goes_on_with
        What a form was about; what of it is kept for the next reading.
    by_hand
        Whether a program is led there only once somebody has begun it.
    must_close
        Whether a sheet is never signed while what is found here is not right, whoever accepts it.
    """

    key: str
    title: str
    group: str
    find: Callable[[Job], Finding]
    docs: str
    help: Help
    calculations: tuple[str, ...] = ()
    refusals: Mapping[str, Template] = field(default_factory=dict)
    form: Form[Any] | None = None
    setup: Form[Any] | None = None
    beside: tuple[Form[Any], ...] = ()
    slots: tuple[Slot[Any], ...] = ()
    rests_also: tuple[str, ...] = ()
    after: tuple[str, ...] = ()
    governed_by: tuple[str, ...] = ()
    ends: tuple[str, ...] = ()
    acts: tuple[str, ...] = tuple(ACTS)
    acts_by_view: bool = False
    acts_on: str = ""
    prompt: Callable[[Job, Mapping[str, str]], Prompt | None] | None = None
    accept: Callable[[Job, Entry], None] | None = None
    in_words: Callable[[Job, Entry], Entry] = lambda job, entry: entry
    move: Callable[[Job, Mapping[str, str]], Act] | None = None
    describe_move: Callable[[Act], str] | None = None
    as_read: Callable[[Job, Entry], Entry] = lambda job, entry: entry
    brings: Callable[[Job, Act], tuple[str, str] | None] = lambda job, act: None
    answer_words: Mapping[str, str] = field(default_factory=dict)
    describe: Callable[[Reading], str] | None = None
    brief: Callable[[Reading], str] | None = None
    position: Callable[[Job, str], Job] = lambda job, slot: job
    views: Callable[[Job], dict[str, str]] = lambda job: {}
    figure: Callable[[Job, Look], Figure | None] = lambda job, look: None
    preview: Callable[[Any, bool], Figure | None] = lambda value, clockwise: None
    rule: Callable[[Job], Figure | None] = lambda job: None
    token: Callable[[Job], Figure] | None = None
    facts: Callable[[Job], tuple[str, ...]] = lambda job: ()
    cams: Callable[[Job], dict[str, str]] | None = None
    tool: Callable[[Job], str] | None = None
    shown: Callable[[Job, Look], Mapping[str, Any]] = lambda job, look: {}
    told: Callable[[Any], Mapping[str, Any]] = lambda value: {}
    printed: Callable[[Job], Mapping[str, Any]] = lambda job: {}
    for_machines: Callable[[Job], Mapping[str, Any]] = lambda job: {}
    repeats: Callable[[Job], Mapping[str, tuple[Again, ...]]] = lambda job: {}
    coming: "Callable[[Job], Coming | None]" = lambda job: None
    enough: Callable[[Job], bool] = lambda job: False
    leaves_open: bool = False
    panel: str = READING_PANEL
    under: str = "_none.html"
    fields: str = "_none.html"
    found: str = "_details.html"
    below: str = "_none.html"
    foot: str = "_none.html"
    live: str = ""
    on_sheet: str = ""
    sheet_section: str = ""
    rows_on_sheet: bool = False
    pages: Mapping[str, "Page"] = field(default_factory=dict)
    files: Mapping[str, Callable[[Job, Mapping[str, str], str], list[Entry]]] = field(default_factory=dict)
    again: Callable[[Entry, Mapping[str, str]], dict[str, str]] = _by_method
    goes_on_with: tuple[str, ...] = ("method",)
    void_reasons: tuple[str, ...] = DIAL_REASONS
    takes_sides: bool = False
    house: bool = False
    skippable: bool = True
    must_close: bool = False
    by_hand: bool = False

    @property
    def takes(self) -> bool:
        """Whether its readings are ended by what is said there in free words; those of the wheel are ended by acts alone."""
        return self.prompt is not None and not self.takes_sides

    @property
    def forms(self) -> tuple[Form[Any], ...]:
        """Every form that belongs to it."""
        return tuple(form for form in (self.form, self.setup, *self.beside) if form is not None)

    def has_slot(self, slot: str) -> bool:
        """Whether it has a reading of this name."""
        return any(each.has(slot) for each in self.slots)

    @property
    def rests_on(self) -> frozenset[str]:
        """What any of its readings rest on, or rest on while others belong with them."""
        own = {thing for slot in self.slots for thing in slot.rests_on} | set(self.rests_also)
        return frozenset(own) | frozenset(INDICATOR for slot in self.slots if slot.together is not Together.NOT)


@dataclass(frozen=True)
class Coming:
    """The reading that would tell most: at which station, how it is asked for there, and why, as a code and in words."""

    station: str
    query: Mapping[str, str]
    why: str
    words: str


@dataclass(frozen=True)
class Page:
    """A page beside the bench: the template of its changed part, that of the whole, and what both need.

    `context` takes the job, an empty one where the page needs none, and what is asked; None where there is no such page.
    `data` is the same for machines, where the page has figures of its own.
    """

    part: str
    context: Callable[[Job, Mapping[str, str]], Mapping[str, Any] | None]
    whole: str = ""
    data: Callable[[Job, Mapping[str, str]], Mapping[str, Any]] | None = None


class Order:
    """Stations in working order, and what is asked of all of them.

    Parameters
    ----------
    stations
        Every station once, in the order of the work.
    alone
        Pages that need no job, by address.
    ways
        What one comes for, with the stations it takes.
    way_form
        What keeps the way of a job.
    """

    def __init__(
        self,
        stations: Sequence[Station],
        alone: Mapping[str, "Page"] = MappingProxyType({}),
        ways: Mapping[str, Way] = MappingProxyType({}),
        way_form: Form[Way] | None = None,
    ) -> None:
        self.ways, self.way_form = ways, way_form
        self.stations = tuple(stations)
        self.alone = alone
        self.by_key = {station.key: station for station in self.stations}
        self.of_form = {form.kind: station for station in self.stations for form in station.forms}
        self.forms: dict[str, Form[Any]] = {form.kind: form for station in self.stations for form in station.forms}
        self.pages = {name: page for station in self.stations for name, page in station.pages.items()}
        self.slots = {station.key: station.slots for station in self.stations}
        self.first = self.of_form[FIRST_FORM]
        # Where a cam is moved to a position.
        self.mover = next((station.key for station in self.stations if station.move), "")
        for station in self.stations:
            words.refusals(station.refusals)

    def has_slot(self, station: str, slot: str) -> bool:
        """Whether there is such a station, with such a slot."""
        return station in self.by_key and self.by_key[station].has_slot(slot)

    def ended_by(self, entry: Written | Entry) -> set[str]:
        """The stations that are read anew after something is written: a change, an act, or a reading that ends others."""
        if isinstance(entry, Change):
            return {entry.station}
        if isinstance(entry, Act):
            disturbs = set(ACTS[entry.kind].disturbs)
            return {station.key for station in self.stations if station.rests_on & disturbs}
        return set(self.by_key[entry.station].ends) if isinstance(entry, Entry) else set()

    def overview(self, job: Job) -> dict[str, Finding]:
        """Every station's finding, in working order; one that is passed over says why."""
        return _overview(job, self)

    def at_hand(self, job: Job, here: Station) -> tuple[dict[str, Finding], bool]:
        """The finding of one station, and what was last known of the others; whether all of that still holds."""
        findings, holds = {}, True
        for station in self.stations:
            last, still = (None, True) if station is here or job.skipped(station.key) else _found.at_hand(job, station)
            findings[station.key] = last or _judged(job, station)
            holds = holds and still
        return findings, holds

    def way_of(self, job: Job) -> Way | None:
        """What one came for with a job: the whole build where nobody said."""
        if self.way_form is None:
            return None
        return job.form(self.way_form) or self.ways[self.way_form.blank[WAY]]

    def on_way(self, job: Job) -> tuple[Station, ...]:
        """The stations of a job's way, in working order."""
        way = self.way_of(job)
        return self.stations if way is None else tuple(each for each in self.stations if each.key in way.stations)

    def neighbors(self, station: Station, job: Job | None = None) -> tuple[Station | None, Station | None]:
        """The stations before and after one on a job's way, where there are any."""
        way = self.stations if job is None else self.on_way(job)
        here = self.stations.index(station)
        before = [each for each in way if self.stations.index(each) < here]
        after = [each for each in way if self.stations.index(each) > here]
        return (before[-1] if before else None), (after[0] if after else None)

    def where_it_stands(self, job: Job) -> tuple[Station, Finding]:
        """Where the work goes on: what is out before it, else what an act ended before it, else the station last worked at
        unless done, else the next that is not."""
        findings = self.overview(job)
        here, way = self.stations.index(self.last_worked(job)), self.on_way(job)

        def settled(station: Station) -> bool:
            return findings[station.key].state in ("in", "skipped") or job.accepted(station.key) is not None

        # What is out comes before whatever was begun after it; where a station cures it, that one.
        wrong = next((s for s in way if findings[s.key].state == "out" and not settled(s)), None)
        if wrong is not None and self.stations.index(wrong) < here:
            cures = (s for s in way if wrong.key in s.after and findings[s.key].begun and not settled(s))
            station = next(cures, wrong)
            return station, findings[station.key]
        ended = (each for each in way if self.stations.index(each) < here and not settled(each) and _ended(job, each))
        for station in (*ended, *self.stations[here:], *self.stations[:here]):
            if station in way and not settled(station):
                return station, findings[station.key]
        return way[-1], findings[way[-1].key]

    def last_worked(self, job: Job) -> Station:
        """The station written to last."""
        written = [(filled.seq, self.of_form[filled.kind].key) for filled in job.forms if filled.kind != WAY]
        written += [(entry.seq, entry.station) for entry in job.entries if entry.void is None]
        return self.by_key[max(written)[1]] if written else self.stations[0]

    def last_written(self, job: Job, station: str) -> int:
        """When a station, or what its readings hang on, was last written to: forms, acts, and what ends its readings."""
        where = self.by_key[station]
        kinds = {*where.governed_by, *(form.kind for form in (where.form, where.setup) if form is not None)}
        ending = {each.key for each in self.stations if station in each.ends}
        written = [entry.seq for entry in job.entries if entry.station in {station, *ending}]
        written += [act.seq for act in (*job.changes(station), *(a for kind in kinds for a in job.acts(kind)))]
        written += [filled.seq for filled in job.forms if filled.kind in kinds]
        return max(written, default=0)

    def advice(self, job: Job) -> dict[str, tuple[str, ...]]:
        """For each station still open, what had better come before it."""
        findings = self.overview(job)
        done = {key for key, finding in findings.items() if finding.state in ("in", "skipped")}
        by_name: dict[str, tuple[str, ...]] = {}
        for station in self.stations:
            waits = [self.by_key[each].title for each in station.after if each not in done]
            if waits and station.key not in done:
                by_name[station.key] = (f"Better after: {', '.join(waits)}.",)
        return by_name

    def describe(self, entry: Written) -> str:
        """Say in words what a reading was of, or what stands beside the readings."""
        station = self.by_key[entry.station]
        if isinstance(entry, Act):
            return station.describe_move(entry) if entry.to_position and station.describe_move else entry.title
        if not isinstance(entry, Reading):
            return BESIDE_WORDS[entry.TYPE]
        return station.describe(entry) if station.describe else entry.slot

    def answered(self, entry: Written) -> str:
        """What was typed; an answer that was chosen as it was offered."""
        if not isinstance(entry, Reading):
            return entry.text
        kind, words = re.sub("[0-9]+", "#", entry.spot.kind), self.by_key[entry.station].answer_words
        return words.get(f"{kind}:{entry.text}") or words.get(entry.text) or ANSWERS.get(entry.text, entry.text)

    def describe_briefly(self, entry: Written) -> str:
        """Say it in as little as stands under the station's own name."""
        brief = self.by_key[entry.station].brief
        return brief(entry) if brief is not None and isinstance(entry, Reading) else self.describe(entry)

    def token(self, job: Job) -> Figure | None:
        """The small chart of a job, for lists."""
        return next((station.token(job) for station in self.stations if station.token), None)

    def facts(self, job: Job) -> list[str]:
        """What stands at the head of every page of a job."""
        return [fact for station in self.stations for fact in station.facts(job)]

    def cams(self, job: Job) -> dict[str, str]:
        """The cams that can be moved each for itself."""
        return next((station.cams(job) for station in self.stations if station.cams), {})

    def tools(self, job: Job) -> list[str]:
        """What the job is worked with."""
        return [station.tool(job) for station in self.stations if station.tool]


def _ended(job: Job, station: Station) -> bool:
    """Whether a station was read, and nothing of that holds since something was done."""
    read = [reading.seq for reading in job.written(station.key) if reading.void is None and not reading.beside]
    if not read or job.standing(station.key):
        return False
    return any(change.seq > max(read) for change in job.changes(station.key))


def worst_finding(findings: Mapping[str, Finding]) -> Finding:
    """The finding that most needs a person."""
    return worst(list(findings.values()))


def lawful(form: Form[Any], value: Any, errors: Collection[str]) -> bool:
    """Whether what is wrong with a form is only what it is kept with all the same, such as a card at odds with itself."""
    return value is not None and set(errors) <= set(form.bears(value))


@kept
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


@kept
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
