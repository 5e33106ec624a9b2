"""Turn over by hand."""

from uranograph.bench.station import Station
from uranograph.stations.turn_over import station as turn_over
from uranograph.stations.turn_over.figure import figure
from uranograph.stations.turn_over.help import HELP
from uranograph.stations.turn_over.words import REFUSALS

STATION = Station(
    key=turn_over.KEY,
    refusals=REFUSALS,
    title="Turn over by hand",
    group="Prove",
    find=turn_over.find,
    help=HELP,
    docs="Turning over by hand",
    slots=(turn_over.TURNED, turn_over.STOPPED_AT, turn_over.STOPPED_BY),
    acts=("cam-moved", "gear-turned", "gear-exchanged", "cam-refitted", "parts-fitted", "parts-removed"),
    after=("degree",),
    prompt=turn_over.prompt,
    accept=turn_over.accept,
    answer_words={
        **dict(turn_over.TURNING.options),
        **{f"what:{key}": words for key, words in turn_over.WHATS.options},
    },
    describe=turn_over.describe,
    figure=figure,
    goes_on_with=(),
    void_reasons=("pressed the wrong answer", "turned only in part", "something was still in the way"),
    by_hand=True,
)
