"""Fit: setting an end play by spacer and plate, by shims, or by sanding the cheeks of a thrust bearing."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from uranograph.bench import shop_limits
from uranograph.bench.acts import Act
from uranograph.bench.finding import WORST_FIRST, Finding, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot, in_mm, slot_of
from uranograph.core.end_play import PlayVerdict
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_fine
from uranograph.engine import end_play, end_play_form
from uranograph.engine.end_play import bracket_words
from uranograph.engine.end_play_form import PARTS
from uranograph.stations.setting.advice import (
    SIDES,
    Cheeks,
    cheeks,
    earlier_readings,
    fitted,
    pack_unknown,
    pack_words,
    ring,
    shim_advice,
)
from uranograph.stations.setting.means import KEY, goal_mm, parse_pack, setup
from uranograph.stations.setting.messages import FINDINGS, say

SHIMS = Slot[str](KEY, tuple(f"shims-{part}" for part in PARTS), ("fitted",))
THICKNESS = Slot(KEY, tuple(f"{kind}-{part}" for kind in ("spacer", "plate") for part in PARTS), ("thickness",), in_mm)
CHEEK = Slot(KEY, tuple(f"cheek-{part}" for part in PARTS), ("front", "rear"), in_mm)


CAUTIONS = (
    "Sanding: wet, flat on glass, wash everything after; no dust into the engine or the lungs. Bearing metal may hold lead. "
    "Magnesium dust burns, and wet it gives hydrogen: keep it small, dry sand at hand, never water on a fire.",
)


def views(job: Job) -> dict[str, str]:
    """The shafts whose play is set."""
    return {part: part.capitalize() for part in setup(job)}


def part_of(job: Job, query: Mapping[str, str]) -> str:
    """The shaft asked for, or the first that is to be set and is not yet."""
    shown = views(job)
    wanted = query.get("method", "")
    if wanted in shown:
        return wanted
    waiting = (part for part in shown if state_of(job, part).verdict not in (Verdict.IN, Verdict.SKIPPED))
    return next(waiting, next(iter(shown), ""))


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for what is done next on one shaft; None where its play must be read first."""
    part = part_of(job, query)
    means = setup(job).get(part)
    if means is None or means.way == "left" or (end_play.latest(job, part) is None and not means.is_play):
        return None
    extra = {"method": part}
    if means.way == "shims":
        advice = shim_advice(job, part)
        kind, words = f"shims-{part}", pack_words(advice.pack.pack_mm, job.unit) if advice else ""
        asked = say("fit-pack", words=words) if words else say("take-pack-out")
        if state_of(job, part).verdict is Verdict.IN:
            asked = say("set-proved")
        return Prompt(
            slot=SHIMS.next(job, kind),
            label="Pack fitted",
            instruction=asked,
            hint=say("measure-pack-hint"),
            unit=job.unit.value,
            extra=extra,
        )
    if means.way == "spacer":
        found = ring(job, part)
        kind = "plate" if found.spacer_mm is not None and found.plate_mm is None else "spacer"
        if found.play_mm is not None:
            kind = query.get("item", "") if query.get("item") in ("spacer", "plate") else "spacer"
        return Prompt(
            slot=THICKNESS.next(job, f"{kind}-{part}"),
            label="Spacer ring" if kind == "spacer" else "Thrust plate",
            instruction=say("measure-part", way="spacer ring" if kind == "spacer" else "thrust plate"),
            hint=say("play-is-difference"),
            unit=job.unit.value,
            extra=extra,
        )
    return _cheek_prompt(job, part, extra)


def _cheek_prompt(job: Job, part: str, extra: dict[str, str]) -> Prompt:
    faces = cheeks(job, part)
    if faces is None:
        raise Missing("faces")
    front, rear = (len(faces.thickness_mm.get(side, ())) for side in SIDES)
    side = "front" if front <= rear else "rear"
    number = min(front, rear) + 1
    left = None if faces.wanted_mm is None else faces.wanted_mm - faces.taken_mm(side)
    if number == 1:
        asked = say("measure-face", sides=SIDES[side])
    elif left is not None and left > 0:
        asked = say("sand-face", job.unit, sides=SIDES[side], left_mm=left, unit_name=job.unit.value)
    else:
        asked = say("face-at-goal", sides=SIDES[side])
    return Prompt(
        slot=slot_of(f"cheek-{part}", number, side),
        label=f"Thickness, {SIDES[side]}" + (f", pass {number - 1}" if number > 1 else ""),
        instruction=asked,
        hint=say("sand-face-hint"),
        unit=job.unit.value,
        extra=extra,
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a thickness that cannot be.

    Raises
    ------
    InvalidInput
        With `text` at fault.
    """
    kind, _, side = entry.spot
    what, part = kind.split("-")
    means = setup(job).get(part)
    if means is None or means.way != {"cheek": "cheeks", "shims": "shims"}.get(what, "spacer"):
        raise InvalidInput("text", "not-set-this-way", part=part)
    if what == "shims":
        try:
            parse_pack(entry.text, entry.unit)
        except InvalidInput as error:
            raise error.at("text") from error
        return
    mm = entry.mm
    if not 0 < mm <= 500:
        raise InvalidInput("text", "not-a-part-thickness", typed=entry.text)
    if what == "cheek":
        before = cheeks(job, part)
        passes = before.thickness_mm.get(side, ()) if before else ()
        if passes and mm > passes[-1] + 0.05:
            raise InvalidInput("text", "thicker-than-before", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what was measured or fitted."""
    kind, number, place = reading.spot
    what, part = kind.split("-")
    if what == "cheek":
        return f"{part}: {SIDES[place]}" + ("" if number == 1 else f", pass {number - 1}")
    return f"{part}: {'shims fitted' if what == 'shims' else what}"


def state_of(job: Job, part: str) -> Finding:
    """Status of one shaft's setting: a code and its figures."""
    name, unit = part.capitalize(), job.unit

    def judged(verdict: Verdict, code: str, **values: Any) -> Finding:
        return Finding(verdict).judged(verdict, FINDINGS, code, unit, name=name, part=part, **values)

    last, way = end_play.latest(job, part), setting_method(job, part)
    if last is None and not (way == "shims" and setup(job)[part].is_play):
        return judged(Verdict.OPEN, "read-it-first")
    if last is not None and not last[0].means_something and last[1] == end_play.LATEST:
        return judged(Verdict.OPEN, "parts-first", bracket=bracket_words(job, last[0]))
    if way == "left":
        proof = end_play.state_of(job, part)
        bracket = "" if last is None else bracket_words(job, last[0])
        if proof.verdict is Verdict.IN:
            return judged(Verdict.IN, "in-as-it-is", bracket=bracket)
        return judged(Verdict.SKIPPED, "left-as-it-is", bracket=bracket)
    if end_play.since(job, part) and end_play.measured(job, part) is not None:
        proof = end_play.state_of(job, part)
        if proof.verdict is Verdict.IN:
            return judged(Verdict.IN, "set-and-proved", play=proof.sentence)
        if proof.verdict is Verdict.OUT:
            return judged(Verdict.OUT, "set-again", title=proof.title, play=proof.sentence, advice=_to_do(job, part))
        return proof
    if way == "shims" and pack_unknown(job, part):
        return judged(Verdict.OPEN, "pack-unknown")
    if sanded_unmeasured(job, part):
        return judged(Verdict.OPEN, "changed-not-proved", change=say("sanded-not-measured"))
    if end_play.since(job, part) and not (way == "cheeks" and short_of_goal(job, part)):
        return judged(Verdict.OPEN, "changed-not-proved", change=_done(job, part))
    if last is None:
        return judged(Verdict.OPEN, "stands-off", advice=_to_do(job, part))
    play = last[0]
    bracket = bracket_words(job, play)
    if play.verdict is PlayVerdict.IN and not end_play.since(job, part):
        return judged(Verdict.IN, "in-as-it-is", bracket=bracket)
    figures: dict[str, Any] = {"bracket": bracket, "goal_mm": goal_mm(job, part) or 0.0}
    problem = _unreachable(job, part)
    if problem:
        return judged(Verdict.OUT, "out-of-reach", problem=problem, **figures)
    return judged(Verdict.OPEN, "being-sanded" if way == "cheeks" else "being-set", advice=_to_do(job, part), **figures)


def sanded_unmeasured(job: Job, part: str) -> bool:
    """Whether the last change to a shaft's play was a sanding pass without a recorded thickness."""
    newest = max((act.seq for act in _sanded(job, part)), default=0)
    return newest > 0 and newest == end_play.since(job, part)


def _sanded(job: Job, part: str) -> list[Act]:
    acts = job.acts("shims")
    return [act for act in acts if act.kind == "cheek-sanded" and act.scope in (None, part)]


def setting_method(job: Job, part: str) -> str:
    """The way one shaft is set."""
    means = setup(job).get(part)
    return means.way if means else ""


def short_of_goal(job: Job, part: str) -> bool:
    """Whether a shaft's thrust faces are being sanded, and one has not given what it is to give."""
    if setting_method(job, part) != "cheeks" or not end_play.since(job, part):
        return False
    faces = cheeks(job, part)
    if faces is None or faces.wanted_mm is None:
        return False
    return any(faces.taken_mm(side) < faces.wanted_mm - 0.003 for side in SIDES)


def _done(job: Job, part: str) -> str:
    way = setting_method(job, part)
    if way == "shims":
        pack = fitted(job, part) or ()
        return f"{pack_words(pack, job.unit) or 'no shims'} fitted."
    if way == "cheeks":
        faces = cheeks(job, part)
        if faces is None:
            raise Missing("faces")
        apart = _unlike(job, faces)
        return f"{format_fine(faces.taken_mm('front'), job.unit)} and {format_fine(faces.taken_mm('rear'), job.unit)} taken off.{apart}"
    return say("spacer-or-plate-changed")


def _unlike(job: Job, faces: Cheeks) -> str:
    if faces.apart_mm <= shop_limits.value(job.shop_limits, "cheeks_alike"):
        return ""
    allowed = shop_limits.limit_text(job.shop_limits, "cheeks_alike", job.unit)
    return say("faces-unlike", job.unit, apart_mm=faces.apart_mm, allowed=allowed)


def _unreachable(job: Job, part: str) -> str:
    way = setting_method(job, part)
    if way == "shims":
        advice = shim_advice(job, part)
        if advice and not advice.within:
            words = pack_words(advice.pack.pack_mm, job.unit) or say("no-shims")
            return say("stock-cannot-reach", job.unit, words=words, play_mm=advice.play_mm)
    if way == "cheeks":
        faces = cheeks(job, part)
        if faces and faces.wanted_mm is not None and faces.wanted_mm < 0:
            return say("too-much-play-to-sand")
    return ""


def _to_do(job: Job, part: str) -> str:
    way = setting_method(job, part)
    if way == "shims":
        advice = shim_advice(job, part)
        if advice is None:
            return ""
        words = pack_words(advice.pack.pack_mm, job.unit) or "no shims"
        if advice.binds:
            return say("shims-at-least", words=words)
        return f"{words[0].upper()}{words[1:]} leaves {format_fine(advice.play_mm, job.unit)} {job.unit.value}."
    if way == "cheeks":
        faces = cheeks(job, part)
        if faces is None or faces.wanted_mm is None:
            return ""
        left = [max(0.0, faces.wanted_mm - faces.taken_mm(side)) for side in SIDES]
        last = end_play.latest(job, part)
        if last is not None and last[0].binds:
            return say("take-off-at-least", job.unit, wanted_mm=faces.wanted_mm)
        return say(
            "take-off-faces",
            job.unit,
            wanted_mm=faces.wanted_mm,
            left_mm=left[0],
            left_2_mm=left[1],
            unlike=_unlike(job, faces),
        )
    found, goal = ring(job, part), goal_mm(job, part)
    if found.play_mm is None or goal is None or found.plate_mm is None:
        return say("measure-spacer-plate")
    return say("spacer-for-play", job.unit, play_mm=found.play_mm, plate_mm=found.plate_mm + goal)


def find(job: Job) -> Finding:
    """Say how far each shaft is set, the worst first."""
    set_up = setup(job)
    bare = Finding(Verdict.OPEN, "")
    if not set_up:
        plays = end_play_form.setup(job)
        if plays and all(end_play.state_of(job, part).verdict is Verdict.IN for part in plays.loops):
            return bare.judged(Verdict.IN, FINDINGS, "nothing-to-set")
        begun = job.latest(KEY) is not None
        if plays is None:
            return bare.judged(Verdict.OPEN, FINDINGS, "play-missing", begun=begun)
        return bare.judged(Verdict.OPEN, FINDINGS, "way-missing", begun=begun)
    worst = min((state_of(job, part) for part in set_up), key=lambda each: WORST_FIRST.index(each.verdict))
    unit = job.unit
    rows = []
    for each in set_up:
        last = end_play.latest(job, each)
        goal = goal_mm(job, each)
        rows.append(
            Row(
                each.capitalize(),
                "" if goal is None else format_fine(goal, unit),
                "" if last is None else format_fine(last[0].middle_mm, unit),
                _expected(job, each),
            )
        )
    return replace(
        worst,
        begun=bool(job.active_readings(KEY)) or job.latest(KEY) is not None,
        cautions=CAUTIONS if any(means.way == "cheeks" for means in set_up.values()) else (),
        rows=tuple(rows),
        columns=("", "wanted", "was", "would be"),
    )


def _expected(job: Job, part: str) -> str:
    advice = shim_advice(job, part)
    if advice is not None:
        return format_fine(advice.play_mm, job.unit)
    faces, last = cheeks(job, part), end_play.latest(job, part)
    if faces is not None and faces.passes and last is not None:
        # Stock removed on both cheeks since the play was measured.
        before = [
            [r.mm for r in earlier_readings(job, f"cheek-{part}", last[1]) if r.spot.place == side] for side in SIDES
        ]
        off_then = sum(values[0] - values[-1] for values in before if values)
        off_now = sum(faces.taken_mm(side) for side in SIDES)
        return format_fine(last[0].middle_mm + off_now - off_then, job.unit)
    found = ring(job, part)
    return format_fine(found.play_mm, job.unit) if found.play_mm is not None else ""
