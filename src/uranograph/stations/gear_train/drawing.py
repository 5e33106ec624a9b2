"""The train as the engine turns it."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.train import train_figure
from uranograph.engine import gear_train
from uranograph.engine.gear_train_drawing import parts, train_picture
from uranograph.engine.gear_train_model import DriveTrain


def figure(job: Job, view_state: ViewState) -> Figure:
    """Every gear after the one that turns it."""
    return train_picture(job, gear_train.described(job), False, "Gear train")


def preview(drive_train: DriveTrain | None, turns_clockwise: bool) -> Figure:
    """The same while the form is typed."""
    return train_figure(parts(drive_train) if drive_train else (), turns_clockwise, False, "Gear train")
