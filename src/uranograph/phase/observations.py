"""Every reading of a job as an observation of the evidence."""

import math
import re
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.bench.pairs import Pair
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lobe import half_width_at
from uranograph.core.sweep import MIN_POINTS
from uranograph.core.tdc import Top
from uranograph.core.wheel import Scale
from uranograph.engine import gear_train, positions
from uranograph.engine.cams import LOBES, card_centerline
from uranograph.engine.card import card_of
from uranograph.engine.card_model import DRAWN_LOBE
from uranograph.engine.degree_wheel import crank_angle
from uranograph.engine.description import engine_of
from uranograph.engine.stated_tdc import offset_deg
from uranograph.engine.tdc import Frame, frame_at, frames, mirrored
from uranograph.phase import answers, events, lifts, peaks, slack
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.target import target_of

if TYPE_CHECKING:
    from uranograph.evidence.covariance import Expected, Seen
    from uranograph.evidence.model import Phase
    from uranograph.evidence.shifted_readings import Setup


# A half duration that the card does not give, and a wheel's place in a file of true crank angles, one standard deviation.
HALF_UNKNOWN_DEG, FROM_FILE_DEG = 15.0, 0.1
MAX_COUNT = 200
# A swept lobe's two events beside a hand's one reading; its base in hundredths of a mm.
SWEPT_PART, SWEPT_BASE = 0.7, 1.7
HELD_BY_ITS_FIT = ("pressed", "taper", "screw")
# A card of centerlines alone may mean either.
UNSAID_PEAK = 0.5


@dataclass(frozen=True, eq=False)
class Observations:
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


def needle_mm(job: Job, frame: Frame) -> float:
    """How well the needle of this dial is read, mm, one standard deviation."""
    return shop_limits.value(job.shop_limits, "needle") * frame.mounted.dial_division_mm


def as_read(phase: "Phase") -> float:
    """A phase as the wheel shows it: the lateness of forward readings is in it, and it leans on no habit of the trade."""
    from uranograph.evidence.covariance import LATE_BIAS_DEG, PHASE_DEG

    share, late, sd = phase.parts.T
    wide = PHASE_DEG**2
    return float((share * late * wide / (wide - (sd**2).clip(max=wide / 2))).sum()) + LATE_BIAS_DEG


@memoized
def gathered(job: Job) -> Observations | None:
    """The readings as the model takes them, with what is expected of them; None too where one of them cannot be placed."""
    try:
        return _gathered(job)
    except InvalidInput:
        return None


def _gathered(job: Job) -> Observations | None:
    from uranograph.evidence.covariance import SPRINGS_DEG, Expected
    from uranograph.evidence.shifted_readings import Setup

    view, cut = positions.at_position(job), frames(job)
    middles, ahead = _middles(view)
    if not cut or not middles:
        return None
    card, engine, gears = card_of(view), engine_of(view), gear_train.described(view)
    halves = {lobe: _half(view, lobe) for lobe in middles}
    widths: dict[int, float] = {}
    on_lobes = [
        *_of_events(view, cut, middles),
        *_of_sweeps(view, cut, middles),
        *_of_lifts(view, cut, middles, halves, widths),
    ]
    if not on_lobes or len(on_lobes) > MAX_COUNT:
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
        eye_deg=shop_limits.value(job.shop_limits, "eye"),
        centering_deg=shop_limits.value(job.shop_limits, "centering"),
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
        slack_deg=slack.swept_deg(view),
        denied=answers.denied(view),
    )
    tops = [cut[n].top for n in frames_read if n >= 0]
    top = max((_top_doubt(each) for each in tops if each is not None), default=0.0)
    return Observations(tuple(sorted(seen, key=lambda each: each.seq)), expected, setup, ahead, top)


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
    gears = gear_train.described(job)
    stated = [latest.typed.get("held", "") for kind in ("gear-fit", "complaint") if (latest := job.latest(kind))]
    return (gears.cam.held if gears else "") in HELD_BY_ITS_FIT or any(held in HELD_BY_ITS_FIT for held in stated)


def _angles(frame: Frame, pair: Pair) -> tuple[float, float]:
    if pair.before is None or pair.after is None:
        raise Missing("pair.before, pair.after")
    before, after = (crank_angle(frame.mounted, each.text, each.side) for each in (pair.before, pair.after))
    return before, after


def crossed(cut: tuple[Frame, ...]) -> bool:
    """Whether both contacts of a TDC pair are on the wrong side."""
    return any(mirrored(frame.mounted, pair) for frame in cut for pair in frame.complete_pairs)


def _stops(cut: tuple[Frame, ...], frames_read: set[int]) -> "list[Seen]":
    from uranograph.evidence.covariance import Seen

    found = []
    for n in sorted(frames_read):
        if n < 0:
            found.append(Seen("stop", 0.0, 0, frame=n, own_deg=FROM_FILE_DEG))
            continue
        frame = cut[n]
        for pair in frame.complete_pairs:
            zero = sum(_angles(frame, pair)) / 2
            apart = abs(_angles(frame, pair)[1] - _angles(frame, pair)[0]) / 2
            seq = max(reading.seq for reading in pair.readings)
            own = _by_instrument(*pair.readings)
            middle = None if own is None else own / math.sqrt(2)
            found.append(Seen("stop", zero, seq, frame=n, own_deg=middle, apart_deg=apart, by_encoder=own is not None))
        if frame.stated is not None:
            found.append(Seen("stop", 0.0, 0, frame=n, own_deg=frame.stated.doubt_deg / 2))
    return found


def _by_instrument(*readings: Reading) -> float | None:
    """Standard deviation of an angle that instruments read, crank degrees, with that of the contact; None where an eye read one."""
    from uranograph.evidence.covariance import CONTACT_DEG

    if not all(reading.is_by_instrument for reading in readings):
        return None
    return math.hypot(max(reading.uncertainty[0] for reading in readings) / 2, CONTACT_DEG)


def _frame_of(cut: tuple[Frame, ...], seq: int) -> int:
    return max((n for n, frame in enumerate(cut) if frame.start_seq < seq), default=-1)


def _shown(job: Job, cut: tuple[Frame, ...], reading: Reading) -> float | None:
    """Wheel angle of a forward reading about TDC of the cylinder read."""
    if reading.approach != "forward" or frame_at(job, reading.seq) is None:
        return None
    mounted = cut[_frame_of(cut, reading.seq)].mounted
    return crank_angle(mounted, reading.text, reading.side) - offset_deg(job.full_job)


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
    from uranograph.evidence.covariance import Seen

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
            # The flank is nominal and may be flatter by this factor.
            flattest = slope * (1 - events.NOMINAL_SLOPE_DOUBT)
            needle = needle_mm(job, cut[n]) / flattest if slope else 0.0
            side = -1 if kind in ("io", "eo") else 1
            swap = 0.0 if reading.is_by_instrument else swapped_by(reading.text)
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
                    own_deg=_by_instrument(reading),
                    swap_deg=swap,
                    by_encoder=reading.is_by_instrument,
                )
            )
    return found


def _of_sweeps(job: Job, cut: tuple[Frame, ...], middles: dict[str, float]) -> "list[Seen]":
    """A sweep as the two events it shows; the zero of the wheel is that of its last point."""
    from uranograph.evidence.covariance import Seen, reading_variance

    found = []
    for lobe in middles:
        swept = sweeps.swept(job, lobe)
        if swept is None or any(each.approach != "forward" for each in swept.readings):
            continue
        if swept.found is None and len(swept.points) < MIN_POINTS:
            continue
        from_file = all(reading.instrument == sweeps.FROM_FILE for reading in swept.readings)
        n = -1 if from_file else _frame_of(cut, swept.readings[-1].seq)
        division = 0.5 if from_file else cut[n].mounted.division_deg
        own = _by_instrument(*swept.readings)
        by_encoder = own is not None
        if own is None:
            own = math.sqrt(reading_variance(division, shop_limits.value(job.shop_limits, "eye")))
        own *= SWEPT_PART
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
                    by_encoder=by_encoder,
                )
            )
    return found


def _of_lifts(
    job: Job, cut: tuple[Frame, ...], middles: dict[str, float], halves: dict[str, float], widths: dict[int, float]
) -> "list[Seen]":
    from uranograph.evidence.covariance import Seen

    found = []
    for pair in lifts.lift_pairs(job):
        if pair.kind not in middles or not pair.complete:
            continue
        card = card_of(job)
        drawn = (card.lobe(pair.kind) if card else None) or DRAWN_LOBE
        if pair.before is None or pair.after is None:
            raise Missing("pair.before, pair.after")
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
                    own_deg=_by_instrument(reading),
                    swap_deg=0.0 if reading.is_by_instrument else swapped_by(reading.text),
                    by_encoder=reading.is_by_instrument,
                    drop=pair.drop or "",
                )
            )
    return found


def _lifts_read(job: Job, middles: dict[str, float]) -> "list[Seen]":
    """Greatest lifts in percent over the card's, and bases in hundredths of a mm."""
    from uranograph.evidence.covariance import Seen

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
