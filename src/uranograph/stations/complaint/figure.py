"""The reported deviation between the places that whole teeth would put it."""

from uranograph.bench.job import Job
from uranograph.bench.station import Look
from uranograph.charts.pen import Figure
from uranograph.core.slip import near_whole
from uranograph.stations.complaint.reported import reported
from uranograph.stations.diagnosis.figure import slip_figure

# Before anything is reported an example shows how it is read.
EXAMPLE_DEG, EXAMPLE_TEETH = 10.0, 24


def figure(job: Job, look: Look) -> Figure:
    """The deviation on a ruler of whole teeth; an example where no degrees are reported."""
    report = reported(job)
    if report is None or report.offset_deg is None or report.crank_teeth is None:
        return slip_figure(EXAMPLE_DEG, 360 / EXAMPLE_TEETH, near_whole(EXAMPLE_TEETH), "Whole teeth? An example")
    return slip_figure(report.offset_deg, 360 / report.crank_teeth, near_whole(report.crank_teeth), "Whole teeth?")
