"""Turn over by hand."""

from uranograph.bench.station import Station
from uranograph.phase import turning
from uranograph.stations.turn_over import rules as turn_over
from uranograph.stations.turn_over.drawing import figure
from uranograph.stations.turn_over.help import HELP
from uranograph.stations.turn_over.messages import REFUSALS

STATION = Station(
    key=turning.KEY,
    refusals=REFUSALS,
    title="Turn over by hand",
    group="Prove",
    find=turning.find,
    help=HELP,
    docs="Turning over by hand",
    slots=(turn_over.TURNED, turning.STOPPED_AT, turning.STOPPED_BY),
    acts=("cam-moved", "gear-turned", "gear-exchanged", "cam-refitted", "parts-fitted", "parts-removed"),
    after=("degree",),
    prompt=turn_over.prompt,
    accept=turn_over.accept,
    answer_words={
        **dict(turning.TURNING.options),
        **{f"what:{key}": words for key, words in turning.WHATS.options},
    },
    describe=turn_over.describe,
    figure=figure,
    goes_on_with=(),
    void_reasons=("pressed the wrong answer", "turned only in part", "something was still in the way"),
    by_hand=True,
)
