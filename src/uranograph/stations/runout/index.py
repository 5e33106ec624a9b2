"""Runout: how true a shaft runs."""

from uranograph.bench.station import Station
from uranograph.stations.runout import station as runout
from uranograph.stations.runout.figure import figure
from uranograph.stations.runout.help import HELP
from uranograph.stations.runout.words import REFUSALS

STATION = Station(
    key=runout.KEY,
    refusals=REFUSALS,
    title="Runout",
    group="Fit",
    find=runout.find,
    help=HELP,
    docs="Runout",
    calculations=("runout",),
    setup=runout.SETUP,
    slots=(runout.DIAL, runout.TOTAL),
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
