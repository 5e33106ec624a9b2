"""Room at every lobe."""

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.cam_clearance import room_figure
from uranograph.charts.pen import Figure
from uranograph.core.quantities import format_fine
from uranograph.stations.lobe_room import rules as lobe_room


def figure(job: Job, view_state: ViewState) -> Figure:
    """Room at every lobe."""
    found = lobe_room.measured(job)
    limits = [shop_limits.value(job.shop_limits, name) for name in ("lobe_least", "lobe_liked")]
    return room_figure(
        lobe_room.lobes(job),
        tuple((room.number, room.gap_mm, format_fine(room.gap_mm, job.unit)) for room in found),
        (limits[0], f"least {format_fine(limits[0], job.unit)}"),
        (limits[1], f"preferred {format_fine(limits[1], job.unit)}"),
        lobe_room.doubt_mm(job),
        "Cam clearance",
    )
