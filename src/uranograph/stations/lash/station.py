"""Valve lash and the stops at which it is set."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.engine import lash as engine_lash
from uranograph.stations.lash import rules as lash
from uranograph.stations.lash.drawing import figure
from uranograph.stations.lash.help import HELP
from uranograph.stations.lash.messages import REFUSALS


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {
        "groups": lash.turned_to(job),
        "done": lash.as_set(job),
        "chosen": look.prompt.extra.get("item", "") if look.prompt else "",
    }


STATION = Station(
    key=engine_lash.KEY,
    refusals=REFUSALS,
    title="Valve lash",
    group="Prove",
    find=lash.find,
    help=HELP,
    docs="Stops for the lash",
    calculations=("lash-stops",),
    setup=lash.SETUP,
    slots=(engine_lash.SET, engine_lash.FOUND_AS, engine_lash.PRELOAD),
    acts=("lash-changed", "cam-refitted"),
    after=("degree",),
    prompt=lash.prompt,
    accept=lash.accept,
    describe=lash.describe,
    brief=lash.brief,
    views=lash.views,
    figure=figure,
    shown=_shown,
    fields="lash/fields.html",
    rows_on_sheet=True,
    by_hand=True,
)
