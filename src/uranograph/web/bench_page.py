"""View model of the bench page: one station of one job, its form or its readings."""

from collections.abc import Mapping
from typing import Annotated, Any

from fastapi import Path, Request
from fastapi.responses import Response
from starlette.datastructures import FormData

from uranograph.bench import faults
from uranograph.bench.acts import ACTS, PARTS, WAYS
from uranograph.bench.checks import PLACE
from uranograph.bench.finding import Finding, Verdict
from uranograph.bench.forms import Form
from uranograph.bench.job import Job
from uranograph.bench.log import Acceptance, Picture, Reading, Skip, Written
from uranograph.bench.order import storable
from uranograph.bench.station import Station, Suggested, ViewState
from uranograph.core.errors import Missing
from uranograph.core.plain import plain
from uranograph.core.wheel import Turn
from uranograph.practice import scene
from uranograph.practice import session as practice
from uranograph.practice.drawing_parts import DIAL_ON
from uranograph.shop import jobs, library, loading
from uranograph.stations import ORDER
from uranograph.web.pages import is_fragment, render, shop_of
from uranograph.web.panel import panel_of

# Primary-key type of SQLite rows.
Id = Annotated[int, Path(ge=1, le=2**63 - 1)]
STRIP_LENGTH = 12


def station_of(key: str) -> Station:
    """The station of an address.

    Raises
    ------
    NoSuchJob
        When there is none.
    """
    if key not in ORDER.by_key:
        raise loading.NoSuchJob(key)
    return ORDER.by_key[key]


def load(request: Request, key: str) -> Job:
    """A job, read from the shop's file."""
    with shop_of(request).read() as session:
        return loading.load(session, key)


def typed_in(form: FormData) -> dict[str, str]:
    """Return the submitted form as text, without control characters and files."""
    return {name: plain(value) for name, value in form.items() if isinstance(value, str)}


async def form_of(request: Request) -> dict[str, str]:
    """Return the submitted form of a request."""
    return typed_in(await request.form())


def show(
    request: Request,
    job: Job,
    station: Station,
    status: int = 200,
    query: Mapping[str, str] | None = None,
    **more: Any,
) -> Response:
    """Draw the bench at a station: the whole page, or its changed part for a page that stays.

    What cannot be drawn is told in its place, with the readings below it to be voided.
    """
    try:
        return _bench_page(request, job, station, status, query, **more)
    except loading.NoSuchJob:
        raise
    except Exception as error:
        fault = faults.note(error, f"job {job.key}, station {station.key}")
        context = _frame(request, job, station) | {"fault": fault, "errors": more.get("errors", {})}
        return render(request, "broken.html", context, status)


def _frame(request: Request, job: Job, station: Station) -> dict[str, Any]:
    """Context around a station's panel: rail, readings, skipped questions, pictures."""
    # The panel is rendered first; the rail loads results of other stations itself.
    findings, holds = ORDER.last_known(job, station) if is_fragment(request) else (ORDER.overview(job), True)
    before, after = ORDER.neighbors(station, job)
    standing = job.active_readings(station.key)
    attached = job.annotations(station.key, Picture)
    context: dict[str, Any] = {
        "job": job,
        "station": station,
        "findings": findings,
        "rail_holds": holds,
        "finding": findings[station.key],
        "before": before,
        "after": after,
        "errors": {},
        "typed": {},
        "message": "",
        "unit": job.unit,
        "reasons": station.void_reasons,
        "rear": request.query_params.get("end") == "rear",
        "skip": job.skipped(station.key),
        "skipping": request.query_params.get("skip") == "1",
        "photos": [each for each in attached if not each.is_capture],
        "captures": [each for each in attached if each.is_capture],
        "accepted": job.annotations(station.key, Acceptance),
        "noting": request.query_params.get("note", ""),
        "strip_length": 5000 if request.query_params.get("all") else STRIP_LENGTH,
        "lines": _strip(job, station),
        "answered_again": _answered_again(standing),
        "acts": [ACTS[kind] for kind in station.acts],
        "act_details": _act_details(job, station),
        "acting": request.query_params.get("done") == "1",
        "last": standing[-1] if standing else None,
        "undoable": jobs.last_done(job),
    }
    if void := request.query_params.get("void"):
        beside = (entry for entry in job.entries if entry.beside and entry.void is None and not isinstance(entry, Skip))
        at_hand = (*standing, *beside)
        context["voiding"] = next((r for r in at_hand if str(r.id) == void), None)
    return context


def _act_details(job: Job, station: Station) -> list[tuple[str, str, dict[str, str], list[str]]]:
    """Detail fields of acts: name, label, choices if any, and the acts that take the field."""
    labels: tuple[tuple[str, str, dict[str, str]], ...] = (
        ("of", "What", PARTS),
        ("gear", "Which gear", {}),
        ("teeth", "Teeth", {}),
        ("way", "Which way", WAYS),
        ("cam", "Which cam", ORDER.cams(job)),
    )
    found = [
        (name, label, choices, [k for k in station.acts if name in ACTS[k].details]) for name, label, choices in labels
    ]
    return [each for each in found if each[3] and (each[0] != "cam" or len(each[2]) > 1)]


def _answered_again(standing: list[Reading]) -> frozenset[int]:
    """Answers that a later one to the same question replaced: they are kept, struck through."""
    newest = {reading.spot.kind: reading.id for reading in standing if reading.spot.place == PLACE}
    return frozenset(r.id for r in standing if r.spot.place == PLACE and newest[r.spot.kind] != r.id)


def _strip(job: Job, station: Station) -> list[Written]:
    """Entries of this station and acts elsewhere that affect it, in order of time."""
    elsewhere = {act.seq for act in job.changes(station.key)}
    own = (entry for entry in job.entries if entry.station == station.key or entry.seq in elsewhere)
    return [entry for entry in own if not isinstance(entry, Skip)]


def _bench_page(
    request: Request, job: Job, station: Station, status: int, query: Mapping[str, str] | None, **more: Any
) -> Response:
    context = _frame(request, job, station)
    if context["finding"].number:
        rule = station.ruler(job)
        context["rule"] = rule and rule.judged(context["finding"].state)
    query = request.query_params if query is None else query
    view_state = _looked_at(job, station, query, context["rear"], context)
    figure = station.figure(job, view_state)
    context["figure"] = figure and figure.judged(figure.state or context["finding"].state)
    context |= station.page_context(job, view_state)
    if station.form:
        context |= _form(request, job, station)
    if station.setup:
        context |= _set_up(request, job, station, context["finding"], bool(more.get("editing")))
    for form in station.other_forms:
        if form.shelved and form is not station.setup and context.get("editing"):
            context |= describing(request, job, form)
    context |= more
    # What could not be recorded is asked for again, whatever was found.
    asked = {"reading": "1"} if context["errors"] or context["message"] else query
    context["panel"] = panel_of(job, station, context["finding"], context["prompt"], asked, context["after"])
    if station.form is not None:
        # A form that contradicts itself can be kept as it is.
        context["stays"] = storable(station.form, context.get("read"), context["errors"].values())
    # Whoever reads on though all is read goes on being asked.
    context["reads_on"] = context["panel"].decided or bool(query.get("reading"))
    if (phrase := _refusal_elsewhere(context)) and not context["message"]:
        context["message"] = phrase
    return render(request, "bench.html", context | _practice(request, job, query), status)


def _practice(request: Request, job: Job, query: Mapping[str, str]) -> dict[str, Any]:
    """The made-up engine beside the bench, where the job is practice; shown until the chart is asked for."""
    with shop_of(request).read() as opened:
        found = practice.practice_of(opened, job.key)
        world = practice.world_now(opened, found) if found else None
    if found is None or world is None:
        return {"practice": None, "engine": None}
    if query.get("engine", request.query_params.get("engine", "1")) == "0":
        return {"practice": found, "engine": None}
    engine = {
        "figure": scene.scene(world, found.exercise.view),
        "turning": scene.turning(world),
        "dials": DIAL_ON,
        "exercise": found.exercise,
        "hydraulic": world.parts.hydraulic,
    }
    return {"practice": found, "engine": engine}


def _looked_at(job: Job, station: Station, query: Mapping[str, str], rear: bool, context: dict[str, Any]) -> ViewState:
    """How the station is looked at: what it asks, and which of its views is drawn."""
    prompt = station.prompt(job, query)
    views = station.views(job)
    wanted = query.get("method", "") or (prompt.extra.get("method", "") if prompt else "")
    view = wanted if wanted in views else next(iter(views), "")
    context |= {"prompt": prompt, "views": views, "view": view}
    return ViewState(view, prompt, rear, query)


def _form(request: Request, job: Job, station: Station) -> dict[str, Any]:
    """The form that a station is: as it was last written, or as it is taken from the library."""
    if station.form is None:
        raise Missing("station.form")
    latest, filled = job.latest(station.form.kind), job.filled(station.form)
    found: dict[str, Any] = {
        "typed": dict(latest.typed) if latest else {**station.form.blank, "unit": job.unit},
        "errors": filled.errors if filled else {},
        "read": filled.value if filled else None,
    }
    if latest is None:
        # Something true is shown at once: what is chosen already.
        drawn = station.preview(station.form.read(found["typed"], job).value, clockwise(job))
        if drawn is not None:
            found["figure"] = drawn
    if station.form.shelved:
        found |= shelved(request, station.form.kind)
    if taken := found.get("taken"):
        filled = station.form.read(taken.typed, job)
        found |= {"typed": dict(taken.typed), "errors": filled.errors, "read": filled.value}
        found["figure"] = station.preview(filled.value, clockwise(job))
    return found | dict(station.form_context(found["read"]))


def _set_up(request: Request, job: Job, station: Station, finding: Finding, again: bool) -> dict[str, Any]:
    """The form before a station's readings, and whether it is asked now, or again because it could not be kept."""
    if station.setup is None:
        raise Missing("station.setup")
    latest = job.latest(station.setup.kind)
    stated = latest is not None and job.form(station.setup) is not None
    settled = finding.verdict in (Verdict.IN, Verdict.SKIPPED)
    asked = station.setup.needed and not stated and not settled and station.setup.ready(job)
    editing = request.query_params.get("edit") == "1" or asked or again
    if not editing and "from" not in request.query_params:
        return {"editing": False}
    shelf = shelved(request, station.setup.kind) if station.setup.shelved else {}
    suggested = Suggested({}) if latest else _suggested(request, job, station)
    typed = dict(latest.typed) if latest else {"unit": job.unit, **suggested.typed}
    if taken := shelf.get("taken"):
        typed = dict(taken.typed)
    return {
        **shelf,
        "setup_typed": typed,
        "editing": editing or bool(taken),
        "suggestion_note": "" if taken else suggested.note,
    }


def _suggested(request: Request, job: Job, station: Station) -> Suggested:
    """What a form holds before anything was typed, from this job and, where the station asks for them, from earlier ones."""
    if station.setup is None or not station.earlier_jobs:
        return station.suggest(job, ())
    with shop_of(request).read() as session:
        earlier = loading.with_form(session, station.setup.kind, station.earlier_jobs, job.key)
    return station.suggest(job, earlier)


def describing(request: Request, job: Job, form: Form[Any]) -> dict[str, Any]:
    """A form of a station that also takes readings: as last written, or as loaded from the library."""
    found = shelved(request, form.kind)
    taken, latest = found["taken"], job.latest(form.kind)
    typed = dict(taken.typed) if taken else dict(latest.typed) if latest else {"unit": job.unit}
    return {**found, "typed": typed}


def clockwise(job: Job | None) -> bool:
    """Whether the crank turns clockwise seen from the front, as it does unless the first form says otherwise."""
    typed = job.latest(ORDER.first.form.kind) if job is not None and ORDER.first.form else None
    return typed is None or typed.typed.get("rotation") != Turn.COUNTERCLOCKWISE


def _refusal_elsewhere(context: Mapping[str, Any]) -> str:
    """Errors of a reading whose question has left the page; they are shown on their own so that nothing typed is lost."""
    errors, slot = context["errors"], context["typed"].get("slot")
    prompt = context.get("prompt")
    if not errors or slot is None or (prompt is not None and prompt.slot == slot):
        return ""
    field, words = next(iter(errors.items()))
    typed = context["typed"].get(field, "")
    return f"Not recorded{f' (“{typed}”)' if typed else ''}: {words}"


def shelved(request: Request, kind: str) -> dict[str, Any]:
    """The library of this kind of form, and what is taken from it."""
    with shop_of(request).read() as session:
        kept = library.shelf(session, kind)
    wanted = request.query_params.get("from")
    return {"shelf": kept, "taken": next((one for one in kept if str(one.id) == wanted), None), "shelf_kind": kind}
