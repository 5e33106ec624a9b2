"""Wheel: how it is mounted and numbered."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.engine import degree_wheel


class DegreeWheelStation(Station):
    """Wheel: how it is mounted and numbered."""

    key = "wheel"
    title = "Degree wheel"
    group = "Find TDC"
    position = 160
    workflows = ("degree", "whole", "change", "wrong")
    docs = "What the wheel shows"
    calculations = ("wheel-angle",)
    form = degree_wheel.FORM
    acts = ("wheel-moved", "wheel-refitted")

    def tool(self, job: Job) -> str:
        """The parsed input of this station."""
        mounted = degree_wheel.wheel_of(job)
        return mounted.words if mounted else "no wheel yet"

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {"says_finding": True}
