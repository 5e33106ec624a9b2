"""The station class and its hooks.

A station is a folder: `station.py` has its class; `rules.py`, `drawing.py`, `messages.py`, `help.md` and its templates are
found by their names. Nothing outside the folder names it.
"""

import inspect
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import Any, ClassVar
from urllib.parse import urlencode

from uranograph.bench.acts import ACTS, Act
from uranograph.bench.finding import Finding, Prompt, Verdict
from uranograph.bench.forms import Form
from uranograph.bench.help import Help, read_help
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.plausible import slip
from uranograph.bench.refusals import Template
from uranograph.bench.repeats import RepeatedReading
from uranograph.bench.slots import INDICATOR, Grouping, Slot, Spot
from uranograph.charts.pen import Figure
from uranograph.core.errors import InvalidInput

DIAL_REASONS = ("misread the dial", "parts not seated", "wrong place", "typing slip")
# Templates that lie in a station's folder, and what is shown where there is none.
TEMPLATES = {
    "panel": "_reading_panel.html",
    "fields": "_none.html",
    "details": "_details.html",
    "next_steps": "_none.html",
    "panel_foot": "_none.html",
    "under_figure": "_none.html",
    "live": "",
    "sheet_head": "",
    "sheet_section": "",
}


@dataclass(frozen=True)
class ViewState:
    """How a station is looked at: which of its views, what is asked, and what was chosen on the page.

    `rear` is whether the engine is seen from its rear.
    """

    view: str = ""
    prompt: Prompt | None = None
    rear: bool = False
    query: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class NextReading:
    """The reading that would settle most: at which station, the query that asks for it, and why, as a code and in words."""

    station: str
    query: Mapping[str, str]
    why: str
    words: str


@dataclass(frozen=True)
class Page:
    """A page beside the bench: the template of its changed part, that of the whole, and what both need.

    `context` takes the job, an empty one where the page needs none, and the query; None where there is no such page.
    `data` is the same for machines, where the page has figures of its own.
    """

    part: str
    context: Callable[[Job, Mapping[str, str]], Mapping[str, Any] | None]
    whole: str = ""
    data: Callable[[Job, Mapping[str, str]], Mapping[str, Any]] | None = None


@dataclass(frozen=True)
class Suggested:
    """What a form holds before anything was typed, and where that is from, in words."""

    typed: Mapping[str, str]
    note: str = ""


@dataclass(frozen=True)
class Elsewhere:
    """What comes next at another station: in words, the label of its button, and where it is; `more` goes with it."""

    words: str
    label: str
    station: str
    more: str = ""
    query: Mapping[str, str] = field(default_factory=dict)

    def href(self, job: str) -> str:
        """Its address in a job."""
        return f"/jobs/{job}/{self.station}" + (f"?{urlencode(self.query)}" if self.query else "")


FileReader = Callable[[Job, Mapping[str, str], str], list[Entry]]


class Station:
    """A place at the bench: what it asks, what it finds, and how it is drawn.

    A subclass states the attributes below. Each hook is a method of the subclass, or else the function of that name in the
    folder's `rules.py` or `drawing.py`, without `self`; a hook that is neither does nothing. A finding is memoized for as
    long as everything it asked of the job is unchanged.

    Attributes
    ----------
    key, title, group
        Its name in addresses and in the log, on the page, and the part of the work it belongs to.
    position
        Where it stands in the order of the work; lower comes first.
    workflows
        Keys of the workflows that it is part of.
    docs, calculations
        Its section of docs/methods.md, and the calculations of the core that it uses.
    form
        The form that the station is, where it takes no readings.
    setup, other_forms
        The form that comes before its readings, and other forms that belong to it.
    slots
        What it has readings for, each with what it rests on, so that an act that disturbs it ends them.
    also_rests_on
        What it rests on beside its readings.
    comes_after
        Stations that had better come before it; advice, never a lock.
    governed_by
        Forms of other stations that say what its readings mean.
    invalidates
        Stations whose readings are taken again after a reading here.
    acts, acts_by_view, acts_on
        The acts that fit here; whether an act is of what one of its views shows, such as one shaft; or the shaft it always is of.
    answer_words
        Stored short answers in words; of one kind of question alone as `kind:answer`.
    may_stay_open
        Whether what cannot be told once nothing is left to read may stay so, with a reason.
    pages, files
        Pages of a job beside the bench, by address; readings taken from a file, by address.
    carried_query
        What of a reading's query is kept for the next reading.
    void_reasons
        Reasons for voiding that are offered.
    reads_degree_wheel
        Whether its readings are taken off the degree wheel, with a side and a direction.
    uses_shop_limits
        Whether shop limits decide here.
    skippable, blocks_signing, started_by_hand
        Whether it may be skipped; whether a sheet is never signed while it is not right, whoever accepts it; whether `next` of
        the API leads there only once somebody has begun it.
    after_passes_at
        The station whose passes are finished before this one is read again.
    cured_by, cured_of
        The act that puts right what is out here, where no other station sets it, and of which parts.
    set_ups
        Drawings of how its instruments are set up, by name (`charts/setups.py`), for the booklet.
    rocked
        Readings that are a travel between two stops, each a slot and its place: a live dial takes them by rocking.
    earlier_jobs
        How many other jobs of the shop with such a form its suggestion is made from.
    rows_on_sheet
        Whether its rows are printed in its line of the build sheet.
    reads_on_when_out
        Whether its readings go on to be asked for once one of them is out, such as valve by valve.
    reads_each_once
        Whether each of its places is read once: asked for again, all is read.
    details_title
        What its details are folded under.
    details_template
        The template of its details where another than its own `details.html` or the shared one.

    Examples
    --------
    A station whose folder has a `rules.py` with `find` needs no more than this:

    >>> class Scales(Station):
    ...     key, title, group, docs, position = "scales", "Scales", "Fit", "Runout", 90
    """

    key: ClassVar[str]
    title: ClassVar[str]
    group: ClassVar[str]
    docs: ClassVar[str]
    position: ClassVar[int]
    workflows: ClassVar[tuple[str, ...]] = ("whole",)
    calculations: ClassVar[tuple[str, ...]] = ()
    form: ClassVar[Form[Any] | None] = None
    setup: ClassVar[Form[Any] | None] = None
    other_forms: ClassVar[tuple[Form[Any], ...]] = ()
    slots: ClassVar[tuple[Slot[Any], ...]] = ()
    also_rests_on: ClassVar[tuple[str, ...]] = ()
    comes_after: ClassVar[tuple[str, ...]] = ()
    governed_by: ClassVar[tuple[str, ...]] = ()
    invalidates: ClassVar[tuple[str, ...]] = ()
    acts: ClassVar[tuple[str, ...]] = tuple(ACTS)
    acts_by_view: ClassVar[bool] = False
    acts_on: ClassVar[str] = ""
    answer_words: ClassVar[Mapping[str, str]] = {}
    may_stay_open: ClassVar[bool] = False
    pages: ClassVar[Mapping[str, Page]] = {}
    files: ClassVar[Mapping[str, FileReader]] = {}
    carried_query: ClassVar[tuple[str, ...]] = ("method",)
    void_reasons: ClassVar[tuple[str, ...]] = DIAL_REASONS
    reads_degree_wheel: ClassVar[bool] = False
    uses_shop_limits: ClassVar[bool] = False
    skippable: ClassVar[bool] = True
    blocks_signing: ClassVar[bool] = False
    started_by_hand: ClassVar[bool] = False
    earlier_jobs: ClassVar[int] = 0
    rows_on_sheet: ClassVar[bool] = False
    reads_on_when_out: ClassVar[bool] = False
    reads_each_once: ClassVar[bool] = False
    details_title: ClassVar[str] = "Why, and how sure"
    set_ups: ClassVar[tuple[str, ...]] = ()
    rocked: ClassVar[tuple[tuple[Slot[Any], str], ...]] = ()
    cured_by: ClassVar[str] = ""
    cured_of: ClassVar[str] = ""
    after_passes_at: ClassVar[str] = ""
    # Found in the folder.
    panel_template: ClassVar[str]
    fields_template: ClassVar[str]
    details_template: ClassVar[str]
    next_steps_template: ClassVar[str]
    panel_foot_template: ClassVar[str]
    under_figure_template: ClassVar[str]
    live_template: ClassVar[str]
    sheet_head_template: ClassVar[str]
    sheet_section_template: ClassVar[str]
    refusals: ClassVar[Mapping[str, Template]] = {}

    def __init_subclass__(cls) -> None:
        module = import_module(cls.__module__)
        folder, package = Path(module.__file__ or "").parent, cls.__module__.rpartition(".")[0]
        for name, shared in TEMPLATES.items():
            if f"{name}_template" not in vars(cls):
                own = (folder / f"{name}.html").is_file() and package != ""
                setattr(cls, f"{name}_template", f"{folder.name}/{name}.html" if own else shared)
        for part in ("rules", "drawing"):
            if package and (folder / f"{part}.py").is_file():
                _take_hooks(cls, import_module(f"{package}.{part}"))
        if package and (folder / "messages.py").is_file():
            cls.refusals = getattr(import_module(f"{package}.messages"), "REFUSALS", {})

    @cached_property
    def help(self) -> Help:
        """Its page of the booklet, read from `help.md` in its folder."""
        return read_help(Path(inspect.getfile(type(self))).with_name("help.md"))

    @classmethod
    def has(cls, hook: str) -> bool:
        """Whether the station has a hook of its own."""
        return getattr(cls, hook) is not getattr(Station, hook)

    def is_rocked(self, spot: Spot) -> bool:
        """Whether what is read there is a travel between two stops."""
        return any(slot.of_kind(spot.kind) and spot.place == place for slot, place in self.rocked)

    def find(self, job: Job) -> Finding:
        """Judge a job here."""
        raise NotImplementedError(self.key)

    def prompt(self, job: Job, query: Mapping[str, str]) -> Prompt | None:
        """Ask for the next reading; None where nothing is asked."""
        return None

    def accept(self, job: Job, entry: Entry) -> None:
        """Refuse a reading that cannot be, by raising `InvalidInput` with the field at fault."""

    def doubtful(self, job: Job, entry: Entry) -> InvalidInput | None:
        """What makes a reading look like a slip of typing: asked back once, with what may have been meant."""
        if not self.reads_degree_wheel or not entry.text:
            return None
        for before in reversed(job.active_readings(self.key)):
            if (
                before.spot.kind == entry.spot.kind
                and before.second == entry.second
                and self.same_figure(before, entry)
            ):
                if slip(entry.text, before.text):
                    return InvalidInput(
                        "text", "slip-of-typing", typed=entry.text, earlier=before.text, instead=(before.text,)
                    )
                return None
        return None

    def same_figure(self, before: Reading, entry: Entry) -> bool:
        """Whether a reading is to show about the same figure as one before it."""
        return before.side == entry.side and before.spot.place == entry.spot.place

    def label_entry(self, job: Job, entry: Entry) -> Entry:
        """The reading with what it was asked of, in words."""
        return entry

    def as_taken(self, job: Job, entry: Entry) -> Entry:
        """The reading as it was truly taken, where that is another than the one asked for."""
        return entry

    def move(self, job: Job, form: Mapping[str, str]) -> Act:
        """The act of moving a cam to the position chosen here."""
        raise NotImplementedError(self.key)

    def describe_move(self, act: Act) -> str:
        """Such an act in words."""
        return act.title

    def accompanying_act(self, job: Job, act: Act) -> tuple[str, str] | None:
        """The act that comes with a move chosen here: its kind, and more of it in words."""
        return None

    def describe(self, reading: Reading) -> str:
        """A reading in words."""
        return reading.slot

    def describe_briefly(self, reading: Reading) -> str:
        """A reading in as little as fits under the station's own name."""
        return self.describe(reading)

    def position_now(self, job: Job, slot: str) -> Job:
        """The job as far as its readings count where the cam of a slot stands now."""
        return job

    def views(self, job: Job) -> dict[str, str]:
        """Ways of looking at it, by name."""
        return {}

    def figure(self, job: Job, view_state: ViewState) -> Figure | None:
        """Its picture."""
        return None

    def preview(self, value: Any, clockwise: bool) -> Figure | None:
        """The picture of its form while it is typed."""
        return None

    def ruler(self, job: Job) -> Figure | None:
        """The early and late ruler under its verdict."""
        return None

    def thumbnail(self, job: Job) -> Figure | None:
        """The small chart of a job for lists."""
        return None

    def headline(self, job: Job) -> tuple[str, ...]:
        """Context for the header of every page of a job."""
        return ()

    def cams(self, job: Job) -> dict[str, str]:
        """The cams of the engine that move each for itself, by name, in words."""
        return {}

    def tool(self, job: Job) -> str:
        """Summary of the station's input."""
        return ""

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the bench template."""
        return {}

    def form_context(self, value: Any) -> Mapping[str, Any]:
        """Context for the form template."""
        return {}

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        return {}

    def machine_data(self, job: Job) -> Mapping[str, Any]:
        """Additional fields for `judge`."""
        return {}

    def repeats(self, job: Job) -> Mapping[str, tuple[RepeatedReading, ...]]:
        """Repeated readings with nothing moved between, by the name of the limit they inform."""
        return {}

    def next_reading(self, job: Job) -> NextReading | None:
        """The reading, here or elsewhere, that would settle most once all that it asks for is read."""
        return None

    def suggest(self, job: Job, earlier: Sequence[Job]) -> Suggested:
        """What its form holds before anything was typed; `earlier` are other jobs of the shop that have such a form.

        At most `earlier_jobs` of them are given, the newest first.
        """
        return Suggested(self.setup.suggests(job) if self.setup else {})

    def in_passes(self, job: Job) -> bool:
        """Whether something is taken off in passes here, and the goal is not reached yet."""
        return False

    def act_wanted(self, job: Job, finding: Finding) -> str:
        """The kind of act that is to be done next, where nothing more is to be read first; empty where there is none."""
        return self.cured_by if finding.verdict is Verdict.OUT else ""

    def form_wanted(self, job: Job, finding: Finding) -> str:
        """The kind of the form without which it cannot go on, besides its own; empty where there is none."""
        return ""

    def form_to_set_right(self, job: Job) -> str:
        """The kind of the form that is to be set right before anything more is read; empty where there is none."""
        return ""

    def settling_slot(self, job: Job, finding: Finding) -> str:
        """The slot of an answer that settles what is found, where nothing more needs to be read; empty where there is none."""
        return ""

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """What comes next at another station, where that is neither a reading here nor simply the station that follows."""
        return None

    def is_exhausted(self, job: Job) -> bool:
        """Whether no further reading would settle more."""
        return False

    def repeat_query(self, entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
        """The query under which the same thing is asked for again."""
        return {"method": form.get("method") or entry.spot.kind, "item": form.get("item", "")}

    @property
    def takes_notes_of_change(self) -> bool:
        """Whether its readings are ended by a change noted there in free words; those off the wheel are ended by acts alone."""
        return bool(self.slots) and not self.reads_degree_wheel

    @property
    def forms(self) -> tuple[Form[Any], ...]:
        """Every form that belongs to it."""
        return tuple(form for form in (self.form, self.setup, *self.other_forms) if form is not None)

    def has_slot(self, slot: str) -> bool:
        """Whether it has a reading of this name."""
        return any(each.has(slot) for each in self.slots)

    @property
    def rests_on(self) -> frozenset[str]:
        """Things that any of its readings rest on."""
        own = {thing for slot in self.slots for thing in slot.rests_on} | set(self.also_rests_on)
        return frozenset(own) | frozenset(INDICATOR for slot in self.slots if slot.together is not Grouping.NOT)


# Everything a folder can provide by a function of the same name.
HOOKS = tuple(
    name
    for name, each in vars(Station).items()
    if inspect.isfunction(each) and not name.startswith("_") and name != "has_slot"
)


def _take_hooks(cls: type[Station], module: ModuleType) -> None:
    """Let functions of a folder's module be the hooks of the same name, where the class has none."""
    for name in HOOKS:
        found = vars(module).get(name)
        if callable(found) and found.__module__ == module.__name__ and name not in vars(cls):
            setattr(cls, name, staticmethod(found))
