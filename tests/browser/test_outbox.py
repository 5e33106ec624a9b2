"""outbox.js by itself: readings go out one after the other, each under its own question, and none is lost or sent twice."""

import json
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, Route, expect

import uranograph.web

SCRIPT = (Path(uranograph.web.__file__).parent / "static" / "outbox.js").read_text(encoding="utf-8")
# Answered within the browser: nothing listens there.
SITE = "http://127.0.0.1:9"


def bench(question: int, error: str = "", typed: str = "") -> str:
    """The changed part of a page that asks a question, with what was refused of it."""
    invalid = ' aria-invalid="true"' if error else ""
    return (
        f'<main id="bench"><p id="notice" hidden></p><form class="reading-form" data-draft="d" action="{SITE}/record" method="post">'
        f'<h1>Question {question}</h1><div class="slot waiting"><input id="text" name="text" data-reading value="{typed}"{invalid}>'
        f'<p id="error-text">{error}</p></div><input type="hidden" name="slot" value="slot-{question}">'
        f'<input type="hidden" name="token" value="token-{question}"></form></main>'
    )


class Answers:
    """A server of one question after the other; answers are held until the test lets them go."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.taken: list[dict[str, str]] = []
        self.held: list[Route] = []
        self.status, self.hold = 200, True

    def route(self, route: Route) -> None:
        if route.request.method != "POST":
            head = "<!doctype html><script>window.uranographAway = { back: () => Promise.resolve() };</script>"
            route.fulfill(body=f"{head}<script>{SCRIPT}</script>{bench(1)}", content_type="text/html")
            return
        self.taken.append(dict(pair.split("=", 1) for pair in (route.request.post_data or "").split("&")))
        self.held.append(route)
        if not self.hold:
            self.let_go()

    def wait_for(self, count: int) -> None:
        """Wait until so many requests have arrived."""
        for _ in range(500):
            if len(self.taken) >= count:
                return
            self.page.wait_for_timeout(20)
        raise AssertionError(f"{len(self.taken)} of {count} requests arrived")

    def let_go(self, status: int = 200, error: str = "") -> None:
        route, number = self.held.pop(0), len(self.taken)
        asked = number if error else number + 1
        body = bench(asked, error, self.taken[-1]["text"] if error else "")
        route.fulfill(status=status, body=body, content_type="text/html")


@pytest.fixture
def answers(page: Page) -> Iterator[Answers]:
    server = Answers(page)
    page.route(f"{SITE}/**", server.route)
    page.goto(f"{SITE}/jobs/one/tdc")
    page.evaluate("sessionStorage.clear()")
    page.locator("#text").focus()
    yield server
    page.unroute(f"{SITE}/**")


def type_in(page: Page, text: str) -> None:
    page.keyboard.type(text)
    page.keyboard.press("Enter")


def test_what_is_typed_meanwhile_waits_and_goes_under_the_next_question(page: Page, answers: Answers) -> None:
    type_in(page, "35")
    type_in(page, "36")
    expect(page.locator(".outbox")).to_have_text("Recording 35. Waiting: 36.")
    answers.wait_for(1)
    assert [taken["text"] for taken in answers.taken] == ["35"]
    answers.let_go()
    expect(page.get_by_role("heading")).to_have_text("Question 2")
    page.wait_for_function("() => document.querySelector('.outbox')?.textContent === 'Recording 36.'")
    answers.wait_for(2)
    assert [(taken["slot"], taken["text"]) for taken in answers.taken] == [("slot-1", "35"), ("slot-2", "36")]
    answers.let_go()
    expect(page.locator(".outbox")).to_have_count(0)


def test_a_refusal_comes_before_what_was_typed_after_it(page: Page, answers: Answers) -> None:
    type_in(page, "350")
    type_in(page, "36")
    answers.wait_for(1)
    answers.let_go(422, "“350” is not on this wheel.")
    expect(page.locator("#error-text")).to_have_text("“350” is not on this wheel.")
    expect(page.locator(".outbox")).to_contain_text("Put this right and press Enter; the others follow.")
    assert len(answers.taken) == 1
    page.locator("#text").fill("35")
    page.keyboard.press("Enter")
    page.wait_for_function("() => document.querySelector('.outbox')?.textContent.startsWith('Recording 35.')")
    answers.wait_for(2)
    assert answers.taken[1]["text"] == "35"
    answers.let_go()
    page.wait_for_function("() => document.querySelector('.outbox')?.textContent === 'Recording 36.'")
    answers.wait_for(3)
    answers.let_go()


def test_an_empty_enter_while_one_is_under_way_sends_nothing(page: Page, answers: Answers) -> None:
    type_in(page, "35")
    page.keyboard.press("Enter")
    expect(page.locator(".outbox")).to_have_text("Recording 35.")
    answers.wait_for(1)
    answers.let_go()
    expect(page.get_by_role("heading")).to_have_text("Question 2")
    assert len(answers.taken) == 1


def test_a_server_that_is_away_gets_the_reading_once_it_answers(page: Page, answers: Answers) -> None:
    type_in(page, "35")
    answers.wait_for(1)
    answers.held.pop().abort()
    answers.wait_for(2)
    assert [taken["token"] for taken in answers.taken] == ["token-1", "token-1"], (
        "the same form, so that it is written once"
    )
    answers.held[0].fulfill(body=bench(2), content_type="text/html")
    answers.held.clear()
    expect(page.get_by_role("heading")).to_have_text("Question 2")


def test_a_page_drawn_again_in_the_middle_sends_the_rest(page: Page, answers: Answers) -> None:
    type_in(page, "35")
    type_in(page, "36")
    answers.wait_for(1)
    page.wait_for_function(
        "() => JSON.parse(sessionStorage.getItem('uranograph:outbox:/jobs/one/tdc')).queue.length === 1"
    )
    kept = json.loads(page.evaluate("sessionStorage.getItem('uranograph:outbox:/jobs/one/tdc')"))
    assert [each["text"] for each in kept["queue"]] == ["36"]
    answers.held.clear()
    answers.hold = False
    page.reload()
    answers.wait_for(3)
    expect(page.locator(".outbox")).to_have_count(0)
    assert [taken["text"] for taken in answers.taken] == ["35", "35", "36"]
    assert answers.taken[0]["token"] == answers.taken[1]["token"]
