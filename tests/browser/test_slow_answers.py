"""Answers that come late: what is typed meanwhile is neither lost nor cut, and every reading stands under its own question."""

import re
from urllib.parse import parse_qs

import pytest
from playwright.sync_api import Page, Route, expect

from tests.browser.conftest import Server, described, record, signed_in, slot
from tests.web.test_whatever_is_sent import DRIVE
from uranograph.core.lobe import CosineLobe, lift_at

SETUPS = {
    "backlash": {"pitch_radius": "60", "spec_min": "0.05", "spec_max": "0.15"},
    "end-play": {"crank_min": "0.1", "crank_max": "0.2", "crank_way": "dial"},
    "gear-fit": {"bolts": "4", "stages": "60", "steps": "3"},
    "train": {
        "g1_name": "crank", "g1_teeth": "21", "g1_role": "crank", "g2_name": "cam", "g2_teeth": "42", "g2_role": "cam",
        "g2_on": "1", "crank_key": "0", "cam_key": "90", "hole_sets": "3",
    },
}  # fmt: skip


class Log:
    """What the page asked to be written, in order, each answered late."""

    def __init__(self, page: Page, delay: int) -> None:
        self.sent: list[tuple[str, str]] = []
        self.page, self.delay = page, delay
        page.route("**/jobs/**", self._answer)

    def _answer(self, route: Route) -> None:
        # Who is at which question is told beside; it writes nothing.
        if route.request.method == "POST" and not route.request.url.endswith("/hold"):
            form = parse_qs(route.request.post_data or "", keep_blank_values=True)
            self.sent.append((form["slot"][0], form.get("text", [""])[0]))
            answer = route.fetch()
            if self.delay:
                self.page.wait_for_timeout(self.delay)
            route.fulfill(response=answer)
        else:
            route.continue_()


def job_with_everything(page: Page, server: Server) -> str:
    key = described(page, server, scale="half")
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/train", form={**SETUPS["train"], "unit": "mm"}, **sent)
    for kind in ("backlash", "end-play", "gear-fit"):
        page.request.post(f"{server.url}/jobs/{key}/sheet/{kind}", form={**SETUPS[kind], "unit": "mm"}, **sent)
    page.request.post(f"{server.url}/jobs/{key}/sheet/drive", form=DRIVE, **sent)
    return key


def strip(page: Page) -> list[str]:
    """The readings that stand, oldest first."""
    return list(reversed(page.locator(".strip td b").all_inner_texts()))


def test_each_figure_stands_under_the_question_it_would_have_had_without_haste(page: Page, server: Server) -> None:
    asked = {}
    for delay in (0, 400):
        key = job_with_everything(page, server)
        page.goto(f"{server.url}/jobs/{key}/backlash")
        expect(page.locator("[data-reading]")).to_be_focused()
        log = Log(page, delay)
        for figure in ("0.08", "0.09", "0.10", "0.11"):
            if delay:
                page.keyboard.type(figure)
                page.keyboard.press("Enter")
            else:
                record(page, figure)
        expect(page.locator(".strip td b")).to_have_count(4)
        asked[delay] = [slot for slot, _ in log.sent]
        page.unroute_all()
    assert asked[0] == asked[400]


@pytest.mark.parametrize("delay", [150])
def test_a_sweep_typed_at_full_speed_keeps_every_lift_at_its_angle(page: Page, server: Server, delay: int) -> None:
    key = described(page, server, scale="half")
    page.goto(f"{server.url}/jobs/{key}/tdc")
    record(page, "40")
    record(page, "40")
    page.goto(f"{server.url}/jobs/{key}/degree?method=sweep&lobe=intake&step=20")
    lobe = CosineLobe(centerline_deg=112, duration_deg=244, check_lift_mm=1.0, max_lift_mm=8.5)
    lifts = [f"{lift_at(lobe, angle):.2f}" for angle in range(-40, 281, 20)]
    expect(page.locator("[data-reading]")).to_be_focused()
    sent: list[tuple[str, str]] = []

    def late(route: Route) -> None:
        form = parse_qs(route.request.post_data or "")
        sent.append((form["text"][0] + form["side"][0], form["second"][0]))
        answer = route.fetch()
        page.wait_for_timeout(delay)
        route.fulfill(response=answer)

    page.route("**/degree", late)
    for lift in lifts:
        page.keyboard.type(lift)
        page.keyboard.press("Enter")
    expect(page.locator("#figure .reading-dot")).to_have_count(17, timeout=30_000)
    assert [lift for _, lift in sent] == lifts
    assert [place for place, _ in sent][:3] == ["40btdc", "20btdc", "0atdc"]
    assert len({place for place, _ in sent}) == 17


def test_half_a_figure_stays_where_the_hand_is_when_the_answer_comes(page: Page, server: Server) -> None:
    key = job_with_everything(page, server)
    page.goto(f"{server.url}/jobs/{key}/lobe-room")
    expect(page.locator("[data-reading]")).to_be_focused()
    Log(page, 300)
    page.keyboard.type("1.9")
    page.keyboard.press("Enter")
    page.keyboard.type("2.3")
    page.keyboard.press("ArrowLeft")
    expect(page.locator(".strip td b")).to_have_count(1)
    expect(page.locator("[data-reading]")).to_be_focused()
    page.keyboard.type("4")
    expect(page.locator("[data-reading]")).to_have_value("2.43")


def test_a_refusal_comes_before_what_was_typed_after_it_and_loses_none(page: Page, server: Server) -> None:
    key = job_with_everything(page, server)
    page.goto(f"{server.url}/jobs/{key}/lobe-room")
    expect(page.locator("[data-reading]")).to_be_focused()
    Log(page, 300)
    for figure in ("1.9", "2,2x", "2.3"):
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
    page.keyboard.type("2.4")
    # The second is refused while the fourth is being typed: that stays, and the second comes back once it is done.
    expect(page.locator(".outbox")).to_contain_text("Not taken: “2,2x”")
    expect(page.locator("[data-reading]")).to_have_value("2.4")
    page.keyboard.press("Enter")
    expect(page.locator("[data-reading]")).to_have_value("2,2x")
    expect(page.locator("#error-text")).to_contain_text("no unit of length")
    page.fill("[data-reading]", "2.2")
    page.keyboard.press("Enter")
    expect(page.locator(".strip td b")).to_have_count(4)
    assert strip(page) == ["1.9", "2.2", "2.3", "2.4"]


def test_a_link_pressed_too_early_waits_for_what_is_being_written(page: Page, server: Server) -> None:
    key = job_with_everything(page, server)
    page.goto(f"{server.url}/jobs/{key}/lobe-room")
    expect(page.locator("[data-reading]")).to_be_focused()
    record(page, "1.7")
    Log(page, 400)
    page.keyboard.type("1.9")
    page.keyboard.press("Enter")
    page.keyboard.press("z")
    # The reading that is voided is the one just typed, not the one before it.
    page.wait_for_url("**?void=*")
    expect(page.locator(".voiding")).to_contain_text("1.9")
    page.go_back()
    page.keyboard.type("2.2")
    page.keyboard.press("Enter")
    page.keyboard.press("]")
    page.wait_for_url("**/train")
    page.goto(f"{server.url}/jobs/{key}/lobe-room")
    assert strip(page) == ["1.7", "1.9", "2.2"]


def test_an_answer_chosen_too_early_is_told_and_not_taken_for_the_next_question(page: Page, server: Server) -> None:
    key = job_with_everything(page, server)
    page.goto(f"{server.url}/jobs/{key}/choice?reading=1")
    log = Log(page, 400)
    page.keyboard.press("1")
    page.keyboard.press("Enter")
    page.keyboard.press("2")
    expect(page.locator("#notice")).to_contain_text("One moment")
    expect(page.locator(".strip td b")).to_have_count(1)
    assert [text for _, text in log.sent] == ["yes"]
    assert page.locator("[data-answer]:checked").count() == 0


def test_a_reload_in_the_middle_sends_the_rest_once(page: Page, server: Server) -> None:
    key = job_with_everything(page, server)
    page.goto(f"{server.url}/jobs/{key}/lobe-room")
    expect(page.locator("[data-reading]")).to_be_focused()
    log = Log(page, 600)
    for figure in ("1.9", "2.2", "2.3"):
        page.keyboard.type(figure)
        page.keyboard.press("Enter")
    page.reload()
    log.delay = 0
    expect(page.locator(".strip td b")).to_have_count(3)
    assert strip(page) == ["1.9", "2.2", "2.3"]
    assert slot(page) == "lobe-4.1.gap"


@pytest.mark.parametrize("new", [False, True])
def test_a_form_that_is_kept_at_once_is_not_dropped_for_its_own_preview(page: Page, server: Server, new: bool) -> None:
    """The figure is drawn while one types: that must not call back what was sent meanwhile."""
    key = described(page, server)
    signed_in(page, server, "QZ")
    page.goto(f"{server.url}/jobs/new" if new else f"{server.url}/jobs/{key}/wheel")

    def late(route: Route) -> None:
        answer = route.fetch(max_redirects=0)
        page.wait_for_timeout(0 if route.request.url.endswith("/preview") else 900)
        route.fulfill(response=answer)

    page.route(lambda url: url.endswith(("/wheel", "/jobs/new", "/preview")), late)
    if new:
        for name, text in {"title": "At once", "by": "QZ", "cylinders": "4"}.items():
            page.fill(f"#{name}", text)
    else:
        page.fill("#division", "0.5")
    page.keyboard.press("Enter")
    expect(page).not_to_have_url(re.compile("/(wheel|new)$"))
