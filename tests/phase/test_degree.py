import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.hands import CARD, ENGINE, a_job, cam_moved, take, true_top
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry, Log, Reading, TypedForm
from uranograph.bench.order import worst_finding
from uranograph.bench.slots import slot_of
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe
from uranograph.core.piston import Crank
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo.true_engine import TrueEngine
from uranograph.engine import positions
from uranograph.engine.cams import LOBES
from uranograph.engine.degree_wheel import read
from uranograph.phase import card_rows, finding, judgment, lifts, methods, move_history
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

# The card: intake 110, exhaust 110.
INTAKE = [("intake.1.before", "67.5", "atdc"), ("intake.1.after", "156.5", "atdc")]
EXHAUST = [("exhaust.1.before", "152.5", "btdc"), ("exhaust.1.after", "63.5", "btdc")]


def test_a_cam_two_late_is_out_and_says_advance(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = take(session, key, "degree", INTAKE, second="1.0")
        found = finding.find(job)
        # One drop of one lobe, which may be ground uneven, tells no more than that.
        assert (found.verdict, found.code) == (Verdict.UNSURE, "reads-late")
        assert found.quantity.uncertainty > 1
        assert (found.number, found.unit) == ("2.0", "deg retarded")
        assert "112.0 against 110.0" in found.sentence
        # Nothing orders a move while it cannot tell.
        assert "Advance" not in found.sentence
        assert found.next_step == "Read the exhaust as well."
        job = take(session, key, "degree", EXHAUST, second="1.0")
        rows = {row.label: row for row in finding.find(job).rows}
    assert rows["Exhaust centerline"].measured == "108.0"
    assert rows["Exhaust centerline"].difference == "−2.0"
    assert rows["Lobe separation (LSA)"].measured == "110.0"
    assert rows["IC"].measured == ""
    assert card_rows.if_durations_true(tuple(rows.values())).startswith(
        "Calculated from the card's durations: IO 10.0, IC 54.0"
    )


def test_the_wheels_remaining_error_is_taken_off_every_reading(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "39")  # shows 1 before at the top: every reading is 1 too low
        job = take(session, key, "degree", INTAKE, second="1.0")
    assert lifts.measured(job, "intake").centerline_deg == pytest.approx(113)


def test_a_wheel_moved_between_the_two_readings_counts_for_the_second_only(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key, "41", "39")
        take(session, key, "degree", INTAKE[:1], second="1.0")
        take(
            session, key, "tdc", [("moved", "", None), ("stop.2.before", "40", "btdc"), ("stop.2.after", "40", "atdc")]
        )
        job = take(session, key, "degree", INTAKE[1:], second="1.0")
    assert lifts.measured(job, "intake").centerline_deg == pytest.approx(112.5)


def test_it_cannot_tell_without_a_top_with_backward_readings_or_far_from_the_card(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = take(session, key, "degree", INTAKE, second="1.0")
        found = finding.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "True TDC was not found" in found.doubts[0]
        for reading in job.active_readings("degree"):
            jobs.void(session, key, reading.id, "no top", "QZ")
        true_top(session, key)
        job = take(session, key, "degree", INTAKE, second="1.0", approach="backward")
        found = finding.find(job)
        assert found.verdict is Verdict.UNSURE
        assert "backward" in found.next_step
        for reading in job.active_readings("degree"):
            jobs.void(session, key, reading.id, "backward", "QZ")
        swapped = [("intake.1.before", "20", "atdc"), ("intake.1.after", "110", "atdc")]
        found = finding.find(take(session, key, "degree", swapped, second="1.0"))
    assert found.verdict is Verdict.UNSURE
    assert "wrong lobe" in found.next_step


def test_near_the_limit_it_says_what_to_read_again(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        near = [("intake.1.before", "66.5", "atdc"), ("intake.1.after", "155.5", "atdc")]
        found = finding.find(take(session, key, "degree", near, second="1.0"))
    assert found.verdict is Verdict.UNSURE
    assert "exhaust as well" in found.next_step


def test_drops_that_disagree_widen_the_doubt(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        take(
            session, key, "degree", [("intake.1.before", "65", "atdc"), ("intake.1.after", "155", "atdc")], second="1.0"
        )
        job = take(
            session, key, "degree", [("intake.2.before", "50", "atdc"), ("intake.2.after", "173", "atdc")], second="2"
        )
        found = lifts.measured(job, "intake")
    assert found.spread_deg == pytest.approx(1.5)
    assert found.uncertainty_deg > 0.75
    assert finding.find(job).quantity.uncertainty > 2


def test_two_cams_over_the_valves_are_judged_apart(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, engine={**ENGINE, "valvetrain": "two-cams-over"})
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
        early = [("exhaust.1.before", "158.5", "btdc"), ("exhaust.1.after", "67.5", "btdc")]
        found = finding.find(take(session, key, "degree", early, second="1.0"))
    # One drop of one lobe each.
    assert found.title == "Cannot tell: the exhaust cam reads early"
    assert found.sentence.count("late") == found.sentence.count("early") == 1


def test_lobes_further_apart_than_the_card_are_not_cured_by_moving(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
        early = [("exhaust.1.before", "158.5", "btdc"), ("exhaust.1.after", "67.5", "btdc")]
        found = finding.find(take(session, key, "degree", early, second="1.0"))
    assert "2.5 cam deg wider" in found.sentence


def test_without_a_centerline_on_the_card_it_measures_and_asks(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card={"intake_duration_deg": "240"})
        true_top(session, key)
        found = finding.find(take(session, key, "degree", INTAKE, second="1.0"))
    assert found.verdict is Verdict.UNSURE
    assert "112.0" in found.sentence
    assert "spec card" in found.next_step


def test_the_prompt_goes_through_intake_and_exhaust_and_then_offers_another_drop(shop: Shop, key: str) -> None:
    with shop.write() as session:
        true_top(session, key)
        job = loading.load(session, key)
        assert methods.prompt(job, {"method": "lifts"}).slot == "intake.1.before"
        assert methods.prompt(job, {"method": "lifts", "lobe": "exhaust"}).slot == "exhaust.1.before"
        job = take(session, key, "degree", INTAKE[:1], second="1.2")
        waiting = methods.prompt(job, {})
        assert (waiting.slot, waiting.second, waiting.second_fixed) == ("intake.1.after", "1.2", True)
        job = take(session, key, "degree", INTAKE[1:], second="1.2")
        waiting = methods.prompt(job, {})
        assert (waiting.slot, waiting.second) == ("exhaust.1.before", "1.2")
        job = take(session, key, "degree", EXHAUST, second="1.2")
        waiting = methods.prompt(job, {})
        assert waiting.slot == "intake.2.before"
        assert waiting.second != "1.2"


@pytest.mark.parametrize(
    ("entry", "field"),
    [
        (Entry("degree", "intake.1.before", "190", "atdc", second="1.0"), "text"),
        (Entry("degree", "intake.1.before", "60", "atdc"), "second"),
        (Entry("degree", "intake.1.before", "60", "atdc", second="-1"), "second"),
        (Entry("degree", "intake.1.before", "60", "atdc", second="9", unit=LengthUnit.MM), "second"),
        (Entry("degree", "intake.1.before", "sixty", "atdc", second="1.0"), "text"),
    ],
)
def test_readings_that_cannot_be(shop: Shop, key: str, entry: Entry, field: str) -> None:
    with shop.read() as session:
        job = loading.load(session, key)
    with pytest.raises(InvalidInput) as caught:
        methods.accept(job, entry)
    assert caught.value.field == field


def test_the_same_place_twice_is_no_pair(shop: Shop, key: str) -> None:
    with shop.write() as session:
        take(session, key, "degree", INTAKE[:1], second="1.0")
        with pytest.raises(InvalidInput, match="same-side-of-lobe"):
            take(session, key, "degree", [("intake.1.after", "67.5", "atdc")], second="1.0")


def test_where_a_job_stands_and_its_worst(shop: Shop, key: str) -> None:
    with shop.write() as session:
        job = loading.load(session, key)
        assert ORDER.next_station(job)[0].key == "tdc"
        true_top(session, key, "41", "37.5")
        assert ORDER.next_station(loading.load(session, key))[0].key == "tdc"
        job = take(session, key, "tdc", [("left", "", None)])
        assert ORDER.next_station(job)[0].key == "degree"
        # The top is 1.75 before on this wheel: by events 4 late.
        events = [("io.1.forward", "9.75", "btdc"), ("ic.1.forward", "125.75", "btdc")]
        job = take(session, key, "degree", events)
    assert worst_finding(ORDER.overview(job)).verdict is Verdict.OUT


def _written(typed_wheel: dict[str, str], truth: TrueEngine, drops: list[str]) -> Job:
    """A job read off a made-up engine, without a database."""
    forms = [
        TypedForm(kind, seq, typed, "QZ", None)
        for seq, (kind, typed) in enumerate((("engine", ENGINE), ("card", CARD), ("wheel", typed_wheel)), 1)
    ]
    readings = []

    def write(station: str, slot: str, shown: tuple[str, str | None], drop: str | None) -> None:
        seq = len(readings) + 4
        readings.append(Reading(station, slot, *shown, second=drop, unit=LengthUnit.MM, id=seq, seq=seq, by="QZ"))

    for place in ("before", "after"):
        write("tdc", slot_of("drop", 1, place), truth.at_stop(5, place), "5")
    for lobe in LOBES:
        for number, drop in enumerate(drops, 1):
            for place in ("before", "after"):
                write("degree", slot_of(lobe, number, place), truth.at_drop(lobe, float(drop), place), drop)
    return Job("x", "made up", Log(tuple(forms), tuple(readings)), seq=len(readings) + 4)


@settings(max_examples=60)
@given(
    st.sampled_from(["full", "half", "quarter"]),
    st.sampled_from(["front", "rear"]),
    st.sampled_from(["clockwise", "counterclockwise"]),
    st.floats(-9, 9),
    st.floats(-8, 8),
    st.integers(0, 10_000),
    st.lists(st.sampled_from(["0.5", "1.0", "1.5", "2.0"]), min_size=1, max_size=3, unique=True),
)
def test_a_made_up_engine_gives_its_error_back_within_the_stated_uncertainty(
    scale: str, mount: str, rise: str, error: float, zero: float, seed: int, drops: list[str]
) -> None:
    typed = {
        "scale": scale,
        "mount": mount,
        "numbers_rise": rise,
        "division": "1",
        "dial_division": "0.01",
        "unit": "mm",
    }
    mounted = read(typed, Turn.CLOCKWISE, LengthUnit.MM).value
    assert mounted is not None
    shape = {"duration_deg": 244, "check_lift_mm": 1.0, "max_lift_mm": 8.5}
    lobes = {
        "intake": CosineLobe(centerline_deg=110 + error, **shape),
        "exhaust": CosineLobe(centerline_deg=-110 + error, **shape),
    }
    truth = TrueEngine(mounted, Crank(stroke_mm=84, rod_mm=150), lobes, zero, 0.03, 0.25, seed)
    job = _written(typed, truth, drops)
    for lobe in LOBES:
        found = lifts.measured(job, lobe)
        assert found is not None
        assert found.doubts == ()
        assert abs(found.error_deg - error) <= found.uncertainty_deg


def test_a_position_keeps_the_card_and_the_tolerance_it_was_judged_by(shop: Shop, key: str) -> None:
    """A card put right, or a tolerance changed, counts from the position where the cam stands now."""
    with shop.write() as session:
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
        before = move_history.history(loading.load(session, key))[0].errors
        cam_moved(session, key, 4)
        jobs.save_form(session, key, "card", {**CARD, "io_btdc_deg": "22", "ic_abdc_deg": "46"}, "QZ")
        job = take(
            session, key, "degree", [("intake.2.before", "68", "atdc"), ("intake.2.after", "158", "atdc")], second="1.0"
        )
    then, now = move_history.history(job)
    assert then.errors == before
    assert now.errors["both"][0] == pytest.approx(113 - 102, abs=0.1)
    assert finding.find(job).quantity.value == pytest.approx(113 - 102, abs=0.1)


def test_a_card_typed_after_the_cam_was_moved_judges_the_positions_before_too(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
        cam_moved(session, key, 4)
        jobs.save_form(session, key, "card", CARD, "QZ")
        job = loading.load(session, key)
    assert move_history.history(job)[0].errors


def test_a_move_taken_back_leaves_no_judgment_by_the_old_card_behind(shop: Shop, key: str) -> None:
    """The same readings are asked of the position before the move and of the position now: each is judged by its own card."""
    with shop.write() as session:
        true_top(session, key)
        take(session, key, "degree", INTAKE, second="1.0")
        cam_moved(session, key, 4)
        jobs.save_form(session, key, "card", {**CARD, "io_btdc_deg": "22", "ic_abdc_deg": "46"}, "QZ")
        job = loading.load(session, key)
        assert move_history.history(job)[0].errors["both"][0] == pytest.approx(2, abs=0.03)
        jobs.void(session, key, positions.tries(job)[-1].id, "not moved after all", "QZ")
        job = loading.load(session, key)
    assert finding.find(job).quantity.value == pytest.approx(112 - 102, abs=0.1)
    assert judgment.phases(job)["both"][0] == pytest.approx(112 - 102, abs=0.1)


@pytest.mark.parametrize(
    ("card", "method"),
    [
        (CARD, "events"),
        ({**CARD, "check_lift": ""}, "lifts"),
        ({"intake_duration_deg": "244", "intake_centerline_deg": "110", "check_lift": "1.0", "unit": "mm"}, "lifts"),
        ({**CARD, "ic_abdc_deg": ""}, "lifts"),
        (None, "lifts"),
    ],
)
def test_a_card_that_prints_events_is_read_by_its_events(shop: Shop, card: dict[str, str] | None, method: str) -> None:
    with shop.write() as session:
        job = loading.load(session, a_job(session, card=card))
    assert methods.chosen_method(job, {}) == method
    assert methods.chosen_method(job, {"method": "sweep"}) == "sweep"
