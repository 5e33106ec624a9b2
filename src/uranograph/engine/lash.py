"""Valve lash as it is read."""

from uranograph.bench.slots import Slot

KEY = "valve-lash"
SET = Slot[str](KEY, ("set-#",), ("blade",), rests_on=("lash", "room", "head"))
FOUND_AS = Slot[str](KEY, ("found-#",), ("blade",), rests_on=("lash", "room", "head"))
PRELOAD = Slot[str](KEY, ("preload-#",), ("turns",), rests_on=("lash", "room", "head"))
