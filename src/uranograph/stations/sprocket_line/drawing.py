"""Both sprocket faces below one datum."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.sprockets import sprocket_figure
from uranograph.core.quantities import format_length
from uranograph.stations.sprocket_line import rules as sprocket


def figure(job: Job, view_state: ViewState) -> Figure:
    """Both sprocket faces below one datum."""
    rows = sprocket.setup(job)
    depths = {which: values for which in sprocket.WHICH if (values := sprocket.depths(job, which))}
    means = {which: sum(values) / len(values) for which, values in depths.items()}
    lines = {which: line for which in sprocket.driven_of(job) if (line := sprocket.measured(job, which))}
    # The figure shows the worse one; the table has both.
    worse = max(lines, key=lambda which: abs(lines[which].out_of_line_mm), default="driven")
    found = lines.get(worse)
    drives = sprocket.driver_of(job, worse)
    words = [format_length(means[which], job.unit) if which in means else "" for which in (drives, worse)]
    out = f"{format_length(abs(found.out_of_line_mm), job.unit)} out" if found else ""
    return sprocket_figure(
        means.get(drives),
        means.get(worse),
        rows.row_offset_mm if worse == "driven" else rows.second_offset_mm or 0.0,
        sprocket.tolerance_mm(job),
        sprocket.doubt_mm(job, worse) if means else 0.0,
        (words[0], words[1], out),
        "Sprocket alignment",
    )
