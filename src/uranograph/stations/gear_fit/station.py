"""Cam gear installation: order, heat and bolts."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.stations.gear_fit import bolts, fit, heating
from uranograph.stations.gear_fit import order as gear_fit
from uranograph.stations.gear_fit.temperatures import KEY, TEMPERATURE


class CamGearInstallationStation(Station):
    """Cam gear installation: order, heat and bolts."""

    key = KEY
    title = "Cam gear installation"
    cured_by = "gear-exchanged"
    group = "Fit"
    position = 90
    workflows = ("gear", "whole")
    details_title = "All steps"
    docs = "Heat fit"
    calculations = ("heat-fit", "cooling")
    setup = fit.SETUP
    slots = (gear_fit.ANSWER, TEMPERATURE, bolts.STAGE)
    acts = ("gear-exchanged", "parts-fitted", "parts-removed")
    acts_on = "cam"
    comes_after = ("choice", "end-play")

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {
            "answers": gear_fit.answers(job),
            "pulls": bolts.pulls(job),
            "grip": heating.grip(job),
            "cools": heating.cools(job),
        }
