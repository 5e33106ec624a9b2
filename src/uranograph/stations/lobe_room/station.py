"""Cam clearance: what every lobe passes by."""

from uranograph.bench.station import Station
from uranograph.stations.lobe_room import rules as lobe_room
from uranograph.stations.lobe_room.drawing import figure
from uranograph.stations.lobe_room.help import HELP
from uranograph.stations.lobe_room.messages import REFUSALS

STATION = Station(
    key=lobe_room.KEY,
    refusals=REFUSALS,
    title="Cam clearance",
    group="Fit",
    find=lobe_room.find,
    help=HELP,
    docs="Cam clearance",
    slots=(lobe_room.ROOM,),
    acts=("cam-refitted",),
    prompt=lobe_room.prompt,
    accept=lobe_room.accept,
    describe=lobe_room.describe,
    brief=lobe_room.brief,
    figure=figure,
    house=True,
)
