"""A job from an empty shop to its verdict and sheet, six ways: nothing that is used is out of reach, covered or without a name."""

from collections.abc import Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.browser.conftest import DESK, PHONE, Server, watched

# 200 % of a window of 1280 by 800.
ZOOMED: dict[str, Any] = {"viewport": {"width": 640, "height": 400}, "device_scale_factor": 2}
WAYS: dict[str, dict[str, Any]] = {
    "mouse": DESK,
    "keys": DESK,
    "phone": PHONE,
    "night": DESK,
    "zoom": ZOOMED,
    "reader": DESK,
}
COVERED = """(part) => {
  const box = part.getBoundingClientRect();
  const at = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
  return !(at && (part.contains(at) || at.contains(part) || at.closest('label')?.contains(part)));
}"""
MAX_TABS = 120


class Hand:
    """Uses the pages by the names that everything has, with a mouse."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def uses(self, part: Locator) -> None:
        """Bring a part into sight and use it; what lies under another cannot be."""
        part.scroll_into_view_if_needed()
        assert not part.evaluate(COVERED), part
        part.click()

    def presses(self, name: str, role: Any = "button") -> None:
        self.uses(self.page.get_by_role(role, name=name).first)

    def orders(self, firing: str) -> None:
        """Take one of the usual firing orders, which are a tap away; by keys it is typed."""
        self.presses(firing)

    def chooses(self, words: str) -> None:
        self.uses(self.page.locator("label.choice", has_text=words).first)

    def types(self, label: str, text: str) -> None:
        field = self.page.get_by_role("textbox", name=label).first
        self.uses(field)
        field.fill(text)

    def reads(self, figure: str) -> None:
        """Type a reading where the page asks for it, and record it."""
        before = self.token()
        self.page.keyboard.type(figure)
        self.records()
        self.page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
            arg=before,
        )
        self.page.wait_for_load_state("networkidle")

    def records(self) -> None:
        self.presses("Record")

    def token(self) -> str:
        return self.page.locator("form.reading-form input[name=token]").first.input_value()


class Keys(Hand):
    """Tab, space and Enter alone."""

    def uses(self, part: Locator) -> None:
        part.first.wait_for()
        for _ in range(MAX_TABS):
            if part.evaluate("part => part === document.activeElement || part.contains(document.activeElement)"):
                break
            self.page.keyboard.press("Tab")
        else:
            raise AssertionError(f"no key gets to {part}")
        kind = part.evaluate("() => document.activeElement.type || document.activeElement.tagName")
        if kind in ("text", "textarea", "search"):
            return
        self.page.keyboard.press("Enter" if kind in ("A", "submit", "button") else "Space")

    def chooses(self, words: str) -> None:
        choice = self.page.locator("label.choice", has_text=words).first
        name = choice.locator("input").get_attribute("name")
        for _ in range(MAX_TABS):
            if self.page.evaluate("document.activeElement.name") == name:
                break
            self.page.keyboard.press("Tab")
        for _ in range(12):
            if choice.locator("input").evaluate("each => each.checked && each === document.activeElement"):
                return
            self.page.keyboard.press("ArrowDown")
        raise AssertionError(f"no key chooses {words}")

    def types(self, label: str, text: str) -> None:
        self.uses(self.page.get_by_role("textbox", name=label).first)
        self.page.keyboard.press("Control+A")
        self.page.keyboard.type(text)

    def orders(self, firing: str) -> None:
        self.types("Firing order", firing.replace("-", ""))

    def records(self) -> None:
        self.page.keyboard.press("Enter")


class Thumb(Hand):
    """Taps, and digits by the pad on the screen."""

    def uses(self, part: Locator) -> None:
        part.scroll_into_view_if_needed()
        assert not part.evaluate(COVERED), part
        part.tap()

    def reads(self, figure: str) -> None:
        before = self.token()
        for digit in figure:
            self.page.locator(".pad button", has_text=digit).first.tap()
        self.page.locator(".pad .pad-record").tap()
        self.page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
            arg=before,
        )
        self.page.wait_for_load_state("networkidle")


class Reader(Hand):
    """Finds everything by role and accessible name, and is told what changed by what is announced."""

    def uses(self, part: Locator) -> None:
        assert part.evaluate(
            "each => each.labels?.length || each.textContent.trim() || each.getAttribute('aria-label')"
        )
        super().uses(part)


HANDS = {"keys": Keys, "phone": Thumb, "reader": Reader}


@pytest.fixture
def way(request: pytest.FixtureRequest, browser: Browser, server: Server) -> Iterator[Hand]:
    context = browser.new_context(**WAYS[request.param], reduced_motion="reduce")
    context.set_default_timeout(20_000)
    if request.param == "night":
        context.add_cookies([{"name": "uranograph_light", "value": "night", "url": server.url}])
    page = context.new_page()
    with watched(page):
        page.goto(server.url)
        yield HANDS.get(request.param, Hand)(page)
    context.close()


@pytest.mark.parametrize("way", WAYS, indirect=True)
def test_from_an_empty_shop_to_a_verdict_and_its_sheet(way: Hand) -> None:
    page = way.page
    way.presses("New job", "link")
    page.wait_for_url("**/jobs/new")
    way.types("Job name", "Four for the launch")
    way.types("Your initials", "QZ")
    way.types("Cylinders", "4")
    way.orders("1-3-4-2")
    way.chooses("Degree a cam")
    way.presses("Begin the job")
    page.wait_for_url("**/card")
    way.types("line as printed", "12 52 54 14 @.05")
    way.presses("Keep and go on")
    page.wait_for_url("**/wheel")
    way.presses("Keep and go on")
    page.wait_for_url("**/tdc")
    for _ in range(2):
        way.reads("40")
    way.uses(page.locator("a[data-panel=main]"))
    page.wait_for_url("**/degree")
    for figure in ("8", "56"):
        way.reads(figure)
    state = page.locator("[data-panel=state] .verdict").first
    expect(state).to_contain_text("late")
    state.scroll_into_view_if_needed()
    assert not state.evaluate(COVERED)
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    way.presses("Build sheet", "link")
    page.wait_for_url("**/sheet")
    expect(page.locator(".sheet-verdict")).to_contain_text("late")
    expect(page.get_by_role("heading", level=1)).to_have_text("Four for the launch")
