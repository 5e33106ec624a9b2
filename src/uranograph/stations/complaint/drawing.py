"""The reported deviation between the places that whole teeth would put it."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.tooth_slip import slip_figure
from uranograph.core.slip import near_whole_number
from uranograph.engine import gear_train
from uranograph.stations.complaint.reported import reported


def figure(job: Job, view_state: ViewState) -> Figure | None:
    """The deviation on a ruler of this engine's whole teeth; the ruler alone where no degrees are reported, nothing without its teeth."""
    report, drive_train = reported(job), gear_train.described(job)
    teeth = (report.crank_teeth if report else None) or (drive_train.crank.teeth if drive_train else None)
    if teeth is None:
        return None
    offset = report.offset_deg if report else None
    return slip_figure(offset, 360 / teeth, near_whole_number(teeth), "Whole teeth?")
