"""The main job on a phone: taps alone, the pad on screen for every figure; then the pedal, the voice and the light."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.browser.conftest import PHONE, Server, as_new, described, ready_for_top, watched

IN_WINDOW = "e => { const b = e.getBoundingClientRect(); return b.top >= 0 && b.bottom <= innerHeight; }"


@pytest.fixture
def page(phone: Page) -> Iterator[Page]:
    with watched(as_new(phone, PHONE)):
        yield phone


def tapped(page: Page, keys: list[str], side: str = "") -> None:
    """One reading, by taps: the side, the figure on the pad, Record; then the next question is there."""
    before = page.locator("form.reading-form input[name=token]").input_value()
    folded = page.locator(".again:not([open]) > summary")
    if folded.count():
        folded.tap()
    if side:
        page.locator(".sides .choice", has_text=side).tap()
    for key in keys:
        page.locator(f'.pad [data-put="{key}"]').tap()
    page.locator("[data-pad-record]").tap()
    page.wait_for_function(
        "before => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== before; }",
        arg=before,
    )


def fits(page: Page) -> None:
    """Nothing is wider than the window; the waiting field and the pad lie within it, apart."""
    assert page.evaluate("document.documentElement.scrollWidth") == 390
    assert page.locator(".waiting").evaluate(IN_WINDOW)
    assert page.locator(".pad").evaluate(IN_WINDOW)
    waiting, pad = page.locator(".waiting").bounding_box(), page.locator(".pad").bounding_box()
    assert waiting is not None
    assert pad is not None
    assert waiting["y"] + waiting["height"] <= pad["y"]
    for key in page.locator(".pad button").all():
        box = key.bounding_box()
        assert box is not None
        assert box["height"] >= 44
        assert box["width"] >= 44


def test_the_main_job_by_taps_alone(page: Page, server: Server) -> None:
    key = described(page, server, "On the phone", scale="half")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    expect(page.locator(".pad")).to_be_visible()
    assert page.locator("[data-reading]").get_attribute("inputmode") == "none"
    fits(page)
    for figure in (["4", "0"], ["4", "0"]):
        tapped(page, figure)
    expect(page.locator(".verdict")).to_contain_text("In")
    page.locator("[rel=next]").tap()
    page.wait_for_url("**/degree")
    page.get_by_role("link", name="events", exact=True).tap()
    page.wait_for_url("**method=events*")
    fits(page)
    # Three late against IO 12, IC 52, EO 54, EC 14, as a 0-180-0 wheel shows them.
    for keys, side in ((["9"], "BTDC"), (["1", "2", "5"], "BTDC"), (["1", "2", "9"], "ATDC"), (["1", "7"], "ATDC")):
        tapped(page, keys, side)
    expect(page.locator(".headline .number")).to_have_text("3.0")
    assert page.locator(".verdict").evaluate(IN_WINDOW)
    page.locator("[rel=next]").tap()
    page.wait_for_url("**/adjust")
    assert page.evaluate("document.documentElement.scrollWidth") == 390


def test_the_pad_writes_where_the_hand_is_and_takes_back(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    put = lambda key: page.locator(f'.pad [data-put="{key}"]').tap()  # noqa: E731
    for key in ("5", "5", "1/4"):
        put(key)
    expect(page.locator("[data-reading]")).to_have_value("55 1/4")
    put("back")
    put("back")
    put("back")
    put("back")
    put("back")
    put(".")
    put("5")
    expect(page.locator("[data-reading]")).to_have_value("5.5")
    # A second field of the form is written to while it is the one touched.
    page.get_by_role("link", name="dial, equal drop each side").tap()
    page.locator("#second").tap()
    page.fill("#second", "")
    put("3")
    expect(page.locator("#second")).to_have_value("3")


def test_the_pad_is_put_away_and_stays_away(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    page.locator("[data-open=keys-help]").tap()
    page.locator("[data-pad-switch]").tap()
    page.get_by_role("button", name="Close").tap()
    expect(page.locator(".pad")).to_be_hidden()
    page.reload()
    expect(page.locator(".pad")).to_be_hidden()
    expect(page.get_by_role("button", name="Record Enter")).to_be_visible()
    assert page.locator("[data-reading]").get_attribute("inputmode") != "none"


def test_a_pedal_records_and_a_digit_cannot_be_one(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    page.locator("[data-open=keys-help]").tap()
    page.locator("[data-pedal]").tap()
    page.keyboard.press("5")
    expect(page.locator("#pedal-note")).to_contain_text("choose another")
    page.keyboard.press("F8")
    expect(page.locator("[data-pedal]")).to_have_text("F8 records; change")
    page.get_by_role("button", name="Close").tap()
    page.fill("[data-reading]", "40")
    page.keyboard.press("F8")
    expect(page.locator(".strip tr")).to_have_count(1)


def test_what_is_read_aloud_is_verdict_and_instruction_and_only_where_wanted(browser: Browser, server: Server) -> None:
    page = browser.new_page(**PHONE)
    page.add_init_script(
        "window.heard = []; speechSynthesis.speak = (u) => heard.push(u.text); speechSynthesis.cancel = () => {};"
    )
    ready_for_top(page, server)
    assert page.evaluate("heard") == []
    page.locator("[data-open=keys-help]").tap()
    page.locator("[data-speech]").tap()
    page.get_by_role("button", name="Close").tap()
    tapped(page, ["4", "0"])
    tapped(page, ["4", "0"])
    expect(page.locator("#spoken")).to_contain_text("In: the wheel shows true TDC. 0.00 deg")
    said = page.evaluate("heard")
    assert len(said) == len(set(said)) == 3
    page.close()


def test_the_light_follows_the_device_unless_one_is_chosen(page: Page, server: Server) -> None:
    page.emulate_media(color_scheme="dark")
    page.goto(server.url)
    expect(page.locator("html")).to_have_attribute("data-light", "night")
    page.emulate_media(color_scheme="light")
    expect(page.locator("html")).to_have_attribute("data-light", "day")
    page.get_by_role("button", name="Night").tap()
    page.emulate_media(color_scheme="light")
    expect(page.locator("html")).to_have_attribute("data-light", "night")
    page.get_by_role("button", name="Day").tap()
    expect(page.locator("html")).to_have_attribute("data-light", "day")
    page.get_by_role("button", name="Auto").tap()
    page.emulate_media(color_scheme="dark")
    expect(page.locator("html")).to_have_attribute("data-light", "night")
