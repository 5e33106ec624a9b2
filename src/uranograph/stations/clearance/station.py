"""Piston to valve: drops, clay, light springs, and what they leave at every position."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.engine import valves
from uranograph.stations.clearance import rules as clearance
from uranograph.stations.clearance.drawing import figure
from uranograph.stations.clearance.help import HELP
from uranograph.stations.clearance.messages import REFUSALS


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    chosen = look.prompt.extra.get("item", "") if look.prompt else ""
    way = look.prompt.extra.get("method", "") if look.prompt else ""
    return {"valves": valves.valves(job) if way in clearance.OF_WAY else (), "chosen": chosen}


STATION = Station(
    key=valves.KEY,
    refusals=REFUSALS,
    title="Piston to valve",
    group="Prove",
    find=clearance.find,
    help=HELP,
    docs="Piston to valve",
    calculations=("piston-to-valve", "valve-to-valve"),
    setup=valves.SETUP,
    slots=(valves.DROP, valves.CLAY, valves.SPRING, valves.LIFT, valves.MEET, valves.BIND),
    acts=(
        "cam-moved",
        "gear-turned",
        "gear-exchanged",
        "cam-refitted",
        "lash-changed",
        "indicator-moved",
        "parts-fitted",
        "parts-removed",
    ),
    after=("degree",),
    prompt=clearance.prompt,
    accept=clearance.accept,
    describe=clearance.describe,
    brief=clearance.brief,
    views=clearance.views,
    figure=figure,
    shown=_shown,
    fields="clearance/fields.html",
    house=True,
    rows_on_sheet=True,
    by_hand=True,
)
