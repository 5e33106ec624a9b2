"""Plays, shims and bolts at the keyboard; house values that every open job works by."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, described, record


def answer(page: Page, number: int) -> None:
    """Choose one of the answers at the keyboard and record it."""
    before = page.locator("form.reading-form input[name=token]").first.input_value()
    expect(page.locator("input[name=text]").first).to_be_focused()
    page.keyboard.press(str(number + 1))
    expect(page.locator("input[name=text]").nth(number)).to_be_checked()
    page.keyboard.press("Enter")
    page.wait_for_function(
        "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
        arg=before,
    )


def test_a_crank_is_felt_shimmed_and_proved(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/end-play")
    page.fill("#crank_min", "0.10")
    page.fill("#crank_max", "0.20")
    page.get_by_role("button", name="Keep it").click()
    expect(page.locator("h1.instruction")).to_contain_text("fitted that limit")
    answer(page, 0)
    expect(page.locator("#second")).to_have_value("0.10")
    answer(page, 0)
    expect(page.locator("#second")).to_have_value("0.20")
    answer(page, 0)
    expect(page.locator("#second")).to_have_value("0.22")
    answer(page, 0)
    expect(page.locator(".verdict")).to_contain_text("loose")
    page.fill("#second", "0.24")
    page.locator("input[name=text]").first.focus()
    answer(page, 1)
    expect(page.locator("#figure .blade.went")).to_have_count(3)
    page.keyboard.press("]")
    page.wait_for_url("**/setting")
    page.select_option("#crank_way", "shims")
    page.select_option("#crank_adds", "less")
    page.fill("#crank_stock", "0.05 0.08 0.10")
    page.get_by_role("button", name="Keep it").click()
    expect(page.locator("h1.instruction")).to_contain_text("Fit")
    record(page, "0.08")
    expect(page.locator(".do")).to_contain_text("Prove it")
    page.keyboard.press("[")
    page.wait_for_url("**/end-play")
    answer(page, 0)
    answer(page, 0)
    answer(page, 1)
    expect(page.locator(".verdict")).to_contain_text("In")
    page.keyboard.press("]")
    page.wait_for_url("**/setting")
    expect(page.locator(".verdict")).to_contain_text("set and proved")


def test_nothing_is_chosen_before_a_person_chooses(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/gear-fit")
    expect(page.locator("input[name=text]").first).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("#error-text")).to_contain_text("Choose what you see")
    expect(page.locator(".strip tr")).to_have_count(0)


def test_a_house_value_set_in_one_window_counts_in_the_next_look_of_another(page: Page, own_server: Server) -> None:
    key = described(page, own_server)
    page.goto(f"{own_server.url}/jobs/{key}/lobe-room")
    for _ in range(8):
        record(page, "1.8")
    expect(page.locator(".verdict")).to_contain_text("less than preferred")
    other = page.context.new_page()
    other.goto(f"{own_server.url}/house")
    other.fill("#lobe_least", "1.9 mm")
    other.fill("#by", "RK")
    other.get_by_role("button", name="Set these values").click()
    expect(other.locator("main")).to_contain_text("set by RK")
    page.reload()
    expect(page.locator(".verdict")).to_contain_text("too little room")
    expect(page.locator(".panel")).to_contain_text("1.9 mm (set by RK)")


def test_a_trued_shaft_is_said_by_its_key_and_read_anew(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/runout?edit=1")
    page.fill("#places", "4")
    page.get_by_role("button", name="Keep it").click()
    for text in ("0", "0.06", "0.12", "0.06", "0"):
        record(page, text)
    expect(page.locator(".panel")).to_contain_text("0.12")
    page.keyboard.press("x")
    expect(page.locator("#act")).to_be_focused()
    expect(page.locator("#act")).to_have_value("shaft-trued")
    page.fill("#what", "in the press, z")
    page.get_by_role("button", name="It was done").click()
    expect(page.locator(".strip")).to_contain_text("The shaft was trued")
    expect(page.locator(".panel")).not_to_contain_text("0.12")
    for text in ("0", "0.01", "0.02", "0.01", "0"):
        record(page, text)
    expect(page.locator(".panel")).to_contain_text("0.02")
    expect(page.locator(".panel")).to_contain_text("Before (the shaft was trued, in the press, z): 0.12")
    page.goto(f"{server.url}/jobs/{key}/sheet")
    expect(page.locator(".build-sheet")).to_contain_text("The shaft was trued: in the press, z")


def test_every_station_says_what_was_done_by_one_key(page: Page, server: Server) -> None:
    key = described(page, server)
    for station in ("engine", "card", "setting", "marks", "wheel", "tdc", "degree", "adjust"):
        page.goto(f"{server.url}/jobs/{key}/{station}")
        expect(page.locator("#act")).to_be_hidden()
        page.keyboard.press("Escape")
        page.keyboard.press("x")
        expect(page.locator("#act")).to_be_focused()
