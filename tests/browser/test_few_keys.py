"""From an empty shop to the first verdict: at most 50 keys and taps, and 5 screens."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server

MAX_KEYS, MAX_SCREENS = 50, 5


class Hand:
    """Types and taps, and counts what it did and which screens it saw."""

    def __init__(self, page: Page) -> None:
        self.page, self.keys, self.screens = page, 0, []

    def types(self, text: str) -> None:
        self.page.keyboard.type(text)
        self.keys += len(text)

    def presses(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.keys += 1

    def taps(self, words: str) -> None:
        self.page.get_by_text(words, exact=True).first.click()
        self.keys += 1

    def sees(self, screen: str) -> None:
        self.page.wait_for_url(f"**/{screen}")
        self.screens.append(screen)

    def reads(self, figure: str) -> None:
        before = self.page.locator("form.reading-form input[name=token]").first.input_value()
        self.types(figure)
        self.presses("Enter")
        self.page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
            arg=before,
        )


def test_an_empty_shop_gives_its_first_verdict_in_few_keys(page: Page, own_server: Server) -> None:
    page.goto(own_server.url)
    hand = Hand(page)
    hand.presses("n")
    hand.sees("jobs/new")
    for text in ("Four", "QZ", "4"):
        hand.types(text)
        hand.presses("Tab")
    hand.taps("1-3-4-2")
    hand.taps("Degree a cam")
    hand.presses("Enter")
    hand.sees("card")
    page.locator("#as_printed").focus()
    hand.types("12 52 54 14 @.05")
    hand.presses("Enter")
    hand.sees("wheel")
    expect(page.get_by_role("button", name="Keep and go on")).to_be_focused()
    hand.presses("Enter")
    hand.sees("tdc")
    for figure in ("40", "40"):
        hand.reads(figure)
    hand.presses("]")
    hand.sees("degree")
    for figure in ("8", "56"):
        hand.reads(figure)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("late")
    assert hand.keys <= MAX_KEYS, hand.keys
    assert len(hand.screens) <= MAX_SCREENS, hand.screens
