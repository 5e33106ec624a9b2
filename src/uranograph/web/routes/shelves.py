"""A job's name and place: renamed, copied for the next engine of its make, archived, thrown away, brought back."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.shop import shelving
from uranograph.shop.shelving import Shelf
from uranograph.web.bench_page import form_of, load
from uranograph.web.pages import NOT_WRITTEN, lead, shop_of, who
from uranograph.web.routes.overview import overview

router = APIRouter(include_in_schema=False)


@router.post("/jobs/{key}/rename")
async def rename(request: Request, key: str) -> Response:
    return await run_in_threadpool(_rename, request, key, await form_of(request))


def _rename(request: Request, key: str, form: dict[str, str]) -> Response:
    title = form.get("title", "")
    try:
        with shop_of(request).write() as session:
            shelving.rename(session, key, title, who(request))
    except (InvalidInput, SQLAlchemyError) as error:
        return _refused(request, key, error, {}, typed_title=title)
    return lead(request, f"/jobs/{key}/overview")


@router.post("/jobs/{key}/copy")
async def copy(request: Request, key: str) -> Response:
    return await run_in_threadpool(_copy, request, key, await form_of(request))


def _copy(request: Request, key: str, form: dict[str, str]) -> Response:
    title = form.get("copy_title", "")
    try:
        with shop_of(request).write() as session:
            new = shelving.copy(session, key, title, form.get("by", "") or who(request), form.get("token", ""))
    except (InvalidInput, SQLAlchemyError) as error:
        return _refused(request, key, error, {"title": "copy_title"}, typed_copy=title)
    return lead(request, f"/jobs/{new}/overview")


@router.post("/jobs/{key}/put/{shelf}")
def move_to_shelf(request: Request, key: str, shelf: str) -> Response:
    try:
        with shop_of(request).write() as session:
            shelving.move_to(session, key, shelf, by=who(request))
    except (InvalidInput, SQLAlchemyError) as error:
        return _refused(request, key, error, {})
    return lead(request, f"/jobs/{key}/overview" if shelf == Shelf.BENCH else "/")


def _refused(request: Request, key: str, error: Exception, names: dict[str, str], **typed: Any) -> Response:
    """The overview with errors beside their fields."""
    job = load(request, key)
    if isinstance(error, InvalidInput):
        errors = {names.get(error.field, error.field): refusal(error, job.unit)}
        return overview(request, job, errors=errors, status=422, keeping=True, **typed)
    return overview(request, job, status=503, message=NOT_WRITTEN, keeping=True, **typed)
