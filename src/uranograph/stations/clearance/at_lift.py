"""Spring and guide clearance at maximum lift."""

from dataclasses import dataclass

from uranograph.bench import shop_limits
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core.verdict import judge
from uranograph.engine.valves import (
    BIND,
    LOBES,
    valve_angles,
)
from uranograph.phase import valve_gaps as clearance
from uranograph.stations.clearance.messages import say

BOUND = ("fitted", "solid", "retainer")


@dataclass(frozen=True)
class Left:
    """Remaining clearance at maximum lift, to coil bind or between retainer and guide, mm."""

    label: str
    left_mm: float
    least_mm: float
    verdict: Verdict


@memoized
def left_at_lift(job: Job) -> tuple[Left, ...]:
    """Clearance to coil bind and guide at maximum lift, for each lobe measured."""
    found = []
    stand = valve_angles(job)
    for lobe in LOBES:
        lifts = clearance.lifting(job, lobe)
        if lifts is None or stand is None:
            continue
        top = max(lift for _, lift in lifts.points)
        name = lobe.capitalize()
        fitted, solid, retainer = (BIND.values(job, f"{what}-{lobe}") for what in BOUND)
        if fitted and solid:
            found.append(
                _left(
                    job,
                    say("spring-to-coil-bind", lobe=name),
                    fitted[-1] - solid[-1] - top,
                    "coil_bind",
                    stand.gauge_mm,
                )
            )
        if retainer:
            found.append(
                _left(job, say("retainer-to-guide", lobe=name), retainer[-1] - top, "retainer_guide", stand.gauge_mm)
            )
    return tuple(found)


def _left(job: Job, label: str, left_mm: float, limit: str, doubt_mm: float) -> Left:
    least = shop_limits.value(job.shop_limits, limit)
    return Left(label, left_mm, least, judge(left_mm, doubt_mm, least=least))
