"""Degree by the lift at overlap TDC, against the range the card gives; bank by bank where there are two."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from statistics import fmean

from uranograph.bench import shop_limits
from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading, coarsest
from uranograph.bench.slots import Slot, in_mm, slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import lift_at
from uranograph.core.overlap import OverlapInput, OverlapShift, overlap_lift
from uranograph.core.quantities import parse_angle
from uranograph.core.uncertainty import APPROACH_DEG, CENTERING_DEG, expanded, of_difference
from uranograph.engine.cams import KEY, LOBES, RESTS_ON, USUAL_CENTERLINE_DEG, lobe_of
from uranograph.engine.card import card_of
from uranograph.engine.card_model import DRAWN_LOBE
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.stated_tdc import stated_of
from uranograph.engine.tdc import Frame, frame_at
from uranograph.phase.basis import deciding_lobes
from uranograph.phase.events import NOMINAL_SLOPE_DOUBT
from uranograph.phase.messages import say
from uranograph.phase.sweep_points import swept

KIND = {"intake": "overlap-intake", "exhaust": "overlap-exhaust"}
LIFT = Slot(KEY, tuple(KIND.values()), ("lift", "on"), in_mm, rests_on=RESTS_ON, lobe_of=lobe_of)
# Crank turn between the two readings of the flank's slope, deg.
TURN_ON_DEG, MAX_TURN_ON_DEG = "4", 10.0


# How far a slope read off the cam itself may be off, as a share of it.
READ_SLOPE_DOUBT = 0.05
# A lifter no higher than this at overlap TDC is on its base circle.
DOWN_MM = 0.1


@dataclass(frozen=True)
class AtOverlap:
    """The lift of one lobe at overlap TDC, on one bank. The card's range decides; the degrees are advice."""

    lobe: str
    bank: int
    lift_mm: float
    low_mm: float
    high_mm: float
    slope_mm_per_deg: float
    found: OverlapShift
    by_top_deg: float
    doubts: tuple[str, ...]

    @property
    def error_deg(self) -> float:
        """Late positive."""
        return self.found.shift_deg

    @property
    def uncertainty_deg(self) -> float:
        """Of the error, by dial, slope and top."""
        return self.found.shift_doubt_deg


def measured(job: Job, lobe: str) -> list[AtOverlap]:
    """The lobe's lift at overlap TDC on each bank read, judged by the card's range.

    Parameters
    ----------
    job
        The job.
    lobe
        `intake` or `exhaust`.

    Returns
    -------
    list
        Empty where nothing is read or the card gives no range.
    """
    wanted = card.overlap_range(lobe) if (card := card_of(job)) else None
    if wanted is None:
        return []
    found = []
    for bank, read in sorted(_by_bank(job, lobe).items()):
        slope, share = slope_read(job, lobe, bank) or slope_at_overlap(job, lobe)
        if slope == 0:
            continue
        lift = fmean(reading.mm for reading in read)
        frame = frame_at(job, read[-1].seq)
        top, stated = (frame.top if frame else None), stated_of(job)
        by_mark = stated.doubt_deg if frame is None and stated.how else 0.0
        by_top = math.hypot(top.uncertainty_deg if top else by_mark, _set_doubt(job, frame, len(read)))
        by_dial = of_difference(coarsest(read, frame.mounted.dial_division_mm if frame else 0.01))
        given = OverlapInput(
            measured_mm=lift,
            target_min_mm=wanted[0],
            target_max_mm=wanted[1],
            slope_mm_per_deg=slope,
            measured_doubt_mm=math.hypot(by_dial, by_top * abs(slope) * (1 + share)),
            slope_doubt_mm_per_deg=abs(slope) * share,
        )
        doubts = []
        if top is None and not by_mark:
            doubts.append(say("tdc-missing-for-overlap"))
        if lift <= DOWN_MM < wanted[0] and all(each <= DOWN_MM for each in _other_lifts(job, lobe, bank)):
            doubts.append(say("lifter-down-at-overlap", lobe=lobe))
        found.append(AtOverlap(lobe, bank, lift, *wanted, slope, overlap_lift(given), 0.0, tuple(doubts)))
    return found


def bank_of(reading: Entry) -> int:
    """The bank of a lift at overlap: odd numbers are of the first, even ones of the second, so that either can be read again."""
    return 2 - reading.spot.number % 2


def _set_doubt(job: Job, frame: Frame | None, times: int) -> float:
    """Uncertainty of setting the crank to the wheel's TDC repeatedly, crank degrees (k = 2)."""
    if frame is None:
        return 0.0
    division = frame.mounted.division_deg
    eye = expanded((division / 2 / times,) * times, (CENTERING_DEG, APPROACH_DEG))
    return eye * shop_limits.value(job.shop_limits, "eye") / shop_limits.LIMITS["eye"].start


def _by_bank(job: Job, lobe: str) -> dict[int, list[Reading]]:
    """The standing lifts of each bank, oldest first."""
    found: dict[int, list[Reading]] = {}
    for reading in LIFT.taken(job, KIND[lobe]):
        if reading.spot.place == "lift" and job.bank in (0, bank_of(reading)):
            found.setdefault(bank_of(reading), []).append(reading)
    return found


def slope_read(job: Job, lobe: str, bank: int) -> tuple[float, float] | None:
    """Slope of the flank as it was read a few degrees on, mm per crank degree, with its doubt; None where it was not.

    Only a slope of the right sign counts: at overlap the intake rises and the exhaust falls.
    """
    lifts = _by_bank(job, lobe).get(bank, [])
    further = [r for r in LIFT.taken(job, KIND[lobe]) if r.spot.place == "on" and bank_of(r) == bank]
    if not lifts or not further:
        return None
    first = next((r for r in reversed(lifts) if r.seq < further[-1].seq), None)
    if first is None:
        return None
    slope = (further[-1].mm - first.mm) / parse_angle(further[-1].second or TURN_ON_DEG)
    rises = slope > 0
    return (slope, READ_SLOPE_DOUBT) if slope and rises == (lobe == "intake") else None


def _other_lifts(job: Job, lobe: str, bank: int) -> list[float]:
    other = "exhaust" if lobe == "intake" else "intake"
    return [reading.mm for reading in _by_bank(job, other).get(bank, [])[-1:]]


def slope_at_overlap(job: Job, lobe: str) -> tuple[float, float]:
    """Slope of the flank at overlap TDC, mm per crank degree, rising positive, and its doubt as a share of it.

    Swept where it is; else by a nominal lobe, which says only about how steep the flank is.
    """
    swept_lobe = swept(job, lobe)
    if swept_lobe and swept_lobe.found:
        near = sorted(swept_lobe.points, key=lambda point: abs(point[0]))[:2]
        if len(near) == 2 and near[0][0] != near[1][0] and max(abs(a) for a, _ in near) < 20:
            (a0, l0), (a1, l1) = near
            return (l1 - l0) / (a1 - a0), READ_SLOPE_DOUBT
    drawn = card.lobe(lobe) if (card := card_of(job)) else None
    if drawn is None:
        # A card that gives the lift at overlap and no centerline: a usual lobe says about how steep the flank is.
        top = (getattr(card_of(job), f"{lobe}_max_lift_mm") if card_of(job) else None) or DRAWN_LOBE.max_lift_mm
        drawn = DRAWN_LOBE.model_copy(update={"centerline_deg": USUAL_CENTERLINE_DEG[lobe], "max_lift_mm": top})
    return (lift_at(drawn, 1) - lift_at(drawn, -1)) / 2, NOMINAL_SLOPE_DOUBT


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which lift to read next."""
    if wheel_of(job) is None and not stated_of(job).how:
        return None
    lobe, bank, item = _requested(job, query) or ("intake", job.bank or 1, "")
    taken = _by_bank(job, lobe).get(bank, [])
    if item == "on" and taken:
        return Prompt(
            slot=slot_of(KIND[lobe], _next_number(job, lobe, bank, "on"), "on"),
            label=say("lift-turned-on", lobe=lobe.capitalize()),
            instruction=say("turn-on-and-read", lobe=lobe),
            hint=say("tells-how-steep"),
            second=TURN_ON_DEG,
            second_label=say("turned-on-deg"),
            unit=job.unit.value,
            extra={"lobe": lobe, "bank": str(bank), "item": "on"},
        )
    by_card = card.overlap_range(lobe) if (card := card_of(job)) else None
    phrase = ""
    if by_card:
        phrase = say("card-range", job.unit, wanted_mm=by_card[0], wanted_2_mm=by_card[1])
    return Prompt(
        slot=slot_of(KIND[lobe], _next_number(job, lobe, bank, "lift"), "lift"),
        label=say(
            "overlap-lift-label", lobe=lobe.capitalize(), way=f", bank {bank}" if bank > 1 and not job.bank else ""
        ),
        instruction=say("read-overlap-lift", lobe=lobe)
        if bank == 1 or job.bank
        else say("read-second-bank", lobe=lobe),
        hint=phrase or say("card-has-no-overlap-range"),
        unit=job.unit.value,
        extra={"lobe": lobe, "bank": str(bank)},
    )


def wanted(job: Job) -> tuple[str, int, str] | None:
    """Next slot: each lobe once, then its slope, then each again; None when all are read."""
    lobes = [
        lobe
        for lobe in deciding_lobes(job)
        if (card := card_of(job)) is None or not card.overlap_ranges or card.overlap_range(lobe)
    ]
    every = [(lobe, job.bank or 1) for lobe in lobes]
    for times in (1, 2):
        for lobe, bank in every:
            if len(_by_bank(job, lobe).get(bank, [])) < times:
                return lobe, bank, ""
        for lobe, bank in every:
            if slope_read(job, lobe, bank) is None and not _turned_on(job, lobe, bank):
                return lobe, bank, "on"
    return None


def _turned_on(job: Job, lobe: str, bank: int) -> list[Reading]:
    return [r for r in LIFT.taken(job, KIND[lobe]) if r.spot.place == "on" and bank_of(r) == bank]


def _requested(job: Job, query: Mapping[str, str]) -> tuple[str, int, str] | None:
    """The requested slot, or the next one."""
    if query.get("lobe") not in LOBES:
        return wanted(job)
    bank = job.bank or (int(query["bank"]) if query.get("bank") in ("1", "2") else 1)
    return query["lobe"], bank, "on" if query.get("item") == "on" else ""


def _next_number(job: Job, lobe: str, bank: int, place: str) -> int:
    """The first number of this bank that no reading of this place has had."""
    every = [r.spot.number for r in job.full_job.written(KEY) if r.spot.kind == KIND[lobe] and r.spot.place == place]
    return next(n for n in range(bank, 2 * len(every) + 3, 2) if n not in every)


def accept(job: Job, entry: Entry) -> None:
    """Refuse a lift that cannot be.

    Raises
    ------
    InvalidInput
        With the field `text`.
    """
    lift = entry.mm
    if not 0 <= lift <= 40:
        raise InvalidInput("text", "not-a-lobe-lift", typed=entry.text)
    if entry.spot.place == "on":
        try:
            turned = parse_angle(entry.second or "")
        except InvalidInput as error:
            raise error.at("second") from error
        if not 0 < turned <= MAX_TURN_ON_DEG:
            raise InvalidInput("second", "turn-on-too-far", typed=entry.second, most_deg=MAX_TURN_ON_DEG)


def describe(reading: Reading) -> str:
    """Say what a reading of this method was of."""
    kind, _, place = reading.spot
    bank = bank_of(reading)
    if place == "on":
        return say("lift-on-of", kind=kind.removeprefix("overlap-"), typed=reading.second or TURN_ON_DEG)
    return say("overlap-lift-of", kind=kind.removeprefix("overlap-"), way=f", bank {bank}" if bank > 1 else "")
