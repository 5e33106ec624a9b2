"""Where the crank is stopped, and which valves rest there, round the cycle."""

from functools import lru_cache

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure, Pen, arc, polar
from uranograph.core.errors import Missing
from uranograph.core.firing import Cylinder
from uranograph.core.phase import Events
from uranograph.engine.description import engine_of
from uranograph.engine.valves import valves
from uranograph.stations.lash.rules import as_set, rim_marks, stops

CENTER, RIM, INNER = (371.0, 334.0), 236.0, 92.0
# How far before its lift the name of a ring stands, degrees of the circle.
RING_NAME_DEG = 6.0


def figure(job: Job, view_state: ViewState) -> Figure:
    """The stops round the cycle of the first cylinder to fire."""
    engine, found = engine_of(job), stops(job)
    done = frozenset(valves(job)[number - 1].name for number in as_set(job))
    asked = view_state.prompt.extra.get("item", "") if view_state.prompt else ""
    now = valves(job)[int(asked) - 1].name if asked.isdecimal() and int(asked) <= len(valves(job)) else ""
    fires = tuple(engine.fires.items()) if engine and engine.firing_order else ()
    served = tuple((stop.crank_deg, tuple(stop.valves)) for stop in found.stops) if found else ()
    return stops_figure(fires, found.events if found else None, served, done, now, tuple(rim_marks(job)))


@lru_cache(maxsize=64)
def stops_figure(
    fires: tuple[tuple[Cylinder, float], ...],
    events: Events | None,
    served: tuple[tuple[float, tuple[str, ...]], ...],
    done: frozenset[str],
    now: str,
    rim: tuple[str, ...],
) -> Figure:
    """Draw every valve as a ring: thick where its lobe lifts, thin where it rests; and the stops across, 742 by 630.

    Parameters
    ----------
    fires
        Cylinders with the crank degrees at which they fire.
    events
        At the lash, crank degrees.
    served
        Stops, crank degrees, with the valves that are set there.
    done, now
        Valves that are set, and the one that is asked for.
    rim
        Marks on the balancer, in words.
    """
    pen = Pen()
    pen.text((22, 42), "Stops for the lash", "title", "start")
    words = "one ring a valve, 1I the intake of 1: heavy where it lifts, fine where it rests and can be set"
    pen.lines((22, 64), words, "small", 28)
    pen.circle(CENTER, RIM + 14, "ink")
    for crank in range(0, 720, 30):
        tall = 12 if crank % 180 == 0 else 6
        pen.line(polar(CENTER, RIM + 14, crank / 2), polar(CENTER, RIM + 14 + tall, crank / 2), "ink")
    for crank in (0, 180, 360, 540):
        x, y = polar(CENTER, RIM + 42, crank / 2)
        pen.text((x, y + 4), str(crank), "scale")
    names = [(f"{cylinder} {lobe}", angle, lobe) for cylinder, angle in fires for lobe in ("intake", "exhaust")]
    step = (RIM - INNER) / max(1, len(names))
    radius = {name: INNER + step * (k + 0.5) for k, (name, _, _) in enumerate(names)}
    for name, angle, lobe in names if events else ():
        if events is None:
            raise Missing("events")
        opens, closes = _lifts(events, lobe, angle)
        pen.circle(CENTER, radius[name], "fine")
        pen.path(arc(CENTER, radius[name], opens / 2, closes / 2), "lifting now" if name == now else "lifting")
        # Each ring carries its valve where it begins to lift.
        x, y = polar(CENTER, radius[name], opens / 2 - RING_NAME_DEG)
        pen.text((x, y + 4), f"{name.split()[0]}{lobe[0].upper()}", "scale ring-name")
    for number, (deg, there) in enumerate(served, 1):
        pen.line(polar(CENTER, INNER - 14, deg / 2), polar(CENTER, RIM + 14, deg / 2), "stop-line")
        x, y = polar(CENTER, INNER - 36, deg / 2)
        pen.circle((x, y), 13, "offer first" if now in there else "offer")
        pen.text((x, y + 5), str(number), "offer-number first" if now in there else "offer-number")
        for name in there:
            if name in radius:
                pen.star(
                    polar(CENTER, radius[name], deg / 2),
                    7 if len(names) > 12 else 9,
                    "solid" if name in done else "hollow",
                )
    y = 560.0
    for number, (deg, _) in enumerate(served, 1):
        pen.text((22, y), f"{number}. at {deg:g}", "small", "start")
        y += 18
    if rim:
        pen.text((720, 600), f"on the rim: {', '.join(rim)}", "small", "end")
    if not served:
        pen.text(CENTER, "no stops known", "soft")
    told = "; ".join(f"at {deg:g}: {', '.join(there)}" for deg, there in served) or "none known yet"
    return pen.figure(
        742, 630, f"Crank stops for setting the lash, degrees from the first firing TDC: {told}.", "stops"
    )


def _lifts(events: Events, lobe: str, fires_deg: float) -> tuple[float, float]:
    """From where to where a valve lifts, crank degrees from the first firing TDC."""
    overlap = fires_deg + 360
    if lobe == "intake":
        return overlap - events.io_btdc_deg, overlap + 180 + events.ic_abdc_deg
    return overlap - 180 - events.eo_bbdc_deg, overlap + events.ec_atdc_deg
