"""Every valve beside the middle of its kind."""

from uranograph.bench import shop_limits
from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.valve_rows import Mark, RowOf, valve_rows
from uranograph.core.quantities import format_angle, format_fine
from uranograph.phase.valve_by_valve import valves
from uranograph.stations.every_valve.rules import verdicts


def figure(job: Job, view_state: ViewState) -> Figure:
    """How far each valve is from the middle of its kind, in lift and in timing."""
    every = valves(job)
    limits = {name: shop_limits.value(job.shop_limits, f"valve_{name}_apart") for name in ("lift", "timing")}
    judged, rows = verdicts(job), []
    for what, title in (("lift", f"Lift, {job.unit.value}"), ("timing", "Timing, crank deg, later up")):
        marks = tuple(
            Mark(
                each.number,
                each.off / limits[what],
                each.uncertainty / limits[what],
                (format_angle(each.off) if each.off_deg else format_fine(each.off, job.unit)).replace("-", "−"),
                verdict.value,
            )
            for each, verdict in judged.items()
            if each.what == what
        )
        limit = format_fine(limits[what], job.unit) if what == "lift" else format_angle(limits[what])
        rows.append(RowOf(title, limit, marks))
    return valve_rows(tuple(valve.name for valve in every), tuple(rows), "Every valve")
