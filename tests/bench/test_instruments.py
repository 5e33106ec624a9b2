"""Instruments have names and a day of their last check, of the shop or of one job; the build sheet says so."""

from datetime import UTC, datetime

import pytest
from fastapi.testclient import TestClient

from tests.stations.test_fit import filled
from uranograph.bench.instruments import instruments, printed, read
from uranograph.bench.shop_limits import ShopLimit
from uranograph.shop import exchange
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop

AT = datetime(2026, 3, 1, tzinfo=UTC)
OF_SHOP = {"wheel_name": "W1", "wheel_checked": "2026-03-01"}


def test_names_and_days_are_kept_as_typed_and_what_is_no_day_is_refused() -> None:
    texts, errors = read({"wheel_name": " W1 ", "wheel_checked": "2026-03-01", "dial_checked": "20260301"})
    assert errors == {}
    assert (texts["wheel_name"], texts["wheel_checked"], texts["dial_checked"]) == ("W1", "2026-03-01", "2026-03-01")
    for bad in ("1.3.2026", "2026-13-01", "yesterday", "1949-12-31", "2101-01-01"):
        assert read({"blades_checked": bad})[1].keys() == {"blades_checked"}
    assert read({"wrench_name": "x" * 41})[1].keys() == {"wrench_name"}
    assert read({"wrench_name": "x" * 40})[1] == {}


def test_an_instrument_of_the_job_does_not_take_the_day_of_the_shops() -> None:
    of_shop = {name: ShopLimit(text, "RK", AT) for name, text in OF_SHOP.items()}
    assert instruments(of_shop)[0].words() == "degree wheel W1, checked 2026-03-01"
    own = of_shop | {"wheel_name": ShopLimit("borrowed", "RK", AT, of_job=True)}
    assert instruments(own)[0].words() == "degree wheel borrowed, not calibrated"


def test_a_check_long_before_or_after_the_reading_is_said() -> None:
    house = {name: ShopLimit(text, "RK", AT) for name, text in OF_SHOP.items()}
    days = {"2027-03-02": "", "2027-03-03": ", over a year before it was read", "2026-02-28": ", after it was read"}
    for used, more in days.items():
        words = instruments(house)[0].words(datetime.fromisoformat(used).date())
        assert words == f"degree wheel W1, checked 2026-03-01{more}"
    assert printed({}, None) == "Shop instruments, not calibrated: no date of a check is given."


def test_a_day_from_elsewhere_that_is_none_is_not_one() -> None:
    own = {"dial_name": ShopLimit("D9", "XX", AT), "dial_checked": ShopLimit("soon", "XX", AT)}
    assert instruments(own)[1].words() == "dial indicator D9, not calibrated"


def test_the_sheet_names_what_it_was_read_with(client: TestClient, shop: Shop, key: str) -> None:
    assert "Shop instruments, not calibrated" in client.get(f"/jobs/{key}/sheet").text
    bad = client.post("/house", data={"dial_name": "D2", "dial_checked": "1.3.26", "by": "rk"})
    assert bad.status_code == 422
    assert "“1.3.26” is no day" in bad.text
    assert 'value="D2"' in bad.text
    client.post("/house", data={"dial_name": "D2", "dial_checked": "2026-03-01", "by": "rk"})
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "Read with dial indicator D2, checked 2026-03-01; the others are shop instruments, not calibrated." in sheet
    with shop.write() as session:
        job = filled(session, key, "limits", dial_name="Lent", unit="mm")
        file = exchange.export_job(session, key)
    assert printed(job.shop_limits, None).startswith("Read with dial indicator Lent, not calibrated;")
    # The job file carries the job's own instruments.
    assert '"dial_name":"Lent"' in file.model_dump_json()
    assert "D2" in client.get("/house").text
    with shop.read() as session:
        assert jobs.load(session, key).shop_values["dial_name"].text == "D2"


@pytest.mark.parametrize("field", ["wheel_checked", "blades_checked"])
def test_a_day_refused_in_a_job_stands_beside_its_field(client: TestClient, key: str, field: str) -> None:
    page = client.post(f"/jobs/{key}/sheet/limits", data={field: "soon", "unit": "mm", "by": "QZ"})
    assert page.status_code == 422
    assert "“soon” is no day" in page.text
    assert 'value="soon"' in page.text
