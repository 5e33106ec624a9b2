"""Diagnosis of a complaint, from report to cure."""

from collections.abc import Mapping
from typing import Any

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
    docs = "What is wrong"
    calculations = ("tooth-slip",)
    setup = FORM
    slots = (complaint.LOOKS, complaint.AGAIN)
    acts = ("gear-turned", "gear-exchanged", "cam-refitted", "cam-moved", "parts-fitted", "parts-removed")
    answer_words = complaint.ANSWER_WORDS

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {"answers": complaint.answers(job), "causes": complaint.causes(job)}
