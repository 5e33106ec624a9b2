"""Stations read by instruments with nobody typing a figure: every valve, runout, heat; and a job that changes in the middle."""

import re
from dataclasses import replace

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, described, signed_in
from tests.browser.live_bench import PATIENCE_MS, contacts, dial_on, job_of, rests, saying, set_up, take_up, told, until
from uranograph.instruments.simulator import Server as Lines
from uranograph.shop import exchange
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations import ORDER

pytestmark = pytest.mark.live
FAST_DEG_PER_S = 110.0
LATER_DEG = 5.0


def test_all_valves_are_swept_one_after_another_and_the_worn_one_is_named(
    page: Page, server: Server, lines: Lines
) -> None:
    key, hand = set_up(server, lines), lines.simulator
    hand.change(lambda world: replace(world, parts=replace(world.parts, worn={"3 exhaust": 0.94})))
    hand.rate = FAST_DEG_PER_S
    contacts(server, key, lines)
    signed_in(page, server, "QZ")
    take_up(page, server)
    parts = hand.world.parts
    page.goto(f"{server.url}/jobs/{key}/every-valve")
    for number in range(1, 9):
        cylinder, lobe = (number + 1) // 2, ("intake", "exhaust")[(number - 1) % 2]
        middle = parts.lobes[lobe].middle_deg + parts.order.index(cylinder) * parts.firing_deg
        dial_on(lines, f"{cylinder}-{lobe}", middle - 190 + hand.world.state.late_deg)
        # The next valve is asked for by itself.
        expect(page.locator("h1, .panel-title, .panel")).to_contain_text([re.compile(f"{cylinder} {lobe}")])
        page.get_by_role("button", name="Sweep this valve").click()
        told(page, "From the base circle")
        hand.do("turn", by=390.0)
        expect(page.locator(".strip")).to_contain_text(f"valve {cylinder} {lobe} closes", timeout=PATIENCE_MS)
        rests(lines)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("3 exhaust lifts less")
    job = job_of(server, key)
    finding = ORDER.by_key["every-valve"].find(job)
    assert finding.quantity.value == pytest.approx(-0.06 * parts.lobes["exhaust"].lift_mm, abs=0.05)
    assert len(job.active_readings("every-valve")) == 24
    # Each sweep's lines are with the job.
    assert page.locator(".beside a[href*='/photos/']").count() == 8


def test_a_valve_passed_too_fast_says_so_and_is_swept_again(page: Page, server: Server, lines: Lines) -> None:
    key, hand = set_up(server, lines), lines.simulator
    contacts(server, key, lines)
    signed_in(page, server, "QZ")
    take_up(page, server)
    asked: list[str] = []
    page.on("request", lambda request: asked.append(request.url) if request.url.endswith("/keep") else None)
    page.goto(f"{server.url}/jobs/{key}/every-valve")
    middle = hand.world.parts.lobes["intake"].middle_deg + hand.world.state.late_deg
    for rate, words in ((500.0, "too fast"), (FAST_DEG_PER_S, "")):
        dial_on(lines, "1-intake", middle - 190)
        hand.rate = rate
        page.get_by_role("button", name="Sweep this valve").click()
        told(page, "From the base circle")
        hand.do("turn", by=390.0)
        if words:
            told(page, words)
            rests(lines)
            # Why it was not kept stands there, and it is not tried again by itself.
            page.wait_for_timeout(500)
            told(page, words)
            assert len(asked) == 1
            assert page.locator(".strip td b").count() == 0
    expect(page.locator(".strip")).to_contain_text("valve 1 intake closes", timeout=PATIENCE_MS)


def test_a_shaft_is_turned_once_with_an_encoder_and_once_by_its_dial_alone(
    page: Page, server: Server, lines: Lines
) -> None:
    key, hand = set_up(server, lines), lines.simulator
    hand.rate = FAST_DEG_PER_S
    seat = hand.world.parts.seat
    true = max(seat.at(deg, 1.0) for deg in range(360)) - min(seat.at(deg, 1.0) for deg in range(360))
    signed_in(page, server, "QZ")
    take_up(page, server)
    dial_on(lines, "seat")
    page.goto(f"{server.url}/jobs/{key}/runout")
    page.get_by_role("button", name="Read one turn live").click()
    told(page, "always the same way")
    hand.do("turn", by=375.0)
    told(page, "TIR")
    expect(page.locator(".strip td b")).to_have_count(10, timeout=PATIENCE_MS)
    quantity = ORDER.by_key["runout"].find(job_of(server, key)).quantity
    assert quantity.value == pytest.approx(true, abs=0.006)
    rests(lines)
    page.get_by_role("link", name="Whole travel").click()
    page.get_by_role("button", name="Watch one turn").click()
    told(page, "so far")
    hand.do("turn", by=360.0)
    rests(lines)
    told(page, "where it began")
    page.get_by_role("button", name="The turn is done").click()
    expect(page.locator(".strip td b")).to_have_count(11, timeout=PATIENCE_MS)
    newest = job_of(server, key).active_readings("runout")[-1]
    assert newest.spot.kind == "total"
    assert newest.mm == pytest.approx(true, abs=0.006)
    assert newest.instrument == "D1"


def test_a_hot_gear_is_watched_until_it_grips_and_its_temperature_is_read(
    page: Page, server: Server, lines: Lines
) -> None:
    key, hand = set_up(server, lines), lines.simulator
    hand.pace = 6.0
    signed_in(page, server, "QZ")
    take_up(page, server)
    fit = {"bolts": "2", "stages": "30", "steps": "2", "torque_unit": "N m", "unit": "mm"}
    fit |= {"bore": "32", "interference": "0.02", "slip": "0.02", "width": "20"}
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/sheet/gear-fit", form=fit, **sent)
    page.goto(f"{server.url}/jobs/{key}/gear-fit?method=heat")
    expect(page.locator("#live [data-live=T1]")).to_contain_text("20")
    hand.do("heat", by=170.0)
    expect(page.locator("#live [data-live=T1]")).to_contain_text("16", timeout=PATIENCE_MS)
    page.get_by_role("button", name="Watch it cool").click()
    told(page, re.compile(r"in \d+:\d\d as it cools now"))
    page.goto(f"{server.url}/jobs/{key}/gear-fit?method=heat&item=temperature")
    expect(page.locator("#live-field")).to_contain_text("T1 reads", timeout=PATIENCE_MS)
    # Enter takes what the thermometer shows.
    page.locator("[data-reading]").press("Enter")
    expect(page.locator(".strip td b")).to_have_count(1, timeout=PATIENCE_MS)
    taken = job_of(server, key).active_readings("gear-fit")[-1]
    assert taken.instrument == "T1"
    assert 60 < float(re.match(r"[\d.]+", taken.text)[0]) < 170


def test_each_bolt_takes_the_peak_of_its_pull(page: Page, server: Server) -> None:
    key = described(page, server)
    fit = {"bolts": "2", "stages": "30", "steps": "1", "torque_unit": "N m", "unit": "mm"}
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/sheet/gear-fit", form=fit, **sent)
    with saying(page, server, {"name": "W9", "kind": "torque", "line_unit": "N m"}) as level:
        level[0] = "0.0 Nm"
        for bolt, peak in ((1, 30.2), (2, 29.8)):
            page.goto(f"{server.url}/jobs/{key}/gear-fit?method=bolts")
            # A pull rises, clicks, and is let go of.
            for value in (5.0, 18.0, peak):
                level[0] = f"{value} Nm"
                page.wait_for_timeout(150)
            expect(page.locator("#live-field")).to_contain_text(f"W9 reads {peak}", timeout=PATIENCE_MS)
            for value in (12.0, 1.0, 0.2):
                level[0] = f"{value} Nm"
                page.wait_for_timeout(300)
            expect(page.locator("#live-field")).to_contain_text(f"W9 reads {peak}")
            page.locator("[data-reading]").press("Enter")
            expect(page.locator(".strip td b")).to_have_count(bolt, timeout=PATIENCE_MS)
    taken = job_of(server, key).active_readings("gear-fit")
    assert [float(each.text.split()[0]) for each in taken] == [30.2, 29.8]
    assert {each.instrument for each in taken} == {"W9"}


def swept(page: Page, server: Server, lines: Lines, key: str, lobe: str, base_deg: float) -> None:
    """One lobe swept live, two turns."""
    hand, before = lines.simulator, len(job_of(server, key).active_readings("degree"))
    dial_on(lines, lobe, base_deg)
    page.goto(f"{server.url}/jobs/{key}/degree?method=sweep&lobe={lobe}")
    page.get_by_role("button", name="Sweep live").click()
    told(page, "Turn slowly forward")
    hand.do("turn", by=790.0)
    # Its points come into the large chart as they are read.
    expect(page.locator("#figure svg.lift .live-curve")).to_have_attribute(
        "d", re.compile(r"M[\d.]+ [\d.]+L"), timeout=PATIENCE_MS
    )
    until(lambda: len(job_of(server, key).active_readings("degree")) > before, f"the {lobe} sweep was not kept")
    expect(page.locator(".strip")).to_contain_text(f"{lobe} sweep", timeout=PATIENCE_MS)
    rests(lines)


def phase_of(server: Server, key: str) -> tuple[float, float, str]:
    shop = Shop(server.database)
    with shop.read() as session:
        found = judge(exchange.export_job(session, key))
    shop.close()
    phase = found["by_cam"]["both"]
    return phase["error_deg"], phase["doubt_deg"], found["stations"]["degree"]["verdict"]


def test_a_gear_refitted_in_the_middle_loses_the_encoders_zero_and_what_was_read_before_is_history(
    page: Page, server: Server, lines: Lines
) -> None:
    key, hand = set_up(server, lines), lines.simulator
    hand.rate = FAST_DEG_PER_S
    contacts(server, key, lines)
    signed_in(page, server, "QZ")
    take_up(page, server)
    for lobe, base_deg in (("intake", 420.0), ("exhaust", 200.0)):
        swept(page, server, lines, key, lobe, base_deg)
    error, doubt, _ = phase_of(server, key)
    assert abs(error - hand.world.state.late_deg) < doubt + 0.1
    # The cam gear goes on otherwise, and with the front apart the encoder's coupling was off: its zero is another.
    wheel = replace(hand.world.state.wheel, zero_deg=hand.world.state.wheel.zero_deg + 23.0)
    hand.change(lambda world: world.but(late_deg=world.state.late_deg + LATER_DEG, wheel=wheel))
    page.goto(f"{server.url}/jobs/{key}/degree")
    for act in ("wheel-refitted", "cam-moved"):
        page.locator("summary", has_text="What was done?").click()
        page.locator("#act").select_option(act)
        with page.expect_response(lambda answer: answer.url.endswith("/anew")):
            page.get_by_role("button", name="It was done").click()
        expect(page.locator("details[open] #act")).to_have_count(0)
    # Nothing of before counts for the cam as it stands now.
    assert phase_after(server, key) is None
    contacts(server, key, lines)
    for lobe, base_deg in (("intake", 420.0), ("exhaust", 200.0)):
        swept(page, server, lines, key, lobe, base_deg)
    error, doubt, verdict = phase_of(server, key)
    assert abs(error - hand.world.state.late_deg) < doubt + 0.1
    assert verdict != "in"


def phase_after(server: Server, key: str) -> float | None:
    shop = Shop(server.database)
    with shop.read() as session:
        found = judge(exchange.export_job(session, key))
    shop.close()
    assert found["stations"]["degree"]["verdict"] in ("open", "unsure")
    return (found["by_cam"].get("both") or {}).get("error_deg")
