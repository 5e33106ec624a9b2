"""Passing a station over with a reason, saying that something was changed, notes and pictures, what is accepted."""

import re
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import UploadFile

from uranograph.bench.acts import ACTS
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.shop import asides, jobs
from uranograph.shop.lengths import MAX_LENGTH
from uranograph.stations import ORDER
from uranograph.web.bench_page import Id, form_of, load, show, station_of, typed_in
from uranograph.web.pages import BY_COOKIE, NOT_WRITTEN, done_words, lead, remember, shop_of, who

router = APIRouter(include_in_schema=False)
# A change that no act names: it invalidates this station's readings only.
OTHER = "other"
UNDONE = "undone"
_SEQ = re.compile("[0-9]{1,9}")


@router.post("/jobs/{key}/{station_key}/skip")
async def skip(request: Request, key: str, station_key: str) -> Response:
    return await run_in_threadpool(_skip, request, key, station_key, await form_of(request))


def _skip(request: Request, key: str, station_key: str, form: dict[str, str]) -> Response:
    job, station = load(request, key), station_of(station_key)
    by = form.get("by") or who(request)
    findings = ORDER.overview(job)
    here = ORDER.stations.index(station)
    rest = [
        each.key
        for each in ORDER.stations[here:]
        if each.group == station.group and findings[each.key].state in ("not-begun", "skipped")
    ]
    chosen = rest if form.get("rest") else [station.key]
    again: dict[str, Any] = {"typed": form, "skipping": True}
    try:
        with shop_of(request).write() as session:
            asides.skip(session, key, chosen, form.get("reason", ""), by)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    last = ORDER.stations[max(ORDER.stations.index(station_of(each)) for each in chosen or [station.key])]
    onward = ORDER.neighbors(last, job)[1]
    response = lead(request, f"/jobs/{key}/{onward.key if onward else 'overview'}")
    remember(response, BY_COOKIE, by.strip().upper())
    return response


@router.post("/jobs/{key}/{station_key}/undo/{reading_id}")
async def undo(request: Request, key: str, station_key: str, reading_id: Id) -> Response:
    return await run_in_threadpool(_undo, request, key, station_key, reading_id, await form_of(request))


def _undo(request: Request, key: str, station_key: str, reading_id: int, form: dict[str, str]) -> Response:
    """Undo the last entry; pressed twice it still undoes only that one."""
    station = station_of(station_key)
    try:
        with shop_of(request).write() as session:
            jobs.void(session, key, reading_id, UNDONE, form.get("by") or who(request))
    except InvalidInput as error:
        job = load(request, key)
        return show(request, job, station, 422, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, load(request, key), station, 503, message=NOT_WRITTEN)
    job = load(request, key)
    gone = next((each for each in job.entries if each.id == reading_id), None)
    words = f"Undone: {done_words(gone)}. It stands struck through in the log." if gone else ""
    return show(request, job, station, message=words)


@router.post("/jobs/{key}/{station_key}/anew")
async def change(request: Request, key: str, station_key: str) -> Response:
    return await run_in_threadpool(_change, request, key, station_key, await form_of(request))


def _change(request: Request, key: str, station_key: str, form: dict[str, str]) -> Response:
    job, station = load(request, key), station_of(station_key)
    by = form.get("by") or who(request)
    kind, what, token = form.get("act", OTHER), form.get("what", ""), form.get("token") or None
    again: dict[str, Any] = {"typed": form, "acting": True}
    try:
        with shop_of(request).write() as session:
            if kind == OTHER:
                asides.change(session, key, station.key, what, by, token)
            else:
                scope = form.get("view") or form.get("since") or ""
                details = {name: form.get(f"act_{name}", "") for name in (ACTS[kind].details if kind in ACTS else ())}
                asides.act(session, key, station.key, kind, what, by, token, scope=scope, details=details)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    response = lead(request, f"/jobs/{key}/{station.key}")
    remember(response, BY_COOKIE, by.strip().upper())
    return response


@router.post("/jobs/{key}/{station_key}/note")
async def add_note(request: Request, key: str, station_key: str) -> Response:
    form = await request.form()
    upload = form.get("photo")
    data = await upload.read(asides.LARGEST_PHOTO + 1) if isinstance(upload, UploadFile) else b""
    return await run_in_threadpool(_add_note, request, key, station_key, typed_in(form), data)


def _add_note(request: Request, key: str, station_key: str, form: dict[str, str], data: bytes) -> Response:
    """A note in free words, a picture, or both."""
    job, station = load(request, key), station_of(station_key)
    again: dict[str, Any] = {"typed": form, "noting": form.get("about", ""), "note_open": True}
    words, about = form.get("words", ""), form.get("about", "")
    by, token = form.get("by") or who(request), form.get("token") or ""
    try:
        with shop_of(request).write() as session:
            if words.strip() or not data:
                seq = int(about) if _SEQ.fullmatch(about) else None
                asides.note(session, key, station.key, words, by, seq, f"{token}n" if token else None)
            if data:
                caption = words.strip()[: MAX_LENGTH["text"]]
                asides.attach(session, key, station.key, caption, data, by, f"{token}p" if token else None)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    response = lead(request, f"/jobs/{key}/{'overview' if form.get('back') == 'overview' else station.key}")
    remember(response, BY_COOKIE, by.strip().upper())
    return response


@router.post("/jobs/{key}/{station_key}/accept")
async def accept(request: Request, key: str, station_key: str) -> Response:
    return await run_in_threadpool(_accept, request, key, station_key, await form_of(request))


def _accept(request: Request, key: str, station_key: str, form: dict[str, str]) -> Response:
    job, station = load(request, key), station_of(station_key)
    by = form.get("by") or who(request)
    again: dict[str, Any] = {"typed": form, "accepting": True}
    try:
        with shop_of(request).write() as session:
            asides.accept(session, key, station.key, form.get("because", ""), by, form.get("token") or None)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    response = lead(request, f"/jobs/{key}/{station.key}")
    remember(response, BY_COOKIE, by.strip().upper())
    return response


@router.get("/jobs/{key}/photos/{reading_id}")
def photo(request: Request, key: str, reading_id: Id) -> Response:
    with shop_of(request).read() as session:
        kind, data = asides.photo(session, key, reading_id)
    headers = {"Cache-Control": "private, max-age=86400, immutable"}
    if kind == asides.CAPTURE:
        headers["Content-Disposition"] = f'attachment; filename="{key}-{reading_id}.jsonl"'
    return Response(data, media_type=kind, headers=headers)
