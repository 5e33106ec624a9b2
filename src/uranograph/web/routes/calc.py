"""The calculations for machines: one JSON object in, one out."""

import json
from collections.abc import Callable
from functools import cache, partial
from typing import Any

from anyio import CapacityLimiter, current_time, fail_after, from_thread, to_thread
from fastapi import APIRouter, FastAPI, Request
from fastapi.exceptions import HTTPException
from fastapi.openapi.utils import get_openapi
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.routing import Route

from uranograph.bench.calculations import CALCULATIONS, Calculation, calculate, examples
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.shop.exchange import read_job
from uranograph.shop.job_files import StoredJob
from uranograph.shop.judging import judge

router = APIRouter(prefix="/api", tags=["calculations"])
# Calculations must not block pages: few run at once, and one that exceeds its time is answered with an error.
MAX_AT_ONCE, MAX_S, MAX_IN_LINE_S = 4, 10.0, 30.0
LARGEST_BODY, LARGEST_JOB = 4_000_000, 80_000_000


@cache
def _lanes() -> CapacityLimiter:
    return CapacityLimiter(MAX_AT_ONCE)


class Fault(BaseModel):
    """An error and the field it belongs to."""

    field: str
    message: str


class Refusal(BaseModel):
    """The answer to bad input."""

    error: Fault


@router.get("/calc")
def known_calculations() -> dict[str, str]:
    """Names and titles of all calculations."""
    return {name: calculation.title for name, calculation in CALCULATIONS.items()}


def _refuse(field: str, code: str, message: str, status: int = 422) -> JSONResponse:
    return JSONResponse({"error": {"field": field, "code": code, "message": message}}, status)


async def _body(request: Request, most: int) -> bytes | None:
    """Return the request body, or None if it exceeds the limit whatever its header says."""
    found = bytearray()
    async for part in request.stream():
        found += part
        if len(found) > most:
            return None
    return bytes(found)


async def answer(request: Request) -> JSONResponse:
    """Run one calculation on a request body."""
    name = request.path_params["name"]
    if name not in CALCULATIONS:
        raise HTTPException(404)
    body = await _body(request, LARGEST_BODY)
    if body is None:
        return _refuse("input", "too-large", "This is more than any calculation takes.", 413)
    try:
        data = json.loads(body)
    except (ValueError, UnicodeDecodeError, RecursionError):
        return _refuse("input", "not-json", "The body is not JSON. Send one JSON object.")
    return await _worked_out("input", partial(calculate, name, data))


async def _worked_out(field: str, work: Callable[[], dict[str, Any]]) -> JSONResponse:
    """Run work in one of a few slots; time spent waiting for a slot does not count against its limit."""
    begun = False
    try:
        with fail_after(MAX_IN_LINE_S) as scope:

            def begin() -> None:
                nonlocal begun
                begun, scope.deadline = True, current_time() + MAX_S

            def in_lane() -> dict[str, Any]:
                from_thread.run_sync(begin)
                return work()

            return JSONResponse(await to_thread.run_sync(in_lane, abandon_on_cancel=True, limiter=_lanes()))
    except InvalidInput as error:
        return _refuse(error.field, error.code, refusal(error))
    except TimeoutError:
        if not begun:
            return _refuse(field, "others-first", "Others are being worked out. Send it again in a moment.", 503)
        words = f"This took longer than {MAX_S:g} s and was given up: send less of it."
        return _refuse(field, "took-too-long", words, 503)


# One plain route for all of them: what each takes and gives is worked out when the description is asked for, not at every start.
CALCULATE = Route("/api/calc/{name}", answer, methods=["POST"])


@router.post(
    "/judge",
    summary="Judge a whole job file",
    response_model=None,
    responses={422: {"model": Refusal}, 413: {"model": Refusal}, 503: {"model": Refusal}},
    openapi_extra={
        "requestBody": {
            "required": True,
            "content": {"application/json": {"schema": {"$ref": "#/components/schemas/StoredJob"}}},
        }
    },
)
async def judge_job(request: Request) -> JSONResponse:
    """Findings of every station for a job file, the drive's positions, and the entry to append next."""
    body = await _body(request, LARGEST_JOB)
    if body is None:
        return _refuse("file", "job-file-too-large", "This is more than any job file.", 413)
    return await _worked_out("file", partial(_judged, body))


def _judged(body: bytes) -> dict[str, Any]:
    return judge(read_job(body))


_REF = "#/components/schemas/{model}"


def _input_name(calculation: Calculation) -> str:
    return calculation.given.__name__


def full_description(app: FastAPI) -> dict[str, Any]:
    """The description of the machine interface, with every model that it refers to."""
    if app.openapi_schema:
        return app.openapi_schema
    calculations = APIRouter(prefix="/api", tags=["calculations"])
    for calculation in CALCULATIONS.values():
        _describe(calculations, calculation)
    described = get_openapi(title=app.title, version=app.version, routes=[*app.routes, *calculations.routes])
    schemas = described.setdefault("components", {}).setdefault("schemas", {})
    models: tuple[type[BaseModel], ...] = (*(each.given for each in CALCULATIONS.values()), StoredJob)
    for taken in models:
        model = taken.model_json_schema(ref_template=_REF)
        parts = model.pop("$defs", {})
        for name, schema in {**parts, taken.__name__: model}.items():
            schemas.setdefault(name, schema)
    app.openapi_schema = described
    whole: dict[str, Any] = described
    return whole


def _describe(calculations: APIRouter, calculation: Calculation) -> None:
    calculations.add_api_route(
        f"/calc/{calculation.name}",
        answer,
        methods=["POST"],
        name=calculation.name,
        summary=calculation.title,
        description=(calculation.function.__doc__ or "").strip().splitlines()[0],
        response_model=None,
        responses={
            200: {"model": calculation.found},
            422: {"model": Refusal, "description": "Bad input: the field at fault and why."},
            413: {"model": Refusal, "description": "More than any calculation takes."},
            503: {"model": Refusal, "description": "It took too long and was given up."},
        },
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {
                    "application/json": {
                        "schema": {"$ref": _REF.format(model=_input_name(calculation))},
                        "example": examples()[calculation.name],
                    }
                },
            }
        },
    )
