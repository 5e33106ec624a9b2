"""Gears described, turned and looked at, in the real interface."""

import random
import re
import struct
import zlib
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.browser.by_hand import answer, begin, keep
from tests.browser.conftest import Server, described, record
from tests.stations.test_marks import MARKED


def with_train(page: Page, server: Server, typed: dict[str, str]) -> str:
    key = described(page, server)
    page.request.post(
        f"{server.url}/jobs/{key}/train", form={**typed, "unit": "mm"}, headers={"Origin": server.url}, max_redirects=0
    )
    return key


def test_a_train_is_described_and_judged_while_one_types(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/train")
    page.fill("#g1_name", "crank")
    page.fill("#g1_teeth", "21")
    page.fill("#g2_name", "cam")
    page.fill("#g2_teeth", "41")
    page.select_option("#g2_role", "cam")
    page.select_option("#g2_on", "1")
    expect(page.locator("#sheet-finding")).to_contain_text("with 42 teeth instead of 41")
    expect(page.locator("#figure .turning")).to_have_count(2)
    page.fill("#g2_teeth", "0")
    expect(page.locator("#error-g2_teeth")).to_contain_text("whole number")
    page.fill("#g2_teeth", "42")
    expect(page.locator("#sheet-finding")).to_contain_text("half speed")
    expect(page.locator("#error-g2_teeth")).to_have_text("")
    page.get_by_role("button", name="Keep and go on").click()
    page.wait_for_url("**/marks")


def test_three_gears_are_described_in_one_go_and_each_can_be_chosen_at_once(page: Page, server: Server) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/train")
    for n, (name, teeth) in enumerate((("crank", "27"), ("idler", "41")), 1):
        page.fill(f"#g{n}_name", name)
        page.fill(f"#g{n}_teeth", teeth)
    page.select_option("#g2_role", "idler")
    page.select_option("#g2_on", "1")
    page.get_by_role("button", name="Add a gear").click()
    expect(page.locator("#g3_name")).to_be_focused()
    page.keyboard.type("cam")
    page.fill("#g3_teeth", "54")
    page.select_option("#g3_role", "cam")
    page.select_option("#g3_on", "2")
    expect(page.locator("#sheet-finding")).to_contain_text("In: half speed")
    expect(page.locator("#figure .turning")).to_have_count(3)
    page.locator("details").filter(has=page.locator("#g3_mark")).locator("summary").click()
    page.locator("#g3_mark").locator("xpath=ancestor::details").get_by_text("sprung, needs a pin").click()
    page.reload()
    expect(page.locator("#g3_name")).to_have_value("cam")
    expect(page.locator("#g3_on")).to_have_value("2")
    expect(page.locator("input[name=g3_sprung]")).to_be_checked()
    expect(page.locator("input[name=g2_sprung]")).not_to_be_checked()
    page.fill("#g3_teeth", "many")
    expect(page.locator("#error-g3_teeth")).not_to_be_empty()
    page.fill("#g3_teeth", "54")
    expect(page.locator("#error-g3_teeth")).to_be_empty()
    page.get_by_role("button", name="Keep and go on").click()
    page.wait_for_url("**/marks")
    page.go_back()
    page.wait_for_url("**/train")
    expect(page.locator("#g3_name")).to_have_value("cam")


def test_the_train_turns_by_buttons_keys_and_dragging_and_the_table_follows(page: Page, server: Server) -> None:
    key = with_train(page, server, MARKED)
    page.goto(f"{server.url}/jobs/{key}/marks")
    table = page.locator("#train-at")
    expect(table).to_contain_text("all marks meet")
    page.get_by_role("button", name="+1 tooth").click()
    expect(table).to_contain_text("+1 tooth, 17.1 deg")
    page.locator("h1.instruction").click()
    page.keyboard.press("PageUp")
    expect(table).to_contain_text("+22 teeth, 377.1 deg")
    page.keyboard.press("ArrowLeft")
    expect(table).to_contain_text("+21 teeth, 360.0 deg")
    expect(table).to_contain_text("1 turn")
    page.keyboard.press("PageUp")
    expect(table).to_contain_text("+42 teeth")
    expect(table).to_contain_text("on")
    page.keyboard.press("Home")
    expect(table).to_contain_text("all marks meet")
    # A gear caught while it still glides home is dragged from wherever it is.
    page.wait_for_timeout(700)
    gear = page.locator("#figure .turning").last.bounding_box()
    middle = (gear["x"] + gear["width"] / 2, gear["y"] + gear["height"] / 2)
    page.mouse.move(middle[0], middle[1] - gear["height"] / 3)
    page.mouse.down()
    page.mouse.move(middle[0] + gear["width"] / 3, middle[1], steps=6)
    page.mouse.up()
    expect(table).to_contain_text(re.compile(r"[+-]\d+ teeth"))


def test_marks_are_answered_at_the_keyboard(page: Page, server: Server) -> None:
    key = with_train(page, server, MARKED)
    page.goto(f"{server.url}/jobs/{key}/marks")
    for _ in range(8):
        if page.locator(".verdict.in").count():
            break
        before = page.locator("form.reading-form input[name=token]").first.input_value()
        page.locator("input[name=text]").first.focus()
        page.keyboard.press("Space")
        page.get_by_role("button", name="Record").press("Enter")
        page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return !t || t.value !== b; }",
            arg=before,
        )
    expect(page.locator(".verdict")).to_contain_text("In")


def test_the_cursor_never_stays_in_a_count_and_a_count_is_typed_over(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "A count of teeth", "1")
    keep(page, m1_on="cam gear", m1_other="crank gear", m2_on="idler", m2_other="cam gear")
    answer(page, "firing TDC")
    page.locator("form.reading-form .choice", has_text="late").first.click()
    page.locator("#second").click()
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    expect(page.locator(".panel")).to_contain_text("2 teeth late")
    expect(page.locator("form.reading-form input[data-answer]").first).to_be_focused()
    expect(page.locator("#second")).to_have_value("1")
    page.keyboard.press("2")
    page.keyboard.press("Enter")
    expect(page.locator(".panel")).to_contain_text("a tooth early")


def test_backlash_is_read_round_the_cam_and_its_figure_grows(page: Page, server: Server) -> None:
    key = with_train(page, server, MARKED)
    page.goto(f"{server.url}/jobs/{key}/backlash")
    page.fill("#pitch_radius", "63.33")
    page.fill("#spec_min", "0.05")
    page.fill("#spec_max", "0.15")
    page.get_by_role("button", name="Keep").first.click()
    page.wait_for_url("**/backlash")
    expect(page.locator("#text")).to_be_focused()
    for text in ("0.08", "0.09", "0.1", "0.11", "0.12", "0.11", "0.1", "0.09"):
        record(page, text)
    expect(page.locator(".verdict")).to_contain_text("In")
    expect(page.locator("#figure")).to_contain_text("tight at")


def large_picture(width: int, height: int) -> bytes:
    """A PNG of noise, which no packing makes smaller."""
    noise = random.Random(1).randbytes(3 * width * height)
    rows = b"".join(b"\0" + noise[3 * width * n : 3 * width * (n + 1)] for n in range(height))

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(rows, 1)) + chunk(b"IEND", b"")


def test_a_picture_is_kept_and_a_station_passed_over(page: Page, server: Server, tmp_path: Path) -> None:
    key = described(page, server)
    page.goto(f"{server.url}/jobs/{key}/sprocket")
    picture = tmp_path / "face.png"
    picture.write_bytes(large_picture(2400, 1800))
    page.get_by_text("Note, skip").click()
    page.fill("#words", "the driven face is polished")
    page.set_input_files("#photo", picture)
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("pictures (1)")).to_be_visible()
    expect(page.locator(".strip")).to_contain_text("the driven face is polished")
    # Made small in the browser: as large as it was it would have been refused.
    assert picture.stat().st_size > 3_000_000
    kept = page.request.get(server.url + page.locator(".photo img").get_attribute("src"))
    assert kept.headers["content-type"] == "image/jpeg"
    assert len(kept.body()) < 3_000_000
    page.get_by_text("pictures (1)").click()
    page.fill("#reason", "gears, no chain")
    page.get_by_role("button", name="Skip").click()
    page.wait_for_url("**/wheel")
    expect(page.locator(".rail")).to_contain_text("skipped")
    page.goto(f"{server.url}/jobs/{key}/sprocket")
    page.get_by_role("button", name="Do it after all").click()
    expect(page.locator(".passed-over")).to_have_count(0)


def test_the_diagnosis_answers_as_one_types(page: Page, server: Server) -> None:
    page.goto(f"{server.url}/diagnosis")
    page.fill("#offset", "30")
    page.fill("#crank_teeth", "24")
    expect(page.locator("body")).to_contain_text("2 teeth late")
    page.fill("#claim_deg", "3")
    expect(page.locator("body")).to_contain_text("does not hold")


def test_one_more_row_is_shown_than_marks_are_filled(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "Rows of marks", "1")
    shown = page.locator("details.fold:visible > summary", has_text=re.compile("^Mark "))
    expect(shown).to_have_count(0)
    page.fill("#m1_on", "cam gear")
    expect(shown).to_have_text(["Mark 2"])
    keep(page, m1_other="crank gear", m2_on="idler", m2_other="cam gear")
    page.get_by_role("link", name="Change the set-up").click()
    expect(shown).to_have_text(["Mark 2", "Mark 3"])
    expect(page.locator("details.fold[open]", has_text="Mark 2")).to_have_count(1)
    expect(page.locator("details.fold[open]", has_text="Mark 3")).to_have_count(0)
