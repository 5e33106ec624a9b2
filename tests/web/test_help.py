"""The booklet: every station and every term, found by words; the made-up job that a new shop can look at."""

import re

import pytest
from fastapi.testclient import TestClient

from uranograph.bench.help import STEPS
from uranograph.bench.terms import BY_KEY, TERMS
from uranograph.charts.terms import term_figure
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

# Never on a page: another word stands for it.
NEVER = ("doubt", "house value", "starting value", "cheek", "equal drops", "stand-in lobe", "the top")


def test_every_station_is_told_whole() -> None:
    purposes = set()
    for station in ORDER.stations:
        told = station.help
        assert len(told.steps) == STEPS
        assert all((told.purpose, told.needed, told.wrong, told.why))
        words = " ".join((told.purpose, *told.steps, *(w for pair in told.wrong for w in pair), told.why)).lower()
        assert not [word for word in NEVER if word in words], station.key
        purposes.add(told.purpose)
    assert len(purposes) == len(ORDER.stations)


def test_every_term_has_a_sentence_and_a_figure_that_says_what_it_shows() -> None:
    writings = [writing.lower() for term in TERMS for writing in term.writings]
    assert len(writings) == len(set(writings)), "one term a thing"
    drawn = {term_figure(term.key).svg() for term in TERMS}
    assert len(drawn) == len(TERMS)
    for term in TERMS:
        assert term.sentence.endswith((".", ")."))
        assert term_figure(term.key).description.endswith(".")
    with pytest.raises(KeyError):
        term_figure("nothing")


def test_the_booklet_has_all_of_it_and_leads_back(client: TestClient, key: str) -> None:
    page = client.get(f"/help?job={key}").text
    for station in ORDER.stations:
        assert f'id="station-{station.key}"' in page
        assert f'href="/jobs/{key}/{station.key}"' in page
    assert page.count('class="word"') == len(TERMS)
    assert f'href="/jobs/{key}/overview"' in page


@pytest.mark.parametrize(
    ("search", "station", "terms"),
    [
        ("backlash mean", "backlash", 0),
        ("pitch line", "backlash", 1),
        ("  PIN  counted ", "marks", 0),
        ("nowhere-at-all", "", 0),
    ],
)
def test_what_is_looked_for_has_every_word(client: TestClient, search: str, station: str, terms: int) -> None:
    page = client.get("/help", params={"q": search}).text
    shown = re.findall(r'class="lesson" id="station-([a-z-]+)"', page)
    assert (station in shown) is bool(station)
    assert len(shown) < len(ORDER.stations)
    assert page.count('class="word"') == terms
    assert ("Nothing in the booklet" in page) is (not station)


def test_a_search_is_shown_as_typed_and_never_as_markup(client: TestClient) -> None:
    page = client.get("/help", params={"q": "<b>x</b>"}).text
    assert "<b>x</b>" not in page
    assert "&lt;b&gt;x&lt;/b&gt;" in page


def test_a_term_comes_with_its_figure(client: TestClient) -> None:
    told = client.get("/help/terms.json").json()
    assert told["ATDC"] == "sides"
    assert set(told.values()) == set(BY_KEY)
    card = client.get("/help/terms/tir")
    assert "greatest less least" in card.text
    assert "<svg" in card.text
    assert client.get("/help/terms/nothing").status_code == 404


def test_a_page_leads_to_its_own_station_in_the_booklet(client: TestClient, key: str) -> None:
    assert f'href="/help?job={key}#station-runout" data-key="h"' in client.get(f"/jobs/{key}/runout").text
    assert f'href="/help?job={key}" data-key="h"' in client.get(f"/jobs/{key}/overview").text
    assert 'href="/help" data-key="h"' in client.get("/").text


def test_an_empty_shop_says_what_to_do_and_shows_a_made_up_job_once(client: TestClient, shop: Shop) -> None:
    page = client.get("/").text
    assert page.split('class="empty first-visit"')[1].count("<li>") == 3
    first = client.post("/example", follow_redirects=False)
    again = client.post("/example", follow_redirects=False)
    assert first.status_code == again.status_code == 303
    assert first.headers["location"] == again.headers["location"]
    with shop.read() as session:
        assert jobs.page(session).total == 1
    assert client.get(first.headers["location"]).status_code == 200
    assert "first-visit" not in client.get("/").text
