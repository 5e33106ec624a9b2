"""Every view of the demo, looked at in every size and light."""

from itertools import pairwise
from pathlib import Path

import pytest
from playwright.sync_api import Page

from tests.browser.conftest import PHONE, Server, as_new, demo_path, headings, signed_in

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
VIEWS += [
    "runout",
    "choice",
    "gear-fit?method=bolts",
    "lobe-room",
    "/house",
    "/shop",
    "/results?group=card",
    "/practice",
    "/instruments",
    "/board",
    "/library",
    "/library/card/new",
    "/library/drive/new",
    "/results",
    "Pilot/runout?edit=1",
    "Pilot/end-play",
]
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
VIEWS += ["Harbor/every-valve", "Harbor/every-valve?method=timing&item=3", "Fire/every-valve"]
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


# Pages that are lists or long forms, and go on below.
LISTS = ("/instruments", "/house", "/shop", "/practice", "/help", "/api", "/library", "/results")


@pytest.mark.parametrize("view", VIEWS)
def test_a_view_fits_and_is_accessible_by_day_and_by_night(
    page: Page, demo: Server, demo_keys: dict[str, str], view: str
) -> None:
    """One visit: no scrolling at 1280 by 800, nor sideways at 768, and what a checker finds in both lights."""
    signed_in(page, demo)
    page.goto(demo_path(demo, demo_keys, view))
    size = "() => [document.documentElement.scrollWidth, document.documentElement.scrollHeight]"
    width, height = page.evaluate(size)
    assert width <= 1280
    if view != "sheet" and not view.startswith(LISTS):
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


@pytest.mark.parametrize("part", range(4))
def test_every_control_can_be_touched_and_every_figure_read_on_a_phone(
    phone: Page, demo: Server, demo_keys: dict[str, str], part: int
) -> None:
    page = as_new(phone, PHONE)
    signed_in(page, demo)
    for view in VIEWS[part::4]:
        page.goto(demo_path(demo, demo_keys, view))
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, view
        assert page.evaluate(LETTERS, 11) == [], view
        assert page.evaluate(SMALL, 44) == [], view
        # With every fold open, and the pad there.
        page.evaluate(AXE.read_text())
        found = page.evaluate(
            "axe.run({runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'], resultTypes: ['violations']})"
        )
        assert [(each["id"], each["nodes"][0]["html"][:120]) for each in found["violations"]] == [], view


def test_headings_go_down_one_by_one(page: Page, demo: Server, demo_keys: dict[str, str]) -> None:
    for view in (
        "degree",
        "overview",
        "sheet",
        "/help",
        "/house",
        "/api",
        "/",
        "Harbor/valve-lash",
        "Ferry/change-plan",
    ):
        page.goto(demo_path(demo, demo_keys, view))
        levels = headings(page)
        assert levels[0] == 1, view
        assert all(later - earlier <= 1 for earlier, later in pairwise(levels)), (view, levels)
