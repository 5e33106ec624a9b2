"""The plan in lanes over minutes."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.schedule import Bar, lanes_figure, side_by_side
from uranograph.core.plan import hands_of
from uranograph.stations.change_plan.running import critical, running, who

WAITED_FOR = "waits"


def figure(job: Job, view_state: ViewState) -> Figure:
    """Lanes of the people who are there, and of what is only waited for."""
    found = running(job)
    if found is None:
        return lanes_figure((), (), None)
    people = found.change.people
    planned, expected = hands_of(found.work, found.starts), who(found)
    decide = critical(found)
    bars = []
    for k, listed in enumerate(found.change.tasks):
        begun = found.begun(k)
        span = found.starts[k], found.starts[k] + found.work.minutes[k]
        lanes = (expected if begun else planned)[k] or [len(people) + 1]
        bars += [
            Bar(
                k + 1,
                listed.task.name,
                lane - 1,
                span,
                (found.expected[0][k], found.expected[1][k]),
                begun,
                found.done(k),
                k in decide,
                k in found.late,
            )
            for lane in lanes
        ]
    waits = any(not each for each in planned)
    return lanes_figure(
        (*people, *([WAITED_FOR] if waits else [])),
        side_by_side(bars),
        found.now_min if found.began else None,
        found.change.wanted_min,
    )
