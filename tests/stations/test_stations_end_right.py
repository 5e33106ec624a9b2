"""What each station sends one to, and what ends it: aims, cures, stops, single figures, marks without a wheel, and what is open."""

import pytest
from fastapi.testclient import TestClient

from tests.hands import CARD, ENGINE, a_job, take
from tests.phase.test_weighed import four_events, ready
from tests.stations.test_fit import filled, turned
from tests.stations.test_marks import TWO, described
from uranograph.bench.finding import Verdict
from uranograph.core.drive_choice import Allowed, ChoiceInput, drive_choice
from uranograph.core.split import SplitInput, split_overlap
from uranograph.engine.card import card_of
from uranograph.phase import banks, finding, methods, overlaps
from uranograph.phase import split_overlap as split
from uranograph.shop import asides, library
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.by_eye import rules as eye
from uranograph.stations.drive_choice import rules as choice
from uranograph.stations.lash import rules as lash
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.true_tdc import rules as tdc

GROUND_IN = {
    "intake_duration_deg": "240",
    "exhaust_duration_deg": "240",
    "lobe_separation_cam_deg": "110",
    "unit": "mm",
}
GROUND_IN |= {"check_lift": "1.0", "intake_max_lift": "9", "exhaust_max_lift": "9"}


# Split overlap ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(("advance", "aim"), [("4", 1), ("-4", -1), ("0", 0)])
def test_split_overlap_aims_at_the_cards_own_difference(shop: Shop, advance: str, aim: int) -> None:
    card = {**GROUND_IN, "advance_deg": advance}
    with shop.write() as session:
        key = described(session, TWO, card=card)
        job = jobs.load(session, key)
        wanted = split.wanted_mm(job)
        assert (wanted > 0) - (wanted < 0) == aim
        # Both lifters alike, where the one belongs higher.
        job = take(session, key, "marks", [("split.1.intake", "1.2", None), ("split.1.exhaust", "1.2", None)])
        found = split.measured(job)
        assert found is not None
        assert (found.found.shift_deg > 0.5) is (aim > 0)
        assert (found.found.shift_deg < -0.5) is (aim < 0)
        higher = 1.2 + max(wanted, 0.0), 1.2 + max(-wanted, 0.0)
        lifts = [(f"split.2.{lobe}", f"{mm:.3f}", None) for lobe, mm in zip(("intake", "exhaust"), higher, strict=True)]
        job = take(session, key, "marks", lifts)
    found = split.measured(job)
    assert found is not None
    assert found.found.shift_deg == pytest.approx(0, abs=0.02)
    assert (split.summary(job, found).code == "lifts-as-card-has-it") is (aim != 0)


def test_the_shift_of_a_split_is_to_the_difference_wanted() -> None:
    lifts = {"intake_mm": 1.0, "exhaust_mm": 1.0, "intake_slope_mm_per_deg": 0.1, "exhaust_slope_mm_per_deg": 0.1}
    assert split_overlap(SplitInput(**lifts, wanted_difference_mm=0.4)).shift_deg == pytest.approx(2)
    assert split_overlap(SplitInput(**lifts, wanted_difference_mm=-0.4)).shift_deg == pytest.approx(-2)


@pytest.mark.parametrize(
    ("advance", "seen", "code"),
    [
        ("4", "intake", "looking"),
        ("4", "same", "late"),
        ("4", "exhaust", "late"),
        ("-4", "same", "early"),
        ("0", "intake", "early"),
    ],
)
def test_by_eye_the_lifter_that_is_ground_higher_belongs_higher(shop: Shop, advance: str, seen: str, code: str) -> None:
    with shop.write() as session:
        key = a_job(session, card={**GROUND_IN, "advance_deg": advance})
        job = take(session, key, "by-eye", [("crank-at.1.seen", "overlap", None), ("lifters.1.seen", seen, None)])
    assert eye.find(job).code == code


# Drives ------------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("tir", "doubt", "drive", "cure"),
    [
        # Within what gears are good to, but for the dial.
        (0.045, 0.01, "gears", "finer-reading"),
        (0.045, 0.01, "chain, spring tensioner", "finer-reading"),
        (0.06, 0.001, "chain, spring tensioner", "hydraulic-or-true"),
        # The shaft itself not surely within its own 0.08, by the dial alone.
        (0.078, 0.005, "chain, hydraulic tensioner", "finer-reading"),
        (0.12, 0.005, "chain, hydraulic tensioner", "true-or-makers-word"),
    ],
)
def test_a_finer_dial_is_the_cure_where_only_the_reading_leaves_it_open(
    tir: float, doubt: float, drive: str, cure: str
) -> None:
    found = drive_choice(ChoiceInput(total_indicated_mm=tir, uncertainty_mm=doubt))
    assert next(option for option in found.options if option.drive == drive).cure == cure


def test_what_is_past_the_shafts_own_limit_is_said_under_every_drive() -> None:
    found = drive_choice(ChoiceInput(total_indicated_mm=0.3))
    assert all(option.beyond_the_shaft for option in found.options)
    assert Allowed.YES not in {option.verdict for option in found.options}
    good = drive_choice(ChoiceInput(total_indicated_mm=0.01))
    assert not any(option.beyond_the_shaft for option in good.options)


def test_what_was_trued_just_now_is_not_to_be_trued_again(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "runout", places="9")
        job = turned(session, key, 0.06)
        assert {option.cure for option in choice.judged(job).options} & {"true", "true-or-makers-word"}
        asides.act(session, key, "runout", "shaft-trued", "", "QZ")
        job = turned(session, key, 0.055, turn=2)
        cures = {option.cure for option in choice.judged(job).options}
    assert not cures & {"true", "true-or-makers-word", "window-or-true", "hydraulic-or-true", "clearance-or-true"}
    assert any(cure.startswith("trued") for cure in cures)


def test_not_needed_is_not_there_is_none(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = take(session, key, "choice", [("camseat.1.seen", "na", None), ("journals.1.seen", "none", None)])
    assert [ORDER.answered(reading) for reading in job.active_readings("choice")] == ["not needed", "there is none"]


# Sprockets ---------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("first", "verdict", "code"), [("20.0", Verdict.OPEN, "first-in-line"), ("21.0", Verdict.OUT, "out-of-line")]
)
def test_the_first_cam_is_judged_before_the_second_is_read(shop: Shop, first: str, verdict: Verdict, code: str) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "sprocket", second="yes")
        job = take(session, key, "sprocket", [("driver.1.depth", "20.0", None), ("driven.1.depth", first, None)])
    assert (sprocket.find(job).verdict, sprocket.find(job).code) == (verdict, code)


def test_a_second_cam_may_have_a_chain_of_its_own_and_its_own_before(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "sprocket", second="own")
        for which, depth in (("driver", "20.0"), ("driven", "20.0"), ("second-driver", "35.0"), ("second", "36.0")):
            assert sprocket.prompt(jobs.load(session, key), {}).spot.kind == which
            job = take(session, key, "sprocket", [(f"{which}.1.depth", depth, None)])
        assert sprocket.measured(job, "second").out_of_line_mm == pytest.approx(1.0)
        assert sprocket.find(job).verdict is Verdict.OUT
        assert sprocket.find(job).values["which"] == "second cam sprocket"
        asides.act(session, key, "sprocket", "sprocket-shimmed", "", "QZ")
        for which, depth in (("driver", "20.1"), ("driven", "20.0"), ("second-driver", "35.0"), ("second", "35.6")):
            job = take(session, key, "sprocket", [(f"{which}.2.depth", depth, None)])
    before = [
        note.values["out_of_line_mm"] for note in sprocket.find(job).notes if getattr(note, "code", "") == "before-line"
    ]
    assert before == [pytest.approx(1.0)]


# Lash --------------------------------------------------------------------------------------------------------------------


def test_without_a_card_the_lash_goes_by_the_firing_order(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "valve-lash", intake_lash="0.20", exhaust_lash="0.30")
        found = lash.find(job)
        assert (found.code, found.values["count"], found.values["apart_deg"]) == ("in-firing-order", 8, 180)
        named = [(stop.crank_deg, valves[0].name) for stop, valves in lash.turned_to(job)]
        assert named == [
            (crank, f"{cylinder} {lobe}")
            for crank, cylinder in ((0, 1), (180, 3), (360, 4), (540, 2))
            for lobe in ("intake", "exhaust")
        ]
        for number in range(1, 9):
            blade = "0.20" if number % 2 else "0.30"
            job = take(session, key, "valve-lash", [(f"set-{number}.1.blade", blade, None)])
        words = lash.find(job).values["wanted"]
    assert lash.find(job).verdict is Verdict.IN
    assert "intake 0.20" in words
    assert "exhaust 0.30" in words


def test_without_a_firing_order_no_stops_are_counted(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, {**ENGINE, "firing_order": ""}, card=None)
        job = filled(session, key, "valve-lash", intake_lash="0.20")
    assert lash.find(job).code == "valve-by-valve"
    assert "stop" in lash.find(job).sentence
    assert "8 crank stops" not in lash.find(job).sentence


# One figure, no wheel ----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("end", ["min", "max"])
def test_one_figure_of_lift_at_overlap_is_a_window(shop: Shop, end: str) -> None:
    card = {**CARD, f"intake_overlap_{end}": "1.80"}
    with shop.write() as session:
        key = a_job(session, card=card)
        assert card_of(jobs.load(session, key)).overlap_range("intake") == pytest.approx((1.75, 1.85))
        library.set_limits(session, {"single_lift": "0.1"}, "QZ")
        assert card_of(jobs.load(session, key)).overlap_range("intake") == pytest.approx((1.7, 1.9))


def test_at_a_mark_of_the_engine_the_lift_at_overlap_needs_no_wheel(client: TestClient, shop: Shop) -> None:
    card = {**CARD, "intake_overlap_min": "1.4", "intake_overlap_max": "2.2"}
    with shop.write() as session:
        key = a_job(session, card=card, wheel=None)
        assert methods.prompt(jobs.load(session, key), {"method": "overlap"}) is None
        job = filled(session, key, "top", how="mark", by_whom="RK")
        assert tdc.find(job).verdict is Verdict.IN
        assert banks.prompt(job, {}).slot == "overlap-intake.1.lift"
    page = client.get(f"/jobs/{key}/degree").text
    assert "Set up the wheel first" not in page
    with shop.write() as session:
        job = take(session, key, "degree", [("overlap-intake.1.lift", "1.8", None)])
    [found] = overlaps.measured(job, "intake")
    assert not found.doubts
    # A mark is good to two degrees, and the lift with it.
    assert found.found.shift_doubt_deg > 2


# What stands open ----------------------------------------------------------------------------------------------------------


def test_the_sheet_names_what_stands_open_and_what_is_asked(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = four_events(session, key, ic=("62", "abdc"))
        assert finding.find(job).verdict is Verdict.UNSURE
    sheet = client.get(f"/jobs/{key}/sheet").text
    assert "Still open" in sheet
    assert "Asked of the set-up" in sheet
    assert "62 ABDC" in sheet[sheet.index("Asked of the set-up") :]
