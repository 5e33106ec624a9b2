"""What the bench page shows: one station of one job, its sheet or its readings."""

from collections.abc import Mapping
from typing import Annotated, Any

from fastapi import Path, Request
from fastapi.responses import Response

from uranograph.bench import (
    adjust,
    card,
    degree,
    drive,
    engine,
    events,
    faults,
    gear_fit,
    marks,
    rules,
    sweeps,
    tdc,
    train,
    tries,
    wheel,
)
from uranograph.bench import choice as choice_station
from uranograph.bench.finding import Verdict
from uranograph.bench.job import ANEW, PHOTO, SKIP, Job
from uranograph.bench.pairs import pairs_of
from uranograph.bench.place import KEY as DEGREE
from uranograph.bench.place import LOBES
from uranograph.bench.stations import BY_KEY, STATIONS, Station, overview
from uranograph.bench.typed import Sheet
from uranograph.charts import lift
from uranograph.core.errors import Impossible
from uranograph.core.wheel import SIDES
from uranograph.shop import jobs, library
from uranograph.web import figures
from uranograph.web.pages import render, shop_of

# What the file numbers its rows by.
Id = Annotated[int, Path(ge=1, le=2**63 - 1)]
STRIP_LENGTH = 12
VOID_REASONS = ("misread the wheel", "wrong side", "overshot", "typing slip")
OTHER_REASONS = ("misread the dial", "parts not seated", "wrong place", "typing slip")


def station_of(key: str) -> Station:
    if key not in BY_KEY:
        raise jobs.NoSuchJob(key)
    return BY_KEY[key]


def load(request: Request, key: str) -> Job:
    with shop_of(request).read() as session:
        return jobs.load(session, key)


async def form_of(request: Request) -> dict[str, str]:
    return {name: str(value) for name, value in (await request.form()).items()}


def read_sheet(kind: str, typed: Mapping[str, str], job: Job | None) -> Sheet[Any]:
    """Read a sheet of any kind, for this job's engine."""
    if kind == "engine":
        return engine.read(typed)
    assert job is not None
    if kind == "card":
        return card.read(typed, job.unit)
    return train.read(typed, job.unit) if kind == train.KEY else wheel.read(typed, job.rotation, job.unit)


def show(
    request: Request,
    job: Job,
    station: Station,
    status: int = 200,
    choice: Mapping[str, str] | None = None,
    **more: Any,
) -> Response:
    """Draw the bench at a station: the whole page, or its changed part for a page that stays.

    What cannot be drawn is told in its place, with the readings below it to be voided.
    """
    try:
        return _whole(request, job, station, status, choice, **more)
    except jobs.NoSuchJob:
        raise
    except Exception as error:
        fault = faults.note(error, f"job {job.key}, station {station.key}")
        context = _frame(request, job, station) | {"fault": fault, "errors": more.get("errors", {})}
        return render(request, "broken.html", context, status)


def _frame(request: Request, job: Job, station: Station) -> dict[str, Any]:
    """What stands round a station's own panel: the rail, the readings, what is passed over, pictures."""
    findings = overview(job)
    here = STATIONS.index(station)
    standing = job.standing(station.key)
    context: dict[str, Any] = {
        "job": job,
        "station": station,
        "findings": findings,
        "finding": findings[station.key],
        "before": STATIONS[here - 1] if here else None,
        "after": STATIONS[here + 1] if here + 1 < len(STATIONS) else None,
        "errors": {},
        "typed": {},
        "message": "",
        "unit": job.unit,
        "reasons": VOID_REASONS if station.key in (tdc.KEY, DEGREE) else OTHER_REASONS,
        "rear": request.query_params.get("end") == "rear",
        "skip": job.skipped(station.key),
        "skipping": request.query_params.get("skip") == "1",
        "photos": job.aside(station.key, PHOTO),
        "strip_length": 5000 if request.query_params.get("all") else STRIP_LENGTH,
        "lines": [r for r in job.readings if r.station == station.key and not r.slot.startswith(SKIP)],
        "last": standing[-1] if standing else None,
    }
    if void := request.query_params.get("void"):
        at_hand = (*standing, *context["photos"], *job.aside(station.key, ANEW))
        context["voiding"] = next((r for r in at_hand if str(r.id) == void), None)
    return context


def _whole(
    request: Request, job: Job, station: Station, status: int, choice: Mapping[str, str] | None, **more: Any
) -> Response:
    context = _frame(request, job, station)
    context["rule"] = figures.verdict_rule(job, station.key, context["finding"])
    if not station.takes:
        context["figure"] = figures.station_figure(job, station.key, method_of(job, station, choice, request))
    if station.sheet_fields:
        latest = job.latest(station.key)
        sheet = sheet_of(job, station.key)
        context["typed"] = dict(latest.typed) if latest else _blank(station.key, job)
        context["errors"] = sheet.errors if sheet else {}
        context["read"] = sheet.value if sheet else None
        context |= shelved(request, station.key)
        if taken := context.get("taken"):
            sheet = read_sheet(station.key, taken.typed, job)
            context |= {"typed": dict(taken.typed), "errors": sheet.errors, "read": sheet.value}
            context["figure"] = figures.preview_figure(station.key, sheet.value)
    choice = request.query_params if choice is None else choice
    context["method"] = method_of(job, station, choice, request)
    if station.key == adjust.KEY:
        context |= _adjusting(job, request)
    elif station.takes:
        context |= _taking(job, station, choice, context["rear"], request)
    elif station.prompt:
        context |= _reading(job, station, choice)
    context |= more
    if (told := _told_elsewhere(context)) and not context["message"]:
        context["message"] = told
    return render(request, "bench.html", context, status)


def _told_elsewhere(context: Mapping[str, Any]) -> str:
    """What was refused of a reading whose question is not on the page any more: it must not be dropped with it."""
    errors, slot = context["errors"], context["typed"].get("slot")
    prompt = context.get("prompt")
    if not errors or slot is None or (prompt is not None and prompt.slot == slot):
        return ""
    field, words = next(iter(errors.items()))
    typed = context["typed"].get(field, "")
    return f"Not recorded{f' (“{typed}”)' if typed else ''}: {words}"


def sheet_of(job: Job, kind: str) -> Sheet[Any] | None:
    """The newest sheet of a station, read."""
    if kind == train.KEY:
        return train.sheet(job)
    return {"engine": job.engine_sheet, "card": job.card_sheet, "wheel": job.wheel_sheet}[kind]


def _taking(job: Job, station: Station, choice: Mapping[str, str], rear: bool, request: Request) -> dict[str, Any]:
    """What the panel needs that most stations share: the set-up, or the one thing to read or to look at."""
    assert station.prompt is not None
    prompt = station.prompt(job, choice)
    views = station.views(job) if station.views else {}
    wanted = choice.get("method", "") or (prompt.extra.get("method", "") if prompt else "")
    view = wanted if wanted in views else next(iter(views), "")
    found: dict[str, Any] = {
        "prompt": prompt,
        "views": views,
        "undescribed": station.key == marks.KEY and train.described(job) is None,
        "view": view,
        "figure": figures.taking_figure(job, station.key, view, prompt, rear),
    }
    if station.setup:
        latest = job.latest(station.setup.kind)
        found["setup_typed"] = dict(latest.typed) if latest else {"unit": job.unit}
        told = latest is not None and station.setup.read(latest.typed, job.unit).value is not None
        settled = overview(job)[station.key].verdict is Verdict.IN
        asked = station.setup.needed and not told and not settled and station.setup.ready(job)
        found["editing"] = request.query_params.get("edit") == "1" or asked
    if station.key == choice_station.KEY:
        found |= {"answers": choice_station.answers(job), "drives": choice_station.judged(job)}
    if station.key == gear_fit.KEY:
        found |= {"answers": gear_fit.answers(job), "pulls": gear_fit.pulls(job)}
        bolts = gear_fit.setup(job).bolts
        found["torque_unit"] = bolts.unit if bolts else "N m"
    if station.key == marks.KEY and (of := train.described(job)):
        found |= {"answers": marks.answers(job), "stepping": view == "marks", "crank_teeth": of.crank.teeth}
        found["places"] = marks.places_after(job, 0)
    return found


def method_of(job: Job, station: Station, choice: Mapping[str, str] | None, request: Request) -> str:
    if station.key != DEGREE:
        return ""
    return degree.chosen_method(tries.at_position(job), request.query_params if choice is None else choice)


def _reading(job: Job, station: Station, choice: Mapping[str, str]) -> dict[str, Any]:
    """What a panel needs that asks for one reading."""
    assert station.prompt is not None
    prompt = station.prompt(job, choice)
    found: dict[str, Any] = {
        "prompt": prompt,
        "sides": SIDES[job.wheel.wheel.scale] if job.wheel else (),
        "pair": _pair_of(job, station, prompt.slot) if prompt else None,
        "lobes": LOBES,
        "methods": tdc.METHOD_WORDS,
    }
    if station.key == DEGREE:
        view = tries.at_position(job)
        found |= {
            "ways": degree.METHOD_WORDS,
            "rules": job.rules,
            "presets": rules.PRESETS,
            "event_words": events.WORDS,
            "swept": {lobe: of for lobe in LOBES if (of := sweeps.swept(view, lobe))},
            "check_lift_mm": sweeps.check_lift(view),
        }
        if prompt and prompt.extra["method"] == "sweep":
            at = sweeps.check_lift(view)
            found |= {"growing": figures.token(job), "lift_zero": lift.BOTTOM}
            found["found"] = {lobe: sweeps.events_at(of, at) for lobe, of in found["swept"].items()}
    return found


def _adjusting(job: Job, request: Request) -> dict[str, Any]:
    """What the panel of the adjusters needs: the drive's sheet, or the positions it offers."""
    if job.drive is None or request.query_params.get("edit") == "1":
        return describing_drive(job, request)
    offered = {}
    for cam in adjust.cams(job):
        try:
            offered[cam] = adjust.offers(job, cam)
        except Impossible:
            offered[cam] = ()
    return {
        "offers": offered,
        "history": adjust.history(job),
        "tokens": [figures.token(step.view) for step in adjust.history(job)],
        "effects": adjust.effects(job),
    }


def describing_drive(job: Job, request: Request) -> dict[str, Any]:
    on_shelf = shelved(request, "drive")
    taken, latest = on_shelf["taken"], job.latest("drive")
    typed = dict(taken.typed) if taken else dict(latest.typed) if latest else {"unit": job.unit}
    return {**on_shelf, "drive": drive, "editing": True, "typed": typed}


def shelved(request: Request, kind: str) -> dict[str, Any]:
    """The library of this kind of sheet, and what is taken from it."""
    if kind not in library.KINDS:
        return {}
    with shop_of(request).read() as session:
        kept = library.shelf(session, kind)
    wanted = request.query_params.get("from")
    return {"shelf": kept, "taken": next((one for one in kept if str(one.id) == wanted), None), "shelf_kind": kind}


def _blank(kind: str, job: Job) -> dict[str, str]:
    if kind == train.KEY:
        return {"g1_name": "crank", "g1_role": "crank", "g2_role": "cam", "g2_on": "1", "unit": job.unit}
    if kind == "wheel":
        return {"scale": "quarter", "mount": "front", "division": "1", "unit": job.unit}
    return {"unit": job.unit}


def _pair_of(job: Job, station: Station, slot: str) -> Any:
    kind, number, _ = slot.split(".")
    pairs = pairs_of([r for r in job.standing(station.key) if r.slot.endswith((".before", ".after"))])
    return next((pair for pair in pairs if (pair.kind, str(pair.number)) == (kind, number)), None)
