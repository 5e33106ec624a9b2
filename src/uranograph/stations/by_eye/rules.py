"""Mark by eye, without tooth counts: marks, lifters at TDC, driven parts, timing pins."""

from collections.abc import Mapping
from dataclasses import replace

from uranograph.bench import checks
from uranograph.bench.checks import TURNED_ALONE, Check, CheckAnswer
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.parsers import count
from uranograph.core.errors import InvalidInput
from uranograph.engine import turning
from uranograph.engine.marks_by_eye import ListedMarks, listed
from uranograph.phase.marks_by_eye import (
    DRY,
    KEY,
    LIFTERS,
    OFF,
    PINNED,
    ROTOR,
    answers,
    belongs,
    checks_of,
    code_of_lifters,
    crank_at,
    lifters_check,
    lifters_message,
    pins,
    three_looks,
    view_of,
)
from uranograph.phase.target import target_of
from uranograph.stations.by_eye.messages import FINDINGS, say

CAUTIONS = (
    "Ignition and fuel off, battery disconnected. Turn by hand; both hands clear of the gears. Belts and tensioners are "
    "squeezed slowly and pinned; a sprung part lets go hard.",
    TURNED_ALONE,
)
MAX_TEETH = 99

# Answers that are kept under short names, in words.
ANSWER_WORDS = {
    **dict(LIFTERS),
    **dict(ROTOR),
    **{f"dry:{answer}": words for answer, words in DRY},
    **{f"pin-#:{answer}": words for answer, words in PINNED},
    **dict(checks.AT),
    **dict(turning.OPTIONS),
}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at, in the view chosen; None once all is."""
    found, view = answers(job), view_of(job, query)
    if view == "compare":
        found = tuple(checks.answers(job, KEY, [three_looks(mark) for mark in listed(job).marks]))
    elif view == "top" and listed(job).marks:
        found = tuple(checks.answers(job, KEY, [lifters_check(crank_at(job))])) + tuple(
            a for a in found if a.check.kind == "rotor"
        )
    elif view == "driven":
        found = tuple(answer for answer in found if answer.check.kind.startswith(("driven", "pin")))
    check = checks.pins_first(answers(job), checks.next_of(found, query.get("item", "")) or _pin_still_in(found))
    if check is None:
        return None
    asked = checks.prompt_of(job, KEY, check, method=view)
    if check.kind.startswith("look"):
        return replace(asked, second="1", second_label=say("teeth-off"))
    if check.kind == "dry":
        return replace(asked, second="1", second_label=say("teeth"))
    if check.kind == "start-1":
        wanted = target_of(job).centerline(job, "intake")
        if wanted is not None:
            return replace(asked, instruction=say("set-crank-to-deg", wanted_deg=wanted))
    return asked


def _pin_still_in(found: tuple[CheckAnswer, ...]) -> Check | None:
    """Questions that reopen by themselves: only a pin that is still in."""
    return next((answer.check for answer in found if answer.check.kind.startswith("pin") and answer.text == "in"), None)


def every_check(job: Job) -> tuple[Check, ...]:
    """All slots: listed marks and those a view adds."""
    found = listed(job)
    return (*checks_of(found), lifters_check(), *(three_looks(mark) for mark in found.marks))


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or teeth that cannot be.

    Raises
    ------
    InvalidInput
        With `text` or `second` at fault.
    """
    checks.accept(every_check(job), entry)
    if entry.spot.kind == turning.KIND:
        checks.refuse_pinned([a for a in answers(job) if a.check.kind.startswith("pin") and a.text == "in"])
    if entry.second and entry.text in (*OFF, "left", "right"):
        try:
            count(1, MAX_TEETH, "teeth cannot be")(entry.second)
        except InvalidInput as error:
            raise error.at("second") from error


def label_entry(job: Job, entry: Entry) -> Entry:
    """Snapshot of the mark, stored with the answer so that it can be read without the list."""
    label = next((check.label for check in every_check(job) if check.kind == entry.spot.kind), None)
    return replace(entry, about=label)


def describe(reading: Reading) -> str:
    """Say what was looked at, and by how many teeth it was off."""
    teeth = f", {reading.second} teeth" if reading.second and reading.text in (*OFF, "left", "right") else ""
    return f"{reading.about or say('mark-looked-at')}{teeth}"


def teeth_of(answer: CheckAnswer) -> int:
    """By how many teeth a mark was seen off."""
    return int(answer.reading.second) if answer.reading and answer.reading.second else 1


def find(job: Job) -> Finding:
    """Judge the cam by eye, and list the remaining checks."""
    found, there = answers(job), listed(job)
    base = Finding(
        Verdict.OPEN,
        rows=(*(Row(answer.check.label, "", _words(answer)) for answer in found), *_pin_row(job, there)),
        columns=("", "", "seen", ""),
        cautions=CAUTIONS,
        notes=_notes(job, found),
    )
    begun = bool(job.active_readings(KEY))
    for judge in (_off, _by_rotor, _by_lifters, _bad):
        judged = judge(job, base, found)
        if judged is not None:
            return judged
    doubtful = next((a for a in found if a.state == "unsure" and not a.check.kind.startswith("pin")), None)
    if doubtful is not None and doubtful.text == "unseen":
        return base.judged(Verdict.UNSURE, FINDINGS, "not-seen", check=doubtful.check.label)
    if doubtful is not None and (doubtful.check.kind != "lifters" or doubtful.text != "down"):
        return base.judged(Verdict.UNSURE, FINDINGS, "in-doubt", check=doubtful.check.label, answer=doubtful.words)
    waiting = [answer for answer in found if answer.reading is None]
    pin = _pin_still_in(found)
    if waiting and not (pin and waiting[0].check.kind == turning.KIND):
        looked = len(found) - len(waiting)
        return base.judged(
            Verdict.OPEN,
            FINDINGS,
            "looking",
            begun=begun,
            looked=looked,
            count=len(found),
            step=waiting[0].check.instruction,
        )
    if pin is not None:
        return base.judged(Verdict.OPEN, FINDINGS, "pin-in", label=pin.label)
    looks = [answer for answer in found if answer.check.kind.startswith("look")]
    if checks.nothing_there(looks) and not any(a.check.kind == "lifters" and a.text for a in found):
        return base.judged(Verdict.SKIPPED, FINDINGS, "nothing-there", begun=begun)
    if not there.marks and all(
        answer.text in ("na", "") for answer in found if answer.check.kind in ("overlap", "firing")
    ):
        return base.judged(Verdict.UNSURE, FINDINGS, "nothing-seen")
    if off_of(job, found):
        return base.judged(Verdict.IN, FINDINGS, "right-by-the-key")
    return base.judged(Verdict.IN, FINDINGS, "all-seen" if there.marks else "by-the-lifters")


def _words(answer: CheckAnswer) -> str:
    if answer.text in OFF:
        return f"{teeth_of(answer)} teeth {answer.text}" if teeth_of(answer) > 1 else f"a tooth {answer.text}"
    return answer.words


def _pin_row(job: Job, there: ListedMarks) -> tuple[Row, ...]:
    if not any(one.pinned for one in there.driven):
        return ()
    put_in, out = pins(job)
    return (Row(say("pins-counted"), "", f"{put_in} in, {out} out"),)


def _off(job: Job, base: Finding, found: tuple[CheckAnswer, ...]) -> Finding | None:
    off = [answer for answer in off_of(job, found) if not outranked(job, found, answer)]
    if not off:
        return None
    places = "; ".join(f"{answer.check.label}: {_words(answer)}" for answer in off)
    way = "back" if off[0].text == "early" else "forward"
    return base.judged(Verdict.OUT, FINDINGS, "teeth-off", places=places, teeth=teeth_of(off[0]), way=way)


def off_of(job: Job, found: tuple[CheckAnswer, ...]) -> list[CheckAnswer]:
    """Marks seen off."""
    return [answer for answer in found if answer.check.kind.startswith("look") and answer.state == "out"]


def outranked(job: Job, found: tuple[CheckAnswer, ...], answer: CheckAnswer) -> bool:
    """Whether keys, pins or dowels that are all right overrule a mark that is off."""
    ranks = {f"look-{mark.n}": mark.decides for mark in listed(job).marks}
    if ranks.get(answer.check.kind, False) or not answer.check.kind.startswith(("look", "back")):
        return False
    deciding = [each for each in found if ranks.get(each.check.kind, False) and each.text != "na"]
    return bool(deciding) and all(each.state == "in" for each in deciding)


def top_by_lifters(found: tuple[CheckAnswer, ...]) -> str:
    """Which top the lifters say it is: `firing`, `overlap`, or nothing."""
    text = next((answer.text for answer in found if answer.check.kind == "lifters"), "")
    return "" if text in ("", "unseen") else "firing" if text == "down" else "overlap"


def _by_rotor(job: Job, base: Finding, found: tuple[CheckAnswer, ...]) -> Finding | None:
    rotor = next((answer.text for answer in found if answer.check.kind == "rotor"), "")
    top = top_by_lifters(found)
    if not top or rotor not in ("one", "half"):
        return None
    return (
        None
        if (rotor == "one") == (top == "firing")
        else base.judged(Verdict.OUT, FINDINGS, "rotor-half-turn", top=top)
    )


def _by_lifters(job: Job, base: Finding, found: tuple[CheckAnswer, ...]) -> Finding | None:
    answer = next((answer for answer in found if answer.check.kind == "lifters" and answer.reading), None)
    code = code_of_lifters(answer.text, crank_at(job), belongs(job)) if answer else ""
    if code in ("tooth-early", "tooth-late", "turn-out"):
        return base.judged(Verdict.OUT, FINDINGS, code)
    marked = any(each.check.kind.startswith("look") for each in found)
    if code in ("early", "late") and not marked:
        return base.judged(Verdict.UNSURE, FINDINGS, code)
    proved = all(each.text == "yes" for each in found if each.check.kind in ("overlap", "firing"))
    if code in ("early", "late") and marked:
        return None
    if code == "firing-top" and not marked and not proved:
        return base.judged(Verdict.UNSURE, FINDINGS, code)
    return None


def _bad(job: Job, base: Finding, found: tuple[CheckAnswer, ...]) -> Finding | None:
    bad = next((a for a in found if a.state == "out" and not outranked(job, found, a)), None)
    return base.judged(Verdict.OUT, FINDINGS, "bad", check=bad.check.label, answer=bad.words) if bad else None


def _notes(job: Job, found: tuple[CheckAnswer, ...]) -> tuple[str, ...]:
    sentences: list[str] = []
    if beside := [answer.check.label for answer in off_of(job, found) if outranked(job, found, answer)]:
        sentences.append(say("key-decides-over-marks", marks="; ".join(beside)))
    by_kind = {answer.check.kind: answer for answer in found if answer.reading}
    lifters = by_kind.get("lifters")
    if lifters is not None and (words := lifters_message(code_of_lifters(lifters.text, crank_at(job), belongs(job)))):
        sentences.append(words)
    dry = by_kind.get("dry")
    if dry is not None and dry.text in ("left", "right"):
        sentences.append(
            say("start-helical-gear-off-mark", teeth=teeth_of(dry), way="right" if dry.text == "left" else "left")
        )
    if all(f"start-{n}" in by_kind for n in (1, 2, 3)):
        sentences.append(say("centerline-setting-is-a-start"))
    return tuple(sentences)
