"""A job at a glance: every station, its state, and what waits for what."""

from fastapi import APIRouter, Request
from fastapi.responses import Response

from uranograph.bench.stations import STATIONS, advice, overview, where_it_stands
from uranograph.web import figures
from uranograph.web.bench_page import load
from uranograph.web.pages import attempt, render

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{key}/overview")
def job_overview(request: Request, key: str) -> Response:
    job = load(request, key)
    context = {
        "job": job,
        "findings": overview(job),
        "station": None,
        "finding": None,
        "advice": advice(job),
        "token": attempt(f"job {key}, its small chart", lambda: figures.token(job), None),
        "here": where_it_stands(job)[0],
        "lines": STATIONS,
    }
    return render(request, "overview.html", context)
