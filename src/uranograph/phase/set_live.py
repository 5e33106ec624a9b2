"""A cam that slides, set while the dial is watched."""

import math
import re
from dataclasses import dataclass, replace

from uranograph.bench.job import Job
from uranograph.core.adjust import (
    Adjuster,
)
from uranograph.core.wheel import as_read
from uranograph.engine import adjusters, positions
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import LOBES, banks, cam_key
from uranograph.engine.card import card_of
from uranograph.engine.stated_tdc import offset_deg
from uranograph.engine.tdc import frame_now
from uranograph.phase import card_rows, events, judgment, lifts, results
from uranograph.phase.move_history import STEP_DEG, Step, as_left, history, judged_cam

# A mark's worth differs from the stated one only if the move shows it beyond this many standard deviations.
LEARNED_SD = 2.5


def members(job: Job, cam: str) -> tuple[str, ...]:
    """Individually judged cams that move together as `cam`."""
    by_bank = banks(job)
    if len(by_bank) > 1:
        each = LOBES if judgment.has_independent_cams(job) else ("both",)
        every = tuple(cam_key(own, one) for own in by_bank for one in each)
        return every if cam == "both" else tuple(one for one in every if one == cam or cam == f"{one[:5]}-both")
    return LOBES if cam == "both" and judgment.has_independent_cams(job) else (cam,)


def its_bank(job: Job, cam: str) -> tuple[Job, str] | None:
    """The job of the bank that has a cam, and what the cam is called there; None where no bank is kept apart."""
    bank = re.match("bank([12])-(.+)", cam)
    return (job.of_bank(int(bank[1])), bank[2]) if bank and not job.bank else None


def fitted_now(job: Job) -> adjusters.Drive:
    """The drive with each adjuster where the tries have left it, its marks read as the tries have shown them to be."""
    marks = {name: factor for own in banks(job) for name, factor in shown_marks(own).items()}
    return adjusters.Drive(
        tuple(replace(each, adjuster=_scaled(each.adjuster, marks.get(each.name, 1.0))) for each in as_left(job))
    )


def _scaled(adjuster: Adjuster, factor: float) -> Adjuster:
    """An adjuster whose marks turned out to be worth twice or half of what was said."""
    if factor == 1 or adjuster.kind not in ("choices", "slot"):
        return adjuster
    if adjuster.kind == "slot" and factor in (2.0, 0.5):
        return adjuster.model_copy(update={"marks": "cam" if factor > 1 else "crank"})
    if adjuster.kind == "slot":
        return adjuster.model_copy(
            update={"step_deg": adjuster.step_deg * factor, "range_deg": adjuster.range_deg * factor}
        )
    options = [each.model_copy(update={"shift_deg": each.shift_deg * factor}) for each in adjuster.options]
    return adjuster.model_copy(update={"options": options})


def shown_marks(job: Job) -> dict[str, float]:
    """Ratio of an adjuster mark's measured to stated worth, if a move of it alone has shown it: 2 or 0.5."""
    kinds = {each.name: each.adjuster for each in described.adjusters} if (described := drive_of(job)) else {}
    found: dict[str, float] = {}
    for one, step in zip(positions.tries(job), history(job)[1:], strict=True):
        if len(one.moves) == 1 and step.outcome == "otherwise":
            learned = _learned(job, one, step, kinds.get(one.moves[0].name))
            if learned is not None:
                found[one.moves[0].name] = learned
        if len(one.moves) != 1 or step.outcome not in ("doubled", "halved"):
            continue
        name = one.moves[0].name
        adjuster = kinds.get(name)
        factor = 2.0 if step.outcome == "doubled" else 0.5
        if adjuster is not None and (adjuster.kind == "choices" or _can_be(adjuster, factor)):
            found[name] = factor
    return found


# Range in which a learned step is accepted, as a ratio to the stated one; beyond it something else is wrong.
BELIEVED = (0.6, 1.7)


def _learned(job: Job, one: positions.Try, step: Step, adjuster: Adjuster | None) -> float | None:
    """Ratio of a slot mark's measured to stated worth, by a move of it alone; None if unknown."""
    before = history(job)[step.number - 1].errors
    cam = "both" if not judgment.has_independent_cams(job) else one.lobes[0]
    if adjuster is None or adjuster.kind != "slot" or cam not in before or cam not in step.errors or not one.shift_deg:
        return None
    change = before[cam][0] - step.errors[cam][0]
    hands = [judgment.hand_precision_note(each.view)[cam] / 2 for each in (history(job)[step.number - 1], step)]
    worth, blurred = change / one.shift_deg, math.hypot(STEP_DEG["slot"], *hands)
    if abs(change - one.shift_deg) < LEARNED_SD * blurred:
        return None
    return worth if BELIEVED[0] <= worth <= BELIEVED[1] else None


def _can_be(adjuster: Adjuster, factor: float) -> bool:
    return adjuster.kind == "slot" and adjuster.marks == ("crank" if factor > 1 else "cam")


@dataclass(frozen=True)
class Live:
    """A cam set by its dial instead of its marks: what the wheel shows where a lobe's opening flank is at a lift.

    By an event that was read `kind` names it and `lift_mm` is the checking lift; by equal lifts `kind` is the lobe, and the dial
    stands `drop_mm` below its greatest.
    """

    kind: str
    text: str
    side: str | None
    lift_mm: float | None = None
    drop_mm: float | None = None


def live(job: Job, cam: str) -> Live | None:
    """Where to hold the crank to set a cam in its slot by the dial: its mark and its step are then no matter.

    Parameters
    ----------
    job
        The whole job.
    cam
        As in `cams`.

    Returns
    -------
    Live or None
        None where nothing slides, true TDC is not known, or no opening flank of the cam was read: where a flank only follows
        from the card, it may be ground half a degree beside that.
    """
    if of_bank := its_bank(job, cam):
        return live(*of_bank)
    now, frame = positions.at_position(job), frame_now(job)
    if not judged_cam(now) or len(members(job, cam)) > 1:
        return None
    late, flank = judgment.phases(now).get(cam), _flank_read(now, cam)
    slides = drive_of(job) is not None and any(each.adjuster.kind == "slot" for each in fitted_now(job).moving(cam))
    if not slides or late is None or flank is None or frame is None or frame.top is None:
        return None
    found, at_deg = flank
    shown = round((at_deg - late[0] + frame.top.zero_error_deg + offset_deg(job)) * 10) / 10
    figure, side = as_read(frame.mounted.wheel, shown)
    return replace(found, text=f"{figure:.4g}", side=side.value if side else None)


def _flank_read(now: Job, cam: str) -> tuple[Live, float] | None:
    """An opening flank of a cam that was read, and where: by its event, else at the deepest of its equal lifts."""
    lobes = LOBES if cam == "both" else (cam,)
    read, card = card_rows.events_read(now, results.results(now)), card_of(now)
    for lobe in lobes:
        opens = card_rows.KINDS_OF[lobe][0]
        if opens in read and card is not None and card.check_lift_mm is not None:
            return Live(opens, "", None, lift_mm=card.check_lift_mm), events.angle_of(opens, read[opens])
    for lobe in lobes:
        by_lifts = lifts.measured(now, lobe)
        if by_lifts is not None and by_lifts.spans:
            deepest = max(by_lifts.spans, key=lambda span: span.drop_mm)
            return Live(lobe, "", None, drop_mm=deepest.drop_mm), deepest.before_deg
    return None
