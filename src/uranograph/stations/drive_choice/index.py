"""Timing drive: which drive this shaft can bear, before parts are bought."""

from uranograph.bench.station import Station
from uranograph.bench.told import CURES, reason
from uranograph.stations.drive_choice import station as choice
from uranograph.stations.drive_choice.figure import figure

STATION = Station(
    key=choice.KEY,
    title="Timing drive",
    group="Fit",
    find=choice.find,
    docs="Which drive",
    calculations=("drive-choice",),
    setup=choice.SETUP,
    slots=(choice.ANSWER,),
    acts=("shaft-trued",),
    after=("runout",),
    prompt=choice.prompt,
    accept=choice.accept,
    describe=choice.describe,
    figure=figure,
    shown=lambda job, look: {
        "answers": choice.answers(job),
        "drives": choice.judged(job),
        "reason": reason,
        "cures": CURES,
        "costs": choice.window(job).costs,
    },
    found="drive_choice/found.html",
    house=True,
)
