"""The application: routes, static files, and the rules every answer keeps."""

from collections.abc import AsyncIterator, Awaitable, Callable
from contextlib import asynccontextmanager
from ipaddress import ip_address
from urllib.parse import urlsplit

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import HTMLResponse, JSONResponse, PlainTextResponse
from sqlalchemy.exc import SQLAlchemyError
from starlette.exceptions import HTTPException

from uranograph import __version__
from uranograph.bench import faults
from uranograph.instruments.bridge import Received
from uranograph.instruments.hub import Hub
from uranograph.shop import instrument_shelf, shelving
from uranograph.shop.database import Shop
from uranograph.shop.loading import NoSuchJob
from uranograph.web.limits import Bounded, Heads
from uranograph.web.pages import render
from uranograph.web.prefix import Prefixed
from uranograph.web.presence import Presence
from uranograph.web.routes import (
    alone,
    aside,
    bench,
    board,
    calc,
    collecting,
    data,
    help,
    house,
    instruments,
    jobs,
    live,
    outward,
    overview,
    practice,
    results,
    sheet,
    shelf,
    shelves,
    shop_page,
)
from uranograph.web.settings import Settings
from uranograph.web.static_files import FOLDER, VersionedFiles
from uranograph.web.together import Together
from uranograph.web.updates import UpdateCache

SAFE_METHODS = {"GET", "HEAD", "OPTIONS"}
POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)


def create_app(settings: Settings | None = None) -> FastAPI:
    """Build the application over a shop's file, which is migrated at start.

    Parameters
    ----------
    settings
        Where the file is; from the environment unless given.
    """
    settings = settings or Settings()

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        shop = Shop(settings.database)
        shop.migrate()
        _empty_bin(shop)
        app.state.shop, app.state.hub = shop, Hub()
        app.state.presence, app.state.received, app.state.together = Presence(), Received(), Together()
        app.state.collecting, app.state.updates = {}, UpdateCache()
        app.state.progress = live.ProgressCache()
        _read_instruments(app)
        yield
        app.state.hub.close()
        shop.close()

    app = FastAPI(title="Uranograph", version=__version__, lifespan=lifespan, docs_url=None, redoc_url=None)
    app.state.names = {
        "localhost",
        settings.host.lower(),
        *(name.strip().lower() for name in settings.names.split(",")),
    }
    app.middleware("http")(_keep_the_rules)
    app.add_middleware(Bounded)
    app.add_middleware(Prefixed, prefix=settings.prefix)
    app.add_middleware(Heads)
    app.add_exception_handler(Exception, _broken)
    app.add_exception_handler(RequestValidationError, _not_understood)
    app.add_exception_handler(NoSuchJob, _no_such_page)
    app.add_exception_handler(HTTPException, _http_error)
    app.add_exception_handler(SQLAlchemyError, _not_written)
    app.mount("/static", VersionedFiles(directory=FOLDER), name="static")
    app.router.routes.extend((*bench.AT_STATIONS, overview.OVERVIEW, calc.CALCULATE))
    for routes in (
        data,
        outward,
        jobs,
        shelves,
        shelf,
        results,
        house,
        shop_page,
        instruments,
        live,
        board,
        collecting,
        practice,
        help,
        sheet,
        overview,
        alone,
        aside,
        bench,
        calc,
    ):
        app.include_router(routes.router)
    app.openapi = lambda: calc.full_description(app)  # type: ignore[method-assign]
    return app


def _read_instruments(app: FastAPI) -> None:
    """Begin to read the shop's instruments. Where their list cannot be read, the shop opens all the same."""
    try:
        with app.state.shop.read() as session:
            app.state.hub.sync(instrument_shelf.definitions(session))
    except SQLAlchemyError as error:
        faults.note(error, "reading the list of instruments")


def _empty_bin(shop: Shop) -> None:
    """Let go of what was long in the bin. Where that cannot be now, the shop opens all the same."""
    try:
        with shop.read() as session:
            due = shelving.due(session)
        if due:
            with shop.write() as session:
                shelving.purge(session)
    except SQLAlchemyError as error:
        faults.note(error, "emptying the bin")


async def _keep_the_rules(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    if not _our_name(request):
        return PlainTextResponse("This address is not one of this shop's. Name it in URANOGRAPH_NAMES.", 421)
    if request.method not in SAFE_METHODS and not _same_origin(request):
        return PlainTextResponse("This was sent by another site and is not taken.", 403)
    response = await call_next(request)
    response.headers.setdefault("Content-Security-Policy", POLICY)
    if request.url.scheme == "https":
        response.raw_headers[:] = [
            (name, value + b"; Secure" if name == b"set-cookie" else value) for name, value in response.raw_headers
        ]
    response.headers["X-Content-Type-Options"] = "nosniff"
    response.headers["Referrer-Policy"] = "same-origin"
    return response


def _our_name(request: Request) -> bool:
    """Allow only IP addresses and configured host names, against DNS rebinding."""
    try:
        name = urlsplit(f"//{request.headers.get('host', '')}").hostname or ""
    except ValueError:
        return False
    if name in request.app.state.names:
        return True
    try:
        ip_address(name)
    except ValueError:
        return False
    return True


def _same_origin(request: Request) -> bool:
    origin = request.headers.get("origin")
    if origin is None:
        return request.headers.get("sec-fetch-site", "same-origin") in ("same-origin", "none")
    try:
        return urlsplit(origin).netloc == request.headers.get("host")
    except ValueError:
        return False


def _wants_json(request: Request) -> bool:
    path = request.url.path
    return path.startswith("/api/") or (path.endswith(".json") and request.method == "GET")


def _no_such_page(request: Request, error: Exception) -> Response:
    return _error_page(
        request, 404, "There is nothing here", "No job or page has this address. It may belong to another file."
    )


def _http_error(request: Request, error: Exception) -> Response:
    if not isinstance(error, HTTPException):
        raise error
    if error.status_code == 404:
        return _no_such_page(request, error)
    answer = _error_page(request, error.status_code, "This cannot be done", str(error.detail))
    answer.headers.update(error.headers or {})
    return answer


def _not_understood(request: Request, error: Exception) -> Response:
    if not isinstance(error, RequestValidationError):
        raise error
    first = error.errors()[0]
    where = str(first["loc"][-1])
    return _error_page(request, 422, "This cannot be read", f"{where}: {first['msg']}.", where)


def _broken(request: Request, error: Exception) -> Response:
    fault = faults.note(error, request.url.path)
    return _error_page(
        request,
        500,
        "This page could not be made",
        f"A fault of ours, {fault} in the log. Nothing of what is written is lost; the other pages still stand.",
    )


def _not_written(request: Request, error: Exception) -> Response:
    # A page swaps in a 503 rendered by a station; this one is only a notice.
    return _error_page(
        request,
        500 if request.headers.get("HX-Request") else 503,
        "Not written",
        "The shop's file could not be read or written just now. Nothing was changed; what you typed is still in the "
        "form. Check that the disk is not full and the file not locked, then try again.",
    )


def _error_page(request: Request, status: int, title: str, message: str, field: str = "") -> Response:
    if _wants_json(request):
        return JSONResponse({"error": {"field": field, "message": message}}, status)
    if request.headers.get("HX-Request") == "true":
        return HTMLResponse(f"{title}: {message}", status)
    return render(request, "told.html", {"title": title, "message": message}, status)
