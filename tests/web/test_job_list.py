"""The job list: search, filters, order and pages, and that they are still there at the next visit."""

import re

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import text

from tests.hands import a_job
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.shop.loading import ListOrder
from uranograph.web.job_query import JobQuery

ENGINES = {
    "Alder six": {"customer": "Harbor Works", "engine_number": "771", "wanted_by": "2026-12-24", "by": "QZ"},
    "Birch four": {"customer": "alpine club", "wanted_by": "2026-12-10", "by": "RK"},
    "Cedar twin": {},
}


@pytest.fixture
def engines(client: TestClient, shop: Shop) -> dict[str, str]:
    with shop.write() as session:
        keys = {title: a_job(session, title=title) for title in ENGINES}
    for title, stated in ENGINES.items():
        if stated:
            assert client.post(f"/jobs/{keys[title]}/sheet/particulars", data=stated).status_code == 200
    return keys


def titles(client: TestClient, query: str) -> list[str]:
    return re.findall(r'class="job-title">([^<]+)<', client.get(f"/?{query}").text)


@pytest.mark.parametrize(
    ("query", "found"),
    [
        ("order=name", ["Alder six", "Birch four", "Cedar twin"]),
        ("order=customer", ["Birch four", "Alder six", "Cedar twin"]),
        ("order=wanted", ["Birch four", "Alder six", "Cedar twin"]),
        ("order=sideways&q=alder", ["Alder six"]),
        ("q=HARBOR", ["Alder six"]),
        ("q=771", ["Alder six"]),
        ("q=100%25", []),
        ("who=rk", ["Birch four"]),
        ("who=RK&q=harbor", []),
    ],
)
def test_order_search_and_who(client: TestClient, engines: dict[str, str], query: str, found: list[str]) -> None:
    assert len(engines) == 3
    assert titles(client, query) == found


def test_a_customer_corrected_is_the_one_that_counts(client: TestClient, engines: dict[str, str]) -> None:
    client.post(f"/jobs/{engines['Alder six']}/sheet/particulars", data={"customer": "Zinc yard", "by": "QZ"})
    assert titles(client, "q=zinc") == ["Alder six"]
    assert titles(client, "q=harbor") == []
    assert titles(client, "order=customer") == ["Birch four", "Alder six", "Cedar twin"]


def test_what_was_chosen_is_still_chosen_at_the_next_visit(client: TestClient, engines: dict[str, str]) -> None:
    assert len(engines) == 3
    assert titles(client, "order=name&who=QZ&page=1") == titles(client, "")
    page = client.get("/").text
    assert "worked on by QZ" in page
    assert titles(client, "shelf=bench") != titles(client, "shelf=bench&who=RK")
    client.get("/?shelf=bench")
    assert len(titles(client, "")) == 3


def test_twenty_five_a_page_and_every_link_keeps_the_filters(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        for number in range(53):
            a_job(session, title=f"Row {number:02d}")
    assert titles(client, "order=name&q=row") == [f"Row {number:02d}" for number in range(25)]
    assert titles(client, "order=name&q=row&page=3") == ["Row 50", "Row 51", "Row 52"]
    page = client.get("/?order=name&q=row&page=2").text
    assert "Page 2 of 3, 53 jobs" in page
    assert 'rel="next" href="/?q=row&amp;order=name&amp;page=3"' in page
    assert 'rel="prev" href="/?q=row&amp;order=name"' in page
    assert titles(client, "stands=well&order=name&page=3") == ["Row 50", "Row 51", "Row 52"]


def test_the_index_of_particulars_is_used(shop: Shop) -> None:
    with shop.read() as session:
        query = str(loading._SORTED_BY[ListOrder.CUSTOMER][0].compile(compile_kwargs={"literal_binds": True}))
        plan = session.execute(text(f"EXPLAIN QUERY PLAN SELECT id FROM jobs ORDER BY {query}")).all()
    assert any("ix_entries_particulars" in row[-1] for row in plan)


@pytest.mark.parametrize(
    "typed", [{}, {"q": "a&b=c", "who": "qz", "order": "customer"}, {"stands": "out", "shelf": "bin"}]
)
def test_a_query_is_remembered_as_it_was(typed: dict[str, str]) -> None:
    query = JobQuery.of(typed)
    assert JobQuery.remembered(query.encoded) == query
    assert JobQuery.of({**typed, "page": "7"}).link() == query.link()
