"""Backlash round the cam, with its window and its tight place."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.round import ChartRing, RoundFigure, round_figure
from uranograph.core.quantities import format_angle, format_length
from uranograph.engine import backlash as engine_backlash
from uranograph.stations.backlash import rules as backlash


def figure(job: Job, view_state: ViewState) -> Figure:
    """Backlash round the cam with its window, its fitted wave and the tight spot."""
    mesh, found = engine_backlash.setup(job), engine_backlash.measured(job)
    subtitle = "cam degrees round the gear; outward is looser, magnified"
    if mesh is None:
        return round_figure(RoundFigure("Backlash", subtitle, ()))
    points = tuple(
        (engine_backlash.place_of(r) % 360, backlash.at_pitch_line(job, r)) for r in engine_backlash.PLACE.taken(job)
    )
    first = second = None
    if found and found.fitted_amplitude_mm is not None and found.fitted_loosest_cam_deg is not None:
        first = (found.fitted_amplitude_mm, found.fitted_loosest_cam_deg)
    if found and found.second_amplitude_mm is not None and found.second_loosest_cam_deg is not None:
        second = (found.second_amplitude_mm, found.second_loosest_cam_deg)
    spot = found.tight_spot_cam_deg if found and found.swing_mm > found.doubt_mm else None
    limits = ((mesh.spec_min_mm, "least"), (mesh.spec_max_mm, "greatest"))
    return round_figure(
        RoundFigure(
            "Backlash",
            subtitle,
            (ChartRing(points, found.fitted_mean_mm if found else None, first, second),) if points else (),
            mesh.spec_min_mm,
            mesh.spec_max_mm,
            engine_backlash.doubt_mm(job),
            spot,
            f"tight at {format_angle(spot, 0)}" if spot is not None else "",
            tuple((mm, f"{words} {format_length(mm, job.unit)}") for mm, words in limits if mm is not None),
            (("solid", "read"), *((("ring", "the waves that fit"),) if first else ())) if points else (),
        )
    )
