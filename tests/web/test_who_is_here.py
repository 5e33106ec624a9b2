"""Who is at the bench: tapped in the head, asked again each day, and asked in a panel only where nobody said so."""

from datetime import datetime, tzinfo

import pytest
from fastapi.testclient import TestClient

from tests.web.test_mark_pages import waiting_slot
from uranograph.shop.database import Shop
from uranograph.shop.people import MAX_PEOPLE, people
from uranograph.web import pages


def test_the_busiest_of_late_come_first(shop: Shop, key: str) -> None:
    with shop.read() as session:
        found = people(session)
    assert found[0] == "QZ"
    assert len(found) <= MAX_PEOPLE


def test_nothing_is_written_by_nobody_and_one_tap_writes_it(client: TestClient, key: str) -> None:
    client.cookies.clear()
    page = client.get(f"/jobs/{key}/runout").text
    assert 'id="by"' not in page
    assert '<button class="person" name="by" value="QZ" aria-pressed="false">' in page
    typed = {"slot": waiting_slot(page), "text": "0.02", "second": "0"}
    refused = client.post(f"/jobs/{key}/runout", data=typed)
    assert refused.status_code == 422
    assert "Who is here?" in refused.text
    assert 'value="0.02"' in refused.text
    # The empty field and the tapped chip come under one name: the chip counts.
    written = client.post(f"/jobs/{key}/runout", data={**typed, "by": ["", "QZ"]})
    assert written.status_code == 200
    assert "0.02" in written.text


@pytest.mark.parametrize(("hour", "hours"), [(9, 19), (3, 1), (23, 5), (4, 24)])
def test_the_day_ends_at_four(monkeypatch: pytest.MonkeyPatch, hour: int, hours: int) -> None:
    class Clock(datetime):
        @classmethod
        def now(cls, tz: tzinfo | None = None) -> datetime:
            return datetime(2026, 5, 12, hour).astimezone()

    monkeypatch.setattr(pages, "datetime", Clock)
    assert pages._until_tomorrow() == hours * 3600
