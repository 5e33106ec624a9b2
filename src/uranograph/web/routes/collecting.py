"""What instruments read while something is turned, swept or rocked: begun, watched, and kept as readings."""

from collections.abc import Callable
from typing import TYPE_CHECKING, Any

from fastapi import APIRouter, Request
from fastapi.responses import JSONResponse, Response
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session
from starlette.concurrency import run_in_threadpool

from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.messages import refusal
from uranograph.bench.slots import slot_of
from uranograph.core.angles import signed
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_number
from uranograph.core.wheel import as_read
from uranograph.engine import degree_wheel, runout
from uranograph.engine.cams import KEY, LOBES
from uranograph.instruments import capture
from uranograph.instruments.cooling import CoolingWatch
from uranograph.instruments.paired import Pair, Paired
from uranograph.instruments.rocking import Rocking
from uranograph.instruments.sweeping import Sweeping, ValveSweep
from uranograph.instruments.turning import Turning
from uranograph.instruments.watching import TravelWatch
from uranograph.phase import valve_by_valve
from uranograph.phase.sweep_points import KIND, check_lift
from uranograph.shop import asides, jobs, loading
from uranograph.stations import ORDER
from uranograph.web.bench_page import form_of, load
from uranograph.web.by_instrument import APART, named_for, of_job
from uranograph.web.pages import NOT_WRITTEN, shop_of, who

if TYPE_CHECKING:
    from uranograph.instruments.hub import Hub

router = APIRouter(include_in_schema=False)
Collector = Sweeping | Turning | Rocking | TravelWatch | CoolingWatch
# What is being collected, by job, and how to stop it.
Collecting = dict[str, tuple[Collector, Callable[[], None]]]


@router.post("/jobs/{key}/collect")
async def begin(request: Request, key: str) -> Response:
    """Begin to sweep a lobe, turn a shaft or rock a part; whatever was collected of this job and not kept is forgotten."""
    form = await form_of(request)
    hub = request.app.state.hub
    job = await run_in_threadpool(load, request, key)
    live = {each.kind: each.name for each in of_job(hub.live(), named_for(job)) if each.state == "live"}
    try:
        collector = _collector(form, live, job, hub)
    except InvalidInput as error:
        return JSONResponse({"error": refusal(error)}, 422)
    forget(request.app.state.collecting, key)
    request.app.state.collecting[key] = (collector, hub.listen(collector.take))
    return JSONResponse(collector.progress())


def _collector(form: dict[str, str], live: dict[str, str], job: Job, hub: "Hub") -> Collector:
    what = form.get("what", "")
    if what == "cool":
        if "temperature" not in live:
            raise InvalidInput("what", "no-thermometer-is-live")
        ambient, grips = (parse_number(form.get(name, "")) for name in ("ambient", "grips"))
        watch = CoolingWatch(live["temperature"], ambient, grips)
        watch.left_s()
        return watch
    if what in ("rock", "watch"):
        if "length" not in live:
            raise InvalidInput("what", "no-dial-is-live")
        band = hub.definitions((live["length"],))[0].band
        return Rocking(live["length"], band) if what == "rock" else TravelWatch(live["length"], band)
    if not {"angle", "length"} <= live.keys():
        raise InvalidInput("what", "nothing-to-sweep-with")
    if what == "turn":
        return Turning(live["angle"], live["length"], places=runout.setup(job).places)
    if what.startswith("valve-"):
        number, every = what.removeprefix("valve-"), valve_by_valve.valves(job)
        if not number.isdecimal() or not 1 <= int(number) <= len(every):
            raise InvalidInput("what", "valve-not-there", count=len(every))
        return ValveSweep(live["angle"], live["length"], lobe=every[int(number) - 1].lobe, number=int(number))
    lobe = what.removeprefix("back-")
    if lobe not in LOBES:
        raise InvalidInput("what", "nothing-to-sweep-with")
    return Sweeping(live["angle"], live["length"], lobe=lobe, back=lobe != what)


def forget(collecting: Collecting, key: str) -> None:
    """Stop what is collected of a job, where there is anything."""
    if key in collecting:
        collecting.pop(key)[1]()


@router.post("/jobs/{key}/collect/stop")
def stop(request: Request, key: str) -> Response:
    forget(request.app.state.collecting, key)
    return Response(status_code=204)


@router.post("/jobs/{key}/collect/keep")
def keep(request: Request, key: str) -> Response:
    """Write what was swept or turned down as readings, each with the instruments that it came by."""
    collecting: Collecting = request.app.state.collecting
    found = collecting.get(key)
    try:
        if found is None or not isinstance(found[0], Paired) or not (points := found[0].points()):
            raise InvalidInput("what", "nothing-swept")
        collector, hub = found[0], request.app.state.hub
        how: dict[str, Any] = {
            "unit": LengthUnit.MM,
            "instrument": APART.join((collector.angle, collector.length)),
        }
        doubts = tuple(each.doubt for each in hub.definitions((collector.angle, collector.length)))
        with shop_of(request).write() as session:
            job = loading.load(session, key)
            if isinstance(collector, ValveSweep):
                station = ORDER.by_key[valve_by_valve.KEY]
                entries = [station.label_entry(job, each) for each in _passed(job, collector, how, doubts)]
            elif isinstance(collector, Sweeping):
                entries = _swept(job, collector, points, how | {"uncertainty": doubts})
            else:
                entries = _turned(job, collector, points, how | {"uncertainty": doubts[1:]})
            # Before the readings, so that undoing takes those back first.
            _attach_lines(session, job, collector, entries[0].station, who(request))
            jobs.record_all(session, key, entries, who(request))
    except InvalidInput as error:
        return JSONResponse({"error": refusal(error)}, 422)
    except jobs.Changed as error:
        return JSONResponse({"error": str(error)}, 409)
    except SQLAlchemyError:
        return JSONResponse({"error": NOT_WRITTEN}, 503)
    forget(collecting, key)
    return JSONResponse({"kept": len(entries)})


def _attach_lines(session: Session, job: Job, collector: Paired, station: str, by: str) -> None:
    """Keep the lines that a sweep or a turn came by, as a capture that can be played again."""
    lines = capture.written(collector.lines).encode()[: asides.LARGEST_PHOTO]
    whole = lines[: lines.rfind(b"\n") + 1]
    if whole and asides.has_room_for_capture(job):
        asides.attach(session, job.key, station, f"lines of {collector.title}", whole, by)


def _swept(job: Job, sweep: Sweeping, points: list[Pair], how: dict[str, Any]) -> list[Entry]:
    mounted = degree_wheel.wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    first, kind = job.next_number(KEY, KIND[sweep.lobe]), KIND[sweep.lobe]
    entries = []
    for k, each in enumerate(points):
        value, side = as_read(mounted.wheel, signed(each.deg))
        where: dict[str, Any] = {
            "approach": "backward" if sweep.back else "forward",
            "side": side.value if side else None,
            "second": f"{each.mm:.3f}mm",
            "raw": each.raw or None,
        }
        entries.append(Entry(KEY, slot_of(kind, first + k, "point"), f"{value:.1f}", **where, **how))
    return entries


def _passed(job: Job, swept: ValveSweep, how: dict[str, Any], doubts: tuple[float, ...]) -> list[Entry]:
    """Greatest lift, opening and closing of one valve."""
    mounted = degree_wheel.wheel_of(job)
    if mounted is None:
        raise InvalidInput("text", "wheel-missing")
    found, key = swept.read(check_lift(job)), valve_by_valve.KEY
    kind = f"lift-{swept.number}"
    slot = valve_by_valve.LIFT.next(job, kind)
    lift = how | {"uncertainty": doubts[1:], "raw": found.lift.raw or None}
    entries = [Entry(key, slot, f"{found.lift.mm:.3f}mm", **lift)]
    for what, at in (("opens", found.opens), ("closes", found.closes)):
        value, side = as_read(mounted.wheel, signed(at.deg))
        slot = valve_by_valve.EVENT.next(job, f"{what}-{swept.number}")
        event: dict[str, Any] = how | {"uncertainty": doubts, "raw": at.raw or None}
        entries.append(Entry(key, slot, f"{value:.1f}", side=side.value if side else None, **event))
    return entries


def _turned(job: Job, turn: Paired, points: list[Pair], how: dict[str, Any]) -> list[Entry]:
    """The places of a new round; its first place again at the end."""
    number = max((each.number for each in runout.rounds(job)), default=0) + 1
    kind = f"set-{number}"
    first = job.next_number(runout.KEY, kind)
    return [
        Entry(
            runout.KEY,
            slot_of(kind, first + k, "dial"),
            f"{each.mm:.4f}mm",
            second=f"{each.deg:.1f}",
            raw=each.raw or None,
            **how,
        )
        for k, each in enumerate(points)
    ]
