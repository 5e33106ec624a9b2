"""End play: how far a shaft moves along."""

from uranograph.bench.station import Station
from uranograph.engine import end_play as engine_end_play
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.end_play.drawing import figure
from uranograph.stations.end_play.help import HELP
from uranograph.stations.end_play.messages import REFUSALS

STATION = Station(
    key=engine_end_play.KEY,
    refusals=REFUSALS,
    title="End play",
    rows_on_sheet=True,
    group="Fit",
    find=end_play.find,
    help=HELP,
    docs="End play",
    calculations=("end-play", "hot-play"),
    setup=engine_end_play.SETUP,
    slots=(engine_end_play.PLAY, engine_end_play.FITTED_AS),
    acts_by_view=True,
    acts=("shims-changed", "cheek-sanded", "parts-fitted", "parts-removed"),
    prompt=end_play.prompt,
    accept=end_play.accept,
    answer_words=dict(engine_end_play.FITTED),
    describe=end_play.describe,
    views=engine_end_play.views,
    figure=figure,
)
