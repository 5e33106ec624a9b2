"""The order of the parts, the heat, or the bolts."""

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.bolt_circle import bolts_figure
from uranograph.charts.gear_stack import stack_figure
from uranograph.charts.heat import heat_figure
from uranograph.charts.pen import Figure
from uranograph.core.errors import Missing
from uranograph.stations.gear_fit import bolts, heating, order
from uranograph.stations.gear_fit import fit as gear_fit


def figure(job: Job, view_state: ViewState) -> Figure:
    """The order of the parts, the heat, or the bolts."""
    fit, title = gear_fit.setup(job), "Cam gear installation"
    if view_state.view == "heat" and fit.heat is not None:
        hot = heating.heated(job)
        if hot is None:
            raise Missing("hot")
        estimate = hot.cooling
        return heat_figure(
            fit.heat.given.ambient_c,
            hot.grips_c,
            hot.fit.gear_c,
            fit.heat.given.limit_c,
            estimate.loose_s if estimate else None,
            estimate.time_constant_s if estimate else None,
            "Heat fit",
        )
    if view_state.view == "bolts" and fit.bolts is not None:
        pulls = bolts.pulls(job)
        return bolts_figure(
            fit.bolts.count,
            len(fit.bolts.stages),
            tuple((pull.stage, pull.bolt, pull.right) for pull in pulls if pull.pulled is not None),
            next((pull.bolt for pull in pulls if not pull.right), None),
            tuple(stage.words(fit.bolts.unit) for stage in fit.bolts.stages),
            "Bolts",
        )
    return stack_figure(tuple((answer.check.kind, answer.shown) for answer in order.answers(job)), title)
