"""Every station: a folder here with a `station.py` is one, and nothing else has to name it."""

from importlib import import_module
from pkgutil import iter_modules

from uranograph.bench import messages as words
from uranograph.bench.order import Order
from uranograph.bench.station import Page, Station
from uranograph.bench.workflows import FORM, WORKFLOWS
from uranograph.engine import messages as engine_messages
from uranograph.phase import marks_messages, move_messages
from uranograph.phase import messages as phase_messages


def found_stations() -> tuple[list[Station], dict[str, Page]]:
    """The station of every folder, and the page of every folder that has one without a job."""
    stations: list[Station] = []
    pages: dict[str, Page] = {}
    for folder in iter_modules(__path__):
        name = f"{__name__}.{folder.name}"
        parts = {part.name for part in iter_modules(import_module(name).__path__)}
        if "page" in parts:
            pages[folder.name] = import_module(f"{name}.page").PAGE
        if "station" in parts:
            module = import_module(f"{name}.station")
            own = (each for each in vars(module).values() if isinstance(each, type) and issubclass(each, Station))
            stations += [each() for each in own if each.__module__ == module.__name__]
    return stations, pages


for table in (engine_messages.REFUSALS, phase_messages.REFUSALS, marks_messages.REFUSALS, move_messages.REFUSALS):
    words.refusals(table)
_stations, _pages = found_stations()
ORDER = Order(_stations, _pages, WORKFLOWS, FORM)
