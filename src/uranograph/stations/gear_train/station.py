"""Gear train: what turns the cam."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.station import Station
from uranograph.engine import gear_train
from uranograph.stations.gear_train import rules as station
from uranograph.stations.gear_train import rules as train
from uranograph.stations.gear_train.drawing import figure, preview
from uranograph.stations.gear_train.help import HELP


def _told(value: gear_train.DriveTrain | None) -> Mapping[str, Any]:
    return {"judged": station.judged(value) if value else None, "gear_choices": train.choices}


STATION = Station(
    key=gear_train.KEY,
    title="Gear train",
    group="Mark",
    find=station.find,
    help=HELP,
    docs="Gear trains",
    calculations=("train",),
    form=gear_train.FORM,
    acts=("gear-turned", "gear-exchanged", "parts-fitted", "parts-removed"),
    figure=figure,
    preview=preview,
    told=_told,
    fields="gear_train/fields.html",
    live="gear_train/live.html",
)
