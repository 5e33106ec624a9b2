"""Figures typed at speed at every station, answered at once, late, and very late: all are kept, each under its own question."""

import pytest
from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, unfold
from tests.browser.test_slow_answers import Log, job_with_everything, strip

# At every station with a quick and a slow answer; a very slow one where one form of each kind is typed.
DELAYS = [0, 400, 1500]
VERY_SLOW = ("tdc", "backlash", "keys")
# Where figures are typed one after the other: the way there, and what is typed at speed.
TYPED = {
    "tdc": ("tdc", ["40", "40", "38 1/2", "38.5"]),
    "tdc by drops": ("tdc?method=drop", ["25", "25", "25.25", "25.25"]),
    "equal lifts": ("degree?method=lifts", ["68", "157", "153", "63.5"]),
    "events": ("degree?method=events", ["12", "52", "54", "14"]),
    "overlap": ("degree?method=overlap", ["1.24", "1.35"]),
    "runout": ("runout", ["0.01", "0.02", "0.03", "0.02", "0.01"]),
    "lobe room": ("lobe-room", ["2.35", "2.46", "2.57", "2.68"]),
    "backlash": ("backlash", ["0.08", "0.09", "0.10", "0.11"]),
    "sprocket": ("sprocket", ["20.1", "20.2", "20.15"]),
    "bolts": ("gear-fit?method=bolts", ["20", "20.5", "19.9", "20"]),
    "keys": ("marks?method=keyways", ["0.5", "90.5"]),
    "split": ("marks?method=split", ["1.24", "1.35"]),
}


@pytest.mark.parametrize("delay", DELAYS)
def test_figures_typed_while_answers_are_under_way_are_all_kept_in_order_at_every_station(
    page: Page, server: Server, delay: int
) -> None:
    key = job_with_everything(page, server)
    log = Log(page, delay)
    for path, figures in [TYPED[name] for name in (VERY_SLOW if delay > 1000 else TYPED)]:
        typed = figures[: {0: 5, 400: 3}.get(delay, 2)]
        page.goto(f"{server.url}/jobs/{key}/{path}")
        unfold(page)
        expect(page.locator("[data-reading]")).to_be_focused()
        before = len(strip(page))
        log.sent.clear()
        for figure in typed:
            page.keyboard.type(figure, delay=12)
            page.keyboard.press("Enter")
        expect(page.locator(".strip td b")).to_have_count(before + len(typed), timeout=20_000)
        expect(page.locator(".outbox")).to_have_count(0)
        assert strip(page)[before:] == typed, path
        assert [text for _, text in log.sent] == typed, path
        assert len({asked for asked, _ in log.sent}) == len(typed), path
        assert {field.input_value() for field in page.locator("[data-reading]").all()} <= {""}, path
