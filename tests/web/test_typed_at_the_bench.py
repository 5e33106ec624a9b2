"""What people type at the bench: a side behind its figure, fractions of one letter, usual firing orders."""

import pytest
from fastapi.testclient import TestClient

from tests.web.test_pages import STOP
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
