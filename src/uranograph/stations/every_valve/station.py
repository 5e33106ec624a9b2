"""Every valve: how far each opens, and when, beside the others of its kind."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.station import Elsewhere, Station, ViewState
from uranograph.core.wheel import SIDES
from uranograph.engine import degree_wheel
from uranograph.phase import valve_by_valve
from uranograph.stations.every_valve import rules
from uranograph.stations.every_valve.messages import say


class EveryValveStation(Station):
    """Every valve: how far each opens, and when, beside the others of its kind."""

    key = valve_by_valve.KEY
    title = "Every valve"
    set_ups = ("dial-on-lifter",)
    group = "Prove"
    position = 205
    workflows = ()
    docs = "Every valve"
    slots = (valve_by_valve.LIFT, valve_by_valve.EVENT)
    acts = (
        "wheel-moved",
        "wheel-refitted",
        "cam-moved",
        "gear-turned",
        "gear-exchanged",
        "cam-refitted",
        "parts-fitted",
        "parts-removed",
        "lash-changed",
    )
    comes_after = ("tdc", "degree")
    governed_by = ("wheel", "top")
    cured_by = "parts-fitted"
    cured_of = "head"
    void_reasons = degree_wheel.VOID_REASONS
    reads_degree_wheel = True
    uses_shop_limits = True
    rows_on_sheet = True
    reads_on_when_out = True
    reads_each_once = True
    started_by_hand = True
    may_stay_open = True

    def elsewhere(self, job: Job, finding: Finding, query: Mapping[str, str]) -> Elsewhere | None:
        """The valve that is to be read again, where it lies on a limit."""
        again = rules.read_again(job) if finding.code == "near-the-limit" else None
        if again is None:
            return None
        asked = {"method": "lift" if again.what == "lift" else "timing", "item": str(again.number), "reading": "1"}
        return Elsewhere(say("read-again-do", name=again.name), say("read-again"), self.key, query=asked)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        mounted, prompt = degree_wheel.wheel_of(job), view_state.prompt
        return {
            "sides": SIDES[mounted.wheel.scale] if mounted else (),
            "valves": valve_by_valve.valves(job),
            "chosen": prompt.extra["item"] if prompt else "",
            "swept_as": rules.swept_as(job, prompt.extra["item"]) if prompt else "",
        }
