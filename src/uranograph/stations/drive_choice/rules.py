"""Fit: which cam drive the runout allows, decided before parts are ordered."""

from collections.abc import Iterator, Mapping

from uranograph.bench import checks, shop_limits
from uranograph.bench.checks import Check, CheckAnswer
from uranograph.bench.fields import Angle, Fields, Fold, Length, Text
from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.bench.worded import AFTER_TRUING, CURES, reason
from uranograph.core.drive_choice import Allowed, ChoiceInput, DriveChoice, DriveOption, RunoutLimits, drive_choice
from uranograph.core.errors import Missing
from uranograph.engine import runout
from uranograph.stations.drive_choice.messages import FINDINGS, say

KEY = "choice"
ANSWER = Slot[str](KEY, ("seat", "camseat", "journals", "center", "chosen"), ("seen",), rests_on=("shaft",))
WORDS = {Allowed.YES: "yes", Allowed.ONLY_IF: "only if", Allowed.NO: "no"}
DRIVES = {
    "none": "not decided",
    "gears": "gears",
    "hydraulic": "chain, hydraulic tensioner",
    "spring": "chain, spring tensioner",
}
TRAP = (
    "Smaller gears on a shaft that runs out bring the mean backlash right, never the swing: it whines and wears all "
    "the same."
)
# "Not needed" does not answer whether the part exists.
MEASURED = (("yes", "yes"), ("no", "not yet"), ("na", "not needed"), ("none", "there is none"))


class Window(Fields):
    """The allowed backlash, mm, the teeth's pressure angle, degrees, and what each drive costs.

    Examples
    --------
    >>> Window.read({"backlash_min": "0.15", "backlash_max": "0.05"}).errors["backlash_min"]
    'The least backlash is not below the greatest: look at the figures again.'
    """

    low_mm = Length("backlash_min", "Least backlash allowed", "by the drive maker's sheet").optional()
    high_mm = Length("backlash_max", "Greatest allowed").optional()
    pressure_angle_deg = Angle(
        "pressure_angle", "Pressure angle", "20 deg unless typed", least=5, most=40, default=20.0
    )
    costs_fold = Fold("What it costs")
    cost_true = Text("cost_true", "Truing the shaft", longest=40)
    cost_gears = Text("cost_gears", "Gear drive", longest=40)
    cost_chain = Text("cost_chain", "Chain drive", longest=40)

    def check(self) -> Iterator[tuple[str, str]]:
        if self.low_mm is not None and self.high_mm is not None and self.low_mm >= self.high_mm:
            yield "backlash_min", say("backlash-limits-crossed")

    @property
    def costs(self) -> tuple[tuple[str, str], ...]:
        """Cost of each choice by label, where entered."""
        fields = (each for each in self.fields() if each.name.startswith("cost_"))
        return tuple((each.label, self.values[each.name]) for each in fields if self.values[each.name])


SETUP = Window.form(KEY, "timing drive", instruction="Say what the gears would allow.", needed=False)


CHECKS = (
    Check(
        "seat",
        "Runout read on the gear's own seat",
        "Was the runout read on the gear's own seat?",
        MEASURED,
        ("yes",),
        ("no",),
        "A journal beside it can run true while the seat does not.",
    ),
    Check(
        "camseat",
        "The cam's seat read as well",
        "Was the cam's own seat read as well?",
        MEASURED,
        ("yes", "na", "none"),
        (),
        "Both shafts swing the backlash.",
    ),
    Check(
        "journals",
        "Journals measured",
        "Are the journals measured for size and wear?",
        MEASURED,
        ("yes", "na", "none"),
        (),
        "An out-of-round journal reads as runout twice a turn; truing does not cure it.",
    ),
    Check(
        "center",
        "Center distance measured",
        "Is the center distance measured?",
        MEASURED,
        ("yes", "na", "none"),
        (),
        "A bored case may have brought crank and cam together.",
    ),
    Check(
        "chosen",
        "Drive chosen",
        "Which drive is chosen?",
        tuple(DRIVES.items()),
        tuple(name for name in DRIVES if name != "none"),
        (),
        "Choose after the measuring, before the ordering.",
    ),
)


def limits(job: Job) -> RunoutLimits:
    """The house's limits of runout."""
    value = shop_limits.value
    return RunoutLimits(
        shaft_own_mm=value(job.shop_limits, "shaft_own"),
        gears_good_mm=value(job.shop_limits, "gears_good"),
        gears_never_mm=value(job.shop_limits, "gears_never"),
        tight_pump_mm=value(job.shop_limits, "tight_pump"),
        hydraulic_tensioner_mm=value(job.shop_limits, "hydraulic_tensioner"),
    )


@memoized
def judged(job: Job) -> DriveChoice | None:
    """Every drive judged, None before the runout is read."""
    shaft = runout.measured(job)
    if shaft is None:
        return None
    allowed = window(job)
    found = drive_choice(
        ChoiceInput(
            total_indicated_mm=shaft.total_mm,
            uncertainty_mm=shaft.doubt_mm,
            backlash_min_mm=allowed.low_mm,
            backlash_max_mm=allowed.high_mm,
            pressure_angle_deg=allowed.pressure_angle_deg,
            limits=limits(job),
        )
    )
    if not any(act.kind == "shaft-trued" for act in job.acts("shaft")):
        return found
    # A shaft just trued is not to be trued again.
    options = [each.model_copy(update={"cure": AFTER_TRUING.get(each.cure, each.cure)}) for each in found.options]
    return found.model_copy(update={"options": options})


def answers(job: Job) -> list[CheckAnswer]:
    """The list to go through before ordering, as far as it is answered."""
    return checks.answers(job, KEY, CHECKS)


def chosen(job: Job) -> str:
    """The drive that is chosen, by its own name; empty while none is."""
    text = answers(job)[-1].text
    return DRIVES[text] if text in DRIVES and text != "none" else ""


def option(job: Job, drive: str) -> DriveOption | None:
    """Explanation for one drive."""
    found = judged(job)
    return next((each for each in found.options if each.drive == drive), None) if found else None


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next line of the list; None once it is gone through."""
    check = checks.next_of(answers(job), query.get("item", ""))
    return checks.prompt_of(job, KEY, check) if check else None


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    checks.accept(CHECKS, entry)


def describe(reading: Reading) -> str:
    """Say which line of the list was answered."""
    kind = reading.spot.kind
    return next((check.label.lower() for check in CHECKS if check.kind == kind), kind)


def find(job: Job) -> Finding:
    """Judge the drive that is chosen, or say what each would be."""
    found = judged(job)
    bare = Finding(Verdict.OPEN, "")
    if found is None:
        begun = bool(job.active_readings(KEY))
        return bare.judged(Verdict.OPEN, FINDINGS, "runout-first", begun=begun)
    unit = job.unit
    base = Finding(
        Verdict.OPEN,
        "",
        quantity=Quantity(
            found.backlash_swing_mm, None, "mm", unit, label=say("peak-to-peak"), fine=True, judged=False
        ),
        rows=tuple(Row(each.drive, WORDS[each.verdict], "", "") for each in found.options),
        columns=("", "allowed", "", ""),
        notes=_notes(job, found),
    )
    verdicts = {each.drive: WORDS[each.verdict] for each in found.options}
    unlooked = [answer.check.label.lower() for answer in answers(job)[:-1] if answer.state in ("not-begun", "out")]
    drive = chosen(job)
    if not drive:
        return base.judged(
            Verdict.OPEN,
            FINDINGS,
            "not-decided",
            gears=verdicts["gears"],
            hydraulic=verdicts["chain, hydraulic tensioner"],
        )
    mine = option(job, drive)
    if mine is None:
        raise Missing("mine")
    if mine.verdict is Allowed.NO:
        return base.judged(
            Verdict.OUT,
            FINDINGS,
            "does-not-bear",
            reason=reason(mine, unit),
            would_change=CURES[mine.cure],
            drive=drive,
        )
    if unlooked:
        return base.judged(
            Verdict.UNSURE, FINDINGS, "not-looked-at", drive=drive.capitalize(), unlooked=", ".join(unlooked)
        )
    if mine.verdict is Allowed.ONLY_IF:
        return base.judged(
            Verdict.UNSURE, FINDINGS, "only-if", why=reason(mine, unit), drive=drive, would_change=CURES[mine.cure]
        )
    others = "" if verdicts["gears"] == "yes" else f" Gears: {verdicts['gears']}."
    return base.judged(Verdict.IN, FINDINGS, "chosen", reason=reason(mine, unit), others=others, drive=drive)


def _notes(job: Job, found: DriveChoice) -> tuple[str, ...]:
    names = ("shaft_own", "gears_good", "gears_never", "hydraulic_tensioner", "tight_pump")
    labels = {name: shop_limits.LIMITS[name].label for name in names}
    phrase = ", ".join(
        f"{label[0].lower()}{label[1:]} {shop_limits.limit_text(job.shop_limits, name, job.unit)}"
        for name, label in labels.items()
    )
    trap = () if found.options[0].verdict is Allowed.YES else (TRAP,)
    return (*trap, say("shop-limits-of-drives", phrase=phrase))


@memoized
def window(job: Job) -> Window:
    """Drives that the job's gears would allow."""
    return job.form(SETUP) or Window.blank(job.unit)
