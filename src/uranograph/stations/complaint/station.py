"""Find out what is wrong: the complaint, what speaks for each cause, what was found, and whether it is cured."""

from collections.abc import Mapping

from uranograph.bench import checks
from uranograph.bench.acts import said
from uranograph.bench.checks import Answer, Check, yes_or_no
from uranograph.bench.finding import Finding, Measured, Prompt, Row, Verdict
from uranograph.bench.job import Entry, Job, Reading
from uranograph.bench.kept import kept
from uranograph.bench.slots import Slot
from uranograph.core.errors import Impossible
from uranograph.core.quantities import format_angle, parse_angle
from uranograph.core.verdict import judge
from uranograph.stations.complaint.causes import CAUSES, Cause, weighed
from uranograph.stations.complaint.reported import FORM, FURTHEST_DEG, Reported, reported
from uranograph.stations.complaint.words import FOUND, say
from uranograph.stations.degree.rules import rules_of

KEY = "wrong"
LOOKS = Slot[str](KEY, ("marks", "witness", "key", "slack", "part", "sensor", "teeth", "found"), ("seen",))
AGAIN = Slot(KEY, ("again",), ("deg",), lambda reading: parse_angle(reading.text))
CAUTIONS = (
    "Running engine, hot coolant, moving belts: read live values hands off. Then ignition and fuel off, battery disconnected.",
)
VIEWS = {"looks": "Look", "found": "Found", "again": "Measured again"}
# A deviation reported anew is good to this, deg, where nobody knows better.
REPORT_DOUBT_DEG = 0.5


def questions(report: Reported) -> tuple[Check, ...]:
    """What is looked at, that which tells most apart first."""
    asked = [
        Check(
            "marks",
            say("marks-at-own-top"),
            say("put-own-top-beside"),
            (
                ("on", "on"),
                ("whole", "off by whole teeth"),
                ("part", "off by part of a tooth"),
                ("unseen", "cannot see"),
                checks.NONE,
            ),
            good=("on", "whole", "part", "na"),
            hint=say("own-top-by-stop"),
        ),
        yes_or_no("witness", say("witness-point"), say("does-witness-stand"), say("dowel-against-boss")),
        yes_or_no("key", say("key-and-keyway"), say("is-key-whole")),
        yes_or_no("teeth", say("teeth-sound"), say("are-teeth-sound")),
        yes_or_no("part", say("right-parts"), say("are-parts-right")),
        yes_or_no("sensor", say("sensor-and-ring"), say("is-sensor-sound")),
    ]
    if report.drive != "gears":
        asked.insert(3, yes_or_no("slack", say("slack-in-drive"), say("more-slack-than-allowed")))
    return tuple(_either(check) for check in asked)


def _either(check: Check) -> Check:
    """Yes and no both tell: neither is a fault of its own."""
    good = tuple(value for value, _ in check.options if value != "unseen")
    return Check(check.kind, check.label, check.instruction, check.options, good, (), check.hint)


def found_check(report: Reported) -> Check:
    """The question what it was in the end."""
    options = (*((cause.kind, cause.words) for cause in weighed(report, {})), ("other", "something else"))
    return Check(
        "found",
        say("what-it-was"),
        say("what-was-found"),
        options,
        tuple(kind for kind, _ in options),
        hint=say("say-in-a-note"),
    )


@kept
def answers(job: Job) -> tuple[Answer, ...]:
    """What was looked at so far."""
    report = reported(job)
    return tuple(checks.answers(job, KEY, questions(report))) if report else ()


@kept
def causes(job: Job) -> tuple[Cause, ...]:
    """Every cause with what speaks for it and against it, the likeliest first."""
    report = reported(job)
    return weighed(report, {answer.check.kind: answer.text for answer in answers(job)}) if report else ()


def views(job: Job) -> dict[str, str]:
    """What is looked at, what it was, and the deviation measured again."""
    return dict(VIEWS) if reported(job) else {}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the look that tells most, then for what was found, then for the deviation measured again."""
    report = reported(job)
    if report is None:
        return None
    found = job.standing(KEY, "found")
    view = query.get("method", "")
    check = checks.next_of(answers(job), query.get("item", ""))
    if view == "again" or (view != "found" and check is None and found):
        if AGAIN.taken(job) and view != "again":
            return None
        return Prompt(
            slot=AGAIN.next(job, "again"),
            label=say("deviation-again"),
            instruction=say("measure-again"),
            hint=say("late-plus-early-minus"),
            unit="deg",
            extra={"method": "again"},
        )
    if view == "found" or check is None:
        return checks.prompt_of(job, KEY, found_check(report), method="found")
    return checks.prompt_of(job, KEY, check, method="looks")


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or a deviation that cannot be.

    Raises
    ------
    Impossible
        With `text` at fault.
    """
    report = reported(job)
    if report is None:
        raise Impossible("text", "complaint-missing")
    if entry.spot.kind == "again":
        if abs(parse_angle(entry.text)) > FURTHEST_DEG:
            raise Impossible("text", "more-than-a-turn-off", typed=entry.text)
        return
    checks.accept((*questions(report), found_check(report)), entry)


def describe(reading: Reading) -> str:
    """Say what was looked at, found, or measured again."""
    kind = reading.spot.kind
    if kind == "again":
        return say("deviation-again")
    if kind == "found":
        return f"{say('found-to-be')}: {CAUSES.get(reading.text, 'something else')}"
    return {
        "marks": say("marks-at-own-top"),
        "witness": say("witness-point"),
        "key": say("key-and-keyway"),
        "slack": say("slack-in-drive"),
        "part": say("right-parts"),
        "sensor": say("sensor-and-ring"),
        "teeth": say("teeth-sound"),
    }[kind]


def find(job: Job) -> Finding:
    """Say what it can be, what it was, and whether it is cured."""
    report = reported(job)
    if report is None:
        begun = job.latest(FORM.kind) is not None
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FOUND, "no-complaint", begun=begun)
    offset = report.offset_deg
    base = Finding(
        Verdict.OPEN,
        number="" if offset is None else format_angle(abs(offset)),
        unit="deg late as reported" if (offset or 0) > 0 else "deg early as reported",
        uncertainty="" if offset is None else f"± {format_angle(REPORT_DOUBT_DEG)}",
        measured=Measured() if offset is None else Measured(offset, "deg", REPORT_DOUBT_DEG),
        cautions=CAUTIONS,
        rows=_rows(job),
        columns=("", "for", "against", ""),
        notes=_notes(job, report),
    )
    found = job.standing(KEY, "found")
    if found:
        cause = CAUSES.get(found[-1].text, "something else")
        again = AGAIN.values(job)
        if not again:
            return base.judged(Verdict.OPEN, FOUND, "found", cause=cause)
        within = judge(again[-1], REPORT_DOUBT_DEG, -rules_of(job).tolerance_deg, rules_of(job).tolerance_deg)
        code = {Verdict.IN: "cured", Verdict.OUT: "not-cured"}.get(within, "hardly-cured")
        before = format_angle(abs(offset)) if offset is not None else ""
        way = "" if offset is None else "late" if offset > 0 else "early"
        was = f"{before} {way}".strip() or say("what-was-reported")
        return base.judged(within, FOUND, code, cause=cause, again_deg=abs(again[-1]), before=was)
    likely = [cause for cause in causes(job) if cause.weight > 0]
    looked = sum(answer.reading is not None for answer in answers(job))
    if not likely:
        return base.judged(Verdict.OPEN, FOUND, "nothing-yet", complaint=report.complaint, looked=looked)
    best = likely[0]
    alike = [cause.words for cause in likely if cause.weight == best.weight]
    return base.judged(
        Verdict.OPEN, FOUND, "likely", causes=" or ".join(alike), reasons="; ".join(best.speaks_for), looked=looked
    )


def _rows(job: Job) -> tuple[Row, ...]:
    return tuple(Row(cause.words, "; ".join(cause.speaks_for), "; ".join(cause.against)) for cause in causes(job))


def _notes(job: Job, report: Reported) -> tuple[str, ...]:
    sentences = [say("complaint-as-told", complaint=report.complaint)]
    first = min((reading.seq for reading in job.standing(KEY)), default=0)
    done = [act for thing in ("phase", "mesh", "gear") for act in job.acts(thing) if first and act.seq > first]
    for act in dict.fromkeys(sorted(done, key=lambda each: each.seq)):
        sentences.append(say("was-done", what=said(act.slot, act.text, act.note), by=act.by))
    return tuple(sentences)
