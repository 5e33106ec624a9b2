"""Cam gear installation: order, heat and bolts."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.gear_fit.drawing import figure
from uranograph.stations.gear_fit.help import HELP
from uranograph.stations.gear_fit.messages import REFUSALS
from uranograph.stations.gear_fit.temperatures import KEY, TEMPERATURE


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {"answers": gear_fit.answers(job), "pulls": gear_fit.pulls(job), "grip": gear_fit.grip(job)}


STATION = Station(
    key=KEY,
    refusals=REFUSALS,
    title="Cam gear installation",
    group="Fit",
    find=gear_fit.find,
    help=HELP,
    docs="Heat fit",
    calculations=("heat-fit", "cooling"),
    setup=gear_fit.SETUP,
    slots=(gear_fit.ANSWER, TEMPERATURE, gear_fit.STAGE),
    acts=("gear-exchanged", "parts-fitted", "parts-removed"),
    acts_on="cam",
    after=("choice", "end-play"),
    prompt=gear_fit.prompt,
    accept=gear_fit.accept,
    describe=gear_fit.describe,
    brief=gear_fit.brief,
    views=gear_fit.views,
    figure=figure,
    shown=_shown,
    found="gear_fit/found.html",
)
