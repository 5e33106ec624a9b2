"""A job at a glance: every station, its state, and what waits for what."""

from collections.abc import Mapping
from functools import lru_cache
from types import MappingProxyType

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, Response
from markupsafe import Markup
from starlette.routing import Route

from uranograph.bench import instruments, shop_limits
from uranograph.bench.job import LIMITS_FORM, Job
from uranograph.bench.log import Note
from uranograph.engine import particulars
from uranograph.shop import shelving
from uranograph.stations import ORDER
from uranograph.web.bench_page import load
from uranograph.web.pages import fresh_token, rail, render, shop_of, templates

# Pairs of name and text.
Words = tuple[tuple[str, str], ...]
router = APIRouter(include_in_schema=False)


def job_overview(request: Request) -> Response:
    return overview(request, load(request, request.path_params["key"]))


OVERVIEW = Route("/jobs/{key}/overview", job_overview, methods=["GET"])


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
        shelf, gone_on = shelving.shelf_of(session, key)
    limits = dict(latest.typed) if (latest := job.latest(LIMITS_FORM)) else {}
    findings, way = ORDER.overview(job), ORDER.in_workflow(job)
    on_way = [each for each in ORDER.stations if each in way or findings[each.key].state != "not-begun"]
    limits_typed = dict(typed) if errors and not keeping else limits
    context = {
        "job": job,
        "findings": findings,
        "station": None,
        "finding": None,
        "advice": ORDER.advice(job),
        "here": ORDER.next_station(job)[0],
        "lines": on_way,
        "others": [each for each in ORDER.stations if each not in on_way],
        "way": ORDER.workflow_of(job),
        "job_notes": job.annotations(ORDER.first.key, Note),
        "limits_typed": limits_typed,
        "limit_fields": _limit_fields(job, limits_typed, errors),
        "particulars_typed": dict(stated.typed) if (stated := job.latest(particulars.KIND)) else {},
        "particulars_fields": tuple(particulars.Particulars.fields()),
        "errors": errors,
        "message": message,
        **more,
        "keeping": keeping,
        "copy_token": fresh_token(),
        "shelf": shelf,
        "gone_on": gone_on,
    }
    return render(request, "overview.html", context, status)


def _limit_fields(job: Job, typed: Mapping[str, str], errors: Mapping[str, str]) -> Markup:
    """The fields for limits and instruments of one job; most jobs have none, and then they are the same for all."""
    of_house = tuple((name, shop_limits.limit_text(job.shop_values, name, job.unit)) for name in shop_limits.LIMITS)
    of_instruments = tuple((each.kind, each.words()) for each in instruments.instruments(job.shop_values))
    if typed or errors:
        return _drawn_fields(of_house, of_instruments, typed, errors)
    return _blank_fields(of_house, of_instruments)


@lru_cache(maxsize=64)
def _blank_fields(of_house: Words, of_instruments: Words) -> Markup:
    return _drawn_fields(of_house, of_instruments, {}, {})


def _drawn_fields(
    of_house: Words, of_instruments: Words, typed: Mapping[str, str], errors: Mapping[str, str]
) -> Markup:
    shown = {"of_house": dict(of_house), "of_instruments": dict(of_instruments), "typed": typed, "errors": errors}
    known = {"limits": shop_limits.LIMITS, "instruments": instruments.KINDS}
    return Markup(templates.env.get_template("_limit_fields.html").render(shown | known))


@router.get("/jobs/{key}/rail")
def job_rail(request: Request, key: str, here: str = "") -> Response:
    """The stations of a job with their states as they are now, for a page whose own part came first."""
    job = load(request, key)
    return HTMLResponse(rail(job, here if here in ORDER.by_key else "", ORDER.overview(job)))
