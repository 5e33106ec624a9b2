"""The whole main job by roles and names alone, as a screen reader has them: from the list to the printed sheet, with a change."""

import re

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server

# Four late by every event of the card: IO 12, IC 52, EO 54, EC 14.
EVENTS = (
    ("Intake opens", "8", "BTDC"),
    ("Intake closes", "56", "ABDC"),
    ("Exhaust opens", "50", "BBDC"),
    ("Exhaust closes", "18", "ATDC"),
)


class Reader:
    """Somebody who goes by what is read out: roles, names, headings and what the live regions say."""

    def __init__(self, page: Page) -> None:
        self.page = page

    def hears(self, words: str) -> None:
        expect(self.page.get_by_role("status").filter(has_text=re.compile(words)).first).to_be_attached()

    def asked(self, words: str) -> None:
        expect(self.page.get_by_role("heading", level=1)).to_have_text(re.compile(words))

    def writes(self, name: str, text: str) -> None:
        self.page.get_by_role("textbox", name=re.compile(name)).fill(text)

    def presses(self, name: str) -> None:
        self.page.get_by_role("button", name=re.compile(f"^{name}")).first.click()

    def follows(self, name: str) -> None:
        self.page.get_by_role("link", name=re.compile(f"^{name}")).first.click()

    def reads(self, name: str, figure: str, side: str) -> None:
        """One reading into the field of this name, on this side of the wheel."""
        again = self.page.get_by_text("Read one again")
        if again.count() and not self.page.get_by_role("textbox", name=re.compile(name)).count():
            again.click()
        field = self.page.get_by_role("textbox", name=re.compile(name))
        field.fill(figure)
        self.page.get_by_role("radio", name=side).check(force=True)
        before = self.page.locator("form.reading-form input[name=token]").first.input_value()
        self.presses("Record")
        self.page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return t && t.value !== b; }",
            arg=before,
        )
        expect(self.page.get_by_role("region", name="Readings")).to_contain_text(figure)


def test_the_main_job_from_the_list_to_the_sheet(page: Page, own_server: Server) -> None:
    reader = Reader(page)
    page.goto(own_server.url)
    expect(page.get_by_role("main")).to_contain_text("No jobs yet")
    reader.follows("New job")
    page.get_by_role("radio", name="Degree a cam").check(force=True)
    reader.writes("Job name", "Six by ear")
    reader.writes("Your initials", "QZ")
    reader.writes("Cylinders", "6")
    page.get_by_role("radio", name="Millimeters").check(force=True)
    reader.presses("Begin the job")
    reader.writes("card's line as printed", "IO 12 IC 52 EO 54 EC 14 @ 1.0")
    reader.presses("Keep and go on")
    page.wait_for_url("**/wheel")
    reader.presses("Keep and go on")
    page.wait_for_url("**/tdc")
    reader.asked("stop")
    reader.reads("before", "40", "BTDC")
    reader.reads("after", "40", "ATDC")
    reader.hears("In")
    reader.follows("Intake and exhaust")
    page.wait_for_url("**/degree")
    for name, figure, side in EVENTS:
        reader.reads(name, figure, side)
    reader.hears("Out.*late")
    table = page.get_by_role("region", name="Card beside measured").get_by_role("table")
    expect(table.get_by_role("row", name=re.compile("^difference"))).to_contain_text("−4.0+4.0−4.0+4.0+4.0−4.00.0")
    figure = page.get_by_role("region", name="Figure").get_by_role("img").first
    assert re.search(r"\d", figure.get_attribute("aria-label") or "")
    # The change in the middle: the drive is described, the cam moved, and all read again.
    reader.follows("Choose a position")
    page.wait_for_url("**/adjust")
    page.get_by_role("combobox", name="Kind").first.select_option("keyed crank gear")
    page.get_by_role("textbox", name="Name").first.fill("keyway")
    reader.writes("Positions and their degrees", "R4: -4, 0: 0, A4: 4")
    reader.writes("Fitted now", "0")
    reader.presses("Keep the drive")
    page.get_by_role("radio", name=re.compile("A4")).first.check(force=True)
    reader.presses("Choose it")
    reader.presses("It is moved")
    # The crank gear came off for it, and the wheel with it: the top comes first, and the page says so.
    reader.asked("Find TDC again")
    reader.follows("Find TDC again")
    page.wait_for_url("**/tdc")
    for name, figure, side in (("before", "41", "BTDC"), ("after", "41", "ATDC")):
        reader.reads(name, figure, side)
    reader.follows("Intake and exhaust")
    page.wait_for_url("**/degree")
    for (name, _, side), now in zip(EVENTS, ("12", "52", "54", "14"), strict=True):
        reader.reads(name, now, side)
    # Single readings prove nothing yet: the first one is asked for again, and then the stop.
    reader.hears("Cannot tell yet")
    reader.reads("Intake opens", "12", "BTDC")
    reader.follows("in True TDC")
    page.wait_for_url("**/tdc")
    for name, figure, side in (("before", "41", "BTDC"), ("after", "41", "ATDC")):
        reader.reads(name, figure, side)
    reader.follows("Intake and exhaust")
    page.wait_for_url("**/degree")
    reader.hears("In")
    reader.follows("Build sheet")
    page.wait_for_url("**/sheet")
    sheet = page.get_by_role("main")
    expect(page.get_by_role("heading", level=1)).to_have_count(1)
    for words in ("Six by ear", "In", "keyway", "coverage factor k = 2"):
        expect(sheet).to_contain_text(words)
