"""Fit: end play of crank, cam and idler, by feelers or by a dial."""

from collections.abc import Mapping
from dataclasses import replace
from statistics import fmean

from uranograph.bench import checks, shop_limits
from uranograph.bench.checks import CheckAnswer
from uranograph.bench.finding import WORST_FIRST, Finding, Prompt, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.core.end_play import PlayVerdict
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_fine
from uranograph.engine.end_play import (
    BINDS,
    PLAY,
    REPEATS,
    as_typed,
    check_of,
    measured,
    next_blade,
    plays_taken,
    since,
    stacked_mm,
    state_of,
    views,
)
from uranograph.engine.end_play_form import KEY, PlayWindow, loop_of, setup
from uranograph.stations.end_play.messages import FINDINGS, say

CAUTIONS = ("Lever gently, never against a machined face, hands clear of gears and springs.",)


def _fitted(job: Job, part: str) -> CheckAnswer:
    loop = loop_of(job, part)
    if loop is None:
        raise Missing("loop")
    taken = [r for r in plays_taken(job, part, since(job, part)) if r.slot.startswith("fitted-")]
    return CheckAnswer(check_of(part, loop), taken[-1] if taken else None)


def part_of(job: Job, query: Mapping[str, str]) -> str:
    """The shaft asked for, or the first whose play is not settled."""
    shown = views(job)
    wanted = query.get("method", "")
    if wanted in shown:
        return wanted
    open_ = [part for part in shown if state_of(job, part).verdict is not Verdict.IN]
    return next(iter(open_ or shown), "")


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask whether the limiting parts are fitted, then for the next blade or travel."""
    part = part_of(job, query)
    loop = loop_of(job, part)
    if loop is None:
        return None
    answer = _fitted(job, part)
    extra = {"method": part}
    if answer.reading is None or query.get("item") == answer.check.kind:
        return checks.prompt_of(job, KEY, answer.check, **extra)
    if loop.way == "dial":
        count = len(_taken_travels(job, part))
        return Prompt(
            slot=PLAY.next(job, part, "travel"),
            label=f"Travel, {min(count + 1, REPEATS)} of {REPEATS}" if count < REPEATS else "Travel, once more",
            instruction=say("read-dial-travel", part=part),
            hint=say("push-all-the-way"),
            unit=job.unit.value,
            extra=extra,
        )
    blade = next_blade(job, part)
    return Prompt(
        slot=PLAY.next(job, part, "blade"),
        label="Does it go?",
        instruction=(
            say("play-in-another-blade")
            if (play := measured(job, part)) is not None and play.verdict is PlayVerdict.IN and not play.problem
            else say("try-blade", part=part)
        ),
        hint=say("blade-fit-hint"),
        second=as_typed(blade, job.unit),
        second_label=f"Blade, {job.unit.value}",
        options=(("goes", "goes"), ("not", "does not go"), (BINDS, "it binds: no play at all")),
        unit=job.unit.value,
        extra=extra,
    )


def _taken_travels(job: Job, part: str) -> list[Reading]:
    return [r for r in plays_taken(job, part, since(job, part)) if r.slot.endswith(".travel")]


def accept(job: Job, entry: Entry) -> None:
    """Refuse a blade, a travel or an answer that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text` or `second`.
    """
    kind, _, place = entry.spot
    part = kind.removeprefix("fitted-")
    loop = loop_of(job, part)
    if loop is None:
        raise InvalidInput("text", "play-allowed-missing", part=part)
    if kind.startswith("fitted-"):
        checks.accept((check_of(part, loop),), entry)
        return
    if place == "blade":
        if entry.text not in ("goes", "not", BINDS):
            raise InvalidInput("text", "blade-answer-missing")
        try:
            blade = stacked_mm(entry.second or "", entry.unit)
        except InvalidInput as error:
            raise error.at("second") from error
        if not 0 < blade <= 5:
            raise InvalidInput("second", "not-a-blade", typed=entry.second)
        return
    travel = entry.mm
    if travel < 0:
        raise InvalidInput("text", "lever-below-nothing")
    if travel > 10:
        raise InvalidInput("text", "more-than-any-play", typed=entry.text)


def describe(reading: Reading) -> str:
    """Say what was tried on which shaft."""
    kind, _, place = reading.spot
    if place == "blade":
        return f"{kind}: blade {reading.second}"
    return f"{kind}: travel" if place == "travel" else say("limiting-parts-of", kind=kind.removeprefix("fitted-"))


def find(job: Job) -> Finding:
    """Judge every shaft's play, the worst first."""
    set_up = setup(job)
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if set_up is None:
        return bare.judged(Verdict.OPEN, FINDINGS, "set-up-missing", begun=job.latest(KEY) is not None)
    states = {part: state_of(job, part) for part in set_up.loops}
    part, first = min(states.items(), key=lambda each: WORST_FIRST.index(each[1].verdict))
    if first.verdict is Verdict.IN:
        first = first.judged(
            Verdict.IN, FINDINGS, "all-within", plays=" ".join(state.sentence for state in states.values())
        )
    play = measured(job, part)
    doubt = None if play is None or play.high_mm is None else (play.high_mm - play.low_mm) / 2
    return replace(
        first,
        begun=any(measured(job, each) is not None for each in set_up.loops),
        quantity=None
        if play is None
        else Quantity(play.middle_mm, doubt, "mm", job.unit, label=f", {part}", fine=True, at_least=doubt is None),
        cautions=CAUTIONS,
        rows=tuple(_row(job, each, set_up.loops[each]) for each in set_up.loops),
        columns=("", "allowed", "measured", "hot"),
    )


def _row(job: Job, part: str, loop: PlayWindow) -> Row:
    play, unit = measured(job, part), job.unit
    allowed = f"{as_typed(loop.low_mm, unit)}–{as_typed(loop.high_mm, unit)}"
    if loop.single_mm is not None:
        rule = shop_limits.limit_text(job.shop_limits, "single_figure", unit)
        allowed = say("single-figure-window", allowed=allowed, single=as_typed(loop.single_mm, unit), rule=rule)
    if play is None:
        return Row(part.capitalize(), allowed, "not read")
    if play.binds:
        return Row(part.capitalize(), allowed, "binds")
    hot = ""
    if play.hot_change_mm is not None:
        ends = [play.low_mm, play.low_mm if play.high_mm is None else play.high_mm]
        hot = "–".join(format_fine(end + play.hot_change_mm, unit).replace("-", "−") for end in ends)
    if play.travels_mm:
        return Row(part.capitalize(), allowed, format_fine(fmean(play.travels_mm), unit), hot)
    high = "…" if play.high_mm is None else as_typed(play.high_mm, unit)
    return Row(part.capitalize(), allowed, f"{as_typed(play.low_mm, unit)}–{high}", hot)
