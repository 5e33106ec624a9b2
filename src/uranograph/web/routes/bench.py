"""The bench page: one station of one job, its form or its readings."""

import re
from collections.abc import Mapping
from typing import Any
from urllib.parse import urlencode

from fastapi import APIRouter, Request
from fastapi.responses import RedirectResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.convertors import Convertor, register_url_convertor
from starlette.datastructures import UploadFile
from starlette.routing import Route

from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.messages import refusal
from uranograph.bench.order import storable
from uranograph.bench.station import Page, Station
from uranograph.bench.tables import NotSure, decoded
from uranograph.core.errors import InvalidInput, Missing
from uranograph.shop import jobs, library, loading
from uranograph.shop.spreadsheets import SIGNATURE, first_sheet
from uranograph.stations import ORDER
from uranograph.web.bench_page import Id, clockwise, describing, form_of, load, shelved, show, station_of, typed_in
from uranograph.web.by_instrument import taken_by
from uranograph.web.pages import (
    BY_COOKIE,
    NOBODYS,
    NOT_WRITTEN,
    attempt,
    is_fragment,
    lead,
    remember,
    render,
    shop_of,
    who,
)
from uranograph.web.routes.overview import overview
from uranograph.web.together import both


class StationKey(Convertor[str]):
    """A station's key in an address, so that its page is found before all others are looked through."""

    regex = "|".join(map(re.escape, ORDER.by_key))

    def convert(self, value: str) -> str:
        return value

    def to_string(self, value: str) -> str:
        return value


register_url_convertor("station", StationKey())
router = APIRouter(include_in_schema=False)
_WHOLE = re.compile("[0-9]{1,9}")
_SIDE_TYPED = re.compile(r"(.*?[\d½¼¾][^\sA-Za-z]*(?:\s*deg)?)\s*(btdc|atdc|bbdc|abdc)\.?", re.IGNORECASE)
LARGEST_FILE = 8_000_000


@router.get("/jobs/{key}")
def job_page(request: Request, key: str) -> Response:
    load(request, key)
    return RedirectResponse(f"/jobs/{key}/overview", 303)


@router.post("/sheets/{kind}/preview")
async def preview_new(request: Request, kind: str) -> Response:
    return await run_in_threadpool(_preview, request, None, kind, await form_of(request))


@router.post("/jobs/{key}/{kind}/preview")
async def preview(request: Request, key: str, kind: str) -> Response:
    form = await form_of(request)
    return await run_in_threadpool(lambda: _preview(request, load(request, key), kind, form))


def _preview(request: Request, job: Job | None, kind: str, form: dict[str, str]) -> Response:
    station = station_of(kind)
    if station.form is None or (job is None and station is not ORDER.first):
        raise loading.NoSuchJob(kind)
    filled = station.form.read(form, job or NOBODYS)
    # Empty fields are not errors while typing.
    errors = {name: message for name, message in filled.errors.items() if form.get(name, "").strip()}
    context = {
        "form": form,
        "station": station,
        "errors": errors,
        "read": filled.value,
        "figure": station.preview(filled.value, clockwise(job)),
        "live": True,
        **station.form_context(filled.value),
    }
    return render(request, "preview.html", context)


def station_page(request: Request) -> Response:
    return show(request, load(request, request.path_params["key"]), ORDER.by_key[request.path_params["station"]])


async def write(request: Request) -> Response:
    key, station = request.path_params["key"], ORDER.by_key[request.path_params["station"]]
    form = await form_of(request)
    return await run_in_threadpool(_write_form if station.form else _record, request, key, station, form)


# The most frequent routes, registered first as plain routes.
AT_STATIONS = (
    Route("/jobs/{key}/{station:station}", station_page, methods=["GET"]),
    Route("/jobs/{key}/{station:station}", write, methods=["POST"]),
)


@router.post("/jobs/{key}/{name}")
def no_such_station(key: str, name: str) -> Response:
    raise loading.NoSuchJob(name)


@router.get("/jobs/{key}/{name}")
def extra_page(request: Request, key: str, name: str) -> Response:
    if name not in ORDER.pages:
        raise loading.NoSuchJob(name)
    return _page(request, load(request, key), name, ORDER.pages[name])


def _page(request: Request, job: Job, name: str, page: Page) -> Response:
    """An additional page of a job; it stays empty if it cannot be computed."""
    empty: Mapping[str, Any] | None = {}
    found = attempt(f"job {job.key}, {name}", lambda: page.context(job, request.query_params), empty)
    if found is None:
        raise loading.NoSuchJob(job.key)
    context = {"job": job, "findings": ORDER.overview(job), "station": None, "finding": None, **found}
    return render(request, page.part if is_fragment(request) or not page.whole else page.whole, context)


@router.post("/jobs/{key}/sheet/{kind}")
async def write_side_form(request: Request, key: str, kind: str) -> Response:
    """Forms that belong to a station without being one, such as the drive and the tolerance."""
    form = await form_of(request)
    return await run_in_threadpool(_write_side_form, request, key, kind, form)


def _write_side_form(request: Request, key: str, kind: str, form: dict[str, str]) -> Response:
    station = ORDER.of_form.get(kind)
    if station is None or station.form is ORDER.forms[kind]:
        raise loading.NoSuchJob(kind)
    job, asked = load(request, key), ORDER.forms[kind]
    errors = asked.read(form, job).errors
    if errors and asked.leads_to == "overview":
        return overview(request, job, form, errors, 422)
    again: dict[str, Any] = {"typed": form}
    if asked is station.setup:
        again |= {"setup_typed": form, "editing": True}
    elif asked.shelved:
        again |= describing(request, job, asked) | {"typed": form, "editing": True}
    if errors:
        return show(request, job, station, 422, **again, errors=errors)
    by = form.get("by") or who(request)
    try:
        with shop_of(request).write() as session:
            jobs.save_form(session, key, kind, form, by, _seen(form))
            if form.get("for_house") and asked.for_house:
                library.set_default(session, asked.for_house, form.get(asked.for_house, ""), by)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except jobs.Changed as error:
        return show(request, load(request, key), station, 409, **again, message=str(error))
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return _signed(lead(request, f"/jobs/{key}/{asked.leads_to or station.key}"), form)


@router.post("/jobs/{key}/library/{kind}")
async def keep_in_library(request: Request, key: str, kind: str) -> Response:
    return await run_in_threadpool(_keep, request, key, kind, await form_of(request))


def _keep(request: Request, key: str, kind: str, form: dict[str, str]) -> Response:
    if kind not in library.KINDS:
        raise loading.NoSuchJob(kind)
    job = load(request, key)
    station = ORDER.of_form[kind]
    again: dict[str, Any] = {"typed": form, "library_open": True}
    if station.form is not ORDER.forms[kind]:
        again |= describing(request, job, ORDER.forms[kind]) | {"typed": form, "setup_typed": form, "editing": True}
    else:
        filled = station.form.read(form, job)
        again |= {"errors": filled.errors, "read": filled.value, **station.form_context(filled.value)}
    try:
        with shop_of(request).write() as session:
            library.keep(session, kind, form.get("library_name", ""), form, form.get("by") or who(request))
    except InvalidInput as error:
        return show(request, job, station, 422, **again | {"errors": {error.field: refusal(error, job.unit)}})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    again |= {"shelf": shelved(request, kind)["shelf"]}
    name = form.get("library_name", "").strip()
    return show(
        request, job, station, **again, message=f"Kept in the library as “{name}”; the job has it once you go on."
    )


def _write_form(request: Request, key: str, station: Station, form: dict[str, str]) -> Response:
    job = load(request, key)
    if station.form is None:
        raise Missing("station.form")
    filled = station.form.read(form, job)
    again = {"typed": form, "errors": filled.errors, "read": filled.value, **station.form_context(filled.value)}
    again["figure"] = station.preview(filled.value, clockwise(job))
    if not storable(station.form, filled.value, filled.errors.values()):
        return show(request, job, station, 422, **again)
    try:
        with shop_of(request).write() as session:
            jobs.save_form(session, key, station.form.kind, form, form.get("by") or who(request), _seen(form))
    except InvalidInput as error:
        return show(
            request, job, station, 422, **again | {"errors": {**filled.errors, error.field: refusal(error, job.unit)}}
        )
    except jobs.Changed as error:
        fresh = load(request, key)
        return show(
            request, fresh, station, 409, **again, message=f"{error} Yours is still here: look, then save again."
        )
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    after = ORDER.neighbors(station, job)[1]
    onward = station if after is None or (filled.errors and not form.get("anyway")) else after
    return _signed(lead(request, f"/jobs/{key}/{onward.key}"), form)


def _record(request: Request, key: str, station: Station, form: dict[str, str]) -> Response:
    job = load(request, key)
    by = both(form.get("by") or who(request), form.get("with", "").strip().upper())
    again: dict[str, Any] = {"typed": form}
    query: dict[str, str] = {}
    try:
        if station.has("move") and _chosen_already(request, form):
            # Submitted twice: the first already wrote the choice, and its list is gone.
            return _after_write(request, key, station, form, {})
        if station.has("move"):
            act = station.move(job, form)
            with shop_of(request).write() as session:
                jobs.move(session, key, act, by, form.get("token") or None, _seen(form))
        else:
            entry = _typed(job, station, form)
            entry = taken_by(request.app.state.hub, entry, form, by_wheel=station.reads_degree_wheel)
            query = station.repeat_query(entry, form)
            again["query"] = query
            if not form.get("sure") and (doubt := station.doubtful(job, entry)):
                raise doubt
            with shop_of(request).write() as session:
                jobs.record(session, key, entry, by, form.get("token") or None, _seen(form))
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except jobs.Changed as error:
        fresh = load(request, key)
        if form.get("by_itself"):
            # Two pages that take a reading by stillness took the same one: it is there.
            return show(request, fresh, station, query={"recorded": "1"})
        phrase = f"{error} What you typed is still here: look at the readings, then record it if it is still wanted."
        if station.has("move"):
            phrase = f"{error} Look at what was written, then choose again."
        return show(request, fresh, station, 409, **again, message=phrase)
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    kept = {name: value for name, value in query.items() if name in station.carried_query}
    return _after_write(request, key, station, form, kept)


def _chosen_already(request: Request, form: Mapping[str, str]) -> bool:
    with shop_of(request).read() as session:
        return jobs.taken(session, form.get("token"))


def _typed(job: Job, station: Station, form: Mapping[str, str]) -> Entry:
    """The reading as it was typed into its slot."""
    text, side = form.get("text", "").strip(), form.get("side") or None
    if station.reads_degree_wheel and (named := _SIDE_TYPED.fullmatch(text)):
        # A side that is typed behind its figure overrides the one that was chosen.
        text, side = named[1], named[2].lower()
    entry = Entry(
        station=station.key,
        slot=form.get("slot", ""),
        text=text,
        side=side if station.reads_degree_wheel else None,
        approach="backward" if form.get("approach") == "backward" and station.reads_degree_wheel else "forward",
        second=form.get("second", "").strip() or None,
        unit=job.unit,
    )
    entry = station.as_taken(job, entry)
    return station.label_entry(job, entry) if station.has_slot(entry.slot) else entry


def _after_write(
    request: Request, key: str, station: Station, form: dict[str, str], kept: Mapping[str, str]
) -> Response:
    """A page that stays gets its changed part; any other is led there, so that a reload writes nothing twice."""
    if not is_fragment(request):
        return _signed(RedirectResponse(f"/jobs/{key}/{station.key}", 303), form)
    job = load(request, key)
    return _signed(
        show(request, job, station, query={**kept, **_read_on(station, form)}, by=form.get("by") or who(request)), form
    )


def _read_on(station: Station, form: Mapping[str, str]) -> dict[str, str]:
    """What the page knows after a reading: that one was recorded, and whether more are to be asked for though all is read."""
    place = form.get("slot", "").rpartition(".")[2]
    goes_on = place == "before" or (place != "after" and not station.reads_degree_wheel)
    return {"recorded": "1", **({"reading": "1"} if form.get("reading") and goes_on else {})}


def _signed(response: Response, form: dict[str, str]) -> Response:
    if form.get("by", "").strip():
        remember(response, BY_COOKIE, jobs.initials(form["by"]))
    return response


def _seen(form: Mapping[str, str]) -> int | None:
    text = form.get("seen", "")
    return int(text) if _WHOLE.fullmatch(text) else None


@router.post("/jobs/{key}/{station_key}/void/{reading_id}")
async def void(request: Request, key: str, station_key: str, reading_id: Id) -> Response:
    return await run_in_threadpool(_void, request, key, station_of(station_key), reading_id, await form_of(request))


def _void(request: Request, key: str, station: Station, reading_id: int, form: dict[str, str]) -> Response:
    job = load(request, key)
    reading = next((entry for entry in job.entries if entry.id == reading_id), None)
    reason = form.get("other", "").strip() or form.get("reason", "")
    again: dict[str, Any] = {"voiding": reading, "typed": form}
    try:
        with shop_of(request).write() as session:
            jobs.void(session, key, reading_id, reason, form.get("by") or who(request))
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return _after_write(request, key, station, form, {})


@router.post("/jobs/{key}/{station_key}/{name}")
async def readings_from_file(request: Request, key: str, station_key: str, name: str) -> Response:
    station = station_of(station_key)
    if name not in station.files:
        raise loading.NoSuchJob(name)
    form = await request.form(max_part_size=LARGEST_FILE + 1)
    upload = form.get("file")
    content = await upload.read(LARGEST_FILE + 1) if isinstance(upload, UploadFile) else b""
    return await run_in_threadpool(_from_file, request, key, station, name, typed_in(form), content)


def _known(request: Request, token: str | None) -> bool:
    """Whether this form was taken already: the same button pressed twice is one file."""
    with shop_of(request).read() as session:
        return jobs.taken(session, token)


def _text_of(content: bytes) -> str:
    return first_sheet(content) if content.startswith(SIGNATURE) else decoded(content)


def _from_file(
    request: Request, key: str, station: Station, name: str, form: dict[str, str], content: bytes
) -> Response:
    job = load(request, key)
    query = {"method": name, "lobe": form.get("lobe", "")}
    again: dict[str, Any] = {"query": query, "csv": form.get("csv", ""), "csv_open": True}
    try:
        if len(content) > LARGEST_FILE:
            raise InvalidInput("csv", "readings-file-too-large")
        text = _text_of(content) if content else form.get("csv", "")
        if not _known(request, form.get("token")):
            entries = station.files[name](job, form, text)
            with shop_of(request).write() as session:
                by, token = form.get("by") or who(request), form.get("token") or None
                jobs.record_all(session, key, entries, by, token=token)
    except NotSure as asking:
        wrong = {asking.error.field: refusal(asking.error, job.unit)} if asking.error else {}
        return show(request, job, station, 422, **{**again, **asking.shown, "csv": asking.text}, errors=wrong)
    except InvalidInput as error:
        return show(request, job, station, 422, **again, errors={error.field: refusal(error, job.unit)})
    except jobs.Changed as error:
        return show(request, load(request, key), station, 409, **again, message=str(error))
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return lead(request, f"/jobs/{key}/{station.key}?{urlencode(query)}")
