"""Combined evidence of a position: phase and uncertainty of each cam, and likely set-up faults."""

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.wheel import Scale
from uranograph.engine import positions
from uranograph.engine.cams import LOBES, banks
from uranograph.engine.card import card_of
from uranograph.engine.tdc import frames
from uranograph.engine.tdc import moved_wrong as pointer_moved_wrong
from uranograph.phase import answers, events
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.basis import rules_of
from uranograph.phase.messages import ask, named
from uranograph.phase.observations import Observations, as_read, crossed, gathered, needle_mm

if TYPE_CHECKING:
    from uranograph.evidence.faults import Suspect, Weighing

MIRRORED_SHARE = 0.95
SWEPT_WRONG_SHARE = 0.9
# Total probability of set-up faults above which the verdict is held.
WRONG_SHARE = 0.5
USUAL_STOP_DEG = 40.0
USUAL_SLOPE_MM, PROVES_STEP_DEG = 0.06, 0.05
UNEVEN_ASKED, UNEVEN_PEAK_DEG, PEAK_READ_DEG = 0.6, 0.45, 0.3
SLIPPED_ASKED, STEP_DEG, CAM_DEGREES_PRIOR, MOVED_OTHERWISE, MOVED_OTHERWISE_DEG = 0.2, 0.25, 0.03, 0.1, 10.0
# A verdict may be wrong so many times as often once all that may be wrong is counted in, and never more often than that.
SUMMED, MAX_FALSE = 10.0, 0.05
FIRING_PRIOR, DOWN_MM, OVERLAP_SPREAD_DEG = 0.05, 0.02, 5.0


@dataclass(frozen=True)
class PosteriorPhase:
    """Where one cam stands against its target, crank degrees late as the wheel shows it, and its uncertainty (k = 2).

    `within` is the chance that it is truly within the tolerance, summed over everything that may be wrong; `plain` the same if
    nothing is.
    """

    error_deg: float
    doubt_deg: float
    within: float
    plain: float


def weighed(job: Job) -> "Weighing | None":
    """Weigh every reading of the position now; None where no lobe is read or the card says too little.

    Parameters
    ----------
    job
        The whole job, or its view at a position.

    Returns
    -------
    Weighing or None
        Numpy is loaded only here. A weighing takes megabytes: the newest few are at hand, and what is worked out of them is kept.
    """
    found = gathered(job)
    return None if found is None else _weighing(found)


@lru_cache(maxsize=4)
def _weighing(found: Observations) -> "Weighing":
    from uranograph.evidence.faults import Weighing

    return Weighing(found.readings, found.expected, found.setup)


@memoized
def posterior_phase(job: Job, cam: str, lobes: tuple[str, ...], tolerance_deg: float) -> PosteriorPhase | None:
    """Where a cam stands by the lobes that decide, all readings counting together.

    Parameters
    ----------
    job
        The whole job, or its view at a position.
    cam
        `both`, or `intake` or `exhaust` where the cams are apart.
    lobes
        The lobes its phase is the mean of.
    tolerance_deg
        Crank degrees either side of the target.

    Returns
    -------
    Stand or None
        None where these lobes were not read on the wheel.
    """
    found, weighing = gathered(job), weighed(job)
    if found is None or weighing is None or not set(lobes) <= set(found.lobes):
        return None
    from uranograph.evidence.covariance import LATE_BIAS_DEG

    phase, plain = weighing.phase(cam, lobes), weighing.plain_phase(cam, lobes)
    ahead = sum(found.ahead_deg[lobe] for lobe in lobes) / len(lobes)
    # Shown is what the readings say as they are; how far the truth may lie from that counts everything in.
    late = as_read(weighing.model.phase(cam, lobes, by_usual_hand=True))
    doubt = max(math.hypot(phase.reach(late - LATE_BIAS_DEG), 2 * LATE_BIAS_DEG), found.top_deg)
    return PosteriorPhase(
        late + ahead,
        doubt,
        phase.chance_within(tolerance_deg, ahead),
        plain.chance_within(tolerance_deg, ahead),
    )


def false_verdict(job: Job) -> float:
    """How often an *in* or *out* may be wrong at the most, if nothing is wrong with the set-up."""
    return 1 / shop_limits.value(job.shop_limits, "one_in")


def false_in_all(job: Job) -> float:
    """The same with everything that may be wrong counted in."""
    return min(MAX_FALSE, SUMMED * false_verdict(job))


@memoized
def open_questions(job: Job) -> "tuple[Suspect, ...]":
    """Set-up questions worth asking, likeliest first."""
    from uranograph.evidence import faults

    weighing, view = weighed(job), positions.at_position(job)
    found = at_the_top(job) if weighing is None else faults.worth_asking(weighing.found)
    further = [
        *_uneven(view, weighing),
        *_of_peak(view),
        *_firing_top(view),
        *_cam_degrees(job),
        *_history(found, weighing),
        *_swept_wrong(view),
    ]
    by_code: dict[str, Suspect] = {}
    for each in (*found, *further):
        if not answers.settled(view, each.code) or (each.seq or 0) > answers.denied(view).get(each.code, 0):
            by_code[each.code] = max(each, by_code.get(each.code, each), key=lambda one: one.share)
    return tuple(sorted(by_code.values(), key=lambda each: -each.share))[: faults.MAX_ASKED]


def _swept_wrong(job: Job) -> "list[Suspect]":
    """Points of a sweep that lie off its curve, and a lobe that was swept twice and the second time otherwise."""
    from uranograph.evidence.faults import Suspect

    found = []
    for lobe in LOBES:
        swept = sweeps.swept(job, lobe)
        if swept is not None and swept.read_twice:
            found.append(Suspect("lobe-read-twice", SWEPT_WRONG_SHARE))
        for reading, _ in swept.suspects if swept is not None else ():
            found.append(Suspect("typing-slip", SWEPT_WRONG_SHARE, reading.seq))
    return found


def holding(job: Job) -> "Suspect | None":
    """The likeliest question of those that hold every verdict until they are settled.

    Any that is likely enough by itself; and, where something is likelier wrong than nothing, the likeliest of what that may be.
    """
    from uranograph.evidence.faults import HOLDS_SHARE

    found = open_questions(job)
    share = sum(each.share for each in found)
    return next((each for each in found if each.share > HOLDS_SHARE or share > WRONG_SHARE), None)


def form_to_set_right(job: Job) -> str:
    """The form in which a confirmed question that holds the verdict is set right, on any bank; empty where there is none."""
    for own in banks(job):
        view = positions.at_position(own)
        confirmed = [code for code in answers.SET_RIGHT if answers.form_to_set_right(view, code)]
        found = holding(own) if confirmed else None
        if found is not None and found.code in confirmed:
            return answers.form_to_set_right(view, found.code)
    return ""


def held(job: Job) -> bool:
    """Whether an open set-up question blocks every verdict."""
    return holding(job) is not None


def proves_within(job: Job) -> float | None:
    """How near its target the four events and two stop pairs can prove a cam in on this wheel, crank degrees; below 0 nowhere.

    None where the card has no events to read, or no wheel is set up.
    """
    from uranograph.evidence.covariance import Expected, Seen
    from uranograph.evidence.model import Phase, phase

    cut, card = frames(job), card_of(job)
    if not cut or card is None or card.events is None:
        return None
    expected = Expected({"intake": 110.0, "exhaust": -110.0}, {"intake": 120.0, "exhaust": 120.0})
    eye = shop_limits.value(job.shop_limits, "eye")
    expected = replace(expected, division_deg=cut[-1].mounted.division_deg, eye_deg=eye)
    flank = needle_mm(job, cut[-1]) / USUAL_SLOPE_MM
    seen = [Seen("stop", 0.0, n, apart_deg=USUAL_STOP_DEG) for n in (1, 2)]
    seen += [
        Seen("event", expected.middle_deg[lobe] + side * 120.0, 3 + n, lobe, side, flank)
        for n, (lobe, side) in enumerate((lobe, side) for lobe in LOBES for side in (-1, 1))
    ]
    sd, tolerance = phase(tuple(seen), expected).sd_deg, rules_of(job).tolerance_deg
    steps = [n * PROVES_STEP_DEG for n in range(round(tolerance / PROVES_STEP_DEG) + 1)]
    reach = [late for late in steps if 1 - Phase.of(late, sd).chance_within(tolerance) <= false_verdict(job)]
    return max(reach, default=-1.0)


def at_the_top(job: Job) -> "tuple[Suspect, ...]":
    """Question raised by both contacts on the wrong side, before any lobe is read."""
    from uranograph.evidence.faults import Suspect
    from uranograph.evidence.hypotheses import PRIOR

    cut = frames(job)
    if not crossed(cut):
        return ()
    full = cut[-1].mounted.wheel.scale is Scale.FULL
    codes = ("wheel-end", "numbers-rise") if full else ("wheel-end",)
    whole = sum(PRIOR[code] for code in codes)
    return tuple(Suspect(code, MIRRORED_SHARE * PRIOR[code] / whole) for code in codes)


def moved_wrong(job: Job) -> "tuple[Suspect, ...]":
    """A wheel that is off by twice as much since it was moved: asked at TDC, and taken off every reading all the same."""
    from uranograph.evidence.faults import Suspect

    return () if pointer_moved_wrong(job) is None else (Suspect("pointer-moved-wrong", MIRRORED_SHARE),)


def _uneven(job: Job, weighing: "Weighing | None") -> "list[Suspect]":
    """A lobe whose drops drift, or whose peak is off its event midpoint, by more than a symmetric lobe shows."""
    from uranograph.evidence.covariance import UNEVEN_ALONE, UNEVEN_DEG
    from uranograph.evidence.faults import Suspect
    from uranograph.evidence.hypotheses import NOTHING

    shares = [0.0]
    nothing = sum(each.share for each in weighing.found if each.code == NOTHING) if weighing is not None else 1.0
    for lobe in LOBES:
        if all(events.measured(job, kind) for kind in events.KINDS if events.LOBE[kind] == lobe):
            # Events decide, whatever the peak.
            continue
        share = weighing.uneven(lobe) if weighing is not None else 0.0
        swept = sweeps.swept(job, lobe)
        if swept is not None and swept.found is not None:
            off = swept.found.asymmetry_deg
            read_to = max(PEAK_READ_DEG, swept.asymmetry_doubt_deg / 2)
            even, uneven = math.hypot(UNEVEN_PEAK_DEG, read_to), math.hypot(UNEVEN_DEG, read_to)
            odds = UNEVEN_ALONE / (1 - UNEVEN_ALONE) * even / uneven
            odds *= math.exp(min(60.0, off**2 / 2 * (1 / even**2 - 1 / uneven**2)))
            share = max(share, nothing * odds / (1 + odds))
        shares.append(share)
    return [Suspect("uneven-lobe", max(shares))] if max(shares) > UNEVEN_ASKED else []


def _of_peak(job: Job) -> "list[Suspect]":
    """A card of centerlines that does not say what they are of, where that decides between in, out and neither."""
    from uranograph.evidence.faults import Suspect, Weighing

    found = gathered(job)
    if found is None or not 0 < found.expected.peak_chance < 1 or not _worth_meaning(job, found):
        return []
    share = Weighing(found.readings, found.expected, found.setup).of_peak()
    return [Suspect("centerline-of-peak", share)]


def _worth_meaning(job: Job, found: Observations) -> bool:
    """Whether a cam would be in or out by one meaning of the card's centerline, and not by the other."""
    from uranograph.evidence.faults import Weighing

    lobes, tolerance, limit = found.lobes, rules_of(job).tolerance_deg, false_in_all(job)
    if found.expected.apart:
        lobes = lobes[:1]
    cam = lobes[0] if found.expected.apart else "both"
    ahead = sum(found.ahead_deg[lobe] for lobe in lobes) / len(lobes)
    within = [
        Weighing(found.readings, replace(found.expected, peak_chance=chance), found.setup)
        .phase(cam, lobes)
        .chance_within(tolerance, ahead)
        for chance in (0.0, 1.0)
    ]
    said = [1 if 1 - each <= limit else -1 if each <= limit else 0 for each in within]
    return said[0] != said[1]


def _history(found: "tuple[Suspect, ...]", weighing: "Weighing | None") -> "list[Suspect]":
    """A gear that slipped before reads as a cam fitted late: where its fit alone holds it, that is asked, and never weighed."""
    if weighing is None or any(each.code == "gear-slipped-before" for each in found):
        return []
    return [each for each in weighing.found if each.code == "gear-slipped-before" and each.share > SLIPPED_ASKED]


def _cam_degrees(job: Job) -> "list[Suspect]":
    """The last move brought twice what its marks were said to be worth, or half."""
    from uranograph.evidence.faults import Suspect

    made = positions.tries(job.full_job)
    if not made or positions.at_position(job.full_job) is not positions.at_position(job):
        return []
    before, after = weighed(positions.at_position(job.full_job, len(made) - 1)), weighed(positions.at_position(job))
    if before is None or after is None:
        return []
    cam = "both" if not after.expected.apart else made[-1].lobes[0]
    try:
        was, now = before.phase(cam), after.phase(cam)
    except KeyError:
        return []
    change, spread = was.late_deg - now.late_deg, math.hypot(was.sd_deg, now.sd_deg, STEP_DEG)
    weights = [
        prior * math.exp(-(((change - part * made[-1].shift_deg) / spread) ** 2) / 2)
        for prior, part in ((1 - 2 * CAM_DEGREES_PRIOR, 1.0), (CAM_DEGREES_PRIOR, 2.0), (CAM_DEGREES_PRIOR, 0.5))
    ]
    # Neither as stated, nor twice, nor half: something else moved it.
    anything = MOVED_OTHERWISE * math.exp(-((change / MOVED_OTHERWISE_DEG) ** 2) / 2) * spread / MOVED_OTHERWISE_DEG
    share = sum(weights[1:]) / (sum(weights) + anything)
    return [Suspect("cam-degrees", share)] if share > 0.5 else []


def _firing_top(job: Job) -> "list[Suspect]":
    """Both lifters down where the card wants them up at overlap: the crank is a whole turn out."""
    from uranograph.evidence.faults import Suspect
    from uranograph.phase import overlaps

    card = card_of(job)
    likely = []
    for lobe in LOBES:
        wanted = card.overlap_range(lobe) if card else None
        for reading in overlaps.LIFT.taken(job, overlaps.KIND[lobe]):
            if wanted is None or reading.spot.place == "on":
                continue
            middle = sum(wanted) / 2
            spread = (wanted[1] - wanted[0]) / 2 + OVERLAP_SPREAD_DEG * abs(overlaps.slope_at_overlap(job, lobe)[0])
            down, up = (
                -(((reading.mm - at) / sd) ** 2) / 2 - math.log(sd) for at, sd in ((0.0, DOWN_MM), (middle, spread))
            )
            likely.append(down - up)
    if not likely:
        return []
    odds = FIRING_PRIOR / (1 - FIRING_PRIOR) * math.exp(max(-60.0, min(60.0, sum(likely))))
    share = odds / (1 + odds)
    return [Suspect("firing-top", share)] if share > 0.5 else []


SHARES = ((0.9, "nearly certain"), (0.7, "3 in 4"), (0.45, "1 in 2"), (0.2, "1 in 4"), (0.0, "1 in 10"))


def in_words(job: Job, suspect: "Suspect") -> str:
    """A fault as a question, with its probability in words and the reading concerned."""
    odds = next(words for least, words in SHARES if suspect.share >= least)
    open_questions = ask(suspect.code, where=where(job, suspect))
    return f"{open_questions} ({odds})"


def where(job: Job, suspect: "Suspect") -> str:
    """The reading that a fault concerns, as read; empty if none."""
    reading = next((each for each in job.full_job.readings if each.seq == suspect.seq), None) if suspect.seq else None
    if reading is None:
        return ""
    shown = f"{reading.text}{f' {reading.side.upper()}' if reading.side else ''}"
    return f"{reading.second} at {shown}" if reading.spot.kind.startswith("sweep-") else shown


def name_of(code: str) -> str:
    """Short name of a fault, for use within a sentence."""
    return named(code)
