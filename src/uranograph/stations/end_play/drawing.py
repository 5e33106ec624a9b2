"""A shaft's play as the gap it is."""

from uranograph.bench.job import Job
from uranograph.bench.station import Look
from uranograph.charts.pen import Figure
from uranograph.engine.end_play_drawing import play_figure


def figure(job: Job, look: Look) -> Figure:
    """The play of the shaft that is asked about."""
    return play_figure(job, (look.prompt.extra.get("method", "") if look.prompt else "") or look.view)
