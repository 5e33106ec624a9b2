"""How far each valve is open at each crank angle."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from statistics import fmean

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.core.clearance import (
    PistonToValveInput,
    ValveGap,
    gaps_at,
    piston_to_valve,
)
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lobe import profile
from uranograph.core.piston import Crank
from uranograph.core.quantities import parse_angle
from uranograph.core.verdict import WORST_FIRST, Verdict, judge
from uranograph.engine import positions as tries
from uranograph.engine.cams import banks
from uranograph.engine.card import card_of, printed_card, valve_lift
from uranograph.engine.description import engine_of
from uranograph.engine.valves import CLAY, DROP, LIFT, SPRING, Valve, ValveAngles, valve_angles, valves
from uranograph.phase import judgment, peaks
from uranograph.phase import sweep_points as sweeps

# What a nominal lobe may be off round overlap, of its lift there, percent: its flanks are not those of the card's.
NOMINAL_PCT = 20.0
SWEPT_MM, BY_DIAL_MM = 0.03, 0.05
# Uncertainty of clay: it springs back and is cut by hand.
CLAY_MM = 0.1
# Added uncertainty if the cam was moved since its lobe was measured, crank degrees.
UNPROVED_MOVE_DEG = 1.0
# A clearance measured at another cam position does not apply beyond this, crank degrees.
FADES_DEG = 10.0
MIN_LIFTS = 2
LIMIT_OF = {"intake": "piston_intake", "exhaust": "piston_exhaust"}


@dataclass(frozen=True)
class Lifting:
    """How a valve lifts where the cam stands: crank degrees about overlap TDC and mm, and what that may be off.

    `source` is `sweep`, `swept-before`, `angles` or `card`; `placed` whether the cam's place was measured.
    """

    lobe: str
    points: tuple[tuple[float, float], ...]
    source: str
    doubt_mm: float = 0.0
    doubt_pct: float = 0.0
    phase_doubt_deg: float = 0.0
    placed: bool = True


@dataclass(frozen=True)
class ValveClearance:
    """How far one valve drops to its piston at overlap TDC, mm, by one way of reading it."""

    way: str
    drop_mm: float
    doubt_mm: float


@dataclass(frozen=True)
class Near:
    """The least gap of one valve, or of two valves to each other, with what may be said of it.

    `known` is whether the lift is known anywhere near the piston there; where it is not, no figure stands for the gap.
    """

    name: str
    lobe: str
    gap_mm: float
    at_deg: float | None
    doubt_mm: float
    least_mm: float
    verdict: Verdict
    way: str
    source: str = ""
    disagrees: bool = False
    known: bool = True


def valve_ratio(job: Job) -> float | None:
    """Factor from lift at the dial to valve lift; None if unknown."""
    engine = engine_of(job)
    if engine is None:
        return None
    return 1.0 if engine.dial_at_valve else engine.rocker_ratio


@memoized
def lifting(job: Job, lobe: str) -> Lifting | None:
    """Valve lift of a lobe at the cam's position: from its sweep, lifts at stated angles, or the card's lobe."""
    # Without a bank, the first bank answers.
    job, ratio = banks(job)[0], valve_ratio(job)
    found = _measured_lifts(job, lobe) if ratio is None else _swept(job, lobe, ratio) or _measured_lifts(job, lobe)
    if found is not None:
        return found
    return None if ratio is None else _nominal(job, lobe, ratio)


def _swept(job: Job, lobe: str, ratio: float) -> Lifting | None:
    view = tries.at_position(job)
    here = sweeps.swept(view, lobe)
    if here is not None and here.found is not None:
        phase = math.hypot(here.by_readings_deg, here.by_top_deg)
        return Lifting(lobe, _valve_lifts(here, ratio, 0.0), "sweep", SWEPT_MM * ratio, phase_doubt_deg=phase)
    made = tries.tries(job)
    for number in reversed(range(len(made))):
        before = tries.at_position(job, number)
        swept = sweeps.swept(before, lobe)
        if swept is None or swept.found is None:
            continue
        then, now = (_phase(each, lobe) for each in (before, view))
        if then and now:
            late, doubt = now[0] - then[0], now[1]
        else:
            late = -sum(one.shift_of(lobe) for one in made[number:] if lobe in one.lobes)
            doubt = math.hypot(swept.by_readings_deg, swept.by_top_deg, UNPROVED_MOVE_DEG)
        points = _valve_lifts(swept, ratio, late)
        return Lifting(lobe, points, "swept-before", SWEPT_MM * ratio, phase_doubt_deg=doubt, placed=now is not None)
    return None


def _valve_lifts(swept: sweeps.SweepOf, ratio: float, late_deg: float) -> tuple[tuple[float, float], ...]:
    if swept.found is None:
        raise Missing("swept.found")
    odd = set(swept.found.suspects)
    return tuple(
        (angle + late_deg, max(0.0, lift * ratio)) for k, (angle, lift) in enumerate(swept.points) if k not in odd
    )


def _phase(view: Job, lobe: str) -> tuple[float, float] | None:
    try:
        phases = judgment.phases(view)
    except InvalidInput:
        return None
    return phases.get("both") or phases.get(lobe)


def _measured_lifts(job: Job, lobe: str) -> Lifting | None:
    """Lifts of a valve read at stated crank angles; those of the first cylinder that has some."""
    for valve in valves(job):
        points = {angle_of(r): r.mm for r in LIFT.taken(job, f"lift-{valve.number}")} if valve.lobe == lobe else {}
        if len(points) >= MIN_LIFTS:
            return Lifting(lobe, tuple(sorted(points.items())), "angles", BY_DIAL_MM, phase_doubt_deg=0.25)
    return None


def angle_of(reading: Reading) -> float:
    """The crank degrees about overlap TDC at which something was read."""
    return parse_angle(reading.second or "0")


def _nominal(job: Job, lobe: str, ratio: float) -> Lifting | None:
    card, measured = card_of(job), peaks.measured(tries.at_position(job), lobe)
    top = measured or (card.max_lift_mm(lobe) if card else None)
    nominal = card.lobe(lobe) if card else None
    at_valve = measured * ratio - _lash(job, lobe) if measured else valve_lift(job, lobe)
    if nominal is None or top is None or at_valve is None or at_valve <= 0:
        return None
    phase = _phase(tries.at_position(job), lobe)
    late, doubt = phase or (0.0, 0.0)
    lobe_now = nominal.model_copy(
        update={
            "centerline_deg": nominal.centerline_deg + late,
            "max_lift_mm": top,
            "check_lift_mm": min(nominal.check_lift_mm, top * 0.6),
        }
    )
    points = tuple((angle, lift * at_valve / top) for angle, lift in profile(lobe_now, 72))
    return Lifting(lobe, points, "card", doubt_pct=NOMINAL_PCT, phase_doubt_deg=doubt, placed=phase is not None)


def _lash(job: Job, lobe: str) -> float:
    """Lash to subtract from lobe lift, mm, if the dial sits on the cam side of it."""
    engine, printed = engine_of(job), printed_card(job)
    return 0.0 if engine is None or engine.dial_at_valve or printed is None else printed.lash_mm.get(lobe, 0.0)


def crank_of(job: Job) -> Crank | None:
    """Stroke and rod, where they are known."""
    engine = engine_of(job)
    return engine.crank if engine else None


def least_of(job: Job, lobe: str) -> float:
    """The least gap that is allowed between piston and a valve, mm."""
    return shop_limits.value(job.shop_limits, LIMIT_OF[lobe])


@memoized
def rooms(job: Job, number: int) -> tuple[ValveClearance, ...]:
    """How far a valve drops to its piston, by every way it was read: straight, by light springs, by clay."""
    valve, stand = valves(job)[number - 1], valve_angles(job)
    if stand is None:
        return ()
    found = []
    if drops := DROP.values(job, f"drop-{number}"):
        spread = (max(drops) - min(drops)) / 2
        found.append(ValveClearance("drop", fmean(drops), max(stand.gauge_mm, spread)))
    crank, lifts = crank_of(job), lifting(job, valve.lobe)
    if crank is None or lifts is None:
        return tuple(found)
    bare = _given(job, valve, stand, lifts, ValveClearance("", 0.0, 0.0))
    shown = [(reading.mm, gaps_at(bare, [angle_of(reading)])[0]) for reading in SPRING.taken(job, f"spring-{number}")]
    if springs := [gap - without for gap, without in shown if without is not None]:
        spread = (max(springs) - min(springs)) / 2
        found.append(ValveClearance("spring", min(springs), max(stand.gauge_mm, spread)))
    if clays := CLAY.values(job, f"clay-{number}"):
        without = _at_one(bare.model_dump_json())
        if without is not None:
            found.append(ValveClearance("clay", min(clays) - without.min_mm, max(CLAY_MM, stand.gauge_mm)))
    return tuple(found)


def _given(job: Job, valve: Valve, stand: ValveAngles, lifts: Lifting, room: ValveClearance) -> PistonToValveInput:
    crank = crank_of(job)
    if crank is None:
        raise Missing("crank")
    return PistonToValveInput(
        **crank.model_dump(),
        drop_at_tdc_mm=max(0.0, room.drop_mm),
        valve_angle_deg=stand.angle_deg(valve.lobe),
        lift_points=list(lifts.points),
        minimum_mm=least_of(job, valve.lobe),
        drop_doubt_mm=room.doubt_mm,
        lift_doubt_mm=lifts.doubt_mm,
        lift_doubt_pct=lifts.doubt_pct,
        phase_doubt_deg=lifts.phase_doubt_deg,
    )


def given_of(job: Job, number: int) -> PistonToValveInput | None:
    """Input of a valve's clearance, if complete."""
    valve, stand, found = valves(job)[number - 1], valve_angles(job), rooms(job, number)
    lifts = lifting(job, valve.lobe)
    if stand is None or not found or crank_of(job) is None or lifts is None:
        return None
    return _given(job, valve, stand, lifts, min(found, key=lambda room: room.drop_mm))


def _at_one(given: str) -> ValveGap | None:
    """The gap at the one position of what is given; None where the lift is not known there."""
    return _positions(given)[0]


@lru_cache(maxsize=256)
def _positions(given: str) -> tuple[ValveGap | None, ...]:
    """The same figures give the same gaps, whatever else was written; None where the lift is not known."""
    whole = PistonToValveInput.model_validate_json(given)
    try:
        return tuple(piston_to_valve(whole).positions)
    except InvalidInput:
        # One of these is beyond the known lift; the others remain valid.
        return tuple(_alone(whole, shift) for shift in whole.shifts_deg)


def _alone(given: PistonToValveInput, shift_deg: float) -> ValveGap | None:
    try:
        return piston_to_valve(given.model_copy(update={"shifts_deg": [shift_deg]})).positions[0]
    except InvalidInput:
        return None


@memoized
def at_shifts(job: Job, number: int, shifts: tuple[float, ...]) -> tuple[Near, ...]:
    """The least gap of a valve with its cam moved by each of some shifts, crank degrees, advance positive; empty where none is known.

    A gap that was measured where the cam stands is known as well as it was read; moved, the lift counts with its own doubt.
    """
    given = given_of(job, number)
    valve, found = valves(job)[number - 1], rooms(job, number)
    lifts = lifting(job, valve.lobe)
    if given is None or lifts is None:
        return ()
    tight = min(found, key=lambda room: room.drop_mm)
    apart = any(abs(room.drop_mm - tight.drop_mm) > _apart(room, tight, lifts) for room in found)
    positions = _positions(given.model_copy(update={"shifts_deg": list(shifts)}).model_dump_json())
    nears = []
    for gap in positions:
        if gap is None:
            own = (given.minimum_mm, Verdict.UNSURE, tight.way, lifts.source)
            nears.append(Near(valve.name, valve.lobe, 0.0, None, 0.0, *own, known=False))
            continue
        doubt, verdict = gap.doubt_mm, gap.verdict
        if tight.way != "drop":
            by_lift = math.sqrt(max(0.0, doubt**2 - tight.doubt_mm**2))
            doubt = math.hypot(tight.doubt_mm, by_lift * min(1.0, abs(gap.shift_deg) / FADES_DEG))
            verdict = judge(gap.min_mm, doubt, least=given.minimum_mm)
        if verdict is Verdict.IN and (apart or not lifts.placed or not gap.known):
            verdict = Verdict.UNSURE
        nears.append(
            Near(
                valve.name,
                valve.lobe,
                gap.min_mm,
                gap.at_deg,
                doubt,
                given.minimum_mm,
                verdict,
                tight.way,
                lifts.source,
                apart,
            )
        )
    return tuple(nears)


def _apart(one: ValveClearance, other: ValveClearance, lifts: Lifting) -> float:
    """Allowed difference of two methods for the same clearance, from their uncertainties and the lift."""
    lift = 0.0 if one.way == other.way else lifts.doubt_mm + lifts.doubt_pct / 100 * 3.0
    return one.doubt_mm + other.doubt_mm + lift


def directly(job: Job, number: int) -> Near | None:
    """Valve clearance by clay, if nothing else is known."""
    clays = CLAY.values(job, f"clay-{number}")
    stand = valve_angles(job)
    if not clays or stand is None:
        return None
    valve, doubt = valves(job)[number - 1], max(CLAY_MM, stand.gauge_mm)
    least = least_of(job, valve.lobe)
    verdict = judge(min(clays), doubt, least=least)
    return Near(valve.name, valve.lobe, min(clays), None, doubt, least, verdict, "clay")


def now(job: Job, number: int) -> Near | None:
    """Smallest clearance of a valve at its cam's position; on banked engines, with the cam that leaves less."""
    found = [near for own in banks(job) for near in at_shifts(own, number, (0.0,)) if near.known]
    return worst(found) if found else directly(job, number)


def worst(nears: Sequence[Near]) -> Near:
    """The gap that most needs a person: by its verdict, then by what is left above what is allowed."""
    return min(nears, key=lambda near: (WORST_FIRST.index(near.verdict), near.gap_mm - near.least_mm))
