"""A shaft's play as the gap it is."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.engine.end_play_drawing import play_figure


def figure(job: Job, view_state: ViewState) -> Figure:
    """The play of the shaft that is asked about."""
    return play_figure(job, (view_state.prompt.extra.get("method", "") if view_state.prompt else "") or view_state.view)
