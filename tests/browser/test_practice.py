"""The practice bench: an honest hand turns the engine drawn, reads what is drawn, types it, and sees how it did."""

import re
import time
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import PHONE, Server, as_new, signed_in

TURNED = """async () => {
  await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
  const turned = (name) => Number(/rotate\\(([-\\d.]+)/.exec(document.getElementById(name).getAttribute('transform'))[1]);
  return {wheel: turned('wheel'), needle: turned('needle') / 360};
}"""


class Eye:
    """Sees the wheel at its pointer and the needle of the dial, as they are drawn."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def wheel(self) -> float:
        """Signed degrees about the wheel's own TDC mark, to a quarter."""
        shown = (self.page.evaluate(TURNED)["wheel"] + 180) % 360 - 180
        return round(shown * 4) / 4

    def dial(self) -> float:
        return float(self.page.evaluate(TURNED)["needle"])

    def settled(self) -> None:
        expect(self.page.locator("#engine")).to_have_attribute("aria-busy", "false")


class MouseHand:
    """Turns by the buttons."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def turn(self, quarters: int) -> None:
        coarse, fine = divmod(abs(quarters), 20)
        for by, times in ((5, coarse), (0.25, fine)):
            button = self.page.locator(f'[data-engine-act=turn][data-by="{by if quarters > 0 else -by}"]')
            for _ in range(times):
                button.click()


class KeyHand(MouseHand):
    """Turns by the arrow keys."""

    def turn(self, quarters: int) -> None:
        key = "ArrowRight" if quarters > 0 else "ArrowLeft"
        coarse, fine = divmod(abs(quarters), 20)
        for _ in range(coarse):
            self.page.keyboard.press(f"Shift+{key}")
        for _ in range(fine):
            self.page.keyboard.press(key)


def begun(page: Page, server: Server, number: int, seed: int = 7) -> None:
    signed_in(page, server, "QZ")
    page.goto(f"{server.url}/practice")
    page.locator(f"#seed-{number}").fill(str(seed))
    page.locator(f'form[action="/practice/{number}"] button').click()
    expect(page.locator("#engine")).to_have_attribute("aria-busy", "false")
    page.wait_for_function("() => document.getElementById('needle').hasAttribute('transform')")


def types(page: Page, shown: float) -> None:
    """Type what the wheel shows where it is asked for, with its side, and record it."""
    # What is decided already is read again by unfolding its field.
    page.evaluate("document.querySelectorAll('details.again').forEach((fold) => (fold.open = true))")
    before = page.locator("form.reading-form input[name=token]").first.input_value()
    side = "btdc" if shown < 0 else "atdc"
    page.locator(f"input[name=side][value={side}]").check(force=True)
    page.locator("[data-reading]").first.fill(f"{abs(shown):g}")
    page.keyboard.press("Enter")
    page.wait_for_function(
        "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
        arg=before,
    )


def until(hand: MouseHand, holds: Callable[[], bool], step: int, most: int = 400) -> None:
    for _ in range(most):
        if holds():
            return
        hand.turn(step)
    raise AssertionError("it never came there")


def both_contacts(page: Page, hand: MouseHand, eye: Eye) -> None:
    for step in (20, -20):
        for _ in range(160):
            hand.turn(step)
            if "stop" in (page.locator("#engine-note").text_content() or ""):
                break
        eye.settled()
        types(page, eye.wheel())


@pytest.mark.parametrize("way", [MouseHand, KeyHand])
def test_the_first_exercise_by_hand_and_eye(page: Page, server: Server, way: type[MouseHand]) -> None:
    begun(page, server, 1)
    eye, hand = Eye(page), way(page)
    page.get_by_role("button", name="Stop in").click()
    eye.settled()
    expect(page.get_by_role("button", name="Stop out")).to_be_visible()
    both_contacts(page, hand, eye)
    expect(page.locator("[data-panel=state]")).to_contain_text("Found")
    # The pointer is moved by what was found, at the engine and in the book.
    found = float(page.locator("[data-panel=state] .number").first.inner_text())
    after = "after" in page.locator("[data-panel=state]").first.inner_text()
    quarters = round(4 * found) * (-1 if after else 1)
    for _ in range(abs(quarters)):
        page.get_by_role("button", name="Pointer +¼°" if quarters > 0 else "Pointer −¼°").click()
    eye.settled()
    page.get_by_role("button", name="Pointer moved").click()
    expect(page.locator("[data-panel=do]")).to_contain_text("stop")
    both_contacts(page, hand, eye)
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("In")
    page.get_by_role("link", name="Finish: debrief").click()
    page.wait_for_url("**/debrief")
    score = re.match(r"(\d+) of 100", page.locator("h1").inner_text())
    assert score
    assert int(score[1]) >= 95
    expect(page.locator("tbody tr")).to_have_count(4)
    expect(page.locator("tbody")).not_to_contain_text("off what the wheel showed")


def test_the_stop_stops_and_slack_lets_the_needle_wait(page: Page, server: Server) -> None:
    begun(page, server, 4)
    eye, hand = Eye(page), KeyHand(page)
    until(hand, lambda: abs(eye.dial()) > 1.0, 20)
    eye.settled()
    before = eye.dial()
    hand.turn(-4)
    page.wait_for_timeout(60)
    # A degree back within two degrees of slack: the cam has not moved yet.
    assert eye.dial() == pytest.approx(before, abs=1e-3)
    hand.turn(-20)
    page.wait_for_timeout(60)
    assert abs(eye.dial() - before) > 0.01


def test_practice_is_not_among_the_shops_jobs_and_a_wrong_hand_is_told(page: Page, server: Server) -> None:
    begun(page, server, 1)
    eye = Eye(page)
    types(page, -(abs(eye.wheel()) % 60) - 20)
    page.get_by_role("link", name="Finish: debrief").click()
    expect(page.locator("tbody tr").first).to_contain_text("wheel showed")
    page.goto(f"{server.url}/?q=Practice")
    expect(page.locator(".job-card")).to_have_count(0)
    page.goto(f"{server.url}/results")
    expect(page.locator("main")).not_to_contain_text("Practice 1")


def test_on_a_phone_by_night_the_engine_is_turned_by_thumb(phone: Page, server: Server) -> None:
    page = as_new(phone, PHONE)
    page.context.add_cookies([{"name": "uranograph_light", "value": "night", "url": server.url}])
    begun(page, server, 3)
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    eye = Eye(page)
    before = eye.wheel()
    page.get_by_role("button", name="+5°", exact=True).tap()
    page.wait_for_timeout(100)
    assert (eye.wheel() - before + 540) % 360 - 180 == pytest.approx(5, abs=0.5)


def test_dragging_the_handle_turns_the_crank_frame_by_frame(page: Page, server: Server) -> None:
    begun(page, server, 3)
    eye = Eye(page)
    box = page.locator("#handle circle").bounding_box()
    assert box
    before = eye.wheel()
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + 30, box["y"] - 20, steps=12)
    page.mouse.up()
    assert eye.wheel() != before
    eye.settled()
    turned = eye.wheel()
    page.reload()
    expect(page.locator("#engine svg")).to_be_visible()
    page.wait_for_timeout(100)
    # The server kept it.
    assert eye.wheel() == pytest.approx(turned, abs=0.26)


def comes_up_to(page: Page, hand: MouseHand, eye: Eye, lift_mm: float, rising: bool) -> None:
    """Turn forward until the dial, zeroed on the base circle, passes a lift on the way up or down; read and type the wheel."""

    def past() -> bool:
        return eye.dial() >= lift_mm if rising else eye.dial() <= lift_mm

    if rising:
        until(hand, lambda: eye.dial() < 0.05, 20)
    else:
        until(hand, lambda: eye.dial() > lift_mm + 1, 20)
    until(hand, past, 20)
    # Overshot: back off well past, and come up again by quarters.
    hand.turn(-60)
    until(hand, past, 1)
    eye.settled()
    types(page, eye.wheel())


def test_the_sixth_exercise_finds_it_late_moves_it_and_finds_tdc_again(page: Page, server: Server) -> None:
    begun(page, server, 6)
    eye, hand = Eye(page), KeyHand(page)
    key = page.url.split("/")[4]

    def top() -> None:
        page.goto(f"{server.url}/jobs/{key}/tdc?engine=1")
        page.get_by_role("button", name="Stop in").click()
        eye.settled()
        both_contacts(page, hand, eye)
        page.get_by_role("button", name="Stop out").click()
        eye.settled()
        left = page.get_by_role("button", name="Don't move it, subtract")
        if left.count():
            left.click()
            expect(page.locator("[data-panel=state] .verdict")).to_contain_text("subtracted")

    def intake() -> None:
        page.goto(f"{server.url}/jobs/{key}/degree?engine=1&method=events")
        page.locator("#engine-dial").select_option("intake")
        eye.settled()
        # Zero on the base circle: where it does not move over ten degrees.
        for _ in range(60):
            before = eye.dial()
            hand.turn(40)
            if abs(eye.dial() - before) < 1e-6:
                break
        page.get_by_role("button", name="Zero the dial").click()
        eye.settled()
        lift = float(re.search(r"up to (\d+\.\d+)", page.locator("[data-panel=do]").inner_text())[1])
        comes_up_to(page, hand, eye, lift, rising=True)
        comes_up_to(page, hand, eye, lift, rising=False)

    top()
    intake()
    state = page.locator("[data-panel=state]").first
    expect(state).to_contain_text("late")
    assert float(state.locator(".number").inner_text()) == pytest.approx(4.0, abs=0.6)
    # The bench offers it; it is done at the engine, and said.
    page.goto(f"{server.url}/jobs/{key}/adjust?engine=1")
    page.locator("#engine-position").select_option("A4")
    page.get_by_role("button", name="Set keyway").click()
    eye.settled()
    expect(page.locator("#engine-note")).to_contain_text("its zero is lost")
    page.locator("input[name=plan]").first.check(force=True)
    page.locator("button[data-panel=main]").first.click()
    page.get_by_role("button", name="It is moved").click()
    expect(page.locator(".strip")).to_contain_text("A4")
    top()
    intake()
    # Two readings after a move: it stands near its card now, and more of them would prove it.
    assert float(page.locator("[data-panel=state] .number").first.inner_text()) < 1.5
    page.goto(f"{server.url}/jobs/{key}/debrief")
    score = re.match(r"(\d+) of 100", page.locator("h1").inner_text())
    assert score
    assert int(score[1]) >= 60
    expect(page.locator(".score")).to_contain_text("1 move")


EVENTS = (("intake", True), ("intake", False), ("exhaust", True), ("exhaust", False))


def base_circle(page: Page, hand: MouseHand, eye: Eye) -> None:
    """Turn to where the dial does not move over ten degrees, and zero it there."""
    for _ in range(80):
        before = eye.dial()
        hand.turn(40)
        if abs(eye.dial() - before) < 1e-6:
            break
    page.get_by_role("button", name="Zero the dial").click()
    eye.settled()


@pytest.mark.parametrize("way", [MouseHand, KeyHand])
def test_the_twentieth_exercise_two_faults_are_found_and_named(
    page: Page, server: Server, way: type[MouseHand]
) -> None:
    # Engine 2: a tooth off, and lifters that bleed down.
    begun(page, server, 20, seed=2)
    eye, hand = Eye(page), way(page)
    key = page.url.split("/")[4]
    page.get_by_role("button", name="Stop in").click()
    eye.settled()
    both_contacts(page, hand, eye)
    page.get_by_role("button", name="Stop out").click()
    eye.settled()
    page.get_by_role("button", name="Don't move it, subtract").click()
    expect(page.locator("[data-panel=state] .verdict")).to_contain_text("subtracted")
    page.goto(f"{server.url}/jobs/{key}/degree?engine=1&method=events")
    lobe = ""
    for on, rising in EVENTS:
        if on != lobe:
            page.locator("#engine-dial").select_option(on)
            eye.settled()
            base_circle(page, hand, eye)
            lobe = on
        lift = float(re.search(r"(\d+\.\d+)", page.locator("[data-panel=do]").inner_text())[1])
        comes_up_to(page, hand, eye, lift, rising=rising)
    # Whole teeth away from the card, and far from in.
    state = page.locator("[data-panel=state]").first
    expect(state).not_to_contain_text("In:")
    assert abs(float(state.locator(".number").inner_text())) > 8
    page.get_by_role("link", name="Finish: debrief").click()
    expect(page.locator("h1")).to_have_text("What was wrong?")
    page.get_by_role("button", name="That is what it was").click()
    expect(page.locator(".field-error")).to_contain_text("at least one")
    for words in ("the cam is a tooth off", "a lifter bleeds down"):
        page.get_by_role("checkbox", name=words).check()
    page.get_by_role("button", name="That is what it was").click()
    expect(page.locator("h1")).to_contain_text("of 100")
    expect(page.locator(".score")).to_contain_text("Result 50 of 50")
    expect(page.locator("tbody tr")).to_have_count(6)


def test_a_gear_is_heated_looked_at_and_put_on(page: Page, server: Server) -> None:
    begun_without_needle(page, server, 14)
    shown = lambda: float(  # noqa: E731
        re.search(r"rotate\(([-\d.]+)", page.locator("#needle-heat").get_attribute("transform") or "")[1]
    )
    before = shown()
    page.locator("#engine-heat").fill("190")
    began = time.monotonic()
    page.get_by_role("button", name="Heat", exact=True).click()
    # The needle comes once the server has answered.
    for _ in range(50):
        if shown() > before + 90:
            break
        page.wait_for_timeout(100)
    expect(page.locator("#engine")).to_have_attribute("aria-busy", "false")
    hot = shown()
    # It cools by half a degree a second while the machine is slow.
    cooled = 0.5 * (time.monotonic() - began)
    assert 187 - cooled < (hot + 135) / 0.9 < 193
    assert hot > before
    page.wait_for_timeout(1200)
    # It cools while one looks at it.
    assert shown() < hot - 0.05
    page.get_by_role("button", name="Put the gear on").click()
    expect(page.locator("#gear-side")).to_have_attribute("transform", "translate(176 0)")


def begun_without_needle(page: Page, server: Server, number: int, seed: int = 7) -> None:
    signed_in(page, server, "QZ")
    page.goto(f"{server.url}/practice")
    page.locator(f"#seed-{number}").fill(str(seed))
    page.locator(f'form[action="/practice/{number}"] button').click()
    expect(page.locator("#engine")).to_have_attribute("aria-busy", "false")


def test_marks_are_seen_to_meet_and_not_to_meet_as_the_crank_gear_is_dragged(page: Page, server: Server) -> None:
    begun(page, server, 15)
    gear = page.locator("#gear-crank")
    box = gear.bounding_box()
    assert box
    center = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    turned = lambda name: float(  # noqa: E731
        re.search(r"rotate\(([-\d.]+)", page.locator(f"#gear-{name}").get_attribute("transform") or "")[1]
    )
    before = turned("crank"), turned("cam")
    page.mouse.move(center[0], center[1] - box["height"] / 3)
    page.mouse.down()
    page.mouse.move(center[0] + box["width"] / 3, center[1], steps=8)
    page.mouse.up()
    expect(page.locator("#engine")).to_have_attribute("aria-busy", "false")
    by = turned("crank") - before[0]
    assert by == pytest.approx(90, abs=4)
    assert turned("cam") - before[1] == pytest.approx(by / 2, abs=0.1)
