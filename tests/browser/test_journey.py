"""From an empty shop to the printed sheet, with made-up numbers, at the keyboard."""

import json
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, begin_job, record, slot, walk_to


def test_from_an_empty_shop_to_the_printed_sheet(page: Page, own_server: Server, tmp_path: Path) -> None:
    page.goto(own_server.url)
    expect(page.get_by_text("No jobs yet")).to_be_visible()
    page.get_by_role("link", name="New job").first.click()
    expect(page.locator("#title")).to_be_focused()
    page.fill("#cylinders", "6")
    page.fill("#firing_order", "1-5-3-6-2-4")
    expect(page.locator("#companions")).to_contain_text("1 and 6, 2 and 5, 3 and 4")
    expect(page.locator("#figure .cylinder")).to_have_count(6)
    page.fill("#firing_order", "1-5-3-6-2-2")
    expect(page.locator("#error-firing_order")).to_contain_text("4 is missing, 2 stands twice")
    key = begin_job(
        page, own_server, "Launch six", cylinders="6", firing_order="1-5-3-6-2-4", stroke="3.5", rod="6 1/4"
    )

    # The card fills itself in, and says what clashes, as one types.
    page.fill("#intake_duration_deg", "248")
    page.fill("#lobe_separation_cam_deg", "110")
    page.fill("#advance_deg", "2")
    expect(page.locator("#follows-intake_centerline_deg")).to_have_text("= 108.0 (calculated)")
    expect(page.locator("#follows-io_btdc_deg")).to_have_text("= 16.0 (calculated)")
    expect(page.locator("#follows-exhaust_centerline_deg")).to_have_text("= 112.0 (calculated)")
    page.fill("#intake_centerline_deg", "104")
    expect(page.locator("#error-intake_centerline_deg")).to_contain_text("deg apart")
    page.fill("#intake_centerline_deg", "")
    expect(page.locator("#error-advance_deg")).to_have_text("")
    page.fill("#exhaust_duration_deg", "252")
    page.get_by_role("button", name="Keep and go on").click()
    page.wait_for_url(lambda url: not url.endswith("/card"))
    walk_to(page, "wheel")

    # A 0-360 wheel at the flywheel end, its numbers rising clockwise: it counts up.
    page.get_by_text("0-360", exact=True).click()
    page.get_by_text("Flywheel end").click()
    page.get_by_role("button", name="Keep and go on").click()
    expect(page.locator("#error-numbers_rise")).to_contain_text("which way its numbers increase")
    page.locator("label.choice", has_text="Clockwise").first.click()
    page.get_by_role("button", name="Keep and go on").click()
    page.wait_for_url("**/tdc")

    # True top: the wheel shows 2 after; move it, prove it.
    record(page, "330")
    assert slot(page) == "stop.1.after"
    record(page, "34")
    expect(page.locator(".verdict")).to_contain_text("Found: move it, or subtract it")
    expect(page.locator(".headline .number")).to_have_text("2.00")
    page.get_by_role("button", name="Pointer moved").click()
    expect(page.locator(".verdict")).to_contain_text("Prove it")
    record(page, "328")
    record(page, "32")
    expect(page.locator(".verdict")).to_contain_text("proved")

    # Degree: intake at 110, two late; the exhaust's first reading is a slip and is voided.
    page.keyboard.press("]")
    page.wait_for_url("**/degree")
    record(page, "65")
    record(page, "155")
    expect(page.locator(".verdict")).to_contain_text("Cannot tell: the cam reads late")
    expect(page.locator(".headline .number")).to_have_text("2.0")
    expect(page.locator(".sentence")).to_contain_text("2.0 late")
    expect(page.locator(".sentence")).not_to_contain_text("Advance")
    record(page, "250")
    page.keyboard.press("z")
    expect(page.get_by_role("heading", name="why this reading does not count")).to_be_visible()
    expect(page.get_by_role("radio", name="misread the wheel")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("tr.voided")).to_contain_text("misread the wheel")
    record(page, "205")
    record(page, "295 1/2")
    expect(page.locator("table.details", has_text="measured")).to_contain_text("109.8")
    expect(page.locator("#figure .measured-curve")).to_have_count(2)

    # The sheet, printed and taken out.
    page.keyboard.press("]")
    page.wait_for_url("**/adjust")
    page.get_by_role("link", name="Build sheet").click()
    page.wait_for_url("**/sheet")
    for words in ("Launch six", "after moving the wheel", "295 1/2", "misread the wheel"):
        expect(page.locator(".build-sheet")).to_contain_text(words)
    for paper in ("A4", "Letter"):
        pdf = page.pdf(format=paper)
        assert pdf.count(b"/Count 2") == 1
    with page.expect_download() as download:
        page.get_by_role("link", name="Export JSON").click()
    file = tmp_path / "job.json"
    download.value.save_as(file)
    assert json.loads(file.read_text())["title"] == "Launch six"

    # And back in as a new job.
    page.goto(own_server.url)
    page.get_by_text("Import a file").click()
    page.set_input_files("#file", file)
    page.get_by_role("button", name="Import").click()
    page.wait_for_url("**/overview")
    assert page.url.split("/")[-2] != key
    page.goto(own_server.url)
    expect(page.locator(".job-title", has_text="Launch six")).to_have_count(2)
    expect(page.locator(".job-worst").first).to_contain_text("deg retarded")
