"""Timing drive: which drive this shaft can bear, before parts are bought."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Elsewhere, Station, ViewState
from uranograph.bench.worded import CURES, reason
from uranograph.engine import runout
from uranograph.stations.drive_choice import rules as drive_choice
from uranograph.stations.drive_choice.messages import say


class TimingDriveStation(Station):
    """Timing drive: which drive this shaft can bear, before parts are bought."""

    key = drive_choice.KEY
    title = "Timing drive"
    cured_by = "shaft-trued"
    group = "Fit"
    position = 60
    workflows = ("play", "whole")
    details_title = "Every drive"
    docs = "Which drive"
    calculations = ("drive-choice",)
    setup = drive_choice.SETUP
    slots = (drive_choice.ANSWER,)
    acts = ("shaft-trued",)
    comes_after = ("runout",)
    answer_words = {
        **{f"chosen:{key}": words for key, words in drive_choice.DRIVES.items()},
        **dict(drive_choice.MEASURED),
    }
    uses_shop_limits = True

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """The runout is measured at its own station."""
        if finding.code != "runout-first":
            return None
        return Elsewhere(finding.next_step, say("runout-title"), runout.KEY)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {
            "answers": drive_choice.answers(job),
            "drives": drive_choice.judged(job),
            "reason": reason,
            "cures": CURES,
            "costs": drive_choice.window(job).costs,
        }
