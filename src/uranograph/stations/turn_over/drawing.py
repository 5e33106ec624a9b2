"""Two turns of the crank, and where it stopped."""

from functools import lru_cache

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure, Pen, polar, polyline, traced
from uranograph.core.quantities import parse_angle
from uranograph.engine.turning import FREE
from uranograph.phase.turning import turned

CENTER = (371.0, 330.0)
# Inner and outer radius of the two-turn spiral.
INNER, OUTER = 96.0, 214.0


def figure(job: Job, view_state: ViewState) -> Figure:
    """The two turns as far as they went."""
    found = turned(job)
    at = parse_angle(found.where.text) % 360 if found.where else None
    return turns_figure(found.last, at)


@lru_cache(maxsize=64)
def turns_figure(last: str, stopped_deg: float | None) -> Figure:
    """Draw two turns as a winding line, 742 by 630; solid where they were turned, with the place of a stop."""
    pen = Pen()
    pen.text((22, 42), "Two turns by hand", "title", "start")
    pen.text((22, 64), "crank degrees; solid once turned", "small", "start")
    pen.circle(CENTER, OUTER + 18, "hair")
    for deg in range(0, 360, 15):
        tall = 12 if deg % 90 == 0 else 6
        pen.line(polar(CENTER, OUTER + 18, deg), polar(CENTER, OUTER + 18 + tall, deg), "ink")
    for deg, words in ((0, "TDC"), (90, "90"), (180, "BDC"), (270, "270")):
        x, y = polar(CENTER, OUTER + 48, deg)
        pen.text((x, y + 5), words, "dead-center" if deg % 180 == 0 else "scale")
    pen.path(traced(CENTER, _winding(0, 720)), "card-curve")
    done = 720.0 if last in (FREE, "heavy") else (stopped_deg if last == "stop" and stopped_deg is not None else 0.0)
    if done:
        pen.path(traced(CENTER, _winding(0, done)), "measured-curve")
        tip = _at(done)
        pen.star(tip, 12, "solid")
    if last == "stop" and stopped_deg is not None:
        x, y = polar(CENTER, OUTER + 18, stopped_deg)
        pen.line(_at(done), (x, y), "measured-line")
        words = f"stopped at {stopped_deg:.0f}"
        side = "start" if stopped_deg < 180 else "end"
        px, py = polar(CENTER, OUTER + 66, stopped_deg)
        pen.text((px, py), words, "gap", side)
    pen.circle(CENTER, 40, "sheet")
    tip = polar(CENTER, 24, 76)
    pen.path(polyline([polar(CENTER, 24, deg) for deg in range(-80, 77, 6)]), "ink arrow")
    pen.path(polyline([(tip[0] - 7, tip[1] - 5), tip, (tip[0] + 4, tip[1] - 9)]), "ink arrow")
    pen.text((CENTER[0], CENTER[1] + 14), "forward", "small")
    said = {FREE: "turned, free all the way", "heavy": "turned, heavy at a place", "stop": "stopped"}.get(
        last, "not turned yet"
    )
    return pen.figure(742, 630, f"Two turns by hand: {said}.", "turns")


def _winding(start_deg: float, end_deg: float) -> list[tuple[float, float]]:
    steps = max(2, int((end_deg - start_deg) / 4))
    return [
        (INNER + (OUTER - INNER) * deg / 720, deg)
        for deg in (start_deg + (end_deg - start_deg) * k / steps for k in range(steps + 1))
    ]


def _at(deg: float) -> tuple[float, float]:
    return polar(CENTER, INNER + (OUTER - INNER) * deg / 720, deg)
