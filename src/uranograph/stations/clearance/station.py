"""Piston to valve: drops, clay, light springs, and what they leave at every position."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Station, ViewState
from uranograph.engine import valves
from uranograph.stations.clearance import rules as clearance


class PistonToValveStation(Station):
    """Piston to valve: drops, clay, light springs, and what they leave at every position."""

    key = valves.KEY
    title = "Piston to valve"
    cured_by = "parts-fitted"
    cured_of = "head"
    set_ups = ("valve-pushed",)
    group = "Prove"
    position = 200
    workflows = ("degree", "whole", "change")
    reads_on_when_out = True
    reads_each_once = True
    docs = "Piston to valve"
    calculations = ("piston-to-valve", "valve-to-valve")
    setup = valves.SETUP
    slots = (valves.DROP, valves.CLAY, valves.SPRING, valves.LIFT, valves.MEET, valves.BIND)
    rocked = ((valves.DROP, "gap"), (valves.SPRING, "gap"))
    acts = (
        "cam-moved",
        "gear-turned",
        "gear-exchanged",
        "cam-refitted",
        "lash-changed",
        "indicator-moved",
        "parts-fitted",
        "parts-removed",
    )
    comes_after = ("degree",)
    uses_shop_limits = True
    rows_on_sheet = True
    started_by_hand = True

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        chosen = view_state.prompt.extra.get("item", "") if view_state.prompt else ""
        way = view_state.prompt.extra.get("method", "") if view_state.prompt else ""
        return {"valves": valves.valves(job) if way in clearance.OF_WAY else (), "chosen": chosen}
