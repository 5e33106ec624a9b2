"""What a sweep says of events and equal lifts: shown beside them, and not counted again as readings of its own."""

from uranograph.bench.finding import Prompt
from uranograph.bench.job import Job
from uranograph.bench.slots import spot_of, within_bank
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_angle, parse_length
from uranograph.engine import positions
from uranograph.engine.cams import LOBES
from uranograph.phase import events
from uranograph.phase import sweep_points as sweeps
from uranograph.phase.messages import say

# Below maximum lift, as usual in either unit.
DROPS = {LengthUnit.INCH: ("0.050", "0.100", "0.200"), LengthUnit.MM: ("1", "2", "4")}
# A drop of more than this share of the lift is on the ramps.
MAX_SHARE = 0.8


def event_deg(job: Job, kind: str) -> float | None:
    """An event out of the sweep of its lobe, as a card states it; None where that is not swept."""
    swept_lobe = sweeps.swept(job, events.LOBE[kind])
    if swept_lobe is None or swept_lobe.found is None:
        return None
    at = swept_lobe.found.open_deg if kind in ("io", "eo") else swept_lobe.found.close_deg
    return events.stated(kind, at)


def middle_at(job: Job, lobe: str, drop_mm: float) -> float | None:
    """The middle between equal lifts so far below the greatest, about overlap TDC; None where that is not swept on both sides."""
    swept_lobe = sweeps.swept(job, lobe)
    if swept_lobe is None or swept_lobe.found is None or not 0 < drop_mm <= MAX_SHARE * swept_lobe.found.max_lift_mm:
        return None
    at = sweeps.events_at(swept_lobe, swept_lobe.found.max_lift_mm - drop_mm)
    return None if at is None else (at[0] + at[1]) / 2


def middles(job: Job, lobe: str) -> dict[str, float]:
    """The middle at each usual drop below the greatest lift, by the drop as written."""
    per_unit = MM_PER_INCH if job.unit is LengthUnit.INCH else 1.0
    found = {drop: middle_at(job, lobe, float(drop) * per_unit) for drop in DROPS[job.unit]}
    return {drop: middle for drop, middle in found.items() if middle is not None}


def in_words(job: Job) -> tuple[str, ...]:
    """The middles of each lobe that is swept, as a sentence; a drift with the drop is an uneven lobe."""
    view, found = positions.at_position(job), []
    for lobe in LOBES:
        if by_drop := middles(view, lobe):
            drops = ", ".join(f"{drop}: {format_angle(abs(middle))}" for drop, middle in by_drop.items())
            spread = max(by_drop.values()) - min(by_drop.values())
            found.append(say("swept-middles", lobe=lobe, drops=drops, spread_deg=spread))
    return tuple(found)


def hint_for(job: Job, prompt: Prompt) -> str:
    """What the sweep says of what is asked for, in words; empty where it says nothing."""
    view, spot = positions.at_position(job), spot_of(within_bank(prompt.slot))
    kind = spot.kind
    if kind in events.KINDS:
        stated = event_deg(view, kind)
        return "" if stated is None else say("sweep-has-event", event=kind.upper(), stated_deg=stated)
    if spot.place in ("before", "after") and kind in ("intake", "exhaust") and prompt.second:
        middle = middle_at(view, kind, parse_length(prompt.second, job.unit))
        return "" if middle is None else say("sweep-has-middle", lobe=kind, middle_deg=abs(middle))
    return ""
