"""The calculations for machines: one JSON object in, one out."""

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from uranograph.core.calc import CALCULATIONS, Calculation, calculate
from uranograph.core.errors import Impossible

router = APIRouter(prefix="/api", tags=["calculations"])


class Fault(BaseModel):
    """What is wrong, and with which field."""

    field: str
    message: str


class Refusal(BaseModel):
    """The answer to bad input."""

    error: Fault


@router.get("/calc")
def known_calculations() -> dict[str, str]:
    """Names and titles of all calculations."""
    return {name: calculation.title for name, calculation in CALCULATIONS.items()}


def _refuse(field: str, message: str) -> JSONResponse:
    return JSONResponse({"error": {"field": field, "message": message}}, 422)


def _answer(name: str) -> Callable[[Request], Any]:
    async def answer(request: Request) -> JSONResponse:
        try:
            data = await request.json()
        except (ValueError, UnicodeDecodeError, RecursionError):
            return _refuse("input", "The body is not JSON. Send one JSON object.")
        try:
            return JSONResponse(await run_in_threadpool(calculate, name, data))
        except Impossible as error:
            return _refuse(error.field, error.message)

    return answer


def _add(calculation: Calculation) -> None:
    router.add_api_route(
        f"/calc/{calculation.name}",
        _answer(calculation.name),
        methods=["POST"],
        name=calculation.name,
        summary=calculation.title,
        description=(calculation.function.__doc__ or "").strip().splitlines()[0],
        response_model=None,
        responses={
            200: {"model": calculation.found},
            422: {"model": Refusal, "description": "Bad input: the field at fault and why."},
        },
        openapi_extra={
            "requestBody": {
                "required": True,
                "content": {"application/json": {"schema": calculation.given.model_json_schema()}},
            }
        },
    )


for _calculation in CALCULATIONS.values():
    _add(_calculation)
