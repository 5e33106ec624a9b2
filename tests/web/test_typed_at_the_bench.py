"""What people type at the bench: a side behind its figure, fractions of one letter, usual firing orders."""

import pytest
from fastapi.testclient import TestClient

from tests.web.test_pages import ENGINE, STOP
from uranograph.core.firing import USUAL_ORDERS, parse_firing_order
from uranograph.shop import loading
from uranograph.shop.database import Shop

HX = {"HX-Request": "true"}


@pytest.mark.parametrize(
    ("typed", "text", "side"),
    [
        ("38 atdc", "38", "atdc"),
        ("38½ ATDC", "38½", "atdc"),
        ("38.5btdc", "38.5", "btdc"),
        ("38 1/2 Atdc.", "38 1/2", "atdc"),
        ("38", "38", "btdc"),
    ],
)
def test_a_side_behind_the_figure_overrides_the_chosen_one(
    client: TestClient, shop: Shop, key: str, typed: str, text: str, side: str
) -> None:
    answer = client.post(f"/jobs/{key}/tdc", data={**STOP, "text": typed, "side": "btdc"}, headers=HX)
    assert answer.status_code == 200
    with shop.read() as session:
        reading = loading.load(session, key).readings[-1]
    assert (reading.text, reading.side) == (text, side)


@pytest.mark.parametrize("typed", ["atdc", "38 north", "38 atdc atdc x"])
def test_what_is_no_figure_with_a_side_is_refused_and_stays(client: TestClient, key: str, typed: str) -> None:
    answer = client.post(f"/jobs/{key}/tdc", data={**STOP, "text": typed}, headers=HX)
    assert answer.status_code == 422
    assert f'value="{typed}"' in answer.text


@pytest.mark.parametrize("cylinders", USUAL_ORDERS)
def test_usual_orders_name_every_cylinder_and_are_offered(client: TestClient, cylinders: int) -> None:
    for order in USUAL_ORDERS[cylinders]:
        assert len(parse_firing_order(order, cylinders)) == cylinders
    page = client.post("/sheets/engine/preview", data={"cylinders": str(cylinders)}, headers=HX).text
    assert all(f'data-text="{order}"' in page for order in USUAL_ORDERS[cylinders])
    stated = {"cylinders": str(cylinders), "firing_order": USUAL_ORDERS[cylinders][0]}
    assert "data-fill" not in client.post("/sheets/engine/preview", data=stated, headers=HX).text


def test_a_card_at_odds_with_itself_stays_until_it_is_kept_anyway(client: TestClient, key: str) -> None:
    odd = {"io_btdc_deg": "12", "ic_abdc_deg": "52", "intake_duration_deg": "260", "unit": "mm", "by": "QZ"}
    stays = client.post(f"/jobs/{key}/card", data=odd, follow_redirects=False)
    assert stays.headers["location"].endswith("/card")
    assert "Keep it anyway and go on" in client.get(f"/jobs/{key}/card").text
    onward = client.post(f"/jobs/{key}/card", data={**odd, "anyway": "1"}, follow_redirects=False)
    assert not onward.headers["location"].endswith("/card")


def test_a_wheel_that_is_not_the_one_mounted_is_a_tap_away(client: TestClient, key: str) -> None:
    answer = client.post(f"/jobs/{key}/tdc", data={**STOP, "text": "195"}, headers=HX)
    assert answer.status_code == 422
    assert f'<a href="/jobs/{key}/wheel">Another wheel is mounted</a>' in answer.text


def test_a_figure_stands_before_anything_is_kept(client: TestClient) -> None:
    begun = client.post("/jobs/new", data={**ENGINE, "title": "Bare", "by": "QZ", "token": "b1"})
    key = str(begun.url).split("/")[4]
    assert '<svg class="figure wheel' in client.get(f"/jobs/{key}/wheel").text
    assert "15.0° crank" in client.get("/diagnosis").text
    assert "7.7° crank" in client.get("/diagnosis?offset=7.7").text
