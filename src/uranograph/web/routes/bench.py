"""The bench page: one station of one job, its sheet or its readings."""

import re
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import RedirectResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool
from starlette.datastructures import UploadFile

from uranograph.bench import adjust, card, degree, drive, engine, events, rules, sweeps, tdc, train, tries, wheel
from uranograph.bench.job import Entry, Job
from uranograph.bench.pairs import has_slot
from uranograph.bench.place import KEY as DEGREE
from uranograph.bench.place import LOBES
from uranograph.bench.stations import BY_KEY, SHEET_OF, STATIONS, Station, overview
from uranograph.bench.typed import Sheet
from uranograph.core.errors import Impossible
from uranograph.core.phase import Events, move
from uranograph.core.quantities import parse_length
from uranograph.core.wheel import Turn
from uranograph.shop import jobs, library
from uranograph.web import figures
from uranograph.web.bench_page import Id, describing_drive, form_of, load, read_sheet, show, station_of
from uranograph.web.pages import BY_COOKIE, NOT_WRITTEN, attempt, is_fragment, lead, remember, render, shop_of, who

router = APIRouter(include_in_schema=False)
FURTHEST_WHAT_IF_DEG = 15.0
_WHOLE = re.compile("[0-9]{1,9}")
LARGEST_CSV = 1_000_000
# What a station goes on with after a reading; the rest it works out itself.
KEPT_AFTER = {tdc.KEY: ("drop",), DEGREE: ("method", "step", "direction")}


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
    if not station.sheet_fields or (job is None and kind != "engine"):
        raise jobs.NoSuchJob(kind)
    sheet = read_sheet(kind, form, job)
    clockwise = job is None or job.rotation is not Turn.COUNTERCLOCKWISE
    # What is still empty is not wrong yet.
    errors = {name: message for name, message in sheet.errors.items() if form.get(name, "").strip()}
    context = {
        "kind": kind,
        "form": form,
        "station": station,
        "errors": errors,
        "read": sheet.value,
        "figure": figures.preview_figure(kind, sheet.value, clockwise),
        "sheets": {"engine": engine, "card": card, "wheel": wheel, "train": train},
        "judged": train.judged(sheet.value) if kind == train.KEY and sheet.value else None,
        "live": True,
    }
    return render(request, "preview.html", context)


@router.get("/jobs/{key}/what-if")
def what_if(request: Request, key: str, intake: float = 0.0, exhaust: float | None = None) -> Response:
    job = load(request, key)
    start = attempt(f"job {key}, what if", lambda: _events_now(job), None)
    context: dict[str, Any] = {"job": job, "start": start, "findings": overview(job), "station": None, "finding": None}
    apart = job.engine is not None and job.engine.separate_cams
    intake_deg = _within(intake)
    exhaust_deg = _within(exhaust or 0.0) if apart else intake_deg
    context |= {"apart": apart, "intake_deg": intake_deg, "exhaust_deg": exhaust_deg, "reach": FURTHEST_WHAT_IF_DEG}
    if start:
        context["moved"] = move(start, intake_deg, exhaust_deg)
        lobes = attempt(f"job {key}, what if", lambda: figures.what_if_lobes(job, intake_deg, exhaust_deg, start), ())
        context["figure"] = figures.cycle_chart(lobes, "What if")
    return render(request, "what_if_parts.html" if is_fragment(request) else "what_if.html", context)


def _within(advance_deg: float) -> float:
    if advance_deg != advance_deg:
        return 0.0
    return max(-FURTHEST_WHAT_IF_DEG, min(FURTHEST_WHAT_IF_DEG, advance_deg))


def _events_now(job: Job) -> Events | None:
    if job.card is None or job.card.events is None:
        return None
    return degree.expected_events(tries.at_position(job)) or job.card.events


@router.get("/jobs/{key}/lift-line")
def lift_line(request: Request, key: str, lift: str = "") -> Response:
    job = load(request, key)
    try:
        at = parse_length(lift, job.unit)
    except Impossible:
        at = sweeps.check_lift(job)
    view = tries.at_position(job)
    found = {lobe: sweeps.events_at(of, at) for lobe in LOBES if (of := sweeps.swept(view, lobe))}
    context = {"figure": figures.sweep_figure(job, at), "lift_mm": at, "found": found, "unit": job.unit}
    return render(request, "lift_line.html", context)


@router.get("/jobs/{key}/{station_key}")
def station_page(request: Request, key: str, station_key: str) -> Response:
    return show(request, load(request, key), station_of(station_key))


@router.post("/jobs/{key}/sheet/{kind}")
async def write_side_sheet(request: Request, key: str, kind: str) -> Response:
    """Drive and tolerance: sheets that belong to a station without being one."""
    form = await form_of(request)
    return await run_in_threadpool(_write_side_sheet, request, key, kind, form)


def _write_side_sheet(request: Request, key: str, kind: str, form: dict[str, str]) -> Response:
    readers: dict[str, Any] = {
        "drive": lambda typed, job: drive.read(typed, job.unit),
        "rules": lambda typed, _: rules.read(typed),
    }
    setups = {each.setup.kind: each for each in STATIONS if each.setup}
    if kind not in readers and kind not in setups:
        raise jobs.NoSuchJob(kind)
    job = load(request, key)
    station = setups[kind] if kind in setups else BY_KEY[SHEET_OF[kind]]
    if station.setup:
        readers[kind] = lambda typed, job: station.setup.read(typed, job.unit)
    errors = readers[kind](form, job).errors
    again: dict[str, Any] = {"typed": form}
    if station.setup:
        again |= {"setup_typed": form, "editing": True}
    if kind == "drive":
        again |= describing_drive(job, request) | {"typed": form}
    if errors:
        return show(request, job, station, 422, **again, errors=errors)
    by = form.get("by") or who(request)
    try:
        with shop_of(request).write() as session:
            jobs.save_sheet(session, key, kind, form, by, _seen(form))
            if kind == "rules" and form.get("for_house"):
                library.set_house(session, "tolerance", form.get("tolerance", ""), by)
    except Impossible as error:
        return show(request, job, station, 422, **again, errors={error.field: error.told(job.unit)})
    except jobs.Changed as error:
        return show(request, load(request, key), station, 409, **again, message=str(error))
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return _signed(lead(request, f"/jobs/{key}/{station.key}"), form)


@router.post("/jobs/{key}/library/{kind}")
async def keep_in_library(request: Request, key: str, kind: str) -> Response:
    return await run_in_threadpool(_keep, request, key, kind, await form_of(request))


def _keep(request: Request, key: str, kind: str, form: dict[str, str]) -> Response:
    if kind not in library.KINDS:
        raise jobs.NoSuchJob(kind)
    job = load(request, key)
    station = BY_KEY[adjust.KEY if kind == "drive" else kind]
    latest = job.latest(kind)
    try:
        with shop_of(request).write() as session:
            library.keep(
                session,
                kind,
                form.get("library_name", ""),
                latest.typed if latest else {},
                form.get("by") or who(request),
            )
    except Impossible as error:
        return show(request, job, station, 422, errors={error.field: error.told(job.unit)}, library_open=True)
    except SQLAlchemyError:
        return show(request, job, station, 503, message=NOT_WRITTEN)
    return lead(request, f"/jobs/{key}/{station.key}")


@router.post("/jobs/{key}/degree/sweep")
async def sweep_from_file(request: Request, key: str) -> Response:
    form = await request.form()
    upload = form.get("file")
    content = await upload.read(LARGEST_CSV + 1) if isinstance(upload, UploadFile) else b""
    fields = {name: value for name, value in form.items() if isinstance(value, str)}
    return await run_in_threadpool(_sweep_from_file, request, key, fields, content)


def _known(request: Request, token: str | None) -> bool:
    """Whether this form was taken already: the same button pressed twice is one sweep."""
    with shop_of(request).read() as session:
        return jobs.taken(session, token)


def _sweep_from_file(request: Request, key: str, form: dict[str, str], content: bytes) -> Response:
    job, station = load(request, key), BY_KEY[DEGREE]
    lobe = form.get("lobe", "") if form.get("lobe") in LOBES else "intake"
    choice = {"method": "sweep", "lobe": lobe}
    again: dict[str, Any] = {"choice": choice, "csv": form.get("csv", ""), "csv_open": True}
    try:
        if len(content) > LARGEST_CSV:
            raise Impossible("csv", "This file is larger than 1 MB, and no sweep is.")
        try:
            text = content.decode("utf-8-sig") if content else form.get("csv", "")
        except UnicodeDecodeError as error:
            raise Impossible("csv", "This file is not text.") from error
        entries = sweeps.read_csv(text, lobe, job.next_number(DEGREE, sweeps.KIND[lobe]))
        if not _known(request, form.get("token")):
            sweeps.refuse_repeats(tries.at_position(job), lobe, entries)
        with shop_of(request).write() as session:
            by, token = form.get("by") or who(request), form.get("token") or None
            jobs.record_all(session, key, entries, by, token=token)
    except Impossible as error:
        return show(request, job, station, 422, **again, errors={error.field: error.told(job.unit)})
    except jobs.Changed as error:
        return show(request, load(request, key), station, 409, **again, message=str(error))
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return lead(request, f"/jobs/{key}/degree?method=sweep&lobe={lobe}")


@router.post("/jobs/{key}/adjust")
async def choose(request: Request, key: str) -> Response:
    return await run_in_threadpool(_choose, request, key, await form_of(request))


def _choose(request: Request, key: str, form: dict[str, str]) -> Response:
    job, station = load(request, key), BY_KEY[adjust.KEY]
    cam, _, number = form.get("choice", "").partition(":")
    try:
        entry = adjust.entry_for(job, cam, int(number) if _WHOLE.fullmatch(number) else -1)
        with shop_of(request).write() as session:
            jobs.record(session, key, entry, form.get("by") or who(request), form.get("token") or None, _seen(form))
    except Impossible as error:
        return show(request, job, station, 422, errors={error.field: error.told(job.unit)})
    except jobs.Changed as error:
        return show(request, load(request, key), station, 409, message=f"{error} Look at the tries, then choose again.")
    except SQLAlchemyError:
        return show(request, job, station, 503, message=NOT_WRITTEN)
    return _after_write(request, load(request, key), station, form, {})


@router.post("/jobs/{key}/{station_key}")
async def write(request: Request, key: str, station_key: str) -> Response:
    station = station_of(station_key)
    form = await form_of(request)
    if station.sheet_fields:
        return await run_in_threadpool(_write_sheet, request, key, station, form)
    return await run_in_threadpool(_record, request, key, station, form)


def _write_sheet(request: Request, key: str, station: Station, form: dict[str, str]) -> Response:
    job = load(request, key)
    sheet = read_sheet(station.key, form, job)
    again = {"typed": form, "errors": sheet.errors, "read": sheet.value}
    again["figure"] = figures.preview_figure(station.key, sheet.value, job.rotation is not Turn.COUNTERCLOCKWISE)
    if sheet.value is None or not _only_conflicts(sheet):
        return show(request, job, station, 422, **again)
    try:
        with shop_of(request).write() as session:
            jobs.save_sheet(session, key, station.key, form, form.get("by") or who(request), _seen(form))
    except Impossible as error:
        return show(
            request, job, station, 422, **again | {"errors": {**sheet.errors, error.field: error.told(job.unit)}}
        )
    except jobs.Changed as error:
        fresh = load(request, key)
        return show(
            request, fresh, station, 409, **again, message=f"{error} Yours is still here: look, then save again."
        )
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    here = STATIONS.index(station)
    onward = station if sheet.errors else STATIONS[here + 1]
    return _signed(lead(request, f"/jobs/{key}/{onward.key}"), form)


def _only_conflicts(sheet: Sheet[Any]) -> bool:
    """A card that contradicts itself is kept as it is; any other fault is mended first."""
    conflicts = sheet.value.card.conflicts if isinstance(sheet.value, card.SpecCard) else []
    return set(sheet.errors.values()) <= {conflict.message for conflict in conflicts}


def _record(request: Request, key: str, station: Station, form: dict[str, str]) -> Response:
    job = load(request, key)
    by = form.get("by") or who(request)
    entry = Entry(
        station=station.key,
        slot=form.get("slot", ""),
        text=form.get("text", "").strip(),
        side=None if station.takes else form.get("side") or None,
        approach="backward" if form.get("approach") == "backward" and not station.takes else "forward",
        drop=form.get("drop", "").strip() or None,
        unit=job.unit,
    )
    if station.note and has_slot(station.key, entry.slot):
        entry = replace(entry, note=station.note(job, entry))
    choice = _choice_of(entry, form)
    again: dict[str, Any] = {"typed": form, "choice": choice}
    try:
        with shop_of(request).write() as session:
            jobs.record(session, key, entry, by, form.get("token") or None, _seen(form))
    except Impossible as error:
        return show(request, job, station, 422, **again, errors={error.field: error.told(job.unit)})
    except jobs.Changed as error:
        fresh = load(request, key)
        told = f"{error} What you typed is still here: look at the readings, then record it if it is still wanted."
        return show(request, fresh, station, 409, **again, message=told)
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    kept = {name: value for name, value in choice.items() if name in KEPT_AFTER.get(station.key, ("method",))}
    return _after_write(request, load(request, key), station, form, kept)


def _choice_of(entry: Entry, form: Mapping[str, str]) -> dict[str, str]:
    """What the form was about, so that it is drawn again for the same thing."""
    kind = entry.slot.split(".")[0]
    lobe = kind.split("-")[-1]
    method = form.get("method") or kind
    return {
        "method": method,
        "lobe": lobe if lobe in LOBES else "",
        "drop": entry.drop or "",
        "event": kind if kind in events.KINDS else "",
        "step": form.get("step", ""),
        "item": form.get("item", ""),
        "direction": entry.approach if kind in events.KINDS else "",
    }


def _after_write(
    request: Request, job: Job, station: Station, form: dict[str, str], kept: Mapping[str, str]
) -> Response:
    """A page that stays gets its changed part; any other is led there, so that a reload writes nothing twice."""
    if not is_fragment(request):
        return _signed(RedirectResponse(f"/jobs/{job.key}/{station.key}", 303), form)
    return _signed(show(request, job, station, choice=kept, by=form.get("by") or who(request)), form)


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
    reading = next((r for r in job.readings if r.id == reading_id), None)
    reason = form.get("other", "").strip() or form.get("reason", "")
    again = {"voiding": reading, "typed": form}
    try:
        with shop_of(request).write() as session:
            jobs.void(session, key, reading_id, reason, form.get("by") or who(request))
    except Impossible as error:
        return show(request, job, station, 422, **again, errors={error.field: error.told(job.unit)})
    except SQLAlchemyError:
        return show(request, job, station, 503, **again, message=NOT_WRITTEN)
    return _after_write(request, load(request, key), station, form, {})
