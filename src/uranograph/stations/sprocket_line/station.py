"""Sprocket alignment: whether both rows stand in one plane."""

from uranograph.bench.station import Station
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.sprocket_line.drawing import figure
from uranograph.stations.sprocket_line.help import HELP
from uranograph.stations.sprocket_line.messages import REFUSALS

STATION = Station(
    key=sprocket.KEY,
    refusals=REFUSALS,
    title="Sprocket alignment",
    group="Mark",
    find=sprocket.find,
    help=HELP,
    docs="Sprocket alignment",
    calculations=("sprocket-line",),
    setup=sprocket.SETUP,
    slots=(sprocket.DEPTH,),
    acts=("sprocket-shimmed", "gear-exchanged"),
    prompt=sprocket.prompt,
    accept=sprocket.accept,
    describe=sprocket.describe,
    figure=figure,
    house=True,
)
