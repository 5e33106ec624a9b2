"""Timing drive: which drive this shaft can bear, before parts are bought."""

from uranograph.bench.station import Station
from uranograph.bench.told import CURES, reason
from uranograph.stations.drive_choice import rules as drive_choice
from uranograph.stations.drive_choice.drawing import figure
from uranograph.stations.drive_choice.help import HELP

STATION = Station(
    key=drive_choice.KEY,
    title="Timing drive",
    group="Fit",
    find=drive_choice.find,
    help=HELP,
    docs="Which drive",
    calculations=("drive-choice",),
    setup=drive_choice.SETUP,
    slots=(drive_choice.ANSWER,),
    acts=("shaft-trued",),
    after=("runout",),
    prompt=drive_choice.prompt,
    accept=drive_choice.accept,
    answer_words={
        **{f"chosen:{key}": words for key, words in drive_choice.DRIVES.items()},
        **dict(drive_choice.MEASURED),
    },
    describe=drive_choice.describe,
    figure=figure,
    shown=lambda job, look: {
        "answers": drive_choice.answers(job),
        "drives": drive_choice.judged(job),
        "reason": reason,
        "cures": CURES,
        "costs": drive_choice.window(job).costs,
    },
    found="drive_choice/found.html",
    house=True,
)
