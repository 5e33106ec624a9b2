"""Pictures of degreeing: both lobes over two turns, lift curves, and the rule under the verdict."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.engine import positions
from uranograph.phase import methods
from uranograph.phase.drawing import cycle, sweep_figure


def figure(job: Job, view_state: ViewState) -> Figure:
    """The lift curves while a sweep is taken, else both lobes over two turns."""
    if methods.chosen_method(positions.at_position(job), view_state.query) == "sweep":
        return sweep_figure(job)
    return cycle(job)
