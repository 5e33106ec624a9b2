"""The job list; new jobs; import and export; initials and day or night colors."""

from collections.abc import Iterator
from dataclasses import dataclass, fields
from functools import partial
from typing import Annotated
from urllib.parse import unquote

from fastapi import APIRouter, Form, Query, Request, UploadFile
from fastapi.responses import RedirectResponse, Response, StreamingResponse
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.finding import Finding
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.log import TypedForm, Written
from uranograph.bench.messages import refusal
from uranograph.bench.order import worst_finding
from uranograph.bench.station import Station
from uranograph.bench.workflows import KIND
from uranograph.charts.pen import Figure
from uranograph.core.errors import InvalidInput
from uranograph.engine.particulars import Particulars, particulars_of
from uranograph.shop import exchange, jobs, library, loading, shelving, whole
from uranograph.shop.loading import ListOrder
from uranograph.shop.shelving import Shelf
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.job_query import STATES, JobQuery
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
LIST_COOKIE = "uranograph_list"
LARGEST_FILE = 80_000_000
FIRST = ORDER.forms[FIRST_FORM]
SHELF_WORDS = {
    Shelf.BENCH: "On the bench",
    Shelf.UNSIGNED: "Not signed",
    Shelf.SIGNED: "Signed",
    Shelf.ARCHIVED: "Archived",
    Shelf.BIN: "Bin",
}
ORDER_WORDS = {
    ListOrder.NEWEST: "Newest first",
    ListOrder.NAME: "By name",
    ListOrder.CUSTOMER: "By customer",
    ListOrder.WANTED_BY: "By day wanted",
}
PAGE_SIZE = 25
# Number of jobs judged for the filter by finding, in list order: thousands would block the server.
JUDGED_AT_MOST = 96
EMPTY_WORDS = {
    Shelf.BENCH: "Nothing is on the bench.",
    Shelf.UNSIGNED: "Every job on the bench is signed.",
    Shelf.SIGNED: "No job on the bench is signed as it stands.",
    Shelf.ARCHIVED: "Nothing is archived.",
    Shelf.BIN: "The bin is empty.",
}


@router.get("/")
def job_list(request: Request, brought: Annotated[int, Query(ge=0, le=whole.MAX_JOBS)] = 0) -> Response:
    """The list as it is asked for; as it was asked for last where nothing is said."""
    asked = request.query_params
    known = asked.keys() & {each.name for each in fields(JobQuery)}
    query = (
        JobQuery.of(asked) if known or brought else JobQuery.remembered(unquote(request.cookies.get(LIST_COOKIE, "")))
    )
    message = f"{brought} job{'' if brought == 1 else 's'} brought in." if brought else ""
    response = _list(request, query, message)
    if known:
        remember(response, LIST_COOKIE, query.encoded)
    return response


@dataclass(frozen=True)
class ListedJob:
    """A job as the list shows it."""

    job: Job
    chart: Figure | None
    station: Station
    finding: Finding
    worst: Finding
    particulars: Particulars | None
    last: Written | TypedForm | None


def _list(request: Request, query: JobQuery, message: str = "", status: int = 200) -> Response:
    with shop_of(request).read() as session:
        counts = shelving.counts(session)
        total = None if query.q.strip() or query.who else counts[Shelf(query.shelf)]
        where, order = shelving.on(Shelf(query.shelf)), ListOrder(query.order)
        number, size = (1, JUDGED_AT_MOST) if query.stands else (query.page, PAGE_SIZE)
        found = loading.page(session, number, query.q, size, where, order, query.who, total)
    judged = [(job, worst_finding(ORDER.overview(job))) for job in found.jobs]
    page, pages = found.page, found.pages
    if query.stands:
        judged = [(job, worst) for job, worst in judged if _state_group(worst) == query.stands]
        pages = max(1, -(-len(judged) // PAGE_SIZE))
        page = min(max(1, query.page), pages)
    matching = len(judged) if query.stands else found.total
    on_page = judged[(page - 1) * PAGE_SIZE : page * PAGE_SIZE] if query.stands else judged
    context = {
        "cards": [_listed(job, worst) for job, worst in on_page],
        "query": query,
        "page": page,
        "pages": pages,
        "matching": matching,
        "looked_at": len(found.jobs),
        "total": found.total,
        "counts": counts,
        "message": message,
        "order_words": ORDER_WORDS,
        "states_words": STATES,
        "shelf_words": SHELF_WORDS,
        "empty_words": EMPTY_WORDS,
    }
    return render(request, "jobs.html", context, status)


def _listed(job: Job, worst: Finding) -> ListedJob:
    station, finding = ORDER.next_station(job)
    chart = attempt(f"job {job.key}, its small chart", partial(ORDER.thumbnail, job), None)
    last = max((*job.forms, *job.entries), key=lambda each: each.seq, default=None)
    return ListedJob(job, chart, station, finding, worst, particulars_of(job), last)


def _state_group(worst: Finding) -> str:
    """The group a job is listed under: out, in doubt, or nothing wrong."""
    return worst.state if worst.state in STATES else "well"


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
        return _list(request, JobQuery(), refusal(error), 422)
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
