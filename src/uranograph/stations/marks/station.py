"""Timing marks: whether they align, and where they are after turning the train."""

import re
from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.station import Page, Station, ViewState
from uranograph.engine import gear_train
from uranograph.phase import blind_sets, keyways, split_overlap
from uranograph.phase import marks as phase_marks
from uranograph.stations.marks import rules as marks

MAX_TEETH = 10_000_000


UNDESCRIBED = {
    "instruction": "Describe the gears first.",
    "words": "Marks, ratios and slips are told from the tooth counts between crank and cam.",
    "station": gear_train.KEY,
    "label": "Describe the gears",
    "onward": True,
    "other": ("by-eye", "Look at marks without counting teeth"),
}


def _train_at(job: Job, asked: Mapping[str, str]) -> Mapping[str, Any] | None:
    """The table of marks once the crank gear has gone on by some teeth."""
    drive_train = gear_train.described(job)
    if drive_train is None:
        return None
    teeth = asked.get("teeth", "0")
    # Digits beyond the coarsest value's add nothing.
    whole = re.fullmatch("(-?)0*([0-9]{1,9})[0-9]*", teeth)
    at = int(whole[1] + whole[2]) if whole else 0
    at = max(-MAX_TEETH, min(MAX_TEETH, at))
    return {"places": marks.places_after(job, at), "teeth": at, "crank_teeth": drive_train.crank.teeth}


class TimingMarksStation(Station):
    """Timing marks: whether they align, and where they are after turning the train."""

    key = phase_marks.KEY
    title = "Timing marks"
    cured_by = "gear-turned"
    may_stay_open = True
    set_ups = ("level-on-key",)
    group = "Mark"
    position = 130
    workflows = ("marks", "whole", "wrong")
    details_title = "All checks"
    docs = "Marks against keyways"
    calculations = ("keyways", "split-overlap", "helical-entry", "tooth-slip")
    slots = (phase_marks.ANSWER, keyways.LEVEL, split_overlap.LIFT, blind_sets.TRIED, blind_sets.AGAIN_LIFT)
    acts = ("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed")
    comes_after = (gear_train.KEY,)
    governed_by = (gear_train.KEY,)
    answer_words = marks.ANSWER_WORDS
    pages = {"train-at": Page("marks/train_at.html", _train_at)}

    def views(self, job: Job) -> dict[str, str]:
        """Ways of looking at it."""
        return phase_marks.views(job)

    def is_exhausted(self, job: Job) -> bool:
        """Whether it cannot tell, and nothing that is read here would tell more."""
        return marks.find(job).verdict is Verdict.UNSURE and marks.prompt(job, {}) is None

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        drive_train = gear_train.described(job)
        if drive_train is None:
            return {"lacking": UNDESCRIBED}
        return {
            "answers": phase_marks.answers(job),
            "stepping": view_state.view == "marks",
            "crank_teeth": drive_train.crank.teeth,
            "places": marks.places_after(job, 0),
        }
