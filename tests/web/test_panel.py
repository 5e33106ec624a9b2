"""What a panel says: one thing to do, by what was found and what is asked for."""

from collections.abc import Mapping

import pytest

from tests.hands import a_job, proved_by, take, true_top
from tests.web.test_outward import events
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.shop import asides, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.web.panel import MAX_DO, MAX_REASON, Panel, panel_of, split


def panel(job: Job, name: str, query: Mapping[str, str] | None = None) -> Panel:
    station, query = ORDER.by_key[name], query or {}
    after = ORDER.neighbors(station, job)[1]
    return panel_of(job, station, ORDER.overview(job)[name], station.prompt(job, query), query, after)


def test_while_readings_are_asked_for_the_prompt_leads_and_nothing_orders_a_move(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        job = take(session, key, "degree", [("io.1.forward", "8", "btdc")])
    found = panel(job, "degree")
    assert not found.decided
    assert found.do.startswith("Turn forward until the intake")
    assert found.action is None
    assert ORDER.overview(job)["degree"].order == ""


def test_once_it_is_out_the_order_leads_to_where_the_cam_is_moved(shop: Shop) -> None:
    key = events(shop, "late", 4.0)
    with shop.write() as session:
        job = proved_by(session, key, ("io", "8", "btdc"))
    found = panel(job, "degree")
    assert ORDER.overview(job)["degree"].verdict is Verdict.OUT
    assert found.decided
    assert found.do == "Move the cam."
    assert found.action is not None
    assert found.action.href.endswith("/adjust")
    # Whoever asks for one reading in particular is asked for it all the same.
    assert not panel(job, "degree", {"event": "eo", "method": "events"}).decided


def test_a_cam_that_is_in_and_proved_goes_on_to_what_follows(shop: Shop) -> None:
    key = events(shop, "well", 0.0)
    with shop.write() as session:
        job = proved_by(session, key, ("io", "12", "btdc"))
    found = panel(job, "degree")
    assert ORDER.overview(job)["degree"].order == "LEAVE IT"
    assert found.decided
    assert found.do.startswith("Go on: ")
    assert found.action is not None
    assert found.action.key == "]"


def test_an_error_of_the_wheel_leads_with_its_own_button(shop: Shop) -> None:
    with shop.write() as session:
        job = true_top(session, a_job(session), "41", "37.5")
    found = panel(job, "tdc")
    assert (found.decided, found.action) == (True, None)
    assert ORDER.overview(job)["tdc"].order.startswith("POINTER 1.75°")


def test_what_was_accepted_as_it_is_goes_on(shop: Shop) -> None:
    key = events(shop, "late", 4.0)
    with shop.write() as session:
        proved_by(session, key, ("io", "8", "btdc"))
        asides.accept(session, key, "degree", "the customer wants it so", "QZ")
        job = loading.load(session, key)
    assert panel(job, "degree").do.startswith("Go on: ")


@pytest.mark.parametrize("longest", [10, MAX_DO, MAX_REASON])
def test_text_is_split_between_sentences_and_nothing_is_lost(longest: int) -> None:
    text = "Turn forward. Read the wheel. Overshot? Back off well past the peak and come up forward again."
    first, rest = split(text, longest)
    assert f"{first} {rest}".strip() == text
    assert first.endswith((".", "?"))


def test_every_station_says_something_to_do_in_every_state(shop: Shop) -> None:
    key = events(shop, "late", 4.0)
    with shop.read() as session:
        job = loading.load(session, key)
    for station in ORDER.stations:
        if station.form is None and station.prompt(job, {}) is not None:
            found = panel(job, station.key)
            assert found.do, station.key
            if ". " in found.reason:
                assert len(found.reason) <= MAX_REASON, station.key
