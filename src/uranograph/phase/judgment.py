"""Each cam judged by all its readings together."""

import math
from dataclasses import dataclass

from uranograph.bench.finding import WORST_FIRST, Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.degree import Degreed, DegreeInput, degree
from uranograph.core.errors import Missing
from uranograph.core.phase import Events, judge_phase, move
from uranograph.core.verdict import EXACT, worst
from uranograph.engine import positions
from uranograph.engine.cams import LOBES
from uranograph.engine.card import card_of
from uranograph.engine.description import engine_of
from uranograph.phase import events, weighed
from uranograph.phase.basis import deciding_lobes, rules_of
from uranograph.phase.results import Result, results
from uranograph.phase.target import target_of


def leading(job: Job) -> list[Result]:
    """The most telling result of each lobe that has one with an error; by lift at overlap, that of every bank read."""
    found = []
    for lobe in LOBES:
        own = [result for result in results(job) if result.lobe == lobe and result.error_deg is not None]
        if own:
            found += [result for result in own if result.method == own[0].method] if own[0].by_range else own[:1]
    return found


def deciding(job: Job) -> list[Result]:
    """The results the phase is taken from: both lobes, or the intake alone where the job says so."""
    found = leading(job)
    return [result for result in found if result.lobe in deciding_lobes(job)] or found


def has_independent_cams(job: Job) -> bool:
    """Whether intake and exhaust cams move for themselves."""
    engine = engine_of(job)
    return engine is not None and engine.separate_cams


def doubt_of(job: Job, result: Result) -> float:
    """Uncertainty of a lobe from all wheel readings; from its own readings alone if those say nothing."""
    stands = None
    if result.by_range is None:
        cam = result.lobe if has_independent_cams(job) else "both"
        stands = weighed.posterior_phase(job, cam, (result.lobe,), rules_of(job).tolerance_deg)
    return result.uncertainty_deg if stands is None else stands.doubt_deg


def late_by(lobe_results: list[Result]) -> tuple[float, float]:
    """Phase error and its uncertainty, crank degrees, from one lobe or the mean of both."""
    errors = [result.error_deg for result in lobe_results if result.error_deg is not None]
    by_readings = math.sqrt(sum(result.by_readings_deg**2 for result in lobe_results)) / len(lobe_results)
    return sum(errors) / len(errors), math.hypot(by_readings, max(result.by_top_deg for result in lobe_results))


@dataclass(frozen=True)
class JudgedCam:
    """One cam against the card: its phase, crank degrees late, and each lobe's result."""

    cam: str
    error_deg: float
    doubt_deg: float
    verdict: Verdict
    lobes: tuple[Result, ...]
    apart_by_deg: float
    lobes_agree: bool
    bank: int = 1
    within: float | None = None
    plain: float | None = None

    @property
    def moving_cures(self) -> bool:
        """Whether all that was read asks for the same way; else no move is advised."""
        if self.lobes_agree:
            return True
        errors = [result.error_deg for result in self.lobes if result.error_deg is not None]
        return self.verdict is Verdict.OUT and (min(errors) > 0 or max(errors) < 0)


@memoized
def judged(job: Job) -> tuple[JudgedCam, ...]:
    """Every cam at the position now, the one that most needs a person first; empty where nothing can be compared.

    A cam is *in* only where its phase, each of its lobes and their separation are; *out* where that is as sure. Where one
    lobe says otherwise than the other, which of them is misread or ground so cannot be told.
    """
    found = deciding(job)
    groups: dict[str, list[Result]] = {"both": found}
    if has_independent_cams(job):
        groups = {lobe: [result for result in found if result.lobe == lobe] for lobe in LOBES}
    cams = [
        _cam_judged(job, cam, [result for result in own if result.bank == bank], bank)
        for cam, own in groups.items()
        for bank in sorted({result.bank for result in own})
    ]
    return tuple(sorted(cams, key=lambda one: (WORST_FIRST.index(one.verdict), -abs(one.error_deg))))


def _cam_judged(job: Job, cam: str, lobe_results: list[Result], bank: int) -> JudgedCam:
    tolerance = rules_of(job).tolerance_deg
    wider = 0.0
    if len(lobe_results) == 2:
        one, other = lobe_results
        if one.error_deg is None or other.error_deg is None:
            raise Missing("one.error_deg, other.error_deg")
        wider = (one.error_deg - other.error_deg) / 2
    by_lift = any(result.by_range is not None for result in lobe_results)
    stands = (
        None if by_lift else weighed.posterior_phase(job, cam, tuple(result.lobe for result in lobe_results), tolerance)
    )
    if stands is None:
        return _by_itself(job, cam, lobe_results, bank, wider)
    agree = abs(wider) <= tolerance
    if weighed.held(job) or any(result.doubts for result in lobe_results):
        verdict = Verdict.UNSURE
    elif _so_sure(job, 1 - stands.plain, 1 - stands.within) and agree:
        verdict = Verdict.IN
    elif _so_sure(job, stands.plain, stands.within) if agree else _each_out(lobe_results, tolerance):
        verdict = Verdict.OUT
    else:
        verdict = Verdict.UNSURE
    return JudgedCam(
        cam,
        stands.error_deg,
        stands.doubt_deg,
        verdict,
        tuple(lobe_results),
        wider,
        agree,
        bank,
        within=stands.within,
        plain=stands.plain,
    )


def _so_sure(job: Job, wrong_plain: float, wrong: float) -> bool:
    """Whether a verdict is wrong seldom enough: if nothing else is wrong, and with everything that may be."""
    return wrong_plain <= weighed.false_verdict(job) + EXACT and wrong <= weighed.false_in_all(job) + EXACT


def _each_out(lobe_results: list[Result], tolerance_deg: float) -> bool:
    """Whether each of two disagreeing lobes is out on its own."""
    return all(result.verdict(tolerance_deg) is Verdict.OUT for result in lobe_results)


def _by_itself(job: Job, cam: str, lobe_results: list[Result], bank: int, wider: float) -> JudgedCam:
    """A cam judged lobe by lobe where wheel readings do not apply: lifts at overlap, TDC not found."""
    error, doubt = late_by(lobe_results)
    lobes = [result.verdict(rules_of(job).tolerance_deg) for result in lobe_results]
    by_lift = any(result.by_range is not None for result in lobe_results)
    phase = worst(lobes) if by_lift else judge_phase(error, doubt, rules_of(job).tolerance_deg)
    agree = Verdict.IN
    if len(lobe_results) == 2:
        blur = math.hypot(*(result.by_readings_deg for result in lobe_results)) / 2
        agree = judge_phase(wider, blur, rules_of(job).tolerance_deg)
    if all(verdict is Verdict.OUT for verdict in lobes) or (phase is Verdict.OUT and agree is Verdict.IN):
        verdict = Verdict.OUT
    elif phase is Verdict.IN and agree is Verdict.IN and worst(lobes) is Verdict.IN:
        verdict = Verdict.IN
    else:
        verdict = Verdict.UNSURE
    if weighed.held(job) or any(result.doubts for result in lobe_results):
        verdict = Verdict.UNSURE
    return JudgedCam(cam, error, doubt, verdict, tuple(lobe_results), wider, agree is Verdict.IN, bank)


def chance_in(job: Job) -> float | None:
    """The chance that every cam is truly within its tolerance, by all readings; None where none was read on the wheel."""
    found = [one.within for one in judged(job) if one.within is not None]
    return math.prod(found) if found else None


def phases(job: Job) -> dict[str, tuple[float, float]]:
    """Phase error and uncertainty for each cam, crank degrees: `both`, or `intake` and `exhaust` where they are apart.

    Of two banks the one that is worse off.
    """
    by_name: dict[str, tuple[float, float]] = {}
    for one in judged(job):
        by_name.setdefault(one.cam, (one.error_deg, one.doubt_deg))
    return by_name


def hand_precision_note(job: Job) -> dict[str, float]:
    """How far the readings of each cam may be off by hand, wheel and top alone: what does not cancel between two positions."""
    return {one.cam: late_by(list(one.lobes))[1] for one in reversed(judged(job))}


def gap(job: Job) -> tuple[float, float] | None:
    """Phase error and uncertainty under the verdict now; None where the card or the readings give none."""
    found = judged(positions.at_position(job))
    return (found[0].error_deg, found[0].doubt_deg) if found else None


def four_events(job: Job) -> Degreed | None:
    """The four events read apart, where card and readings have all of them, by events or sweeps."""
    card = card.events if (card := card_of(job)) else None
    seen = seen_events(job)
    if card is None or seen is None:
        return None
    given = DegreeInput(card=card, measured=seen, basis=rules_of(job).basis, tolerance_deg=rules_of(job).tolerance_deg)
    return degree(given)


def seen_events(job: Job) -> Events | None:
    """All four events as measured, where both lobes are read by events or swept."""
    places: dict[str, tuple[float, float]] = {}
    for result in results(job):
        if result.opens_deg is not None and result.closes_deg is not None:
            places.setdefault(result.lobe, (result.opens_deg, result.closes_deg))
    if len(places) < 2:
        return None
    return Events(
        io_btdc_deg=events.stated("io", places["intake"][0]),
        ic_abdc_deg=events.stated("ic", places["intake"][1]),
        eo_bbdc_deg=events.stated("eo", places["exhaust"][0]),
        ec_atdc_deg=events.stated("ec", places["exhaust"][1]),
    )


def expected_events(job: Job) -> Events | None:
    """The events as measured, or else the card's moved by the phase: true if the durations are.

    A lobe that is not read stands as the other does, on a cam of its own as its card has it.
    """
    seen = seen_events(job)
    if seen is not None:
        return seen
    found = {result.lobe: result.card_error_deg for result in leading(job) if result.card_error_deg is not None}
    card = card_of(job)
    if card is None or card.events is None or not found:
        return None
    either = 0.0 if has_independent_cams(job) else next(iter(found.values()))
    return move(card.events, -found.get("intake", either), -found.get("exhaust", either))


def unread(job: Job) -> tuple[str, ...]:
    """The lobes that decide, and that the card or the target has something to say of, and that were not read."""
    read = {result.lobe for result in leading(job)}
    card, aimed_at = card_of(job), target_of(job)
    return tuple(
        lobe
        for lobe in deciding_lobes(job)
        if lobe not in read
        and (aimed_at.centerline(job, lobe) is not None or (card is not None and card.overlap_range(lobe) is not None))
    )


def verdict_of(job: Job, cams: tuple[JudgedCam, ...], doubtful: tuple[str, ...]) -> Verdict:
    """The verdict of all cams together: in only where every cam and lobe was read, and nothing of it is doubtful."""
    found = cams[0].verdict
    return Verdict.UNSURE if found is Verdict.IN and (doubtful or unread(job)) else found
