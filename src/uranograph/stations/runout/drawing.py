"""The shaft as it runs, magnified."""

from statistics import fmean

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.round import ChartRing, RoundFigure, round_figure
from uranograph.core.quantities import format_angle
from uranograph.engine import runout


def figure(job: Job, view_state: ViewState) -> Figure:
    """Every time round the shaft, magnified, with the waves that fit the newest."""
    rings = []
    for each in runout.rounds(job):
        mean = fmean(mm for _, mm in each.points)
        points = tuple((deg % 360, mm - mean) for deg, mm in each.points)
        if each.found is None:
            rings.append(ChartRing(points, earlier=each is not runout.rounds(job)[-1]))
            continue
        one = each.found
        second = None
        if one.ovality_mm is not None and one.ovality_high_deg is not None:
            second = (one.ovality_mm, one.ovality_high_deg)
        rings.append(
            ChartRing(
                points,
                0.0,
                (one.eccentricity_mm, one.high_spot_deg),
                second,
                each is not runout.rounds(job)[-1],
            )
        )
    shaft = runout.measured(job)
    spot = shaft.newest.high_spot_deg if shaft and rings and shaft.newest.eccentricity_mm > shaft.doubt_mm / 4 else None
    legend = (
        (("solid", "read"), ("ring", "what fits: off center, and out-of-round"), ("hollow", "dashed: a true shaft"))
        if rings
        else ()
    )
    return round_figure(
        RoundFigure(
            "Runout",
            "degrees round the shaft; outward is high, magnified",
            tuple(rings),
            doubt=runout.setup(job).division_mm / 2,
            spot_deg=spot,
            spot_words=f"high at {format_angle(spot, 0)}" if spot is not None else "",
            legend=legend,
            ideal=0.0,
        )
    )
