"""End play of crank and cam: what limits it, what was read, and how it is judged."""

import math
from dataclasses import dataclass
from statistics import fmean
from typing import Any

from uranograph.bench.checks import Check
from uranograph.bench.finding import Finding, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Reading, coarsest
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core import end_play
from uranograph.core.end_play import PlayVerdict
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.hot_play import hot_play
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_fine, parse_length
from uranograph.core.uncertainty import of_difference
from uranograph.engine.end_play_form import KEY, PARTS, PlayWindow, loop_of, setup
from uranograph.engine.messages import FINDINGS, say

SETTING = "setting"


PLAY = Slot[str](KEY, tuple(PARTS), ("blade", "travel"))


FITTED_AS = Slot[str](KEY, tuple(f"fitted-{part}" for part in PARTS), ("seen",))


BINDS = "binds"


REPEATS = 3


# Beyond the last entry of any log.
LATEST = 2**62


FITTED = (
    ("all", "all fitted"),
    ("stand-in", "stand-ins fitted"),
    ("some", "some are missing"),
    ("none", "none fitted"),
)


def check_of(part: str, loop: PlayWindow) -> Check:
    """The question that comes first: whether the play means anything yet."""
    what = loop.limits or say("usual-limiting-parts")
    return Check(
        f"fitted-{part}",
        say("limiting-parts", part=part),
        say("ask-limiting-parts", part=part, what=what),
        FITTED,
        ("all", "stand-in"),
        ("some", "none"),
        say("limiting-parts-first"),
    )


# Kinds of reading at the setting whose first is only written down as found, and changes nothing.
MEASURED_FIRST = ("cheek", "spacer", "plate")


# What an act must disturb to change the fit of a shaft.
FIT = ("shims", "limits")


@memoized
def changes(job: Job, part: str) -> tuple[int, ...]:
    """When the fit of a shaft was changed, at the setting or by an act, as places in the log."""
    firsts: dict[str, int] = {}
    found = []
    for reading in job.active_readings(SETTING):
        kind, number, place = reading.spot
        if not kind.endswith(f"-{part}"):
            continue
        first = firsts.setdefault(f"{kind}.{place}", number)
        if kind.split("-")[0] not in MEASURED_FIRST or number != first:
            found.append(reading.seq)
    # An act on one shaft leaves the others as they are.
    found += [act.seq for thing in FIT for act in job.acts(thing) if act.scope in (None, part)]
    return tuple(sorted(set(found)))


def since(job: Job, part: str) -> int:
    """When the fit was last changed; readings of the play before it are of an earlier fit."""
    return max(changes(job, part), default=0)


@dataclass(frozen=True)
class Play:
    """One shaft's play as last fitted: the bracket in mm, the verdict, and what it is read from."""

    part: str
    loop: PlayWindow
    low_mm: float
    high_mm: float | None
    verdict: PlayVerdict
    next_blade_mm: float | None
    went_mm: tuple[float, ...]
    stopped_mm: tuple[float, ...]
    travels_mm: tuple[float, ...]
    fitted: str
    problem: InvalidInput | None = None
    binds: bool = False

    @property
    def means_something(self) -> bool:
        """Whether the parts that limit it were on: without them a shaft floats ten times as far. One that binds, binds."""
        return self.binds or self.fitted in ("all", "stand-in")

    @property
    def middle_mm(self) -> float:
        """The best single figure of the bracket."""
        return self.low_mm if self.high_mm is None else (self.low_mm + self.high_mm) / 2

    @property
    def hot_change_mm(self) -> float | None:
        return hot_play(self.loop.heat).change_mm if self.loop.heat else None


def plays_taken(job: Job, part: str, after: int, until: int | None = None) -> list[Reading]:
    """Readings of one shaft's play, and of what was fitted, between two places in the log."""
    return [
        reading
        for reading in job.active_readings(KEY, part, f"fitted-{part}")
        if after < reading.seq < (math.inf if until is None else until)
    ]


@memoized
def measured(job: Job, part: str) -> Play | None:
    """The play of one shaft as it is fitted now, None while nothing is read."""
    return _measured(job, part, plays_taken(job, part, since(job, part)))


@memoized
def latest(job: Job, part: str) -> tuple[Play, int] | None:
    """The newest play that was read, of whichever fit, and where in the log that fit ended (past its end for this)."""
    ends = [*changes(job, part), LATEST]
    for n in range(len(ends) - 1, -1, -1):
        play = _measured(job, part, plays_taken(job, part, ends[n - 1] if n else 0, ends[n]))
        if play is not None:
            return play, ends[n]
    return None


def _measured(job: Job, part: str, taken: list[Reading]) -> Play | None:
    fit, loop = setup(job), loop_of(job, part)
    fitted = [reading.text for reading in taken if reading.slot.startswith("fitted-")]
    went = tuple(_mm(r) for r in taken if r.slot.endswith(".blade") and r.text == "goes")
    stopped = tuple(_mm(r) for r in taken if r.slot.endswith(".blade") and r.text == "not")
    travels = tuple(r.mm for r in taken if r.slot.endswith(".travel"))
    blades = [r for r in taken if r.slot.endswith(".blade")]
    if fit is None or loop is None or not (blades or travels):
        return None
    if blades and blades[-1].text == BINDS:
        seated = fitted[-1] if fitted else ""
        return Play(part, loop, 0.0, 0.0, PlayVerdict.TIGHT, None, went, stopped, travels, seated, binds=True)
    if not (went or stopped or travels):
        return None
    mine = (went, stopped, travels, fitted[-1] if fitted else "")
    if travels and max(travels) == 0 and not (went or stopped):
        # A dial that does not move shows no play, whatever its division.
        return Play(part, loop, 0.0, 0.0, PlayVerdict.TIGHT, None, *mine, binds=True)
    try:
        if travels:
            read = [reading for reading in taken if reading.slot.endswith(".travel")]
            doubt = of_difference(coarsest(read, fit.division_mm))
            found = _core(loop, travels_mm=[max(0.0, min(travels) - doubt), max(travels) + doubt])
        else:
            found = _core(loop, go_mm=list(went), no_go_mm=list(stopped))
    except InvalidInput as error:
        return Play(part, loop, max(went, default=0.0), None, PlayVerdict.UNSURE, None, *mine, problem=error)
    return Play(part, loop, found.low_mm, found.high_mm, found.verdict, found.next_blade_mm, *mine)


def _core(loop: PlayWindow, **given: list[float]) -> end_play.EndPlay:
    return end_play.end_play(end_play.EndPlayInput(spec_min_mm=loop.low_mm, spec_max_mm=loop.high_mm, **given))


def _mm(reading: Reading) -> float:
    return stacked_mm(reading.second or "0", reading.unit)


def stacked_mm(text: str, unit: LengthUnit) -> float:
    """The thickness of a blade, or of several stacked, mm.

    Examples
    --------
    >>> round(stacked_mm("0.10 + 0.05", LengthUnit.MM), 6), stacked_mm("0.2", LengthUnit.MM)
    (0.15, 0.2)
    """
    return sum(parse_length(piece, unit) for piece in text.split("+"))


def as_typed(mm: float, unit: LengthUnit) -> str:
    """A blade as it is stamped: thousandths, or hundredths of a millimeter, finer only where it is."""
    figure, least = (f"{mm / MM_PER_INCH:.4f}", 5) if unit is LengthUnit.INCH else (f"{mm:.3f}", 4)
    return figure.removesuffix("0") if len(figure) > least else figure


def next_blade(job: Job, part: str) -> float:
    """The most informative blade, mm: the least play, which must go, then the greatest, which must not."""
    loop, play = loop_of(job, part), measured(job, part)
    if loop is None:
        raise Missing("loop")
    if play is None or play.problem:
        return loop.low_mm
    if play.next_blade_mm is None:
        return play.middle_mm
    if play.next_blade_mm in play.went_mm:
        # A blade at the limit went in: only a thicker one can decide.
        return play.next_blade_mm + (MM_PER_INCH / 1000 if job.unit is LengthUnit.INCH else 0.02)
    return play.next_blade_mm


def state_of(job: Job, part: str) -> Finding:
    """Status of one shaft: a code and its figures."""
    loop, play = loop_of(job, part), measured(job, part)
    if loop is None:
        raise Missing("loop")
    name, unit = part.capitalize(), job.unit

    def judged(verdict: Verdict, code: str, **values: Any) -> Finding:
        return Finding(verdict).judged(verdict, FINDINGS, code, unit, name=name, **values)

    if play is None:
        return judged(Verdict.OPEN, "read-again" if since(job, part) else "not-read", part=part)
    bracket = bracket_words(job, play)
    if play.binds and play.travels_mm and len(play.travels_mm) < REPEATS:
        return judged(Verdict.OPEN, "so-far", bracket=bracket)
    if play.binds:
        return judged(Verdict.OUT, "binds", goal_mm=loop.middle_mm)
    if play.problem is not None:
        return judged(Verdict.UNSURE, "blades-cannot-be", why=play.problem)
    if play.fitted and not play.means_something:
        return judged(Verdict.UNSURE, "parts-not-fitted", bracket=bracket)
    if not play.fitted:
        return judged(Verdict.UNSURE, "parts-not-stated", bracket=bracket)
    if play.travels_mm and len(play.travels_mm) < REPEATS:
        return judged(Verdict.OPEN, "so-far", bracket=bracket)
    if play.verdict is PlayVerdict.UNSURE:
        if play.next_blade_mm is None:
            return judged(Verdict.UNSURE, "straddles", bracket=bracket)
        blade = as_typed(next_blade(job, part), unit)
        return judged(Verdict.UNSURE, "straddles-blade", bracket=bracket, blade=blade, unit=unit.value)
    if play.verdict is PlayVerdict.IN:
        change = play.hot_change_mm
        if change is not None and play.low_mm + change <= 0:
            return judged(Verdict.OUT, "gone-when-hot", bracket=bracket, change_mm=change, unit=unit.value)
        return judged(Verdict.IN, "within", bracket=bracket)
    tight = play.verdict is PlayVerdict.TIGHT
    return judged(Verdict.OUT, "tight" if tight else "loose", bracket=bracket)


def bracket_words(job: Job, play: Play) -> str:
    """The play in words: a bracket, or the mean of the travels with its spread."""
    unit = job.unit
    if play.binds:
        return say("play-below-zero")
    if play.travels_mm:
        spread = format_fine(max(play.travels_mm) - min(play.travels_mm), unit)
        return f"{format_fine(fmean(play.travels_mm), unit)} {unit.value}, spread {spread}"
    if play.high_mm is None:
        return f"over {as_typed(play.low_mm, unit)} {unit.value}"
    if play.low_mm == 0:
        return f"under {as_typed(play.high_mm, unit)} {unit.value}"
    return f"{as_typed(play.low_mm, unit)} to {as_typed(play.high_mm, unit)} {unit.value}"


def views(job: Job) -> dict[str, str]:
    """The shafts that are to be read."""
    set_up = setup(job)
    return {part: words.capitalize() for part, words in PARTS.items() if set_up and part in set_up.loops}
