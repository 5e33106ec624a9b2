"""Marks by eye: marks, lifters, driven parts and pins, without a tooth counted."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.engine.marks_by_eye import FORM
from uranograph.phase import marks_by_eye
from uranograph.stations.by_eye import rules as eye
from uranograph.stations.by_eye.drawing import figure
from uranograph.stations.by_eye.help import HELP


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {"answers": marks_by_eye.answers(job)}


STATION = Station(
    key=marks_by_eye.KEY,
    title="Marks by eye",
    group="Mark",
    find=eye.find,
    help=HELP,
    docs="Marks by eye",
    setup=FORM,
    slots=(marks_by_eye.ANSWER,),
    acts=("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed"),
    prompt=eye.prompt,
    accept=eye.accept,
    in_words=eye.in_words,
    answer_words=eye.ANSWER_WORDS,
    describe=eye.describe,
    views=marks_by_eye.views,
    figure=figure,
    shown=_shown,
    under="by_eye/under.html",
    found="_checklist.html",
)
