"""Sprocket alignment of a chain drive."""

from collections.abc import Mapping
from statistics import fmean
from typing import Any

from uranograph.bench import shop_limits
from uranograph.bench.fields import ByUnit, Choice, Fields, Fold, Length
from uranograph.bench.finding import WORST_FIRST, Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot, in_mm
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import format_length
from uranograph.core.sprocket import LineInput, SprocketLine, sprocket_line
from uranograph.core.uncertainty import of_difference
from uranograph.engine.gear_train import driven_by
from uranograph.stations.sprocket_line.messages import FINDINGS, say

KEY = "sprocket"
WHICH = {
    "driver": "crank sprocket",
    "driven": "cam sprocket",
    "second-driver": "sprocket that drives the second cam",
    "second": "second cam sprocket",
}
DEPTH = Slot(KEY, tuple(WHICH), ("depth",), in_mm, rests_on=("sprockets",))
CAUTIONS = ("Do this before the chain goes on. Break sharp edges: idlers must slide without catching.",)


class Rows(Fields):
    """Tolerances of the depths, mm; the shop's tolerance unless the job sets one.

    Examples
    --------
    >>> Rows.read({"shim": "0.3"}).value.shim_mm
    0.3
    """

    own_tolerance_mm = Length(
        "tolerance", "Allowed out of line", "the shop limit unless typed", above_zero=True
    ).optional()
    row_offset_mm = Length(
        "row_offset", "Cam face belongs deeper by", "by the rows; 0 unless typed", least_mm=None, default=0.0
    )
    shim_mm = Length("shim", "One shim is", "behind the cam sprocket", above_zero=True).optional()
    caliper_mm = Length("caliper", "Depth gauge reads to", above_zero=True, default=ByUnit(0.02, 0.0254))
    two_cams = Fold("Two cams")
    second = Choice(
        "second",
        "Second cam sprocket",
        (("", "there is none"), ("yes", "on the same chain"), ("own", "on a chain of its own")),
        unknown=say("second-sprocket-unknown"),
    )
    stated_second_mm = Length(
        "second_offset", "Its face belongs deeper by", "than what drives it; 0 unless typed", least_mm=None
    ).optional()

    @property
    def second_offset_mm(self) -> float | None:
        """How much deeper the second cam's face belongs than what drives it; None where there is no second cam."""
        return 0.0 if self.stated_second_mm is None and self.second else self.stated_second_mm

    @property
    def separate_chain(self) -> bool:
        """Whether the second cam is driven by a chain of its own."""
        return self.second == "own"


SETUP = Rows.form(KEY, "sprocket line", instruction="Say how the rows belong.", needed=False)


@memoized
def setup(job: Job) -> Rows:
    """Return the job's sprocket tolerances."""
    return job.form(SETUP) or Rows.blank(job.unit)


def tolerance_mm(job: Job) -> float:
    """Allowed misalignment, mm."""
    own = setup(job).own_tolerance_mm
    return shop_limits.value(job.shop_limits, "sprocket_line") if own is None else own


def depths(job: Job, which: str) -> list[float]:
    """Standing depths of one sprocket, mm."""
    return DEPTH.values(job, which)


def driven_of(job: Job) -> tuple[str, ...]:
    """The sprockets that the crank's drives."""
    return ("driven",) if setup(job).second_offset_mm is None else ("driven", "second")


def driver_of(job: Job, which: str) -> str:
    """The sprocket that drives one: a second cam may have a chain of its own."""
    return "second-driver" if which == "second" and setup(job).separate_chain else "driver"


def wanted(job: Job) -> tuple[str, ...]:
    """Every sprocket whose depth is read, each after what drives it."""
    return tuple(dict.fromkeys(each for which in driven_of(job) for each in (driver_of(job, which), which)))


@memoized
def measured(job: Job, which: str = "driven") -> SprocketLine | None:
    """The line of the crank's sprocket and one that it drives, once both are read."""
    driver, driven = depths(job, driver_of(job, which)), depths(job, which)
    if not driver or not driven:
        return None
    rows = setup(job)
    return sprocket_line(
        LineInput(
            driver_depth_mm=fmean(driver),
            driven_depth_mm=fmean(driven),
            row_offset_mm=rows.row_offset_mm if which == "driven" else rows.second_offset_mm or 0.0,
            tolerance_mm=tolerance_mm(job),
            shim_mm=rows.shim_mm,
            out_of_line_doubt_mm=doubt_mm(job, which),
        )
    )


def doubt_mm(job: Job, driven: str = "driven") -> float:
    """Uncertainty of two depths: the gauge's, or half their spread if larger."""
    spreads = [
        max(values) - min(values) for which in (driver_of(job, driven), driven) if (values := depths(job, which))
    ]
    return max(of_difference(2 * setup(job).caliper_mm), max(spreads, default=0.0) / 2)


def prompt(job: Job, query: Mapping[str, str]) -> Prompt:
    """Ask for the depth of the sprocket with fewer readings."""
    which, there = query.get("item", ""), wanted(job)
    if which not in there:
        which = min(there, key=lambda each: (len(depths(job, each)), there.index(each)))
    return Prompt(
        slot=DEPTH.next(job, which),
        label=say("depth-label", which=WHICH[which]),
        instruction=say("measure-depth", which=WHICH[which]),
        hint=say("measure-depth-hint"),
        unit=job.unit.value,
        extra={"item": which},
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a depth that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    if abs(entry.mm) > 500:
        raise InvalidInput("text", "deeper-than-any-case", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say which face was measured."""
    return f"depth of the {WHICH[reading.spot.kind]}"


def find(job: Job) -> Finding:
    """Judge sprocket alignment, and find the shims that would correct it."""
    lines = {which: line for which in driven_of(job) if (line := measured(job, which))}
    rows = setup(job)
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if not lines:
        begun = bool(job.active_readings(KEY))
        if not begun and driven_by(job) and "chain" not in driven_by(job):
            return bare.judged(Verdict.SKIPPED, FINDINGS, "no-sprockets", begun=False)
        return bare.judged(Verdict.OPEN, FINDINGS, "not-measured", begun=begun)
    waiting = [which for which in driven_of(job) if which not in lines]
    which, found = min(
        lines.items(), key=lambda each: (WORST_FIRST.index(each[1].verdict), -abs(each[1].out_of_line_mm))
    )
    out, doubt = found.out_of_line_mm, doubt_mm(job, which)
    by_house = say("alignment-limit", said=shop_limits.limit_text(job.shop_limits, "sprocket_line", job.unit))
    allowed = tolerance_mm(job)
    base = Finding(
        Verdict.OPEN,
        "",
        quantity=Quantity(out, doubt, "mm", job.unit, label="too deep" if out > 0 else "too shallow", unsigned=True),
        cautions=CAUTIONS,
        columns=("", "allowed", "measured", ""),
        rows=(
            *(
                Row(f"{WHICH[each].capitalize()}", "", format_length(fmean(depths(job, each)), job.unit))
                for each in wanted(job)
                if depths(job, each)
            ),
            *(
                Row(
                    "Out of line" if len(driven_of(job)) == 1 else say("out-of-line-of", which=WHICH[each]),
                    f"± {format_length(allowed, job.unit)}",
                    format_length(line.out_of_line_mm, job.unit).replace("-", "−"),
                )
                for each, line in lines.items()
            ),
        ),
        notes=(*([] if rows.own_tolerance_mm is not None else [by_house]), *_before(job, which)),
    )
    if found.verdict is Verdict.UNSURE:
        return base.judged(Verdict.UNSURE, FINDINGS, "too-near-limit")
    if found.verdict is Verdict.IN and waiting:
        return base.judged(Verdict.OPEN, FINDINGS, "first-in-line", which=WHICH[which], waiting=WHICH[waiting[0]])
    if found.verdict is Verdict.IN:
        return base.judged(Verdict.IN, FINDINGS, "in-line")
    code, shown = _cure(job, found, rows)
    shown["which"] = WHICH[which]
    return base.judged(Verdict.OUT, FINDINGS, code, job.unit, **shown)


def _before(job: Job, which: str) -> list[str]:
    """Misalignment before the newest change and now."""
    changed = job.before_change(KEY)
    earlier = measured(changed[0], which) if changed else None
    if changed is None or earlier is None:
        return []
    return [
        say(
            "before-line",
            job.unit,
            said=changed[1].in_sentence,
            out_of_line_mm=abs(earlier.out_of_line_mm),
        )
    ]


def _cure(job: Job, found: SprocketLine, rows: Rows) -> tuple[str, dict[str, Any]]:
    """By how many shims the cam sprocket comes into line, and what that leaves."""
    shown: dict[str, Any] = {"way": say("toward-cover") if found.out_of_line_mm > 0 else say("toward-block")}
    change = found.shims_change
    if change is None or rows.shim_mm is None:
        return "out-of-line", shown
    if change == 0:
        return "less-than-half-a-shim", shown
    left = abs(found.out_of_line_mm - change * rows.shim_mm)
    several = "" if abs(change) == 1 else "s"
    code = "add-shims" if change > 0 else "take-shims"
    code += "" if left <= tolerance_mm(job) else "-still-out"
    return code, {**shown, "shims": abs(change), "several": several, "left_mm": left}
