"""Cam clearance: what every lobe passes by."""

from uranograph.bench.station import Station
from uranograph.stations.lobe_room import rules as lobe_room


class CamClearanceStation(Station):
    """Cam clearance: what every lobe passes by."""

    key = lobe_room.KEY
    title = "Cam clearance"
    cured_by = "cam-refitted"
    group = "Fit"
    position = 100
    workflows = ("gear", "whole")
    docs = "Cam clearance"
    slots = (lobe_room.ROOM,)
    acts = ("cam-refitted",)
    uses_shop_limits = True
