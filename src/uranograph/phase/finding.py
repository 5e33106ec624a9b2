"""Degree: intake and exhaust by every way there is, one verdict, and what moving the cam can cure."""

from uranograph.bench.checks import NEVER_BACKWARD
from uranograph.bench.finding import Finding, Quantity, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import format_angle, late_or_early
from uranograph.core.verdict import EXACT
from uranograph.engine import positions
from uranograph.engine.cams import KEY, LOBES, cam_words
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.stated_tdc import stated_of
from uranograph.engine.tdc import frame_now, zero_holds
from uranograph.phase import events, lifts, marks, marks_by_eye, overlaps, slack, weighed
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.basis import rules_of
from uranograph.phase.card_rows import METHOD_WORDS, rows
from uranograph.phase.judgment import JudgedCam, four_events, judged, leading, phases, unread, verdict_of
from uranograph.phase.messages import FINDINGS, say
from uranograph.phase.results import Result, doubts, results
from uranograph.phase.suspicions import questions
from uranograph.phase.target import Aim, target_of

FAR_APART = 3.0
# If the method can prove less than this part of the tolerance, the page warns before the reading.
MIN_PROVED = 0.4
CAUTIONS = (
    "Turn by hand, plugs out; the piston stop comes out before the crank is turned right round.",
    NEVER_BACKWARD,
    "The grinder's card and the engine's manual outrank this screen.",
)


def _thinned(job: Job) -> tuple[str, ...]:
    """Remark on a sweep file that was thinned."""
    told = []
    for lobe in LOBES:
        swept_lobe = sweeps.swept(job, lobe)
        count = (
            next((r.points for r in swept_lobe.readings if r.instrument == sweeps.FROM_FILE and r.points), None)
            if swept_lobe
            else None
        )
        if swept_lobe and count:
            told.append(say("sweep-thinned", lobe=lobe, count=count, kept=len(swept_lobe.readings)))
    return tuple(told)


@memoized
def find(job: Job) -> Finding:
    """Judge the cam's phase against the card, at its position now."""
    job = positions.at_position(job)
    try:
        found = results(job)
    except InvalidInput as error:
        return Finding(Verdict.OPEN).judged(Verdict.UNSURE, FINDINGS, "reading-cannot-be", job.unit, why=error)
    if not found:
        return _without_results(job)
    lines = rows(job, found)
    cams = judged(job)
    if not cams:
        phrase = ", ".join(f"{result.lobe} {result.measured}" for result in found)
        return Finding(
            Verdict.OPEN,
            cautions=CAUTIONS,
            rows=lines,
            doubts=doubts(job),
            notes=(*_before(job), *_by_the_marks(job), *questions(job)),
        ).judged(Verdict.UNSURE, FINDINGS, "nothing-to-compare", told=phrase)
    return _in_words(job, cams, lines)


def _before(job: Job) -> tuple[str, ...]:
    """Where the cam stood before the newest act that ended its readings; tries have a history of their own."""
    changed = job.before_change(KEY)
    if changed is None or any(one.seq >= changed[1].seq for one in positions.every_try(job)):
        return ()
    phrase = "; ".join(
        f"{'' if cam == 'both' else f'{cam} '}{late_or_early(error)}"
        for cam, (error, _) in phases(positions.just_before(job, changed[1])).items()
    )
    return (f"Before ({changed[1].in_sentence}): {phrase}.",) if phrase else ()


def _without_results(job: Job) -> Finding:
    begun = bool(job.active_readings(KEY))
    needs = say("read-both-sides") if zero_holds(job) else say("tdc-missing")
    if wheel_of(job) is None:
        needs = say("wheel-and-tdc-missing")
    trouble = [swept_lobe.trouble for lobe in LOBES if (swept_lobe := sweeps.swept(job, lobe)) and swept_lobe.trouble]
    sentence = say("sweep-under-way", trouble=trouble[0]) if trouble else say("no-lobe-read")
    moved = say("measure-after-move") if positions.tries(job) and not begun else ""
    return Finding(
        Verdict.OPEN, cautions=CAUTIONS, notes=(*_before(job), *_by_the_marks(job), *_cannot_prove(job))
    ).judged(Verdict.OPEN, FINDINGS, "not-read", begun=begun or bool(moved), reasons=(sentence, moved), step=needs)


def _cannot_prove(job: Job) -> tuple[str, ...]:
    """Said before anything is read: the tolerance is nearly as narrow as this wheel can be read."""
    tolerance, reach = rules_of(job).tolerance_deg, weighed.proves_within(job)
    if reach is None or reach >= MIN_PROVED * tolerance:
        return ()
    if reach < 0:
        return (say("wheel-cannot-prove", tolerance_deg=tolerance),)
    return (say("wheel-proves-within", tolerance_deg=tolerance, reach_deg=reach),)


def _in_words(job: Job, cams: tuple[JudgedCam, ...], lines: tuple[Row, ...]) -> Finding:
    first, phrase, aimed_at = cams[0], doubts(job), target_of(job)
    leaders = leading(job)
    named = "the cam" if first.cam == "both" else f"the {first.cam} cam"
    several = bool(job.bank) or len({one.bank for one in cams}) > 1
    if several:
        named += f" of bank {job.bank or first.bank}"
    verdict = verdict_of(job, cams, phrase)
    waiting = unread(job)
    code = {
        Verdict.IN: "in",
        Verdict.OUT: ("late" if first.error_deg > 0 else "early") if first.moving_cures else "lobes-apart",
        Verdict.UNSURE: _open_code(first, bool(waiting) and first.verdict is Verdict.IN),
    }[verdict]
    if verdict is Verdict.UNSURE and (phrase or not waiting or weighed.held(job)):
        next_step = phrase[0] if phrase else _what_to_reread(job, first, leaders)
    elif waiting and not (verdict is Verdict.OUT and first.moving_cures):
        next_step = say("read-other-lobe", unread=waiting[0])
    elif verdict is Verdict.IN:
        next_step = say("prove-clearances-next")
    else:
        next_step = say("choose-position") if first.moving_cures else say("read-both-before-moving")
    # Nothing orders a move while it cannot tell.
    moves = [one for one in cams if verdict is Verdict.OUT and one.verdict is Verdict.OUT and one.moving_cures]
    banks_of = [(job.bank or one.bank) if several else 0 for one in moves]
    reasons = (*(_against_card(result) for result in leaders), *_split(job, first))
    return Finding(
        Verdict.OPEN,
        quantity=Quantity(first.error_deg, first.doubt_deg, "deg", label=_side(first.error_deg), unsigned=True),
        cautions=CAUTIONS,
        rows=lines,
        doubts=phrase,
        notes=(
            *_thinned(job),
            *_top_as_stated(job),
            *_before(job),
            *_by_the_marks(job),
            *disagreements(job),
            *_banks(job),
            *_four_in_words(job),
            *questions(job),
        ),
    ).judged(
        verdict,
        FINDINGS,
        code,
        reasons=reasons,
        cam=named,
        step=next_step,
        lobe=waiting[0] if waiting else "",
        wanted=say("where-card-has-it") if aimed_at.aim is Aim.CARD else say("where-it-is-aimed", aim=aimed_at.words),
        order=_order(moves[0], banks_of[0], several or len(cams) > 1) if moves else "",
        move_deg=moves[0].error_deg if moves else 0.0,
        at_cam_deg=moves[0].error_deg / 2 if moves else 0.0,
        others="".join(_also(one, bank) for one, bank in zip(moves[1:], banks_of[1:], strict=True)),
    )


def _order(one: JudgedCam, bank: int, named: bool) -> str:
    """Which way to move a cam; it is named where there are several."""
    cam = _cam_of(one, bank).upper() if named else ""
    return (say("order-advance", cam=cam) if one.error_deg > 0 else say("order-retard", cam=cam)).rstrip()


def _also(one: JudgedCam, bank: int) -> str:
    """The order to move another cam, as a sentence."""
    cam = _cam_of(one, bank)
    if one.error_deg > 0:
        return say("advance-the-cam", cam=cam, move_deg=one.error_deg)
    return say("retard-the-cam", cam=cam, move_deg=one.error_deg)


def _cam_of(one: JudgedCam, bank: int) -> str:
    return cam_words(f"bank{bank}-{one.cam}" if bank else one.cam)


def _by_the_marks(job: Job) -> tuple[str, ...]:
    """Phase expected from marks and unmarked drives, until the cam is moved."""
    return (
        ()
        if positions.tries(job)
        else (*marks.expected_notes(job.full_job), *marks_by_eye.expected_notes(job.full_job))
    )


def _top_as_stated(job: Job) -> tuple[str, ...]:
    """Assumptions of the verdict: a stated TDC, and the cylinder and lobe read."""
    frame, stated = frame_now(job), stated_of(job)
    sentences = [say("tdc-taken-as-stated", words=frame.stated.words)] if frame and frame.stated else []
    if stated.read_of is not None or stated.lobe:
        cylinder = "" if stated.read_of is None else f"cylinder {stated.read_of}"
        sentences.append(say("read-on-sweep", what=", ".join(filter(None, (cylinder, stated.lobe)))))
    return tuple(sentences)


def _open_code(first: JudgedCam, unread_lobe: bool) -> str:
    """Message while the result is not yet known."""
    if unread_lobe:
        return "lobe-unread"
    if not first.lobes_agree:
        return "lobes-disagree"
    if _right_on(first.error_deg):
        return "reads-right"
    return "reads-late" if first.error_deg > 0 else "reads-early"


def _right_on(error_deg: float) -> bool:
    """Whether the displayed error rounds to zero."""
    return format_angle(abs(error_deg)) == format_angle(0)


def _side(error_deg: float) -> str:
    """Which way the headline's figure is, where it is any."""
    if _right_on(error_deg):
        return "deg, right on"
    return "deg retarded" if error_deg > 0 else "deg advanced"


def _against_card(result: Result) -> str:
    if result.error_deg is None:
        raise Missing("result.error_deg")
    off = late_or_early(result.error_deg)
    if result.target:
        return say(
            "measured-against-target",
            label=result.label,
            measured=result.measured,
            target=result.target,
            card=say("card-has-instead", card=result.card) if result.card else "",
            off=off,
        )
    return say(
        "measured-against-card",
        label=result.label,
        measured=result.measured,
        card=result.card,
        off=off,
    )


def _split(job: Job, one: JudgedCam) -> tuple[str, ...]:
    """Remaining errors after the best move, where intake and exhaust disagree by more than reading error."""
    if len(one.lobes) < 2 or any(result.centerline_deg is None for result in one.lobes):
        return ()
    wider = one.apart_by_deg
    if abs(wider) <= max(0.5, sum(result.uncertainty_deg for result in one.lobes) / 2):
        return ()
    return (say("separation-off-card", wider_deg=abs(wider), way="wider" if wider > 0 else "narrower"),)


def _what_to_reread(job: Job, one: JudgedCam, lobe_results: list[Result]) -> str:
    if not one.lobes_agree:
        worse = max(one.lobes, key=lambda result: abs(result.error_deg or 0.0))
        return say("lobes-disagree-reread", lobe=worse.lobe)
    if weighed.held(job):
        return say("settle-questions")
    if one.plain is not None and min(one.plain, 1 - one.plain) <= weighed.false_verdict(job) + EXACT:
        return say("prove-readings")
    widest = max(lobe_results, key=lambda result: result.uncertainty_deg)
    if all(result.method == "lifts" for result in one.lobes):
        near = [result.lobe for result in one.lobes if not _read_far_apart(job, result.lobe)]
        return say("uneven-lobe-deceives", lobe=near[0]) if near else say("lifts-cannot-settle")
    by_drops = lifts.measured(job, widest.lobe) if widest.method == "lifts" else None
    if by_drops and by_drops.spread_deg / 2 >= widest.uncertainty_deg * 0.7:
        return say("drops-disagree", lobe=widest.lobe)
    if widest.by_range is not None:
        return say("near-end-of-card-range", lobe=widest.lobe)
    return say("near-limit-for-wheel", lobe=widest.lobe)


def _read_far_apart(job: Job, lobe: str) -> bool:
    """Whether two drops of a lobe lie far enough apart to show that it is uneven."""
    found = lifts.measured(job, lobe)
    drops = [span.drop_mm for span in found.spans] if found else [0.0]
    return max(drops) >= FAR_APART * min(drops)


def disagreements(job: Job) -> tuple[str, ...]:
    """A sentence for each lobe that two methods put in different places, with the likely reason."""
    sentences = []
    for lobe in LOBES:
        own = [r for r in results(job) if r.lobe == lobe and r.error_deg is not None]
        for other in own[1:]:
            first = own[0]
            if first.error_deg is None:
                raise Missing("first.error_deg")
            if other.error_deg is None:
                raise Missing("other.error_deg")
            apart_by = abs(first.error_deg - other.error_deg)
            if other.method != first.method and apart_by > max(0.8, first.by_readings_deg + other.by_readings_deg):
                sentences.append(
                    say(
                        "methods-disagree",
                        method_words=METHOD_WORDS[first.method].capitalize(),
                        method_words_2=METHOD_WORDS[other.method],
                        lobe=lobe,
                        apart_by_deg=apart_by,
                        why_apart=_why_apart(job, lobe, {first.method, other.method}, apart_by),
                    )
                )
                break
    return tuple(sentences)


def _banks(job: Job) -> tuple[str, ...]:
    """How far two banks are apart by their lift at overlap."""
    sentences = []
    for lobe in LOBES:
        found = overlaps.measured(job, lobe)
        if len(found) == 2:
            gap_deg = found[1].error_deg - found[0].error_deg
            way = "later" if gap_deg > 0 else "earlier"
            sentences.append(
                say(
                    "banks-apart-by-overlap",
                    lobe=lobe,
                    bank=found[1].bank,
                    gap_deg=abs(gap_deg),
                    way=way,
                    bank_2=found[0].bank,
                )
            )
    return tuple(sentences)


def _why_apart(job: Job, lobe: str, methods: set[str], apart_by: float) -> str:
    swept_lobe = sweeps.swept(job, lobe)
    free = slack.slack_deg(job)
    uneven = False
    if "lifts" in methods and swept_lobe and swept_lobe.found:
        asymmetry = abs(swept_lobe.found.asymmetry_deg)
        uneven = asymmetry > max(apart_by / 2, swept_lobe.asymmetry_doubt_deg)
    if uneven:
        return say("why-asymmetric")
    if free is not None and free > apart_by / 2:
        return say("why-slack", free=free)
    if "lifts" in methods:
        return say("why-asymmetric-or-slipped")
    return say("why-setup-or-slip")


def _four_in_words(job: Job) -> tuple[str, ...]:
    found = four_events(job)
    if found is None:
        return ()
    sentences = []
    for name, error in (("Intake", found.intake_duration_error_deg), ("Exhaust", found.exhaust_duration_error_deg)):
        if abs(error) > 1:
            sentences.append(
                say("duration-not-by-moving", name=name, error_deg=abs(error), way="longer" if error > 0 else "shorter")
            )
    left = found.left_after_correction
    if any(abs(getattr(left, field)) > 0.5 for field in events.FIELD.values()):
        parts = ", ".join(f"{kind.upper()} {getattr(left, field):+.1f}" for kind, field in events.FIELD.items())
        sentences.append(say("left-after-cure", parts=parts.replace("-", "−")))
    return tuple(sentences)
