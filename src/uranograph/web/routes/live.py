"""What happens as it happens: instruments, what others write, and who is where, as server-sent events."""

import asyncio
import json
import re
import time
from collections.abc import AsyncIterator, Callable, Sequence
from typing import Annotated, Any

from fastapi import APIRouter, Query, Request
from fastapi.responses import JSONResponse, Response
from starlette.responses import StreamingResponse

from uranograph.core.angles import signed
from uranograph.core.quantities import LengthUnit, format_fine
from uranograph.core.wheel import as_read
from uranograph.engine.degree_wheel import Mounted
from uranograph.instruments.hub import Hub, Live
from uranograph.shop.loading import NoSuchJob
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of
from uranograph.web.by_instrument import of_job
from uranograph.web.pages import shop_of, who
from uranograph.web.presence import Presence
from uranograph.web.routes.collecting import Collector
from uranograph.web.together import DIAL, NOW, WHEEL, Passed, Together
from uranograph.web.updates import JobUpdates, Written

router = APIRouter(include_in_schema=False)
# How often a page is told, and how often its line is kept awake, s.
EVERY_S, AWAKE_S = 0.06, 10.0
# Jobs of which something is collected at once; more begin anew.
MAX_FOLLOWED = 50
# So often the file is asked as well: another program may have written to it.
ASKED_S = 3.0
_KEY = re.compile("[0-9a-f]{8}")


@router.get("/live")
async def live(request: Request, job: str = "", station: str = "", since: Annotated[int, Query(ge=0)] = 0) -> Response:
    """Events for one page: `instruments`, `written`, `here`, `passed` and `collected`, until it is closed."""
    key = job if _KEY.fullmatch(job) else ""
    at = station if station in ORDER.by_key else ""
    news = await request.app.state.updates.of(shop_of(request), key) if key else None
    # What was written since the page was drawn is told first.
    seq = min(since, news.seq) if news and since else news.seq if news else 0
    events = _events(request, key, at, who(request), news, seq)
    headers = {"Cache-Control": "no-store", "X-Accel-Buffering": "no"}
    return StreamingResponse(events, media_type="text/event-stream", headers=headers)


async def _events(
    request: Request, key: str, station: str, by: str, news: JobUpdates | None, seq: int
) -> AsyncIterator[str]:
    hub: Hub = request.app.state.hub
    presence: Presence = request.app.state.presence
    shop, updates = shop_of(request), request.app.state.updates
    number = presence.enter(by, key, station)
    told: dict[str, str] = {}
    awake, asked = 0.0, 0.0
    try:
        while True:
            if news is not None:
                fresh, asked = asked >= ASKED_S, 0.0 if asked >= ASKED_S else asked
                try:
                    news = await updates.of(shop, key, fresh)
                except NoSuchJob:
                    return
                if news.seq > seq:
                    written, seq = news.since(seq), news.seq
                    yield _event("written", json.dumps(_written(seq, written)))
            found: dict[str, Any] = {"instruments": [_shown(news, each) for each in _instruments(hub, news)]}
            if news is not None:
                found["here"] = _here(presence, key)
                found["passed"] = [_passed(each) for each in request.app.state.together.of(key)]
            if news is not None and (collecting := request.app.state.collecting.get(key)) is not None:
                found["collected"] = request.app.state.progress.of(key, collecting[0], news.unit, news.mounted)
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


def _instruments(hub: Hub, news: JobUpdates | None) -> tuple[Live, ...]:
    return hub.live() if news is None else of_job(hub.live(), news.named)


def _written(seq: int, entries: Sequence[Written]) -> dict[str, Any]:
    return {
        "seq": seq,
        "by": sorted({each.by for each in entries}),
        "stations": sorted({each.station for each in entries}),
    }


class ProgressCache:
    """How far what is collected of a job has come: worked out once for all pages that follow it."""

    def __init__(self, clock: Callable[[], float] = time.monotonic) -> None:
        self.clock = clock
        self._found: dict[str, tuple[Collector, float, dict[str, Any]]] = {}

    def of(self, key: str, collector: Collector, unit: LengthUnit, mounted: Mounted | None = None) -> dict[str, Any]:
        """How far a collector has come, a travel and an angle as they are typed; no older than pages are told."""
        known = self._found.get(key)
        if known is not None and known[0] is collector and self.clock() - known[1] < EVERY_S:
            return known[2]
        found = collector.progress()
        if found.get("travel") is not None:
            found |= {
                "text": format_fine(found["travel"], unit),
                "unit": unit.value,
                "name": getattr(collector, "length", ""),
            }
        if found.get("gap_deg") is not None and mounted is not None:
            value, side = as_read(mounted.wheel, signed(found["gap_deg"]))
            found["gap"] = f"{value:.0f}{f' {side.value.upper()}' if side else ''}"
        if len(self._found) >= MAX_FOLLOWED:
            self._found.clear()
        self._found[key] = (collector, self.clock(), found)
        return found


def _passed(each: Passed) -> dict[str, Any]:
    return {
        "by": each.by,
        "slot": each.slot,
        "what": each.what,
        "text": each.text,
        "side": each.side,
        "at": round(each.at_s, 3),
    }


def _event(name: str, text: str) -> str:
    return f"event: {name}\ndata: {text}\n\n"


def _here(presence: Presence, job: str) -> list[dict[str, str]]:
    seen = {(each.by, each.station, each.holds) for each in presence.at(job) if each.by}
    titles = {key: station.title for key, station in ORDER.by_key.items()}
    return [
        {"by": by, "station": station, "at": titles.get(station, "overview"), "holds": holds}
        for by, station, holds in sorted(seen)
    ]


def _shown(news: JobUpdates | None, live: Live) -> dict[str, Any]:
    """An instrument for a page: what its figure is as typed, on the wheel as it is mounted or in the job's unit."""
    text, side = "", ""
    length = news.unit if news else LengthUnit.MM
    if live.value is not None:
        text = f"{live.value:.1f}"
        if live.kind == "length":
            text = format_fine(live.value, length)
        elif live.kind == "angle" and news is not None and news.mounted is not None:
            value, on = as_read(news.mounted.wheel, signed(live.value))
            text, side = f"{value:.1f}", on.value if on else ""
    unit = length.value if live.kind == "length" else live.unit
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


@router.post("/jobs/{key}/pass")
async def pass_on(request: Request, key: str) -> Response:
    """Pass half a reading on to whoever else is at this job, or say now; answers the other half, where that waits already."""
    form = await form_of(request)
    by, slot, what = who(request), form.get("slot", "")[:40], form.get("what", "")
    together: Together = request.app.state.together
    if not _KEY.fullmatch(key) or not slot or what not in (WHEEL, DIAL, NOW):
        return JSONResponse({}, 404)
    if not by:
        return JSONResponse({"error": "Say who you are first: tap your initials at the top."}, 422)
    if what != NOW and not form.get("text", "").strip():
        return JSONResponse({"error": "Type what you read first."}, 422)
    other = together.pass_on(key, by, slot, what, form.get("text", "").strip(), form.get("side", ""))
    return JSONResponse({"other": None if other is None else _passed(other)})
