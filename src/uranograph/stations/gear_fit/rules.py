"""Fit: the gear to the cam: order and facing, heat, bolts."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench import checks
from uranograph.bench.checks import Check
from uranograph.bench.finding import Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.parsers import celsius
from uranograph.core import torque
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_fine
from uranograph.stations.gear_fit import temperatures
from uranograph.stations.gear_fit.bolts import pull_prompt, pulled_as, pulls
from uranograph.stations.gear_fit.fit import Fit, setup
from uranograph.stations.gear_fit.heating import cautions_of, fahrenheit, grip, heated, none_left_hot
from uranograph.stations.gear_fit.messages import FINDINGS, say
from uranograph.stations.gear_fit.order import (
    LOOKS,
    ON_CRANK,
    WHOLE_OF,
    answered_none,
    answers,
    checks_of,
    held_by,
    proved,
)
from uranograph.stations.gear_fit.temperatures import GEAR, KEY, SHAFT, TEMPERATURE


def views(job: Job) -> dict[str, str]:
    """Ways of looking: the order of the parts, the heat, the bolts."""
    set_up = setup(job)
    found = {"order": "Order"}
    if set_up.heat or set_up.heated:
        found["heat"] = "Heat"
    if set_up.bolts:
        found["bolts"] = "Bolts"
    return found


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next thing to look at; on the bolts, for the next pull; None once all is looked at."""
    found = answers(job)
    view = query.get("method", "")
    if view == "bolts" and setup(job).bolts and not query.get("item"):
        return pull_prompt(job)
    if view == "heat" and not query.get("item"):
        cold = next((a.check for a in found if a.check.kind in ("rehearsed", "paint") and a.reading is None), None)
        if cold:
            return checks.prompt_of(job, KEY, cold, method=view)
        return temperatures.prompt(job, temperatures.wanted(job, setup(job).heat, setup(job).heated) or GEAR)
    if query.get("item", "") in TEMPERATURE.kinds:
        return temperatures.prompt(job, query["item"])
    check = checks.next_of(found, query.get("item", ""))
    hot = temperatures.wanted(job, setup(job).heat, setup(job).heated)
    if hot and not query.get("item") and (check is None or _goes_on_hot(check)):
        return temperatures.prompt(job, hot)
    return checks.prompt_of(job, KEY, check, method=view) if check else None


def _goes_on_hot(check: Check) -> bool:
    """Whether something is looked at only once the gear is on: its temperature comes before."""
    kinds = [each.kind for each in LOOKS]
    return kinds.index(check.kind.removeprefix(ON_CRANK)) > kinds.index("paint")


def accept(job: Job, entry: Entry) -> None:
    """Refuse an answer that was not offered, or a torque that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    kind, _, place = entry.spot
    if place == "measured":
        if entry.text != temperatures.NOT_MEASURED:
            celsius(entry.text)
        return
    if place != "pulled":
        # An answer to a question that no longer applies is still accepted.
        parts = [check for check in LOOKS if answered_none(job, WHOLE_OF.get(check.kind, ""))]
        checks.accept((*checks_of(job), *parts), entry)
        return
    bolts = setup(job).bolts
    stage, bolt = (int(part) for part in kind.removeprefix("torque-").split("-"))
    if bolts is None or not 1 <= stage <= len(bolts.stages) or not 1 <= bolt <= bolts.count:
        raise InvalidInput("text", "no-such-stage")
    called = bolts.stages[stage - 1]
    pulled = pulled_as(called, entry.text, bolts.unit)
    strongest = max((each.most_nm for each in bolts.stages if each.most_nm), default=0.0)
    furthest = max((each.turn_deg for each in bolts.stages if each.turn_deg), default=0.0)
    if called.turn_deg is not None and not 0 < pulled <= 2 * furthest:
        raise InvalidInput("text", "turn-far-past", typed=entry.text, called=called.words())
    if called.most_nm is not None and pulled > 2 * strongest:
        raise InvalidInput("text", "torque-far-past", typed=entry.text, both=torque.both(strongest, bolts.unit))


def describe(reading: Reading) -> str:
    """Say what was looked at, measured or pulled."""
    kind, _, place = reading.spot
    if place == "measured":
        return say("gear-temperature") if kind == GEAR else say("shaft-temperature")
    if kind.startswith(ON_CRANK):
        return f"crank gear, {next(c.label for c in LOOKS if c.kind == kind.removeprefix(ON_CRANK)).lower()}"
    if place == "pulled":
        _, stage, bolt = kind.split("-")
        return f"stage {stage}, bolt {bolt}"
    return {"keytried": say("key-tried-by-hand"), "key": say("key-seen-in-slot"), "pattern": "bolt position"}.get(
        kind, kind
    )


def describe_briefly(reading: Reading) -> str:
    """Stage and bolt alone."""
    kind, _, place = reading.spot
    return "/".join(kind.split("-")[1:]) if place == "pulled" else describe(reading)


def find(job: Job) -> Finding:
    """Say whether the gear is on as it must be."""
    found, fit, pulled = answers(job), setup(job), pulls(job)
    looked = sum(answer.reading is not None for answer in found)
    done = sum(pull.right for pull in pulled)
    base = Finding(
        Verdict.OPEN,
        "",
        begun=looked > 0 or done > 0 or fit != Fit(None, None),
        cautions=cautions_of(fit),
        rows=_rows(job),
        columns=("", "called for", "done", ""),
        notes=_notes(job),
    )

    def judged(verdict: Verdict, code: str, **values: Any) -> Finding:
        return base.judged(verdict, FINDINGS, code, job.unit, begun=base.begun, **values)

    hot = heated(job)
    if hot is not None and fit.heat is not None and hot.fit.within_limit is False:
        given = fit.heat.given
        return judged(Verdict.OUT, "too-hot", gear_c=hot.fit.gear_c, limit_c=given.limit_c, material=fit.heat.material)
    if hot is not None and fit.heat is not None and none_left_hot(hot) and not _held_otherwise(job):
        return judged(Verdict.OUT, "loose-when-hot", running_c=fit.heat.given.running_c)
    warm = temperatures.judged(job, fit.heat, fit.heated)
    if warm is not None and warm.verdict is Verdict.OUT:
        return judged(Verdict.OUT, warm.code, **warm.values)
    bad = next((answer for answer in found if answer.state == "out"), None)
    if bad is not None:
        return judged(Verdict.OUT, "seen-wrong", check=bad.check.label, answer=bad.words, hint=bad.check.hint)
    wrong = next((pull for pull in pulled if pull.pulled is not None and not pull.right), None)
    if wrong is not None and wrong.pulled is not None:
        code = "bolt-past-torque" if wrong.called.against(wrong.pulled) > 0 else "bolt-short-of-torque"
        return judged(Verdict.OUT, code, bolt=wrong.bolt, pulled=wrong.words, called=wrong.called_words)
    unseen = next((answer for answer in found if answer.state == "unsure"), None)
    if unseen is not None:
        return judged(Verdict.UNSURE, "not-seen", check=unseen.check.label, answer=unseen.words)
    if warm is not None:
        return judged(Verdict.UNSURE, warm.code, **warm.values)
    still = temperatures.wanted(job, fit.heat, fit.heated)
    following = next((answer.check for answer in found if answer.reading is None), None)
    if still and (following is None or _goes_on_hot(following)):
        label = say("gear-temperature") if still == GEAR else say("shaft-temperature")
        return judged(Verdict.OPEN, "to-be-measured", what=label)
    if pulled and looked == len(found) and not proved(job):
        return judged(Verdict.OPEN, "snug-until-proved")
    if looked < len(found):
        if following is None:
            raise Missing("following")
        code = "looking-and-pulling" if pulled else "looking"
        counted = {"looked": looked, "checks": len(found), "done": done, "pulls": len(pulled)}
        return judged(Verdict.OPEN, code, **counted, following=following.label)
    if done < len(pulled):
        return judged(Verdict.OPEN, "pulling", looked=looked, checks=len(found), done=done, pulls=len(pulled))
    if checks.nothing_there(found) and not pulled and not temperatures.newest(job, GEAR):
        return judged(Verdict.SKIPPED, "nothing-there")
    return judged(Verdict.IN, "on-and-pulled" if pulled else "on")


def _held_otherwise(job: Job) -> bool:
    held = held_by(job)
    return setup(job).bolts is not None or held in ("key", "taper", "dowel", "bolts")


def _rows(job: Job) -> tuple[Row, ...]:
    hot, fit = heated(job), setup(job)
    rows = []
    if hot is not None and fit.heat is not None:
        if hot.fit.interference_running_mm is not None:
            left = format_fine(hot.fit.interference_running_mm, job.unit).replace("-", "−")
            rows.append(Row(f"Interference left at {fit.heat.given.running_c:.0f} °C", left))
        rows.append(Row("Gear at", fahrenheit(hot.fit.gear_c)))
        if fit.heat.chilled:
            apart = fit.heat.difference_c(temperatures.shaft_c(job, fit.heat))
            rows.append(Row("Grips when gear less shaft is under", say("degrees-apart", apart_c=apart)))
        else:
            rows.append(Row("Grips again at", fahrenheit(hot.grips_c)))
        if fit.heat.given.limit_c is not None:
            rows.append(Row("It bears", fahrenheit(fit.heat.given.limit_c)))
    if fit.heated is not None:
        rows.append(Row("Heated to", fahrenheit(fit.heated.gear_c)))
        rows.append(Row("Slips over an interference of up to", format_fine(fit.heated.allows_mm, job.unit)))
        if fit.heated.limit_c is not None:
            rows.append(Row("It bears", fahrenheit(fit.heated.limit_c)))
    for label, kind in (("Measured", GEAR), ("Shaft measured", SHAFT)):
        if (shown := temperatures.newest(job, kind)) is not None:
            read = temperatures.measured_c(job, kind)
            rows.append(Row(label, "", shown.text if read is None else fahrenheit(read)))
    if (gripped := grip(job)) is not None:
        rows.append(Row("Room on the shaft then", "", format_fine(gripped.room_mm, job.unit).replace("-", "−")))
    return tuple(rows)


def _notes(job: Job) -> tuple[str, ...]:
    hot = heated(job)
    if hot is None:
        return ()
    sentences = [say("thermometer-hint")]
    if (gripped := grip(job)) is not None:
        room, grips = abs(gripped.room_mm), gripped.grips_c
        sentences.append(
            say("slips-on-now", job.unit, room_mm=room, grips_c=grips)
            if gripped.room_mm > 0
            else say("grips-at-this", job.unit, room_mm=room, grips_c=grips)
        )
    heat = setup(job).heat
    if heat is not None and heat.chilled:
        apart = heat.difference_c(temperatures.shaft_c(job, heat))
        sentences.append(say("grips-by-difference", apart_c=apart))
    if none_left_hot(hot) and _held_otherwise(job):
        sentences.append(say("no-interference-when-hot"))
    if hot.cooling is not None:
        seconds = hot.cooling.loose_s
        words = f"{seconds / 60:.0f} minutes" if seconds >= 120 else f"{seconds:.0f} seconds"
        sentences.append(say("stays-loose-for", words=words))
    if hot.fit.within_limit is None:
        sentences.append(say("material-limit-unknown"))
    return tuple(sentences)
