"""Degree: choosing the adjuster position that cures the error, and comparing each try with its prediction."""

from collections.abc import Mapping

from uranograph.bench.acts import Act
from uranograph.bench.checks import TURNED_ALONE
from uranograph.bench.finding import Finding, Row, Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import late_or_early
from uranograph.engine import positions
from uranograph.engine.adjusters import drive_of
from uranograph.engine.cams import cam_words
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.tdc import zero_holds
from uranograph.phase import banks
from uranograph.phase.move_history import effects, history
from uranograph.phase.offers import Offer, better_than_now, cams, is_held, judged_now, learned_words, offers
from uranograph.phase.set_live import members
from uranograph.stations.adjust.messages import FINDINGS, say

KEY = positions.STATION
CAUTIONS = (
    TURNED_ALONE,
    "Prove piston-to-valve clearance before the move and again after it; then turn two turns by hand. Hands clear of gears.",
)


def describe_move(act: Act) -> str:
    """Say what was tried."""
    words = [positions.move_words(made.name, made.from_, made.to) for made in act.moves or ()]
    return "tried " + ("; ".join(words) or "a position")


def find(job: Job) -> Finding:
    """Say which position to choose, or that none is needed: by the verdict of degreeing, never by one of its own."""
    made = positions.tries(job)
    judged = judged_now(job)
    lines = tuple(Row(f"{step.number}. {step.words}", "", _errors(step.errors), "") for step in history(job))
    begun = bool(made) or job.latest("drive") is not None
    if judged:
        degreed = banks.find(job)
        if degreed.verdict is Verdict.IN:
            better = [
                words for cam in cams(job) if (offer := better_than_now(job, cam)) for words in [_best_words(offer)]
            ]
            if better:
                return _base(job, lines).judged(Verdict.IN, FINDINGS, "better-position", best=" ".join(better))
            return _base(job, lines).judged(Verdict.IN, FINDINGS, "no-move-needed")
        if degreed.verdict is Verdict.UNSURE:
            # No move is named while a set-up question is open.
            best = "" if is_held(job) else " ".join(_best_moves(job)[0])
            return _base(job, lines).judged(
                Verdict.UNSURE, FINDINGS, "not-sure-enough", best=best, step=degreed.next_step
            )
    if drive_of(job) is None:
        return _base(job, lines).judged(Verdict.OPEN, FINDINGS, "drive-missing", begun=begun)
    if not judged:
        if made and wheel_of(job) is not None and not zero_holds(job):
            return _base(job, lines).judged(Verdict.OPEN, FINDINGS, "moved-wheel-too", begun=begun)
        return _base(job, lines).judged(Verdict.OPEN, FINDINGS, "moved" if made else "not-degreed", begun=begun)
    return _advised(job, lines)


def _best_words(offer: Offer) -> str:
    named = "" if offer.cam == "both" else f"{_headed(offer.cam)}: "
    return f"{named}{'; '.join(offer.words)} leaves {_left_words(offer)}."


def _left_words(offer: Offer) -> str:
    """Remaining deviation of every cam that an adjustment moves."""
    if len(offer.leaves) < 2:
        return f"it {late_or_early(offer.choice.remaining_error_deg)}"
    return ", ".join(f"the {cam_words(cam)} {late_or_early(left)}" for cam, left in offer.leaves.items())


def _base(job: Job, lines: tuple[Row, ...]) -> Finding:
    phrase = history(job)[-1].told
    return Finding(
        Verdict.OPEN,
        "",
        cautions=CAUTIONS,
        rows=lines,
        notes=(*([phrase] if phrase else []), *learned_words(job), *effects(job)),
    )


def _errors(errors: Mapping[str, tuple[float, float]]) -> str:
    return ", ".join(
        f"{'' if cam == 'both' else f'{cam_words(cam)} '}{late_or_early(error)}" for cam, (error, _) in errors.items()
    )


def _headed(cam: str) -> str:
    """A cam in words, at the head of a sentence."""
    words = cam_words(cam)
    return f"{words[0].upper()}{words[1:]}"


def _best_moves(job: Job) -> tuple[list[str], Verdict]:
    """The best way for what is moved together in a sentence, and whether everything that is out can be brought within."""
    sentences: list[str] = []
    worst = Verdict.IN
    judged = judged_now(job)
    for cam in cams(job):
        own = [one for one in judged if one.cam in members(job, cam)]
        unread = [each for each in members(job, cam) if each not in {one.cam for one in own}]
        named = "" if cam == "both" else f"{_headed(cam)}: "
        if not own:
            continue
        if all(one.verdict is Verdict.IN for one in own) and not unread:
            sentences.append(say("nothing-to-move", figure=named or "The cam is "))
            continue
        if unread:
            worst = Verdict.UNSURE
            sentences.append(say("read-the-other-cam", cam=cam_words(unread[0])))
            continue
        if not all(one.moving_cures for one in own):
            worst = Verdict.OUT
            sentences.append(say("moving-cannot-cure", named=named))
            continue
        offered = offers(job, cam)
        if not offered:
            worst = Verdict.OUT
            sentences.append(say("no-adjuster-moves-it", named=named))
            continue
        best = next((offer for offer in offered if offer.within), offered[0])
        if best.barred:
            if best.near is None:
                raise Missing("best.near")
            worst = Verdict.OUT
            why = say("would-come-too-near", job.unit, gap_mm=best.near.gap_mm, name=best.near.name)
            sentences.append(f"{named}{'; '.join(best.words)} {why}")
            continue
        cures = "cures it" if max(map(abs, best.leaves.values())) < 0.05 else f"leaves {_left_words(best)}"
        sentences.append(f"{named}{'; '.join(best.words)} {cures}.")
        if not best.within:
            worst = Verdict.OUT
        elif worst is Verdict.IN:
            worst = Verdict.OPEN
    return sentences, worst


def _advised(job: Job, lines: tuple[Row, ...]) -> Finding:
    try:
        sentences, worst = _best_moves(job)
    except InvalidInput as problem:
        return _base(job, lines).judged(Verdict.UNSURE, FINDINGS, "drive-cannot-be", job.unit, why=problem)
    code = "no-position-cures" if worst is Verdict.OUT else "position-cures"
    return _base(job, lines).judged(worst, FINDINGS, code, best=" ".join(sentences))
