import threading
from datetime import UTC, datetime, timedelta

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import text
from sqlalchemy.exc import IntegrityError

from tests.hands import CARD, ENGINE, WHEEL, a_job, take, true_top
from uranograph.bench import memo
from uranograph.bench.log import Entry
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine.card import card_of
from uranograph.shop import asides, jobs, loading, shelving
from uranograph.shop.database import Shop
from uranograph.shop.tables import Base, EntryRow
from uranograph.stations import ORDER

STOP = Entry("tdc", "stop.1.before", "40 1/8", "btdc", unit=LengthUnit.MM)


def test_the_migrations_make_exactly_the_tables(shop: Shop) -> None:
    shop.migrate()
    with shop.engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_write_ahead_log_and_foreign_keys_are_on(shop: Shop) -> None:
    with shop.read() as session:
        assert session.scalar(text("PRAGMA journal_mode")) == "wal"
        assert session.scalar(text("PRAGMA foreign_keys")) == 1
    with pytest.raises(IntegrityError), shop.write() as session:
        session.add(
            EntryRow(job_id=999, seq=1, kind="void", version=4, station="", payload={}, by="QZ", at=datetime.now(UTC))
        )


def test_a_write_that_fails_half_way_leaves_nothing(shop: Shop, key: str) -> None:
    def both() -> None:
        with shop.write() as session:
            jobs.record(session, key, STOP, "QZ", None, None)
            jobs.record(session, key, Entry("tdc", "stop.1.after", "999", "atdc"), "QZ", None, None)

    with pytest.raises(InvalidInput):
        both()
    with shop.read() as session:
        assert loading.load(session, key).readings == ()


def test_a_reading_is_kept_as_typed_and_by_whom(shop: Shop, key: str) -> None:
    at = datetime(2026, 3, 4, 5, 6, tzinfo=UTC)
    with shop.write() as session:
        jobs.record(session, key, STOP, " qz ", None, None, at)
        [reading] = loading.load(session, key).readings
    assert (reading.text, reading.side, reading.by, reading.at) == ("40 1/8", "btdc", "QZ", at)
    assert reading.void is None


def test_a_job_looked_at_again_is_remembered_until_it_is_written_to(shop: Shop, key: str) -> None:
    def look() -> jobs.Job:
        with shop.read() as session:
            return loading.load(session, key)

    before = look()
    assert look() is before

    def undone() -> None:
        with shop.write() as session:
            true_top(session, key)
            raise ZeroDivisionError

    with pytest.raises(ZeroDivisionError):
        undone()
    assert look() is before
    with shop.write() as session:
        true_top(session, key, "39", "39")
    after = look()
    assert [reading.text for reading in after.readings] == ["39", "39"]
    assert look() is after


def test_a_void_adds_and_never_overwrites(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = true_top(session, key)
        first = job.readings[0]
        jobs.void(session, key, first.id, "slipped", "AB")
        jobs.void(session, key, first.id, "another reason", "CD")
        job = loading.load(session, key)
    assert job.readings[0].text == first.text
    assert (job.readings[0].void.reason, job.readings[0].void.by) == ("slipped", "AB")
    assert [reading.id for reading in job.active_readings("tdc")] == [job.readings[1].id]


@pytest.mark.parametrize(("reason", "field"), [("  ", "reason"), ("x" * 201, "reason")])
def test_a_void_needs_a_reason(shop: Shop, key: str, reason: str, field: str) -> None:
    with shop.write() as session:
        first = true_top(session, key).readings[0]
        with pytest.raises(InvalidInput) as caught:
            jobs.void(session, key, first.id, reason, "QZ")
    assert caught.value.field == field


def test_a_reading_of_another_job_cannot_be_voided(shop: Shop, key: str) -> None:
    with shop.write() as session:
        other = a_job(session, title="Another")
        first = true_top(session, key).readings[0]
        with pytest.raises(InvalidInput):
            jobs.void(session, other, first.id, "mine", "QZ")


def test_the_same_token_twice_is_one_reading_and_one_job(shop: Shop, key: str) -> None:
    with shop.write() as session:
        for _ in range(2):
            jobs.record(session, key, STOP, "QZ", "once", None)
        assert len(loading.load(session, key).readings) == 1
        assert jobs.begin(session, "Twice", "QZ", "t") == jobs.begin(session, "Twice", "QZ", "t")


def test_a_slot_filled_in_another_window_is_not_filled_again(shop: Shop, key: str) -> None:
    with shop.write() as session:
        seen = loading.load(session, key).seq
        jobs.record(session, key, STOP, "QZ", "one", seen)
        with pytest.raises(jobs.Changed):
            jobs.record(session, key, STOP, "AB", "two", seen)
        with pytest.raises(jobs.Changed):
            jobs.record(session, key, STOP, "AB", "three", None)
        assert len(loading.load(session, key).readings) == 1


def test_a_sheet_has_versions_and_the_same_text_is_no_new_one(shop: Shop, key: str) -> None:
    with shop.write() as session:
        seq = loading.load(session, key).seq
        jobs.save_form(session, key, "card", {**CARD, "made_up": "x", "advance_deg": " "}, "QZ")
        assert loading.load(session, key).seq == seq
        jobs.save_form(session, key, "card", {**CARD, "io_btdc_deg": "13"}, "QZ", seen=seq)
        job = loading.load(session, key)
        assert [filled.kind for filled in job.forms] == ["engine", "card", "wheel", "card"]
        assert job.latest("card").typed["io_btdc_deg"] == "13"
        with pytest.raises(jobs.Changed):
            jobs.save_form(session, key, "card", {**CARD, "io_btdc_deg": "14"}, "QZ", seen=seq)


def test_a_drop_keeps_the_unit_it_was_typed_in_when_the_engine_changes(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        take(session, key, "degree", [("intake.1.before", "60", "atdc")], second="1.0")
        jobs.save_form(session, key, "engine", {**ENGINE, "unit": "inch", "stroke": "3.3", "rod": "6"}, "QZ")
        job = loading.load(session, key)
    assert job.unit == "inch"
    assert job.active_readings("degree")[0].unit == "mm"
    assert card_of(job).check_lift_mm == 1.0


@pytest.mark.parametrize(
    ("title", "by", "field"),
    [("", "QZ", "title"), ("x" * 121, "QZ", "title"), ("Four", "", "by"), ("Four", "ABCDEFGHI", "by")],
)
def test_a_job_needs_a_name_and_initials(shop: Shop, title: str, by: str, field: str) -> None:
    with shop.write() as session, pytest.raises(InvalidInput) as caught:
        jobs.begin(session, title, by, "t")
    assert caught.value.field == field


def test_the_list_is_newest_writing_first_searched_and_paged(shop: Shop) -> None:
    start = datetime(2026, 1, 1, tzinfo=UTC)
    with shop.write() as session:
        keys = [jobs.begin(session, f"Engine {n}%", "QZ", f"t{n}", start + timedelta(days=n)) for n in range(5)]
        jobs.save_form(session, keys[1], "engine", ENGINE, "QZ", at=start + timedelta(days=9))
        first = loading.page(session, 1, size=2)
        assert [job.title for job in first.jobs] == ["Engine 1%", "Engine 4%"]
        assert (first.total, first.pages) == (5, 3)
        assert [job.title for job in loading.page(session, 99, size=2).jobs] == ["Engine 0%"]
        assert [job.title for job in loading.page(session, 1, "3%").jobs] == ["Engine 3%"]
        assert loading.page(session, 1, "_").total == 0
        assert loading.page(session, 1, "gine").total == 5


def test_no_such_job(shop: Shop) -> None:
    with shop.read() as session, pytest.raises(loading.NoSuchJob):
        loading.load(session, "none")


def test_two_hands_writing_at_once_both_get_through(shop: Shop, key: str) -> None:
    failures = []

    def write(number: int) -> None:
        try:
            with shop.write() as session:
                jobs.record(session, key, Entry("tdc", f"stop.{number}.before", "40", "btdc"), "QZ", None, None)
        except Exception as error:
            failures.append(error)

    hands = [threading.Thread(target=write, args=(n,)) for n in range(1, 9)]
    for hand in hands:
        hand.start()
    for hand in hands:
        hand.join()
    with shop.read() as session:
        job = loading.load(session, key)
    assert failures == []
    assert sorted(reading.seq for reading in job.readings) == list(range(4, 12))
    assert WHEEL["scale"] == job.latest("wheel").typed["scale"]


def _forget(shop: Shop) -> None:
    shop.seen.clear()
    memo.clear_memo()


def test_a_job_caught_up_with_is_the_job_read_whole_and_is_found_to_be_the_same(demo_shop: Shop) -> None:
    """Void the newest readings of every demo job one by one, write new ones, and move the wheel, looking after each."""
    shop = demo_shop
    with shop.read() as session:
        keys = [job.key for job in loading.page(session, where=shelving.REAL).jobs]
    for key in keys:
        for step in range(7):
            with shop.write() as session:
                job = loading.load(session, key)
                standing = [reading for reading in job.readings if reading.void is None]
                if step == 6:
                    asides.act(session, key, "degree", "wheel-moved", "", "QZ")
                elif step % 3 == 2:
                    jobs.save_form(session, key, "engine", {**job.latest("engine").typed, "bore": str(step)}, "QZ")
                else:
                    jobs.void(session, key, standing[-1].id, "to see", "QZ")
                    again = standing[-1]
                    entry = Entry(
                        again.station,
                        again.slot,
                        again.text,
                        again.side,
                        again.approach,
                        again.second,
                        again.unit,
                        about=again.about,
                    )
                    if step % 3 == 1:
                        jobs.record(session, key, entry, "QZ", None, None)
            with shop.read() as session:
                caught_up = loading.load(session, key)
            found = ORDER.overview(caught_up)
            _forget(shop)
            with shop.read() as session:
                whole = loading.load(session, key)
            assert (caught_up.forms, caught_up.entries, caught_up.seq) == (whole.forms, whole.entries, whole.seq)
            assert ORDER.overview(whole) == found
