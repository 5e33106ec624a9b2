"""Diagnosis of a complaint, from report to cure."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.stations.complaint import rules as complaint
from uranograph.stations.complaint.reported import FORM


class ComplaintStation(Station):
    """Diagnosis of a complaint, from report to cure."""

    key = complaint.KEY
    title = "What is wrong"
    group = "Receive"
    position = 20
    workflows = ("wrong",)
    details_title = "Causes and checks"
    cured_by = "gear-exchanged"
    docs = "What is wrong"
    calculations = ("tooth-slip",)
    setup = FORM
    slots = (complaint.LOOKS, complaint.AGAIN)
    acts = ("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed")
    answer_words = complaint.ANSWER_WORDS

    def act_wanted(self, job: Job, finding: Finding) -> str:
        """The repair of what was found: a jumped tooth is turned back, anything else exchanged or put right."""
        if finding.code == "found":
            return "gear-turned" if complaint.found_cause(job) == "tooth" else self.cured_by
        return super().act_wanted(job, finding)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {"answers": complaint.answers(job), "causes": complaint.causes(job)}
