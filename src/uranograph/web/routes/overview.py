"""A job at a glance: every station, its state, and what waits for what."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from uranograph.stations import ORDER
from uranograph.web.bench_page import load
from uranograph.web.pages import attempt, rail, render

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{key}/overview")
def job_overview(request: Request, key: str) -> Response:
    job = load(request, key)
    context = {
        "job": job,
        "findings": ORDER.overview(job),
        "station": None,
        "finding": None,
        "advice": ORDER.advice(job),
        "token": attempt(f"job {key}, its small chart", lambda: ORDER.token(job), None),
        "here": ORDER.where_it_stands(job)[0],
        "lines": ORDER.stations,
    }
    return render(request, "overview.html", context)


@router.get("/jobs/{key}/rail")
def job_rail(request: Request, key: str, here: str = "") -> Response:
    """The stations of a job with their states as they are now, for a page whose own part came first."""
    return HTMLResponse(rail(key, here if here in ORDER.by_key else "", ORDER.overview(load(request, key))))
