"""Engine description, on which all other stations depend."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.bench.workflows import FORM as WORKFLOW_FORM
from uranograph.engine import description, particulars
from uranograph.stations.engine import limits


class EngineStation(Station):
    """Engine description, on which all other stations depend."""

    key = "engine"
    title = "Engine"
    group = "Receive"
    position = 10
    workflows = ("degree", "marks", "gear", "play", "whole", "change", "wrong")
    docs = "Companion cylinders"
    form = description.FORM
    other_forms = (WORKFLOW_FORM, limits.FORM, particulars.FORM)
    skippable = False

    def headline(self, job: Job) -> tuple[str, ...]:
        """Context for the header of every page of the job."""
        described = description.engine_of(job)
        return (described.words, f"turns {described.rotation} from the front") if described else ()

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        return {"engine": description.engine_of(job), "particulars": particulars.particulars_of(job)}
