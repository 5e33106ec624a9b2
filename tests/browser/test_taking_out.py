"""A figure becomes a picture; a calculation is tried from its page."""

import json
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, ready_for_top


def test_a_figure_is_taken_out_as_a_picture(page: Page, server: Server, tmp_path: Path) -> None:
    ready_for_top(page, server)
    with page.expect_download() as coming:
        page.get_by_role("link", name="PNG").click()
    coming.value.save_as(tmp_path / "figure.png")
    data = (tmp_path / "figure.png").read_bytes()
    assert data.startswith(b"\x89PNG")
    wide, high = (int.from_bytes(data[at : at + 4], "big") for at in (16, 20))
    assert wide > 1000
    assert high > 800


def test_a_calculation_is_tried_and_refused_where_it_is_typed(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/api?calc=tdc")
    page.get_by_role("button", name="Work it out").click()
    expect(page.locator("#answer")).to_contain_text("zero_error_deg")
    assert json.loads(page.locator("#answer").inner_text())["zero_error_deg"] == -1.75
    page.locator("#given").fill('{"pairs": []}')
    page.get_by_role("button", name="Work it out").click()
    expect(page.locator("#took")).to_contain_text("Refused (422)")
    assert page.locator("#given").input_value() == '{"pairs": []}'
    page.select_option("#calculation", "chain")
    expect(page.locator("#given")).not_to_have_value('{"pairs": []}')
