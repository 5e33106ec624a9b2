"""What happens as it happens: instruments, what others write, and who is where, as server-sent events."""

import asyncio
import json
import re
from collections.abc import AsyncIterator
from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse, Response
from sqlalchemy import select
from starlette.concurrency import run_in_threadpool
from starlette.responses import StreamingResponse

from uranograph.core.angles import signed
from uranograph.core.quantities import LengthUnit, format_fine
from uranograph.core.wheel import as_read
from uranograph.engine import degree_wheel
from uranograph.instruments.hub import Hub, Live
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.shop.tables import EntryRow, JobRow
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.by_instrument import named_for, of_job
from uranograph.web.pages import shop_of, who
from uranograph.web.presence import Presence
from uranograph.web.routes.collecting import Collector

router = APIRouter(include_in_schema=False)
# How often a page is told, and how often its line is kept awake, s.
EVERY_S, AWAKE_S = 0.06, 10.0
# So often the file is asked as well: another program may have written to it.
ASKED_S = 3.0
_KEY = re.compile("[0-9a-f]{8}")


@dataclass
class _Follower:
    """One page that follows: what it was told last."""

    job: str
    station: str
    by: str
    seq: int
    mounted: degree_wheel.Mounted | None
    unit: LengthUnit
    named: dict[str, str]


@router.get("/live")
async def live(request: Request, job: str = "", station: str = "") -> Response:
    """Events for one page: `instruments`, `written` and `here`, until it is closed."""
    key = job if _KEY.fullmatch(job) else ""
    at = station if station in ORDER.by_key else ""
    follower = await run_in_threadpool(_begun, shop_of(request), key, at, who(request))
    events = _events(request, follower)
    headers = {"Cache-Control": "no-store", "X-Accel-Buffering": "no"}
    return StreamingResponse(events, media_type="text/event-stream", headers=headers)


def _begun(shop: Shop, key: str, station: str, by: str) -> _Follower:
    seq, mounted, unit, named = 0, None, LengthUnit.MM, {}
    if key:
        with shop.read() as session:
            job = loading.load(session, key)
        seq, mounted, unit = job.seq, degree_wheel.wheel_of(job), job.unit
        named = named_for(job)
    return _Follower(key, station, by, seq, mounted, unit, named)


async def _events(request: Request, follower: _Follower) -> AsyncIterator[str]:
    hub: Hub = request.app.state.hub
    presence: Presence = request.app.state.presence
    shop = shop_of(request)
    number = presence.enter(follower.by, follower.job, follower.station)
    told: dict[str, str] = {}
    writes, awake, asked = shop.writes, 0.0, 0.0
    try:
        while True:
            found: dict[str, Any] = {
                "instruments": [_shown(follower, each) for each in of_job(hub.live(), follower.named)]
            }
            if follower.job:
                found["here"] = _here(presence, follower.job, number)
                if shop.writes != writes or asked >= ASKED_S:
                    writes, asked = shop.writes, 0.0
                    if written := await run_in_threadpool(_written, shop, follower):
                        yield _event("written", json.dumps(written))
            if (collecting := request.app.state.collecting.get(follower.job)) is not None:
                found["collected"] = _progress(collecting[0], follower.unit)
            for name, value in found.items():
                text = json.dumps(value)
                if told.get(name) != text:
                    told[name] = text
                    yield _event(name, text)
                    awake = 0.0
            if awake >= AWAKE_S:
                awake = 0.0
                yield ": awake\n\n"
            await asyncio.sleep(EVERY_S)
            awake, asked = awake + EVERY_S, asked + EVERY_S
    finally:
        presence.leave(number)


def _progress(collector: Collector, unit: LengthUnit) -> dict[str, Any]:
    """How far something is, a travel as it is typed."""
    found = collector.progress()
    if found.get("travel") is not None:
        found |= {
            "text": format_fine(found["travel"], unit),
            "unit": unit.value,
            "name": getattr(collector, "length", ""),
        }
    return found


def _event(name: str, text: str) -> str:
    return f"event: {name}\ndata: {text}\n\n"


def _here(presence: Presence, job: str, own: int) -> list[dict[str, str]]:
    seen = {(each.by, each.station, each.holds) for each in presence.at(job) if each.by}
    titles = {key: station.title for key, station in ORDER.by_key.items()}
    return [
        {"by": by, "station": station, "at": titles.get(station, "overview"), "holds": holds}
        for by, station, holds in sorted(seen)
    ]


def _written(shop: Shop, follower: _Follower) -> dict[str, Any] | None:
    """What was written to the job since this page was told last; None where nothing was."""
    with shop.read() as session:
        rows = session.execute(
            select(EntryRow.seq, EntryRow.by, EntryRow.station, EntryRow.kind)
            .join(JobRow, JobRow.id == EntryRow.job_id)
            .where(JobRow.key == follower.job, EntryRow.seq > follower.seq)
            .order_by(EntryRow.seq)
        ).all()
        if not rows:
            return None
        job = loading.load(session, follower.job)
    follower.seq, follower.mounted, follower.unit = rows[-1].seq, degree_wheel.wheel_of(job), job.unit
    return {
        "seq": rows[-1].seq,
        "by": sorted({row.by for row in rows}),
        "stations": sorted({row.station for row in rows}),
    }


def _shown(follower: _Follower, live: Live) -> dict[str, Any]:
    """An instrument for a page: what its figure is as typed, on the wheel as it is mounted or in the job's unit."""
    text, side = "", ""
    if live.value is not None:
        text = f"{live.value:.1f}"
        if live.kind == "length":
            text = format_fine(live.value, follower.unit)
        elif live.kind == "angle" and follower.mounted is not None:
            value, on = as_read(follower.mounted.wheel, signed(live.value))
            text, side = f"{value:.1f}", on.value if on else ""
    unit = follower.unit.value if live.kind == "length" else live.unit
    return {
        "name": live.name,
        "kind": live.kind,
        "state": live.state,
        "words": live.words,
        "text": text,
        "side": side,
        "unit": unit,
        "still": live.still,
        "note": live.note,
        "value": None if live.value is None else round(live.value, 4),
        "raw": live.raw,
    }


@router.post("/jobs/{key}/hold")
async def hold(request: Request, key: str) -> Response:
    """Say which question is being answered, so that whoever else is at this job sees it."""
    form = await form_of(request)
    station = form.get("station", "")
    if not _KEY.fullmatch(key) or station not in ORDER.by_key:
        return JSONResponse({}, 404)
    request.app.state.presence.hold(who(request), key, station, form.get("slot", "")[:40])
    return Response(status_code=204)
