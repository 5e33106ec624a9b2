"""What is kept of a reading that an instrument took: by which, by what line, and how good it is."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from uranograph.bench.instruments import instruments
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.instruments.hub import Hub, Live
from uranograph.instruments.lines import MAX_LINE

APART = ", "
# Which of the instruments that a job names is of which kind on the line.
KIND_OF = {"wheel": "angle", "dial": "length", "wrench": "torque"}


def named_for(job: Job) -> dict[str, str]:
    """Instruments that a job, or else the shop, names for its readings, by the kind of their line."""
    return {
        KIND_OF[each.kind]: each.name for each in instruments(job.shop_limits) if each.name and each.kind in KIND_OF
    }


def of_job(live: Iterable[Live], named: Mapping[str, str]) -> tuple[Live, ...]:
    """Instruments that are read at a job: of a kind of which one is named and there, that one alone."""
    shown = tuple(live)
    there = {each.name for each in shown}
    chosen = {kind: name for kind, name in named.items() if name in there}
    return tuple(each for each in shown if chosen.get(each.kind, each.name) == each.name)


def taken_by(hub: Hub, entry: Entry, form: Mapping[str, str], *, by_wheel: bool) -> Entry:
    """A reading with the instruments that its form names; as by eye where one of them is not the shop's.

    Parameters
    ----------
    hub
        The shop's instruments.
    entry
        As typed.
    form
        With `instrument`, names with commas between, and `raw`.
    by_wheel
        Whether the station reads the degree wheel: a figure that comes with a second one is an angle there.

    Returns
    -------
    Entry
        Its uncertainty is that of its figure, then that of its second one; 0 where an eye read that.
    """
    names = tuple(name for name in form.get("instrument", "").split(APART) if name)
    found = hub.definitions(names)
    if not found:
        return entry
    of_kind = {each.kind: each.doubt for each in found}
    at_angle = by_wheel and entry.second is not None
    first = of_kind.get("angle", 0.0 if at_angle else found[0].doubt)
    second = (of_kind["length"],) if at_angle and "length" in of_kind else ()
    return replace(
        entry,
        instrument=APART.join(names),
        raw=form.get("raw", "").strip()[:MAX_LINE] or None,
        uncertainty=(first, *second),
    )
