"""The job list; new jobs; import and export; initials and day or night colors."""

from collections.abc import Iterator
from functools import partial
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request, UploadFile
from fastapi.responses import RedirectResponse, Response, StreamingResponse
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.finding import Finding
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.messages import refusal
from uranograph.bench.order import worst_finding
from uranograph.bench.workflows import KIND
from uranograph.core.errors import InvalidInput
from uranograph.engine.particulars import particulars_of
from uranograph.shop import exchange, jobs, library, loading, shelving, whole
from uranograph.shop.shelving import Shelf
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.pages import (
    BY_COOKIE,
    LIGHT_COOKIE,
    LIGHTS,
    NOBODYS,
    NOT_WRITTEN,
    attempt,
    lead,
    remember,
    render,
    shop_of,
    who,
)

router = APIRouter(include_in_schema=False)
LARGEST_FILE = 80_000_000
FIRST = ORDER.forms[FIRST_FORM]
SHELF_WORDS = {
    Shelf.BENCH: "On the bench",
    Shelf.UNSIGNED: "Not signed",
    Shelf.SIGNED: "Signed",
    Shelf.ARCHIVED: "Archived",
    Shelf.BIN: "Bin",
}
# Filters of the list by worst finding.
STANDS = {"out": "Something out", "unsure": "Cannot tell", "well": "Nothing wrong"}
# Number of jobs judged for the filter, in list order: thousands would block the server.
JUDGED_AT_MOST = 96
EMPTY_WORDS = {
    Shelf.BENCH: "Nothing is on the bench.",
    Shelf.UNSIGNED: "Every job on the bench is signed.",
    Shelf.SIGNED: "No job on the bench is signed as it stands.",
    Shelf.ARCHIVED: "Nothing is archived.",
    Shelf.BIN: "The bin is empty.",
}


@router.get("/")
def job_list(
    request: Request,
    page: int = 1,
    q: str = "",
    shelf: str = "",
    order: str = "",
    stands: str = "",
    brought: Annotated[int, Query(ge=0, le=whole.MAX_JOBS)] = 0,
) -> Response:
    message = f"{brought} job{'' if brought == 1 else 's'} brought in." if brought else ""
    return _list(request, page, q[:120], message, shelf=shelf, order=order, stands=stands)


def _list(
    request: Request,
    number: int = 1,
    search: str = "",
    message: str = "",
    status: int = 200,
    shelf: str = "",
    order: str = "",
    stands: str = "",
) -> Response:
    stands = stands if stands in STANDS else ""
    on = Shelf(shelf) if shelf in tuple(Shelf) else Shelf.BENCH
    with shop_of(request).read() as session:
        counts = shelving.counts(session)
        total = None if search.strip() else counts[on]
        where, by_name = shelving.on(on), order == "name"
        if stands:
            found = loading.page(session, 1, search, JUDGED_AT_MOST, where, by_name, total)
        else:
            found = loading.page(session, number, search, where=where, by_name=by_name, total=total)
    judged = [(job, worst_finding(ORDER.overview(job))) for job in found.jobs]
    cards = []
    for job, worst in judged:
        if stands not in ("", _state_group(worst)):
            continue
        station, finding = ORDER.next_station(job)
        token = attempt(f"job {job.key}, its small chart", partial(ORDER.thumbnail, job), None)
        cards.append(
            {
                "job": job,
                "token": token,
                "station": station,
                "finding": finding,
                "worst": worst,
                "customer": _customer(job),
            }
        )
    context = {"cards": cards, "found": found, "search": search, "message": message, "counts": counts, "shelf": on}
    context |= {"stands": stands, "stands_words": STANDS, "judged": len(judged)}
    context |= {"by_name": order == "name", "shelf_words": SHELF_WORDS, "empty_words": EMPTY_WORDS}
    return render(request, "jobs.html", context, status)


def _customer(job: Job) -> str:
    stated = particulars_of(job)
    return stated.customer if stated else ""


def _state_group(worst: Finding) -> str:
    """The group a job is listed under: out, in doubt, or nothing wrong."""
    return worst.state if worst.state in STANDS else "well"


@router.get("/jobs/new")
def new_job(request: Request) -> Response:
    typed = {"unit": "inch", "rotation": "clockwise", "valvetrain": "pushrod", "lift_at": "lifter", "by": who(request)}
    return _new(request, typed, {})


def _new(
    request: Request, typed: dict[str, str], errors: dict[str, str], status: int = 200, message: str = ""
) -> Response:
    read = FIRST.read(typed, NOBODYS).value
    figure = ORDER.first.preview(read, True)
    context = {
        "station": ORDER.first,
        "typed": typed,
        "errors": errors,
        "read": read,
        "figure": figure,
        "message": message,
    }
    return render(request, "new.html", context, status)


@router.post("/jobs/new")
async def begin_job(request: Request) -> Response:
    return await run_in_threadpool(_begin, request, await form_of(request))


def _begin(request: Request, form: dict[str, str]) -> Response:
    errors = dict(FIRST.read(form, NOBODYS).errors)
    if not form.get("title", "").strip():
        errors["title"] = "Give the job a name, such as the engine and its number."
    try:
        by = jobs.initials(form.get("by", ""))
    except InvalidInput as error:
        errors["by"] = refusal(error)
    if form.get(KIND, "") not in ("", *ORDER.workflows):
        errors[KIND] = "Choose what you are doing."
    if errors:
        return _new(request, form, errors, 422)
    try:
        with shop_of(request).write() as session:
            key = jobs.begin(session, form["title"], by, form.get("token", ""))
            jobs.save_form(session, key, FIRST.kind, form, by)
            if ORDER.workflow_form and form.get(KIND):
                jobs.save_form(session, key, KIND, form, by)
            for form_of in ORDER.forms.values():
                if form_of.for_house and (usual := library.default_of(session, form_of.for_house)):
                    jobs.save_form(session, key, form_of.kind, {form_of.for_house: usual}, by)
    except InvalidInput as error:
        return _new(request, form, {error.field: refusal(error)}, 422)
    except SQLAlchemyError:
        return _new(request, form, {}, 503, NOT_WRITTEN)
    with shop_of(request).read() as session:
        onward = ORDER.neighbors(ORDER.first, loading.load(session, key))[1]
    response = lead(request, f"/jobs/{key}/{onward.key if onward else ORDER.first.key}")
    remember(response, BY_COOKIE, by)
    return response


@router.post("/jobs/import")
async def import_job(request: Request, file: UploadFile) -> Response:
    content = await file.read(LARGEST_FILE + 1)
    return await run_in_threadpool(_import, request, content)


def _import(request: Request, content: bytes) -> Response:
    try:
        if len(content) > LARGEST_FILE:
            raise InvalidInput("file", "job-file-too-large")
        if whole.holds_several(content):
            settings, several = whole.read(content)
            with shop_of(request).write() as session:
                count = whole.bring_in(session, settings, several)
            return RedirectResponse(f"/?brought={count}", 303)
        kept = exchange.read_job(content)
        with shop_of(request).write() as session:
            key = exchange.import_job(session, kept)
    except InvalidInput as error:
        return _list(request, message=refusal(error), status=422)
    return RedirectResponse(f"/jobs/{key}/overview", 303)


@router.get("/shop.jsonl")
def export_shop(request: Request) -> Response:
    """Every job and setting of the shop, a line each."""

    def written() -> Iterator[str]:
        with shop_of(request).read() as session:
            for line in whole.lines(session):
                yield f"{line}\n"

    headers = {"Content-Disposition": 'attachment; filename="uranograph-shop.jsonl"'}
    return StreamingResponse(written(), media_type="application/jsonl", headers=headers)


@router.get("/jobs/{key}.json")
def export_job(request: Request, key: str) -> Response:
    with shop_of(request).read() as session:
        text = exchange.file_of(session, key)
    headers = {"Content-Disposition": f'attachment; filename="uranograph-{key}.json"'}
    return Response(text, media_type="application/json", headers=headers)


@router.post("/bench/light")
def set_light(request: Request, light: Annotated[str, Form()], back: Annotated[str, Form()] = "/") -> Response:
    response = RedirectResponse(_inside(back), 303)
    remember(response, LIGHT_COOKIE, light if light in LIGHTS else LIGHTS[0])
    return response


@router.post("/bench/who")
def set_who(request: Request, by: Annotated[str, Form()], back: Annotated[str, Form()] = "/") -> Response:
    response = RedirectResponse(_inside(back), 303)
    try:
        remember(response, BY_COOKIE, jobs.initials(by))
    except InvalidInput:
        response.delete_cookie(BY_COOKIE)
    return response


def _inside(path: str) -> str:
    """Only ever lead back to a page of this application."""
    return path if path.startswith("/") and not path.startswith(("//", "/\\")) else "/"
