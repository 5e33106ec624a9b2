"""What all readings of this position say together: where each cam stands, how surely, and what may be wrong with the set-up."""

import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import TYPE_CHECKING

from uranograph.bench import house
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Reading
from uranograph.bench.pairs import Pair
from uranograph.core.errors import Impossible
from uranograph.core.lobe import half_width_at
from uranograph.core.sweep import FEWEST_POINTS
from uranograph.core.tdc import Top
from uranograph.core.wheel import Scale
from uranograph.engine import gear_train as train
from uranograph.engine import positions as tries
from uranograph.engine.cams import LOBES, card_centerline
from uranograph.engine.card import DRAWN_LOBE, card_of
from uranograph.engine.degree_wheel import crank_angle
from uranograph.engine.description import engine_of
from uranograph.engine.stated_tdc import offset_deg
from uranograph.engine.tdc import Frame, frame_at, frames, mirrored
from uranograph.engine.tdc import moved_wrong as pointer_moved_wrong
from uranograph.stations.degree import answers, events, lifts, peaks, sweeps
from uranograph.stations.degree.rules import rules_of
from uranograph.stations.degree.target import target_of
from uranograph.stations.degree.words import ask, named

if TYPE_CHECKING:
    from uranograph.evidence.faults import Setup, Suspect, Weighing
    from uranograph.evidence.model import Expected, Phase, Seen

# A half duration that the card does not give, and a wheel's place in a file of true crank angles, one standard deviation.
HALF_UNKNOWN_DEG, FROM_FILE_DEG = 15.0, 0.1
MOST = 200
# A swept lobe's two events beside a hand's one reading; its base in hundredths of a mm.
SWEPT_PART, SWEPT_BASE = 0.7, 1.7
HELD_BY_ITS_FIT = ("pressed", "taper", "screw")
MIRRORED_SHARE = 0.95
SWEPT_WRONG_SHARE = 0.9
# Questions that are together likelier than this hold the verdict, whichever of them it is.
WRONG_SHARE = 0.5
USUAL_STOP_DEG = 40.0
# A card of centerlines alone may mean either.
UNSAID_PEAK = 0.5
USUAL_SLOPE_MM, PROVES_STEP_DEG = 0.06, 0.05
UNEVEN_ASKED, UNEVEN_PEAK_DEG, PEAK_READ_DEG = 0.6, 0.45, 0.3
SLIPPED_ASKED, STEP_DEG, CAM_DEGREES_PRIOR, MOVED_OTHERWISE, MOVED_OTHERWISE_DEG = 0.2, 0.25, 0.03, 0.1, 10.0
# A verdict may be wrong so many times as often once all that may be wrong is counted in, and never more often than that.
SUMMED, MOST_FALSE = 10.0, 0.05
FIRING_PRIOR, DOWN_MM, OVERLAP_SPREAD_DEG = 0.05, 0.02, 5.0


@dataclass(frozen=True, eq=False)
class Gathered:
    """The readings as the model takes them, with what is expected of them; and how far ahead of the card a lobe is wanted."""

    readings: "tuple[Seen, ...]"
    expected: "Expected"
    setup: "Setup"
    ahead_deg: dict[str, float]
    top_deg: float = 0.0

    @property
    def lobes(self) -> tuple[str, ...]:
        """The lobes that were read on the wheel."""
        return tuple(lobe for lobe in LOBES if any(each.lobe == lobe and each.on_wheel for each in self.readings))


@dataclass(frozen=True)
class Stand:
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
def _weighing(found: Gathered) -> "Weighing":
    from uranograph.evidence.faults import Weighing

    return Weighing(found.readings, found.expected, found.setup)


@kept
def stand(job: Job, cam: str, lobes: tuple[str, ...], tolerance_deg: float) -> Stand | None:
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
    from uranograph.evidence.model import LATE_BIAS_DEG

    phase, plain = weighing.phase(cam, lobes), weighing.plain_phase(cam, lobes)
    ahead = sum(found.ahead_deg[lobe] for lobe in lobes) / len(lobes)
    # Shown is what the readings say as they are; how far the truth may lie from that counts everything in.
    late = as_read(weighing.model.phase(cam, lobes, by_usual_hand=True))
    doubt = max(math.hypot(phase.reach(late - LATE_BIAS_DEG), 2 * LATE_BIAS_DEG), found.top_deg)
    return Stand(
        late + ahead,
        doubt,
        phase.chance_within(tolerance_deg, ahead),
        plain.chance_within(tolerance_deg, ahead),
    )


def false_verdict(job: Job) -> float:
    """How often an *in* or *out* may be wrong at the most, if nothing is wrong with the set-up."""
    return 1 / house.value(job.house, "one_in")


def false_in_all(job: Job) -> float:
    """The same with everything that may be wrong counted in."""
    return min(MOST_FALSE, SUMMED * false_verdict(job))


def needle_mm(job: Job, frame: Frame) -> float:
    """How well the needle of this dial is read, mm, one standard deviation."""
    return house.value(job.house, "needle") * frame.mounted.dial_division_mm


def as_read(phase: "Phase") -> float:
    """A phase as the wheel shows it: the lateness of forward readings is in it, and it leans on no habit of the trade."""
    from uranograph.evidence.model import LATE_BIAS_DEG, PHASE_DEG

    share, late, sd = phase.parts.T
    wide = PHASE_DEG**2
    return float((share * late * wide / (wide - (sd**2).clip(max=wide / 2))).sum()) + LATE_BIAS_DEG


@kept
def gathered(job: Job) -> Gathered | None:
    """The readings as the model takes them, with what is expected of them; None too where one of them cannot be placed."""
    try:
        return _gathered(job)
    except Impossible:
        return None


def _gathered(job: Job) -> Gathered | None:
    from uranograph.evidence.faults import Setup
    from uranograph.evidence.model import SPRINGS_DEG, Expected

    view, cut = tries.at_position(job), frames(job)
    middles, ahead = _middles(view)
    if not cut or not middles:
        return None
    card, engine, gears = card_of(view), engine_of(view), train.described(view)
    halves = {lobe: _half(view, lobe) for lobe in middles}
    widths: dict[int, float] = {}
    on_lobes = [
        *_of_events(view, cut, middles),
        *_of_sweeps(view, cut, middles),
        *_of_lifts(view, cut, middles, halves, widths),
    ]
    if not on_lobes or len(on_lobes) > MOST:
        return None
    frames_read = {each.frame for each in on_lobes} | {len(cut) - 1}
    seen = [*_stops(cut, frames_read), *on_lobes, *_lifts_read(view, middles)]
    expected = Expected(
        middles,
        halves,
        widths,
        apart=bool(engine and engine.separate_cams),
        division_deg=cut[-1].mounted.division_deg,
        half_doubt_deg={lobe: HALF_UNKNOWN_DEG for lobe in middles if _duration(view, lobe) is None},
        lift_mm={lobe: top for lobe in middles if (top := _card_lift(view, lobe)) is not None},
        check_mm=sweeps.check_lift(view),
        eye_deg=house.value(job.house, "eye"),
        centering_deg=house.value(job.house, "centering"),
        closing_deg=SPRINGS_DEG[engine.springs if engine else ""],
        peak_chance=_peak_chance(view),
    )
    setup = Setup(
        crank_teeth=gears.crank.teeth if gears else _teeth_of_drive(view),
        firing_deg=720 / engine.cylinders if engine and engine.cylinders > 1 and not engine.firing_deg else None,
        full_wheel=cut[-1].mounted.wheel.scale is Scale.FULL,
        crossed=crossed(cut),
        clash=bool(card and card.card.conflicts),
        pressed=_pressed(view),
        tappets=engine.tappets if engine else "",
        springs=engine.springs if engine else "",
        denied=answers.denied(view),
    )
    tops = [cut[n].top for n in frames_read if n >= 0]
    top = max((_top_doubt(each) for each in tops if each is not None), default=0.0)
    return Gathered(tuple(sorted(seen, key=lambda each: each.seq)), expected, setup, ahead, top)


def _top_doubt(top: Top) -> float:
    """The ± of a TDC, and no less than its own pairs are apart."""
    return max(top.uncertainty_deg, top.spread_deg / 2)


def _middles(view: Job) -> tuple[dict[str, float], dict[str, float]]:
    """Where each lobe's middle is by the card, or else by the target; and how far ahead of that it is wanted."""
    middles: dict[str, float] = {}
    ahead: dict[str, float] = {}
    aimed_at = target_of(view)
    for lobe in LOBES:
        card, wanted = card_centerline(view, lobe), aimed_at.centerline(view, lobe)
        middle = wanted if card is None else card
        if middle is not None:
            middles[lobe] = middle
            ahead[lobe] = 0.0 if wanted is None else middle - wanted
    return middles, ahead


def _duration(job: Job, lobe: str) -> float | None:
    card = card_of(job)
    return getattr(card.card, f"{lobe}_duration_deg") if card else None


def _half(job: Job, lobe: str) -> float:
    return float(_duration(job, lobe) or DRAWN_LOBE.duration_deg) / 2


def _card_lift(job: Job, lobe: str) -> float | None:
    card = card_of(job)
    return getattr(card, f"{lobe}_max_lift_mm") if card else None


def _teeth_of_drive(job: Job) -> int | None:
    """Teeth of the crank gear as the adjusters have them, where the gears themselves are not described."""
    latest = job.latest("drive")
    for n in range(1, 5) if latest else ():
        kind, teeth = (latest.typed.get(f"a{n}_{name}", "") for name in ("kind", "teeth"))  # type: ignore[union-attr]
        if kind in ("tooth", "hole-sets") and teeth.isdecimal() and int(teeth) >= 4:
            return int(teeth) if kind == "tooth" else int(teeth) // 2
    return None


def _peak_chance(job: Job) -> float:
    """How likely the card's middles are of the peaks: events decide where they are printed, else what the card says they are of."""
    card = card_of(job)
    if card is None or card.prints_events:
        return 0.0
    return {"peak": 1.0, "events": 0.0}.get(card.centerline_of, UNSAID_PEAK)


def _pressed(job: Job) -> bool:
    """Whether the cam's gear is held by its fit alone, as the gears' form or the complaint has it."""
    gears = train.described(job)
    stated = [latest.typed.get("held", "") for kind in ("gear-fit", "complaint") if (latest := job.latest(kind))]
    return (gears.cam.held if gears else "") in HELD_BY_ITS_FIT or any(held in HELD_BY_ITS_FIT for held in stated)


def _angles(frame: Frame, pair: Pair) -> tuple[float, float]:
    assert pair.before is not None and pair.after is not None
    before, after = (crank_angle(frame.mounted, each.text, each.side) for each in (pair.before, pair.after))
    return before, after


def crossed(cut: tuple[Frame, ...]) -> bool:
    """Whether both contacts of some pair at the top stand on its wrong side."""
    return any(mirrored(frame.mounted, pair) for frame in cut for pair in frame.whole_pairs)


def _stops(cut: tuple[Frame, ...], frames_read: set[int]) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    found = []
    for n in sorted(frames_read):
        if n < 0:
            found.append(Seen("stop", 0.0, 0, frame=n, own_deg=FROM_FILE_DEG))
            continue
        frame = cut[n]
        for pair in frame.whole_pairs:
            zero = sum(_angles(frame, pair)) / 2
            apart = abs(_angles(frame, pair)[1] - _angles(frame, pair)[0]) / 2
            seq = max(reading.seq for reading in pair.readings)
            found.append(Seen("stop", zero, seq, frame=n, apart_deg=apart))
        if frame.stated is not None:
            found.append(Seen("stop", 0.0, 0, frame=n, own_deg=frame.stated.doubt_deg / 2))
    return found


def _frame_of(cut: tuple[Frame, ...], seq: int) -> int:
    return max((n for n, frame in enumerate(cut) if frame.start_seq < seq), default=-1)


def _shown(job: Job, cut: tuple[Frame, ...], reading: Reading) -> float | None:
    """What the wheel shows of a forward reading, about the top of the cylinder read."""
    if reading.approach != "forward" or frame_at(job, reading.seq) is None:
        return None
    mounted = cut[_frame_of(cut, reading.seq)].mounted
    return crank_angle(mounted, reading.text, reading.side) - offset_deg(job.whole)


def swapped_by(text: str) -> float:
    """By how much a figure is off if its last two whole digits were swapped.

    Examples
    --------
    >>> swapped_by("52"), swapped_by("125.5"), swapped_by("44"), swapped_by("7")
    (27.0, 27.0, 0.0, 0.0)
    """
    digits = re.match(r"\s*(\d+)", text)
    if digits is None or len(digits[1]) < 2:
        return 0.0
    tens, ones = int(digits[1][-2]), int(digits[1][-1])
    return abs(9.0 * (tens - ones))


def _of_events(job: Job, cut: tuple[Frame, ...], middles: dict[str, float]) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    found = []
    for kind in events.KINDS:
        lobe = events.LOBE[kind]
        if lobe not in middles:
            continue
        slope = events.slope_at_check(job, kind)
        for reading in events.EVENT.taken(job, kind):
            shown = _shown(job, cut, reading)
            if shown is None:
                continue
            n = _frame_of(cut, reading.seq)
            # The flank is a nominal one: it may be that much flatter.
            flattest = slope * (1 - events.NOMINAL_SLOPE_DOUBT)
            needle = needle_mm(job, cut[n]) / flattest if slope else 0.0
            side = -1 if kind in ("io", "eo") else 1
            swap = swapped_by(reading.text)
            found.append(
                Seen(
                    "event",
                    shown,
                    reading.seq,
                    lobe,
                    side,
                    needle,
                    slope_mm=slope,
                    frame=n,
                    swap_deg=swap,
                )
            )
    return found


def _of_sweeps(job: Job, cut: tuple[Frame, ...], middles: dict[str, float]) -> "list[Seen]":
    """A sweep as the two events it shows; the zero of the wheel is that of its last point."""
    from uranograph.evidence.model import Seen, hand_variance

    found = []
    for lobe in middles:
        swept = sweeps.swept(job, lobe)
        if swept is None or any(each.approach != "forward" for each in swept.readings):
            continue
        if swept.found is None and len(swept.points) < FEWEST_POINTS:
            continue
        from_file = all(reading.instrument == sweeps.FROM_FILE for reading in swept.readings)
        n = -1 if from_file else _frame_of(cut, swept.readings[-1].seq)
        division = 0.5 if from_file else cut[n].mounted.division_deg
        own = math.sqrt(hand_variance(division, house.value(job.house, "eye"))) * SWEPT_PART
        zero = 0.0
        if not from_file:
            top = cut[n].top
            zero = top.zero_error_deg if top else 0.0
        passed = sweeps.flanks(swept, sweeps.check_lift(job))
        if swept.found is not None:
            passed = [(-1, swept.found.open_deg), (1, swept.found.close_deg)]
        for side, at in passed:
            kind = {("intake", -1): "io", ("intake", 1): "ic", ("exhaust", -1): "eo", ("exhaust", 1): "ec"}[lobe, side]
            found.append(
                Seen(
                    "event",
                    at + zero,
                    swept.readings[-1].seq,
                    lobe,
                    side,
                    slope_mm=events.slope_at_check(job, kind),
                    frame=n,
                    own_deg=own,
                )
            )
    return found


def _of_lifts(
    job: Job, cut: tuple[Frame, ...], middles: dict[str, float], halves: dict[str, float], widths: dict[int, float]
) -> "list[Seen]":
    from uranograph.evidence.model import Seen

    found = []
    for pair in lifts.lift_pairs(job):
        if pair.kind not in middles or not pair.complete:
            continue
        card = card_of(job)
        drawn = (card.lobe(pair.kind) if card else None) or DRAWN_LOBE
        assert pair.before is not None and pair.after is not None
        shown = [_shown(job, cut, reading) for reading in (pair.before, pair.after)]
        drop = pair.drop_mm or 0.0
        if shown[0] is None or shown[1] is None or not 0 < drop < drawn.max_lift_mm:
            continue
        wide, read = half_width_at(drawn, drawn.max_lift_mm - drop), ((shown[1] - shown[0]) % 360) / 2
        # As it was read, where that can be: the nominal lobe is only about as wide.
        wide_read = read if 0.5 * wide < read < 2 * wide else wide
        for reading, at, side in ((pair.before, shown[0], -1), (pair.after, shown[1], 1)):
            n = _frame_of(cut, reading.seq)
            slope = 2 * drop / wide_read
            needle = needle_mm(job, cut[n]) / slope
            widths[reading.seq] = wide
            seen = Seen("lift", at, reading.seq, pair.kind, side, needle, slope_mm=slope, frame=n)
            found.append(
                replace(
                    seen,
                    near_nose=max(0.0, 1 - wide_read / halves[pair.kind]),
                    swap_deg=swapped_by(reading.text),
                    drop=pair.drop or "",
                )
            )
    return found


def _lifts_read(job: Job, middles: dict[str, float]) -> "list[Seen]":
    """Greatest lifts in percent over the card's, and bases in hundredths of a mm."""
    from uranograph.evidence.model import Seen

    found = []
    for lobe in middles:
        top = _card_lift(job, lobe)
        if top is not None:
            found += [
                Seen("peak", 100 * (reading.mm / top - 1), reading.seq, lobe)
                for reading in peaks.LIFT.taken(job, peaks.KIND[lobe])
            ]
            swept = sweeps.swept(job, lobe)
            if swept is not None and swept.found is not None:
                over = 100 * (swept.found.max_lift_mm / top - 1)
                found.append(Seen("peak", over, swept.readings[-1].seq, lobe, own_deg=0.3))
        swept = sweeps.swept(job, lobe)
        if swept is not None and swept.found is not None and swept.found.base_drift_mm is not None:
            drift = 100 * swept.found.base_drift_mm
            found.append(Seen("base", drift, swept.readings[-1].seq, lobe, own_deg=SWEPT_BASE))
        found += [
            Seen("base", 100 * reading.mm, reading.seq, lobe)
            for reading in peaks.BASE.taken(job, peaks.BASE_KIND[lobe])
        ]
    return found


@kept
def asked(job: Job) -> "tuple[Suspect, ...]":
    """What is worth asking about the set-up, the likeliest first."""
    from uranograph.evidence import faults

    weighing, view = weighed(job), tries.at_position(job)
    found = at_the_top(job) if weighing is None else faults.asked(weighing.found)
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
    return tuple(sorted(by_code.values(), key=lambda each: -each.share))[: faults.MOST_ASKED]


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

    found = asked(job)
    share = sum(each.share for each in found)
    return next((each for each in found if each.share > HOLDS_SHARE or share > WRONG_SHARE), None)


def held(job: Job) -> bool:
    """Whether a question stands that holds every verdict."""
    return holding(job) is not None


def proves_within(job: Job) -> float | None:
    """How near its target the four events and two stop pairs can prove a cam in on this wheel, crank degrees; below 0 nowhere.

    None where the card has no events to read, or no wheel is set up.
    """
    from uranograph.evidence.model import Expected, Phase, Seen, phase

    cut, card = frames(job), card_of(job)
    if not cut or card is None or card.events is None:
        return None
    expected = Expected({"intake": 110.0, "exhaust": -110.0}, {"intake": 120.0, "exhaust": 120.0})
    eye = house.value(job.house, "eye")
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
    """What both contacts on the wrong side ask, before any lobe is read."""
    from uranograph.evidence.faults import PRIOR, Suspect

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
    """A lobe whose drops drift, or whose peak lies beside the middle of its events, by more than even lobes show."""
    from uranograph.evidence.faults import NOTHING, Suspect
    from uranograph.evidence.model import UNEVEN_ALONE, UNEVEN_DEG

    shares = [0.0]
    nothing = sum(each.share for each in weighing.found if each.code == NOTHING) if weighing is not None else 1.0
    for lobe in LOBES:
        if all(events.measured(job, kind) for kind in events.KINDS if events.LOBE[kind] == lobe):
            # Events decide, however its peak lies.
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


def _worth_meaning(job: Job, found: Gathered) -> bool:
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

    made = tries.tries(job.whole)
    if not made or tries.at_position(job.whole) is not tries.at_position(job):
        return []
    before, after = weighed(tries.at_position(job.whole, len(made) - 1)), weighed(tries.at_position(job))
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
    # Neither as it was said, nor twice, nor half: something else moved it.
    anything = MOVED_OTHERWISE * math.exp(-((change / MOVED_OTHERWISE_DEG) ** 2) / 2) * spread / MOVED_OTHERWISE_DEG
    share = sum(weights[1:]) / (sum(weights) + anything)
    return [Suspect("cam-degrees", share)] if share > 0.5 else []


def _firing_top(job: Job) -> "list[Suspect]":
    """Both lifters down where the card wants them up at overlap: the crank is a whole turn out."""
    from uranograph.evidence.faults import Suspect
    from uranograph.stations.degree import overlaps

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
    """A fault as a question, with its share in plain words and the reading it lies in."""
    odds = next(words for least, words in SHARES if suspect.share >= least)
    asked = ask(suspect.code, where=where(job, suspect))
    return f"{asked} ({odds})"


def where(job: Job, suspect: "Suspect") -> str:
    """The reading that a fault lies in, as the eye saw it; empty where it lies in none."""
    reading = next((each for each in job.whole.readings if each.seq == suspect.seq), None) if suspect.seq else None
    if reading is None:
        return ""
    shown = f"{reading.text}{f' {reading.side.upper()}' if reading.side else ''}"
    return f"{reading.second} at {shown}" if reading.spot.kind.startswith("sweep-") else shown


def name_of(code: str) -> str:
    """A fault in as few words as stand within a sentence."""
    return named(code)
