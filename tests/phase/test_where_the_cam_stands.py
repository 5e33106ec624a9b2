"""Where the cam stands with everything that may be wrong counted in: bleeding lifters, cards, bases, adjusters, uncertainties."""

from typing import Any

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, WHEEL, a_job, cam_moved, proved_by, take, true_top, with_forms
from tests.phase.test_weighed import GOOD, four_events, ready
from tests.stations.test_fit import filled
from uranograph.bench.acts import Move
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput
from uranograph.engine import card as engine_card
from uranograph.engine import positions, tdc_reading
from uranograph.engine import tdc as engine_tdc
from uranograph.phase import (
    answers,
    drawing,
    judgment,
    lifts,
    methods,
    offers,
    overlaps,
    results,
    set_live,
    sweep_points,
    sweeps,
    weighed,
)
from uranograph.phase import finding as degree
from uranograph.phase import valve_gaps as clearance
from uranograph.phase.next_reading import MAX_BEYOND, next_reading, proved
from uranograph.shop import asides, exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.stations.adjust import rules as adjust
from uranograph.stations.card import rules as card
from uranograph.stations.degree import what_if
from uranograph.stations.true_tdc import rules as tdc

QUARTER = {**WHEEL, "scale": "quarter"}
KEYS = {"a1_kind": "choices", "a1_name": "key", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0"}


def judged(session: Session, key: str) -> dict[str, Any]:
    return judge(exchange.export_job(session, key))


def twice(session: Session, key: str, **change: tuple[str, str]) -> Job:
    four_events(session, key, **change)
    return four_events(session, key, **change)


# 1. A question that stands holds the verdict ----------------------------------------------------------------------------------


@pytest.mark.parametrize("early", [3, 5, 8])
def test_closings_that_come_early_are_asked_about_and_no_move_is_next(shop: Shop, early: int) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **KEYS)
        job = twice(session, key, ic=(f"{52 - early}", "abdc"), ec=(f"{14 - early}", "atdc"))
        found = judged(session, key)
    assert degree.find(job).verdict is Verdict.UNSURE
    assert weighed.holding(job) is not None
    assert not proved(job)
    assert found["stations"]["degree"]["verdict"] == "unsure"
    assert found["next"]["entry"]["type"] == "reading"
    # The base circle and the greatest lift part a bleeding lifter from lash and from springs.
    assert next_reading(job).query.get("method") == "peak"


def test_a_lifter_that_bleeds_as_the_dial_shows_holds_until_a_solid_one_stands_in(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        twice(session, key, ic=("47", "abdc"), ec=("9", "atdc"))
        bases = [(f"base-{lobe}.1.dial", "-0.30", None) for lobe in ("intake", "exhaust")]
        job = take(session, key, "degree", bases)
        assert weighed.open_questions(job)[0].code == "bleeding-lifter"
        for _ in range(MAX_BEYOND):
            wanted = next_reading(job)
            if wanted is None or wanted.query.get("method") == "asked":
                break
            job = _answered(session, key, job, wanted.station, dict(wanted.query))
        assert next_reading(job).query["code"] == "bleeding-lifter"
        job = take(session, key, "degree", [("asked-bleeding-lifter.1.answer", "yes", None)])
        assert weighed.held(job)
        with pytest.raises(InvalidInput, match="not-yes-or-no"):
            take(session, key, "degree", [("asked-bleeding-lifter.2.answer", "perhaps", None)])
        job = filled(session, key, "engine", **{**ENGINE, "tappets": "stand-in"})
    assert "bleeding-lifter" not in {each.code for each in weighed.weighed(job).found}


def _answered(session: Session, key: str, job: Job, station: str, query: dict[str, str]) -> Job:
    from uranograph.stations import ORDER

    prompt = ORDER.by_key[station].prompt(job, query)
    early = {**GOOD, "ic": ("47", "abdc"), "ec": ("9", "atdc")}
    kind = prompt.spot.kind
    if kind == "stop":
        return take(session, key, "tdc", [(prompt.slot, "40", "btdc" if prompt.spot.place == "before" else "atdc")])
    text, side = early[kind] if kind in early else ("8.35" if kind.startswith("peak") else "-0.30", None)
    return take(session, key, station, [(prompt.slot, text, side)])


@pytest.mark.parametrize("wide", [26, -8])
def test_durations_far_from_the_card_s_are_never_in(shop: Shop, wide: int) -> None:
    change = {
        "io": (f"{12 + wide}", "btdc"),
        "ic": (f"{52 + wide}", "abdc"),
        "eo": (f"{54 + wide}", "bbdc"),
        "ec": (f"{14 + wide}", "atdc"),
    }
    with shop.write() as session:
        key = ready(session)
        twice(session, key, **{kind: (text.lstrip("-"), side) for kind, (text, side) in change.items()})
        job = proved_by(session, key, ("io", *change["io"]), 3)
    assert degree.find(job).verdict is Verdict.UNSURE
    codes = {each.code for each in weighed.open_questions(job)}
    assert codes & {"wrong-checking-lift", "lash-wrong", "indicator-askew"}


def test_a_question_answered_no_is_not_asked_again_and_a_reading_after_it_may_ask_anew(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        job = four_events(session, key, ic=("62", "abdc"))
        assert {each.code for each in weighed.open_questions(job)[:2]} == {"typing-slip", "card-misprint"}
        job = take(session, key, "degree", [("asked-typing-slip.1.answer", "no", None)])
        assert weighed.holding(job).code == "card-misprint"
        assert "typing-slip" not in {each.code for each in weighed.open_questions(job)}
        job = take(session, key, "degree", [("ec.2.forward", "41", "atdc")])
    assert "typing-slip" in {each.code for each in weighed.open_questions(job)}


def test_a_gear_turned_ends_what_was_answered_of_the_cam_before(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        four_events(session, key)
        job = take(session, key, "degree", [("asked-tooth-off.1.answer", "yes", None)])
        assert answers.settled(job, "tooth-off")
        asides.act(session, key, "degree", "gear-turned", "a tooth on", "QZ")
        job = loading.load(session, key)
    assert not answers.settled(job, "tooth-off")


def test_the_question_is_put_on_the_page_with_its_two_answers(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **KEYS)
        held = four_events(session, key, ic=("62", "abdc"))
    asked = client.get(f"/jobs/{key}/asked", headers={"HX-Request": "true"}).text
    assert "the verdict waits for the answer" in asked
    link = (
        next(each for each in asked.split('href="') if "code=typing-slip" in each).split('"')[0].replace("&amp;", "&")
    )
    page = client.get(link).text
    assert "A slip of typing or reading in 62 ABDC?" in page
    # Adjust names no move meanwhile.
    assert adjust.find(held).sentence.rstrip().endswith("where the cam stands.")
    assert 'value="yes"' in page
    assert 'value="no"' in page


# 2. What the card means -------------------------------------------------------------------------------------------------------


def test_a_centerline_printed_beside_events_is_of_the_peak_and_events_decide(shop: Shop) -> None:
    peaks = {**CARD, "intake_centerline_deg": "108", "exhaust_centerline_deg": "112.5"}
    given = with_forms(engine=ENGINE, card=peaks)
    printed = engine_card.printed_card(given)
    assert dict(printed.peaks) == {"intake": 108.0, "exhaust": 112.5}
    assert printed.card.conflicts == []
    found = card.find(given)
    assert found.verdict is Verdict.IN
    assert any("108.0 is taken as that of the peak" in note for note in found.notes)
    with shop.write() as session:
        key = a_job(session, card=peaks, wheel=QUARTER)
        true_top(session, key)
        four_events(session, key)
        job = proved_by(session, key, ("io", *GOOD["io"]))
    assert degree.find(job).verdict is Verdict.IN
    assert abs(degree.find(job).quantity.value) < 0.1


def test_a_rounded_centerline_beside_events_does_not_move_them() -> None:
    job = with_forms(engine=ENGINE, card={**CARD, "intake_centerline_deg": "110.5"})
    assert engine_card.printed_card(job).middle_deg("intake") == 110.0


def test_a_card_of_centerlines_alone_may_mean_either_until_it_says(shop: Shop) -> None:
    bare = {
        "intake_duration_deg": "244",
        "exhaust_duration_deg": "248",
        "lobe_separation_cam_deg": "110",
        "advance_deg": "0",
        "check_lift": "1.0",
        "unit": "mm",
    }
    doubts = {}
    with shop.write() as session:
        for said in ("", "events", "peak"):
            key = a_job(session, card={**bare, "centerline_of": said}, wheel=QUARTER, title=f"Of {said}")
            true_top(session, key)
            job = four_events(session, key)
            doubts[said] = degree.find(job).quantity.uncertainty
            assert ("does not say" in str(card.find(job).notes)) is (said == "")
    assert doubts["events"] < doubts[""]
    assert doubts["events"] < doubts["peak"]


@pytest.mark.parametrize(
    ("forms", "lift"),
    [
        ({"lift_at": "lobe", "intake_lash": "0.3"}, 8.5 * 1.5 - 0.3),
        ({"lift_at": "valve"}, 8.5),
        ({"intake_valve_lift": "12.4"}, 12.4),
        # Not said, with the dial at the valve: the larger counts, so that nothing is in wrongly.
        ({}, 8.5 * 1.5),
    ],
)
def test_valve_lift_is_lobe_lift_times_ratio_less_lash(forms: dict[str, str], lift: float) -> None:
    engine = {**ENGINE, "lift_at": "retainer", "rocker_ratio": "1.5"}
    job = with_forms(engine=engine, card={**CARD, **forms})
    assert engine_card.valve_lift(job, "intake") == pytest.approx(lift)
    top = max(mm for _, mm in clearance.lifting(job, "intake").points)
    assert top == pytest.approx(lift, abs=0.02)


def test_no_lash_is_a_lash_and_one_that_leaves_no_lift_leaves_the_lift_unknown() -> None:
    engine = {**ENGINE, "lift_at": "retainer", "rocker_ratio": "1.5"}
    none = with_forms(engine=engine, card={**CARD, "lift_at": "lobe", "intake_lash": "0"})
    assert none.filled(engine_card.FORM).errors == {}
    assert engine_card.valve_lift(none, "intake") == pytest.approx(8.5 * 1.5)
    tiny = {**CARD, "check_lift": "0.5", "intake_max_lift": "1", "lift_at": "lobe", "intake_lash": "4"}
    lost = with_forms(engine=engine, card=tiny)
    assert engine_card.valve_lift(lost, "intake") is None
    assert clearance.lifting(lost, "intake") is None


def test_a_lobe_lift_that_contradicts_the_valve_lift_beside_it_is_named() -> None:
    engine = {**ENGINE, "lift_at": "lifter", "rocker_ratio": "1.5"}
    right = with_forms(engine=engine, card={**CARD, "intake_valve_lift": "12.45", "intake_lash": "0.3"})
    assert card.find(right).verdict is Verdict.IN
    wrong = card.find(with_forms(engine=engine, card={**CARD, "intake_valve_lift": "11.0", "intake_lash": "0.3"}))
    assert wrong.verdict is Verdict.UNSURE
    assert "times rocker ratio 1.5" in wrong.sentence


def test_lifts_of_the_card_are_at_the_dial_wherever_they_are_printed() -> None:
    at_valve = {**CARD, "lift_at": "valve", "check_at": "valve", "check_lift": "1.5"}
    job = with_forms(engine={**ENGINE, "rocker_ratio": "1.5"}, card=at_valve)
    assert engine_card.card_of(job).max_lift_mm("intake") == pytest.approx(8.5 / 1.5)
    assert engine_card.card_of(job).check_lift_mm == pytest.approx(1.0)


@pytest.mark.parametrize(
    ("field", "text", "words"),
    [
        ("intake_seat_duration_deg", "240", "is not more than"),
        ("intake_200_duration_deg", "250", "is not less than"),
        ("centerline_of", "banana", "Choose one of peak, events"),
        ("seat_lift", "x", "x"),
        ("intake_lash", "39", "39"),
    ],
)
def test_what_a_card_cannot_mean_is_told_beside_its_field(field: str, text: str, words: str) -> None:
    errors = with_forms(engine=ENGINE, card={**CARD, field: text}).filled(engine_card.FORM).errors
    assert words in errors[field]


def test_trapped_compression_is_from_the_seat_or_bounded() -> None:
    engine = {**ENGINE, "bore": "80", "compression": "10"}
    seat = with_forms(engine=engine, card={**CARD, "intake_seat_duration_deg": "284"})
    bare = with_forms(engine=engine, card=CARD)
    known, bounded = (what_if.data(job, {})["columns"]["card"] for job in (seat, bare))
    assert "ratio_least" not in known
    assert bounded["ratio_least"] < known["ratio"] < bounded["ratio"]
    # The intake shuts 20 later at its seat: 72 after bottom.
    assert known["ratio"] == pytest.approx(
        what_if.data(with_forms(engine=engine, card={**CARD, "ic_abdc_deg": "72"}), {})["columns"]["card"]["ratio"]
    )


# 3. The builder's own basis ---------------------------------------------------------------------------------------------------


def test_one_lobe_chosen_is_one_lobe_asked_for_judged_and_proved(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "rules", basis="intake", tolerance="1")
        for kind in ("io", "ic"):
            assert methods.prompt(loading.load(session, key), {"method": "events"}).spot.kind == kind
            job = take(session, key, "degree", [(f"{kind}.1.forward", *GOOD[kind])])
        assert methods.prompt(job, {"method": "events"}).spot.kind == "io"
        assert methods.prompt(job, {"method": "lifts"}).spot.kind == "intake"
        assert "exhaust" not in degree.find(job).next_step
        job = proved_by(session, key, ("io", *GOOD["io"]))
    assert degree.find(job).verdict is Verdict.IN
    assert proved(job)


def test_a_cam_right_on_is_neither_late_nor_early_and_nothing_is_ordered(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **KEYS)
        job = four_events(session, key)
    assert degree.find(job).code == "reads-right"
    for finding in (degree.find(job), adjust.find(job)):
        words = f"{finding.title} {finding.sentence} {finding.next_step}"
        assert "Retard" not in words
        assert "Advance" not in words
        assert "−0.0" not in words


def test_a_good_cam_by_a_card_of_one_lift_at_overlap_is_asked_for_that_lobe_alone(shop: Shop) -> None:
    bare = {"intake_overlap_min": "1.0", "intake_overlap_max": "1.4", "unit": "mm"}
    with shop.write() as session:
        key = a_job(session, card=bare, wheel=QUARTER)
        true_top(session, key)
        asked = []
        for _ in range(6):
            wanted = methods.prompt(loading.load(session, key), {})
            asked.append(wanted.slot)
            take(
                session,
                key,
                "degree",
                [(wanted.slot, "1.2" if wanted.spot.place == "lift" else "1.5", None)],
                wanted.second,
            )
    assert {slot.split(".")[0] for slot in asked} == {"overlap-intake"}
    assert len(set(asked)) == len(asked)
    assert {overlaps.bank_of(r) for r in jobs_readings(shop, key) if r.spot.kind == "overlap-intake"} == {1}


def jobs_readings(shop: Shop, key: str) -> list[Any]:
    with shop.read() as session:
        return list(loading.load(session, key).active_readings("degree"))


def test_a_centerline_stated_by_somebody_counts_until_the_cam_is_moved_or_read(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **KEYS)
        stated = {"intake_stated": "114", "exhaust_stated": "106", "stated_by": "RK"}
        job = filled(session, key, "stated-cam", **stated)
        found = degree.find(job)
        assert (found.verdict, found.code, round(found.quantity.value)) == (Verdict.OUT, "late", 4)
        assert "stated by RK" in found.sentence
        assert offers.offers(job, "both")[0].choice.moves[0].to == "A4"
        moved = cam_moved(session, key, 4, name="key")
        assert results.results(positions.at_position(moved)) == ()
        read = four_events(session, key)
        assert {result.method for result in results.results(positions.at_position(read))} == {"events"}


# 4. Adjusters as they are -----------------------------------------------------------------------------------------------------


def two_cams(session: Session, title: str = "Two cams") -> str:
    key = a_job(session, engine={**ENGINE, "valvetrain": "two-cams-over"}, wheel=QUARTER, title=title)
    true_top(session, key)
    filled(session, key, "drive", **KEYS)
    return key


def test_a_key_that_moves_both_cams_is_one_offer_and_one_act_for_both(shop: Shop) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("51", "bbdc"), "ec": ("17", "atdc")}
    with shop.write() as session:
        key = two_cams(session)
        half = take(session, key, "degree", [(f"{kind}.1.forward", *late[kind]) for kind in ("io", "ic")])
        assert offers.offers(half, "both") == ()
        four_events(session, key, **late)
        found = judged(session, key)
        best = found["offers"][0]
        assert best["cam"] == "both"
        assert best["moves"][0]["to"] == "A4"
        assert {cam: round(each["leaves_deg"]) for cam, each in best["cams"].items()} == {"intake": 0, "exhaust": -1}
        assert len({str(offer["moves"]) for offer in found["offers"]}) == len(found["offers"])
        job = loading.load(session, key)
        jobs.move(session, key, offers.act_of(job, "both", 0), "QZ", None, None)
        job = loading.load(session, key)
    assert positions.tries(job)[0].lobes == ("intake", "exhaust")
    assert results.results(positions.at_position(job)) == ()


def test_an_act_that_names_one_cam_moves_both_where_its_key_does(shop: Shop) -> None:
    with shop.write() as session:
        key = two_cams(session)
        four_events(session, key)
        act = positions.act_of("intake", 4.0, [Move("key", "0", "A4", 4.0)])
        jobs.move(session, key, act, "QZ", None, None)
        job = loading.load(session, key)
    assert positions.tries(job)[0].shifts == {"intake": 4.0, "exhaust": 4.0}
    assert results.results(positions.at_position(job)) == ()


def test_choices_can_be_stated_in_cam_degrees() -> None:
    job = with_forms(engine=ENGINE, card=CARD, drive={**KEYS, "a1_options": "0: 0, A2: 2", "a1_degrees": "cam"})
    adjuster = set_live.fitted_now(job).adjusters[0].adjuster
    assert [option.shift_deg for option in adjuster.options] == [0, 4]


def test_what_an_offer_leaves_counts_the_landing_of_its_step(shop: Shop) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    doubts = {}
    with shop.write() as session:
        for kind, more in (("slot", {"a1_range": "10", "a1_step": "1"}), ("choices", {}), ("offset", {})):
            key = ready(session, kind)
            filled(session, key, "drive", **{**KEYS, "a1_kind": kind, **more})
            job = four_events(session, key, **late)
            best = offers.offers(job, "both")[0]
            now = judgment.phases(job)["both"][1]
            doubts[kind] = best.doubt_deg**2 - now**2
    assert doubts["slot"] == pytest.approx(0.5**2)
    assert doubts["choices"] == pytest.approx(0.1**2)
    assert doubts["offset"] == pytest.approx(0.2**2)


def test_positions_stand_once_on_the_page_and_a_move_is_planned_before_it_is_done(
    client: TestClient, shop: Shop
) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    with shop.write() as session:
        key = ready(session)
        options = ", ".join(f"P{k}: {k}" for k in range(-20, 21))
        filled(session, key, "drive", **{**KEYS, "a1_options": options, "a1_fitted": "P0"})
        four_events(session, key, **late)
    page = client.get(f"/jobs/{key}/adjust").text
    assert page.count('name="plan"') == 41
    planned = client.get(f"/jobs/{key}/adjust?plan=both:0").text
    assert "Planned, not done yet" in planned
    assert "key: P0 to P4" in planned
    with shop.read() as session:
        assert not positions.tries(loading.load(session, key))
    client.post(f"/jobs/{key}/adjust", data={"choice": "both:0", "token": "t"}, headers={"HX-Request": "true"})
    with shop.read() as session:
        assert len(positions.tries(loading.load(session, key))) == 1


def test_a_move_of_the_crank_gear_comes_with_the_wheel_off(shop: Shop) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    with shop.write() as session:
        key = ready(session)
        filled(session, key, "drive", **KEYS)
        filled(session, key, "way", way="degree")
        four_events(session, key, **late)
        proved_by(session, key, ("io", *late["io"]))
        found = judged(session, key)
        while found["next"]["entry"]["type"] == "reading":
            spot = found["next"]["entry"]["slot"].split(".")[0]
            text = {"peak-intake": "8.5", "peak-exhaust": "8.5"}.get(spot, "0")
            place = found["next"]["entry"]["slot"].split(".")[-1]
            side = {"before": "btdc", "after": "atdc"}.get(place) if spot == "stop" else None
            text, side = late.get(spot, ("40" if spot == "stop" else text, side))
            take(session, key, found["next"]["station"], [(found["next"]["entry"]["slot"], text, side)])
            found = judged(session, key)
    kinds = [entry["kind"] for entry in found["next"]["entries"]]
    assert kinds == ["cam-moved", "wheel-refitted"]


# 5. One uncertainty -----------------------------------------------------------------------------------------------------------


def test_the_phase_is_never_surer_than_the_tdc_it_rests_on(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        for _ in range(3):
            job = four_events(session, key)
        top = results.results(job)[0].by_top_deg
        assert degree.find(job).quantity.uncertainty >= top
        take(session, key, "tdc", [("stop.2.before", "43", "btdc"), ("stop.2.after", "37", "atdc")])
        apart = loading.load(session, key)
    assert degree.find(apart).quantity.uncertainty >= 1.5


# 6. Readings in the practitioner's order --------------------------------------------------------------------------------------


def test_a_pair_read_backward_is_replaced_by_one_of_the_same_drop_read_forward(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        back = [("intake.1.before", "68", "atdc"), ("intake.1.after", "32", "bbdc")]
        job = take(session, key, "degree", back, second="1.0", approach="backward")
        assert any("backward" in doubt for doubt in lifts.measured(job, "intake").doubts)
        forward = [("intake.2.before", "70", "atdc"), ("intake.2.after", "30", "bbdc")]
        job = take(session, key, "degree", forward, second="1.0")
    found = lifts.measured(job, "intake")
    assert found.doubts == ()
    assert found.centerline_deg == pytest.approx(110)
    assert found.spread_deg == 0


def test_the_side_of_a_deep_drop_comes_from_what_was_read(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        # A lobe far wider at the nose than a nominal one: 6 mm below lies before bottom on its far side.
        read = [("intake.1.before", "56", "atdc"), ("intake.1.after", "16", "bbdc")]
        job = take(session, key, "degree", read, second="1.0")
        near = methods.prompt(job, {"method": "lifts", "lobe": "intake", "drop": "1.0"})
        deep = methods.prompt(job, {"method": "lifts", "lobe": "intake", "drop": "5.5"})
    assert (near.side, deep.side) == ("atdc", "btdc")


def test_a_greatest_lift_leads_back_to_the_method_it_was_read_beside(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        take(session, key, "degree", [("io.1.forward", *GOOD["io"])])
        job = take(session, key, "degree", [("peak-intake.1.lift", "8.5", None)])
    assert methods.chosen_method(job, {}) == "events"


# 7. What other made-up engines showed -----------------------------------------------------------------------------------------


def test_two_cams_of_which_one_was_read_are_not_in(shop: Shop) -> None:
    with shop.write() as session:
        key = two_cams(session)
        filled(session, key, "way", way="degree")
        for number in (1, 2, 3):
            take(session, key, "degree", [(f"{kind}.{number}.forward", *GOOD[kind]) for kind in ("io", "ic")])
        job = proved_by(session, key, ("io", *GOOD["io"]), 4)
        found = judged(session, key)
    assert judgment.judged(job)[0].verdict is Verdict.IN
    finding = degree.find(job)
    assert (finding.verdict, finding.code) == (Verdict.UNSURE, "lobe-unread")
    assert found["stations"]["adjust"]["verdict"] != "in"
    assert found["next"]["entry"]["slot"].startswith("eo.")


def test_a_lobe_swept_twice_and_otherwise_is_asked_about(shop: Shop) -> None:
    lobe = [(angle, max(0.0, 8.5 - (abs(angle - 110) / 44.55) ** 2)) for angle in range(-20, 240, 10)]
    with shop.write() as session:
        key = ready(session)
        lines = "\n".join(f"{angle},{lift:.3f}" for angle, lift in lobe)
        jobs.record_all(session, key, sweeps.read_csv(f"angle_deg,lift_mm\n{lines}", "intake", 1), "QZ")
        job = loading.load(session, key)
        assert not sweep_points.swept(job, "intake").read_twice
        lines = "\n".join(f"{angle},{lift * 0.9:.3f}" for angle, lift in lobe)
        jobs.record_all(session, key, sweeps.read_csv(f"angle_deg,lift_mm\n{lines}", "intake", 101), "QZ")
        job = loading.load(session, key)
    assert sweep_points.swept(job, "intake").read_twice
    assert "lobe-read-twice" in {each.code for each in weighed.open_questions(job)}
    assert weighed.held(job)


def test_a_point_off_the_curve_is_a_slip_that_is_asked_for_again(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        points = []
        for number, angle in enumerate(range(-20, 245, 5), 1):
            lift = max(0.0, 8.5 - (abs(angle - 110) / 44.55) ** 2)
            side = "btdc" if angle < 0 else "atdc" if angle <= 90 else "bbdc" if angle < 180 else "abdc"
            shown = {"btdc": -angle, "atdc": angle, "bbdc": 180 - angle, "abdc": angle - 180}[side]
            points.append((number, f"{shown}", side, lift + (2.0 if angle == 60 else 0.0)))
        for number, text, side, lift in points:
            take(session, key, "degree", [(f"sweep-intake.{number}.point", text, side)], second=f"{lift:.2f}")
        job = loading.load(session, key)
        asked = next(each for each in weighed.open_questions(job) if each.code == "typing-slip")
        assert weighed.where(job, asked) == "9.24 at 60 ATDC"
        wanted = next_reading(job)
        assert wanted.query["again"] == str(asked.seq)
        prompt = methods.prompt(job, wanted.query)
        assert (prompt.extra["angle"], prompt.side) == ("60", "atdc")
        job = take(session, key, "degree", [(prompt.slot, "60", "atdc")], second="7.24")
    assert not any(each.code == "typing-slip" and each.share > 0.5 for each in weighed.open_questions(job))
    assert sweep_points.swept(job, "intake").suspects == []


def test_a_pointer_moved_the_wrong_way_is_told_by_the_error_that_doubles(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, wheel=QUARTER)
        take(
            session, key, "tdc", [("stop.1.before", "42", "btdc"), ("stop.1.after", "38", "atdc"), ("moved", "", None)]
        )
        job = take(session, key, "tdc", [("stop.2.before", "44", "btdc"), ("stop.2.after", "36", "atdc")])
        found = judged(session, key)["stations"]["tdc"]
        assert tdc.find(job).code == "moved-wrong-way"
        assert "44" not in tdc.find(job).sentence
        assert (found["verdict"], [each["code"] for each in found["questions"]]) == ("unsure", ["pointer-moved-wrong"])
        take(session, key, "tdc", [("moved", "", None)])
        right = take(session, key, "tdc", [("stop.3.before", "40", "btdc"), ("stop.3.after", "40", "atdc")])
    assert tdc.find(right).code == "proved-after-moving"


def test_the_contact_after_tdc_may_come_first(client: TestClient, shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, wheel=QUARTER)
    first = {"slot": "stop.1.before", "text": "38", "side": "atdc", "token": "a"}
    client.post(f"/jobs/{key}/tdc", data=first, headers={"HX-Request": "true"})
    with shop.read() as session:
        job = loading.load(session, key)
    assert [(r.slot, r.approach) for r in job.active_readings("tdc")] == [("stop.1.after", "backward")]
    assert (tdc_reading.prompt(job, {}).slot, tdc_reading.prompt(job, {}).side) == ("stop.1.before", "btdc")
    second = {"slot": "stop.1.before", "text": "42", "side": "btdc", "token": "b"}
    client.post(f"/jobs/{key}/tdc", data=second, headers={"HX-Request": "true"})
    with shop.read() as session:
        found = engine_tdc.frame_now(loading.load(session, key)).top
    assert found.zero_error_deg == pytest.approx(-2)


def test_each_lobe_is_drawn_in_the_color_of_its_own_cams_verdict(shop: Shop) -> None:
    late = {"io": ("6", "btdc"), "ic": ("58", "abdc")}
    with shop.write() as session:
        job = four_events(session, two_cams(session), **late)
        for kind in ("io", "ic", "eo", "ec"):
            text, side = {**GOOD, **late}[kind]
            job = take(session, job.key, "degree", [(f"{kind}.2.forward", text, side)])
        one = four_events(session, ready(session, "One cam"), **late)
    verdicts = {each.cam: each.verdict for each in judgment.judged(positions.at_position(job))}
    states = {each.name: each.state for each in drawing.job_lobes(job)}
    assert verdicts["intake"] is Verdict.OUT
    assert states["intake"] == "out"
    assert states["exhaust"] == verdicts["exhaust"].value != "out"
    # One cam is one verdict: the figure's.
    assert {each.state for each in drawing.job_lobes(one)} == {""}
