"""Runout: how true a shaft runs."""

from uranograph.bench.station import Station
from uranograph.engine import runout as engine_runout
from uranograph.stations.runout import rules as runout
from uranograph.stations.runout.drawing import figure
from uranograph.stations.runout.help import HELP
from uranograph.stations.runout.messages import REFUSALS

STATION = Station(
    key=engine_runout.KEY,
    refusals=REFUSALS,
    title="Runout",
    group="Fit",
    find=runout.find,
    help=HELP,
    docs="Runout",
    calculations=("runout",),
    setup=engine_runout.SETUP,
    slots=(engine_runout.DIAL, engine_runout.TOTAL),
    views=runout.views,
    acts=(
        "shaft-trued",
        "indicator-moved",
    ),
    prompt=runout.prompt,
    accept=runout.accept,
    describe=runout.describe,
    brief=runout.brief,
    figure=figure,
)
