"""Prove and close: clearances, turning over, lash and lock-up at the bench."""

import math
from collections.abc import Mapping

import pytest
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, WHEEL, a_job, cam_moved, take, true_top, with_forms
from tests.stations.test_what_verdicts_stand_on import act
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.piston import PistonAt, piston
from uranograph.core.quantities import LengthUnit
from uranograph.phase import clearance as gaps
from uranograph.phase import offers, turning
from uranograph.phase import valve_gaps as valve_lifts
from uranograph.shop import asides, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.adjust import rules as adjust
from uranograph.stations.clearance import at_lift
from uranograph.stations.clearance import rules as clearance
from uranograph.stations.lash import rules as lash
from uranograph.stations.lock_up import rules as lock_up
from uranograph.stations.turn_over import rules as turn_over

RATIO = ENGINE | {"rocker_ratio": "1.5"}
STAND = {"unit": "mm", "intake_angle": "12", "exhaust_angle": "12"}
LASH = {"unit": "mm", "intake_lash": "0.25", "exhaust_lash": "0.35"}
DRIVE = {"unit": "mm", "a1_kind": "choices", "a1_name": "keyway", "a1_options": "R8: -8, 0: 0, A8: 8", "a1_fitted": "0"}
INTAKE = CosineLobe(centerline_deg=110, duration_deg=244, check_lift_mm=1.0, max_lift_mm=8.5)


def proving(
    session: Session, engine: Mapping[str, str] = RATIO, title: str = "four", **forms: Mapping[str, str]
) -> str:
    key = a_job(session, engine, title=title)
    for kind, typed in ({"piston-valve": STAND} | {k.replace("_", "-"): v for k, v in forms.items()}).items():
        jobs.save_form(session, key, kind, typed, "QZ")
    return key


def degreed(session: Session, key: str, late: float = 0.0, number: int = 1) -> Job:
    """TDC and all four events, read well: the card's, so much later."""
    if number == 1:
        true_top(session, key)
    events = (
        ("io", 12 - late, "btdc"),
        ("ic", 180 - 52 - late, "btdc"),
        ("eo", 180 - 54 + late, "atdc"),
        ("ec", 14 + late, "atdc"),
    )
    return take(session, key, "degree", [(f"{kind}.{number}.forward", f"{at:g}", side) for kind, at, side in events])


def drops(session: Session, key: str, intake: str = "5.4", exhaust: str = "5.9") -> Job:
    return take(session, key, "piston-valve", [("drop-1.1.gap", intake, None), ("drop-2.1.gap", exhaust, None)])


def by_trying(drop: float, shift: float = 0.0, late: float = 0.0) -> float:
    crank = {"stroke_mm": 84, "rod_mm": 150}
    return min(
        drop
        + piston(PistonAt(**crank, angle_deg=a / 5)).drop_mm * math.cos(math.radians(12))
        - 1.5 * lift_at(INTAKE, a / 5 - late + shift)
        for a in range(-300, 300)
    )


def test_a_drop_and_the_cards_lobe_make_the_gap_where_the_cam_stands(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        job = drops(session, degreed(session, key, 3.0).key)
    near = valve_lifts.now(job, 1)
    assert near.gap_mm == pytest.approx(by_trying(5.4, late=3.0), abs=0.03)
    assert near.source == "card"
    # A fifth of the lift there, and no less.
    assert near.doubt_mm > 0.2 * 1.5


def test_a_cam_that_is_not_degreed_is_never_in_by_its_card(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        job = drops(session, key, "9", "9")
    found = clearance.find(job)
    assert (found.verdict, found.code) == (Verdict.UNSURE, "not-degreed")
    with shop.write() as session:
        job = degreed(session, key)
    assert (clearance.find(job).verdict, clearance.find(job).code) == (Verdict.IN, "room-enough")


def test_too_near_is_out_before_the_cam_is_degreed(shop: Shop) -> None:
    with shop.write() as session:
        job = drops(session, proving(session), "2", "9")
    found = clearance.find(job)
    assert (found.verdict, found.code) == (Verdict.OUT, "meets")
    assert found.quantity.value < 0


@pytest.mark.parametrize(
    ("lacking", "engine", "code"),
    [
        ("stroke", {**RATIO, "stroke": "", "rod": ""}, "stroke-and-rod-missing"),
        ("ratio", {**ENGINE, "rocker_ratio": ""}, "lift-missing"),
    ],
)
def test_what_is_missing_is_named_and_what_was_read_is_kept(
    shop: Shop, lacking: str, engine: Mapping[str, str], code: str
) -> None:
    with shop.write() as session:
        job = drops(session, proving(session, engine))
    assert clearance.find(job).code == code
    assert len(job.active_readings("piston-valve")) == 2


def test_clay_is_judged_without_stroke_or_card(shop: Shop) -> None:
    bare = {**RATIO, "stroke": "", "rod": ""}
    for text, verdict in (("2.3", Verdict.OPEN), ("2.05", Verdict.UNSURE), ("1.7", Verdict.OUT)):
        with shop.write() as session:
            key = proving(session, bare, title=text)
            job = take(session, key, "piston-valve", [("clay-1.1.gap", text, None)])
        assert clearance.find(job).verdict is verdict, text


def test_light_springs_show_the_gap_itself_and_the_lift_counts_only_elsewhere(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        degreed(session, key)
        for number, at in enumerate((0, 5, 10, 15), 1):
            gap = 5.4 + piston(PistonAt(stroke_mm=84, rod_mm=150, angle_deg=at)).drop_mm * math.cos(math.radians(12))
            gap -= 1.5 * lift_at(INTAKE, at)
            take(session, key, "piston-valve", [(f"spring-1.{number}.gap", f"{gap:.2f}", None)], second=str(at))
        job = loading.load(session, key)
    here, moved = valve_lifts.at_shifts(job, 1, (0.0, 8.0))
    assert here.gap_mm == pytest.approx(by_trying(5.4), abs=0.05)
    assert moved.gap_mm == pytest.approx(by_trying(5.4, 8.0), abs=0.05)
    assert here.doubt_mm < 0.06
    assert moved.doubt_mm > 3 * here.doubt_mm


def test_two_ways_that_disagree_are_not_in_though_both_would_be(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        degreed(session, key)
        drops(session, key, "9", "9")
        job = take(session, key, "piston-valve", [("clay-1.1.gap", "4.0", None)])
        assert clearance.find(job).code == "ways-disagree"
        other = proving(session, title="other")
        degreed(session, other)
        drops(session, other, "9", "9")
        alike = take(session, other, "piston-valve", [("clay-1.1.gap", f"{by_trying(9.0):.2f}", None)])
    assert clearance.find(alike).verdict is Verdict.IN


def test_what_was_read_where_the_cam_stood_goes_with_the_move_and_a_drop_stays(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        degreed(session, key)
        drops(session, key)
        take(session, key, "piston-valve", [("clay-1.1.gap", "3", None)])
        job = cam_moved(session, key, 8.0)
    assert [r.slot for r in job.active_readings("piston-valve")] == ["drop-1.1.gap", "drop-2.1.gap"]


def swept(session: Session, key: str, late: float) -> Job:
    for number, at in enumerate(range(-40, 260, 6), 1):
        side, shown = ("atdc", at) if 0 <= at <= 180 else ("btdc", 360 - at if at > 180 else -at)
        slot = f"sweep-intake.{number}.point"
        take(session, key, "degree", [(slot, f"{shown:g}", side)], second=f"{lift_at(INTAKE, at - late):.3f}")
    return loading.load(session, key)


def test_the_sweep_is_taken_before_the_card_and_follows_a_move(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        degreed(session, key, 4.0)
        drops(session, key)
        job = swept(session, key, 4.0)
        assert valve_lifts.lifting(job, "intake").source == "sweep"
        assert valve_lifts.now(job, 1).gap_mm == pytest.approx(by_trying(5.4, late=4.0), abs=0.05)
        job = cam_moved(session, key, 8.0)
        # Not degreed there yet: as far on as was chosen, and never in.
        guessed = valve_lifts.now(job, 1)
        assert guessed.source == "swept-before"
        assert guessed.gap_mm == pytest.approx(by_trying(5.4, 8.0, late=4.0), abs=0.05)
        job = degreed(session, key, -1.0, number=2)
        found = valve_lifts.now(job, 1)
    assert found.gap_mm == pytest.approx(by_trying(5.4, late=-1.0), abs=0.12)


def test_adjust_shows_the_gap_beside_every_position_and_advises_none_that_comes_too_near(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        job = degreed(session, key, 8.0)
        assert offers.offers(job, "both")[0].choice.shift_deg == 8
        assert all(offer.near is None for offer in offers.offers(job, "both"))
        # Enough where it stands; advanced to where it would be right, the intake comes within the least.
        job = drops(session, key, "3.9", "9")
    offered = offers.offers(job, "both")
    barred = [offer for offer in offered if offer.barred]
    assert [offer.choice.shift_deg for offer in barred] == [8.0]
    assert offered[-1] is barred[0]
    assert barred[0].near.name == "1 intake"
    assert barred[0].near.gap_mm < valve_lifts.now(job, 1).gap_mm
    assert offers.better_than_now(job, "both") is None
    found = adjust.find(job)
    assert found.verdict is Verdict.OUT
    assert "too near" in found.sentence
    assert any("A8" in words for words in clearance.too_near(job))


def test_the_only_way_is_not_advised_where_it_comes_too_near(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE | {"a1_options": "0: 0, A8: 8"})
        degreed(session, key, 8.0)
        assert offers.better_than_now(loading.load(session, key), "both") is not None
        job = drops(session, key, "3.9", "9")
    assert offers.better_than_now(job, "both") is None


def test_a_position_farther_on_than_the_lift_is_known_is_not_known_and_takes_no_other_down(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE | {"a1_options": "R90: -90, 0: 0, A8: 8"})
        degreed(session, key, 8.0)
        for number, at in enumerate((-20, -10, 0, 10, 20), 1):
            lift = f"{1.5 * lift_at(INTAKE, at - 8):.3f}"
            take(session, key, "piston-valve", [(f"lift-1.{number}.lift", lift, None)], second=str(at))
        engine = {**RATIO, "rocker_ratio": ""}
        jobs.save_form(session, key, "engine", engine, "QZ")
        job = take(session, key, "piston-valve", [("drop-1.1.gap", "7", None)])
        near = {offer.choice.shift_deg: offer.near for offer in offers.offers(job, "both")}
        assert (near[-90.0].known, near[-90.0].verdict) == (False, Verdict.UNSURE)
        assert near[8.0].known
        assert valve_lifts.now(job, 1).known
        assert adjust.find(job).code == "position-cures"
        # Lifts nowhere near the piston say nothing of it: the drop is kept.
        other = proving(session, engine, title="far")
        for number, at in enumerate((50, 60), 1):
            take(session, other, "piston-valve", [(f"lift-1.{number}.lift", "9", None)], second=str(at))
        job = take(session, other, "piston-valve", [("drop-1.1.gap", "7", None), ("clay-1.1.gap", "3", None)])
    assert clearance.find(job).code == "within-so-far"


def test_valves_meet_where_both_stand_about_equally_deep(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        degreed(session, key)
        drops(session, key, "9", "9")
        job = take(session, key, "piston-valve", [("meet.1.gap", "6", None)])
        wide = gaps.meeting(job)
        assert wide.verdict is Verdict.IN
        share = math.sin(math.radians(12))
        overlap = 1.5 * lift_at(INTAKE, 0.0)
        # At overlap TDC both are open by about as much: their shares are taken off there, and a little more beside it.
        assert 6 - 2 * share * overlap - 0.4 < wide.gap_mm < 6 - 2 * share * overlap + 0.05
        narrow = take(session, key, "piston-valve", [("meet.2.gap", "1.8", None)])
        assert gaps.meeting(narrow).verdict is Verdict.OUT
        assert clearance.find(narrow).code == "too-near"
    closer, apart = gaps.meeting(job, 6, -6), gaps.meeting(job, -6, 6)
    assert closer.gap_mm < wide.gap_mm < apart.gap_mm


def test_what_is_left_to_coil_bind_and_guide(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        degreed(session, key)
        drops(session, key, "9", "9")
        readings = [("fitted-intake.1.length", "42", None), ("solid-intake.1.length", "28.5", None)]
        job = take(session, key, "piston-valve", readings)
        assert [round(left.left_mm, 2) for left in at_lift.left_at_lift(job)] == [0.75]
        assert clearance.find(job).verdict is Verdict.OUT
        with pytest.raises(InvalidInput):
            take(session, key, "piston-valve", [("solid-intake.2.length", "43", None)])
        job = take(session, key, "piston-valve", [("solid-intake.2.length", "27", None)])
        assert clearance.find(job).verdict is Verdict.IN
        job = take(session, key, "piston-valve", [("retainer-exhaust.1.length", "14", None)])
    assert clearance.find(job).verdict is Verdict.OUT


@pytest.mark.parametrize(
    ("slot", "text", "drop", "code"),
    [
        ("drop-9.1.gap", "5", None, "no-such-valve"),
        ("drop-0.1.gap", "5", None, "no-such-valve"),
        ("drop-1.1.gap", "-1", None, "drop-below-nothing"),
        ("drop-1.1.gap", "61", None, "no-such-room"),
        ("spring-1.1.gap", "3", None, "angle-missing"),
        ("spring-1.1.gap", "3", "61", "angle-not-near-overlap"),
        ("lift-1.1.lift", "41", "0", "lift-unlikely"),
    ],
)
def test_what_no_engine_has_is_refused(shop: Shop, slot: str, text: str, drop: str | None, code: str) -> None:
    with shop.write() as session:
        key = proving(session)
        with pytest.raises(InvalidInput) as refused:
            take(session, key, "piston-valve", [(slot, text, None)], second=drop)
    assert refused.value.code == code


def turn(session: Session, key: str, *answers: str) -> Job:
    for answer in answers:
        kind = "turned" if answer in ("free", "heavy", "stop") else "what"
        if answer.lstrip("-").isdigit():
            slot = f"where.{loading.load(session, key).next_number('turn-over', 'where')}.at"
        else:
            slot = f"{kind}.{loading.load(session, key).next_number('turn-over', kind)}.seen"
        take(session, key, "turn-over", [(slot, answer, None)])
    return loading.load(session, key)


@pytest.mark.parametrize(
    ("answers", "verdict", "code"),
    [
        ((), Verdict.OPEN, "not-turned"),
        (("free",), Verdict.IN, "turns-freely"),
        (("heavy",), Verdict.UNSURE, "heavy"),
        (("stop",), Verdict.OUT, "stopped"),
        (("stop", "12", "valve"), Verdict.OUT, "stopped"),
        (("stop", "12", "valve", "free"), Verdict.IN, "turns-freely"),
        (("stop", "12", "unknown", "free"), Verdict.UNSURE, "stopped-and-unexplained"),
        (("stop", "free"), Verdict.UNSURE, "stopped-and-unexplained"),
    ],
)
def test_a_stop_is_looked_into_before_it_is_in(
    shop: Shop, answers: tuple[str, ...], verdict: Verdict, code: str
) -> None:
    with shop.write() as session:
        job = turn(session, a_job(session), *answers)
    found = turning.find(job)
    assert (found.verdict, found.code) == (verdict, code)


def test_after_a_stop_the_bench_asks_where_then_what_then_to_turn_again(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        kinds = []
        for answer in ("stop", "-12", "tool"):
            kinds.append(turn_over.prompt(loading.load(session, key), {}).spot.kind)
            turn(session, key, answer)
        kinds.append(turn_over.prompt(loading.load(session, key), {}).spot.kind)
        with pytest.raises(InvalidInput):
            turn(session, key, "361")
    assert kinds == ["turned", "where", "what", "turned"]


@pytest.mark.parametrize("kind", ["gear-turned", "cam-refitted", "gear-exchanged", "parts-fitted"])
def test_whatever_could_have_moved_the_cam_opens_it_again(shop: Shop, kind: str) -> None:
    with shop.write() as session:
        key = a_job(session)
        turn(session, key, "free")
        asides.act(session, key, "marks", kind, "", "QZ")
        job = loading.load(session, key)
    found = turning.find(job)
    assert (found.verdict, found.code) == (Verdict.OPEN, "turn-again")


def test_a_move_to_a_position_opens_it_and_a_wheel_that_is_moved_does_not(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        turn(session, key, "free")
        asides.act(session, key, "tdc", "wheel-moved", "", "QZ")
        assert turning.find(loading.load(session, key)).verdict is Verdict.IN
        job = cam_moved(session, key, 8.0)
    assert turning.find(job).code == "turn-again"


def set_all(session: Session, key: str, goes: str = "0.25", stops: str = "0.30") -> Job:
    for number in range(1, 9):
        own = (goes, stops) if number % 2 else ("0.35", "0.40")
        slot = f"set-{number}.{loading.load(session, key).next_number('valve-lash', f'set-{number}')}.blade"
        take(session, key, "valve-lash", [(slot, own[0], None)], second=own[1])
    return loading.load(session, key)


def test_every_valve_is_asked_for_at_its_stop_and_judged_by_its_bracket(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, valve_lash=LASH)
        job = loading.load(session, key)
        assert [stop.crank_deg for stop in lash.stops(job).stops] == [0, 360]
        asked = lash.prompt(job, {})
        assert asked.slot == "set-1.1.blade"
        assert "firing TDC of 1" in asked.instruction
        take(session, key, "valve-lash", [("set-1.1.blade", "0.25", None)], second="0.30")
        found = lash.find(loading.load(session, key))
        assert (found.verdict, found.code) == (Verdict.OPEN, "within-so-far")
        job = set_all(session, key)
    assert lash.find(job).verdict is Verdict.IN


def test_once_all_are_set_the_one_that_is_out_is_asked_for_again(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, valve_lash=LASH)
        set_all(session, key)
        job = take(session, key, "valve-lash", [("set-6.2.blade", "0.20", None)], second="0.25")
        assert lash.find(job).verdict is Verdict.OUT
        assert lash.prompt(job, {}).slot == "set-6.3.blade"
        job = take(session, key, "valve-lash", [("set-6.3.blade", "0.35", None)], second="0.40")
    assert lash.find(job).verdict is Verdict.IN


def test_the_head_off_and_on_ends_every_gap_and_lash_and_gears_off_leave_the_drop(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, valve_lash=LASH)
        set_all(session, key)
        job = take(session, key, "piston-valve", [("drop-1.1.gap", "9.0", None), ("drop-2.1.gap", "9.0", None)])
        assert len(job.active_readings("piston-valve")) == 2
        job = act(session, key, "parts-fitted", "piston-valve", of="gears")
        assert len(job.active_readings("piston-valve")) == 2
        job = act(session, key, "parts-fitted", "piston-valve", of="head")
    assert job.active_readings("piston-valve") == []
    assert lash.as_set(job) == {}
    assert [each.disturbs for each in job.acts("head")] == [("parts", "head")]


@pytest.mark.parametrize(
    ("goes", "stops", "verdict", "code"),
    [
        ("0.25", "0.30", Verdict.IN, "all-set"),
        ("0.22", "0.27", Verdict.IN, "all-set"),
        ("0.27", "0.32", Verdict.UNSURE, "bracket-straddles"),
        ("0.20", "0.35", Verdict.UNSURE, "bracket-straddles"),
        ("0.10", "0.15", Verdict.OUT, "too-tight"),
        ("0.40", "0.45", Verdict.OUT, "too-loose"),
    ],
)
def test_lash_is_judged_on_both_sides(shop: Shop, goes: str, stops: str, verdict: Verdict, code: str) -> None:
    with shop.write() as session:
        job = set_all(session, proving(session, valve_lash=LASH), goes, stops)
    found = lash.find(job)
    assert (found.verdict, found.code) == (verdict, code)


def test_preload_is_counted_in_turns_and_more_of_it_is_tighter(shop: Shop) -> None:
    for text, code in (("3/4", "all-set"), ("1 1/2", "too-tight"), ("1/4", "too-loose")):
        with shop.write() as session:
            key = proving(session, title=text, valve_lash={"unit": "mm", "turns": "3/4"})
            for number in range(1, 9):
                take(session, key, "valve-lash", [(f"preload-{number}.1.turns", text, None)])
            job = loading.load(session, key)
        assert lash.find(job).code == code, text


@pytest.mark.parametrize(
    ("slot", "text", "drop", "code"),
    [
        ("set-9.1.blade", "0.2", None, "no-such-valve-here"),
        ("set-1.1.blade", "-0.1", None, "lash-below-nothing"),
        ("set-1.1.blade", "3.1", None, "lash-past-any"),
        ("set-1.1.blade", "0.3", "0.3", "blades-upside-down"),
        ("set-1.1.blade", "0.3", "3.1", "lash-past-any"),
        ("preload-1.1.turns", "4", None, "turns-outside"),
        ("preload-1.1.turns", "1/0", None, "turns-outside"),
    ],
)
def test_lash_that_cannot_be_is_refused(shop: Shop, slot: str, text: str, drop: str | None, code: str) -> None:
    with shop.write() as session:
        key = proving(session, valve_lash=LASH)
        with pytest.raises(InvalidInput) as refused:
            take(session, key, "valve-lash", [(slot, text, None)], second=drop)
    assert refused.value.code == code


def test_marks_on_the_rim_are_degrees_and_length() -> None:
    forms = {
        "engine": {**ENGINE, "cylinders": "3", "firing_order": "1-3-2"},
        "card": CARD,
        "valve-lash": LASH | {"rim": "150"},
    }
    job = with_forms(**forms)
    places = {round(stop.crank_deg % 360) for stop in lash.stops(job).stops} - {0}
    assert places
    for deg, words in zip(sorted(places), lash.rim_marks(job), strict=True):
        assert words == f"{deg:.1f} deg ({math.pi * 150 * deg / 360:.2f} mm)"


def close(session: Session, key: str, **other: str) -> Job:
    for check in lock_up.checks(loading.load(session, key)):
        answer = other.get(check.kind.replace("-", "_"), check.good[0])
        slot = f"{check.kind}.{loading.load(session, key).next_number('lock-up', check.kind)}.seen"
        take(session, key, "lock-up", [(slot, answer, None)])
    return loading.load(session, key)


def test_lock_up_lists_what_acts_and_readings_left_loose_and_nothing_else(shop: Shop) -> None:
    with shop.write() as session:
        bare = a_job(session, title="bare")
        assert [check.kind for check in lock_up.checks(loading.load(session, bare))] == ["pins-out", "driven"]
        key = proving(session, drive=DRIVE)
        degreed(session, key, 8.0)
        cam_moved(session, key, 8.0)
        for station, kind in (("sprocket", "sprocket-shimmed"), ("marks", "gear-turned"), ("tdc", "wheel-refitted")):
            asides.act(session, key, station, kind, "", "QZ")
        job = loading.load(session, key)
    kinds = [check.kind for check in lock_up.checks(job)]
    assert kinds == [
        *("adjuster-1", "gears", "crank-bolt", "sprockets"),
        *("stop-out", "pins-out", "lubed", "wheel-off", "driven"),
    ]


def test_nothing_is_closed_while_a_bolt_is_snug_or_it_was_not_turned(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, drive=DRIVE)
        asides.act(session, key, "marks", "gear-turned", "", "QZ")
        assert lock_up.find(loading.load(session, key)).code == "not-begun"
        job = close(session, key, gears="snug")
        assert (lock_up.find(job).verdict, lock_up.find(job).code) == (Verdict.OUT, "left-snug")
        job = take(session, key, "lock-up", [("gears.2.seen", "torque", None)])
        assert lock_up.find(job).code == "turn-first"
        job = turn(session, key, "free")
        assert lock_up.find(job).verdict is Verdict.IN
        # A gear turned once more is loose once more, and so is what rests on it.
        asides.act(session, key, "marks", "gear-turned", "", "QZ")
        job = loading.load(session, key)
    assert lock_up.find(job).verdict is not Verdict.IN
    assert "gears" in {answer.check.kind for answer in lock_up.answered(job) if answer.reading is None}


def test_a_degreed_cam_is_closed_only_once_top_and_first_reading_came_again(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session)
        degreed(session, key)
        turn(session, key, "free")
        job = close(session, key)
        assert (lock_up.find(job).verdict, lock_up.find(job).code) == (Verdict.OPEN, "prove-first")
        take(session, key, "degree", [("io.2.forward", "12", "btdc")])
        readings = [("stop.2.before", "40", "btdc"), ("stop.2.after", "40", "atdc")]
        job = take(session, key, "tdc", readings)
    assert lock_up.find(job).verdict is Verdict.IN


def test_a_valve_set_once_more_has_its_lock_nut_loose_again(shop: Shop) -> None:
    with shop.write() as session:
        key = proving(session, valve_lash=LASH)
        set_all(session, key)
        turn(session, key, "free")
        job = close(session, key)
        assert lock_up.find(job).verdict is Verdict.IN
        job = take(session, key, "valve-lash", [("set-4.9.blade", "0.35", None)], second="0.40")
    assert lock_up.find(job).verdict is Verdict.OPEN
    assert [a.check.kind for a in lock_up.answered(job) if a.reading is None] == ["lock-nuts"]


def test_the_answers_are_in_lengths_of_the_job(shop: Shop) -> None:
    inches = {**RATIO, "unit": "inch", "stroke": "3.307", "rod": "5.906"}
    with shop.write() as session:
        key = proving(session, inches)
        job = drops(session, key, "0.06", "0.3")
    assert job.unit is LengthUnit.INCH
    assert "inch" in clearance.find(job).sentence
    assert ORDER.by_key["piston-valve"].find(job).number.startswith("−")


def test_a_station_of_these_is_quiet_on_an_empty_job() -> None:
    job = with_forms(engine=RATIO, wheel=WHEEL)
    for station in (clearance, turning, lash, lock_up):
        assert not station.find(job).begun
