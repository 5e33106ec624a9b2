"""Instruments that say what they show: an engine degreed whole with nobody typing a figure, and a second page that follows."""

import re
import time

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, described, record, signed_in
from tests.browser.live_bench import PATIENCE_MS, rests, saying, set_up, take_up, told
from tests.browser.test_slow_answers import SETUPS
from uranograph.instruments.simulator import Server as Lines
from uranograph.phase import slack
from uranograph.shop import exchange, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.world import geometry

pytestmark = pytest.mark.live


def test_an_engine_is_degreed_whole_with_nobody_typing_a_figure(page: Page, server: Server, lines: Lines) -> None:
    key, hand = set_up(server, lines), lines.simulator
    hand.rate = 110.0
    signed_in(page, server, "QZ")
    take_up(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    expect(page.locator("#live [data-live=E1]")).to_contain_text("TDC")
    other = page.context.new_page()
    other.goto(f"{server.url}/jobs/{key}/tdc")
    # TDC: both contacts, each taken where the crank stays at the stop.
    page.get_by_role("button", name="Record when still").click()
    hand.do("stop", by=8.0)
    hand.do("turn", by=360.0)
    expect(page.locator(".strip")).to_contain_text("BTDC", timeout=PATIENCE_MS)
    # Whoever else has the job open sees it without doing anything.
    expect(other.locator(".strip")).to_contain_text("BTDC", timeout=PATIENCE_MS)
    lines.cut()
    expect(page.locator("#live [data-live=E1]")).to_have_class("live-one is-live", timeout=PATIENCE_MS)
    hand.do("turn", by=-360.0)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("Found", timeout=PATIENCE_MS)
    page.get_by_role("button", name="Don't move it, subtract").click()
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("subtracted")
    hand.do("stop", by=0.0)
    # Both lobes, two turns each.
    for lobe, base_deg in (("intake", 420.0), ("exhaust", 200.0)):
        hand.do("dial", lobe)
        hand.do("to", by=base_deg)
        rests(lines)
        hand.do("zero-dial")
        time.sleep(0.3)
        page.goto(f"{server.url}/jobs/{key}/degree?method=sweep&lobe={lobe}")
        page.get_by_role("button", name="Sweep live").click()
        told(page, "Turn slowly forward")
        hand.do("turn", by=790.0)
        expect(page.locator("#figure .live-curve")).to_be_visible(timeout=PATIENCE_MS)
        page.wait_for_url(f"**/degree?method=sweep&lobe={lobe}", timeout=PATIENCE_MS)
        expect(page.locator(".strip")).to_contain_text(f"{lobe} sweep", timeout=PATIENCE_MS)
        if lobe == "intake":
            # Back over the nose: the drive's slack is measured.
            page.get_by_role("button", name="Back over it: slack").click()
            told(page, "backward")
            rests(lines)
            hand.do("turn", by=-560.0)
            expect(page.locator(".strip")).to_contain_text("backward", timeout=PATIENCE_MS)
    shop = Shop(server.database)
    with shop.read() as session:
        file = exchange.export_job(session, key)
        measured = slack.swept_deg(loading.load(session, key))
    shop.close()
    assert measured == pytest.approx(hand.world.parts.slack_deg, abs=0.4)
    found = judge(file)
    phase = found["by_cam"]["both"]
    assert abs(phase["error_deg"] - hand.world.state.late_deg) < phase["doubt_deg"] + 0.1
    swept = [each for each in file.model_dump()["entries"] if each.get("slot", "").startswith("sweep-")]
    assert len(swept) > 150
    assert {each["instrument"] for each in swept} == {"E1, D1"}
    assert found["stations"]["degree"]["verdict"] != "out"


def test_what_another_records_appears_and_takes_nothing_out_of_anybodys_hand(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    other = page.context.browser.new_context().new_page()  # type: ignore[union-attr]
    signed_in(other, server, "TN")
    other.goto(f"{server.url}/jobs/{key}/tdc")
    expect(other.locator("#here")).to_contain_text("QZ at")
    # TN types; QZ records another reading meanwhile.
    other.locator("[data-reading]").fill("34")
    expect(page.locator("#read-by-other")).to_contain_text("TN is reading this one", timeout=PATIENCE_MS)
    record(page, "35")
    expect(other.locator(".strip td b")).to_have_count(1, timeout=PATIENCE_MS)
    assert other.locator("[data-reading]").input_value() == "34"
    expect(other.locator("[data-reading]")).to_be_focused()
    # The same slot is filled by now: that is told, and what was typed stays.
    other.keyboard.press("Enter")
    expect(other.locator("#bench")).to_contain_text("there already")
    assert other.locator("[data-reading]").input_value() == "34"
    # A note under way stays too, and with nothing typed the next question comes by itself.
    page.locator("summary", has_text="Note, skip").click()
    page.locator("#words").fill("the pointer is loose")
    other.locator("[data-reading]").fill("")
    other.goto(f"{server.url}/jobs/{key}/tdc")
    record(other, "33")
    expect(page.locator(".strip td b")).to_have_count(2, timeout=PATIENCE_MS)
    assert page.locator("#words").input_value() == "the pointer is loose"
    other.context.close()


def test_a_page_that_was_asleep_catches_up(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    other = page.context.new_page()
    other.goto(f"{server.url}/jobs/{key}/tdc")
    expect(other.locator(".strip")).to_contain_text("No readings yet")
    # Out of sight it gives its line back; meanwhile somebody reads on.
    asleep = """hidden => {
      Object.defineProperty(document, 'hidden', { value: hidden, configurable: true });
      document.dispatchEvent(new Event('visibilitychange'));
    }"""
    other.evaluate(asleep, True)
    record(page, "35")
    other.wait_for_timeout(400)
    expect(other.locator(".strip")).to_contain_text("No readings yet")
    other.evaluate(asleep, False)
    expect(other.locator(".strip td b")).to_have_count(1, timeout=PATIENCE_MS)


def test_by_dial_an_angle_is_taken_where_the_dial_rests_at_the_drop_and_nowhere_else(
    page: Page, server: Server, lines: Lines
) -> None:
    key, hand = set_up(server, lines), lines.simulator
    signed_in(page, server, "QZ")
    take_up(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    page.get_by_role("link", name="dial, equal drop").click()
    hand.do("dial", "piston")
    hand.do("to", by=0.0)
    rests(lines)
    hand.do("zero-dial")
    top = geometry.under_dial(hand.world, "piston")

    def drop(deg: float) -> float:
        return top - geometry.under_dial(hand.world.but(crank_deg=hand.world.state.crank_deg + deg), "piston")

    low, high = 5.0, 60.0
    for _ in range(40):
        low, high = ((low + high) / 2, high) if drop((low + high) / 2) < 5.0 else (low, (low + high) / 2)
    page.get_by_label("Below TDC").fill("5")
    page.get_by_role("button", name="Record when still").click()
    hand.do("turn", by=-60.0)
    rests(lines)
    page.wait_for_timeout(1200)
    # Well before the drop it rests, and nothing is taken.
    assert page.locator(".strip td b").count() == 0
    hand.do("turn", by=60.0 - low)
    expect(page.locator(".strip td b")).to_have_count(1, timeout=PATIENCE_MS)
    hand.do("turn", by=2 * low)
    expect(page.locator(".strip td b")).to_have_count(2, timeout=PATIENCE_MS)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("Found")


def test_a_crank_pushed_to_and_fro_records_its_end_play(page: Page, server: Server) -> None:
    key = described(page, server)
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/sheet/end-play", form={**SETUPS["end-play"], "unit": "mm"}, **sent)
    with saying(page, server, {"name": "D9", "kind": "length", "line_unit": "mm"}) as level:
        level[0] = "0.000 mm"
        page.goto(f"{server.url}/jobs/{key}/end-play")
        page.keyboard.press("1")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Rock it, three times").click()
        told(page, "times")
        for push in range(40):
            level[0] = f"{0.0 if push % 2 else 0.12:.3f} mm"
            page.wait_for_timeout(700)
            if page.locator(".strip td b").count() > 1:
                break
        expect(page.locator(".strip td b")).to_have_count(2)
        assert abs(float(page.locator(".strip td b").first.inner_text()) - 0.12) < 0.004
        expect(page.locator(".strip")).to_contain_text("QZ, D9")


def at_the_sweep(page: Page, server: Server, key: str) -> None:
    page.goto(f"{server.url}/jobs/{key}/degree?method=sweep&lobe=intake")


def test_one_reads_the_wheel_and_another_the_dial_of_the_same_reading(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/tdc")
    for typed in ("35", "33"):
        record(page, typed)
    at_the_sweep(page, server, key)
    expect(page.locator("#together")).to_be_hidden()
    other = page.context.browser.new_context().new_page()  # type: ignore[union-attr]
    signed_in(other, server, "TN")
    at_the_sweep(other, server, key)
    # QZ reads the wheel, TN the dial.
    page.get_by_role("button", name="I read the wheel").click()
    other.get_by_role("button", name="I read the dial").click()
    expect(page.locator("input#text")).to_be_focused()
    page.keyboard.type("41.5")
    page.keyboard.press("Enter")
    expect(page.locator("[data-together-words]")).to_contain_text("passed on. Waiting for the dial")
    expect(other.locator("[data-together-words]")).to_contain_text("QZ reads 41.5", timeout=PATIENCE_MS)
    other.locator("[data-reading]").fill("0.12")
    other.keyboard.press("Enter")
    for each in (page, other):
        expect(each.locator(".strip tbody tr, .strip tr").filter(has_text="41.5")).to_contain_text(
            "TN+QZ", timeout=PATIENCE_MS
        )
    # The other way about: the dial first, then the wheel; both stay where their eyes are.
    other.locator("[data-reading]").fill("0.31")
    other.keyboard.press("Enter")
    expect(page.locator("[data-together-words]")).to_contain_text("TN reads 0.31 at the dial", timeout=PATIENCE_MS)
    expect(page.locator("input#text")).to_be_focused()
    page.locator("input#text").fill("36")
    page.keyboard.press("Enter")
    expect(other.locator(".strip")).to_contain_text("QZ+TN", timeout=PATIENCE_MS)
    shop = Shop(server.database)
    with shop.read() as session:
        taken = [each for each in loading.load(session, key).readings if each.slot.startswith("sweep-")]
    shop.close()
    assert [(each.text, each.second, each.by) for each in taken] == [("41.5", "0.12", "TN+QZ"), ("36", "0.31", "QZ+TN")]
    # Both are asked for the next point.
    for each in (page, other):
        expect(each.locator("form.reading-form input[name=slot]")).to_have_value(re.compile(r"\.3\.point"))
    # A half that nobody completed is taken out again: no old angle goes with a new lift.
    page.locator("input#text").fill("29.5")
    page.keyboard.press("Enter")
    expect(other.locator("input#text")).to_have_value("29.5", timeout=PATIENCE_MS)
    expect(other.locator("[data-together-words]")).to_contain_text("a while ago", timeout=PATIENCE_MS)
    expect(other.locator("input#text")).not_to_have_value("29.5")
    expect(other.locator("input[name=with]")).to_have_count(0)
    other.context.close()


def test_who_watches_the_dial_says_now_and_the_other_hears_it(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/degree?method=events")
    other = page.context.browser.new_context().new_page()  # type: ignore[union-attr]
    signed_in(other, server, "TN")
    other.goto(f"{server.url}/jobs/{key}/degree?method=events")
    other.get_by_role("button", name="Say “now”").click()
    expect(page.locator("[data-together-words]")).to_contain_text("TN: now. Read the wheel.", timeout=PATIENCE_MS)
    expect(page.locator("[data-reading]")).to_be_focused()
    record(page, "12")
    expect(page.locator("[data-together-words]")).to_have_text("", timeout=PATIENCE_MS)
    other.context.close()
