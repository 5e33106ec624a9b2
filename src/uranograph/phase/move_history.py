"""Every position of the cam in turn: what was expected of it, and what was read."""

import math
import re
from dataclasses import dataclass, replace

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.adjust import (
    Adjuster,
    Choices,
)
from uranograph.core.chain import ChainInput, chain
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_angle, format_length, late_or_early
from uranograph.engine import adjusters as drive
from uranograph.engine import positions
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import banks, cam_key
from uranograph.phase import judgment
from uranograph.phase.move_messages import say


def effects(job: Job) -> list[str]:
    """Causes outside the builder's work: lowered cam, longer chain, each with its estimated retard."""
    known = drive_of(job)
    if known is None or not known.cam_radius_mm:
        return []
    sentences: list[str] = []
    if known.elongation_pct and known.tight_span_mm:
        given = ChainInput(
            tight_span_mm=known.tight_span_mm, cam_radius_mm=known.cam_radius_mm, elongation_pct=known.elongation_pct
        )
        late = chain(given).retard_deg
        sentences.append(say("chain-stretch-retards", elongation_pct=known.elongation_pct, late_deg=late))
    if known.center_drop_mm:
        given = ChainInput(
            tight_span_mm=known.tight_span_mm or 1,
            cam_radius_mm=known.cam_radius_mm,
            center_drop_mm=known.center_drop_mm,
        )
        late = chain(given).retard_deg
        sentences.append(
            say(
                "cut-retards",
                cut=_cut(job, known.center_drop_mm),
                late_deg=abs(late),
                way="late" if late > 0 else "early",
            )
        )
    return sentences


def _cut(job: Job, drop_mm: float) -> str:
    words = f"{format_length(abs(drop_mm), job.unit)} {job.unit.value}"
    return say("block-or-head-cut", words=words) if drop_mm > 0 else f"A gasket thicker by {words}"


# How near a move lands to its mark, one standard deviation, crank degrees.
STEP_DEG = {"choices": 0.05, "tooth": 0.05, "pin-vernier": 0.05, "hole-sets": 0.05, "bushing": 0.1, "slot": 0.25}
_STEPS = re.compile(r"([0-9]+) .* (advanced|retarded)")


@dataclass(frozen=True)
class Step:
    """A line of the history: a position of the cams, what was found there, and how the move to it turned out."""

    number: int
    words: str
    errors: dict[str, tuple[float, float]]
    told: str
    view: Job
    outcome: str = ""


def as_left(job: Job) -> list[drive.Described]:
    """Each adjuster where the tries have left it, by the marks as they were described."""
    described = drive_of(job)
    if described is None:
        raise Missing("described")
    adjusters = list(described.adjusters)
    for one in positions.every_try(job):
        for made in one.moves:
            for k, each in enumerate(adjusters):
                if each.name == made.name or (not made.name and made.adjuster == k):
                    adjusters[k] = replace(each, adjuster=_moved(each.adjuster, made.to))
    return adjusters


def fitted_positions(job: Job) -> tuple[tuple[str, str], ...]:
    """Current position of each adjuster: its name, and its label or offset."""
    if drive_of(job) is None:
        return ()
    return tuple((each.name, _fitted_position(each.adjuster)) for each in as_left(job))


def _fitted_position(adjuster: Adjuster) -> str:
    if adjuster.kind == "choices":
        return fitted_label(adjuster)
    if adjuster.at == 0:
        return "not moved yet"
    way = "advanced" if adjuster.at > 0 else "retarded"
    if adjuster.kind == "slot":
        marks = f"{adjuster.marks} deg"
        return f"{abs(adjuster.at * adjuster.step_deg):g} {way} on its marks ({marks})"
    unit = {"tooth": "tooth", "pin-vernier": "step", "hole-sets": "set"}[adjuster.kind]
    plural = {"tooth": "teeth"}.get(unit, f"{unit}s")
    return f"{abs(adjuster.at)} {unit if abs(adjuster.at) == 1 else plural} {way}"


def fitted_label(adjuster: Choices) -> str:
    """The label of the choice that is fitted."""
    return adjuster.fitted if isinstance(adjuster.fitted, str) else adjuster.options[adjuster.fitted].label


def _moved(adjuster: Adjuster, to: str) -> Adjuster:
    if adjuster.kind == "choices":
        known = any(option.label == to for option in adjuster.options)
        return adjuster.model_copy(update={"fitted": to}) if known else adjuster
    found = _STEPS.fullmatch(to)
    if found is None:
        return adjuster
    steps = int(found[1]) * (1 if found[2] == "advanced" else -1)
    return adjuster.model_copy(update={"at": adjuster.at + steps})


@memoized
def history(job: Job) -> tuple[Step, ...]:
    """Every position the cams have had, oldest first, with how each try turned out."""
    if len(banks(job)) > 1:
        return _history_of_banks(job)
    made = positions.tries(job)
    steps: list[Step] = []
    was: dict[str, float] = {}
    for number in range(len(made) + 1):
        view = positions.at_position(job, number)
        phases = judgment.phases(view) if judged_cam(view) else {}
        words = "as found" if number == 0 else f"{made[number - 1].words} ({_direction(made[number - 1].shift_deg)})"
        by_hand = judgment.hand_precision_note(view) if phases else {}
        phrase, outcome = "", ""
        if number:
            landed = 2 * STEP_DEG["slot"] if _slides(job, made[number - 1]) else 2 * STEP_DEG["bushing"]
            doubt = {cam: math.hypot(own + was.get(cam, 0.0), landed) for cam, own in by_hand.items()}
            phrase, outcome = _turned_out(job, made[number - 1], steps[-1].errors, phases, doubt)
        was = by_hand
        steps.append(Step(number, words, phases, phrase, view, outcome))
    return tuple(steps)


def _history_of_banks(job: Job) -> tuple[Step, ...]:
    """The positions of an engine with cams on each bank: what was found on each, and how a move turned out on those it moved."""
    made = positions.tries(job)
    by_bank = [(own, history(own), positions.tries(own)) for own in banks(job)]
    steps = []
    for number in range(len(made) + 1):
        until = made[number - 1].seq if number else 0
        errors: dict[str, tuple[float, float]] = {}
        told, view, outcome = [], by_bank[0][1][0].view, ""
        for own, steps_of, tries_of in by_bank:
            step = steps_of[sum(one.seq <= until for one in tries_of)]
            errors |= {cam_key(own, cam): found for cam, found in step.errors.items()}
            if number and step.number and tries_of[step.number - 1].seq == until:
                view, outcome = step.view, step.outcome
                told.append(say("on-bank", bank=own.bank, words=step.told))
        words = "as found" if number == 0 else f"{made[number - 1].words} ({_direction(made[number - 1].shift_deg)})"
        steps.append(Step(number, words, errors, " ".join(told), view, outcome))
    return tuple(steps)


def _slides(job: Job, one: positions.Try) -> bool:
    """Whether a move set a slot."""
    known = drive_of(job)
    slots = {each.name for each in known.adjusters if each.adjuster.kind == "slot"} if known else set()
    return any(move.name in slots for move in one.moves)


def _direction(shift_deg: float) -> str:
    return f"{'advance' if shift_deg > 0 else 'retard'} {format_angle(abs(shift_deg))}"


def _turned_out(
    job: Job,
    one: positions.Try,
    before: dict[str, tuple[float, float]],
    after: dict[str, tuple[float, float]],
    by_hand: dict[str, float],
) -> tuple[str, str]:
    cam = "both" if not judgment.has_independent_cams(job) else one.lobes[0]
    if cam not in before:
        return say("not-measured-before-move"), ""
    if cam not in after:
        return say("measure-again", before=late_or_early(before[cam][0] - one.shift_of(cam))), ""
    # The grind's uncertainty cancels before and after.
    change, doubt = before[cam][0] - after[cam][0], by_hand[cam]
    return positions.compared(one.shift_of(cam), change, doubt), positions.outcome(one.shift_of(cam), change, doubt)


def judged_cam(now: Job) -> tuple[judgment.JudgedCam, ...]:
    """Every cam judged; empty where a reading cannot be placed."""
    try:
        return judgment.judged(now)
    except InvalidInput:
        return ()
