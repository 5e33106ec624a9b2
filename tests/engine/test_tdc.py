import pytest

from tests.hands import ENGINE, WHEEL, a_job, take, true_top
from uranograph.bench.finding import Verdict
from uranograph.bench.log import Entry
from uranograph.core.errors import InvalidInput
from uranograph.engine import tdc as engine_tdc
from uranograph.engine import tdc_reading
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations.true_tdc import rules as tdc


def test_a_wheel_described_wrongly_is_set_right_for_what_was_read_on_it(shop: Shop) -> None:
    full = {**WHEEL, "scale": "full", "mount": "rear", "numbers_rise": "counterclockwise"}
    right = {**full, "mount": "front"}
    with shop.write() as session:
        key = a_job(session, wheel=full, title="Wrong end")
        job = take(session, key, "tdc", [("stop.1.before", "320", None), ("stop.1.after", "41", None)])
        assert tdc.find(job).code == "contacts-mirrored"
        assert "swap" not in tdc.find(job).sentence
        jobs.save_form(session, key, "wheel", right, "QZ")
        # A wheel that was put elsewhere now: what was read before keeps its own.
        assert len(engine_tdc.frames(loading.load(session, key))) == 2
        jobs.save_form(session, key, "wheel", full, "QZ")
        jobs.save_form(session, key, "wheel", {**right, "all_along": "yes"}, "QZ")
        assert len(engine_tdc.frames(loading.load(session, key))) == 3
        other = a_job(session, wheel=full, title="All along")
        take(session, other, "tdc", [("stop.1.before", "320", None), ("stop.1.after", "41", None)])
        jobs.save_form(session, other, "wheel", {**right, "all_along": "yes"}, "QZ")
        cut = engine_tdc.frames(loading.load(session, other))
    assert len(cut) == 1
    assert cut[0].top.zero_error_deg == pytest.approx(0.5)


def test_from_nothing_through_moving_to_proved(shop: Shop, key: str) -> None:
    with shop.write() as session:
        assert tdc.find(loading.load(session, key)).verdict is Verdict.OPEN
        job = true_top(session, key, "41", "37.5")
        found = tdc.find(job)
        assert found.verdict is Verdict.OPEN
        assert found.number == "1.75"
        assert "1.75 before" in found.sentence
        # Facing the front of a clockwise engine, forward is clockwise: the wheel goes on, the pointer comes to meet it.
        assert found.order == "POINTER 1.75° counterclockwise"
        assert "39.25" in found.sentence
        take(session, key, "tdc", [("moved", "", None)])
        job = loading.load(session, key)
        assert tdc.find(job).verdict is Verdict.OPEN
        assert tdc_reading.prompt(job, {}).slot == "stop.2.before"
        job = take(session, key, "tdc", [("stop.2.before", "39 1/4", "btdc"), ("stop.2.after", "39.25", "atdc")])
        found = tdc.find(job)
    assert found.verdict is Verdict.IN
    assert "proved" in found.title


def test_the_pointer_goes_the_other_way_at_the_flywheel_end(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "mount": "rear"})
        assert tdc.find(true_top(session, key, "41", "37.5")).order == "POINTER 1.75° clockwise"
        moved = [("moved", "", None), ("stop.2.before", "37.5", "btdc"), ("stop.2.after", "41", "atdc")]
        assert tdc.find(take(session, key, "tdc", moved)).order == "POINTER 1.75° counterclockwise"


def test_the_prompt_walks_before_and_after_and_fills_holes_first(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = take(session, key, "tdc", [("stop.1.before", "40", "btdc")])
        waiting = tdc_reading.prompt(job, {})
        assert (waiting.slot, waiting.side, waiting.approach) == ("stop.1.after", "atdc", "backward")
        job = take(session, key, "tdc", [("stop.1.after", "40", "atdc"), ("stop.2.before", "40", "btdc")])
        first = next(reading for reading in job.readings if reading.slot == "stop.1.before")
        jobs.void(session, key, first.id, "slipped", "QZ")
        job = loading.load(session, key)
        assert tdc_reading.prompt(job, {}).slot == "stop.1.before"
        assert tdc_reading.prompt(job, {"method": "drop"}).slot == "stop.1.before"


def test_equal_drops_are_checked_against_stroke_and_rod(shop: Shop, key: str) -> None:
    with shop.write() as session:
        half = "28.54"  # 84 mm stroke, 150 mm rod: 6.5 mm down
        good = [("drop.1.before", half, "btdc"), ("drop.1.after", half, "atdc")]
        job = take(session, key, "tdc", good, second="6.5")
        expected = engine_tdc.frames(job)[-1].top.expected_half_angle_deg[0]
        assert tdc.find(job).verdict is (Verdict.IN if abs(expected - 28.54) < 1.5 else Verdict.UNSURE)
        wrong = [("drop.2.before", half, "btdc"), ("drop.2.after", half, "atdc")]
        found = tdc.find(take(session, key, "tdc", wrong, second="3"))
    assert found.verdict is Verdict.UNSURE
    assert "Pair 2" in found.sentence
    assert "stroke" in found.sentence


def test_pairs_more_than_ten_degrees_apart_are_refused_and_the_first_may_be_voided(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "37.5")
        take(session, key, "tdc", [("stop.2.before", "60", "btdc")])
        with pytest.raises(InvalidInput, match="pair-far-from-others") as caught:
            take(session, key, "tdc", [("stop.2.after", "20", "atdc")])
        assert caught.value.field == "text"
        job = loading.load(session, key)
        for reading in job.active_readings("tdc")[:2]:
            jobs.void(session, key, reading.id, "the stop was loose", "QZ")
        job = take(session, key, "tdc", [("stop.2.after", "20", "atdc")])
    assert engine_tdc.frames(job)[-1].top.zero_error_deg == -20


@pytest.mark.parametrize(
    ("entry", "field"),
    [
        (Entry("tdc", "stop.1.before", "", "btdc"), "text"),
        (Entry("tdc", "stop.1.before", "200", "btdc"), "text"),
        (Entry("tdc", "stop.1.before", "20", "bbdc"), "side"),
        (Entry("tdc", "stop.1.before", "1.27mm", "btdc"), "text"),
        (Entry("tdc", "drop.1.before", "20", "btdc"), "second"),
        (Entry("tdc", "drop.1.before", "20", "btdc", second="0"), "second"),
        (Entry("tdc", "drop.1.before", "20", "btdc", second="five"), "second"),
    ],
)
def test_readings_that_cannot_be(shop: Shop, key: str, entry: Entry, field: str) -> None:
    with shop.read() as session:
        job = loading.load(session, key)
    with pytest.raises(InvalidInput) as caught:
        tdc.accept(job, entry)
    assert caught.value.field == field


def test_a_wheel_set_up_anew_begins_a_new_frame_and_old_readings_keep_theirs(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "37.5")
        jobs.save_form(session, key, "wheel", {**WHEEL, "scale": "quarter"}, "QZ")
        job = loading.load(session, key)
        cut = engine_tdc.frames(job)
    assert [frame.mounted.wheel.scale.value for frame in cut] == ["half", "quarter"]
    assert cut[0].top.zero_error_deg == -1.75
    assert cut[1].top is None


def test_without_a_wheel_nothing_is_asked(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, wheel=None)
        job = loading.load(session, key)
    assert tdc_reading.prompt(job, {}) is None
    assert tdc.find(job).next_step == "Set up the wheel."
    with pytest.raises(InvalidInput):
        tdc.accept(job, Entry("tdc", "stop.1.before", "20", "btdc"))


def test_without_stroke_and_rod_the_top_is_found_all_the_same(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, engine={k: v for k, v in ENGINE.items() if k not in ("stroke", "rod")})
        job = true_top(session, key)
    assert tdc.find(job).verdict is Verdict.IN
    assert engine_tdc.frames(job)[-1].top.expected_half_angle_deg is None
