"""Oily hands, reloads, double clicks, two tabs, a stopped server, a tablet, no mouse."""

import re

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Server, described, events_read, ready_for_top, record, slot, walk_to
from uranograph.core.lobe import CosineLobe, lift_at


def side(page: Page) -> str:
    return page.locator(".reading-form input[name=side]:checked").input_value()


def test_letters_say_the_side_and_never_land_among_the_digits(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    assert side(page) == "btdc"
    for keys, wanted in (("a", "atdc"), ("0a", "abdc"), ("0b", "bbdc"), ("0b", "btdc")):
        page.keyboard.type(keys)
        assert side(page) == wanted
    page.fill("#text", "")
    page.keyboard.type("55 5/8 abdc")
    assert side(page) == "abdc"
    assert page.locator("#text").input_value().strip() == "55 5/8"
    page.wait_for_timeout(1600)
    page.keyboard.type("btdc")
    record(page, "")
    expect(page.locator(".strip")).to_contain_text("55 5/8 BTDC")


def test_digits_go_to_the_waiting_slot_from_anywhere(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    page.locator(".station").first.focus()
    page.keyboard.type("40")
    expect(page.locator("#text")).to_be_focused()
    expect(page.locator("#text")).to_have_value("40")


def test_brackets_walk_the_stations_and_the_question_mark_shows_the_keys(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    for key, station in (
        ("]", "degree"),
        ("[", "tdc"),
        ("[", "wheel"),
        ("[", "sprocket"),
        ("]", "wheel"),
        ("]", "tdc"),
        ("]", "degree"),
        ("w", "what-if"),
        ("[", "degree"),
    ):
        page.keyboard.press(key)
        page.wait_for_url(f"**/{station}")
    page.keyboard.press("?")
    expect(page.locator("#keys-help")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.locator("#keys-help")).to_be_hidden()
    page.goto(f"{server.url}/jobs/new")
    expect(page.locator("#title")).to_be_focused()
    page.keyboard.type("What is [this]?")
    expect(page.locator("#title")).to_have_value("What is [this]?")


def test_every_key_has_a_visible_button(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    record(page, "40")
    for name in ("Record Enter", "Void last z", "Intake and exhaust ]", "Keys ?"):
        expect(page.get_by_role("button", name=name).or_(page.get_by_role("link", name=name)).first).to_be_visible()
    expect(page.locator("a[data-key=w]")).to_be_visible()


@pytest.mark.parametrize("text", ["95", "1.27mm", "fifty", ""])
def test_a_bad_reading_is_told_beside_the_field_and_stays(page: Page, server: Server, text: str) -> None:
    ready_for_top(page, server)
    page.fill("#text", text)
    page.keyboard.press("Enter")
    expect(page.locator("#error-text")).not_to_be_empty()
    expect(page.locator("#text")).to_have_value(text)
    expect(page.locator("#text")).to_be_focused()
    assert slot(page) == "stop.1.before"


def test_decimal_commas_fractions_and_units_are_read(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    record(page, "40,5")
    record(page, "40 1/2")
    expect(page.locator(".verdict")).to_contain_text("In")
    page.locator("[data-again]").click()
    page.get_by_role("link", name="dial, equal drop each side").click()
    page.fill("#second", "0.25in")
    page.focus("#text")
    record(page, "28")
    assert page.locator("#second").input_value() == "0.25in"
    expect(page.locator("#second")).not_to_be_editable()


def test_a_reload_in_mid_entry_loses_nothing(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    page.keyboard.type("33 3/4 a")
    page.reload()
    expect(page.locator("#text")).to_have_value("33 3/4 ")
    assert side(page) == "atdc"
    page.goto(f"{server.url}/jobs/{key}/card")
    page.fill("#advance_deg", "1.5")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    page.go_back()
    expect(page.locator("#advance_deg")).to_have_value("1.5")


def test_a_double_click_and_a_double_enter_record_once(page: Page, server: Server) -> None:
    ready_for_top(page, server)
    page.fill("#text", "40")
    page.get_by_role("button", name="Record").dblclick()
    expect(page.locator(".strip tr")).to_have_count(1)
    page.wait_for_timeout(300)
    expect(page.locator(".strip tr")).to_have_count(1)
    assert slot(page) == "stop.1.after"


def test_a_job_open_in_two_tabs_tells_the_second(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    other = page.context.new_page()
    other.goto(f"{server.url}/jobs/{key}/tdc")
    # What stands in a field stays in the hand, whatever is written elsewhere meanwhile.
    other.fill("#text", "41")
    record(page, "40")
    expect(other.locator(".strip tr")).to_have_count(1)
    expect(other.locator("#text")).to_have_value("41")
    other.locator("#text").press("Enter")
    expect(other.locator(".message")).to_contain_text("another window")
    expect(other.locator("#text")).to_have_value("41")
    expect(other.locator(".strip tr")).to_have_count(1)
    # Looked at and still wanted, it is recorded for the slot that waits now.
    assert slot(other) == "stop.1.after"
    record(other, "a")
    expect(other.locator(".strip tr")).to_have_count(2)


def test_what_was_recorded_while_the_server_is_away_waits_and_goes_out_once_in_order(
    page: Page, own_server: Server
) -> None:
    ready_for_top(page, own_server)
    own_server.stop()
    for figure in ("40", "39"):
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
    expect(page.locator("#notice")).to_contain_text("Uranograph does not answer")
    expect(page.locator(".outbox")).to_contain_text("Sent as soon as Uranograph answers: 40. Waiting: 39.")
    own_server.start()
    expect(page.locator(".strip tr")).to_have_count(2)
    expect(page.locator("#notice")).to_be_hidden()
    expect(page.locator(".outbox")).to_have_count(0)
    newest, first = page.locator(".strip tr").all_inner_texts()
    assert "40 BTDC" in first
    assert "39 ATDC" in newest


def test_what_waits_for_the_server_can_be_taken_back(page: Page, own_server: Server) -> None:
    ready_for_top(page, own_server)
    own_server.stop()
    page.keyboard.type("44")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Take it back").click()
    expect(page.locator("#text")).to_have_value("44")
    own_server.start()
    expect(page.locator("#notice")).to_be_hidden()
    page.fill("#text", "40")
    record(page, "")
    expect(page.locator(".strip tr")).to_have_count(1)
    expect(page.locator(".strip")).to_contain_text("40 BTDC")


def test_what_was_written_though_its_answer_was_lost_is_told_once_it_was_taken_back(page: Page, server: Server) -> None:
    ready_for_top(page, server)

    def lost(route: Route) -> None:
        if route.request.method == "POST":
            route.fetch()
        route.abort()

    page.route(lambda url: url.endswith("/tdc") or "/static/page" in url, lost)
    page.keyboard.type("40")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Take it back").click()
    page.unroute_all()
    expect(page.locator("#text")).to_have_value("40")
    page.fill("#text", "44")
    page.keyboard.press("Enter")
    # The first figure stands, and the other is neither lost nor taken for it.
    expect(page.locator(".message")).to_contain_text("What you typed is still here")
    expect(page.locator("#text")).to_have_value("44")
    expect(page.locator(".strip tr")).to_have_count(1)
    expect(page.locator(".strip")).to_contain_text("40 BTDC")


def test_forms_wait_for_the_server_too_and_keep_what_is_typed(page: Page, own_server: Server) -> None:
    key = described(page, own_server)
    # One that the page sends itself, and one that leads to another page.
    page.goto(f"{own_server.url}/jobs/{key}/wheel")
    page.fill("#division", "0.5")
    own_server.stop()
    page.get_by_role("button", name="Keep and go on").click()
    expect(page.locator("#notice")).to_contain_text("sent as soon as it answers")
    expect(page.locator("#division")).to_have_value("0.5")
    own_server.start()
    page.wait_for_url("**/tdc", timeout=15_000)
    page.goto(f"{own_server.url}/jobs/{key}/overview")
    own_server.stop()
    page.fill("#words", "the stop is bent")
    page.locator("form", has=page.locator("#words")).get_by_role("button", name="Keep").click()
    expect(page.locator("#notice")).to_contain_text("sent as soon as it answers")
    expect(page.locator("#words")).to_have_value("the stop is bent")
    own_server.start()
    expect(page.locator(".note")).to_contain_text("the stop is bent")
    expect(page.locator(".note")).to_have_count(1)


def test_the_back_button_after_recording_writes_nothing_again(page: Page, server: Server) -> None:
    key = ready_for_top(page, server)
    record(page, "40")
    page.keyboard.press("]")
    page.wait_for_url("**/degree")
    page.go_back()
    page.wait_for_url(f"**/jobs/{key}/tdc")
    page.reload()
    expect(page.locator(".strip tr")).to_have_count(1)
    assert slot(page) == "stop.1.after"
    expect(page.locator("#text")).to_have_value("")


def test_by_keyboard_alone_from_new_job_to_first_verdict(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/jobs/new")
    for text in ("Keys only", "QZ", "4", "1342"):
        page.keyboard.type(text)
        page.keyboard.press("Tab")
    page.keyboard.press("Enter")
    page.wait_for_url("**/card")
    page.focus("#intake_centerline_deg")
    page.keyboard.type("108")
    page.keyboard.press("Enter")
    page.wait_for_url(lambda url: not url.endswith("/card"))
    walk_to(page, "wheel")
    page.locator("input[name=scale]:checked").focus()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Enter")
    page.wait_for_url("**/tdc")
    record(page, "40")
    record(page, "40")
    page.keyboard.press("]")
    page.wait_for_url("**/degree")
    record(page, "70")
    record(page, "153")
    expect(page.locator(".verdict")).to_contain_text("late")


def test_the_what_if_slider_moves_the_events(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/degree")
    page.keyboard.press("w")
    page.wait_for_url("**/what-if")
    expect(page.locator("#intake")).to_be_focused()
    for step in range(1, 5):
        page.keyboard.press("ArrowRight")
        expect(page.locator("#intake")).to_have_value(f"{step / 2:g}")
    expect(page.locator("#what-if-table .number")).to_have_text("2.0")
    expect(page.locator("#figure .supposed-curve")).to_have_count(2)


def test_a_sweep_is_typed_at_speaking_speed(page: Page, server: Server) -> None:
    key = described(page, server, scale="half")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    record(page, "40")
    record(page, "40")
    page.goto(f"{server.url}/jobs/{key}/degree?method=sweep&lobe=intake&step=20")
    lobe = CosineLobe(centerline_deg=112, duration_deg=244, check_lift_mm=1.0, max_lift_mm=8.5)
    assert page.locator("#text").input_value() == "40"
    for angle in range(-40, 281, 20):
        record(page, f"{lift_at(lobe, angle):.2f}")
    expect(page.locator("#figure .reading-dot")).to_have_count(17)
    expect(page.locator(".headline .number")).to_have_text(re.compile(r"[12]\.\d"))
    line = page.locator("#figure .lift-line").first
    before = line.get_attribute("y1")
    page.locator("#lift").focus()
    for _ in range(5):
        page.keyboard.press("ArrowRight")
    expect(page.locator("#lift-events")).to_contain_text("intake")
    expect(line).not_to_have_attribute("y1", before)
    shown = f"at {float(page.locator('#lift').input_value()):.2f} mm"
    expect(page.locator("#figure text", has_text=shown)).to_be_visible()
    grab = page.locator("#figure .lift-grab").first.bounding_box()
    page.mouse.move(grab["x"] + 100, grab["y"] + grab["height"] / 2)
    page.mouse.down()
    page.mouse.move(grab["x"] + 100, grab["y"] - 150, steps=4)
    page.mouse.up()
    value = float(page.locator("#lift").input_value())
    assert value > 2.5
    expect(page.locator("#figure text", has_text=f"at {value:.2f} mm")).to_be_visible()


def test_a_position_is_chosen_and_measured_again(page: Page, server: Server) -> None:
    key = described(page, server, scale="half")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    record(page, "40")
    record(page, "40")
    page.keyboard.press("]")
    page.wait_for_url("**/degree")
    events_read(page, server, key, 4)
    page.keyboard.press("]")
    page.wait_for_url("**/adjust")
    page.select_option("#a1_kind", "tooth")
    expect(page.locator("#a1_teeth")).to_be_visible()
    expect(page.locator("#a1_options")).to_be_hidden()
    page.select_option("#a1_kind", "choices")
    page.fill("#a1_name", "keyway")
    page.fill("#a1_options", "R4: -4, 0: 0, A4: 4")
    page.fill("#a1_fitted", "0")
    page.get_by_role("button", name="Keep the drive").click()
    expect(page.locator(".offer-words").first).to_contain_text("keyway: 0 to A4")
    page.get_by_role("button", name="Choose it").click()
    page.get_by_role("button", name="It is moved").click()
    expect(page.locator(".strip")).to_contain_text("tried keyway: 0 to A4")
    # The wheel hung on the gear that came off: its zero ended with that.
    expect(page.locator(".strip")).to_contain_text("The wheel came off and went on again")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    record(page, "40")
    record(page, "40")
    page.keyboard.press("]")
    page.wait_for_url("**/degree")
    events_read(page, server, key)
    expect(page.locator(".verdict")).to_contain_text("Cannot tell yet")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    record(page, "40")
    record(page, "40")
    page.goto(f"{server.url}/jobs/{key}/degree")
    events_read(page, server, key)
    expect(page.locator(".verdict")).to_contain_text("In")
    page.keyboard.press("]")
    expect(page.locator(".panel")).to_contain_text("as predicted")
    expect(page.locator("#figure .star.solid")).to_have_count(4)


def test_night_is_kept(page: Page, demo: Server) -> None:
    page.goto(demo.url)
    page.get_by_role("button", name="Night").click()
    expect(page.locator("html")).to_have_attribute("data-light", "night")
    page.goto(demo.url)
    expect(page.locator("html")).to_have_attribute("data-light", "night")


def test_night_is_a_light_of_its_own(page: Page, demo: Server) -> None:
    """The checker above sees the colors that the cookie brings, and not the day's twice."""
    ink = "() => getComputedStyle(document.body).backgroundColor"
    page.goto(demo.url)
    day = page.evaluate(ink)
    page.evaluate("Object.assign(document.documentElement.dataset, {light: 'night', bsTheme: 'dark'})")
    set_here = page.evaluate(ink)
    page.context.add_cookies([{"name": "uranograph_light", "value": "night", "url": demo.url}])
    page.goto(demo.url)
    assert page.evaluate(ink) == set_here
    assert set_here != day
