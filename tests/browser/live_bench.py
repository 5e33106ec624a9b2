"""A made-up engine whose instruments say what they show, and a job of it, for tests with nobody typing a figure."""

import json
import re
import threading
import time
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from itertools import count
from uuid import uuid4

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server
from tests.hands import WHEEL
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.core.wheel import Scale, Wheel, as_read
from uranograph.instruments.simulator import Server as Lines
from uranograph.practice.forms import card_form, engine_form
from uranograph.shop import instrument_shelf, jobs, loading
from uranograph.shop.database import Shop
from uranograph.world import geometry

# What takes two seconds by itself may take this long beside other tests.
PATIENCE_S = 120.0
PATIENCE_MS = 1000 * PATIENCE_S


def set_up(server: Server, lines: Lines) -> str:
    """A job with its forms filled in, and three instruments on one line."""
    world = lines.simulator.world
    shop = Shop(server.database)
    with shop.write() as session:
        key = jobs.begin(session, "Degreed by its instruments", "QZ", uuid4().hex)
        forms = {
            "engine": engine_form(world),
            "way": {"way": "degree"},
            "card": card_form(world),
            "wheel": WHEEL | {"division": "1"},
        }
        for kind, typed in forms.items():
            jobs.save_form(session, key, kind, typed, "QZ")
        common = {"url": lines.url, "pattern": "channels"}
        for own in (
            {"name": "E1", "kind": "angle", "channel": "angle", "line_unit": "deg"},
            {"name": "D1", "kind": "length", "channel": "dial", "line_unit": "mm"},
            {"name": "T1", "kind": "temperature", "channel": "temp", "line_unit": "C"},
        ):
            instrument_shelf.keep(session, common | own, "QZ")
    shop.close()
    return key


def take_up(page: Page, server: Server) -> None:
    """Have the server read what was put on its list behind its back: the list is kept once more."""
    page.goto(f"{server.url}/instruments?edit=E1")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.locator("[data-shows=E1]")).to_contain_text("deg", timeout=PATIENCE_MS)


def until(is_so: Callable[[], bool], what: str) -> None:
    """Wait until something is so, however slow the machine is."""
    for _ in range(int(PATIENCE_S / 0.1)):
        if is_so():
            return
        time.sleep(0.1)
    raise AssertionError(what)


def rests(lines: Lines) -> None:
    """Wait until the hand at the engine has done what it was about to do."""
    until(lambda: lines.simulator.is_idle, "it never came to rest")


def told(page: Page, words: str | re.Pattern[str]) -> None:
    """Wait until the page says so of what is collected."""
    expect(page.locator("[data-collect-words]")).to_contain_text(words, timeout=PATIENCE_MS)


def job_of(server: Server, key: str) -> Job:
    """The job as it is written."""
    shop = Shop(server.database)
    with shop.read() as session:
        found = loading.load(session, key)
    shop.close()
    return found


def contacts(server: Server, key: str, lines: Lines) -> None:
    """Both contacts with a stop, as the encoder shows them."""
    world = lines.simulator.world
    half, zero = geometry.stop_half_deg(world.but(stop_depth_mm=8.0)), world.state.wheel.zero_deg
    assert half is not None
    shop = Shop(server.database)
    with shop.write() as session:
        job = loading.load(session, key)
        number = job.next_number("tdc", "stop")
        for place, at in (("before", -half), ("after", half)):
            value, side = as_read(Wheel(scale=Scale.HALF), round(at + zero, 1))
            slot = f"stop.{number}.{place}"
            entry = Entry(
                "tdc", slot, f"{value:.1f}", side.value if side else None, instrument="E1", uncertainty=(0.1,), raw="x"
            )
            jobs.record(session, key, entry, "QZ", None, None)
    shop.close()


def dial_on(lines: Lines, on: str, to_deg: float | None = None) -> None:
    """Put the dial on something with its base circle under it, at rest, and zero it."""
    lines.simulator.do("dial", on)
    if to_deg is not None:
        lines.simulator.do("to", by=to_deg % 720)
        rests(lines)
    lines.simulator.do("zero-dial")
    time.sleep(0.3)


@contextmanager
def saying(page: Page, server: Server, typed: dict[str, str]) -> Iterator[list[str]]:
    """An instrument of its own whose newest line is what stands in the list that is given; off the shop's list at the end."""
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    name, run = typed["name"], uuid4().hex
    page.request.post(
        f"{server.url}/instruments", form={"pattern": "number", "url": f"bridge:{name}", "by": "QZ", **typed}, **sent
    )
    ended, level = threading.Event(), [""]

    def says() -> None:
        for n in count():
            if level[0]:
                line = {"n": n, "t": time.monotonic(), "raw": level[0]}
                body = json.dumps({"name": name, "run": run, "lines": [line]}).encode()
                asked = urllib.request.Request(
                    f"{server.url}/instruments/lines", body, {"Content-Type": "application/json"}
                )
                urllib.request.urlopen(asked, timeout=5).close()
            if ended.wait(0.03):
                return

    thread = threading.Thread(target=says, daemon=True)
    thread.start()
    try:
        yield level
    finally:
        ended.set()
        thread.join(5)
        page.request.post(f"{server.url}/instruments/remove", form={"name": name, "by": "QZ"}, **sent)
