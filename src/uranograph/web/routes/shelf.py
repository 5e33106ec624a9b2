"""The library page: cards, drives, wheels and lists, kept for other jobs."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.messages import refusal
from uranograph.bench.order import storable
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.shop import library, library_csv
from uranograph.shop.loading import NoSuchJob
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.pages import BY_COOKIE, NOBODYS, NOT_WRITTEN, lead, remember, render, shop_of, who
from uranograph.web.tables import csv_table

router = APIRouter(include_in_schema=False)
# What each kind is called, as its form is.
TITLES = {kind: ORDER.forms[kind].title.capitalize() for kind in library.KINDS}


def _kind(kind: str) -> str:
    if kind not in library.KINDS:
        raise NoSuchJob(kind)
    return kind


@router.get("/library")
def library_page(request: Request) -> Response:
    return _page(request)


def _page(request: Request, status: int = 200, **more: Any) -> Response:
    with shop_of(request).read() as session:
        shelves = {kind: library.shelf(session, kind) for kind in library.KINDS}
    context = {"shelves": shelves, "titles": TITLES, "errors": {}, "typed": {}, "at": "", "message": ""}
    return render(request, "library.html", {**context, **more}, status)


@router.get("/library/{kind}.csv")
def export(request: Request, kind: str) -> Response:
    with shop_of(request).read() as session:
        columns, lines = library_csv.table(session, _kind(kind))
    return csv_table(f"library-{kind}.csv", columns, lines)


@router.post("/library/{kind}/import")
async def take_in(request: Request, kind: str) -> Response:
    return await run_in_threadpool(_take_in, request, _kind(kind), await form_of(request))


def _take_in(request: Request, kind: str, form: dict[str, str]) -> Response:
    unit = form.get("unit", "mm")
    try:
        with shop_of(request).write() as session:
            count = library_csv.take_in(
                session,
                kind,
                form.get("csv", ""),
                unit if unit in tuple(LengthUnit) else "mm",
                who(request) or form.get("by", ""),
            )
    except InvalidInput as error:
        return _page(request, 422, typed=form, errors={error.field: refusal(error)}, at=kind)
    except SQLAlchemyError:
        return _page(request, 503, typed=form, message=NOT_WRITTEN, at=kind)
    return _page(request, message=f"{TITLES[kind]}: {count} kept.", at=kind)


@router.get("/library/{kind}/new")
def new_page(request: Request, kind: str) -> Response:
    return _item(request, _kind(kind), "", {})


@router.get("/library/{kind}/{item}")
def item_page(request: Request, kind: str, item: int) -> Response:
    with shop_of(request).read() as session:
        found = next((each for each in library.shelf(session, _kind(kind)) if each.id == item), None)
    if found is None:
        raise NoSuchJob(str(item))
    return _item(request, kind, found.name, dict(found.typed))


def _item(request: Request, kind: str, name: str, typed: dict[str, str], status: int = 200, **more: Any) -> Response:
    form = ORDER.forms[kind]
    context = {"form": form, "kind": kind, "name": name, "typed": typed, "titles": TITLES, "errors": {}, "message": ""}
    return render(request, "library_item.html", {**context, **more}, status)


@router.post("/library/{kind}")
async def keep(request: Request, kind: str) -> Response:
    return await run_in_threadpool(_keep, request, _kind(kind), await form_of(request))


def _keep(request: Request, kind: str, form: dict[str, str]) -> Response:
    name, before, by = form.get("library_name", ""), form.get("before", ""), form.get("by") or who(request)
    filled = ORDER.forms[kind].read(form, NOBODYS)
    if not storable(ORDER.forms[kind], filled.value, filled.errors.values()):
        return _item(request, kind, name, form, 422, errors=filled.errors, before=before)
    try:
        with shop_of(request).write() as session:
            library.keep(session, kind, name, form, by)
            if before and before != name.strip() and not form.get("copy"):
                library.remove(session, kind, before, by)
    except InvalidInput as error:
        return _item(request, kind, name, form, 422, errors={error.field: refusal(error)}, before=before)
    except SQLAlchemyError:
        return _item(request, kind, name, form, 503, message=NOT_WRITTEN, before=before)
    response = lead(request, f"/library/{kind}/new" if form.get("next") else f"/library#{kind}")
    if form.get("by", "").strip():
        remember(response, BY_COOKIE, by)
    return response


@router.post("/library/{kind}/remove")
async def remove(request: Request, kind: str) -> Response:
    return await run_in_threadpool(_remove, request, _kind(kind), await form_of(request))


def _remove(request: Request, kind: str, form: dict[str, str]) -> Response:
    try:
        with shop_of(request).write() as session:
            library.remove(session, kind, form.get("library_name", ""), form.get("by") or who(request))
    except InvalidInput as error:
        return _page(request, 422, message=refusal(error), at=kind)
    except SQLAlchemyError:
        return _page(request, 503, message=NOT_WRITTEN, at=kind)
    return lead(request, f"/library#{kind}")
