"""Two people at one reading: its halves are matched by their being now, and by nothing else."""

import pytest
from fastapi.testclient import TestClient

from tests.hands import a_job, true_top
from uranograph.core.quantities import LengthUnit
from uranograph.instruments.sweeping import Sweeping
from uranograph.shop import loading
from uranograph.shop.database import Shop
from uranograph.shop.people import people
from uranograph.web.routes.live import ProgressCache
from uranograph.web.together import NOW_S, Together


class Clock:
    now = 100.0

    def __call__(self) -> float:
        return self.now


def test_two_halves_of_one_reading_are_matched_once() -> None:
    together = Together(Clock())
    assert together.pass_on("j", "RK", "s.1", "text", "41.5", "btdc") is None
    other = together.pass_on("j", "TN", "s.1", "second", "0.12", "")
    assert other is not None
    assert (other.by, other.text, other.side) == ("RK", "41.5", "btdc")
    assert together.of("j") == []
    assert together.pass_on("j", "QZ", "s.1", "second", "0.13", "") is None


@pytest.mark.parametrize(
    ("job", "by", "slot", "what"),
    [
        ("k", "TN", "s.1", "second"),
        ("j", "RK", "s.1", "second"),
        ("j", "TN", "s.2", "second"),
        ("j", "TN", "s.1", "text"),
        ("j", "TN", "s.1", "now"),
    ],
)
def test_halves_of_another_job_reading_or_of_the_same_hand_are_not(job: str, by: str, slot: str, what: str) -> None:
    together = Together(Clock())
    together.pass_on("j", "RK", "s.1", "text", "41.5", "btdc")
    assert together.pass_on(job, by, slot, what, "1", "") is None


def test_what_was_passed_on_a_while_ago_is_not_now() -> None:
    clock = Clock()
    together = Together(clock)
    together.pass_on("j", "RK", "s.1", "text", "41.5", "btdc")
    clock.now += NOW_S + 0.1
    assert together.of("j") == []
    assert together.pass_on("j", "TN", "s.1", "second", "0.12", "") is None


def test_passed_on_again_only_the_newest_waits() -> None:
    together = Together(Clock())
    together.pass_on("j", "RK", "s.1", "text", "41.5", "btdc")
    together.pass_on("j", "RK", "s.1", "text", "42", "btdc")
    assert [each.text for each in together.of("j")] == ["42"]


def test_nothing_is_passed_on_by_nobody_or_without_a_figure(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
    client.cookies.delete("uranograph_by")
    nobody = client.post(f"/jobs/{key}/pass", data={"slot": "s.1", "what": "text", "text": "4"})
    assert nobody.status_code == 422
    assert "who you are" in nobody.json()["error"]
    client.cookies.set("uranograph_by", "RK")
    assert client.post(f"/jobs/{key}/pass", data={"slot": "s.1", "what": "text", "text": " "}).status_code == 422
    assert client.post(f"/jobs/{key}/pass", data={"slot": "s.1", "what": "all", "text": "4"}).status_code == 404
    assert client.post(f"/jobs/{key}/pass", data={"slot": "s.1", "what": "now"}).json() == {"other": None}


def test_a_reading_of_two_names_both_and_the_shop_knows_each(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
    client.cookies.set("uranograph_by", "RK")
    page = client.get(f"/jobs/{key}/degree?method=sweep").text
    slot, token = (page.partition(f'name="{name}" value="')[2].partition('"')[0] for name in ("slot", "token"))
    typed = {"slot": slot, "token": token, "text": "40", "side": "btdc", "second": "0.1", "with": "tn"}
    assert client.post(f"/jobs/{key}/degree", data=typed).status_code < 400
    with shop.read() as session:
        assert loading.load(session, key).active_readings("degree")[0].by == "RK+TN"
        assert {"RK", "TN"} <= set(people(session))
        assert "RK+TN" not in people(session)


def test_twenty_pages_that_follow_a_sweep_have_it_worked_out_once() -> None:
    asked = []

    class Counted(Sweeping):
        def progress(self) -> dict[str, object]:
            asked.append(1)
            return {"of": "sweep-intake", "travel": None}

    clock = Clock()
    cache, one = ProgressCache(clock), Counted("E1", "D1")
    for _ in range(20):
        cache.of("j", one, LengthUnit.MM)
    assert len(asked) == 1
    clock.now += 0.1
    cache.of("j", one, LengthUnit.MM)
    assert len(asked) == 2
    # Another sweep is not taken for the one before it.
    cache.of("j", Counted("E1", "D1"), LengthUnit.MM)
    assert len(asked) == 3
