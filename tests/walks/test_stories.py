"""Whole jobs carried through the pages in the order of the work, each from an empty job and with numbers of its own."""

from playwright.sync_api import Page, expect

from tests.browser.by_hand import (
    answer,
    at,
    begin,
    enter_card,
    equal_lifts,
    fill,
    find_top,
    keep,
    press,
    says,
    set_up_wheel,
    was_done,
)
from tests.browser.conftest import Server, events_read, record, unfold


def test_1_which_drive_a_shaft_allows_trued_and_measured_again(page: Page, server: Server) -> None:
    key = begin(page, server, "Measure play and backlash", "Story 1")
    assert page.url.endswith("/runout")
    page.get_by_role("link", name="Whole travel", exact=True).click()
    record(page, "0.12")
    at(page, server, key, "choice?edit=1")
    keep(page, backlash_min="0.05", backlash_max="0.12", cost_true="180", cost_chain="310")
    gears = page.locator(".drives tr", has=page.locator("th", has_text="gears"))
    expect(gears).to_contain_text("no")
    expect(page.locator(".panel")).to_contain_text("It costs: truing the shaft 180; chain drive 310")
    at(page, server, key, "runout?method=total")
    was_done(page, "shaft-trued", "in the press")
    page.get_by_role("link", name="Whole travel", exact=True).click()
    record(page, "0.02")
    expect(page.locator(".panel")).to_contain_text("Before (the shaft was trued, in the press)")
    at(page, server, key, "choice")
    expect(gears).to_contain_text("yes")
    answer(page, "yes", "not needed", "not needed", "not needed", "gears")
    says(page, "In: gears")


def test_2_a_crossed_helical_gear_and_one_dot_against_the_lifters(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "Story 2", "1")
    keep(page, m1_on="cam gear", m1_meets="lifters", helical="yes")
    page.fill("#second", "3")
    answer(page, "to the right")
    expect(page.locator(".panel")).to_contain_text("start it 3 teeth to the left")
    answer(page, "overlap TDC", "on", "smooth", "yes")
    says(page, "In")
    expect(page.locator(".panel .instruction")).to_contain_text("Go on")


def test_3_no_marks_and_a_tooth_jumped_by_both_lifters_at_the_top(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "Story 3", "1")
    keep(page)
    answer(page, "overlap TDC", "exhaust shut, intake well up")
    says(page, "early by a tooth or more")
    was_done(page, "gear-turned", "a tooth back")
    answer(page, "overlap TDC", "both a little up, alike", "yes", "yes", "smooth")
    says(page, "In by eye")


def test_4_numbered_marks_a_belt_against_its_plate_and_a_pinned_tensioner(page: Page, server: Server) -> None:
    key = begin(page, server, "Align marks", "Story 4")
    marks = {"m1_on": "idler", "m1_kind": "number", "m1_other": "crank gear"}
    marks |= {"m2_on": "belt pulley", "m2_kind": "line", "m2_meets": "still", "m2_other": "belt plate"}
    keep(page, **marks, d1_kind="tensioner", d1_pinned="yes")
    answer(page, "pin is in", "firing TDC", "on", "on")
    says(page, "A pin is in")
    # The pin comes out before anything is turned: two turns on a pinned tensioner are none.
    answer(page, "pin is out again", "smooth", "yes")
    says(page, "In")
    expect(page.locator(".panel")).to_contain_text("Pin of “tensioner”")
    # The belt comes off for a seal: nothing that was seen stands, and nothing is in until it is looked at again.
    was_done(page, "parts-removed", "for a seal", of="gears")
    was_done(page, "parts-fitted", "with the seal", of="gears")
    not_in(page)
    answer(page, "pin is out again", "firing TDC", "on", "on", "smooth", "yes")
    says(page, "In")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("for a seal")


def test_5_a_crank_gear_refitted_takes_the_wheel_with_it(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 5")
    enter_card(page, server, key)
    set_up_wheel(page, server, key)
    find_top(page, server, key)
    equal_lifts(page, server, key, "66", "146", "150", "78")
    says(page, "early")
    at(page, server, key, "adjust")
    options = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": "0: 0, R4: -4", "a1_fitted": "0"}
    keep(page, "Keep the drive", **options)
    page.get_by_role("button", name="Choose it").click()
    press(page, "It is moved")
    expect(page.locator(".stands")).to_contain_text("keyway R4")
    at(page, server, key, "tdc")
    says(page, "Prove it")
    find_top(page, server, key, "41", "41")
    unfold(page)
    page.get_by_role("link", name="dial, equal drop each side").click()
    page.fill("#second", "5")
    page.locator("[data-reading]").focus()
    for text in ("27", "27"):
        record(page, text)
    equal_lifts(page, server, key, "70", "150", "150", "70")
    # Equal lifts near the nose alone are not enough: a lobe may be ground uneven.
    says(page, "Cannot tell")
    events_read(page, server, key)
    says(page, "In")


def test_6_crank_play_shimmed_then_lifters_dots_and_eccentric_at_the_top(page: Page, server: Server) -> None:
    key = begin(page, server, "Measure play and backlash", "Story 6")
    at(page, server, key, "end-play")
    keep(page, crank_min="0.10", crank_max="0.20")
    answer(page, "all fitted")
    for blade, text in (("0.20", "goes"), ("0.30", "goes"), ("0.32", "does not go")):
        page.fill("#second", blade)
        answer(page, text)
    says(page, "loose")
    at(page, server, key, "setting")
    keep(page, crank_way="shims", crank_stock="0.10 0.15", crank_adds="less")
    record(page, "0.15")
    at(page, server, key, "end-play")
    answer(page, "all fitted")
    for blade, text in (("0.12", "goes"), ("0.18", "does not go")):
        page.fill("#second", blade)
        answer(page, text)
    says(page, "In")
    at(page, server, key, "by-eye")
    keep(page, m1_on="cam gear", m1_other="crank gear", m2_on="cam gear", m2_kind="eccentric", m2_meets="up")
    answer(page, "firing TDC", "on", "on", "smooth", "yes")
    page.get_by_role("link", name="At the top").click()
    answer(page, "both down")
    says(page, "In")
    expect(page.locator(".checks")).to_contain_text("Lifters at firing TDC")


def not_in(page: Page) -> None:
    expect(page.locator(".panel h2.verdict.in")).to_have_count(0)


def read_again(page: Page, server: Server, key: str, opens: str) -> None:
    """The first event and the stop once more, as the bench asks before it gives a verdict."""
    at(page, server, key, "degree?method=events&event=io")
    record(page, opens)
    find_top(page, server, key)
    at(page, server, key, "degree")


def test_7_one_overhead_cam_by_its_events_and_a_slotted_gear(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 7")
    enter_card(page, server, key)
    set_up_wheel(page, server, key, scale="quarter")
    find_top(page, server, key)
    at(page, server, key, "degree?method=events")
    for event, text in (("io", "8"), ("ic", "56"), ("eo", "50"), ("ec", "18")):
        at(page, server, key, f"degree?method=events&event={event}")
        record(page, text)
    says(page, "late")
    at(page, server, key, "adjust")
    keep(page, "Keep the drive", a1_kind="slot", a1_name="slot", a1_range="10", a1_step="0.5")
    page.get_by_role("button", name="Choose it").click()
    press(page, "It is moved")
    expect(page.locator(".stands")).to_contain_text("4 advanced on its marks (crank deg)")
    for event, text in (("io", "12"), ("ic", "52"), ("eo", "54"), ("ec", "14")):
        at(page, server, key, f"degree?method=events&event={event}")
        record(page, text)
    read_again(page, server, key, "12")
    says(page, "In")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("slot: 4 advanced")


def test_8_three_gears_with_an_accessory_idler_by_marks_alone(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "Story 8")
    keep(page, m1_on="idler", m1_other="crank gear", m2_on="cam gear", m2_other="idler")
    answer(page, "firing TDC", "on")
    page.fill("#second", "2")
    answer(page, "late")
    says(page, "Out: a mark is off")
    expect(page.locator(".panel")).to_contain_text("2 teeth late")
    was_done(page, "gear-turned", "two teeth on")
    answer(page, "firing TDC", "on", "on", "smooth", "yes")
    says(page, "In")


def test_9_dots_a_chain_bolts_by_turns_and_nothing_else_asked(page: Page, server: Server) -> None:
    key = begin(page, server, "Fit a gear", "Story 9")
    at(page, server, key, "gear-fit?edit=1")
    keep(page, bolts="2", stages="snug + 1/4 turn", held="dowel")
    for _ in range(12):
        if page.locator("form.reading-form .choice", has_text="there is none").count() == 0:
            break
        answer(page, "there is none")
    page.get_by_role("link", name="Bolts").click()
    answer(page, "snug by hand", "snug by hand")
    for _ in range(2):
        record(page, "90")
    says(page, "In")
    at(page, server, key, "by-eye")
    keep(page, m1_on="cam sprocket", m1_other="crank sprocket")
    answer(page, "firing TDC", "on", "smooth", "yes")
    says(page, "In")


def test_10_a_target_ahead_of_the_card_is_proved(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 10")
    enter_card(page, server, key)
    set_up_wheel(page, server, key)
    find_top(page, server, key)
    equal_lifts(page, server, key, "66", "146", "150", "78")
    says(page, "early")
    fill(page, advance="4")
    page.get_by_text("the card, advanced").click()
    page.locator("form[action$='/sheet/target'] button").click()
    expect(page.locator(".panel")).to_contain_text("Aimed at: 4.0 ahead of the card")
    events_read(page, server, key, -4)
    says(page, "In")
    expect(page.locator(".panel")).to_contain_text("4.0 ahead of the card")
    expect(page.locator(".panel")).to_contain_text("110.0")


def test_11_keys_read_by_a_level_one_tooth_on_and_read_again(page: Page, server: Server) -> None:
    key = begin(page, server, "Align marks", "Story 11")
    train = {"g1_name": "crank", "g1_teeth": "21", "g1_role": "crank", "g2_name": "cam", "g2_teeth": "42"}
    train |= {"g2_role": "cam", "g2_on": "1", "crank_key": "0", "cam_key": "180", "unit": "mm", "by": "QZ"}
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/train", form=train, **sent)
    at(page, server, key, "marks?method=keyways&end=rear")
    for text in ("0.5", "188.6"):
        record(page, text)
    says(page, "Out")
    was_done(page, "gear-turned", "one tooth back")
    page.get_by_role("link", name="Keyways").click()
    for text in ("0.5", "180.2"):
        record(page, text)
    page.get_by_role("link", name="Train", exact=True).click()
    answer(page, "yes", "smooth")
    says(page, "In")


def test_12_wheel_at_the_back_top_on_another_cylinder_and_a_wheel_nudged_between_moves(
    page: Page, server: Server
) -> None:
    key = begin(page, server, "Degree a cam", "Story 12", firing_order="1-3-4-2")
    enter_card(page, server, key)
    set_up_wheel(page, server, key, mount="rear")
    at(page, server, key, "tdc?edit=1")
    keep(page, top_cylinder="4", read_cylinder="1")
    find_top(page, server, key)
    equal_lifts(page, server, key, "78", "158", "142", "62")
    says(page, "late")
    at(page, server, key, "adjust")
    slot = {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1"}
    keep(page, "Keep the drive", **slot)
    page.get_by_role("button", name="Choose it").click()
    press(page, "It is moved")
    equal_lifts(page, server, key, "74", "154", "146", "66")
    says(page, "late")
    was_done(page, "wheel-moved", "nudged")
    find_top(page, server, key, "42", "38")
    press(page, "Don't move it, subtract")
    # It moved half as far as its marks say, and the bench asks whether they are of the other kind.
    at(page, server, key, "degree?method=asked&code=cam-degrees")
    answer(page, "No, looked")
    at(page, server, key, "adjust")
    page.locator("input[name=plan]").first.check(force=True)
    page.get_by_role("button", name="Choose it").click()
    press(page, "It is moved")
    equal_lifts(page, server, key, "68", "148", "152", "72")
    # The wheel shows 2 before at the top now.
    events_read(page, server, key, -2)
    says(page, "In")


def test_a_wheel_at_the_wrong_end_is_named_first_with_its_share_and_cured_in_two_acts(
    page: Page, server: Server
) -> None:
    key = begin(page, server, "Degree a cam", "Story of the end")
    enter_card(page, server, key)
    set_up_wheel(page, server, key, scale="full", numbers_rise="counterclockwise", mount="rear")
    # It is at the front, where its numbers grow as the crank turns: both contacts come out on the wrong side.
    at(page, server, key, "tdc")
    for text in ("320", "40"):
        record(page, text)
    says(page, "read the wrong way round")
    for event, text in (("io", "348.25"), ("ic", "231.75"), ("eo", "126.25"), ("ec", "14.25")):
        at(page, server, key, f"degree?method=events&event={event}")
        record(page, text)
    says(page, "Cannot tell")
    expect(page.locator(".weighed .note").first).to_contain_text("other end of the engine")
    expect(page.locator(".weighed")).to_contain_text("1 in 2")
    # Two acts: the right end, and that it stood there all along. No reading is taken again.
    at(page, server, key, "wheel")
    page.get_by_text("Front", exact=True).click()
    page.locator("input[name=all_along]").check()
    page.get_by_role("button", name="Keep").first.click()
    page.wait_for_url(lambda url: not url.endswith("/wheel"))
    at(page, server, key, "degree?method=events&event=io")
    record(page, "348.25")
    at(page, server, key, "tdc")
    for text in ("320", "40"):
        record(page, text)
    at(page, server, key, "degree")
    says(page, "In")
    expect(page.locator(".weighed")).to_contain_text("in")
    expect(page.locator(".weighed")).not_to_contain_text("other end")


def test_13_all_four_events_against_the_card_in_one_pass(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 13")
    enter_card(page, server, key)
    set_up_wheel(page, server, key, scale="quarter")
    find_top(page, server, key)
    for event, text in (("io", "12.25"), ("ic", "51.75"), ("eo", "54"), ("ec", "14.25")):
        at(page, server, key, f"degree?method=events&event={event}")
        record(page, text)
    says(page, "Cannot tell")
    read_again(page, server, key, "12.25")
    says(page, "In")
    expect(page.locator(".panel")).to_contain_text("52.0")


def test_14_a_pressed_gear_slipped_from_complaint_to_cure(page: Page, server: Server) -> None:
    key = begin(page, server, "Find out what is wrong", "Story 14", "6")
    assert page.url.endswith("/wrong")
    told = {"complaint": "no power above half load", "by_what": "scan", "offset": "9", "crank_teeth": "24"}
    keep(page, **told, drive_kind="gears", held="pressed", claim_teeth="1", claim_deg="3")
    answer(page, "they meet", "on", "no")
    says(page, "Likely: slipped pressed gear")
    expect(page.locator(".causes")).to_contain_text("by the teeth it is 15.0 crank deg")
    page.get_by_role("link", name="Found").click()
    answer(page, "slipped pressed gear")
    was_done(page, "gear-exchanged", "heated and pressed on anew")
    page.get_by_role("link", name="Measured again").click()
    record(page, "0.2")
    says(page, "Cured")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("heated and pressed on anew")


def test_15_a_bolt_circle_and_a_dot(page: Page, server: Server) -> None:
    key = begin(page, server, "Fit a gear", "Story 15")
    at(page, server, key, "gear-fit?edit=1")
    keep(page, bolts="3", stages="10; 20-25", held="bolts")
    expect(page.locator(".checks")).not_to_contain_text("Key")
    for _ in range(9):
        if page.locator("form.reading-form .choice", has_text="yes").count() == 0:
            break
        answer(page, "yes")
    page.get_by_role("link", name="Bolts").click()
    for text in ("10", "10", "10", "22", "25", "20"):
        record(page, text)
    says(page, "In")
    at(page, server, key, "by-eye")
    keep(page, m1_on="cam gear", m1_meets="arrow", m1_other="case")
    answer(page, "firing TDC", "on", "smooth", "yes")
    says(page, "In")


def test_16_a_play_that_binds_is_sanded_in_passes_then_the_clearance(page: Page, server: Server) -> None:
    key = begin(page, server, "Measure play and backlash", "Story 16", "1")
    at(page, server, key, "end-play")
    keep(page, crank_min="0.10", crank_max="0.20")
    answer(page, "all fitted", "it binds")
    says(page, "binds")
    at(page, server, key, "setting")
    keep(page, crank_way="cheeks")
    expect(page.locator(".panel")).to_contain_text("at least 0.075")
    was_done(page, "cheek-sanded", "both sides, first pass")
    says(page, "changed, not proved")
    at(page, server, key, "end-play")
    answer(page, "all fitted")
    for blade, text in (("0.05", "goes"), ("0.08", "does not go")):
        page.fill("#second", blade)
        answer(page, text)
    says(page, "tight")
    at(page, server, key, "setting")
    was_done(page, "cheek-sanded", "second pass")
    at(page, server, key, "end-play")
    answer(page, "all fitted")
    for blade, text in (("0.10 + 0.02", "goes"), ("0.18", "does not go")):
        page.fill("#second", blade)
        answer(page, text)
    says(page, "In")
    at(page, server, key, "lobe-room")
    for _ in range(2):
        record(page, "2.2")
    says(page, "In")


def test_17_a_blind_drive_by_eye(page: Page, server: Server) -> None:
    key = begin(page, server, "The whole build", "Story 17")
    enter_card(page, server, key, intake_max_lift="8.5", exhaust_max_lift="8.5")
    train = {"g1_name": "crank", "g1_teeth": "24", "g1_role": "crank", "g2_name": "cam", "g2_teeth": "48"}
    train |= {"g2_role": "cam", "g2_on": "1", "hole_sets": "5", "unit": "mm", "by": "QZ"}
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    page.request.post(f"{server.url}/jobs/{key}/train", form=train, **sent)
    at(page, server, key, "marks?method=blind-eye")
    stand = {1: "off; it lags", 2: "nearly; it lags", 3: "it fits", 4: "nearly; it leads", 5: "off; it leads"}
    for _ in range(5):
        slot = page.locator("form.reading-form input[name=slot]").input_value()
        answer(page, stand[int(slot.split(".")[0].removeprefix("set-"))])
    record(page, "1.0")
    page.get_by_role("link", name="Train", exact=True).click()
    answer(page, "there is none", "smooth")
    says(page, "In")
    expect(page.locator(".panel")).to_contain_text("Set 3 fits best, by eye")


def test_18_two_banks_by_lift_at_overlap_and_a_sprocket_shim(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 18", "6")
    ranges = {"intake_overlap_min": "1.0", "intake_overlap_max": "1.6"}
    enter_card(page, server, key, **ranges)
    set_up_wheel(page, server, key)
    find_top(page, server, key)
    at(page, server, key, "degree?method=overlap&lobe=intake")
    record(page, "1.3")
    at(page, server, key, "degree?method=overlap&lobe=intake&bank=2")
    record(page, "0.6")
    says(page, "Out")
    expect(page.locator(".panel")).to_contain_text("bank 2")
    at(page, server, key, "sprocket?edit=1")
    keep(page, tolerance="0.2", shim="0.5")
    for text in ("20.00", "20.55"):
        record(page, text)
    says(page, "Out")
    was_done(page, "sprocket-shimmed", "one shim out")
    for text in ("20.00", "20.05"):
        record(page, text)
    says(page, "In")


def test_19_a_gear_fitted_by_thermometer(page: Page, server: Server) -> None:
    key = begin(page, server, "Fit a gear", "Story 19")
    at(page, server, key, "gear-fit?edit=1")
    keep(page, bore="32", interference="0.05", width="20", slip="0.005")
    page.get_by_role("link", name="Heat").click()
    answer(page, "yes", "yes")
    record(page, "140")
    says(page, "Out")
    expect(page.locator(".panel")).to_contain_text("too tight")
    record(page, "240")
    # Hot enough to slip on, and hotter than the gear bears.
    says(page, "Out")
    record(page, "215")
    expect(page.locator(".panel")).to_contain_text("It slips on")
    expect(page.locator(".panel h2.verdict.out")).to_have_count(0)
    expect(page.locator(".countdown")).to_contain_text("until it grips")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("215")


def test_20_a_dowel_stands_right_and_a_dot_beside_it_does_not(page: Page, server: Server) -> None:
    key = begin(page, server, "Align marks", "Story 20", "1")
    dowel = {"m1_on": "cam gear", "m1_kind": "dowel", "m1_meets": "between", "m1_other": "crank gear"}
    dot = {"m2_on": "cam gear", "m2_meets": "level", "m3_on": "belt pulley", "m3_kind": "number", "m3_label": "IV"}
    keep(page, **dowel, **dot, m3_meets="up", d1_kind="idler", d2_kind="magneto", d2_timed="no")
    answer(page, "firing TDC", "on", "late")
    expect(page.locator(".panel")).to_contain_text("IV")
    answer(page, "on", "smooth", "yes")
    # Neither the idler nor the magneto is asked for, and the dot turns no gear.
    says(page, "In")
    expect(page.locator(".panel")).not_to_contain_text("turn that gear")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("late")


def test_21_a_cam_on_each_bank_of_which_the_second_alone_is_moved(page: Page, server: Server) -> None:
    engine = {"firing_order": "1-4-2-5-3-6", "bank2_cylinder": "4"}
    key = begin(page, server, "Degree a cam", "Story 21", "6", valvetrain="one-cam-a-bank", **engine)
    enter_card(page, server, key)
    set_up_wheel(page, server, key, scale="full", numbers_rise="counterclockwise")
    find_top(page, server, key, "320", "40")
    read_banks(page, server, key, 1)
    not_in(page)
    read_banks(page, server, key, 2, late_deg=4)
    says(page, "the cam of bank 2 is late")
    at(page, server, key, "adjust")
    slot = {"a1_kind": "slot", "a1_name": "left slot", "a1_on": "bank1-both", "a1_range": "10", "a1_step": "1"}
    second = {"a2_kind": "slot", "a2_name": "right slot", "a2_on": "bank2-both", "a2_range": "10", "a2_step": "1"}
    keep(page, "Keep the drive", **slot, **second)
    expect(page.locator(".panel")).to_contain_text("right slot")
    page.get_by_role("button", name="Choose it").click()
    press(page, "It is moved")
    expect(page.locator(".stands")).to_contain_text("4 advanced")
    at(page, server, key, "degree")
    not_in(page)
    read_banks(page, server, key, 2)
    find_top(page, server, key, "320", "40")
    read_banks(page, server, key, 1)
    read_banks(page, server, key, 2)
    says(page, "In")


def read_banks(page: Page, server: Server, key: str, bank: int, late_deg: float = 0.0) -> None:
    """The four events of one bank on a full wheel; the fourth cylinder fires 120 degrees after the first."""
    after = late_deg + (120 if bank == 2 else 0)
    for event, deg in (("io", -12), ("ic", 232), ("eo", -234), ("ec", 14)):
        at(page, server, key, f"degree?method=events&event={event}&bank={bank}")
        record(page, f"{(deg + after) % 360:g}")
    at(page, server, key, "degree")


def test_22_one_figure_of_lift_at_overlap_where_a_range_was_asked_for(page: Page, server: Server) -> None:
    key = begin(page, server, "Degree a cam", "Story 22")
    enter_card(page, server, key, intake_overlap_min="1.3")
    set_up_wheel(page, server, key)
    find_top(page, server, key)
    at(page, server, key, "degree?method=overlap&lobe=intake")
    record(page, "0.6")
    says(page, "Out")
    was_done(page, "cam-moved", "a tooth on")
    expect(page.locator(".panel h2.verdict.out")).to_have_count(0)
    for _ in range(2):
        record(page, "1.3")
    expect(page.locator(".panel h2.verdict.out")).to_have_count(0)
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("a tooth on")


def test_23_a_complaint_closed_by_eye_alone(page: Page, server: Server) -> None:
    key = begin(page, server, "Find out what is wrong", "Story 23", "1")
    keep(page, complaint="will not start since the chain was changed", drive_kind="chain", held="key")
    answer(page, "they do not meet", "off by whole teeth", "there is none", "yes")
    expect(page.locator(".panel .verdict").first).to_contain_text("Likely")
    page.get_by_role("link", name="Found").click()
    answer(page, "jumped")
    was_done(page, "gear-turned", "the chain set on the marks", gear="cam sprocket", teeth="2", way="earlier")
    at(page, server, key, "wrong")
    answer(page, "they do")
    says(page, "Cured")
    at(page, server, key, "sheet")
    expect(page.locator(".build-sheet")).to_contain_text("the chain set on the marks")
    expect(page.locator(".build-sheet")).to_contain_text("off by whole teeth")


def test_24_there_is_none_of_anything_and_nothing_is_in(page: Page, server: Server) -> None:
    begin(page, server, "Align marks", "Story 24", "1")
    keep(page, m1_on="cam gear", m1_other="crank gear")
    answer(page, "firing TDC", "there is none", "smooth")
    not_in(page)
    expect(page.locator(".panel")).to_contain_text("Nothing to judge")
