"""What a hand does on the pages: fill a form and keep it, answer, say what was done."""

from playwright.sync_api import Page, expect

from tests.browser.conftest import Server, record, unfold

FOUR = {"io_btdc_deg": "12", "ic_abdc_deg": "52", "eo_bbdc_deg": "54", "ec_atdc_deg": "14", "check_lift": "1.0"}


def fill(page: Page, **fields: str) -> None:
    """Fill fields of the open form, wherever they are folded away."""
    lists = page.evaluate(
        """() => {
          document.querySelectorAll('.panel details').forEach((fold) => { fold.open = true; });
          return [...document.querySelectorAll('select')].map((each) => each.id);
        }"""
    )
    for name, text in fields.items():
        if name in lists:
            page.select_option(f"#{name}", text)
        elif page.locator(f"input[type=radio][name={name}]").count():
            page.locator(f"input[type=radio][name={name}][value={text}]").check(force=True)
        else:
            page.fill(f"#{name}", text)


def begin(page: Page, server: Server, way: str, title: str, cylinders: str = "4", **engine: str) -> str:
    """A new job with what one came for; cylinders are enough of an engine."""
    page.goto(f"{server.url}/jobs/new")
    page.get_by_text(way, exact=True).click()
    page.get_by_text("Millimeters").click()
    fill(page, title=title, by="QZ", cylinders=cylinders, **engine)
    page.get_by_role("button", name="Begin the job").click()
    page.wait_for_url(lambda url: "/jobs/new" not in url)
    return page.url.split("/")[4]


def at(page: Page, server: Server, key: str, station: str) -> None:
    shown = page.goto(f"{server.url}/jobs/{key}/{station}")
    assert shown is not None
    assert shown.status == 200, shown.text()[:300]


def press(page: Page, button: str) -> None:
    """Press what writes, and wait until it is written: leaving the page sooner would take it back."""
    with page.expect_response(lambda answer: answer.request.method == "POST" and "/jobs/" in answer.url):
        page.get_by_role("button", name=button).click()


def keep(page: Page, button: str = "Keep it", **fields: str) -> None:
    """Fill a set-up and keep it."""
    fill(page, **fields)
    before = page.locator("input[name=seen]").first.input_value()
    page.get_by_role("button", name=button).first.click()
    page.wait_for_function(
        "b => { const s = document.querySelector('input[name=seen]'); return !s || s.value !== b; }", arg=before
    )


def answer(page: Page, *words: str) -> None:
    """Answer one question after the other in the words that are offered."""
    for each in words:
        unfold(page)
        before = page.locator("form.reading-form input[name=token]").first.input_value()
        page.locator("form.reading-form .choice", has_text=each).first.click()
        page.get_by_role("button", name="Record").click()
        page.wait_for_function(
            "b => { const t = document.querySelector('form.reading-form input[name=token]'); return !t || t.value !== b; }",
            arg=before,
        )


def was_done(page: Page, act: str, what: str = "", **details: str) -> None:
    """Say what was done, with what is known of it."""
    page.keyboard.press("x")
    page.locator("#act").select_option(act)
    for name, text in details.items():
        field = page.locator(f"#act_{name}")
        if field.evaluate("each => each.tagName") == "SELECT":
            field.select_option(text)
        else:
            field.fill(text)
    page.fill("#what", what)
    page.get_by_role("button", name="It was done").click()
    expect(page.locator("#what")).to_be_hidden()


def says(page: Page, words: str) -> None:
    expect(page.locator(".panel .verdict").first).to_contain_text(words)


def set_up_wheel(page: Page, server: Server, key: str, **change: str) -> None:
    typed = {"scale": "half", "mount": "front", "division": "0.5", "dial_division": "0.01", "unit": "mm", **change}
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    assert page.request.post(f"{server.url}/jobs/{key}/wheel", form=typed, **sent).status == 303


def enter_card(page: Page, server: Server, key: str, **change: str) -> None:
    sent = {"max_redirects": 0, "headers": {"Origin": server.url}}
    typed = {**FOUR, "unit": "mm", "by": "QZ", **change}
    assert page.request.post(f"{server.url}/jobs/{key}/card", form=typed, **sent).status == 303


def find_top(page: Page, server: Server, key: str, before: str = "40", after: str = "40") -> None:
    at(page, server, key, "tdc")
    for text in (before, after):
        record(page, text)


def equal_lifts(page: Page, server: Server, key: str, *readings: str) -> None:
    """Intake before and after, exhaust before and after, one below maximum."""
    at(page, server, key, "degree?method=lifts")
    for n, text in enumerate(readings):
        side = "atdc" if n < 2 else "btdc"
        unfold(page)
        page.locator(f"input[name=side][value={side}]").check(force=True)
        if page.locator("#second").is_editable():
            page.fill("#second", "1")
        page.locator("[data-reading]").focus()
        record(page, text)
