"""Find out what is wrong: the complaint, what speaks for each cause, what was found, and whether it is cured."""

from collections.abc import Mapping

from uranograph.bench import checks
from uranograph.bench.acts import Act
from uranograph.bench.checks import Check, CheckAnswer, yes_or_no
from uranograph.bench.finding import Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import format_angle, parse_angle
from uranograph.core.verdict import judge
from uranograph.phase.basis import rules_of
from uranograph.stations.complaint.causes import CAUSES, Cause, teeth_it_takes, weighed
from uranograph.stations.complaint.messages import FINDINGS, say
from uranograph.stations.complaint.reported import FORM, MAX_DEG, Reported, reported

KEY = "wrong"
LOOKS = Slot[str](
    KEY, ("pair", "marks", "witness", "key", "slack", "part", "sensor", "teeth", "found", "cured"), ("seen",)
)
AGAIN = Slot(KEY, ("again",), ("deg",), lambda reading: parse_angle(reading.text))
CAUTIONS = (
    "Running engine, hot coolant, moving belts: read live values hands off. Then ignition and fuel off, battery disconnected.",
)
VIEWS = {"looks": "Look", "found": "Found", "again": "Measured again"}
# Default uncertainty of a newly reported deviation, deg.
REPORT_DOUBT_DEG = 0.5


def questions(report: Reported) -> tuple[Check, ...]:
    """Checks, the most discriminating first."""
    asked = [
        Check(
            "pair",
            say("pair-against-each-other"),
            say("do-marks-meet"),
            (("on", "they meet"), ("off", "they do not meet"), ("unseen", "cannot see"), checks.NONE),
            good=("on", "off", "na"),
            hint=say("parts-slip-from-jump"),
        ),
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
        asked.insert(4, yes_or_no("slack", say("slack-in-drive"), say("more-slack-than-allowed")))
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


def cured_check() -> Check:
    """The question whether the repair cured it, by eye."""
    options = (("on", "they do"), ("off", "they do not"), ("unseen", "cannot see"))
    return Check(
        "cured", say("seen-again"), say("look-again-cured"), options, ("on",), ("off",), say("or-measure-again")
    )


# Answers that are kept under short names, in words.
ANSWER_WORDS = {
    "pair:on": "they meet",
    "pair:off": "they do not meet",
    "marks:on": "on",
    "marks:whole": "off by whole teeth",
    "marks:part": "off by part of a tooth",
    "cured:on": "they do",
    "cured:off": "they do not",
    **{f"found:{kind}": words for kind, words in CAUSES.items()},
    "found:other": "something else",
}
# What a repair is, in the log: an act of any of these, after the cause was found.
REPAIRS = ("phase", "mesh", "gear", "parts", "shaft", "sprockets", "shims", "lash")
NO_REPAIR = ("claim",)


def repaired(job: Job) -> Act | None:
    """The newest act since the cause was found; None where nothing was said to be done."""
    found = job.active_readings(KEY, "found")
    acts = [act for thing in REPAIRS for act in job.acts(thing)]
    since = [act for act in acts if found and act.seq > found[-1].seq]
    return max(since, key=lambda act: act.seq) if since else None


@memoized
def answers(job: Job) -> tuple[CheckAnswer, ...]:
    """Checks done so far."""
    report = reported(job)
    return tuple(checks.answers(job, KEY, questions(report))) if report else ()


@memoized
def causes(job: Job) -> tuple[Cause, ...]:
    """Every cause with what speaks for it and against it, the likeliest first."""
    report = reported(job)
    return weighed(report, {answer.check.kind: answer.text for answer in answers(job)}) if report else ()


def views(job: Job) -> dict[str, str]:
    """Checks, the cause found, and the deviation measured afterward."""
    return dict(VIEWS) if reported(job) else {}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the most informative check, then the cause found, then the deviation measured again."""
    report = reported(job)
    if report is None:
        return None
    found = job.active_readings(KEY, "found")
    view = query.get("method", "")
    check = checks.next_of(answers(job), query.get("item", ""))
    if found and view != "looks" and not query.get("item"):
        # Once the cause is known, remaining checks are optional.
        check = None
    ready = bool(found) and (repaired(job) is not None or found[-1].text in NO_REPAIR)
    if query.get("item") == "cured" or (view not in ("found", "again") and check is None and ready):
        if _looked_again(job) or (_measured_again(job) and not query.get("item")):
            return None
        if report.offset_deg is None or query.get("item") == "cured":
            return checks.prompt_of(job, KEY, cured_check(), method="again")
    if view == "again" or (view != "found" and check is None and found):
        if _measured_again(job) and view != "again":
            return None
        if not ready and view != "again":
            return None
        if report.offset_deg is None and not query.get("degrees"):
            return checks.prompt_of(job, KEY, cured_check(), method="again")
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


def _measured_again(job: Job) -> list[float]:
    """Deviations measured since the repair, crank degrees late."""
    return [AGAIN.value(reading) for reading in AGAIN.taken(job) if reading.seq > _since(job)]


def _looked_again(job: Job) -> str:
    """Observation after the repair; empty if not checked."""
    seen = [reading.text for reading in job.active_readings(KEY, "cured") if reading.seq > _since(job)]
    return seen[-1] if seen else ""


def _since(job: Job) -> int:
    """When the repair was made, or the cause found where nothing is to be repaired."""
    done, found = repaired(job), job.active_readings(KEY, "found")
    return done.seq if done is not None else found[-1].seq if found else 0


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or a deviation that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    report = reported(job)
    if report is None:
        raise InvalidInput("text", "complaint-missing")
    if entry.spot.kind == "again":
        if abs(parse_angle(entry.text)) > MAX_DEG:
            raise InvalidInput("text", "more-than-a-turn-off", typed=entry.text)
        return
    checks.accept((*questions(report), found_check(report), cured_check()), entry)


def describe(reading: Reading) -> str:
    """Say what was looked at, found, or measured again."""
    kind = reading.spot.kind
    if kind == "again":
        return say("deviation-again")
    if kind == "found":
        return say("found-to-be")
    return {
        "pair": say("pair-against-each-other"),
        "cured": say("seen-again"),
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
        return Finding(Verdict.OPEN, cautions=CAUTIONS).judged(Verdict.OPEN, FINDINGS, "no-complaint", begun=begun)
    offset = report.offset_deg
    way = "deg late as reported" if (offset or 0) > 0 else "deg early as reported"
    base = Finding(
        Verdict.OPEN,
        quantity=None if offset is None else Quantity(offset, REPORT_DOUBT_DEG, "deg", label=way, unsigned=True),
        cautions=CAUTIONS,
        rows=_rows(job),
        columns=("", "for", "against", ""),
        notes=_notes(job, report),
    )
    if job.active_readings(KEY, "found"):
        return _after_it_was_found(job, report, base)
    likely = [cause for cause in causes(job) if cause.weight > 0]
    looked = sum(answer.reading is not None for answer in answers(job))
    if not likely:
        return base.judged(Verdict.OPEN, FINDINGS, "nothing-yet", complaint=report.complaint, looked=looked)
    best = likely[0]
    alike = [cause.words for cause in likely if cause.weight == best.weight]
    return base.judged(
        Verdict.OPEN, FINDINGS, "likely", causes=" or ".join(alike), reasons="; ".join(best.speaks_for), looked=looked
    )


def found_cause(job: Job) -> str:
    """What it was found to be, by its name in `CAUSES`, or `other`; empty before."""
    found = job.active_readings(KEY, "found")
    return found[-1].text if found else ""


def _after_it_was_found(job: Job, report: Reported, base: Finding) -> Finding:
    """Whether what was found is repaired, and cured: by what is measured, or by what is seen."""
    text = found_cause(job)
    cause, done = CAUSES.get(text, "something else"), repaired(job)
    if done is None and text not in NO_REPAIR:
        return base.judged(Verdict.OPEN, FINDINGS, "found", cause=cause)
    what = say("done-nothing-to-repair") if done is None else done.in_sentence
    again, seen = _measured_again(job), _looked_again(job)
    if again:
        within = judge(again[-1], REPORT_DOUBT_DEG, -rules_of(job).tolerance_deg, rules_of(job).tolerance_deg)
        code = {Verdict.IN: "cured", Verdict.OUT: "not-cured"}.get(within, "hardly-cured")
        offset = report.offset_deg
        before = format_angle(abs(offset)) if offset is not None else ""
        way = "" if offset is None else "late" if offset > 0 else "early"
        was = f"{before} {way}".strip() or say("what-was-reported")
        return base.judged(within, FINDINGS, code, cause=cause, again_deg=abs(again[-1]), before=was)
    if seen:
        verdict = {"on": Verdict.IN, "off": Verdict.OUT}.get(seen, Verdict.UNSURE)
        code = {"on": "cured-as-seen", "off": "not-cured-as-seen"}.get(seen, "cannot-see-cure")
        return base.judged(verdict, FINDINGS, code, cause=cause, done=what, seen=dict(cured_check().options)[seen])
    return base.judged(Verdict.OPEN, FINDINGS, "repaired", cause=cause, done=what)


def _rows(job: Job) -> tuple[Row, ...]:
    return tuple(Row(cause.words, "; ".join(cause.speaks_for), "; ".join(cause.against)) for cause in causes(job))


def _notes(job: Job, report: Reported) -> tuple[str, ...]:
    sentences = [say("complaint-as-told", complaint=report.complaint)]
    sentences += [say("claim-takes-teeth", teeth=teeth) for teeth in teeth_it_takes(report)]
    first = min((reading.seq for reading in job.active_readings(KEY)), default=0)
    done = [act for thing in REPAIRS for act in job.acts(thing) if first and act.seq > first]
    for act in dict.fromkeys(sorted(done, key=lambda each: each.seq)):
        sentences.append(say("was-done", what=act.in_sentence, by=act.by))
    return tuple(sentences)
