"""Gap between piston and valves, drawn."""

import math

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.valve_gaps import REACH_DEG, Line, OfValve, gap_figure
from uranograph.core.clearance import gaps_at
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.lift_curve import LiftCurve
from uranograph.core.piston import PistonAt, piston
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_length
from uranograph.engine.valves import LOBES, SPRING, valve_angles, valves
from uranograph.phase import clearance, offers
from uranograph.phase import valve_gaps as valve_lifts

STEP_DEG = 2
MAX_POSITIONS = 12
ANGLES = tuple(float(deg) for deg in range(-int(REACH_DEG), int(REACH_DEG) + 1, STEP_DEG))


def figure(job: Job, view_state: ViewState) -> Figure:
    """The gap of the nearest valve of each lobe, here and at the positions of the drive."""
    unit_mm = MM_PER_INCH if job.unit is LengthUnit.INCH else 1.0
    return gap_figure(_valves(job), _bare(job), unit_mm, job.unit.value)


@memoized
def _valves(job: Job) -> tuple[OfValve, ...]:
    found = []
    stand = valve_angles(job)
    for lobe in LOBES:
        numbers = [n for n in clearance.read_valves(job) if valves(job)[n - 1].lobe == lobe]
        near = {n: one for n in numbers if (one := valve_lifts.now(job, n)) is not None and one.at_deg is not None}
        lifts = valve_lifts.lifting(job, lobe)
        if not near or lifts is None or stand is None:
            continue
        number = min(near, key=lambda n: near[n].gap_mm)
        one = near[number]
        given = valve_lifts.given_of(job, number)
        if one.at_deg is None or given is None:
            raise Missing("one.at_deg, given")
        shifts = _shifts(job, lobe)
        found.append(
            OfValve(
                name=one.name,
                line=_line(gaps_at(given, ANGLES)),
                doubt_mm=one.doubt_mm,
                by_card=lifts.source == "card",
                least=(one.at_deg, one.gap_mm, format_length(one.gap_mm, job.unit).replace("-", "−")),
                allowed=(one.least_mm, format_length(one.least_mm, job.unit)),
                measured=tuple((valve_lifts.angle_of(r), r.mm) for r in SPRING.taken(job, f"spring-{number}")),
                positions=tuple(_line(gaps_at(given, ANGLES, shift)) for shift in shifts),
            )
        )
    return tuple(found)


def _line(gaps_mm: list[float | None]) -> Line:
    return tuple((deg, gap) for deg, gap in zip(ANGLES, gaps_mm, strict=True) if gap is not None)


def _shifts(job: Job, lobe: str) -> tuple[float, ...]:
    """How far the positions that the drive offers would move this lobe, crank degrees."""
    shifts: list[float] = []
    for cam in offers.cams(job):
        if (cam.partition("-")[2] or cam) not in ("both", lobe):
            continue
        try:
            shifts += [offer.shift_of(lobe) for offer in offers.offers(job, cam) if offer.choice.moves]
        except InvalidInput:
            continue
    return tuple(dict.fromkeys(shifts[:MAX_POSITIONS]))


@memoized
def _bare(job: Job) -> tuple[tuple[str, Line], ...]:
    """How far piston and valves go below the head round overlap, as far as that is known."""
    crank, stand = valve_lifts.crank_of(job), valve_angles(job)
    if crank is None:
        return ()
    lean = math.cos(math.radians(stand.intake_deg)) if stand else 1.0
    lines = [
        ("piston", tuple((deg, piston(PistonAt(**crank.model_dump(), angle_deg=deg)).drop_mm * lean) for deg in ANGLES))
    ]
    for lobe in LOBES:
        lifts = valve_lifts.lifting(job, lobe)
        if lifts is not None:
            curve = LiftCurve(lifts.points)
            there = zip(ANGLES, curve.at(ANGLES), curve.knows(ANGLES), strict=True)
            lines.append((lobe, tuple((deg, float(mm)) for deg, mm, known in there if known)))
    return tuple((name, line) for name, line in lines if len(line) > 1)
