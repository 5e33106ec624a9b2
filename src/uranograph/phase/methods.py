"""The methods of degreeing as they are read: what is asked for, and what is refused."""

from collections.abc import Mapping
from dataclasses import replace
from types import ModuleType

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Reading
from uranograph.core.errors import InvalidInput
from uranograph.engine import positions
from uranograph.engine.cams import KEY, LOBES
from uranograph.engine.card import card_of
from uranograph.engine.degree_wheel import wheel_of
from uranograph.engine.stated_tdc import stated_of
from uranograph.phase import answers, events, lifts, overlaps, peaks, sweeps
from uranograph.phase.results import method_of

_MODULES: dict[str, ModuleType] = {
    "lifts": lifts,
    "events": events,
    "sweep": sweeps,
    "overlap": overlaps,
    "peak": peaks,
    "asked": answers,
}


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Say which reading comes next, by the method chosen or last used."""
    job = positions.at_position(job)
    method = chosen_method(job, query)
    found: Prompt | None = _MODULES[method].prompt(job, query)
    return found and replace(found, extra={**found.extra, "method": method})


def chosen_method(job: Job, query: Mapping[str, str]) -> str:
    """The method asked for, the one last used, at an earlier position too, or the one that suits the card."""
    if query.get("method") in _MODULES:
        return query["method"]
    used = job.active_readings(KEY) or [
        r for r in job.full_job.readings if r.station == KEY and not (r.beside or r.void)
    ]
    # A maximum lift or an answer leads back to its method.
    by_method = [method for reading in used if (method := method_of(reading)) not in ("peak", "asked")]
    if by_method:
        return by_method[-1]
    card = card_of(job)
    if card is None:
        return "lifts"
    # With a TDC mark on the engine, the lift at overlap needs no wheel.
    by_mark = wheel_of(job) is None and bool(stated_of(job).how)
    if card.overlap_ranges and (card.card.intake_centerline_deg is None or by_mark):
        return "overlap"
    # Where the card prints events, events decide.
    figures = card.card
    printed = None not in (figures.io_btdc_deg, figures.ic_abdc_deg, card.check_lift_mm)
    return "events" if printed and not {"io_btdc_deg", "ic_abdc_deg"} & set(figures.derived) else "lifts"


def accept(job: Job, entry: Entry) -> None:
    """Refuse a reading that cannot be.

    Raises
    ------
    InvalidInput
        With the field at fault: `text`, `side` or `second`.
    """
    _module_of(entry).accept(positions.at_position(job), entry)


def describe(reading: Reading) -> str:
    """Say what a reading of this station was of."""
    words: str = _module_of(reading).describe(reading)
    return words


def _module_of(entry: Entry) -> ModuleType:
    kind = entry.spot.kind
    if kind in LOBES:
        return lifts
    module = events if kind in events.KINDS else peaks if peaks.BASE.of_kind(kind) else _MODULES.get(kind.split("-")[0])
    if module is None:
        raise InvalidInput("text", "not-taken-here")
    return module
