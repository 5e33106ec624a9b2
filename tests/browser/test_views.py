"""Every view of the demo, looked at in every size and light."""

import re
from collections.abc import Iterator
from pathlib import Path
from urllib.request import urlopen

import pytest
from playwright.sync_api import Browser, Page

from tests.browser.conftest import Server, watched

AXE = Path(__file__).parent / "vendor" / "axe.min.js"
VIEWS = [
    "/",
    "/jobs/new",
    "engine",
    "card",
    "wheel",
    "tdc",
    "degree",
    "degree?method=events",
    "degree?method=sweep",
    "adjust",
    "adjust?edit=1",
]
VIEWS += ["what-if", "sheet", "overview", "/diagnosis?offset=-31&crank_teeth=24&claim_deg=3"]
VIEWS += [f"Pilot/{view}" for view in ("train", "marks", "marks?method=compare", "marks?method=keyways")]
VIEWS += [f"Pilot/{view}" for view in ("marks?method=helical", "backlash", "backlash?edit=1")]
VIEWS += ["Fire/marks?method=split", "sprocket", "sprocket?edit=1"]
VIEWS += ["runout", "choice", "gear-fit?method=bolts", "lobe-room", "/house", "Pilot/runout?edit=1", "Pilot/end-play"]
VIEWS += ["Pilot/end-play?edit=1", "Pilot/setting", "Pilot/setting?edit=1", "Pilot/gear-fit", "Pilot/gear-fit?edit=1"]
VIEWS += ["Pilot/gear-fit?method=heat", "Hill/setting", "end-play", "Fire/lobe-room"]
VIEWS += [f"Harbor/{view}" for view in ("piston-valve", "piston-valve?edit=1", "turn-over", "valve-lash", "lock-up")]
VIEWS += [
    "piston-valve?method=spring",
    "piston-valve?method=bind",
    "Harbor/valve-lash?edit=1",
    "Harbor/what-if?intake=4",
]
VIEWS += ["Ferry/change-plan", "Ferry/change-plan?edit=1", "Hill/piston-valve", "Fire/turn-over"]
VIEWS += ["/help", "/api", "/help?q=nothing-like-it"]
VIEWS += ["Fire/by-eye", "Fire/by-eye?edit=1", "Fire/wrong", "Fire/wrong?edit=1", "tdc?edit=1"]


# Controls that are lower than they should be; a link within a sentence is as tall as its line, as the guidelines allow.
SMALL = """(least) => {
  document.querySelectorAll('details').forEach((fold) => (fold.open = true));
  const found = [];
  for (const each of document.querySelectorAll('a[href], button, input:not([type=hidden]), select, textarea, summary')) {
    if (each.closest('dialog:not([open])') || each.closest('[aria-hidden=true], .visually-hidden, .skip')) continue;
    const choice = each.matches('[type=radio], [type=checkbox]') && each.closest('label');
    const box = (choice || each).getBoundingClientRect();
    const style = getComputedStyle(each);
    if (!box.width || style.visibility === 'hidden') continue;
    const own = each.textContent.trim().length;
    if (each.tagName === 'A' && style.display === 'inline' && each.parentElement.textContent.trim().length > own + 3) continue;
    if (box.height < least - 0.5 || box.width < 24) found.push(`${each.outerHTML.slice(0, 90)}: ${Math.round(box.height)}`);
  }
  return found;
}"""


# Letters of the figure that are too small, cut off, or written over each other; those along an arc may come near.
LETTERS = """(least) => {
  const svg = document.querySelector('#figure > svg');
  if (!svg) return [];
  const room = svg.getBoundingClientRect();
  const words = [...svg.querySelectorAll('text:not([transform])')]
    .filter((each) => each.textContent.trim() && each.checkVisibility() && each.getBoundingClientRect().width)
    .map((each) => {
      const box = each.getBoundingClientRect();
      const scale = Math.hypot(each.getScreenCTM().a, each.getScreenCTM().b);
      const lean = box.height * 0.18;
      return { of: each.textContent, px: parseFloat(getComputedStyle(each).fontSize) * scale,
               left: box.left, right: box.right, top: box.top + lean, foot: box.bottom - lean };
    });
  const found = [];
  words.forEach((one, n) => {
    if (one.px < least - 0.06) found.push(`small, ${one.px.toFixed(1)}: ${one.of}`);
    if (one.left < room.left - 1 || one.right > room.right + 1) found.push(`cut: ${one.of}`);
    for (const other of words.slice(n + 1)) {
      const wide = Math.min(one.right, other.right) - Math.max(one.left, other.left);
      const high = Math.min(one.foot, other.foot) - Math.max(one.top, other.top);
      if (wide > 1.5 && high > 1.5) found.push(`over each other: ${one.of}, ${other.of}`);
    }
  });
  return found;
}"""


# What is needed now is in sight: instruction, waiting reading, number and next step. Tables may go on below.
BELOW = """(needed) => needed.filter((each) =>
  [...document.querySelectorAll(each)].some((part) => part.checkVisibility() && part.getBoundingClientRect().bottom > 800))"""


@pytest.fixture(scope="module")
def been_here(browser: Browser, demo: Server) -> Iterator[tuple[Page, list[str]]]:
    """A page that goes from view to view, as a browser does that has been here before, and what went wrong in it."""
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    context.add_cookies([{"name": "uranograph_by", "value": "RK", "url": demo.url}])
    page = context.new_page()
    yield page, watched(page)
    context.close()


@pytest.fixture
def looked_at(been_here: tuple[Page, list[str]]) -> Iterator[Page]:
    page, faults = been_here
    page.set_viewport_size({"width": 1280, "height": 800})
    yield page
    assert faults == []


@pytest.fixture(scope="module")
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


@pytest.mark.parametrize("view", VIEWS)
def test_a_view_fits_and_is_accessible_by_day_and_by_night(
    looked_at: Page, demo: Server, demo_keys: dict[str, str], view: str
) -> None:
    """One visit: no scrolling at 1280 by 800, nor sideways at 768, and what a checker finds in both lights."""
    page = looked_at
    page.goto(demo_path(demo, demo_keys, view))
    size = "() => [document.documentElement.scrollWidth, document.documentElement.scrollHeight]"
    width, height = page.evaluate(size)
    assert width <= 1280
    if view not in ("sheet", "/house", "/help", "/api"):
        assert height <= 800
        assert (
            page.evaluate(
                BELOW, [".instruction", ".waiting", ".panel .headline", ".panel .next-step", ".panel-foot", ".glance"]
            )
            == []
        )
    # A figure says what it shows.
    assert (
        page.evaluate(
            "[...document.querySelectorAll('svg[role=img]')].filter((e) => (e.ariaLabel || '').length < 9).length"
        )
        == 0
    )
    assert page.evaluate(LETTERS, 13) == []
    # With every fold open, for what follows too.
    assert page.evaluate(SMALL, 32) == []
    page.evaluate(AXE.read_text())
    # By night only colors differ: everything else was looked at by day.
    by_day = "runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']"
    for light, theme, rules in (("day", "light", by_day), ("night", "dark", "runOnly: ['color-contrast']")):
        page.evaluate(
            "([l, t]) => Object.assign(document.documentElement.dataset, {light: l, bsTheme: t})", [light, theme]
        )
        found = page.evaluate(f"axe.run({{{rules}, resultTypes: ['violations']}})")
        told = [
            (v["id"], [n["html"][:120] + " :: " + n["failureSummary"][:200] for n in v["nodes"][:3]])
            for v in found["violations"]
        ]
        assert told == [], light
    for wide, high in ((1024, 768), (1920, 1080), (768, 1024)):
        page.set_viewport_size({"width": wide, "height": high})
        assert page.evaluate(size)[0] <= wide
