"""What the panel of a station says: one thing to do on top, and the button that does it."""

import re
from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.finding import Finding, Prompt, Verdict
from uranograph.bench.job import Job
from uranograph.bench.station import Station

# Longest text in large letters, and longest reason in sight.
MAX_DO, MAX_REASON = 84, 110
_SENTENCE = re.compile(r"(?<=[.?!])\s+")
# What of a query asks for one reading in particular.
_ASKS = ("reading", "again", "item", "lobe", "event", "drop", "code", "bank")


@dataclass(frozen=True)
class Action:
    """The main button: a link, or the fold where an act is noted."""

    label: str
    href: str = ""
    key: str = ""
    title: str = ""

    @property
    def notes_act(self) -> bool:
        return not self.href


@dataclass(frozen=True)
class Panel:
    """What a panel says.

    Attributes
    ----------
    do, more
        The one thing to do, and the rest of it where it is long.
    hint
        What helps to do it.
    decided
        Whether all is read: the verdict comes first, and the field is folded.
    action
        The main button; None where it records the reading that is asked for, or is the station's own.
    reason
        Why, in two lines at most; the rest is folded.
    rest
        What of the reason is folded.
    """

    do: str
    more: str
    hint: str
    decided: bool
    action: Action | None
    reason: str
    rest: str


def split(text: str, longest: int) -> tuple[str, str]:
    """As many whole sentences as fit, and the rest.

    Examples
    --------
    >>> split("Turn to 90 deg. Read the dial.", 20)
    ('Turn to 90 deg.', 'Read the dial.')
    >>> split("One sentence that is far longer than may be.", 10)
    ('One sentence that is far longer than may be.', '')
    """
    first, *others = _SENTENCE.split(text)
    while others and len(first) + 1 + len(others[0]) <= longest:
        first = f"{first} {others.pop(0)}"
    return first, " ".join(others)


def panel_of(
    job: Job, station: Station, finding: Finding, prompt: Prompt | None, query: Mapping[str, str], after: Station | None
) -> Panel:
    """Say what the panel says.

    Parameters
    ----------
    job, station, finding
        What is looked at, and what was found there.
    prompt
        The reading that is asked for.
    query
        What the page was asked for: a reading in particular is asked for even where all is read.
    after
        The station that follows.
    """
    reason, rest = split(finding.sentence, MAX_REASON)
    asked = any(query.get(name) for name in _ASKS)
    accepted = job.accepted(station.key) is not None
    elsewhere = None if asked or accepted else station.elsewhere(job, finding, query)
    settled = accepted or finding.verdict in (Verdict.IN, Verdict.SKIPPED)
    decided = settled or bool(finding.leads)
    decided = decided or (finding.verdict is Verdict.OUT and not station.reads_on_when_out)
    decided = decided or (prompt is not None and station.reads_each_once and _read(job, station, prompt))
    if prompt is not None and elsewhere is None and (asked or not decided):
        do, more = split(prompt.instruction, MAX_DO)
        return Panel(do, more, prompt.hint, False, None, reason, rest)
    if elsewhere is not None:
        key = "]" if after is not None and after.key == elsewhere.station else ""
        action: Action | None = Action(elsewhere.label, elsewhere.href(job.key), key)
        return Panel(elsewhere.words, "", elsewhere.more, True, action, reason, rest)
    do, more, action = _onward(job, station, finding, after, settled)
    return Panel(do, "", "" if more in (do, reason) else more, True, action, reason, rest)


def _read(job: Job, station: Station, prompt: Prompt) -> bool:
    """Whether what is asked for was read before."""
    spot = prompt.spot
    return any(
        (each.spot.kind, each.spot.place) == (spot.kind, spot.place) for each in job.active_readings(station.key)
    )


def _onward(
    job: Job, station: Station, finding: Finding, after: Station | None, settled: bool
) -> tuple[str, str, Action | None]:
    do, more = split(finding.next_step, MAX_DO)
    if finding.leads and not settled:
        last = job.active_readings(station.key)[-1:]
        void = Action("Void last", f"/jobs/{job.key}/{station.key}?void={last[0].id}", "z") if last else None
        return do, more, void if finding.leads == "void" else None
    if settled:
        onward = _after(job, after)
        return f"Go on: {onward.title}.", "" if finding.next_step == "Go on." else finding.next_step, onward
    return do, more, Action("What was done?", key="x")


def _after(job: Job, after: Station | None) -> Action:
    label = after.title if after else "Build sheet"
    # An abbreviation keeps its capitals within a sentence.
    title = label if label[:2].isupper() else label[0].lower() + label[1:]
    return Action(label, f"/jobs/{job.key}/{after.key if after else 'sheet'}", "]", title)
