"""Pages under a path of a larger site: every address of every page leads there, whatever a person typed stays as it is."""

import re
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job
from tests.web.test_whatever_is_sent import pages
from uranograph.shop import asides
from uranograph.shop.database import Shop
from uranograph.web.app import create_app
from uranograph.web.settings import Settings

ADDRESS = re.compile(r'\s(?:href|src|action|formaction|hx-get|hx-post|hx-push-url|data-at)="(/[^"]*)"')


@pytest.fixture
def under(shop: Shop) -> Iterator[TestClient]:
    with TestClient(
        create_app(Settings(database=shop.path, prefix="/the/bench")), base_url="http://127.0.0.1"
    ) as opened:
        yield opened


def test_every_address_of_every_page_leads_there(under: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        asides.note(session, key, "engine", 'seen at href="/elsewhere"', "QZ")
    seen = set()
    for page in (*(each for each in pages(key) if "train-at" not in each), "/help", "/api", "/jobs/new", "/diagnosis"):
        answer = under.get(f"/the/bench{page}")
        assert answer.status_code == 200, page
        if answer.headers["content-type"].startswith("text/html"):
            assert int(answer.headers["content-length"]) == len(answer.content)
            found = ADDRESS.findall(answer.text)
            assert all(address.startswith("/the/bench/") for address in found), page
            if "<html" in answer.text:
                assert 'data-root="/the/bench/"' in answer.text
            seen |= set(found)
    assert seen
    for address in sorted(each for each in seen if "/static/" in each)[:6]:
        assert under.get(address).status_code == 200
    assert "href=&#34;/elsewhere" in under.get(f"/the/bench/jobs/{key}/overview").text


def test_what_leads_on_leads_there_and_nothing_is_beside_it(under: TestClient, shop: Shop) -> None:
    begun = under.post("/the/bench/example", data={"by": "QZ"}, follow_redirects=False)
    assert begun.status_code == 303
    assert begun.headers["location"].startswith("/the/bench/jobs/")
    told = under.post("/the/bench/bench/who", data={"by": "QZ", "back": "/help"}, headers={"HX-Request": "true"})
    assert told.headers.get("hx-redirect", "/the/bench/").startswith("/the/bench")
    assert under.get("/help").status_code == 404
    assert under.get("/the/benches").status_code == 404
    head = under.head("/the/bench/help")
    assert head.status_code == 200
    assert int(head.headers["content-length"]) == len(under.get("/the/bench/help").content)


@pytest.mark.parametrize("prefix", ["bench", "/bench/", "/a b", "/a?b"])
def test_a_path_that_cannot_be_is_refused(prefix: str) -> None:
    with pytest.raises(ValueError, match="prefix"):
        Settings(prefix=prefix)
