"""Checklist ring: closed and open items."""

from functools import lru_cache

from uranograph.bench.job import Job
from uranograph.bench.station import ViewState
from uranograph.charts.pen import Figure, Pen, arc, polar
from uranograph.stations.lock_up import rules as lock_up

CENTER, RADIUS = (371.0, 334.0), 190.0
GAP_DEG = 4.0


def figure(job: Job, view_state: ViewState) -> Figure:
    """Each thing to be closed as a piece of the ring."""
    asked = view_state.prompt.extra.get("item", "") if view_state.prompt else ""
    pieces = [(a.check.label, a.state, a.check.kind == asked) for a in lock_up.answered(job)]
    pieces.append(("turned by hand", "in" if lock_up.turned(job) else "not-begun", False))
    again = lock_up.proved(job)
    if again is not None:
        pieces.append(("read again", "in" if again else "not-begun", False))
    return ring_figure(tuple(pieces))


@lru_cache(maxsize=64)
def ring_figure(pieces: tuple[tuple[str, str, bool], ...]) -> Figure:
    """Draw the ring, 742 by 630.

    Parameters
    ----------
    pieces
        What is to be closed, its state, and whether it is asked for now.
    """
    pen = Pen()
    pen.text((22, 42), "Lock-up", "title", "start")
    pen.text((22, 64), "the ring closes once every piece is closed", "small", "start")
    step = 360.0 / len(pieces)
    closed = sum(state == "in" for _, state, _ in pieces)
    for k, (label, state, now) in enumerate(pieces):
        low, high = k * step + GAP_DEG / 2, (k + 1) * step - GAP_DEG / 2
        ink = {"in": "closed-piece", "out": "open-piece wrong"}.get(state, "open-piece")
        pen.path(arc(CENTER, RADIUS, low, high), f"{ink} now" if now else ink)
        middle = (low + high) / 2
        if state == "in":
            pen.star(polar(CENTER, RADIUS, middle), 9, "solid")
        x, y = polar(CENTER, RADIUS + 26, middle)
        side = "middle" if min(middle % 180, 180 - middle % 180) < 12 else ("start" if middle < 180 else "end")
        pen.text((x, y + 5), label, "small measured" if state == "out" else "small", side)
    pen.text((CENTER[0], CENTER[1] + 4), f"{closed} of {len(pieces)}", "ring-count")
    pen.text((CENTER[0], CENTER[1] + 30), "closed", "small")
    left = ", ".join(label for label, state, _ in pieces if state != "in") or "none"
    return pen.figure(742, 630, f"Lock-up: {closed} of {len(pieces)} closed; open: {left}.", "lock-up")
