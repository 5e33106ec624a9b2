"""The booklet: every station in five steps and every term in one sentence; and one made-up job to look at."""

from fastapi import APIRouter, Request
from fastapi.responses import HTMLResponse, JSONResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.calculations import CALCULATIONS, examples
from uranograph.bench.station import Station
from uranograph.bench.terms import BY_KEY, TERMS, Term, found
from uranograph.charts.setups import setup_figure
from uranograph.charts.terms import term_figure
from uranograph.stations import ORDER
from uranograph.web.pages import NOT_WRITTEN, lead, render, shop_of, templates
from uranograph.web.routes.data import addresses

router = APIRouter(include_in_schema=False)
MAX_SEARCH = 80


def _words(station: Station) -> str:
    told = station.help
    return " ".join(
        (
            station.title,
            station.group,
            told.purpose,
            *told.needed,
            *told.steps,
            *(w for pair in told.wrong for w in pair),
            told.why,
        )
    )


def _of_term(term: Term) -> str:
    return " ".join((*term.writings, term.sentence))


@router.get("/help")
def booklet(request: Request, q: str = "", job: str = "") -> Response:
    """All of it, or what has every word that is looked for."""
    search = q[:MAX_SEARCH].strip()
    shown = [station for station in ORDER.stations if found(search, _words(station))]
    context = {
        "search": search,
        "shown": shown,
        "terms": [term for term in TERMS if found(search, _of_term(term))],
        "figures": term_figure,
        "set_up_figure": setup_figure,
        "back": job[:16],
        "station": None,
    }
    return render(request, "help.html", context)


@router.get("/help/terms.json")
def writings() -> Response:
    """How each term is written on pages, with its name."""
    told = {writing: term.key for term in TERMS for writing in term.writings}
    return JSONResponse(told, headers={"Cache-Control": "public, max-age=3600"})


@router.get("/help/terms/{key}")
def term(key: str) -> Response:
    """One term with its figure, for the pop-up card."""
    if key not in BY_KEY:
        return HTMLResponse("There is no such term.", 404)
    shown = {"term": BY_KEY[key], "figure": term_figure(key)}
    return HTMLResponse(
        templates.get_template("_term.html").render(shown), headers={"Cache-Control": "public, max-age=3600"}
    )


@router.get("/api")
def for_machines(request: Request, calc: str = "") -> Response:
    """A page to try the calculations, and where pages have their data."""
    context = {
        "calculations": list(CALCULATIONS.values()),
        "examples": examples(),
        "chosen": calc,
        "pages": [("/jobs/{key}.json", "A job file: all that was written, to be imported elsewhere"), *addresses()],
    }
    return render(request, "api.html", context)


@router.post("/example")
async def example(request: Request) -> Response:
    """Write one made-up job into the shop, to look at; a second time leads to the same."""
    return await run_in_threadpool(_example, request)


def _example(request: Request) -> Response:
    # Written once in the life of a shop: what it takes is loaded only then.
    from uranograph.demo.shop import one_job

    try:
        with shop_of(request).write() as session:
            key = one_job(session)
    except SQLAlchemyError:
        return HTMLResponse(NOT_WRITTEN, 503)
    return lead(request, f"/jobs/{key}/overview")
