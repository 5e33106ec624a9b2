"""Pictures of degreeing: both lobes over two turns, lift curves, and the rule under the verdict."""

from uranograph.bench.job import Job
from uranograph.bench.station import Look
from uranograph.charts.pen import Figure
from uranograph.engine import positions as tries
from uranograph.phase import methods as degree
from uranograph.phase.drawing import cycle, sweep_figure


def figure(job: Job, look: Look) -> Figure:
    """The lift curves while a sweep is taken, else both lobes over two turns."""
    if degree.chosen_method(tries.at_position(job), look.query) == "sweep":
        return sweep_figure(job)
    return cycle(job)
