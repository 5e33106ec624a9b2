"""Runout: how true a shaft runs."""

from uranograph.bench.station import Station
from uranograph.engine import runout


class RunoutStation(Station):
    """Runout: how true a shaft runs."""

    key = runout.KEY
    title = "Runout"
    set_ups = ("dial-on-seat",)
    group = "Fit"
    position = 50
    workflows = ("play", "whole")
    docs = "Runout"
    calculations = ("runout",)
    setup = runout.SETUP
    slots = (runout.DIAL, runout.TOTAL)
    acts = (
        "shaft-trued",
        "indicator-moved",
    )
