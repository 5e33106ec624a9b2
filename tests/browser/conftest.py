"""The real interface in headless Chromium, over a server of its own."""

import multiprocessing
import re
import socket
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from shutil import copyfile
from typing import TYPE_CHECKING, Any
from urllib.error import HTTPError
from urllib.parse import urlencode
from urllib.request import Request as Asked
from urllib.request import urlopen
from uuid import uuid4

import pytest
from playwright.sync_api import Browser, ConsoleMessage, Error, Page, Request, expect, sync_playwright

from tests.browser.serving import serve
from tests.hands import CARD, ENGINE, WHEEL
from uranograph.instruments.simulator import Server as Lines
from uranograph.instruments.simulator import Simulator, engine

if TYPE_CHECKING:
    from multiprocessing.process import BaseProcess

# A machine that runs three windows at once is slow at times; nothing waits longer than it has to.
expect.set_options(timeout=20_000)

CHROMIUM = "/usr/bin/chromium"
# The made-up engine whose instruments say what they show.
LIVE_SEED = 7
CHROMIUM_ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
DESK: dict[str, Any] = {"viewport": {"width": 1280, "height": 800}}
PHONE: dict[str, Any] = {"viewport": {"width": 390, "height": 844}, "has_touch": True, "is_mobile": True}


# Begun from a process that has the program loaded: loading it anew costs a test two seconds. What starts the command itself
# is in test_commands and test_installed.
READY = multiprocessing.get_context("forkserver")
READY.set_forkserver_preload(["tests.browser.serving"])


class Server:
    """`uranograph serve` as a process that can be stopped and started again on the same port."""

    def __init__(self, database: Path) -> None:
        self.database = database
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: BaseProcess | None = None

    def start(self) -> None:
        self.process = READY.Process(target=serve, args=(self.database, self.port), daemon=True)
        self.process.start()
        for _ in range(600):
            try:
                urlopen(self.url, timeout=1).close()
                return
            except OSError:
                time.sleep(0.05)
        self.stop()
        raise RuntimeError("the server did not come up")

    def stop(self) -> None:
        if self.process:
            self.process.kill()
            self.process.join()
            self.process = None


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        opened = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
        yield opened
        opened.close()


def served(file: Path, folder: Path) -> Iterator[Server]:
    """A server over a copy of a shop."""
    copyfile(file, folder / "shop.db")
    running = Server(folder / "shop.db")
    running.start()
    yield running
    running.stop()


@pytest.fixture
def own_server(empty_file: Path, tmp_path: Path) -> Iterator[Server]:
    """A server that a test may stop, over an empty shop."""
    yield from served(empty_file, tmp_path)


@pytest.fixture(scope="session")
def server(empty_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """A server over a shop that tests share, each with jobs of its own."""
    yield from served(empty_file, tmp_path_factory.mktemp("shared"))


@pytest.fixture(scope="session")
def demo(demo_file: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """A server over the demo's shop, only to be looked at."""
    yield from served(demo_file, tmp_path_factory.mktemp("demo"))


@pytest.fixture(scope="session")
def desk(browser: Browser) -> Iterator[Page]:
    """A window on a desk, which tests share: a new one costs as much time as five visits."""
    yield from window(browser, DESK)


@pytest.fixture(scope="session")
def phone(browser: Browser) -> Iterator[Page]:
    """A window on a phone, which tests share."""
    yield from window(browser, PHONE)


def window(browser: Browser, kind: dict[str, Any]) -> Iterator[Page]:
    context = browser.new_context(**kind)
    yield context.new_page()
    context.close()


def as_new(page: Page, kind: dict[str, Any]) -> Page:
    """The same window without anything that was done in it, but for files that a browser keeps."""
    for other in page.context.pages:
        if other is not page:
            other.close()
    page.unroute_all(behavior="ignoreErrors")
    if page.url.startswith("http"):
        page.evaluate("[localStorage, sessionStorage].forEach((each) => each.clear())")
    page.goto("about:blank")
    page.context.clear_cookies()
    page.set_viewport_size(kind["viewport"])
    page.emulate_media(color_scheme="null", forced_colors="null", reduced_motion="null")
    return page


@contextmanager
def watched(opened: Page) -> Iterator[None]:
    """Fail where something goes wrong in a page: a script fails, or anything is asked of another machine."""
    faults: list[str] = []

    def failed(error: Error) -> None:
        faults.append(f"script: {error}")

    def logged(line: ConsoleMessage) -> None:
        if "Content Security Policy" in line.text:
            faults.append(line.text)

    def asked(request: Request) -> None:
        if not request.url.startswith(("http://127.0.0.1:", "data:", "blob:")):
            faults.append(request.url)

    opened.on("pageerror", failed)
    opened.on("console", logged)
    opened.context.on("request", asked)
    yield
    opened.remove_listener("pageerror", failed)
    opened.remove_listener("console", logged)
    opened.context.remove_listener("request", asked)
    assert faults == []


@pytest.fixture
def page(desk: Page) -> Iterator[Page]:
    """A window that fails the test when something goes wrong in it."""
    with watched(as_new(desk, DESK)):
        yield desk


def signed_in(page: Page, server: Server, by: str = "RK") -> None:
    """The initials that a browser remembers."""
    page.context.add_cookies([{"name": "uranograph_by", "value": by, "url": server.url}])


def begin_job(page: Page, server: Server, title: str = "Test four", **change: str) -> str:
    """Describe an engine on the new-job page and return the job's key."""
    page.goto(f"{server.url}/jobs/new")
    page.get_by_text("Valvetrain, stroke and rod").click()
    typed = {"title": title, "by": "QZ", "cylinders": "4", "firing_order": "1-3-4-2", "stroke": "84mm", "rod": "150mm"}
    for name, text in {**typed, **change}.items():
        page.fill(f"#{name}", text)
    page.get_by_role("button", name="Begin the job").click()
    page.wait_for_url("**/card")
    return page.url.split("/")[-2]


def described(page: Page, server: Server, title: str = "Test four", scale: str = "quarter") -> str:
    """A job with engine, card and wheel, sent without the pages, and its key."""
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    answer = page.request.post(
        f"{server.url}/jobs/new", form={**ENGINE, "title": title, "by": "QZ", "token": uuid4().hex}, **sent
    )
    key = answer.headers["location"].split("/")[2]
    page.request.post(f"{server.url}/jobs/{key}/card", form=CARD, **sent)
    page.request.post(f"{server.url}/jobs/{key}/wheel", form={**WHEEL, "scale": scale}, **sent)
    return key


def walk_to(page: Page, station: str) -> None:
    """Press the key for the next station until it is there."""
    for _ in range(20):
        if page.url.split("?")[0].endswith(f"/{station}"):
            return
        here = page.url
        page.keyboard.press("Escape")
        page.keyboard.press("]")
        page.wait_for_url(lambda url, here=here: url != here)
    raise AssertionError(f"{station} is not after {page.url}")


@pytest.fixture(scope="session")
def demo_keys(demo: Server) -> dict[str, str]:
    """The key of each demo job, by the first word of its title."""
    with urlopen(demo.url) as answer:
        listed = answer.read().decode()
    cards = re.findall(r'<a href="/jobs/(\w+)/.*?class="job-title">(\w+)', listed, re.DOTALL)
    return {title: key for key, title in cards}


def demo_path(demo: Server, keys: dict[str, str], view: str) -> str:
    if view.startswith("/"):
        return demo.url + view
    title, _, station = view.partition("/") if view[0].isupper() else ("Railcar", "", view)
    return f"{demo.url}/jobs/{keys[title]}/{station}"


def headings(page: Page) -> list[int]:
    levels = page.locator("h1, h2, h3, h4").evaluate_all(
        "all => all.filter(each => each.checkVisibility()).map(each => Number(each.tagName[1]))"
    )
    return [int(level) for level in levels]


def ready_for_top(page: Page, server: Server) -> str:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    expect(page.locator("[data-reading]")).to_be_focused()
    return key


def slot(page: Page) -> str:
    return page.locator("form.reading-form input[name=slot]").input_value()


def events_read(page: Page, server: Server, key: str, late_deg: float = 0.0) -> None:
    """The four events on a half wheel, of a cam so late against IO 12, IC 52, EO 54, EC 14."""
    shown = {"io": 12 - late_deg, "ic": 128 - late_deg, "eo": 126 + late_deg, "ec": 14 + late_deg}
    for event, deg in shown.items():
        page.goto(f"{server.url}/jobs/{key}/degree?method=events&event={event}")
        record(page, f"{deg:g}")


def unfold(page: Page) -> None:
    """Open what asks for one more reading where all is read."""
    page.locator("form.reading-form input[name=token]").first.wait_for(state="attached")
    page.evaluate("() => document.querySelector('.again:not([open])')?.setAttribute('open', '')")
    field = page.locator(".again [data-reading]")
    if field.count():
        field.focus()


def record(page: Page, keys: str) -> None:
    """Type at the keyboard, press Enter, and wait for the next slot."""
    unfold(page)
    before = page.locator("form.reading-form input[name=token]").first.input_value()
    page.keyboard.type(keys)
    page.keyboard.press("Enter")
    page.wait_for_function(
        "before => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== before; }",
        arg=before,
    )


@pytest.fixture
def lines(server: Server) -> Iterator[Lines]:
    """A made-up engine with an encoder, a dial and a thermometer, over TCP; off the shop's list at the end."""
    served = Lines(Simulator(engine(LIVE_SEED), LIVE_SEED), hz=60)
    yield served
    served.close()
    for name in ("E1", "D1", "T1"):
        asked = Asked(f"{server.url}/instruments/remove", urlencode({"name": name, "by": "QZ"}).encode())
        asked.add_header("Origin", server.url)
        with suppress(HTTPError):
            urlopen(asked).close()
