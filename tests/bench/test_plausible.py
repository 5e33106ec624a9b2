"""Figures that are more likely a slip of typing, and what may have been meant."""

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st

from tests.web.test_pages import STOP
from uranograph.bench.plausible import NEAR_DEG, slip
from uranograph.core.quantities import LengthUnit
from uranograph.engine import card
from uranograph.shop import loading
from uranograph.shop.database import Shop

HX = {"HX-Request": "true"}


@given(st.integers(0, 179), st.integers(0, 179))
def test_a_slip_is_one_either_way_and_never_near(one: int, other: int) -> None:
    assert slip(str(one), str(other)) == slip(str(other), str(one))
    if abs(one - other) <= NEAR_DEG:
        assert not slip(str(one), str(other))


@given(st.integers(10, 179))
def test_a_lost_digit_is_always_seen(figure: int) -> None:
    assert slip(str(figure)[:-1], str(figure))


@pytest.mark.parametrize("bad", ["", "x", "4 8 9"])
def test_what_is_no_figure_is_no_slip(bad: str) -> None:
    assert not slip(bad, "42")


def test_a_digit_missing_at_the_stop_is_asked_back_and_one_tap_settles_it(
    client: TestClient, shop: Shop, key: str
) -> None:
    client.post(f"/jobs/{key}/tdc", data={**STOP, "text": "42"}, headers=HX)
    after = {**STOP, "slot": "stop.1.after", "side": "atdc", "text": "4", "token": "s2"}
    asked = client.post(f"/jobs/{key}/tdc", data=after, headers=HX)
    assert asked.status_code == 422
    assert "where 42 was read before" in asked.text
    assert '<button class="person" name="text" value="42">42</button>' in asked.text
    with shop.read() as session:
        assert len(loading.load(session, key).readings) == 1
    # As typed: it is what the wheel showed.
    assert client.post(f"/jobs/{key}/tdc", data={**after, "sure": "1"}, headers=HX).status_code == 200
    with shop.read() as session:
        assert loading.load(session, key).readings[-1].text == "4"


def test_a_full_wheel_shows_other_figures_on_either_side(client: TestClient, key: str) -> None:
    wheel = {"scale": "full", "mount": "front", "numbers_rise": "clockwise", "division": "1", "unit": "mm", "by": "QZ"}
    client.post(f"/jobs/{key}/wheel", data=wheel)
    for n, (place, text) in enumerate((("before", "328"), ("after", "32"))):
        typed = {"slot": f"stop.1.{place}", "text": text, "by": "QZ", "token": f"f{n}"}
        assert client.post(f"/jobs/{key}/tdc", data=typed, headers=HX).status_code == 200


def test_what_was_meant_is_taken_by_the_same_form(client: TestClient, shop: Shop, key: str) -> None:
    client.post(f"/jobs/{key}/tdc", data={**STOP, "text": "42"}, headers=HX)
    after = {**STOP, "slot": "stop.1.after", "side": "atdc", "text": ["24", "42"], "token": "s2"}
    assert client.post(f"/jobs/{key}/tdc", data=after, headers=HX).status_code == 200
    with shop.read() as session:
        assert loading.load(session, key).readings[-1].text == "42"


@pytest.mark.parametrize(
    ("typed", "unit", "instead"),
    [
        ("1.27", LengthUnit.INCH, ("1.27 mm", "1.27 in")),
        ("1/2", LengthUnit.INCH, ("1/2 mm", "1/2 in")),
        ("12", LengthUnit.MM, ("1.0", "12 mm")),
        ("0.050", LengthUnit.MM, ("0.050 in", "0.050 mm")),
    ],
)
def test_a_checking_lift_in_the_other_unit_is_asked_back(
    typed: str, unit: LengthUnit, instead: tuple[str, str]
) -> None:
    four = {"io_btdc_deg": "12", "ic_abdc_deg": "52"}
    error = card.read({**four, "check_lift": typed}, unit).errors["check_lift"]
    assert error.instead == instead
    for text in instead:
        assert "check_lift" not in card.read({**four, "check_lift": text}, unit).errors


@pytest.mark.parametrize(
    ("typed", "unit"), [("0.050", LengthUnit.INCH), (".006", LengthUnit.INCH), ("1", LengthUnit.MM)]
)
def test_a_usual_checking_lift_is_not_asked_about(typed: str, unit: LengthUnit) -> None:
    assert "check_lift" not in card.read({"io_btdc_deg": "12", "check_lift": typed}, unit).errors


def test_points_of_a_sweep_are_not_taken_for_slips_of_each_other(client: TestClient, key: str) -> None:
    for n, text in enumerate(("42", "42")):
        place = ("before", "after")[n]
        typed = {**STOP, "slot": f"stop.1.{place}", "side": ("btdc", "atdc")[n], "text": text, "token": f"t{n}"}
        assert client.post(f"/jobs/{key}/tdc", data=typed, headers=HX).status_code == 200
    for n, angle in enumerate(("0", "10", "4", "14")):
        point = {"slot": f"sweep-intake.{n + 1}.lift", "text": angle, "second": "0", "side": "btdc", "method": "sweep"}
        answer = client.post(f"/jobs/{key}/degree", data={**point, "by": "QZ", "token": f"p{n}"}, headers=HX)
        assert "a slip?" not in answer.text, angle
