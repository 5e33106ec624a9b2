"""Whatever is written at a station, lawful or not: every page still stands, and no two of them say different things."""

import re
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job, true_top
from tests.stations.test_whatever_is_written import FORMS_BEFORE
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

HX = {"HX-Request": "true"}
DRIVE = {"a1_kind": "choices", "a1_name": "keyway", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0", "unit": "mm"}


@pytest.fixture
def described(shop: Shop) -> str:
    """A job in which every station has what it needs to be read at."""
    with shop.write() as session:
        key = a_job(session, title="Whatever is sent")
        true_top(session, key)
        for kind, typed in {**FORMS_BEFORE, "drive": DRIVE}.items():
            jobs.save_form(session, key, kind, {**typed, "unit": "mm"}, "QZ")
    return key


def pages(key: str) -> Iterator[str]:
    """Every page that shows anything of a job."""
    yield from ("/", "/house", f"/jobs/{key}/overview", f"/jobs/{key}/sheet", f"/jobs/{key}.json")
    yield from (f"/jobs/{key}/what-if?intake=3", f"/jobs/{key}/lift-line?lift=1.2", f"/jobs/{key}/train-at?teeth=5")
    for station in ORDER.stations:
        yield f"/jobs/{key}/{station.key}"
    for method in ("lifts", "events", "sweep", "overlap"):
        yield f"/jobs/{key}/degree?method={method}"
    for view in ("compare", "keyways", "split", "blind"):
        yield f"/jobs/{key}/marks?method={view}"
    yield from (f"/jobs/{key}/gear-fit?method=heat", f"/jobs/{key}/gear-fit?method=bolts", f"/jobs/{key}/adjust?edit=1")


def every_page_stands(client: TestClient, key: str, after: object, only: tuple[str, ...] = ()) -> None:
    for page in only or pages(key):
        answer = client.get(page)
        assert answer.status_code == 200, (page, after, answer.text[:300])


def test_a_slipped_decimal_in_the_heat_fit_is_refused_and_one_that_is_there_is_told(
    client: TestClient, shop: Shop, described: str
) -> None:
    refused = client.post(
        f"/jobs/{described}/sheet/gear-fit", data={"bore": "32", "interference": "0.4", "width": "20"}
    )
    assert refused.status_code == 422
    assert "far too much" in refused.text
    with shop.write() as session:
        jobs.save_form(session, described, "gear-fit", {"bore": "32", "interference": "0.4", "width": "20"}, "QZ")
    every_page_stands(client, described, "a heat fit from an earlier version")


def test_a_station_that_cannot_be_judged_says_so_in_its_place_with_an_id_and_is_voided(
    client: TestClient, shop: Shop, described: str, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    client.post(f"/jobs/{described}/runout", data={"slot": "set-1.1.dial", "text": "0.01", "second": "0"})

    def cannot(job: object) -> None:
        raise ZeroDivisionError("a sister nobody thought of")

    monkeypatch.setattr("uranograph.stations.runout.rules.setup", cannot)
    # The rail, the list and the overview still stand; the station says what is the matter and keeps its readings.
    with shop.write() as session:
        jobs.save_form(session, described, "runout", {"places": "12"}, "QZ")
    page = client.get(f"/jobs/{described}/runout").text
    assert "Runout could not be judged" in page
    fault = re.search(r"fault ([0-9a-f]{6})", page).group(1)
    assert any(fault in record.getMessage() for record in caplog.records)
    every_page_stands(client, described, "a fault in one station")
    void = re.search(r'href="(\?void=[0-9]+)"', page).group(1)
    assert "Say why this reading does not count" in client.get(f"/jobs/{described}/runout{void}").text


@pytest.mark.parametrize(
    ("method", "path", "more"),
    [
        ("get", "/", {"headers": {"Host": "evil.example"}}),
        ("get", "/", {"headers": {"Host": "[::1"}}),
        ("post", "/bench/who", {"headers": {"Origin": "http://["}, "data": {"by": "QZ"}}),
        ("post", "/bench/who", {"headers": {"Origin": "http://evil.example"}, "data": {"by": "QZ"}}),
        ("get", "/jobs/none/photos/99999999999999999999999", {}),
        ("post", "/jobs/none/tdc/void/99999999999999999999999", {"data": {"reason": "x"}}),
        ("get", "/?page=99999999999999999999999999999", {}),
        ("get", "/?page=" + "9" * 5000, {}),
        ("get", "/jobs/none/what-if?intake=1e999", {}),
    ],
)
def test_hostile_requests_are_answered_and_not_broken(
    client: TestClient, method: str, path: str, more: dict[str, object]
) -> None:
    assert client.request(method, path, **more).status_code < 500


def test_another_sites_name_for_this_machine_is_refused_and_a_told_one_is_not(client: TestClient) -> None:
    assert client.get("/", headers={"Host": "rebound.example:8765"}).status_code == 421
    for name in ("localhost:8765", "127.0.0.1:8765", "[::1]:8765", "192.168.1.20"):
        assert client.get("/", headers={"Host": name}).status_code == 200


def test_initials_of_any_letters_are_kept_and_told(client: TestClient, described: str, shop: Shop) -> None:
    form = {"slot": "stop.2.before", "text": "40", "side": "btdc", "by": "жш", "token": "zh"}
    assert client.post(f"/jobs/{described}/tdc", data=form, headers=HX).status_code == 200
    assert ">ЖШ<" in client.get(f"/jobs/{described}/tdc").text
    with shop.read() as session:
        assert loading.load(session, described).readings[-1].by == "ЖШ"


def test_new_jobs_without_a_token_are_jobs_of_their_own(client: TestClient) -> None:
    from tests.hands import ENGINE

    keys = {
        client.post("/jobs/new", data={**ENGINE, "title": "Bare", "by": "QZ"}, follow_redirects=False).headers[
            "location"
        ]
        for _ in range(2)
    }
    assert len(keys) == 2


def test_a_sweep_file_taken_twice_is_refused_and_pressed_twice_is_once(
    client: TestClient, described: str, shop: Shop
) -> None:
    csv = "angle_deg,lift_mm\n" + "\n".join(f"{a},{8 - 0.0005 * (a - 110) ** 2:.3f}" for a in range(-10, 231, 10))
    send = {"lobe": "intake", "csv": csv, "token": "once"}
    for _ in range(2):
        assert client.post(f"/jobs/{described}/degree/sweep", data=send).status_code == 200
    again = client.post(f"/jobs/{described}/degree/sweep", data={**send, "token": "twice"})
    assert again.status_code == 422
    assert "there already" in again.text
    overlapping = "angle_deg,lift_mm\n" + "\n".join(f"{a},1" for a in range(-105, 106, 5))
    mixed = client.post(
        f"/jobs/{described}/degree/sweep", data={"lobe": "intake", "csv": overlapping, "token": "mixed"}
    )
    assert mixed.status_code == 422
    with shop.read() as session:
        swept = [r for r in loading.load(session, described).readings if r.slot.startswith("sweep-intake")]
    assert len(swept) == 25
    every_page_stands(client, described, "sweep files")


def test_long_lawful_forms_go_out_and_come_in_again(client: TestClient, described: str) -> None:
    keyways = ", ".join(f"key{n}: {n / 2:g}" for n in range(25))
    stock = " ".join(f"{0.05 + n / 100:.2f}" for n in range(40))
    for kind, typed in (
        ("drive", {"a1_kind": "choices", "a1_options": keyways, "a1_fitted": "key0"}),
        ("setting", {"crank_way": "shims", "crank_stock": stock}),
    ):
        assert client.post(f"/jobs/{described}/sheet/{kind}", data=typed, headers=HX).status_code == 200
    out = client.get(f"/jobs/{described}.json")
    assert out.status_code == 200
    assert keyways in out.text
    answer = client.post("/jobs/import", files={"file": ("job.json", out.content)}, follow_redirects=False)
    assert answer.status_code == 303
    endless = client.post(f"/jobs/{described}/sheet/runout", data={"where": "x" * 1001}, headers=HX)
    assert endless.status_code == 422
    assert "room for 1000" in endless.text
