"""Timing marks: whether they meet, and what stands where once the train is turned."""

import re
from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Page, Station
from uranograph.engine import gear_train as train
from uranograph.phase import blind_sets as blind
from uranograph.phase import keyways
from uranograph.phase import marks as phase_marks
from uranograph.phase import split_overlap as split
from uranograph.stations.marks import rules as marks
from uranograph.stations.marks.drawing import figure
from uranograph.stations.marks.help import HELP
from uranograph.stations.marks.messages import REFUSALS

FURTHEST_TEETH = 10_000_000
UNDESCRIBED = {
    "instruction": "Describe the gears first.",
    "words": "Marks, ratios and slips are told from the tooth counts between crank and cam.",
    "station": train.KEY,
    "label": "Describe the gears",
    "onward": True,
    "other": ("by-eye", "Look at marks without counting teeth"),
}


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    drive_train = train.described(job)
    if drive_train is None:
        return {"lacking": UNDESCRIBED}
    return {
        "answers": phase_marks.answers(job),
        "stepping": look.view == "marks",
        "crank_teeth": drive_train.crank.teeth,
        "places": marks.places_after(job, 0),
    }


def _train_at(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any] | None:
    """The table of marks once the crank gear has gone on by some teeth."""
    drive_train = train.described(job)
    if drive_train is None:
        return None
    teeth = asked.get("teeth", "0")
    # More digits than the furthest has are no nearer.
    whole = re.fullmatch("(-?)0*([0-9]{1,9})[0-9]*", teeth)
    at = int(whole[1] + whole[2]) if whole else 0
    at = max(-FURTHEST_TEETH, min(FURTHEST_TEETH, at))
    return {"places": marks.places_after(job, at), "teeth": at, "crank_teeth": drive_train.crank.teeth}


STATION = Station(
    key=phase_marks.KEY,
    refusals=REFUSALS,
    title="Timing marks",
    group="Mark",
    find=marks.find,
    help=HELP,
    docs="Marks against keyways",
    calculations=("keyways", "split-overlap", "helical-entry", "tooth-slip"),
    slots=(phase_marks.ANSWER, keyways.LEVEL, split.LIFT, blind.TRIED, blind.AGAIN_LIFT),
    acts=("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed"),
    after=(train.KEY,),
    governed_by=(train.KEY,),
    prompt=marks.prompt,
    accept=marks.accept,
    in_words=marks.in_words,
    answer_words=marks.ANSWER_WORDS,
    describe=marks.describe,
    views=phase_marks.views,
    figure=figure,
    shown=_shown,
    under="marks/under.html",
    found="marks/found.html",
    pages={"train-at": Page("marks/train_at.html", _train_at)},
)
