"""The build sheet: one page to print."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench.acts import ACT
from uranograph.bench.job import ACCEPTED, ANEW, NOTE, PHOTO, Job, Reading
from uranograph.shop import jobs
from uranograph.stations import ORDER
from uranograph.web.pages import attempt, render, shop_of

router = APIRouter(include_in_schema=False)
MOST_PICTURES = 4
# Told in one line each; the rest of the sheet has the others at length.
BESIDES = [station.key for station in ORDER.stations if station.group in ("Fit", "Mark")]


def _beside(job: Job, kind: str) -> list[Reading]:
    return [reading for reading in job.readings if reading.void is None and reading.spot.kind == kind]


def _about(job: Job, note: Reading) -> Reading | None:
    """The reading that a note is about."""
    return next((reading for reading in job.readings if str(reading.seq) == note.drop), None)


@router.get("/jobs/{key}/sheet")
def build_sheet(request: Request, key: str) -> Response:
    with shop_of(request).read() as session:
        job = jobs.load(session, key)
    findings = ORDER.overview(job)
    context: dict[str, Any] = {
        "history": (),
        "effects": (),
        "frames": (),
        "job": job,
        "findings": findings,
        "besides": [key for key in BESIDES if findings[key].begun or findings[key].state == "skipped"],
        "run_together": BESIDES,
        "done": [r for r in job.readings if r.void is None and r.spot.kind in (ACT, ANEW)],
        "accepted": [(ORDER.by_key[r.station].title, r) for r in _beside(job, ACCEPTED)],
        "notes": [(ORDER.by_key[r.station].title, r, _about(job, r)) for r in _beside(job, NOTE)],
        "pictures": _beside(job, PHOTO)[:MOST_PICTURES],
        "passed_over": [(each.title, skip) for each in ORDER.stations if (skip := job.skipped(each.key))],
    }
    for station in ORDER.stations:
        where = f"job {key}, build sheet, {station.key}"
        context |= attempt(where, lambda station=station: station.printed(job), {})
    return render(request, "sheet.html", context)
