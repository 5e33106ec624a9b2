"""Backlash: cold, hot, and round the cam."""

from uranograph.bench.station import Station
from uranograph.engine import backlash as engine_backlash
from uranograph.stations.backlash import rules as backlash
from uranograph.stations.backlash.drawing import figure
from uranograph.stations.backlash.help import HELP
from uranograph.stations.backlash.messages import REFUSALS

STATION = Station(
    key=engine_backlash.KEY,
    refusals=REFUSALS,
    title="Backlash",
    group="Mark",
    find=backlash.find,
    help=HELP,
    docs="Backlash",
    calculations=("backlash", "hot-backlash"),
    setup=engine_backlash.SETUP,
    slots=(engine_backlash.PLACE,),
    acts=("gear-exchanged", "gear-turned", "shaft-trued", "parts-fitted", "parts-removed"),
    after=("runout", "end-play"),
    prompt=backlash.prompt,
    accept=backlash.accept,
    describe=backlash.describe,
    brief=backlash.brief,
    figure=figure,
)
