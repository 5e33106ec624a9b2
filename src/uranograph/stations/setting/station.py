"""Set end play: by shims, by cheeks, or by ring and plate."""

from uranograph.bench.station import Station
from uranograph.stations.setting import rules as setting
from uranograph.stations.setting.drawing import figure
from uranograph.stations.setting.help import HELP
from uranograph.stations.setting.messages import REFUSALS

STATION = Station(
    key=setting.KEY,
    refusals=REFUSALS,
    title="Set end play",
    group="Fit",
    find=setting.find,
    help=HELP,
    docs="Shims",
    calculations=("shims",),
    setup=setting.SETUP,
    slots=(setting.SHIMS, setting.THICKNESS, setting.CHEEK),
    acts_by_view=True,
    acts=("shims-changed", "cheek-sanded", "parts-fitted", "parts-removed"),
    after=("end-play",),
    prompt=setting.prompt,
    accept=setting.accept,
    describe=setting.describe,
    views=setting.views,
    figure=figure,
    house=True,
)
