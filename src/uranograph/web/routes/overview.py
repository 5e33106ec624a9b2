"""A job at a glance: every station, its state, and what waits for what."""

from collections.abc import Mapping
from types import MappingProxyType

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response

from uranograph.bench import house, instruments
from uranograph.bench.job import LIMITS_FORM, NOTE, Job
from uranograph.shop import shelving
from uranograph.stations import ORDER
from uranograph.web.bench_page import load
from uranograph.web.pages import attempt, fresh_token, rail, render, shop_of

router = APIRouter(include_in_schema=False)


@router.get("/jobs/{key}/overview")
def job_overview(request: Request, key: str) -> Response:
    return overview(request, load(request, key))


def overview(
    request: Request,
    job: Job,
    typed: Mapping[str, str] = MappingProxyType({}),
    errors: Mapping[str, str] = MappingProxyType({}),
    status: int = 200,
    message: str = "",
    keeping: bool = False,
    **more: str,
) -> Response:
    """Draw the page; with what was typed into one of its forms, where that cannot be kept."""
    key = job.key
    with shop_of(request).read() as session:
        shelf, gone_on = shelving.shelf_of(session, key), shelving.gone_on(session, key)
    limits = dict(latest.typed) if (latest := job.latest(LIMITS_FORM)) else {}
    findings = ORDER.overview(job)
    on_way = [each for each in ORDER.stations if each in ORDER.on_way(job) or findings[each.key].state != "not-begun"]
    context = {
        "job": job,
        "findings": findings,
        "station": None,
        "finding": None,
        "advice": ORDER.advice(job),
        "token": attempt(f"job {key}, its small chart", lambda: ORDER.token(job), None),
        "here": ORDER.where_it_stands(job)[0],
        "lines": on_way,
        "others": [each for each in ORDER.stations if each not in on_way],
        "way": ORDER.way_of(job),
        "job_notes": job.aside(ORDER.first.key, NOTE),
        "limits": house.LIMITS,
        "instruments": instruments.KINDS,
        "instruments_of_house": {each.kind: each.words() for each in instruments.instruments(job.house_values)},
        "limits_typed": dict(typed) if errors and not keeping else limits,
        "errors": errors,
        "message": message,
        **more,
        "keeping": keeping,
        "copy_token": fresh_token(),
        "shelf": shelf,
        "gone_on": gone_on,
        "of_house": {name: house.said(job.house_values, name, job.unit) for name in house.LIMITS},
    }
    return render(request, "overview.html", context, status)


@router.get("/jobs/{key}/rail")
def job_rail(request: Request, key: str, here: str = "") -> Response:
    """The stations of a job with their states as they are now, for a page whose own part came first."""
    job = load(request, key)
    return HTMLResponse(rail(job, here if here in ORDER.by_key else "", ORDER.overview(job)))
