"""Wheel: how it is mounted and numbered."""

from uranograph.bench.job import Job
from uranograph.bench.station import Station
from uranograph.engine import degree_wheel
from uranograph.stations.wheel import rules as wheel
from uranograph.stations.wheel.drawing import figure, preview
from uranograph.stations.wheel.help import HELP


def _tool(job: Job) -> str:
    mounted = degree_wheel.wheel_of(job)
    return mounted.words if mounted else "no wheel yet"


STATION = Station(
    key="wheel",
    title="Degree wheel",
    group="Find TDC",
    find=wheel.find,
    help=HELP,
    docs="What the wheel shows",
    calculations=("wheel-angle",),
    form=degree_wheel.FORM,
    acts=("wheel-moved", "wheel-refitted"),
    figure=figure,
    preview=preview,
    tool=_tool,
    shown=lambda job, look: {"says_finding": True},
    fields="wheel/fields.html",
)
