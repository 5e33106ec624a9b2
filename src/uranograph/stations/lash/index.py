"""Valve lash and the stops at which it is set."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.job import Job
from uranograph.bench.station import Look, Station
from uranograph.stations.lash import station as lash
from uranograph.stations.lash.figure import figure
from uranograph.stations.lash.help import HELP
from uranograph.stations.lash.words import REFUSALS


def _shown(job: Job, look: Look) -> Mapping[str, Any]:
    return {
        "groups": lash.turned_to(job),
        "done": lash.as_set(job),
        "chosen": look.prompt.extra.get("item", "") if look.prompt else "",
    }


STATION = Station(
    key=lash.KEY,
    refusals=REFUSALS,
    title="Valve lash",
    group="Prove",
    find=lash.find,
    help=HELP,
    docs="Stops for the lash",
    calculations=("lash-stops",),
    setup=lash.SETUP,
    slots=(lash.SET, lash.FOUND_AS, lash.PRELOAD),
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
