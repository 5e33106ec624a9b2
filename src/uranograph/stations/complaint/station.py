"""What is wrong: a complaint followed from what was reported to what cured it."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.stations.complaint import rules as complaint
from uranograph.stations.complaint.drawing import figure
from uranograph.stations.complaint.help import HELP
from uranograph.stations.complaint.messages import REFUSALS
from uranograph.stations.complaint.reported import FORM


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {"answers": complaint.answers(job), "causes": complaint.causes(job)}


STATION = Station(
    key=complaint.KEY,
    refusals=REFUSALS,
    title="What is wrong",
    group="Receive",
    find=complaint.find,
    help=HELP,
    docs="What is wrong",
    calculations=("tooth-slip",),
    setup=FORM,
    slots=(complaint.LOOKS, complaint.AGAIN),
    acts=("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed"),
    prompt=complaint.prompt,
    accept=complaint.accept,
    answer_words=complaint.ANSWER_WORDS,
    describe=complaint.describe,
    views=complaint.views,
    figure=figure,
    shown=_shown,
    found="complaint/found.html",
)
