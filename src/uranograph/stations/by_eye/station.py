"""Marks by eye: marks, lifters, driven parts and pins, without a tooth counted."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.engine.marks_by_eye import FORM
from uranograph.phase import marks_by_eye
from uranograph.stations.by_eye import rules as eye


class MarksByEyeStation(Station):
    """Marks by eye: marks, lifters, driven parts and pins, without a tooth counted."""

    key = marks_by_eye.KEY
    title = "Marks by eye"
    cured_by = "gear-turned"
    group = "Mark"
    position = 110
    workflows = ("marks", "gear", "wrong")
    details_title = "All that was looked at"
    reads_on_when_out = True
    docs = "Marks by eye"
    setup = FORM
    slots = (marks_by_eye.ANSWER,)
    acts = ("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed")
    answer_words = eye.ANSWER_WORDS
    details_template = "_checklist.html"

    def views(self, job: Job) -> dict[str, str]:
        """Ways of looking at it."""
        return marks_by_eye.views(job)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {"answers": marks_by_eye.answers(job)}
