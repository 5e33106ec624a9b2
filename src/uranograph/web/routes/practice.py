"""Practice: the exercises, the made-up engine beside the bench, and the debrief."""

from typing import Annotated, Any

from fastapi import APIRouter, Path, Request
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.practice import debrief, scene, session
from uranograph.practice.exercises import EXERCISES
from uranograph.practice.messages import CAME
from uranograph.practice.planting import NAMED
from uranograph.shop import loading
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.pages import BY_COOKIE, NOT_WRITTEN, fresh_token, lead, remember, render, shop_of, who
from uranograph.world.acts import Act

router = APIRouter(include_in_schema=False)
SEED_DIGITS = 6
Number = Annotated[int, Path(ge=1, le=99)]


class ActRequest(BaseModel):
    """One thing that is to be done to a made-up engine."""

    model_config = ConfigDict(extra="forbid")

    kind: Annotated[str, Field(max_length=16)]
    on: Annotated[str, Field(max_length=16)] = ""
    by: Annotated[float, Field(allow_inf_nan=False)] = 0.0


class ActsRequest(BaseModel):
    """What is done, in order."""

    model_config = ConfigDict(extra="forbid")

    acts: Annotated[list[ActRequest], Field(min_length=1, max_length=session.MAX_ACTS)]


@router.get("/practice")
def exercises(request: Request) -> Response:
    return _list(request)


def _list(request: Request, status: int = 200, **more: Any) -> Response:
    by = who(request)
    lines = []
    with shop_of(request).read() as opened:
        known = session.records(opened, by) if by else {}
        for exercise in EXERCISES.values():
            keys = known.get(exercise.number, [])[:5]
            scores = [(key, _debrief(opened, key).score) for key in keys]
            lines.append({"exercise": exercise, "scores": scores, "best": max((s for _, s in scores), default=None)})
    return render(request, "practice.html", {"lines": lines, "errors": {}, "token": fresh_token(), **more}, status)


def _debrief(opened: Any, key: str) -> debrief.Debrief:
    practice = session.practice_of(opened, key)
    if practice is None:
        raise loading.NoSuchJob(key)
    return debrief.debrief(practice, loading.load(opened, key), session.done_to(opened, key), _find)


def _find(job: Job, station: str) -> Finding:
    return ORDER.by_key[station].find(job)


@router.post("/practice/{number}")
async def begin(request: Request, number: Number) -> Response:
    return await run_in_threadpool(_begin, request, number, await form_of(request))


def _begin(request: Request, number: int, form: dict[str, str]) -> Response:
    by = form.get("by") or who(request)
    try:
        with shop_of(request).write() as opened:
            key = session.begin(opened, number, by, form.get("token", ""), _seed(form.get("seed", "")))
    except InvalidInput as error:
        return _list(request, 422, errors={error.field: refusal(error)}, refused=number)
    except SQLAlchemyError:
        return _list(request, 503, message=NOT_WRITTEN)
    exercise = EXERCISES[number]
    method = f"&method={exercise.method}" if exercise.method else ""
    response = lead(request, f"/jobs/{key}/{exercise.station}?engine=1{method}")
    remember(response, BY_COOKIE, by.strip().upper())
    return response


def _seed(text: str) -> int | None:
    """The engine's number as typed; None where any engine will do."""
    text = text.strip()
    if not text:
        return None
    if not (text.isascii() and text.isdecimal() and len(text) <= SEED_DIGITS):
        raise InvalidInput("seed", "not-an-engine-number", typed=text[:20], digits=SEED_DIGITS)
    return int(text)


@router.post("/jobs/{key}/engine-acts")
def do(request: Request, key: str, asked: ActsRequest) -> Response:
    """Do something to the engine of a practice job; answers how it stands then, and what came of it."""
    acts = [Act(each.kind, each.on, each.by) for each in asked.acts]
    try:
        with shop_of(request).write() as opened:
            practice = session.practice_of(opened, key)
            if practice is None:
                raise loading.NoSuchJob(key)
            world, came = session.do(opened, practice, acts)
    except InvalidInput as error:
        return JSONResponse({"error": refusal(error)}, 422)
    found = scene.turning(world, whole=any(each.kind in scene.MOVES_THE_CAM for each in acts))
    return JSONResponse({"turning": found, "words": " ".join(CAME[each] for each in dict.fromkeys(came))})


@router.get("/jobs/{key}/debrief")
def debrief_page(request: Request, key: str) -> Response:
    return _debrief_page(request, key)


def _debrief_page(request: Request, key: str, errors: dict[str, str] | None = None) -> Response:
    with shop_of(request).read() as opened:
        practice = session.practice_of(opened, key)
        if practice is None:
            raise loading.NoSuchJob(key)
        job = loading.load(opened, key)
        found = debrief.debrief(practice, job, session.done_to(opened, key), _find)
    context = {"practice": practice, "job": job, "found": found, "faults": NAMED, "errors": errors or {}}
    return render(request, "debrief.html", context, 422 if errors else 200)


@router.post("/jobs/{key}/named")
async def name(request: Request, key: str) -> Response:
    return await run_in_threadpool(_name, request, key, await form_of(request))


def _name(request: Request, key: str, form: dict[str, str]) -> Response:
    """Keep which faults were named at the end of an exercise, and show what was so."""
    try:
        with shop_of(request).write() as opened:
            practice = session.practice_of(opened, key)
            if practice is None:
                raise loading.NoSuchJob(key)
            session.name_faults(opened, practice, [each for each in form if each in NAMED])
    except InvalidInput as error:
        return _debrief_page(request, key, {error.field: refusal(error)})
    return lead(request, f"/jobs/{key}/debrief")
