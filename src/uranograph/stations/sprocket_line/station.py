"""Sprocket alignment: whether both rows lie in one plane."""

from uranograph.bench.station import Station
from uranograph.stations.sprocket_line import rules as sprocket


class SprocketAlignmentStation(Station):
    """Sprocket alignment: whether both rows lie in one plane."""

    key = sprocket.KEY
    title = "Sprocket alignment"
    cured_by = "sprocket-shimmed"
    group = "Mark"
    position = 150
    docs = "Sprocket alignment"
    calculations = ("sprocket-line",)
    setup = sprocket.SETUP
    slots = (sprocket.DEPTH,)
    acts = ("sprocket-shimmed", "gear-exchanged")
    uses_shop_limits = True
