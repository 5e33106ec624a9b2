"""`make shots`: one picture of each main view of the demo, in docs/screenshots."""

import tempfile
from datetime import UTC, datetime
from pathlib import Path

from playwright.sync_api import sync_playwright

from tests.browser.conftest import CHROMIUM, CHROMIUM_ARGS, Server
from uranograph.demo.shop import furnish
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.web.routes.sheet import frozen

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"
BENCH_DAY = datetime(2026, 5, 12, 10, 48, tzinfo=UTC)
# Drawn as on a phone, with the pad where a reading waits.
PHONE = ("true-tdc", "what-is-wrong")
VIEWS = {
    "jobs": ("", "day"),
    "overview": ("Pilot/overview", "day"),
    "change-plan": ("Ferry/change-plan", "day"),
    "runout": ("Pilot/runout", "day"),
    "piston-to-valve": ("Railcar/piston-valve", "day"),
    "library": ("/library", "day"),
    "results": ("/results", "day"),
    "timing-marks": ("Pilot/marks", "day"),
    "backlash": ("Pilot/backlash", "day"),
    "what-is-wrong": ("Fire/wrong", "day"),
    "true-tdc": ("Railcar/tdc", "day"),
    "degree": ("Railcar/degree", "day"),
    "every-valve": ("Harbor/every-valve", "day"),
    "valve-lash": ("Harbor/valve-lash", "night"),
    "sweep": ("Railcar/degree?method=sweep", "day"),
    "adjust": ("Railcar/adjust", "day"),
    "what-if": ("Railcar/what-if?intake=3.5", "day"),
    "practice": ("Practice 6/tdc", "day"),
    "build-sheet": ("Harbor/signed/2", "day"),
}


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as name, sync_playwright() as playwright:
        server = Server(Path(name) / "demo.db")
        shop = Shop(server.database)
        shop.migrate()
        furnish(shop, BENCH_DAY, frozen)
        with shop.read() as session:
            # Practice is not on the list of jobs.
            practiced = {job.title.split(":")[0]: job.key for job in loading.page(session, search="Practice").jobs}
        shop.close()
        server.start()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_ARGS)
        try:
            for view, (path, light) in VIEWS.items():
                small = view in PHONE
                size = {"width": 390, "height": 844} if small else {"width": 1280, "height": 800}
                context = browser.new_context(viewport=size, has_touch=small, is_mobile=small)
                cookies = {"uranograph_by": "RK", "uranograph_light": light}
                context.add_cookies([{"name": n, "value": v, "url": server.url} for n, v in cookies.items()])
                page = context.new_page()
                page.goto(server.url)
                if path and not path.startswith("/"):
                    job, _, station = path.partition("/")
                    known = practiced.get(job)
                    href = (
                        f"/jobs/{known}" if known else page.locator(".job-card a", has_text=job).get_attribute("href")
                    )
                    path = f"/jobs/{href.split('/')[2]}/{station}"
                page.goto(server.url + path)
                page.evaluate("document.fonts.ready")
                page.screenshot(path=FOLDER / f"{view}.png")
                context.close()
        finally:
            browser.close()
            server.stop()
    print(f"{len(VIEWS)} pictures in {FOLDER}")


if __name__ == "__main__":
    main()
