"""Backlash: cold, hot, and round the cam."""

from uranograph.bench.station import Station
from uranograph.engine import backlash


class BacklashStation(Station):
    """Backlash: cold, hot, and round the cam."""

    key = backlash.KEY
    title = "Backlash"
    cured_by = "gear-exchanged"
    set_ups = ("dial-on-tooth",)
    group = "Mark"
    position = 140
    workflows = ("play", "whole")
    docs = "Backlash"
    calculations = ("backlash", "hot-backlash")
    setup = backlash.SETUP
    slots = (backlash.PLACE,)
    rocked = ((backlash.PLACE, "travel"),)
    acts = ("gear-exchanged", "gear-turned", "shaft-trued", "parts-fitted", "parts-removed")
    comes_after = ("runout", "end-play")
