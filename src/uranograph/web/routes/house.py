"""Shop limits: who set each and when, and the form that sets them."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench import instruments, repeats, shop_limits
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.shop import hands, library
from uranograph.web.bench_page import form_of
from uranograph.web.pages import BY_COOKIE, NOT_WRITTEN, lead, remember, render, shop_of, who

router = APIRouter(include_in_schema=False)


@router.get("/house")
def shop_limits_page(request: Request) -> Response:
    return _page(request)


def _page(request: Request, status: int = 200, **more: Any) -> Response:
    with shop_of(request).read() as session:
        values, past = library.shop_values(session), library.default_history(session)
        unit = library.default_of(session, "unit") or ""
        learned = hands.learned(session) if "hands" in request.query_params else None
    typed = {name: value.text for name, value in values.items()} | {"unit": unit}
    if learned is not None:
        typed |= {name: f"{value:.3g}" for name, (value, _) in learned.items()}
    groups: dict[str, list[shop_limits.Limit]] = {}
    for limit in shop_limits.LIMITS.values():
        groups.setdefault(limit.group, []).append(limit)
    context: dict[str, Any] = {"groups": groups, "values": values, "past": past, "typed": typed, "errors": {}}
    context["now"] = {name: limit.both(shop_limits.value(values, name)) for name, limit in shop_limits.LIMITS.items()}
    context["labels"] = {name: limit.label for name, limit in shop_limits.LIMITS.items()} | {
        f"{kind}_{part}": f"{label}, {what}"
        for kind, label in instruments.KINDS.items()
        for part, what in (("name", "called"), ("checked", "last checked"))
    }
    context |= {"learned": learned, "JUDGMENT": shop_limits.JUDGMENT, "enough": repeats.ENOUGH}
    context["instruments"] = instruments.KINDS
    context["back"] = request.query_params.get("job", "")[:16]
    return render(request, "house.html", {**context, **more}, status)


@router.post("/house")
async def set_house(request: Request) -> Response:
    return await run_in_threadpool(_set, request, await form_of(request))


def _set(request: Request, form: dict[str, str]) -> Response:
    texts, errors = shop_limits.read(form)
    names, unread = instruments.read(form)
    texts, errors = texts | names, errors | unread
    by = form.get("by") or who(request)
    if errors:
        return _page(request, 422, typed=form, errors=errors)
    try:
        with shop_of(request).write() as session:
            library.set_limits(session, texts, by)
            if form.get("unit") in tuple(LengthUnit) and form["unit"] != library.default_of(session, "unit"):
                library.set_default(session, "unit", form["unit"], by)
    except InvalidInput as error:
        return _page(request, 422, typed=form, errors={error.field: refusal(error)})
    except SQLAlchemyError:
        return _page(request, 503, typed=form, message=NOT_WRITTEN)
    response = lead(request, "/house")
    remember(response, BY_COOKIE, by.strip().upper())
    return response
