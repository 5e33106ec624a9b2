"""A board for a screen on the wall: the engines on the bench, where each stands, who is on it, and what it waits for."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench.order import worst_finding
from uranograph.engine.particulars import particulars_of
from uranograph.shop import loading, shelving
from uranograph.shop.shelving import Shelf
from uranograph.stations import ORDER
from uranograph.web.pages import render, shop_of

if TYPE_CHECKING:
    from datetime import datetime

    from uranograph.bench.finding import Finding
    from uranograph.bench.job import Job
    from uranograph.bench.station import Station
    from uranograph.engine.particulars import Particulars
    from uranograph.web.presence import Presence

router = APIRouter(include_in_schema=False)
# So many engines are read from across a shop.
MAX_JOBS = 9


@dataclass(frozen=True)
class Line:
    """One engine on the board; `there` is who has it open, each with the station."""

    job: "Job"
    station: "Station"
    finding: "Finding"
    worst: "Finding"
    particulars: "Particulars | None"
    there: tuple[str, ...]
    last_by: str
    last_at: "datetime | None"


@router.get("/board")
def board(request: Request) -> Response:
    """The engines that are not signed yet, the one last worked on first; drawn anew every few seconds."""
    with shop_of(request).read() as session:
        found = loading.page(session, 1, "", MAX_JOBS, shelving.on(Shelf.UNSIGNED))
    lines = [_line(request.app.state.presence, job) for job in found.jobs]
    return render(request, "board.html", {"lines": lines, "more": max(0, found.total - len(lines))})


def _line(presence: "Presence", job: "Job") -> Line:
    station, finding = ORDER.next_station(job)
    seen = {(each.by, each.station) for each in presence.at(job.key) if each.by}
    there = tuple(f"{by} at {ORDER.by_key[key].title}" if key in ORDER.by_key else by for by, key in sorted(seen))
    last = max((*job.forms, *job.entries), key=lambda each: each.seq, default=None)
    return Line(
        job,
        station,
        finding,
        worst_finding(ORDER.overview(job)),
        particulars_of(job),
        there,
        last.by if last else "",
        last.at if last else None,
    )
