"""The crank stops at which every valve of this cam can be set."""

from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.lash_stops import LashStopsInput, Stop, lash_stops
from uranograph.core.lobe import CosineLobe, half_width_at
from uranograph.core.phase import Events
from uranograph.engine import positions
from uranograph.engine.card import card_of
from uranograph.engine.description import Engine, engine_of
from uranograph.phase import judgment
from uranograph.phase import sweep_points as sweeps
from uranograph.phase import valve_gaps as clearance

# A lobe leaves its base circle over its ramp: events where so much is lifted, mm at the dial, unless the lash is more.
RAMP_MM = 0.1
LOBES = ("intake", "exhaust")
USUAL_MARGIN_DEG = 20.0


@dataclass(frozen=True)
class Stops:
    """Where the crank is stopped, from the firing TDC of the first of the order, and what that was worked out from."""

    stops: tuple[Stop, ...]
    events: Events | None
    source: str
    margin_deg: float
    first: str
    trouble: str = ""


@memoized
def stops_of(job: Job, lash_mm: tuple[float, float], margin_deg: float) -> Stops | None:
    """The fewest stops for this cam; in firing order where no lobe is known, and None without a firing order.

    Parameters
    ----------
    job
        The job.
    lash_mm
        Of intake and exhaust, at the valve, mm.
    margin_deg
        Crank degrees kept from either end of every base circle.
    """
    engine = engine_of(job)
    if engine is None or not engine.firing_order:
        return None
    found = events_at_lash(job, lash_mm)
    if found is None:
        return in_firing_order(engine, margin_deg)
    events, source = found
    first = str(engine.firing_order[0])
    given = LashStopsInput(
        firing_order=list(engine.firing_order),
        firing_deg=list(engine.firing_deg) or None,
        card=events,
        clearance_margin_deg=margin_deg,
    )
    try:
        return Stops(tuple(lash_stops(given).stops), events, source, margin_deg, first)
    except InvalidInput as error:
        return Stops((), events, source, margin_deg, first, refusal(error, job.unit))


BY_ORDER = "order"


def in_firing_order(engine: Engine, margin_deg: float) -> Stops:
    """Where nothing is known of the lobes: each cylinder at its own firing TDC, in firing order, its intake and then its exhaust.

    At its firing TDC both valves of a cylinder rest on their base circles, whatever the cam.
    """
    stops = [
        Stop(crank_deg=fires, valves=[f"{cylinder} {lobe}"])
        for cylinder, fires in engine.fires.items()
        for lobe in LOBES
    ]
    return Stops(tuple(stops), None, BY_ORDER, margin_deg, str(engine.firing_order[0]))


def events_at_lash(job: Job, lash_mm: tuple[float, float]) -> tuple[Events, str] | None:
    """All four events at the lift at which the lash is gone, and what they were taken from: `sweep` or `card`."""
    ratio = clearance.valve_ratio(job) or 1.0
    ends: dict[str, tuple[float, float]] = {}
    sources = set()
    for lobe, lash in zip(LOBES, lash_mm, strict=True):
        at = max(RAMP_MM, lash / ratio)
        swept = sweeps.swept(positions.at_position(job), lobe)
        span = sweeps.events_at(swept, at) if swept and swept.found else None
        sources.add("sweep" if span else "card")
        span = span or _by_card(job, lobe, at)
        if span is None:
            return None
        ends[lobe] = span
    (opens, closes), (exhaust_opens, exhaust_closes) = ends["intake"], ends["exhaust"]
    events = Events(
        io_btdc_deg=-opens,
        ic_abdc_deg=closes - 180,
        eo_bbdc_deg=-180 - exhaust_opens,
        ec_atdc_deg=exhaust_closes,
    )
    return events, "card" if "card" in sources else "sweep"


def _by_card(job: Job, lobe: str, lift_mm: float) -> tuple[float, float] | None:
    card = card_of(job)
    nominal: CosineLobe | None = card.lobe(lobe) if card else None
    if nominal is None:
        return None
    try:
        phases = judgment.phases(positions.at_position(job))
    except InvalidInput:
        phases = {}
    late = (phases.get("both") or phases.get(lobe) or (0.0, 0.0))[0]
    half = half_width_at(nominal, min(lift_mm, nominal.max_lift_mm * 0.9))
    return nominal.centerline_deg + late - half, nominal.centerline_deg + late + half


def place_words(engine: Engine, stop: Stop) -> tuple[str, float | None]:
    """The cylinder that is at its firing TDC at a stop, empty where none is, and the stop, crank degrees."""
    for cylinder, fires in engine.fires.items():
        if abs(fires - stop.crank_deg) < 0.05:
            return str(cylinder), stop.crank_deg
    return "", stop.crank_deg
