"""True TDC: offset of the wheel's TDC mark from the piston's TDC."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.finding import Finding, Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.bench.pairs import pair_in
from uranograph.bench.station import Station, ViewState
from uranograph.core.wheel import SIDES, Scale
from uranograph.engine import degree_wheel, tdc_reading
from uranograph.engine import tdc as engine_tdc
from uranograph.engine.stated_tdc import FORM as STATED
from uranograph.stations.true_tdc import rules as tdc


class TrueTdcStation(Station):
    """True TDC: offset of the wheel's TDC mark from the piston's TDC."""

    key = engine_tdc.KEY
    title = "True TDC"
    set_ups = (
        "piston-stop",
        "dial-on-piston",
    )
    group = "Find TDC"
    position = 170
    workflows = ("degree", "whole", "change", "wrong")
    docs = "True TDC"
    calculations = ("tdc", "piston")
    setup = STATED
    slots = (engine_tdc.STOP, engine_tdc.DROP, engine_tdc.AT_WHEEL)
    acts = (
        "wheel-moved",
        "wheel-refitted",
        "indicator-moved",
    )
    comes_after = ("wheel",)
    governed_by = ("wheel",)
    carried_query = ("drop",)
    void_reasons = degree_wheel.VOID_REASONS
    reads_degree_wheel = True

    def same_figure(self, before: Reading, entry: Entry) -> bool:
        """On a wheel that counts both ways from TDC both sides of the stop show about the same figure."""
        if before.side is None or entry.side is None:
            return super().same_figure(before, entry)
        return before.spot.kind in (engine_tdc.STOP.kinds + engine_tdc.DROP.kinds)

    def prompt(self, job: Job, query: Mapping[str, str]) -> Prompt | None:
        """Ask for the next reading."""
        return tdc_reading.prompt(job, query)

    def page_context(self, job: Job, view_state: ViewState) -> Mapping[str, Any]:
        """Context for the station's templates."""
        mounted = degree_wheel.wheel_of(job)
        if mounted is None or view_state.prompt is None:
            return {"lacking": degree_wheel.LACKING}
        return {
            "sides": SIDES[mounted.wheel.scale],
            "pair": pair_in(job, engine_tdc.KEY, view_state.prompt.slot),
            "plain": lambda text, side: degree_wheel.plain_angle(mounted, text, side),
            "methods": tdc_reading.METHOD_WORDS,
            "moved_since": engine_tdc.suspected_move(job),
        }

    def form_wanted(self, job: Job, finding: Finding) -> str:
        """The wheel, where both contacts are on the wrong side: on a wheel numbered all round its numbers run the other way."""
        mounted = degree_wheel.wheel_of(job)
        mirrored = finding.code == "contacts-mirrored" and mounted is not None and mounted.wheel.scale is Scale.FULL
        return degree_wheel.FORM.kind if mirrored else ""

    def settling_slot(self, job: Job, finding: Finding) -> str:
        """A wheel whose error is found may stay as it is: the error is taken off every reading."""
        return engine_tdc.LEFT if finding.code == "found" else ""

    def sheet_context(self, job: Job) -> Mapping[str, Any]:
        """Context for the build sheet."""
        frames = [frame for frame in engine_tdc.frames(job) if frame.top]
        return {"frames": frames, "tdc_rows": [tdc.rows(job, frame, frame.top) for frame in frames if frame.top]}

    def repeat_query(self, entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
        """The query that asks the same again."""
        return {"method": form.get("method") or entry.spot.kind, "drop": entry.second or ""}
