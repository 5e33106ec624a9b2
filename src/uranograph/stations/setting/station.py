"""Set end play: by shims, by cheeks, or by ring and plate."""

from uranograph.bench.station import Station
from uranograph.stations.setting import means
from uranograph.stations.setting import rules as setting


class SetEndPlayStation(Station):
    """Set end play: by shims, by cheeks, or by ring and plate."""

    key = means.KEY
    title = "Set end play"
    group = "Fit"
    position = 80
    workflows = ("play", "whole")
    docs = "Shims"
    calculations = ("shims",)
    setup = means.SETUP
    slots = (setting.SHIMS, setting.THICKNESS, setting.CHEEK)
    acts_by_view = True
    acts = ("shims-changed", "cheek-sanded", "parts-fitted", "parts-removed")
    comes_after = ("end-play",)
    uses_shop_limits = True
