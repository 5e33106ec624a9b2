"""Runout: how true a shaft runs."""

from uranograph.bench.station import Station
from uranograph.stations.runout import station as runout
from uranograph.stations.runout.figure import figure

STATION = Station(
    key=runout.KEY,
    title="Runout",
    group="Fit",
    find=runout.find,
    docs="Runout",
    calculations=("runout",),
    setup=runout.SETUP,
    slots=r"set-[1-9]\.[0-9]{1,4}\.dial",
    rests_on=("shaft",),
    acts=("shaft-trued",),
    prompt=runout.prompt,
    accept=runout.accept,
    describe=runout.describe,
    brief=runout.brief,
    figure=figure,
)
