"""Every control can be met by a hand, the work is reached without a mouse or eyes, and colors, size and motion can be one's own."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, demo_path, described, headings, ready_for_top, record


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
    page: Page, demo: Server, demo_keys: dict[str, str]
) -> None:
    page.emulate_media(forced_colors="active")
    page.goto(demo_path(demo, demo_keys, "degree"))
    chosen = page.locator(".choice input:checked + span").first
    other = page.locator(".choice input:not(:checked) + span").first
    outline = "each => getComputedStyle(each).outlineStyle"
    assert chosen.evaluate(outline) == "solid"
    assert other.evaluate(outline) == "none"
    assert page.locator("#figure svg.figure").evaluate("each => getComputedStyle(each).forcedColorAdjust") == "none"


def test_who_wants_no_motion_gets_none(page: Page, demo: Server) -> None:
    page.emulate_media(reduced_motion="reduce")
    page.goto(demo.url)
    longest = page.evaluate(
        """() => Math.max(...[...document.querySelectorAll('*')].flatMap((each) => {
          const style = getComputedStyle(each);
          return [style.transitionDuration, style.animationDuration].flatMap((all) => all.split(',').map(parseFloat));
        }))"""
    )
    assert longest <= 0.001


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


def test_nothing_is_lost_on_the_way_to_a_described_job_without_a_mouse(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    page.keyboard.type("40")
    page.keyboard.press("Enter")
    expect(page.locator(".strip tr")).to_have_count(1)
