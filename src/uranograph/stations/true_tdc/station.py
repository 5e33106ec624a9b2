"""True TDC: where the wheel's mark stands from the piston's top."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.pairs import pair_in
from uranograph.bench.station import Look, Station
from uranograph.core.wheel import SIDES
from uranograph.engine import degree_wheel as wheel
from uranograph.engine import tdc as engine_tdc
from uranograph.engine import tdc_reading
from uranograph.engine.stated_tdc import FORM as STATED
from uranograph.stations.true_tdc import rules as tdc
from uranograph.stations.true_tdc.drawing import figure, rule
from uranograph.stations.true_tdc.help import HELP
from uranograph.stations.true_tdc.messages import REFUSALS


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    mounted = wheel.wheel_of(job)
    if mounted is None or look.prompt is None:
        return {"lacking": wheel.LACKING}
    return {
        "sides": SIDES[mounted.wheel.scale],
        "pair": pair_in(job, engine_tdc.KEY, look.prompt.slot),
        "plain": lambda text, side: wheel.plain_angle(mounted, text, side),
        "methods": tdc_reading.METHOD_WORDS,
        "moved_since": engine_tdc.told_of_a_move(job),
    }


def _printed(job: Job) -> Mapping[str, Any]:
    frames = [frame for frame in engine_tdc.frames(job) if frame.top]
    return {"frames": frames, "tdc_rows": [tdc.rows(job, frame, frame.top) for frame in frames if frame.top]}


def _again(entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
    return {"method": form.get("method") or entry.spot.kind, "drop": entry.second or ""}


STATION = Station(
    key=engine_tdc.KEY,
    refusals=REFUSALS,
    title="True TDC",
    on_sheet="true_tdc/on_sheet.html",
    sheet_section="true_tdc/sheet_section.html",
    group="Find TDC",
    find=tdc.find,
    help=HELP,
    docs="True TDC",
    calculations=("tdc", "piston"),
    setup=STATED,
    slots=(engine_tdc.STOP, engine_tdc.DROP, engine_tdc.AT_WHEEL),
    acts=(
        "wheel-moved",
        "wheel-refitted",
        "indicator-moved",
    ),
    after=("wheel",),
    governed_by=("wheel",),
    prompt=tdc_reading.prompt,
    accept=tdc.accept,
    as_read=tdc.as_read,
    enough=tdc.enough,
    describe=tdc.describe,
    figure=figure,
    rule=rule,
    shown=_shown,
    printed=_printed,
    foot="true_tdc/foot.html",
    fields="true_tdc/fields.html",
    again=_again,
    goes_on_with=("drop",),
    void_reasons=wheel.VOID_REASONS,
    takes_sides=True,
)
