"""The shop's page: its name and mark, its backup, and where its limits and library are."""

import tempfile
from datetime import datetime
from pathlib import Path
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import FileResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.background import BackgroundTask
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import UploadFile

from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.shop import letterhead, own_log
from uranograph.shop.database import copy_database
from uranograph.web.bench_page import typed_in
from uranograph.web.pages import BY_COOKIE, NOT_WRITTEN, lead, remember, render, shop_of, who

router = APIRouter(include_in_schema=False)
# After so many days without a backup, the page says so in its first line.
BACKUP_DAYS = 7


@router.get("/shop")
def shop_page(request: Request) -> Response:
    return _page(request)


def _page(request: Request, status: int = 200, **more: Any) -> Response:
    with shop_of(request).read() as session:
        head, backup = letterhead.letterhead(session), own_log.last_backup(session)
    days = (datetime.now(backup.at.tzinfo) - backup.at).days if backup else None
    context: dict[str, Any] = {
        "head": head,
        "backup": backup,
        "days": days,
        "overdue": days is None or days > BACKUP_DAYS,
        "typed": {letterhead.NAME: head.name, letterhead.ADDRESS: head.address},
        "errors": {},
    }
    return render(request, "shop.html", context | more, status)


@router.post("/shop")
async def set_letterhead(request: Request) -> Response:
    form = await request.form()
    upload = form.get(letterhead.MARK)
    data = await upload.read(letterhead.MAX_MARK_BYTES + 1) if isinstance(upload, UploadFile) else b""
    return await run_in_threadpool(_set, request, typed_in(form), data)


def _set(request: Request, form: dict[str, str], picture: bytes) -> Response:
    by = form.get("by") or who(request)
    try:
        with shop_of(request).write() as session:
            letterhead.set_letterhead(
                session,
                form.get(letterhead.NAME, ""),
                form.get(letterhead.ADDRESS, ""),
                by,
                picture,
                "without_mark" in form,
            )
    except InvalidInput as error:
        return _page(request, 422, typed=form, errors={error.field: refusal(error)})
    except SQLAlchemyError:
        return _page(request, 503, typed=form, message=NOT_WRITTEN)
    response = lead(request, "/shop")
    if by.strip():
        remember(response, BY_COOKIE, by.strip().upper())
    return response


@router.post("/shop/backup")
def back_up(request: Request) -> Response:
    """The shop's file as it is at this moment; it is written down that it was taken, by whom and when."""
    shop = shop_of(request)
    folder = tempfile.TemporaryDirectory(prefix="uranograph-backup-")
    copy = Path(folder.name) / "shop.db"
    try:
        with shop.write() as session:
            own_log.backed_up(session, who(request))
        copy_database(shop.path, copy)
    except (SQLAlchemyError, OSError):
        folder.cleanup()
        return _page(
            request, 503, message="No backup was made: the file could not be copied just now. Is the disk full?"
        )
    name = f"uranograph-{datetime.now().astimezone():%Y%m%d-%H%M}.db"
    return FileResponse(
        copy, media_type="application/vnd.sqlite3", filename=name, background=BackgroundTask(folder.cleanup)
    )
