"""The engine's picture: its firing order."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.firing import firing_figure
from uranograph.charts.pen import Figure
from uranograph.engine.description import Engine, engine_of


def figure(job: Job, view_state: ViewState) -> Figure:
    """Cylinders in the order they fire."""
    return preview(engine_of(job), True)


def preview(engine: Engine | None, clockwise: bool) -> Figure:
    """The same while the form is typed."""
    return firing_figure(engine.firing_order if engine else (), "Firing order", engine.firing_deg if engine else ())
