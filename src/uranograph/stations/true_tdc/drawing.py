"""Pictures of the top: wheel, contacts, and the rule under the verdict."""

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure
from uranograph.charts.vernier import VernierGap, rule
from uranograph.charts.wheel import Contacts, top_figure
from uranograph.core.errors import InvalidInput, Missing
from uranograph.engine import tdc
from uranograph.engine.degree_wheel import crank_angle, wheel_of
from uranograph.engine.description import engine_of


def figure(job: Job, view_state: ViewState) -> Figure | None:
    """Wheel, contacts and the top between them; nothing before a wheel is set up."""
    return top(job) if wheel_of(job) else None


def top(job: Job) -> Figure:
    """Wheel, contacts and the top between them."""
    frame = tdc.frames(job)[-1]

    def angle(reading: Reading) -> float:
        return crank_angle(frame.mounted, reading.text, reading.side)

    pairs = []
    lone = None
    try:
        for pair in frame.pairs:
            if pair.before and pair.after:
                pairs.append((angle(pair.before), angle(pair.after)))
            else:
                lone = angle(pair.readings[0])
    except InvalidInput:
        pairs = []
    contacts = Contacts(
        tuple(pairs),
        lone,
        frame.top.zero_error_deg if frame.top else None,
        frame.top.uncertainty_deg if frame.top else 0.0,
    )
    crank = engine.crank if (engine := engine_of(job)) else None
    return top_figure(frame.mounted.wheel, contacts, crank, frame.mounted.dial_division_mm, "True TDC")


def ruler(job: Job) -> Figure:
    """Draw the wheel's TDC error and its tolerance."""
    found = tdc.frames(job)[-1].top
    if found is None:
        raise Missing("found")
    gap = VernierGap(found.zero_error_deg, found.uncertainty_deg, tdc.PROVED_WITHIN_DEG / 2)
    return rule(gap, "before", "after", "the wheel's TDC mark")
