"""From a degreed cam to the signed sheet, and what a change in the middle opens again."""

import json
from uuid import uuid4

from playwright.sync_api import Page, expect

from tests.browser.by_hand import answer, at, begin, fill, keep, was_done
from tests.browser.conftest import Server, events_read, record, signed_in, slot, walk_to
from tests.hands import CARD, ENGINE, WHEEL

DROPS = ("9.4", "9.9", "9.3", "9.8", "9.4", "9.9", "9.5", "9.7")


def degreed(page: Page, server: Server, late_deg: float = 0.0) -> str:
    """A job on the way of degreeing, its TDC found and its four events read."""
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    engine = {
        **ENGINE,
        "rocker_ratio": "1.5",
        "title": "Prove and close",
        "by": "QZ",
        "way": "degree",
        "token": uuid4().hex,
    }
    where = page.request.post(f"{server.url}/jobs/new", form=engine, **sent).headers["location"]
    key = where.split("/")[2]
    page.request.post(f"{server.url}/jobs/{key}/card", form=CARD, **sent)
    page.request.post(f"{server.url}/jobs/{key}/wheel", form=WHEEL, **sent)
    signed_in(page, server, "QZ")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    for text in ("40b", "40a"):
        record(page, text)
    events_read(page, server, key, late_deg)
    return key


def proofs(page: Page, server: Server, key: str) -> None:
    """The first reading come up to again, and the stop touched again."""
    at(page, server, key, "degree?method=events&event=io")
    record(page, "12")
    at(page, server, key, "tdc")
    for text in ("40b", "40a"):
        record(page, text)


def choose(page: Page, digit: str) -> None:
    """Press the digit of an answer, and Enter."""
    before = page.locator("form.reading-form input[name=token]").first.input_value()
    page.keyboard.press(digit)
    page.keyboard.press("Enter")
    page.wait_for_function(
        "b => { const t = document.querySelector('form.reading-form input[name=token]'); return !t || t.value !== b; }",
        arg=before,
    )


def tab_to(page: Page, name: str) -> None:
    """Press Tab until a field or button has the focus."""
    for _ in range(120):
        if page.evaluate(
            "n => document.activeElement.name === n || document.activeElement.textContent.trim() === n", name
        ):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{name} is not reached by Tab")


def test_from_a_degreed_cam_to_the_signed_sheet_by_keys_alone(page: Page, server: Server) -> None:
    key = degreed(page, server)
    proofs(page, server, key)
    at(page, server, key, "degree?method=events")
    expect(page.locator(".verdict.in")).to_be_visible()
    walk_to(page, "piston-valve")
    tab_to(page, "intake_angle")
    page.keyboard.type("12")
    page.keyboard.press("Enter")
    expect(page.locator("[data-reading]")).to_be_visible()
    for n, drop in enumerate(DROPS, 1):
        assert slot(page) == f"drop-{n}.1.gap"
        record(page, drop)
    expect(page.locator(".verdict.in")).to_be_visible()
    walk_to(page, "turn-over")
    choose(page, "1")
    walk_to(page, "valve-lash")
    tab_to(page, "intake_lash")
    page.keyboard.type("0.25")
    tab_to(page, "exhaust_lash")
    page.keyboard.type("0.35")
    page.keyboard.press("Enter")
    expect(page.locator("[data-reading]")).to_be_visible()
    order = []
    for _ in range(8):
        kind = slot(page).split(".")[0]
        order.append(int(kind.removeprefix("set-")))
        record(page, "0.25" if order[-1] % 2 else "0.35")
    # Stop by stop: what rests at the first firing TDC of 1, then at that of 4.
    assert order == [1, 2, 6, 3, 5, 7, 8, 4]
    expect(page.locator(".verdict.in")).to_be_visible()
    walk_to(page, "lock-up")
    for _ in range(6):
        choose(page, "1")
    expect(page.locator(".verdict.in")).to_be_visible()
    page.keyboard.press("]")
    page.wait_for_url("**/sheet")
    expect(page.get_by_text("Open before it can be signed")).to_have_count(0)
    tab_to(page, "name")
    page.keyboard.type("Q. Zed")
    page.keyboard.press("Enter")
    page.wait_for_url("**/signed/1")
    expect(page.frame_locator("#signed-page").locator(".signature")).to_contain_text("Signed, revision 1: Q. Zed (QZ)")
    # Back and Enter again: it is signed already, and not a second time.
    page.go_back()
    page.wait_for_url("**/sheet")
    tab_to(page, "name") if page.locator("[name=name]").count() else None
    page.goto(f"{server.url}/jobs/{key}/sheet")
    expect(page.get_by_text("Nothing was written since revision 1.")).to_be_visible()


def test_a_gear_moved_in_the_middle_opens_what_rested_on_it_and_nothing_else(page: Page, server: Server) -> None:
    key = degreed(page, server, late_deg=4.0)
    at(page, server, key, "adjust")
    fill(page, a1_kind="choices", a1_name="keyway", a1_options="R4: -4, 0: 0, A4: 4, A8: 8", a1_fitted="0")
    page.get_by_role("button", name="Keep the drive").click()
    expect(page.locator(".offer-line").first).to_contain_text("A4")
    at(page, server, key, "piston-valve")
    keep(page, intake_angle="12")
    # Deep enough at A4, and not at A8.
    for drop in ("6.0", "9.0"):
        record(page, drop)
    expect(page.locator(".verdict")).to_be_visible()
    at(page, server, key, "turn-over")
    answer(page, "free all the way")
    expect(page.locator(".verdict.in")).to_be_visible()
    at(page, server, key, "adjust")
    first = page.locator(".offer-line").first
    expect(first).to_contain_text("A4")
    expect(first.locator(".gap-state")).to_be_visible()
    page.get_by_role("button", name="Choose it").click()
    page.get_by_role("button", name="It is moved").click()
    # Its keyways are the crank gear's: the wheel came off with it.
    expect(page.get_by_role("link", name="Find TDC again")).to_be_visible()
    # The drop stands; what was turned and degreed does not.
    at(page, server, key, "turn-over")
    expect(page.locator(".finding .sentence")).to_contain_text("It turned freely, and since then the cam was moved")
    at(page, server, key, "piston-valve")
    expect(page.locator(".details")).to_contain_text("1 intake")
    expect(page.locator(".verdict.in")).to_have_count(0)
    at(page, server, key, "sheet")
    listed = page.locator(".open-points").inner_text()
    assert "Intake and exhaust" in listed
    assert "Turn over by hand" in listed
    assert page.get_by_role("button", name="Sign as revision").count() == 0
    # Degreed there, it may be judged again.
    at(page, server, key, "tdc")
    for text in ("40b", "40a"):
        record(page, text)
    events_read(page, server, key)
    at(page, server, key, "piston-valve")
    judged = json.loads(page.request.get(f"{server.url}/jobs/{key}.json").text())
    answer_of = page.request.post(f"{server.url}/api/judge", data=judged, headers={"Origin": server.url}).json()
    station = answer_of["stations"]["piston-valve"]
    assert station["verdict"] in ("in", "unsure")
    assert all(offer["least_gap_mm"] is not None for offer in answer_of["offers"])
    far = next(offer for offer in answer_of["offers"] if offer["moves"][0]["to"] == "A8")
    assert far["least_gap_mm"] < station["value"]


def test_a_stop_at_the_second_turn_is_looked_into(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "A stop", firing_order="1-3-4-2")
    at(page, server, key, "turn-over")
    answer(page, "it stopped")
    expect(page.locator(".instruction")).to_contain_text("Where did it stop?")
    record(page, "-14")
    answer(page, "a valve on its piston")
    expect(page.locator(".verdict.out")).to_be_visible()
    expect(page.locator("#figure svg")).to_contain_text("stopped at 346")
    answer(page, "free all the way")
    expect(page.locator(".verdict.in")).to_be_visible()
    was_done(page, "A gear was turned by teeth")
    expect(page.locator(".verdict.in")).to_have_count(0)


def test_a_change_is_planned_ticked_and_forecast(page: Page, server: Server) -> None:
    key = begin(page, server, "Plan a cam change", "A change", firing_order="1-3-4-2")
    at(page, server, key, "change-plan")
    expect(page.locator("#tasks")).to_contain_text("rockers loose")
    keep(
        page,
        people="RK, TN",
        tasks="drain; 20; 0\ncovers; 15; 1\nsprings; 30; 2; covers\nmove; 10; 1; springs, drain; ; 41 kW",
    )
    expect(page.locator("#plan-length")).to_contain_text("55 min")
    expect(page.locator("#plan-length")).to_contain_text("No plan for these hands is shorter")
    expect(page.locator(".instruction")).to_contain_text("Begin: drain")
    answer(page, "now", "now")
    expect(page.locator(".instruction")).to_contain_text("Is “covers” done?")
    answer(page, "now")
    expect(page.locator(".instruction")).to_contain_text("Begin: springs")
    expect(page.locator("#figure svg")).to_contain_text("last update")
