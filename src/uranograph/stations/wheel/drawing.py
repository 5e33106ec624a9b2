"""The wheel's picture: as it is mounted."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.wheel import wheel_face
from uranograph.engine.degree_wheel import Mounted, wheel_of


def figure(job: Job, view_state: ViewState) -> Figure | None:
    """The wheel as one faces it."""
    return preview(wheel_of(job), True)


def preview(mounted: Mounted | None, clockwise: bool) -> Figure | None:
    """The same while the form is typed."""
    return wheel_face(mounted.wheel, "The wheel as mounted") if mounted else None
