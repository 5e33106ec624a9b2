"""Help from where one stands: a key leads to the station's own page, and a term that is touched says what it is."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, events_read, ready_for_top, record


def test_the_key_leads_to_how_this_station_is_done(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    page.keyboard.press("h")
    page.wait_for_url(f"**/help?job={key}#station-tdc")
    expect(page.locator("#station-tdc h2")).to_be_in_viewport()
    expect(page.locator("#station-tdc li")).to_have_count(5)
    page.go_back()
    page.wait_for_url("**/tdc")


def test_the_letter_within_a_reading_stays_there(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    page.keyboard.type("4h")
    assert page.locator("[data-reading]").input_value() == "4h"


def test_a_term_that_is_touched_says_what_it_is_and_goes_away(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    for text in ("40b", "40a"):
        record(page, text)
    events_read(page, server, key)
    page.goto(f"{server.url}/jobs/{key}/degree?method=events")
    term = page.locator("#bench .term").first
    expect(term).to_be_visible()
    name = term.inner_text()
    term.click()
    card = page.locator("#term-card")
    expect(card).to_be_visible()
    expect(card.locator("svg")).to_be_visible()
    expect(card.locator(".term-title")).to_contain_text(name, ignore_case=True)
    page.keyboard.press("Escape")
    expect(card).to_be_hidden()
    # Marked again, each once, after the part was drawn anew by a reading.
    record(page, "12b")
    marked = page.locator("#bench .term")
    expect(marked.first).to_be_visible()
    keys = marked.evaluate_all("all => all.map(each => each.dataset.term)")
    assert len(keys) == len(set(keys))


def test_a_term_is_reached_and_opened_by_keys_and_records_nothing(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    for text in ("40b", "40a"):
        record(page, text)
    events_read(page, server, key)
    page.goto(f"{server.url}/jobs/{key}/degree?method=events")
    term = page.locator("#bench .term").first
    expect(term).to_be_visible()
    before = page.locator(".strip tr").count()
    for _ in range(80):
        page.keyboard.press("Tab")
        if page.evaluate("document.activeElement.classList.contains('term')"):
            break
    expect(page.locator(".term:focus")).to_have_count(1)
    for opens in ("Enter", " "):
        page.keyboard.press(opens)
        expect(page.locator("#term-card")).to_be_visible()
        page.keyboard.press("Escape")
        expect(page.locator("#term-card")).to_be_hidden()
        expect(page.locator(".term:focus")).to_have_count(1)
    assert page.locator(".strip tr").count() == before


def test_a_new_shop_is_told_what_to_do_and_shown_a_job(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/?q=nothing-is-called-so")
    expect(page.get_by_text("No job is called anything like")).to_be_visible()
    page.goto(f"{server.url}/help")
    page.get_by_label("Find in the booklet").fill("pitch line")
    page.keyboard.press("Enter")
    expect(page.locator(".lesson")).to_have_count(1)
