"""A swept lobe: its points, the curve through them, and its events at any lift."""

import itertools
import math
import re
from dataclasses import dataclass
from functools import lru_cache
from statistics import median

from uranograph.bench.job import Job
from uranograph.bench.log import Reading, coarsest
from uranograph.bench.memo import memoized
from uranograph.bench.messages import refusal
from uranograph.bench.slots import Grouping, Slot
from uranograph.core.angles import near
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.core.sweep import MIN_POINTS, LobeName, SweepInput, Swept, crossings, sweep
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded
from uranograph.engine.cams import KEY, RESTS_ON, USUAL_CENTERLINE_DEG, card_centerline, lobe_of
from uranograph.engine.card import card_of
from uranograph.engine.tdc import frame_at
from uranograph.phase.messages import say
from uranograph.phase.placing import true_angle

KIND = {"intake": "sweep-intake", "exhaust": "sweep-exhaust"}
POINT = Slot[str](
    KEY, tuple(KIND.values()), ("point",), rests_on=RESTS_ON, together=Grouping.SERIES, by_bank=True, lobe_of=lobe_of
)
FROM_FILE = "from a file"
# Lift at which a sweep is back at the base circle, as a share of the greatest.
BASE_SHARE = 0.03
# A lobe read again at so many angles is swept twice; its lifts are the same within this, mm.
MIN_AGAIN, AGAIN_MM = 6, 0.15
# Slack is read where the flank is steep, as shares of the greatest lift, at so many points at least.
SLACK_FROM, SLACK_TO, SLACK_FEWEST = 0.2, 0.8, 4


@dataclass(frozen=True)
class SweepOf:
    """A swept lobe: the readings and their places about overlap TDC, and what follows, or why nothing does."""

    lobe: str
    readings: tuple[Reading, ...]
    points: tuple[tuple[float, float], ...]
    found: Swept | None
    trouble: str
    by_readings_deg: float
    by_top_deg: float
    read_twice: bool = False

    @property
    def asymmetry_doubt_deg(self) -> float:
        """Uncertainty of the distance from nose to event midpoint: the nose, and two event readings."""
        return math.hypot(self.found.nose_doubt_deg if self.found else 0.0, self.by_readings_deg / math.sqrt(2))

    @property
    def suspects(self) -> list[tuple[Reading, str]]:
        """The readings off the curve, each with a guess at what went wrong."""
        if self.found is None:
            return []
        return [(self.readings[k], _guess(self, k)) for k in self.found.suspects]


def check_lift(job: Job) -> float:
    """The lift at which events count, mm; a usual one where the card gives none."""
    given = card.check_lift_mm if (card := card_of(job)) else None
    return given or (1.27 if job.unit is LengthUnit.INCH else 1.0)


def _placed(job: Job, lobe: str) -> list[Reading]:
    """Standing points of a lobe that can be placed."""
    return [
        reading
        for reading in POINT.taken(job, KIND[lobe])
        if reading.instrument == FROM_FILE or frame_at(job, reading.seq)
    ]


@memoized
def slack_deg(job: Job, lobe: str) -> float | None:
    """Slack of the drive by a lobe that was swept both ways, crank degrees.

    On its flanks each lift comes back at a smaller angle when turning backward, by the slack: the middle of those distances.

    Returns
    -------
    float or None
        None where it was not swept both ways, or not on enough of the flanks.

    Raises
    ------
    InvalidInput
        When a reading that came from elsewhere cannot be placed.
    """
    readings = [reading for reading in _placed(job, lobe) if reading.instrument != FROM_FILE]
    backward = [reading for reading in readings if reading.approach != "forward"]
    if not backward or len(backward) == len(readings):
        return None
    middle = card_centerline(job, lobe)
    target = USUAL_CENTERLINE_DEG[lobe] if middle is None else middle

    def at(reading: Reading) -> tuple[float, float]:
        return place(job, reading, target), parse_length(reading.second or "", reading.unit)

    forward = sorted(at(reading) for reading in readings if reading.approach == "forward")
    peak = max(forward, key=lambda point: point[1])
    apart = []
    for deg, lift in map(at, backward):
        if not SLACK_FROM <= lift / max(peak[1], 1e-9) <= SLACK_TO:
            continue
        for (a0, l0), (a1, l1) in itertools.pairwise(forward):
            same_flank = (a0 + a1 < 2 * peak[0]) == (deg < peak[0])
            if same_flank and l0 != l1 and min(l0, l1) <= lift <= max(l0, l1):
                apart.append(a0 + (a1 - a0) * (lift - l0) / (l1 - l0) - deg)
                break
    return max(0.0, median(apart)) if len(apart) >= SLACK_FEWEST else None


@memoized
def swept(job: Job, lobe: str) -> SweepOf | None:
    """Work out a lobe from its standing sweep readings.

    Parameters
    ----------
    job
        The job.
    lobe
        `intake` or `exhaust`.

    Returns
    -------
    SweepOf or None
        None while no point is read.

    Raises
    ------
    InvalidInput
        When a reading that came from elsewhere cannot be placed.
    """
    readings = _placed(job, lobe)
    # A lobe swept both ways is judged by the forward one; the other shows the slack.
    readings = [reading for reading in readings if reading.approach == "forward"] or readings
    if not readings:
        return None
    middle = card_centerline(job, lobe)
    target = USUAL_CENTERLINE_DEG[lobe] if middle is None else middle
    readings, read_twice = _newest_of_each(job, readings, target)
    points = tuple(
        (place(job, reading, target), parse_length(reading.second or "", reading.unit)) for reading in readings
    )
    frame = frame_at(job, readings[-1].seq)
    from_file = all(reading.instrument == FROM_FILE for reading in readings)
    by_top = 0.0 if from_file or frame is None or frame.top is None else frame.top.uncertainty_deg
    by_wheel = 0.1
    if not from_file and frame is not None:
        division = coarsest(readings, frame.mounted.division_deg)
        by_wheel = expanded((division / 2,), (CENTERING_DEG, APPROACH_DEG))
    found, trouble = None, ""
    if len(points) < MIN_POINTS:
        trouble = say("points-so-far", count=len(points), fewest_points=MIN_POINTS)
    else:
        try:
            found = _analyzed(LobeName(lobe), points, check_lift(job))
        except InvalidInput as error:
            trouble = refusal(error, job.unit)
    return SweepOf(lobe, tuple(readings), points, found, trouble, by_wheel, by_top, read_twice)


def is_complete(swept_lobe: SweepOf) -> bool:
    """Whether a sweep goes from the base circle over the nose to the base circle.

    Parameters
    ----------
    swept_lobe
        A lobe's sweep.

    Returns
    -------
    bool
        True where both its ends are within `BASE_SHARE` of the greatest lift.
    """
    if swept_lobe.found is None:
        return False
    ends = (min(swept_lobe.points)[1], max(swept_lobe.points)[1])
    return max(ends) <= BASE_SHARE * swept_lobe.found.max_lift_mm


def _newest_of_each(job: Job, readings: list[Reading], target_deg: float) -> tuple[list[Reading], bool]:
    """The newest reading at each angle, and whether a whole lobe was read twice and the second time otherwise."""
    newest: dict[float, Reading] = {}
    again, otherwise = 0, 0
    for reading in readings:
        at = round(place(job, reading, target_deg), 3)
        if at in newest:
            lifts = [parse_length(each.second or "", each.unit) for each in (newest[at], reading)]
            again += 1
            otherwise += abs(lifts[0] - lifts[1]) > AGAIN_MM
        newest[at] = reading
    order = sorted(newest.values(), key=lambda reading: reading.seq)
    return order, again >= MIN_AGAIN and otherwise > again / 2


@lru_cache(maxsize=64)
def _analyzed(lobe: LobeName, points: tuple[tuple[float, float], ...], check_lift_mm: float) -> Swept:
    """The same points mean the same, whatever else was written to the job since."""
    return sweep(SweepInput(lobe=lobe, points=list(points), check_lift_mm=check_lift_mm))


def place(job: Job, reading: Reading, target_deg: float) -> float:
    """Angle of a sweep reading about overlap TDC; readings from a file state it themselves."""
    if reading.instrument == FROM_FILE:
        return parse_angle(reading.text)
    return near(true_angle(job, reading), target_deg)


def _guess(swept_lobe: SweepOf, index: int) -> str:
    """Likely faults of a point: the digits, the wheel, or the lifter."""
    order = sorted(range(len(swept_lobe.points)), key=lambda k: swept_lobe.points[k][0])
    at = order.index(index)
    if not 0 < at < len(order) - 1:
        return "read it again."
    (a0, l0), (angle, lift), (a1, l1) = (swept_lobe.points[order[k]] for k in (at - 1, at, at + 1))
    wanted = l0 + (l1 - l0) * (angle - a0) / (a1 - a0)
    digits = (swept_lobe.readings[index].second or "").strip()
    if _is_slip(digits, lift, wanted):
        return say("guess-typing-slip", swept_lobe.readings[index].unit, wanted_mm=wanted)
    slope = (l1 - l0) / (a1 - a0)
    if slope and (shift := (lift - wanted) / slope) and any(abs(abs(shift) - whole) < 1.5 for whole in (5, 10, 20, 30)):
        return say("guess-wheel-misread", shift=abs(shift))
    if lift > wanted and slope < 0:
        return say("guess-lifter-sticking")
    return "read it again."


def _is_slip(digits: str, lift: float, wanted: float) -> bool:
    """Whether one digit changed, two swapped, or a shifted point brings the typed figure near the wanted one."""
    figures = [k for k, letter in enumerate(digits) if letter.isdigit()]
    if not figures or not lift:
        return False
    per_unit = lift / float(re.sub(r"[^\d.]", "", digits.replace(",", ".")) or 1)
    tries = []
    for k in figures:
        tries += [digits[:k] + d + digits[k + 1 :] for d in "0123456789"]
    for one, two in itertools.pairwise(figures):
        swapped = list(digits)
        swapped[one], swapped[two] = swapped[two], swapped[one]
        tries.append("".join(swapped))
    near_enough = max(0.03, 0.02 * abs(wanted))
    for typed in tries:
        try:
            value = float(re.sub(r"[^\d.]", "", typed.replace(",", ".")))
        except ValueError:
            continue
        if abs(value * per_unit - wanted) < near_enough and abs(wanted - lift) > 0.2:
            return True
    return False


def events_at(swept_lobe: SweepOf, lift_mm: float) -> tuple[float, float] | None:
    """Where a swept lobe passes a lift, about overlap TDC; None where it does not on both sides."""
    angles, lifts = _clean(swept_lobe)
    if len(set(angles)) < len(angles):
        return None
    if len(angles) < MIN_POINTS:
        return None
    try:
        return crossings(angles, lifts, lift_mm)
    except InvalidInput:
        return None


def flanks(swept_lobe: SweepOf, lift_mm: float) -> list[tuple[int, float]]:
    """Where points that make no whole lobe pass a lift: −1 on the way up, 1 on the way down, and the angle about overlap TDC.

    A dial on the other lobe shows one flank of it, or both the wrong way round.
    """
    points = sorted(swept_lobe.points)
    found: dict[int, list[float]] = {-1: [], 1: []}
    for (a0, l0), (a1, l1) in itertools.pairwise(points):
        if (l0 < lift_mm) != (l1 < lift_mm):
            found[-1 if l1 > l0 else 1].append(a0 + (a1 - a0) * (lift_mm - l0) / (l1 - l0))
    return [(side, at[0]) for side, at in found.items() if len(at) == 1]


def spans_by_lift(swept_lobe: SweepOf, count: int = 16) -> list[tuple[float, float, float]]:
    """Opening and closing at even lifts up a swept lobe: (lift in mm, opens, closes)."""
    if swept_lobe.found is None:
        return []
    top = swept_lobe.found.max_lift_mm
    spans = ((top * k / count, events_at(swept_lobe, top * k / count)) for k in range(1, count))
    return [(lift, *span) for lift, span in spans if span]


def _clean(swept_lobe: SweepOf) -> tuple[list[float], list[float]]:
    odd = set(swept_lobe.found.suspects) if swept_lobe.found else set()
    memoized = sorted(point for k, point in enumerate(swept_lobe.points) if k not in odd)
    return [angle for angle, _ in memoized], [lift for _, lift in memoized]
