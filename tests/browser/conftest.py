"""The real interface in headless Chromium, over a server of its own."""

import os
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path
from shutil import copyfile
from urllib.request import urlopen
from uuid import uuid4

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from tests.hands import CARD, ENGINE, WHEEL

CHROMIUM = "/usr/bin/chromium"
CHROMIUM_ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


class Server:
    """`uranograph serve` as a process that can be stopped and started again on the same port."""

    def __init__(self, database: Path) -> None:
        self.database = database
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        self.process = subprocess.Popen(
            [
                sys.executable,
                "-m",
                "uranograph.cli",
                "serve",
                "--database",
                str(self.database),
                "--port",
                str(self.port),
            ],
            env={**os.environ, "PYTHONUNBUFFERED": "1"},
            stdout=subprocess.DEVNULL,
        )
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
            self.process.wait()
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


@pytest.fixture
def context(browser: Browser) -> Iterator[BrowserContext]:
    opened = browser.new_context(viewport={"width": 1280, "height": 800})
    yield opened
    opened.close()


def watched(opened: Page) -> list[str]:
    """What goes wrong in a page from now on: a script fails, or anything is asked of another machine."""
    faults: list[str] = []
    opened.on("pageerror", lambda error: faults.append(f"script: {error}"))
    opened.on("console", lambda line: faults.append(line.text) if "Content Security Policy" in line.text else None)
    opened.context.on(
        "request",
        lambda r: faults.append(r.url) if not r.url.startswith(("http://127.0.0.1:", "data:", "blob:")) else None,
    )
    return faults


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    """A page that fails the test when something goes wrong in it."""
    opened = context.new_page()
    faults = watched(opened)
    yield opened
    assert faults == []


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


def record(page: Page, keys: str) -> None:
    """Type at the keyboard, press Enter, and wait for the next slot."""
    before = page.locator("form.reading-form input[name=token]").first.input_value()
    page.keyboard.type(keys)
    page.keyboard.press("Enter")
    page.wait_for_function(
        "before => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== before; }",
        arg=before,
    )
