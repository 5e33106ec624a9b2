"""Valve lash and the stops at which it is set."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.engine import lash as engine_lash
from uranograph.stations.lash import rules as lash
from uranograph.stations.lash import wanted


class ValveLashStation(Station):
    """Valve lash and the stops at which it is set."""

    key = engine_lash.KEY
    title = "Valve lash"
    group = "Prove"
    position = 220
    workflows = ("degree", "whole", "change")
    reads_on_when_out = True
    reads_each_once = True
    docs = "Stops for the lash"
    calculations = ("lash-stops",)
    setup = wanted.SETUP
    slots = (engine_lash.SET, engine_lash.FOUND_AS, engine_lash.PRELOAD)
    acts = ("lash-changed", "cam-refitted", "parts-fitted", "parts-removed")
    comes_after = ("degree",)
    rows_on_sheet = True
    started_by_hand = True

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        return {
            "groups": lash.turned_to(job),
            "done": lash.as_set(job),
            "chosen": view_state.prompt.extra.get("item", "") if view_state.prompt else "",
        }
