"""The page of the shop's instruments: where each is, what its lines mean, and what they say now."""

from typing import Annotated, Any
from urllib.parse import quote

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse, PlainTextResponse, Response
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.instruments import capture, lines
from uranograph.instruments.bridge import BRIDGE, Received
from uranograph.instruments.definition import UNIT_OF, Definition
from uranograph.shop import instrument_shelf
from uranograph.web.bench_page import form_of
from uranograph.web.pages import NOT_WRITTEN, lead, render, shop_of, who

router = APIRouter(include_in_schema=False)
MAX_LINES = 500


class BridgedLine(BaseModel):
    """One line that a bridge read: its number there, when by its own clock, and the line."""

    model_config = ConfigDict(extra="forbid")

    n: Annotated[int, Field(ge=0)]
    t: Annotated[float, Field(ge=0, le=1e12)] | None = None
    raw: Annotated[str, Field(max_length=lines.MAX_LINE)]


class BridgedLines(BaseModel):
    """Lines of one bridge, in order; `run` is new each time a bridge begins to count."""

    model_config = ConfigDict(extra="forbid")

    name: Annotated[str, Field(pattern=BRIDGE)]
    run: Annotated[str, Field(max_length=40)]
    lines: Annotated[list[BridgedLine], Field(max_length=MAX_LINES)]


@router.get("/instruments")
def instruments(request: Request, edit: str = "", removed: str = "") -> Response:
    return _page(request, edit=edit, removed=removed)


def _page(request: Request, status: int = 200, edit: str = "", removed: str = "", **more: Any) -> Response:
    with shop_of(request).read() as session:
        kept = instrument_shelf.stored(session)
        gone = instrument_shelf.as_it_was(session, removed) if removed else {}
    chosen = next((each for each in kept if each.name == edit), None)
    context = {
        "kept": kept,
        "live": {each.name: each for each in request.app.state.hub.live()},
        "patterns": lines.PATTERNS,
        "fields": Definition,
        "typed": dict(chosen.typed) if chosen else gone or {"pattern": "number"},
        "errors": {},
        "chosen": chosen.name if chosen else more.get("typed", {}).get("instead_of", ""),
        "message": f"{removed} is off the list. Keep puts it back as it was." if gone else "",
    }
    return render(request, "instruments.html", context | more, status)


@router.post("/instruments")
async def keep(request: Request) -> Response:
    return await run_in_threadpool(_keep, request, await form_of(request))


def _keep(request: Request, form: dict[str, str]) -> Response:
    filled = Definition.read(form)
    if filled.value is None:
        return _page(request, 422, typed=form, errors=filled.errors)
    try:
        with shop_of(request).write() as session:
            by, before = form.get("by") or who(request), form.get("instead_of", "")
            if before and before != form["name"].strip():
                instrument_shelf.remove(session, before, by)
            instrument_shelf.keep(session, form, by)
            wanted = instrument_shelf.definitions(session)
    except InvalidInput as error:
        return _page(request, 422, typed=form, errors={error.field: refusal(error)})
    except SQLAlchemyError:
        return _page(request, 503, typed=form, message=NOT_WRITTEN)
    request.app.state.hub.sync(wanted)
    return lead(request, "/instruments")


@router.post("/instruments/remove")
async def remove(request: Request) -> Response:
    return await run_in_threadpool(_remove, request, await form_of(request))


def _remove(request: Request, form: dict[str, str]) -> Response:
    try:
        with shop_of(request).write() as session:
            instrument_shelf.remove(session, form.get("name", ""), form.get("by") or who(request))
            wanted = instrument_shelf.definitions(session)
    except InvalidInput as error:
        return _page(request, 422, errors={error.field: refusal(error)}, message=refusal(error))
    except SQLAlchemyError:
        return _page(request, 503, message=NOT_WRITTEN)
    request.app.state.hub.sync(wanted)
    return lead(request, f"/instruments?removed={quote(form['name'])}")


@router.post("/instruments/zero")
async def zero(request: Request) -> Response:
    """Let an instrument count as zero where it stands now."""
    return await run_in_threadpool(_zero, request, await form_of(request))


def _zero(request: Request, form: dict[str, str]) -> Response:
    name, hub = form.get("name", "")[:40], request.app.state.hub
    try:
        shown = next((each.value for each in hub.live() if each.name == name), None)
        found = hub.definitions((name,))
        if shown is None or not found:
            raise InvalidInput("name", "nothing-to-zero", typed=name)
        with shop_of(request).write() as session:
            typed = next(dict(each.typed) for each in instrument_shelf.stored(session) if each.name == name)
            typed["zero"] = f"{shown + found[0].zero:.6g}"
            instrument_shelf.keep(session, typed, form.get("by") or who(request))
            wanted = instrument_shelf.definitions(session)
    except InvalidInput as error:
        return _page(request, 422, errors={error.field: refusal(error)}, message=refusal(error))
    except SQLAlchemyError:
        return _page(request, 503, message=NOT_WRITTEN)
    hub.sync(wanted)
    return lead(request, "/instruments")


@router.post("/instruments/try")
async def understood(request: Request) -> Response:
    """What a sample line comes to, by the pattern as it is typed."""
    form = await form_of(request)
    typed = {**form, "name": form.get("name") or "try", "url": form.get("url") or "world:1"}
    filled = Definition.read(typed)
    if filled.value is None:
        return _page(request, 422, typed=form, errors=filled.errors)
    found = lines.parse(filled.value.pattern, form.get("sample", "")[: lines.MAX_LINE])
    values = [(each, filled.value.measured(each)) for each in found]
    words = "; ".join(
        f"{each.channel + ': ' if each.channel else ''}{value:g} {UNIT_OF[_unit(filled.value)]}"
        if value is not None
        else f"{each.channel or 'it'}: not of this instrument"
        for each, value in values
    )
    said = words or "Nothing is understood of this line."
    return _page(request, typed=form, understood=said, sample=form.get("sample", ""))


def _unit(definition: Definition) -> str:
    return {"length": "mm", "angle": "deg", "temperature": "C", "torque": "N m"}[definition.kind]


@router.post("/instruments/lines")
def bridged(request: Request, sent: BridgedLines) -> Response:
    """Lines that a bridge read elsewhere: each counts once; answers the number of the last that was taken."""
    received: Received = request.app.state.received
    hub = request.app.state.hub
    now, when = hub.clock(), {line.n: line.t for line in sent.lines}
    for n, raw in received.fresh(sent.name, sent.run, [(line.n, line.raw) for line in sent.lines]):
        told = when[n]
        hub.feed(f"bridge:{sent.name}", raw, None if told is None else received.at_s(sent.name, sent.run, told, now))
    return JSONResponse({"taken": received.last(sent.name, sent.run)})


@router.get("/instruments/{name}/capture")
def captured(request: Request, name: str) -> Response:
    """The last lines of an instrument as they came, as JSON Lines."""
    points = request.app.state.hub.points_since(name, 0.0)
    return PlainTextResponse(capture.written((each.at_s, each.raw) for each in points), media_type="application/jsonl")
