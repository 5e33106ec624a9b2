"""Degree: intake and exhaust by every way there is, one verdict, and what moving the cam can cure."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from types import ModuleType

from uranograph.bench.checks import NEVER_BACKWARD
from uranograph.bench.finding import WORST_FIRST, Finding, Measured, Prompt, Row, Verdict
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Entry, Reading
from uranograph.core.degree import Degreed, DegreeGiven, degree
from uranograph.core.errors import Impossible
from uranograph.core.phase import Events, judge_phase, move
from uranograph.core.quantities import format_angle, format_length, late_or_early
from uranograph.core.verdict import EXACT, worst
from uranograph.engine import positions as tries
from uranograph.engine.cams import KEY, LOBES, card_centerline
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.description import engine_of
from uranograph.engine.stated_tdc import stated_of
from uranograph.engine.tdc import frame_at, frame_now, zero_holds
from uranograph.stations.by_eye import station as by_eye
from uranograph.stations.degree import answers, events, lifts, overlaps, peaks, slack, sweeps, weighed
from uranograph.stations.degree.questions import questions
from uranograph.stations.degree.rules import deciding_lobes, rules_of
from uranograph.stations.degree.stated import stated_cam
from uranograph.stations.degree.target import Aim, target_of
from uranograph.stations.degree.words import FOUND, say
from uranograph.stations.marks import station as marks

FAR_APART = 3.0
# Where less than this part of the tolerance can be proved, that is said before the reading.
LEAST_PROVED = 0.4
METHOD_WORDS = {
    "lifts": "equal lifts",
    "events": "events",
    "sweep": "sweep",
    "overlap": "lift at overlap",
    "peak": "greatest lift",
    "asked": "question",
    "stated": "as stated",
}
_MODULES: dict[str, ModuleType] = {
    "lifts": lifts,
    "events": events,
    "sweep": sweeps,
    "overlap": overlaps,
    "peak": peaks,
    "asked": answers,
}
CAUTIONS = (
    "Turn by hand, plugs out; the piston stop comes out before the crank is turned right round.",
    NEVER_BACKWARD,
    "The grinder's card and the engine's manual outrank this screen.",
)


@dataclass(frozen=True)
class Result:
    """One lobe by one method. Angles about overlap TDC, crank degrees. The error is against the target, late positive."""

    method: str
    lobe: str
    label: str
    card: str
    measured: str
    error_deg: float | None
    by_readings_deg: float
    by_top_deg: float
    centerline_deg: float | None = None
    opens_deg: float | None = None
    closes_deg: float | None = None
    doubts: tuple[str, ...] = ()
    by_range: Verdict | None = None
    bank: int = 1
    card_error_deg: float | None = None
    target: str = ""

    @property
    def uncertainty_deg(self) -> float:
        return math.hypot(self.by_readings_deg, self.by_top_deg)

    def verdict(self, tolerance_deg: float) -> Verdict:
        """By the card's own range where it gives one, else by the error against a tolerance; with an error only."""
        if self.by_range is not None:
            return self.by_range
        assert self.error_deg is not None
        return judge_phase(self.error_deg, self.uncertainty_deg, tolerance_deg)


def method_of(reading: Reading) -> str:
    """The method a reading belongs to."""
    kind = reading.spot.kind
    if kind in LOBES:
        return "lifts"
    return "events" if kind in events.KINDS else "peak" if peaks.BASE.of_kind(kind) else kind.split("-")[0]


@kept
def results(job: Job) -> tuple[Result, ...]:
    """Every lobe by every method read at this position, the most telling method first.

    Parameters
    ----------
    job
        The job as seen at one position, see `tries.at_position`.

    Returns
    -------
    tuple
        Both events before a sweep before equal lifts before lift at overlap before one event alone.
    """
    return tuple(
        _aimed(job, result)
        for by in (_by_events, _by_sweep, _by_lifts, _by_overlap, _by_one_event)
        for lobe in LOBES
        for result in by(job, lobe)
    ) or tuple(_aimed(job, result) for lobe in LOBES for result in _as_stated(job, lobe))


def _as_stated(job: Job, lobe: str) -> list[Result]:
    """A lobe as somebody states it, where nothing is read."""
    stated = stated_cam(job)
    if stated is None or lobe not in stated.centerlines_deg:
        return []
    middle = stated.centerlines_deg[lobe] * (1 if lobe == "intake" else -1)
    found = _middle(job, lobe, "stated", middle, by_readings_deg=stated.doubt_deg, by_top_deg=0.0)
    return [replace(found, label=say("centerline-stated", lobe=lobe.capitalize(), by=stated.by))]


def _aimed(job: Job, result: Result) -> Result:
    """A result against what is aimed at; against the card it is kept beside."""
    result = replace(result, card_error_deg=result.error_deg)
    aimed_at = target_of(job)
    if aimed_at.aim is Aim.CARD:
        return result
    wanted, advance = aimed_at.centerline(job, result.lobe), aimed_at.advance(job, result.lobe)
    if result.centerline_deg is not None and wanted is not None:
        late = result.centerline_deg - wanted
        return replace(result, error_deg=late, target=_stated(result.lobe, wanted))
    if result.error_deg is None or advance is None:
        return replace(result, error_deg=None)
    # The card's range of lift is of the card's own place.
    return replace(result, error_deg=result.error_deg + advance, by_range=None, target=aimed_at.words)


def _stated(lobe: str, angle_deg: float) -> str:
    return format_angle(angle_deg if lobe == "intake" else -angle_deg)


def _middle(job: Job, lobe: str, method: str, middle_deg: float, **more: object) -> Result:
    card_deg = card_centerline(job, lobe)
    return Result(
        method=method,
        lobe=lobe,
        label=f"{lobe.capitalize()} centerline",
        card="" if card_deg is None else _stated(lobe, card_deg),
        measured=_stated(lobe, middle_deg),
        error_deg=None if card_deg is None else middle_deg - card_deg,
        centerline_deg=middle_deg,
        **more,  # type: ignore[arg-type]
    )


def _by_events(job: Job, lobe: str) -> list[Result]:
    pair = [events.measured(job, kind) for kind in events.KINDS if events.LOBE[kind] == lobe]
    if pair[0] is None or pair[1] is None:
        return []
    opens, closes = pair[0], pair[1]
    return [
        _middle(
            job,
            lobe,
            "events",
            (opens.angle_deg + closes.angle_deg) / 2,
            by_readings_deg=math.hypot(opens.by_readings_deg, closes.by_readings_deg) / 2,
            by_top_deg=max(opens.by_top_deg, closes.by_top_deg),
            opens_deg=opens.angle_deg,
            closes_deg=closes.angle_deg,
            doubts=opens.doubts + closes.doubts,
        )
    ]


@kept
def _by_sweep(job: Job, lobe: str) -> list[Result]:
    swept_lobe = sweeps.swept(job, lobe)
    if swept_lobe is None or swept_lobe.found is None:
        return []
    return [
        _middle(
            job,
            lobe,
            "sweep",
            swept_lobe.found.centerline_events_deg,
            by_readings_deg=swept_lobe.by_readings_deg / math.sqrt(2),
            by_top_deg=swept_lobe.by_top_deg,
            opens_deg=swept_lobe.found.open_deg,
            closes_deg=swept_lobe.found.close_deg,
            doubts=_sweep_doubts(job, swept_lobe),
        )
    ]


def _sweep_doubts(job: Job, swept_lobe: sweeps.SweepOf) -> tuple[str, ...]:
    untopped = next((r for r in swept_lobe.readings if r.instrument != sweeps.FROM_FILE and not _has_top(job, r)), None)
    sentences = [say("true-tdc-not-found-3")] if untopped else []
    if any(reading.approach != "forward" for reading in swept_lobe.readings):
        sentences.append(say("part-sweep-read-backward", lobe=swept_lobe.lobe))
    return tuple(sentences)


def _thinned(job: Job) -> tuple[str, ...]:
    """What of a sweep's file is kept, where it had more points than tell anything."""
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


def _has_top(job: Job, reading: Reading) -> bool:
    frame = frame_at(job, reading.seq)
    return frame is not None and frame.top is not None


def _by_lifts(job: Job, lobe: str) -> list[Result]:
    found = lifts.measured(job, lobe)
    if found is None:
        return []
    return [
        _middle(
            job,
            lobe,
            "lifts",
            found.centerline_deg,
            by_readings_deg=found.by_readings_deg,
            by_top_deg=found.by_top_deg,
            doubts=found.doubts,
        )
    ]


def _by_overlap(job: Job, lobe: str) -> list[Result]:
    return [
        Result(
            "overlap",
            lobe,
            f"{lobe.capitalize()} lift at overlap{f', bank {one.bank}' if one.bank > 1 and not job.bank else ''}",
            f"{format_length(one.low_mm, job.unit)}-{format_length(one.high_mm, job.unit)}",
            format_length(one.lift_mm, job.unit),
            one.error_deg,
            one.uncertainty_deg,
            one.by_top_deg,
            doubts=one.doubts,
            by_range=one.found.verdict,
            bank=one.bank,
        )
        for one in overlaps.measured(job, lobe)
    ]


def _by_one_event(job: Job, lobe: str) -> list[Result]:
    found = [e for kind in events.KINDS if events.LOBE[kind] == lobe and (e := events.measured(job, kind))]
    if len(found) != 1:
        return []
    one = found[0]
    return [
        Result(
            "events",
            lobe,
            f"{events.WORDS[one.kind].capitalize()} alone",
            "" if one.card_deg is None else format_angle(one.card_deg),
            format_angle(one.stated_deg),
            one.late_deg,
            one.by_readings_deg,
            one.by_top_deg,
            doubts=one.doubts,
        )
    ]


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


def apart(job: Job) -> bool:
    """Whether intake and exhaust cams move for themselves."""
    engine = engine_of(job)
    return engine is not None and engine.separate_cams


def doubt_of(job: Job, result: Result) -> float:
    """How far a lobe may be off, by all that was read on the wheel; by its own readings alone where that tells nothing."""
    stands = None
    if result.by_range is None:
        cam = result.lobe if apart(job) else "both"
        stands = weighed.stand(job, cam, (result.lobe,), rules_of(job).tolerance_deg)
    return result.uncertainty_deg if stands is None else stands.doubt_deg


def late_by(lobe_results: list[Result]) -> tuple[float, float]:
    """Phase error and its uncertainty, crank degrees, from one lobe or the mean of both."""
    errors = [result.error_deg for result in lobe_results if result.error_deg is not None]
    by_readings = math.sqrt(sum(result.by_readings_deg**2 for result in lobe_results)) / len(lobe_results)
    return sum(errors) / len(errors), math.hypot(by_readings, max(result.by_top_deg for result in lobe_results))


@dataclass(frozen=True)
class Judged:
    """Where one cam stands against the card: its phase, crank degrees late, and what its lobes say one by one."""

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


@kept
def judged(job: Job) -> tuple[Judged, ...]:
    """Every cam at the position now, the one that most needs a person first; empty where nothing can be compared.

    A cam is *in* only where its phase, each of its lobes and their separation are; *out* where that is as sure. Where one
    lobe says otherwise than the other, which of them is misread or ground so cannot be told.
    """
    found = deciding(job)
    groups: dict[str, list[Result]] = {"both": found}
    if apart(job):
        groups = {lobe: [result for result in found if result.lobe == lobe] for lobe in LOBES}
    sentences = []
    for cam, own in groups.items():
        for bank in sorted({result.bank for result in own}):
            sentences.append(_cam_judged(job, cam, [result for result in own if result.bank == bank], bank))
    return tuple(sorted(sentences, key=lambda one: (WORST_FIRST.index(one.verdict), -abs(one.error_deg))))


def _cam_judged(job: Job, cam: str, lobe_results: list[Result], bank: int) -> Judged:
    tolerance = rules_of(job).tolerance_deg
    wider = 0.0
    if len(lobe_results) == 2:
        one, other = lobe_results
        assert one.error_deg is not None and other.error_deg is not None
        wider = (one.error_deg - other.error_deg) / 2
    by_lift = any(result.by_range is not None for result in lobe_results)
    stands = None if by_lift else weighed.stand(job, cam, tuple(result.lobe for result in lobe_results), tolerance)
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
    return Judged(
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
    """Whether each of two lobes that are apart is out by itself."""
    return all(result.verdict(tolerance_deg) is Verdict.OUT for result in lobe_results)


def _by_itself(job: Job, cam: str, lobe_results: list[Result], bank: int, wider: float) -> Judged:
    """A cam by what its lobes say one by one, where no reading of the wheel tells: lifts at overlap, tops not found."""
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
    return Judged(cam, error, doubt, verdict, tuple(lobe_results), wider, agree is Verdict.IN, bank)


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


def by_hand(job: Job) -> dict[str, float]:
    """How far the readings of each cam may be off by hand, wheel and top alone: what does not cancel between two positions."""
    return {one.cam: late_by(list(one.lobes))[1] for one in reversed(judged(job))}


def doubts(job: Job) -> tuple[str, ...]:
    """Why what was read at the position now cannot be trusted as it stands, each told with what to read again."""
    return tuple(dict.fromkeys(doubt for result in results(job) for doubt in result.doubts))


def gap(job: Job) -> tuple[float, float] | None:
    """Phase error and uncertainty under the verdict now; None where the card or the readings give none."""
    found = judged(tries.at_position(job))
    return (found[0].error_deg, found[0].doubt_deg) if found else None


def four_events(job: Job) -> Degreed | None:
    """The four events read apart, where card and readings have all of them, by events or sweeps."""
    card = card.events if (card := card_of(job)) else None
    seen = seen_events(job)
    if card is None or seen is None:
        return None
    given = DegreeGiven(card=card, measured=seen, basis=rules_of(job).basis, tolerance_deg=rules_of(job).tolerance_deg)
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
    either = 0.0 if apart(job) else next(iter(found.values()))
    return move(card.events, -found.get("intake", either), -found.get("exhaust", either))


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next, by the method chosen or last used."""
    job = tries.at_position(job)
    method = chosen_method(job, query)
    found: Prompt | None = _MODULES[method].prompt(job, query)
    return found and replace(found, extra={**found.extra, "method": method})


def chosen_method(job: Job, query: Mapping[str, str]) -> str:
    """The method asked for, the one last used, at an earlier position too, or the one that suits the card."""
    if query.get("method") in _MODULES:
        return query["method"]
    used = job.standing(KEY) or [r for r in job.whole.readings if r.station == KEY and not (r.beside or r.void)]
    # A greatest lift or an answer leads back to what it was read beside.
    by_method = [method for reading in used if (method := method_of(reading)) not in ("peak", "asked")]
    if by_method:
        return by_method[-1]
    card = card_of(job)
    if card is None:
        return "lifts"
    # At a mark of the engine no wheel is needed for the lift at overlap.
    by_mark = wheel_of(job) is None and bool(stated_of(job).how)
    if card.overlap_ranges and (card.card.intake_centerline_deg is None or by_mark):
        return "overlap"
    # Where the card prints events, events decide.
    figures = card.card
    printed = None not in (figures.io_btdc_deg, figures.ic_abdc_deg, card.check_lift_mm)
    return "events" if printed and not {"io_btdc_deg", "ic_abdc_deg"} & set(figures.derived) else "lifts"


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    Impossible
        With the field at fault: `text`, `side` or `second`.
    """
    _module_of(entry).accept(tries.at_position(job), entry)


def describe(reading: Reading) -> str:
    """Say what a reading of this station was of."""
    words: str = _module_of(reading).describe(reading)
    return words


def _module_of(entry: Entry) -> ModuleType:
    kind = entry.spot.kind
    if kind in LOBES:
        return lifts
    module = events if kind in events.KINDS else peaks if peaks.BASE.of_kind(kind) else _MODULES.get(kind.split("-")[0])
    if module is None:
        raise Impossible("text", "not-taken-here")
    return module


@kept
def find(job: Job) -> Finding:
    """Judge the cam's phase against the card, at its position now."""
    job = tries.at_position(job)
    try:
        found = results(job)
    except Impossible as error:
        return Finding(Verdict.OPEN).judged(Verdict.UNSURE, FOUND, "reading-cannot-be", job.unit, why=error)
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
        ).judged(Verdict.UNSURE, FOUND, "nothing-to-compare", told=phrase)
    return _in_words(job, cams, lines)


def _before(job: Job) -> tuple[str, ...]:
    """Where the cam stood before the newest act that ended its readings; tries have a history of their own."""
    changed = job.before_change(KEY)
    if changed is None or any(one.seq >= changed[1].seq for one in tries.every_try(job)):
        return ()
    phrase = "; ".join(
        f"{'' if cam == 'both' else f'{cam} '}{late_or_early(error)}"
        for cam, (error, _) in phases(tries.just_before(job, changed[1])).items()
    )
    return (f"Before ({changed[1].said}): {phrase}.",) if phrase else ()


def _without_results(job: Job) -> Finding:
    begun = bool(job.standing(KEY))
    if wheel_of(job) is None:
        needs = say("set-wheel-find-true")
    else:
        needs = say("read-both-sides-maximum") if zero_holds(job) else say("find-tdc-first")
    trouble = [swept_lobe.trouble for lobe in LOBES if (swept_lobe := sweeps.swept(job, lobe)) and swept_lobe.trouble]
    sentence = say("sweep-under-way", trouble=trouble[0]) if trouble else say("no-lobe-read-both")
    moved = say("cam-moved-measure") if tries.tries(job) and not begun else ""
    return Finding(
        Verdict.OPEN, cautions=CAUTIONS, notes=(*_before(job), *_by_the_marks(job), *_cannot_prove(job))
    ).judged(Verdict.OPEN, FOUND, "not-read", begun=begun or bool(moved), why=sentence + moved, step=needs)


def _cannot_prove(job: Job) -> tuple[str, ...]:
    """Said before anything is read: the tolerance is nearly as narrow as this wheel can be read."""
    tolerance, reach = rules_of(job).tolerance_deg, weighed.proves_within(job)
    if reach is None or reach >= LEAST_PROVED * tolerance:
        return ()
    if reach < 0:
        return (say("wheel-proves-nothing", tolerance_deg=tolerance),)
    return (say("wheel-proves-little", tolerance_deg=tolerance, reach_deg=reach),)


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


def verdict_of(job: Job, cams: tuple[Judged, ...], doubtful: tuple[str, ...]) -> Verdict:
    """The verdict of all cams together: in only where every cam and lobe was read, and nothing of it is doubtful."""
    found = cams[0].verdict
    return Verdict.UNSURE if found is Verdict.IN and (doubtful or unread(job)) else found


def _in_words(job: Job, cams: tuple[Judged, ...], lines: tuple[Row, ...]) -> Finding:
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
    elif waiting:
        next_step = say("read-well", unread=waiting[0])
    elif verdict is Verdict.IN:
        next_step = say("prove-clearances")
    else:
        next_step = say("choose-position-cure") if first.moving_cures else say("read-both-lobes-before")
    # Nothing orders a move while it cannot tell.
    moves = [
        _order(one, (job.bank or one.bank) if several else 0)
        for one in cams
        if one.verdict is Verdict.OUT and one.moving_cures
    ]
    parts = [
        *(_against_card(result) for result in leaders),
        *(moves if verdict is Verdict.OUT else []),
        _split(job, first),
    ]
    return Finding(
        Verdict.OPEN,
        measured=Measured(first.error_deg, "deg", first.doubt_deg),
        number=format_angle(abs(first.error_deg)),
        unit=_side(first.error_deg),
        uncertainty=f"± {format_angle(first.doubt_deg)}",
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
        FOUND,
        code,
        why=" ".join(filter(None, parts)),
        cam=named,
        step=next_step,
        lobe=waiting[0] if waiting else "",
        wanted=say("card-wants-it") if aimed_at.aim is Aim.CARD else say("it-is-aimed", aim=aimed_at.words),
    )


def _order(one: Judged, bank: int) -> str:
    way = "Advance" if one.error_deg > 0 else "Retard"
    cam = "cam" if one.cam == "both" else f"{one.cam} cam"
    of_bank = f" of bank {bank}" if bank else ""
    return f"{way} the {cam}{of_bank} {format_angle(abs(one.error_deg))} crank deg."


def _by_the_marks(job: Job) -> tuple[str, ...]:
    """What marks and blind drives lead to expect, until the cam is moved."""
    return () if tries.tries(job) else (*marks.expected_notes(job.whole), *by_eye.expected_notes(job.whole))


def _top_as_stated(job: Job) -> tuple[str, ...]:
    """What the verdict leans on: a top that nobody read here, and the cylinder and lobe that are read."""
    frame, stated = frame_now(job), stated_of(job)
    sentences = [say("tdc-taken-as-stated", words=frame.stated.words)] if frame and frame.stated else []
    if stated.read_of is not None or stated.lobe:
        cylinder = "" if stated.read_of is None else f"cylinder {stated.read_of}"
        sentences.append(say("read-on", what=", ".join(filter(None, (cylinder, stated.lobe)))))
    return tuple(sentences)


def _open_code(first: Judged, unread_lobe: bool) -> str:
    """What is said where it cannot be told yet."""
    if unread_lobe:
        return "lobe-unread"
    if not first.lobes_agree:
        return "lobes-disagree"
    if _right_on(first.error_deg):
        return "reads-right"
    return "reads-late" if first.error_deg > 0 else "reads-early"


def _right_on(error_deg: float) -> bool:
    """Whether a cam stands neither early nor late as it is shown."""
    return format_angle(abs(error_deg)) == format_angle(0)


def _side(error_deg: float) -> str:
    """Which way the headline's figure is, where it is any."""
    if _right_on(error_deg):
        return "deg, right on"
    return "deg retarded" if error_deg > 0 else "deg advanced"


def _against_card(result: Result) -> str:
    assert result.error_deg is not None
    off = late_or_early(result.error_deg)
    if result.target:
        return say(
            "against-target",
            label=result.label,
            measured=result.measured,
            target=result.target,
            card=say("card-has", card=result.card) if result.card else "",
            off=off,
        )
    return say(
        "against-card",
        label=result.label,
        measured=result.measured,
        card=result.card,
        off=off,
    )


def _split(job: Job, one: Judged) -> str:
    if len(one.lobes) < 2 or any(result.centerline_deg is None for result in one.lobes):
        return ""
    wider = one.apart_by_deg
    if abs(wider) <= max(0.5, sum(result.uncertainty_deg for result in one.lobes) / 2):
        return ""
    return say("lobe-separation-lsa-cam", wider_deg=abs(wider), way="wider" if wider > 0 else "narrower")


def _what_to_reread(job: Job, one: Judged, lobe_results: list[Result]) -> str:
    if not one.lobes_agree:
        worse = max(one.lobes, key=lambda result: abs(result.error_deg or 0.0))
        return say("lobes-not-same-re", lobe=worse.lobe)
    if weighed.held(job):
        return say("settle-the-questions")
    if one.plain is not None and min(one.plain, 1 - one.plain) <= weighed.false_verdict(job) + EXACT:
        return say("prove-what-was-read")
    widest = max(lobe_results, key=lambda result: result.uncertainty_deg)
    if all(result.method == "lifts" for result in one.lobes):
        near = [result.lobe for result in one.lobes if not _read_far_apart(job, result.lobe)]
        return say("one-drop-deceives", lobe=near[0]) if near else say("lifts-leave-open")
    by_drops = lifts.measured(job, widest.lobe) if widest.method == "lifts" else None
    if by_drops and by_drops.spread_deg / 2 >= widest.uncertainty_deg * 0.7:
        return say("drops-disagree-re-read", lobe=widest.lobe)
    if widest.by_range is not None:
        return say("too-near-end-card", lobe=widest.lobe)
    return say("too-near-limit-wheel", lobe=widest.lobe)


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
            assert first.error_deg is not None
            assert other.error_deg is not None
            apart_by = abs(first.error_deg - other.error_deg)
            if other.method != first.method and apart_by > max(0.8, first.by_readings_deg + other.by_readings_deg):
                sentences.append(
                    say(
                        "put-deg-apart",
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
                    "lift-overlap-bank-deg",
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
        return say("lobe-asymmetric-compare-way")
    if free is not None and free > apart_by / 2:
        return say("drive-deg-slack-them", free=free)
    if "lifts" in methods:
        return say("asymmetric-lobe-reading-slipped")
    return say("bad-set-slipped-reading")


def _four_in_words(job: Job) -> tuple[str, ...]:
    found = four_events(job)
    if found is None:
        return ()
    sentences = []
    for name, error in (("Intake", found.intake_duration_error_deg), ("Exhaust", found.exhaust_duration_error_deg)):
        if abs(error) > 1:
            sentences.append(
                say("duration-deg-card-s", name=name, error_deg=abs(error), way="longer" if error > 0 else "shorter")
            )
    left = found.left_after_correction
    if any(abs(getattr(left, field)) > 0.5 for field in events.FIELD.values()):
        parts = ", ".join(f"{kind.upper()} {getattr(left, field):+.1f}" for kind, field in events.FIELD.items())
        sentences.append(say("once-phase-cured-left", parts=parts.replace("-", "−")))
    return tuple(sentences)


def rows(job: Job, found: tuple[Result, ...]) -> tuple[Row, ...]:
    """Card beside measured for every lobe and method, separation, durations, and the events that follow."""
    several = len({result.method for result in found}) > 1
    lines = []
    for result in found:
        label = f"{result.label}, {METHOD_WORDS[result.method]}" if several else result.label
        gap_deg = result.card_error_deg
        shown = gap_deg if gap_deg is None or result.lobe == "intake" or result.centerline_deg is None else -gap_deg
        difference = "" if shown is None else signed(shown)
        if several and difference:
            difference += f" ±{format_angle(result.uncertainty_deg)}"
        lines.append(Row(label, result.card, result.measured, difference))
        if result.target and result.error_deg is not None:
            late = result.error_deg if result.lobe == "intake" or result.centerline_deg is None else -result.error_deg
            lines.append(Row(say("against-the-target"), result.target, result.measured, signed(late)))
    lines += [row for lobe in LOBES for row in _drop_rows(job, lobe)]
    lines += separation(job, found)
    four = four_events(job)
    card = card_of(job)
    if four and card and card.events:
        lines += [
            _row("Intake duration", card.card.intake_duration_deg, four.intake_duration_deg),
            _row("Exhaust duration", card.card.exhaust_duration_deg, four.exhaust_duration_deg),
        ]
    lines += [row for lobe in LOBES for row in _sweep_rows(job, lobe)]
    free = slack.slack_deg(job)
    if free is not None:
        lines.append(Row(say("drive-slack-crank-deg"), "", format_angle(free)))
    return (*lines, *event_rows(job, found))


def _sweep_rows(job: Job, lobe: str) -> list[Row]:
    swept_lobe = sweeps.swept(job, lobe)
    swept_found = swept_lobe.found if swept_lobe else None
    top = swept_found.max_lift_mm if swept_found else peaks.measured(job, lobe)
    if top is None:
        return []
    card = card_of(job)
    card = getattr(card, f"{lobe}_max_lift_mm") if card else None
    gap = "" if card is None else format_length(top - card, job.unit).replace("-", "−")
    if gap and gap[0] != "−":
        gap = f"+{gap}"
    if gap and not gap.strip("+−0."):
        gap = "0"
    name = lobe.capitalize()
    lift = Row(f"{name} lift", "" if card is None else format_length(card, job.unit), format_length(top, job.unit), gap)
    if swept_lobe is None or swept_found is None:
        return [lift]
    apart = f"{signed(swept_found.asymmetry_deg)} ± {format_angle(swept_lobe.asymmetry_doubt_deg)}"
    return [lift, Row(say("asymmetry-nose-less-middle", name=name), "", apart)]


def _drop_rows(job: Job, lobe: str) -> list[Row]:
    by_lifts = lifts.measured(job, lobe)
    if by_lifts is None or len(by_lifts.spans) < 2:
        return []
    by_drop = zip(by_lifts.spans, by_lifts.midpoints_deg, strict=True)
    drops = ", ".join(f"{span.pair.drop}: {format_angle(abs(middle))}" for span, middle in by_drop)
    return [Row(f"  middle by drop: {drops}", "", "", format_angle(by_lifts.spread_deg))]


def separation(job: Job, found: tuple[Result, ...]) -> list[Row]:
    middles: dict[str, float] = {}
    for result in found:
        if result.centerline_deg is not None:
            middles.setdefault(result.lobe, abs(result.centerline_deg))
    if len(middles) < 2:
        return []
    return [
        _row(
            "Lobe separation (LSA)",
            card.card.lobe_separation_cam_deg if (card := card_of(job)) else None,
            sum(middles.values()) / 2,
        )
    ]


def event_rows(job: Job, found: tuple[Result, ...]) -> list[Row]:
    """Every event that was read, beside the card's; what only follows if the durations are true is marked as such."""
    card = card.events if (card := card_of(job)) else None
    seen = events_read(job, found)
    lines = [_row(kind.upper(), events.card_event(job, kind), stated) for kind, stated in seen.items()]
    now = expected_events(job)
    if card is None or now is None:
        return lines
    read = {result.lobe for result in found}
    for kind, field in events.FIELD.items():
        if kind not in seen and (events.LOBE[kind] in read or not apart(job)):
            follows = format_angle(getattr(now, field))
            lines.append(Row(kind.upper(), format_angle(getattr(card, field)), note=follows, inferred=True))
    return lines


def events_read(job: Job, found: tuple[Result, ...]) -> dict[str, float]:
    """Each event that was read or swept, as a card states it."""
    seen: dict[str, float] = {}
    for result in found:
        for kind, angle_deg in zip(KINDS_OF[result.lobe], (result.opens_deg, result.closes_deg), strict=True):
            if angle_deg is not None:
                seen.setdefault(kind, events.stated(kind, angle_deg))
    for kind in events.KINDS:
        if kind not in seen and (one := events.measured(job, kind)):
            seen[kind] = one.stated_deg
    return seen


KINDS_OF = {"intake": ("io", "ic"), "exhaust": ("eo", "ec")}


def if_durations_true(rows: tuple[Row, ...]) -> str:
    """A sentence of the events nobody read: where they lie if the durations are as the card has them."""
    parts = [f"{row.label} {row.note}" for row in rows if row.inferred]
    return say("not-read-if-durations", parts=", ".join(parts)) if parts else ""


def _row(label: str, card_deg: float | None, measured_deg: float) -> Row:
    if card_deg is None:
        return Row(label, "", format_angle(measured_deg))
    return Row(label, format_angle(card_deg), format_angle(measured_deg), signed(measured_deg - card_deg))


def signed(difference_deg: float) -> str:
    words = format_angle(difference_deg)
    return words if words[0] == "−" or words == "0.0" else f"+{words}"
