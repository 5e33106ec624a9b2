"""The build sheet: one page to print."""

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench import adjust, degree, tdc
from uranograph.bench.place import KEY as DEGREE
from uranograph.bench.stations import STATIONS, overview
from uranograph.shop import jobs
from uranograph.web import figures
from uranograph.web.pages import attempt, render, shop_of

router = APIRouter(include_in_schema=False)
# Told in one line each; the rest of the sheet has the others at length.
BESIDES = [station.key for station in STATIONS if station.group in ("Fit", "Mark")]


@router.get("/jobs/{key}/sheet")
def build_sheet(request: Request, key: str) -> Response:
    with shop_of(request).read() as session:
        job = jobs.load(session, key)
    findings = overview(job)
    where = f"job {key}, build sheet"
    context = {
        "history": attempt(where, lambda: adjust.history(job), ()),
        "effects": attempt(where, lambda: adjust.effects(job), []),
        "job": job,
        "findings": findings,
        "figure": attempt(where, lambda: figures.station_figure(job, DEGREE), None),
        "besides": [key for key in BESIDES if findings[key].begun or findings[key].state == "skipped"],
        "run_together": BESIDES,
        "frames": attempt(where, lambda: [frame for frame in tdc.frames(job) if frame.top], []),
        "tdc_rows": attempt(
            where, lambda: [tdc.rows(job, frame, frame.top) for frame in tdc.frames(job) if frame.top], []
        ),
        "if_true": degree.if_durations_true(findings[DEGREE].rows),
        "passed_over": [(each.title, skip) for each in STATIONS if (skip := job.skipped(each.key))],
    }
    return render(request, "sheet.html", context)
