"""How many keys and screens lie between an empty shop and the first verdict: counted, printed and held."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server


class Hands:
    """Two hands at a keyboard: every key is counted, and every page that comes up."""

    def __init__(self, page: Page, url: str) -> None:
        self.page, self.keys, self.screens = page, 0, [""]
        page.goto(url)

    def type(self, text: str) -> None:
        self.keys += len(text)
        self.page.keyboard.type(text)

    def press(self, *keys: str) -> None:
        for key in keys:
            self.keys += key.count("+") + 1 if len(key) > 1 else 1
            self.page.keyboard.press(key)

    def comes(self, path: str) -> None:
        self.page.wait_for_url(f"**/{path}")
        self.screens.append(path)

    def record(self, text: str) -> None:
        token = "form.reading-form input[name=token]"
        before = self.page.locator(token).input_value()
        self.type(text)
        self.press("Enter")
        self.page.wait_for_function(
            "([token, before]) => { const t = document.querySelector(token); return t && t.value !== before; }",
            arg=[token, before],
        )


def begun(page: Page, own_server: Server) -> Hands:
    """A job to degree a cam with, from the empty list, and the card's page."""
    hands = Hands(page, own_server.url)
    hands.press("n")
    hands.comes("jobs/new")
    expect(page.locator("#title")).to_be_focused()
    hands.press("Shift+Tab", *["ArrowLeft"] * 4)
    expect(page.locator("input[name=way][value=degree]")).to_be_checked()
    hands.press("Tab")
    for text in ("Six", "QZ"):
        hands.type(text)
        hands.press("Tab")
    hands.type("6")
    hands.press("Enter")
    hands.comes("card")
    return hands


def top_found(page: Page, hands: Hands) -> None:
    hands.comes("wheel")
    hands.press("Enter")
    hands.comes("tdc")
    expect(page.locator("[data-reading]")).to_be_focused()
    hands.record("40")
    hands.record("40")
    expect(page.locator(".verdict")).to_contain_text("In")


def told(what: str, hands: Hands, most_keys: int, most_screens: int) -> None:
    print(f"\n{what}: {hands.keys} keys, {len(hands.screens)} screens")
    assert hands.keys <= most_keys
    assert len(hands.screens) <= most_screens


@pytest.mark.parametrize("as_printed", [True, False])
def test_to_the_first_verdict_of_a_cam_with_a_card_of_four_events(
    page: Page, own_server: Server, as_printed: bool
) -> None:
    hands = begun(page, own_server)
    expect(page.locator("#as_printed")).to_be_focused()
    if as_printed:
        hands.type("IO 12 IC 52 EO 54 EC 14 @ .050")
        expect(page.locator("#card-understood")).to_contain_text("12")
    else:
        for text in ("12", "52", "54", "14"):
            hands.press("Tab")
            hands.type(text)
    hands.press("Enter")
    top_found(page, hands)
    hands.press("]")
    hands.comes("degree")
    # The card's line says at which lift it counts; without that, by equal lifts: 70 after TDC, 24 before BDC.
    for text in ("9", "55") if as_printed else ("70", "24"):
        hands.record(text)
    expect(page.locator(".headline .number")).to_have_text("3.0")
    told("first verdict of a cam", hands, 75, 6)


def test_to_the_first_verdict_without_a_card(page: Page, own_server: Server) -> None:
    hands = begun(page, own_server)
    expect(page.locator("#as_printed")).to_be_focused()
    hands.press("Escape", "]")
    top_found(page, hands)
    told("first verdict without a card", hands, 40, 5)
