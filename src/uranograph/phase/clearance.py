"""Clearance of every measured valve to piston and neighbor, at the cam's position and wherever it might be moved."""

import math

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.clearance import (
    ValveToValveInput,
    valve_to_valve,
)
from uranograph.core.lift_curve import SHUT_MM, LiftCurve
from uranograph.core.verdict import Verdict, judge
from uranograph.engine.valves import CLAY, DROP, LOBES, MEET, SPRING, valve_angles, valves
from uranograph.phase.valve_gaps import Lifting, Near, at_shifts, lifting, worst

# Heads of two valves pass each other where one stands so much deeper, mm; and where overlap is looked for, crank degrees.
HEAD_MM = 3.0
ROUND_OVERLAP_DEG = 90


def read_valves(job: Job) -> tuple[int, ...]:
    """The valves of which something is read."""
    kinds = {reading.spot.kind for slot in (DROP, CLAY, SPRING) for reading in slot.taken(job)}
    return tuple(sorted({int(kind.rpartition("-")[2]) for kind in kinds} & {valve.number for valve in valves(job)}))


@memoized
def meeting(job: Job, intake_deg: float = 0.0, exhaust_deg: float = 0.0) -> Near | None:
    """How near intake and exhaust valve come to each other, each cam moved by so much, crank degrees.

    Their heads can touch only while they stand about equally deep. None where their gap at rest is not read.
    """
    rests, stand = MEET.values(job), valve_angles(job)
    intake, exhaust = (lifting(job, lobe) for lobe in LOBES)
    if not rests or stand is None or intake is None or exhaust is None:
        return None
    together = _equally_deep(intake, exhaust, intake_deg, exhaust_deg)
    if len(together) < 2:
        return None
    least = shop_limits.value(job.shop_limits, "valve_to_valve")
    given = ValveToValveInput(
        intake_points=[(angle, lift) for angle, lift, _ in together],
        exhaust_points=[(angle, lift) for angle, _, lift in together],
        gap_at_rest_mm=min(rests),
        intake_share=math.sin(math.radians(stand.intake_deg)),
        exhaust_share=math.sin(math.radians(stand.exhaust_deg)),
        minimum_mm=least,
        gap_doubt_mm=stand.gauge_mm,
        lift_doubt_mm=max(
            each.doubt_mm + each.doubt_pct / 100 * max(lift for _, *both in together for lift in both)
            for each in (intake, exhaust)
        ),
        phase_doubt_deg=max(intake.phase_doubt_deg, exhaust.phase_doubt_deg),
    )
    found = valve_to_valve(given)
    verdict = judge(found.min_mm, found.doubt_mm, least=least)
    if verdict is Verdict.IN and not (intake.placed and exhaust.placed):
        verdict = Verdict.UNSURE
    return Near("valve to valve", "", found.min_mm, found.at_deg, found.doubt_mm, least, verdict, "meet", intake.source)


def _equally_deep(
    intake: Lifting, exhaust: Lifting, intake_deg: float, exhaust_deg: float
) -> list[tuple[float, float, float]]:
    """Crank degrees about overlap TDC, and both lifts, mm, where both valves are open and neither much deeper."""
    angles = [k / 2 for k in range(-2 * ROUND_OVERLAP_DEG, 2 * ROUND_OVERLAP_DEG + 1)]
    lifts = []
    for each, shift in ((intake, intake_deg), (exhaust, exhaust_deg)):
        curve, moved = LiftCurve(each.points), [angle + shift for angle in angles]
        lifts.append(
            [float(mm) if there else None for mm, there in zip(curve.at(moved), curve.knows(moved), strict=True)]
        )
    return [
        (angle, one, other)
        for angle, one, other in zip(angles, *lifts, strict=True)
        if one is not None and other is not None and min(one, other) > SHUT_MM and abs(one - other) <= HEAD_MM
    ]


@memoized
def leasts_by_lobe(
    job: Job, intake: tuple[float, ...], exhaust: tuple[float, ...], lobe: str | None = None
) -> tuple[Near | None, ...]:
    """The nearest that anything comes with both cams moved, each by its own shifts; of one lobe's valves alone where it is named.

    Parameters
    ----------
    job
        The job.
    intake, exhaust
        Crank degrees, advance positive, (n,) each.
    lobe
        `intake` or `exhaust`, or None for the worst of all.

    Returns
    -------
    tuple
        As for `leasts`.
    """
    by_shift: list[list[Near]] = [[] for _ in intake]
    for number in read_valves(job):
        own = valves(job)[number - 1].lobe
        if lobe in (None, own):
            for k, near in enumerate(at_shifts(job, number, intake if own == "intake" else exhaust)):
                by_shift[k].append(near)
    if lobe is None and MEET.taken(job):
        for k, both in enumerate(zip(intake, exhaust, strict=True)):
            if meet := meeting(job, *both):
                by_shift[k].append(meet)
    return tuple(worst(nears) if nears else None for nears in by_shift)


@memoized
def leasts(job: Job, cam: str, shifts: tuple[float, ...]) -> tuple[Near | None, ...]:
    """The nearest that anything comes with a cam moved by each of some shifts: `both`, `intake` or `exhaust`.

    Parameters
    ----------
    job
        The job.
    cam
        Which cam is moved; the valves of another stay as they are.
    shifts
        Crank degrees, advance positive, (n,).

    Returns
    -------
    tuple
        For each shift the gap that is the worst off, its verdict first and then what is left of its limit; None where
        nothing is read, (n,).
    """
    by_shift: list[list[Near]] = [[] for _ in shifts]
    for number in read_valves(job):
        moved = cam in ("both", valves(job)[number - 1].lobe)
        found = at_shifts(job, number, shifts if moved else (0.0,))
        for k in range(len(shifts)):
            if found:
                by_shift[k].append(found[k if moved else 0])
    if MEET.taken(job):
        for k, shift in enumerate(shifts):
            both = (shift if cam in ("both", "intake") else 0.0, shift if cam in ("both", "exhaust") else 0.0)
            if meet := meeting(job, *both):
                by_shift[k].append(meet)
    return tuple(worst(nears) if nears else None for nears in by_shift)


def moved(job: Job, intake_deg: float, exhaust_deg: float) -> Near | None:
    """Smallest clearance with either cam advanced, crank degrees; None without readings."""
    found: list[Near] = []
    for number in read_valves(job):
        shift = intake_deg if valves(job)[number - 1].lobe == "intake" else exhaust_deg
        found += at_shifts(job, number, (round(shift, 6),))
    if meet := meeting(job, intake_deg, exhaust_deg):
        found.append(meet)
    return worst(found) if found else None
