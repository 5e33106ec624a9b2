"""Gear train: what turns the cam."""

from collections.abc import Mapping
from typing import Any

from uranograph.bench.station import Station
from uranograph.engine import gear_train, gear_train_model
from uranograph.stations.gear_train import rules as train


class GearTrainStation(Station):
    """Gear train: what turns the cam."""

    key = gear_train.KEY
    title = "Gear train"
    group = "Mark"
    position = 120
    workflows = ("marks", "play", "whole", "wrong")
    docs = "Gear trains"
    calculations = ("train",)
    form = gear_train.FORM
    acts = ("gear-turned", "gear-exchanged", "parts-fitted", "parts-removed")

    def form_context(self, value: gear_train_model.DriveTrain | None) -> Mapping[str, Any]:
        """Context for the form's template."""
        return {
            "judged": train.judged(value) if value else None,
            "gear_choices": train.choices,
            "rows": gear_train.GEARS,
            "ends": {field.name: field for field in gear_train.EndFields.fields()},
        }
