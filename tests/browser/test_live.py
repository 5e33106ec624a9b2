"""Instruments that say what they show: an engine degreed whole with nobody typing a figure, and a second page that follows."""

import json
import re
import threading
import time
import urllib.request
from collections.abc import Iterator
from itertools import count
from uuid import uuid4

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, described, record, signed_in
from tests.browser.test_slow_answers import SETUPS
from uranograph.instruments.simulator import Server as Lines
from uranograph.instruments.simulator import Simulator, engine
from uranograph.phase import slack
from uranograph.shop import exchange, instrument_shelf, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.world import geometry

SEED = 7


@pytest.fixture
def lines() -> Iterator[Lines]:
    served = Lines(Simulator(engine(SEED), SEED), hz=60)
    yield served
    served.close()


def set_up(server: Server, lines: Lines) -> str:
    """A job with its forms filled in, and two instruments on one line."""
    parts = lines.simulator.world.parts
    shop = Shop(server.database)
    with shop.write() as session:
        key = jobs.begin(session, "Degreed by its instruments", "QZ", uuid4().hex)
        forms = {
            "engine": {
                "cylinders": "4",
                "firing_order": "-".join(map(str, parts.order)),
                "rotation": "clockwise",
                "unit": "mm",
                "stroke": f"{parts.stroke_mm:g}",
                "rod": f"{parts.rod_mm:g}",
                "valvetrain": "pushrod",
                "lift_at": "lifter",
            },
            "way": {"way": "degree"},
            "card": {name: f"{value:g}" for name, value in parts.card.items()} | {"unit": "mm"},
            "wheel": {"scale": "half", "mount": "front", "division": "1", "dial_division": "0.01", "unit": "mm"},
        }
        for kind, typed in forms.items():
            jobs.save_form(session, key, kind, typed, "QZ")
        common = {"url": lines.url, "pattern": "channels"}
        for own in (
            {"name": "E1", "kind": "angle", "channel": "angle", "line_unit": "deg"},
            {"name": "D1", "kind": "length", "channel": "dial", "line_unit": "mm"},
        ):
            instrument_shelf.keep(session, common | own, "QZ")
    shop.close()
    return key


def take_up(page: Page, server: Server) -> None:
    """Have the server read what was put on its list behind its back: the list is kept once more."""
    page.goto(f"{server.url}/instruments?edit=E1")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.locator("[data-shows=E1]")).to_contain_text("deg", timeout=8000)


def rests(lines: Lines) -> None:
    """Wait until the hand at the engine has done what it was about to do."""
    for _ in range(600):
        if lines.simulator.is_idle:
            return
        time.sleep(0.05)
    raise AssertionError("it never came to rest")


def test_an_engine_is_degreed_whole_with_nobody_typing_a_figure(page: Page, server: Server, lines: Lines) -> None:
    key, hand = set_up(server, lines), lines.simulator
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
    expect(page.locator(".strip")).to_contain_text("BTDC", timeout=12000)
    # Whoever else has the job open sees it without doing anything.
    expect(other.locator(".strip")).to_contain_text("BTDC", timeout=2000)
    lines.cut()
    expect(page.locator("#live [data-live=E1]")).to_have_class("live-one is-live", timeout=8000)
    hand.do("turn", by=-360.0)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("Found", timeout=12000)
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
        expect(page.locator("[data-collect-words]")).to_contain_text(re.compile("forward|of 720"))
        hand.do("turn", by=790.0)
        expect(page.locator(".sweep-line")).to_be_visible(timeout=15000)
        page.wait_for_url(f"**/degree?method=sweep&lobe={lobe}", timeout=20000)
        expect(page.locator(".strip")).to_contain_text(f"{lobe} sweep", timeout=20000)
        if lobe == "intake":
            # Back over the nose: the drive's slack is measured.
            page.get_by_role("button", name="Back over it: slack").click()
            expect(page.locator("[data-collect-words]")).to_contain_text("backward")
            rests(lines)
            hand.do("turn", by=-560.0)
            expect(page.locator(".strip")).to_contain_text("backward", timeout=20000)
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
    expect(page.locator("#read-by-other")).to_contain_text("TN is reading this one", timeout=3000)
    record(page, "35")
    expect(other.locator(".strip td b")).to_have_count(1, timeout=3000)
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
    expect(page.locator(".strip td b")).to_have_count(2, timeout=3000)
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
    expect(other.locator(".strip td b")).to_have_count(1, timeout=4000)


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
    expect(page.locator(".strip td b")).to_have_count(1, timeout=8000)
    hand.do("turn", by=2 * low)
    expect(page.locator(".strip td b")).to_have_count(2, timeout=8000)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("Found")


def test_a_crank_pushed_to_and_fro_records_its_end_play(page: Page, server: Server) -> None:
    key = described(page, server)
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/sheet/end-play", form={**SETUPS["end-play"], "unit": "mm"}, **sent)
    dial = {"name": "D9", "kind": "length", "url": "bridge:B9", "pattern": "number", "line_unit": "mm", "by": "QZ"}
    page.request.post(f"{server.url}/instruments", form=dial, **sent)
    ended = threading.Event()
    level = [0.0]

    def dial_says() -> None:
        for n in count():
            line = {"n": n, "t": time.monotonic(), "raw": f"{level[0]:.3f} mm"}
            body = json.dumps({"name": "B9", "run": key, "lines": [line]}).encode()
            asked = urllib.request.Request(
                f"{server.url}/instruments/lines", body, {"Content-Type": "application/json"}
            )
            urllib.request.urlopen(asked, timeout=5).close()
            if ended.wait(0.03):
                return

    saying = threading.Thread(target=dial_says, daemon=True)
    saying.start()
    try:
        page.goto(f"{server.url}/jobs/{key}/end-play")
        page.keyboard.press("1")
        page.keyboard.press("Enter")
        page.get_by_role("button", name="Rock it, three times").click()
        expect(page.locator("[data-collect-words]")).to_contain_text("times")
        for to in (0.12, 0.0, 0.121, 0.001, 0.12, 0.0, 0.12):
            level[0] = to
            page.wait_for_timeout(700)
            if page.locator(".strip td b").count() > 1:
                break
        expect(page.locator(".strip td b")).to_have_count(2, timeout=4000)
        assert abs(float(page.locator(".strip td b").first.inner_text()) - 0.12) < 0.004
        expect(page.locator(".strip")).to_contain_text("QZ, D9")
    finally:
        ended.set()
        saying.join(5)
        page.request.post(f"{server.url}/instruments/remove", form={"name": "D9", "by": "QZ"}, **sent)
