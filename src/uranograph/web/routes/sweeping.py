"""A lobe swept by encoder and dial: begun, watched, and kept as readings."""

from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from starlette.concurrency import run_in_threadpool

from uranograph.bench.log import Entry
from uranograph.bench.messages import refusal
from uranograph.bench.slots import slot_of
from uranograph.core.angles import signed
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import as_read
from uranograph.engine import degree_wheel
from uranograph.engine.cams import KEY, LOBES
from uranograph.instruments.sweeping import Sweeping
from uranograph.phase.sweep_points import KIND
from uranograph.shop import jobs, loading
from uranograph.web.bench_page import form_of, load
from uranograph.web.by_instrument import named_for, of_job
from uranograph.web.pages import NOT_WRITTEN, shop_of, who

router = APIRouter(include_in_schema=False)


def progress(sweep: Sweeping) -> dict[str, Any]:
    """How far a sweep has come, for the page that watches it."""
    points = sweep.points()
    return {
        "lobe": sweep.lobe,
        "turned": round(sweep.turned_deg),
        "whole": sweep.is_whole,
        "backward": sweep.backward,
        "gaps": sweep.gaps,
        "points": [[round(each.deg, 1), round(each.mm, 3)] for each in points],
    }


@router.post("/jobs/{key}/sweep-live")
async def begin(request: Request, key: str) -> Response:
    """Begin to sweep a lobe; whatever was swept of this job and not kept is forgotten."""
    form = await form_of(request)
    lobe, hub = form.get("lobe", ""), request.app.state.hub
    job = await run_in_threadpool(load, request, key)
    live = {each.kind: each.name for each in of_job(hub.live(), named_for(job)) if each.state == "live"}
    if lobe not in LOBES or not {"angle", "length"} <= live.keys():
        return JSONResponse({"error": refusal(InvalidInput("lobe", "nothing-to-sweep-with"))}, 422)
    forget(request.app.state.sweeps, key)
    sweep = Sweeping(lobe, live["angle"], live["length"])
    request.app.state.sweeps[key] = (sweep, hub.listen(sweep.take))
    return JSONResponse(progress(sweep))


def forget(sweeps: dict[str, Any], key: str) -> None:
    """Stop a sweep of a job, where there is one."""
    if key in sweeps:
        sweeps.pop(key)[1]()


@router.post("/jobs/{key}/sweep-live/keep")
async def keep(request: Request, key: str) -> Response:
    return await run_in_threadpool(_keep, request, key)


def _keep(request: Request, key: str) -> Response:
    """Write what was swept down as readings of its lobe, each with the instruments that it came by."""
    found, hub = request.app.state.sweeps.get(key), request.app.state.hub
    try:
        if found is None or not (points := found[0].points()):
            raise InvalidInput("lobe", "nothing-swept")
        sweep = found[0]
        with shop_of(request).write() as session:
            job = loading.load(session, key)
            mounted = degree_wheel.wheel_of(job)
            if mounted is None:
                raise InvalidInput("text", "wheel-missing")
            first = job.next_number(KEY, KIND[sweep.lobe])
            doubts = tuple(each.doubt for each in hub.definitions((sweep.angle, sweep.length)))
            entries = []
            for k, each in enumerate(points):
                value, side = as_read(mounted.wheel, signed(each.deg))
                slot = slot_of(KIND[sweep.lobe], first + k, "point")
                by = f"{sweep.angle}, {sweep.length}"
                entries.append(
                    Entry(
                        KEY,
                        slot,
                        f"{value:.1f}",
                        side.value if side else None,
                        second=f"{each.mm:.3f}mm",
                        unit=LengthUnit.MM,
                        instrument=by,
                        raw=each.raw or None,
                        uncertainty=doubts,
                    )
                )
            jobs.record_all(session, key, entries, who(request))
    except InvalidInput as error:
        return JSONResponse({"error": refusal(error)}, 422)
    except jobs.Changed as error:
        return JSONResponse({"error": str(error)}, 409)
    except SQLAlchemyError:
        return JSONResponse({"error": NOT_WRITTEN}, 503)
    forget(request.app.state.sweeps, key)
    return JSONResponse({"kept": len(entries)})
