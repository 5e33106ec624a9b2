"""`make bench`: speed as ratios and budgets, measured in one run. Exits 1 where a bound is broken."""

import asyncio
import gc
import http.client
import math
import random
import resource
import secrets
import socket
import statistics
import subprocess
import sys
import tempfile
import threading
import time
from collections import deque
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from pathlib import Path
from typing import Any
from urllib.request import urlopen

from fastapi import FastAPI, Request
from fastapi.responses import Response
from playwright.sync_api import sync_playwright
from sqlalchemy import insert
from starlette.routing import Route

from tests.bench_live import many_at_one_job
from tests.browser.conftest import CHROMIUM, CHROMIUM_ARGS, Server
from tests.hands import CARD, ENGINE, WHEEL, a_job
from tests.outcomes.made_up import Engine
from tests.outcomes.play import AT, Bench
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Note
from uranograph.core.adjust import AdjustInput, adjust
from uranograph.core.clearance import PistonToValveInput, piston_to_valve
from uranograph.core.lobe import CosineLobe, lift_at, profile
from uranograph.core.plan import PlanInput, first_plan, plan
from uranograph.core.quantities import LengthUnit
from uranograph.core.schedule import Task, understood
from uranograph.core.shims import ShimsInput, shims
from uranograph.core.sweep import SweepInput, sweep
from uranograph.demo.shop import furnish
from uranograph.evidence.faults import Weighing
from uranograph.phase import judgment, next_reading, observations
from uranograph.practice import scene
from uranograph.practice import session as practice
from uranograph.shop import exchange, jobs, judging, loading, whole
from uranograph.shop.database import Shop
from uranograph.shop.entries import payload_of
from uranograph.shop.exchange import as_job
from uranograph.shop.job_files import StoredJob
from uranograph.shop.tables import EntryRow, JobRow
from uranograph.shop.upcasters import VERSION
from uranograph.web.app import create_app
from uranograph.web.pages import templates
from uranograph.web.settings import Settings
from uranograph.world.acts import Act

broken: list[str] = []
# A fragment has its verdict, worked out after a reading that was really written.
FRAGMENT = {"": 4.5, "degree": 7.0}


def tell(what: str, value: float, bound: float, unit: str = "x") -> None:
    ok = value <= bound
    print(f"{'ok  ' if ok else 'OVER'} {what:58} {value:9.2f} {unit:3} (bound {bound:g})")
    if not ok:
        broken.append(what)


async def ask(app: FastAPI, path: str, fragment: bool = False) -> bytes:
    """One request straight into the application, without a network between."""
    target, _, query = path.partition("?")
    headers = [(b"host", b"127.0.0.1"), (b"cookie", b"uranograph_by=RK")] + (
        [(b"hx-request", b"true")] if fragment else []
    )
    scope = {
        "type": "http",
        "asgi": {"version": "3.0"},
        "http_version": "1.1",
        "method": "GET",
        "scheme": "http",
        "path": target,
        "raw_path": target.encode(),
        "query_string": query.encode(),
        "root_path": "",
        "headers": headers,
        "client": ("bench", 1),
        "server": ("bench", 80),
        "app": app,
    }
    body = []

    async def receive() -> dict[str, Any]:
        return {"type": "http.request", "body": b"", "more_body": False}

    async def send(message: Any) -> None:
        if message["type"] == "http.response.start":
            assert message["status"] == 200, (path, message["status"])
        body.append(message.get("body", b""))

    await app(scope, receive, send)
    return b"".join(body)


def timed(run: Callable[[], object]) -> float:
    start = time.perf_counter()
    run()
    return time.perf_counter() - start


def worked(run: Callable[[], object]) -> float:
    """Seconds of the processor."""
    start = time.process_time()
    run()
    return time.process_time() - start


def p95(times: list[float]) -> float:
    return statistics.quantiles(times, n=20)[-1]


def read_again(app: FastAPI, path: str) -> None:
    """Write to the job of a page: its station's last reading is voided, and the same is read again."""
    key, station = path.split("?")[0].split("/")[-2:]
    with app.state.shop.write() as session:
        last = loading.load(session, key).active_readings(station)[-1]
        jobs.void(session, key, last.id, "typing slip", "RK")
    with app.state.shop.write() as session:
        jobs.record(session, key, Entry(**last.fields), "RK", secrets.token_hex(12), None)


def side_by_side(app: FastAPI, one: str, other: str, rounds: int = 200, fragment: bool = False) -> float:
    """p95 of one page over p95 of another, taken in turn."""

    async def measure() -> float:
        times: dict[str, list[float]] = {one: [], other: []}
        for n in range(rounds + 20):
            for path in (one, other):
                if fragment and path == one:
                    read_again(app, one)
                # Collected between requests rather than within one of the two.
                gc.collect(0)
                start = time.perf_counter()
                await ask(app, path, fragment and path == one)
                if n >= 20:
                    times[path].append(time.perf_counter() - start)
        return p95(times[one]) / p95(times[other])

    gc.disable()
    try:
        return asyncio.run(measure())
    finally:
        gc.enable()


def with_bare_page(app: FastAPI) -> None:
    """Add a page that only renders: a template with one line for each eighty characters."""
    bare = templates.env.from_string(
        "<!doctype html><title>{{ title }}</title>{% for row in rows %}<p>{{ row }}</p>\n{% endfor %}"
    )

    def page(request: Request) -> Response:
        rows = [f"line {n} {'x' * 60}" for n in range(int(request.query_params["size"]) // 80)]
        return Response(bare.render(title="bare", rows=rows), media_type="text/html")

    app.router.routes.insert(0, Route("/bare", page))


def pages(folder: Path) -> None:
    shop = Shop(folder / "demo.db")
    shop.migrate()
    furnish(shop)
    app = create_app(Settings(database=shop.path))
    app.state.shop = shop
    with_bare_page(app)
    with shop.read() as session:
        by_title = {job.title.split()[0]: job.key for job in loading.page(session).jobs}
    key = by_title["Railcar"]
    views = [(key, station) for station in ("engine", "card", "wheel", "tdc", "degree", "adjust", "sheet", "overview")]
    views += [(by_title["Pilot"], station) for station in ("train", "marks", "backlash")]
    views += [(key, "piston-valve"), *((by_title["Harbor"], s) for s in ("turn-over", "valve-lash", "lock-up"))]
    views.append((by_title["Ferry"], "change-plan"))
    kinds = [(job, station, False) for job, station in views]
    # Fragments last: each is timed after a reading that was really written, so the jobs grow.
    kinds += [(job, station, True) for job, station in views if station in ("tdc", "degree", "marks", "backlash")]
    for job, station, fragment in kinds:
        path = f"/jobs/{job}/{station}"
        size = len(asyncio.run(ask(app, path, fragment)))
        ratio = side_by_side(app, path, f"/bare?size={size}", rounds=60 if fragment else 200, fragment=fragment)
        kind = "fragment" if fragment else "page"
        bound = FRAGMENT.get(station, FRAGMENT[""]) if fragment else 2.5
        tell(f"{station} {kind}, {size / 1000:.0f} kB, against a bare page of its size", ratio, bound)

    async def slide() -> list[float]:
        times = []
        for n in range(120):
            start = time.perf_counter()
            await ask(app, f"/jobs/{key}/what-if?intake={n % 15}", fragment=True)
            times.append(time.perf_counter() - start)
        return times[20:]

    tell("what-if slider answer, p95", 1000 * p95(asyncio.run(slide())), 16, "ms")
    shop.close()


def proving() -> None:
    """Clearances at every position, and the plan of a change."""
    lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=10)
    given = PistonToValveInput(
        stroke_mm=96,
        rod_mm=168,
        drop_at_tdc_mm=6,
        valve_angle_deg=15,
        lift_points=profile(lobe, 180),
        shifts_deg=[k / 2 for k in range(-20, 21)],
        minimum_mm=2,
    )
    piston_to_valve(given)
    tell(
        "piston to valve at 41 positions",
        1000 * p95([timed(lambda: piston_to_valve(given)) for _ in range(40)]),
        20,
        "ms",
    )
    tasks = [
        Task(name=f"t{k}", minutes=5 + 7 * k % 23, hands=1 + k % 3, after=[f"t{k - 3}"] * (k > 2)) for k in range(10)
    ]
    ten = PlanInput(tasks=tasks, hands=3)
    plan(ten)
    tell("plan of ten tasks and three hands", max(timed(lambda: plan(ten)) for _ in range(5)), 0.5, "s")
    forty = [
        Task(name=f"t{k}", minutes=5 + 7 * k % 23, hands=1 + k % 3, after=[f"t{k - 3}"] * (k > 2)) for k in range(40)
    ]
    work = understood(forty, 3)
    tell("first plan of forty tasks", 1000 * p95([timed(lambda: first_plan(work)) for _ in range(20)]), 100, "ms")


def fill(path: Path, count: int, readings_each: int) -> Shop:
    """A shop with many jobs, written row by row as an import would."""
    shop = Shop(path)
    shop.migrate()
    start = datetime(2026, 1, 1, tzinfo=UTC)
    with shop.write() as session:
        session.execute(
            insert(JobRow),
            [
                {"id": n, "key": f"k{n}", "token": f"t{n}", "title": f"Job {n}", "created_at": start}
                | {"touched_at": start + timedelta(minutes=n), "seq": 3 + readings_each}
                for n in range(1, count + 1)
            ],
        )
        forms = (("engine", ENGINE), ("card", CARD), ("wheel", WHEEL))
        session.execute(
            insert(EntryRow),
            [
                {"job_id": n, "seq": seq, "kind": "sheet", "version": VERSION, "station": "", "by": "QZ", "at": start}
                | {"payload": {"kind": kind, "typed": typed}}
                for n in range(1, count + 1)
                for seq, (kind, typed) in enumerate(forms, 1)
            ],
        )
        blank = {"unit": "mm", "instrument": "by eye", "approach": "forward"}
        of_all = {"kind": "reading", "version": VERSION, "station": "tdc", "by": "QZ", "at": start}
        for first in range(1, count + 1, 500):
            session.execute(
                insert(EntryRow),
                [
                    {
                        "job_id": n,
                        "seq": 4 + k,
                        **of_all,
                        "payload": {"slot": f"stop.{1 + k // 2}.{place}", **side, **blank},
                    }
                    for n in range(first, min(first + 500, count + 1))
                    for k in range(readings_each)
                    for place in ("before" if k % 2 == 0 else "after",)
                    for side in ({"text": "40", "side": "btdc" if k % 2 == 0 else "atdc"},)
                ],
            )
    return shop


def job_list(folder: Path) -> None:
    small, large = fill(folder / "small.db", 100, 50), fill(folder / "large.db", 10_000, 50)
    apps = []
    for shop in (small, large):
        app = create_app(Settings(database=shop.path))
        app.state.shop = shop
        apps.append(app)

    async def measure() -> float:
        times: list[list[float]] = [[], []]
        for n in range(50):
            for which, app in enumerate(apps):
                start = time.perf_counter()
                await ask(app, "/")
                if n >= 5:
                    times[which].append(time.perf_counter() - start)
        return statistics.median(times[1]) / statistics.median(times[0])

    tell("job list, 10,000 jobs and 500,000 readings against 100", asyncio.run(measure()), 1.1)
    small.close()
    large.close()


def record(folder: Path) -> None:
    """What is kept: taken out, judged from the file, written to by many at once."""
    shop = Shop(folder / "long.db")
    shop.migrate()
    with shop.write() as session:
        key = a_job(session)
        row = loading.row_of(session, key)
        places = (("tdc", "stop", "before", "40", "btdc"), ("tdc", "stop", "after", "40", "atdc"))
        events = tuple(
            ("degree", kind, "forward", text, side)
            for kind, text, side in (
                ("io", "12", "btdc"),
                ("ic", "128", "btdc"),
                ("eo", "126", "atdc"),
                ("ec", "14", "atdc"),
            )
        )
        for n in range(1, 834):
            for station, kind, place, text, side in (*places, *events):
                entry = Entry(station, f"{kind}.{n}.{place}", text, side, unit=LengthUnit.MM)
                jobs._append(session, row, "reading", payload_of(entry), "QZ", row.created_at, station)
    with shop.read() as session:
        tell("file of a job of 5,000 readings", 1000 * worked(lambda: exchange.file_of(session, key)), 1000, "ms")

        def judged() -> None:
            judging.judge_job(loading.load(session, key), judging.Last(*jobs.last_written(session, key)))

        tell("overview's data of a job of 5,000 readings, from the file", 1000 * worked(judged), 500, "ms")
    shop.close()
    large = fill(folder / "whole.db", 10_000, 15)
    with large.read() as session:
        tell("shop of 10,000 jobs of 18 entries as one file", worked(lambda: deque(whole.lines(session), 0)), 10, "s")
    large.close()
    few = fill(folder / "few.db", 100, 15)
    _many_at_once(few)
    few.close()


def _many_at_once(shop: Shop) -> None:
    times: list[float] = []
    refused: list[Exception] = []
    ended = threading.Event()

    def write(n: int) -> None:
        for k in range(40):
            start = time.perf_counter()
            try:
                with shop.write() as session:
                    jobs.annotate(session, f"k{n}", Note(station="engine", words=f"{k}"), "QZ")
            except Exception as error:
                refused.append(error)
            times.append(time.perf_counter() - start)

    def read() -> None:
        while not ended.is_set():
            with shop.read() as session:
                loading.page(session)

    readers = [threading.Thread(target=read) for _ in range(20)]
    writers = [threading.Thread(target=write, args=(n,)) for n in range(1, 9)]
    for each in (*readers, *writers):
        each.start()
    for each in writers:
        each.join()
    ended.set()
    for each in readers:
        each.join()
    tell("eight who write beside twenty who read, p95", 1000 * p95(times), 300, "ms")
    tell("of 320 such writings refused", len(refused), 0, "")


def memory(folder: Path) -> None:
    """What the server holds after it has shown three pages of each of a thousand jobs."""
    shop = fill(folder / "looked.db", 1000, 30)
    shop.close()
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        port = found.getsockname()[1]
    command = [
        str(Path(sys.executable).parent / "uranograph"),
        "serve",
        "--database",
        str(shop.path),
        "--port",
        str(port),
    ]
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
    try:
        time.sleep(4)
        line = http.client.HTTPConnection("127.0.0.1", port)
        for n in range(1, 1001):
            for page in ("overview", "tdc", "sheet"):
                line.request("GET", f"/jobs/k{n}/{page}")
                line.getresponse().read()
        pages_held = int(Path(f"/proc/{server.pid}/statm").read_text().split()[1])
        tell("memory after 1,000 jobs looked at", pages_held * 4096 / 1e6, 150, "MB")
    finally:
        server.kill()
        server.wait()


def analysis() -> None:
    lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    points = [(a / 2, lift_at(lobe, a / 2)) for a in range(-200, 520)]
    given = SweepInput(lobe="intake", points=points, check_lift_mm=1.27)
    four = [timed(lambda: [sweep(given) for _ in range(4)]) for _ in range(30)]
    tell("720-point sweeps of four lobes, median", 1000 * statistics.median(four), 10, "ms")
    adjusters = [
        {"kind": "tooth", "crank_teeth": 24, "max_teeth": 2},
        {"kind": "slot", "range_deg": 10, "step_deg": 0.02},
    ]
    search = AdjustInput(error_deg=3.3, adjusters=adjusters)
    times = [timed(lambda: adjust(search)) for _ in range(30)]
    tell("adjuster search of 5,005 combinations, median", 1000 * statistics.median(times), 5, "ms")


def evidence() -> None:
    """A job with 200 readings at one position: two swept lobes, and all else read by hand again and again."""
    bench = Bench(Engine(random.Random(5)), "events")
    bench.stop()
    for lobe in ("intake", "exhaust"):
        true = bench.engine.lobes[lobe]
        for n, angle in enumerate(range(round(true.middle) - 160, round(true.middle) + 160, 4), 1):
            lift = max(0.0, true.lift * math.cos(min(1.0, abs(angle - true.middle) / 150) * math.pi / 2) ** 2)
            text, side = bench.engine.figure_of(angle)
            bench.read("degree", f"sweep-{lobe}.{n}.point", text, side, drop=f"{lift:.3f}")
    for _ in range(3):
        bench.plan(("intake", "exhaust"))
        bench.stop()
        for lobe in ("intake", "exhaust"):
            bench.lifts(lobe, "1.25", again=True)
    while len([each for each in bench.entries if each["type"] == "reading"]) < 200:
        bench.stop()
    job = as_job(
        StoredJob.model_validate({"title": "200", "created_at": AT, "touched_at": AT, "entries": bench.entries})
    )
    found = observations.gathered(job)
    assert found is not None
    weigh = [timed(lambda: Weighing(found.readings, found.expected, found.setup)) for _ in range(20)]
    tell("evidence of a job with 200 readings, median", 1000 * statistics.median(weigh), 30, "ms")
    first = judgment.judged(job)
    next_one = [timed(lambda: next_reading.next_reading(as_job_again(bench))) for _ in range(8)]
    assert first
    tell("its verdict, questions and next reading from the file, median", 1000 * statistics.median(next_one), 100, "ms")


def as_job_again(bench: Bench) -> Job:
    """The same job with one more act of no weight, so that nothing is kept from before."""
    bench.stop()
    return as_job(
        StoredJob.model_validate({"title": "200", "created_at": AT, "touched_at": AT, "entries": bench.entries})
    )


def packs() -> None:
    stock = [round(0.05 + 0.0137 * n, 4) for n in range(40)]
    given = ShimsInput(wanted_mm=1.2345, stock_mm=stock, max_count=6)
    times = [timed(lambda: shims(given)) for _ in range(20)]
    tell("shim pack of up to six from 40 thicknesses, median", 1000 * statistics.median(times), 50, "ms")


def turning(folder: Path) -> None:
    """Ten gears turned by ten turns in the browser: the time between pictures against a screen's own sixtieth."""
    typed = {"g1_name": "crank", "g1_teeth": "24", "unit": "mm"}
    for n in range(2, 11):
        typed |= {f"g{n}_name": f"gear {n}", f"g{n}_teeth": "24", f"g{n}_on": str(n - 1)}
    typed |= {"g10_teeth": "48", "g10_role": "cam"}
    server = Server(folder / "gears.db")
    shop = Shop(server.database)
    shop.migrate()
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "train", typed, "QZ")
    shop.close()
    server.start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{server.url}/jobs/{key}/marks")
            at = page.evaluate(
                """() => new Promise((done) => {
                  document.querySelector('[data-step="48"]').click();
                  const at = [];
                  const step = (now) => { at.push(now); at.length < 30 ? requestAnimationFrame(step) : done(at); };
                  requestAnimationFrame(step);
                })"""
            )
            browser.close()
    finally:
        server.stop()
    gaps = [later - earlier for earlier, later in pairwise(at)]
    tell("ten gears turning, a picture against a sixtieth, median", statistics.median(gaps) / (1000 / 60), 1.1)


def practicing(folder: Path) -> None:
    """The made-up engine turned: the server's answer after many turns, and the time between pictures while one turns it."""
    server = Server(folder / "practice.db")
    shop = Shop(server.database)
    shop.migrate()
    with shop.write() as session:
        key = practice.begin(session, 3, "QZ", seed=11)
    times = []
    for _ in range(400):
        start = time.perf_counter()
        with shop.write() as session:
            found = practice.practice_of(session, key)
            assert found is not None
            world, _ = practice.do(session, found, [Act("turn", by=7.25)])
        scene.turning(world, whole=False)
        times.append(1000 * (time.perf_counter() - start))
    tell("a turn of the made-up engine kept, p95 of the last 100", p95(times[-100:]), 30, "ms")
    shop.close()
    server.start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
            page = browser.new_page(viewport={"width": 1280, "height": 800})
            page.goto(f"{server.url}/jobs/{key}/degree")
            page.wait_for_function("() => document.getElementById('needle').hasAttribute('transform')")
            at = page.evaluate(
                """() => new Promise((done) => {
                  const at = [];
                  const step = (now) => {
                    document.body.dispatchEvent(new KeyboardEvent('keydown', {key: 'ArrowRight', bubbles: true}));
                    at.push(now);
                    at.length < 60 ? requestAnimationFrame(step) : done(at);
                  };
                  requestAnimationFrame(step);
                })"""
            )
            browser.close()
    finally:
        server.stop()
    gaps = [later - earlier for earlier, later in pairwise(at)]
    tell("the made-up engine turning, a picture against a sixtieth, median", statistics.median(gaps) / (1000 / 60), 1.1)


def start_up(folder: Path) -> None:
    starts = [_one_start(folder) for _ in range(3)]
    tell(
        "first page after serve starts, median of three", statistics.median(seconds for seconds, _ in starts), 1.6, "s"
    )
    tell("resident memory of the server", max(megabytes for _, megabytes in starts), 150, "MB")


def _one_start(folder: Path) -> tuple[float, float]:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    command = [
        sys.executable,
        "-m",
        "uranograph.cli",
        "serve",
        "--database",
        str(folder / "demo.db"),
        "--port",
        str(port),
    ]
    start = time.perf_counter()
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL)
    try:
        while True:
            try:
                urlopen(f"http://127.0.0.1:{port}/", timeout=5).close()
                break
            except OSError:
                time.sleep(0.01)
        seconds = time.perf_counter() - start
        status = Path(f"/proc/{process.pid}/status")
        lines = status.read_text().splitlines() if status.exists() else ["VmRSS: 0 kB"]
        return seconds, int(next(line for line in lines if line.startswith("VmRSS")).split()[1]) / 1024
    finally:
        process.kill()
        process.wait()


def main() -> int:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        pages(folder)
        analysis()
        evidence()
        proving()
        packs()
        turning(folder)
        practicing(folder)
        many_at_one_job(folder, tell, p95)
        job_list(folder)
        record(folder)
        memory(folder)
        start_up(folder)
    print(f"peak memory of this run {resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB")
    return 1 if broken else 0


if __name__ == "__main__":
    sys.exit(main())
