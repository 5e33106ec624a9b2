"""Every control can be met by a hand, the work is reached without a mouse or eyes, and colors, size and motion can be one's own."""

import re
from itertools import pairwise

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import Server, described, ready_for_top, record
from tests.browser.test_views import LETTERS, SMALL, VIEWS, demo_keys, demo_path

__all__ = ("demo_keys",)


@pytest.mark.parametrize("part", range(4))
def test_every_control_can_be_touched_and_every_figure_read_on_a_phone(
    browser: Browser, demo: Server, demo_keys: dict[str, str], part: int
) -> None:
    context = browser.new_context(viewport={"width": 390, "height": 844}, has_touch=True, is_mobile=True)
    context.add_cookies([{"name": "uranograph_by", "value": "RK", "url": demo.url}])
    page = context.new_page()
    for view in VIEWS[part::4]:
        page.goto(demo_path(demo, demo_keys, view))
        assert page.evaluate("document.documentElement.scrollWidth") <= 390, view
        assert page.evaluate(LETTERS, 11) == [], view
        assert page.evaluate(SMALL, 44) == [], view
    context.close()


@pytest.mark.parametrize("view", ["degree", "overview", "/", "sheet", "/help", "wheel", "what-if"])
def test_the_first_tab_leads_past_head_and_rail(page: Page, demo: Server, demo_keys: dict[str, str], view: str) -> None:
    page.goto(demo_path(demo, demo_keys, view))
    skip = page.get_by_role("link", name="To the work")
    first = page.evaluate("document.querySelector('a[href], button, input, select, textarea, summary').className")
    assert first == "skip"
    skip.focus()
    expect(skip).to_be_in_viewport()
    page.keyboard.press("Enter")
    expect(page.locator("#work")).to_be_focused()
    assert page.locator("#work").count() == 1


@pytest.mark.parametrize("view", ["degree", "tdc", "adjust", "sheet"])
def test_twice_the_text_is_neither_cut_nor_lost(page: Page, demo: Server, demo_keys: dict[str, str], view: str) -> None:
    # 200 % of a 1280 window is 640 to lay out in.
    page.set_viewport_size({"width": 640, "height": 400})
    page.goto(demo_path(demo, demo_keys, view))
    assert page.evaluate("document.documentElement.scrollWidth") <= 640
    cut = page.evaluate(
        """() => [...document.querySelectorAll('.instruction, .headline, .sentence, .button, .job-name')]
          .filter((each) => each.offsetParent && each.scrollWidth > each.clientWidth + 1 && getComputedStyle(each).overflow !== 'visible')
          .map((each) => each.textContent.trim())"""
    )
    assert cut == []


def test_with_colors_of_ones_own_choices_and_figures_can_be_told(
    browser: Browser, demo: Server, demo_keys: dict[str, str]
) -> None:
    context = browser.new_context(viewport={"width": 1280, "height": 800}, forced_colors="active")
    page = context.new_page()
    page.goto(demo_path(demo, demo_keys, "degree"))
    chosen = page.locator(".choice input:checked + span").first
    other = page.locator(".choice input:not(:checked) + span").first
    outline = "each => getComputedStyle(each).outlineStyle"
    assert chosen.evaluate(outline) == "solid"
    assert other.evaluate(outline) == "none"
    assert page.locator("#figure svg.figure").evaluate("each => getComputedStyle(each).forcedColorAdjust") == "none"
    context.close()


def test_who_wants_no_motion_gets_none(browser: Browser, demo: Server) -> None:
    context = browser.new_context(reduced_motion="reduce")
    page = context.new_page()
    page.goto(demo.url)
    longest = page.evaluate(
        """() => Math.max(...[...document.querySelectorAll('*')].flatMap((each) => {
          const style = getComputedStyle(each);
          return [style.transitionDuration, style.animationDuration].flatMap((all) => all.split(',').map(parseFloat));
        }))"""
    )
    assert longest <= 0.001
    context.close()


def headings(page: Page) -> list[int]:
    levels = page.locator("h1, h2, h3, h4").evaluate_all(
        "all => all.filter(each => each.checkVisibility()).map(each => Number(each.tagName[1]))"
    )
    return [int(level) for level in levels]


def test_the_main_job_as_it_is_read_out(page: Page, server: Server) -> None:
    """The tree that a screen reader has: what waits is named, what is found is said, figures say what they show in numbers."""
    key = ready_for_top(page, server)
    tree = page.locator("main").aria_snapshot()
    for wanted in (
        r'heading "Turn .*" \[level=1\]',
        r'textbox ".*before.*"',
        r'radio "BTDC"',
        r'button "Record',
        r'navigation "Stations"',
        r'region "What to do"',
        r'img ".*',
    ):
        assert re.search(wanted, tree), wanted
    assert headings(page)[0] == 1
    for _ in range(2):
        record(page, "40")
    expect(page.locator("#spoken")).to_contain_text("In")
    page.goto(f"{server.url}/jobs/{key}/degree?method=events")
    record(page, "12")
    figure = page.locator("#figure svg[role=img]").first.get_attribute("aria-label") or ""
    assert re.search(r"\d", figure), figure
    tree = page.locator("main").aria_snapshot()
    assert re.search(r'link "Void intake opens', tree)
    assert not re.search(r"(button|link|textbox)( \[|$)", tree.replace("- text:", "")), "a control without a name"


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


def test_nothing_is_lost_on_the_way_to_a_described_job_without_a_mouse(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    page.keyboard.type("40")
    page.keyboard.press("Enter")
    expect(page.locator(".strip tr")).to_have_count(1)
