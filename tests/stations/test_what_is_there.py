"""Asked only of what the engine has, and stated where nobody measured it."""

import pytest
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, a_job, cam_moved, take, true_top
from tests.stations.test_fit import filled, write
from uranograph.bench import checks, shop_limits
from uranograph.bench.acts import Move
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Acceptance, Note
from uranograph.core.errors import InvalidInput
from uranograph.core.firing import top_after
from uranograph.core.torque import Stage, stages
from uranograph.engine import card, description, end_play_form, positions
from uranograph.engine import end_play as engine_end_play
from uranograph.engine import runout as engine_runout
from uranograph.engine import stated_tdc as stated
from uranograph.engine import tdc as engine_tdc
from uranograph.phase import finding, judgment, methods, move_history, offers, overlaps, results, set_live
from uranograph.shop import asides, exchange, jobs, library, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.engine import limits
from uranograph.stations.engine import rules as engine
from uranograph.stations.gear_fit import bolts, fit, heating
from uranograph.stations.gear_fit import order as phase_order
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.runout import rules as runout
from uranograph.stations.setting import rules as setting
from uranograph.stations.sprocket_line import rules as sprocket
from uranograph.stations.true_tdc import rules as tdc


def answer_all(session: Session, key: str, text: str) -> Job:
    for answer in phase_order.answers(loading.load(session, key)):
        write(session, key, "gear-fit", answer.check.kind, "seen", text)
    return loading.load(session, key)


def test_a_gear_with_none_of_the_parts_asked_for_is_looked_at_without_an_untruth(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = answer_all(session, key, "na")
    assert all(checks.NONE in answer.check.options for answer in phase_order.answers(job))
    assert (gear_fit.find(job).verdict, gear_fit.find(job).code) == (Verdict.SKIPPED, "nothing-there")


@pytest.mark.parametrize(
    ("held", "asked", "not_asked"),
    [
        ("screw", {"screw", "marks"}, {"key", "keytried", "pattern"}),
        ("one-piece", {"plate", "turns"}, {"key", "marks", "pattern", "screw"}),
        ("dowel", {"pattern"}, {"key", "screw"}),
    ],
)
def test_a_gear_is_asked_about_by_how_it_is_held(shop: Shop, held: str, asked: set[str], not_asked: set[str]) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "gear-fit", held=held)
    kinds = {answer.check.kind for answer in phase_order.answers(job)}
    assert asked <= kinds
    assert not not_asked & kinds


def test_a_crank_gear_driven_on_has_the_list_of_the_cam_s(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        before = filled(session, key, "gear-fit", held="key", goes_on="driven")
        job = filled(session, key, "gear-fit", held="key", goes_on="driven", crank_too="yes")
        done = answer_all(session, key, "yes")
    kinds = {answer.check.kind for answer in phase_order.answers(job)}
    assert {"crank-keytried", "crank-support", "crank-home", "crank-marks", "support", "home"} <= kinds
    assert not any(answer.check.kind.startswith("crank-") for answer in phase_order.answers(before))
    assert gear_fit.find(done).verdict is Verdict.IN
    assert gear_fit.describe(done.readings[-1]).startswith("crank gear, ")


def test_torque_is_called_for_as_a_range_in_steps_or_by_a_part_of_a_turn() -> None:
    assert stages("20; 55-65", None, "N m") == (Stage(20, 20), Stage(55, 65))
    assert stages("40 to 48", 2, "ft lb")[0].most_nm == pytest.approx(48 * 1.3558179483 / 2)
    assert stages("snug", None, "N m") == (Stage(),)
    assert stages("30 + 60 deg", None, "N m") == (Stage(30, 30), Stage(turn_deg=60))
    assert [Stage(55, 65).against(nm) for nm in (54.9, 55, 65, 65.1)] == [-1, 0, 0, 1]
    assert [Stage(turn_deg=90).against(deg) for deg in (84, 85, 95, 96)] == [-1, 0, 0, 1]
    assert [Stage(50, 50).against(nm) for nm in (47.9, 48, 52, 52.1)] == [-1, 0, 0, 1]
    for wrong in ("65-55", "snug + 3 turns", "60; 40", "tight"):
        with pytest.raises(InvalidInput):
            stages(wrong, None, "N m")


def test_bolts_snug_and_a_part_of_a_turn_are_ticked_and_turned(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "gear-fit", bolts="2", stages="snug + 1/4 turn")
        answer_all(session, key, "na")
        for bolt in (1, 2):
            assert gear_fit.prompt(loading.load(session, key), {"method": "bolts"}).options == (
                ("snug", "snug by hand"),
            )
            write(session, key, "gear-fit", f"torque-1-{bolt}", "pulled", "snug")
        short = write(session, key, "gear-fit", "torque-2-1", "pulled", "60")
        write(session, key, "gear-fit", "torque-2-1", "pulled", "90")
        done = write(session, key, "gear-fit", "torque-2-2", "pulled", "91")
        with pytest.raises(InvalidInput, match="turn-far-past"):
            write(session, key, "gear-fit", "torque-2-2", "pulled", "200")
        past = write(session, key, "gear-fit", "torque-2-2", "pulled", "130")
    assert gear_fit.find(short).code == "bolt-short-of-torque"
    assert gear_fit.find(done).verdict is Verdict.IN
    assert gear_fit.find(past).code == "bolt-past-torque"
    assert [pull.pulled for pull in bolts.pulls(past) if pull.bolt == 2] == [None, 130.0]


def test_a_gear_heated_by_thermometer_alone_says_what_that_allows(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = filled(session, key, "gear-fit", bore="32", heated_c="200")
    heated = fit.setup(job).heated
    assert heated is not None
    # 11.7e-6 x 32 x 180 less 0.03 of slip.
    assert heated.allows_mm == pytest.approx(0.037392)
    assert {"rehearsed", "paint"} <= {answer.check.kind for answer in phase_order.answers(job)}
    cold = fit.read({"bore": "32", "heated_c": "60"}, job.unit)
    assert set(cold.errors) == {"heated_c"}
    assert set(fit.read({"heated_c": "200"}, job.unit).errors) == {"bore"}


def test_a_gear_measured_hot_tells_its_room_and_counts_down(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        filled(session, key, "gear-fit", bore="32", interference="0.05", width="20")
        for kind in ("rehearsed", "paint"):
            write(session, key, "gear-fit", kind, "seen", "yes")
        assert gear_fit.prompt(loading.load(session, key), {"method": "heat"}).spot.kind == "temperature"
        cool = write(session, key, "gear-fit", "temperature", "measured", "140")
        hot = write(session, key, "gear-fit", "temperature", "measured", "455 F")
    too_cool, gripped = heating.grip(cool), heating.grip(hot)
    assert too_cool is not None
    assert too_cool.loose_s is None
    assert too_cool.room_mm < 0
    assert gripped is not None
    assert gripped.room_mm == pytest.approx(11.7e-6 * 32 * (235 - gripped.grips_c))
    assert gripped.loose_s == pytest.approx(1167, abs=10)


def lifts_read(session: Session, key: str, intake: tuple[str, str], exhaust: tuple[str, str]) -> Job:
    """Both lobes 1 mm down each side, on a wheel that shows true TDC."""
    take(session, key, "degree", [("intake.1.before", intake[0], "atdc"), ("intake.1.after", intake[1], "atdc")], "1")
    sides = [("exhaust.1.before", exhaust[0], "btdc"), ("exhaust.1.after", exhaust[1], "btdc")]
    return take(session, key, "degree", sides, "1")


def test_a_cylinder_count_is_enough_of_an_engine(shop: Shop) -> None:
    with shop.write() as session:
        typed = {name: ENGINE[name] for name in ("cylinders", "rotation", "unit", "valvetrain", "lift_at")}
        job = loading.load(session, a_job(session, typed))
    found = engine.find(job)
    assert found.verdict is Verdict.IN
    assert "not given" in found.sentence
    assert description.engine_of(job).companions == {}


@pytest.mark.parametrize(
    ("cylinders", "order", "angles", "together", "tops"),
    [
        ("2", "1 2", "0 315", [], [0, 315]),
        ("2", "1 2", "270 450", [], [0, 270]),
        ("2", "1-2", "0 360", [(1, 2)], [0, 0]),
        ("2", "1-2", "0 180", [], [0, 180]),
        ("6", "1-6-5-4-3-2", "90 150 90 150 90 150", [], [0, 90, 240, 330, 120, 210]),
        ("4", "1R 1L 2R 2L", "", [("1L", "2L"), ("1R", "2R")], [0, 180, 0, 180]),
    ],
)
def test_companions_and_tops_follow_from_firing_angles(
    cylinders: str, order: str, angles: str, together: list[tuple[object, object]], tops: list[float]
) -> None:
    read = description.read({**ENGINE, "cylinders": cylinders, "firing_order": order, "firing_angles": angles}).value
    assert read is not None
    assert read.rising_together == together
    first = read.firing_order[0]
    assert [top_after(read.firing_order, read.firing_deg, one, first) for one in read.firing_order] == tops


@pytest.mark.parametrize(
    ("order", "angles", "field"),
    [
        ("1-2", "0 315 400", "firing_angles"),
        ("1-2", "10 315", "firing_angles"),
        ("", "0 315", "firing_order"),
        ("1-2", "0 720", "firing_angles"),
        ("1R 1R", "", "firing_order"),
        ("1R", "", "firing_order"),
    ],
)
def test_firing_that_cannot_be_is_told_beside_its_field(order: str, angles: str, field: str) -> None:
    typed = {**ENGINE, "cylinders": "2", "firing_order": order, "firing_angles": angles}
    assert set(description.read(typed).errors) == {field}


def test_a_cam_is_judged_by_its_target_and_shown_against_its_card(shop: Shop) -> None:
    # The card's ICL is 110, its ECL 110.
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        by_card = lifts_read(session, key, ("66", "146"), ("150", "78"))
        assert finding.find(by_card).code == "early"
        assert finding.find(by_card).quantity.value == pytest.approx(-4, abs=0.02)
        job = filled(session, key, "target", aim="advance", advance="4")
    found = finding.find(job)
    assert (found.verdict, found.code) == (Verdict.UNSURE, "reads-right")
    assert found.quantity.value == pytest.approx(0.0, abs=0.02)
    assert [result.card_error_deg for result in judgment.leading(job)] == pytest.approx([-4, -4])
    assert ("+4.0" in str(found.rows), "−4.0" in str(found.rows)) == (True, True)


def test_a_target_by_centerline_moves_the_other_lobe_alike_and_needs_no_card(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        lifts_read(session, key, ("66", "146"), ("150", "78"))
        job = filled(session, key, "target", aim="centerline", intake_centerline="104")
        assert finding.find(job).quantity.value == pytest.approx(2.0, abs=0.02)
        bare = a_job(session, card=None, title="No card")
        true_top(session, bare)
        lifts_read(session, bare, ("66", "146"), ("150", "78"))
        assert finding.find(loading.load(session, bare)).verdict is Verdict.UNSURE
        job = filled(session, bare, "target", aim="centerline", intake_centerline="106")
    found = finding.find(job)
    assert found.quantity.value == pytest.approx(0.0, abs=0.02)
    # By one centerline alone: the intake's own flanks come first, and nothing is said of an exhaust that is not aimed at.
    assert found.next_step.startswith("Equal lifts near the nose deceive")
    assert [result.lobe for result in judgment.deciding(job)] == ["intake"]


def test_a_target_changed_rewrites_nothing_that_was_judged(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        lifts_read(session, key, ("66", "146"), ("150", "78"))
        filled(
            session, key, "drive", a1_kind="choices", a1_options="0: 0, A4: 4, R4: -4", a1_fitted="0", a1_name="keyway"
        )
        cam_moved(session, key, -4)
        job = filled(session, key, "target", aim="advance", advance="4")
    before, _ = move_history.history(job)
    assert before.errors["both"][0] == pytest.approx(-4.0, abs=0.02)


def test_a_target_by_lift_at_overlap_sets_the_card_s_range_aside(shop: Shop) -> None:
    ranges = {"intake_overlap_min": "1.0", "intake_overlap_max": "1.4"}
    with shop.write() as session:
        key = a_job(session, card={**CARD, **ranges})
        true_top(session, key)
        on_card = take(session, key, "degree", [("overlap-intake.1.lift", "1.2", None)])
        ahead = filled(session, key, "target", aim="advance", advance="5")
    assert results.results(on_card)[0].by_range is Verdict.IN
    aimed = results.results(ahead)[0]
    assert aimed.by_range is None
    assert aimed.error_deg == pytest.approx(results.results(on_card)[0].error_deg + 5)


def test_top_is_taken_as_stated_with_its_doubt_and_read_tops_count_instead(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        stated = filled(session, key, "top", how="mark", by_whom="RK")
        assert tdc.find(stated).code == "as-stated"
        job = lifts_read(session, key, ("70", "150"), ("150", "70"))
        degreed = finding.find(job)
        own = true_top(session, key)
    assert degreed.quantity.uncertainty > 2
    assert any("RK" in note for note in degreed.notes)
    assert engine_tdc.frames(own)[-1].stated is None
    assert engine_tdc.frames(own)[-1].top.uncertainty_deg < 1


def test_a_top_stated_before_the_wheel_was_moved_says_nothing_of_it_now(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "top", how="stop", by_whom="RK")
        job = take(session, key, "tdc", [("moved", "nudged", None)])
    assert tdc.find(job).code == "moved-unproved"


def test_top_on_another_cylinder_puts_readings_on_the_one_that_is_read(shop: Shop) -> None:
    # Fires 1-3-4-2: cylinder 3's top comes half a turn after cylinder 1's.
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        filled(session, key, "top", top_cylinder="1", read_cylinder="3")
        take(session, key, "degree", [("intake.1.before", "110", "btdc"), ("intake.1.after", "30", "btdc")], "1")
        job = loading.load(session, key)
    assert stated.offset_deg(job) == 180
    assert judgment.leading(job)[0].centerline_deg == pytest.approx(110)
    assert [row.difference for row in tdc.find(job).rows if "cylinder" in row.label] == ["180.0"]


@pytest.mark.parametrize(
    ("typed", "field"),
    [
        ({"how": "stop"}, "by_whom"),
        ({"how": "guess", "by_whom": "RK"}, "how"),
        ({"top_cylinder": "9"}, "top_cylinder"),
        ({"top_cylinder": "1"}, "read_cylinder"),
        ({"how": "stop", "by_whom": "RK", "stated_doubt": "40"}, "stated_doubt"),
    ],
)
def test_a_top_that_cannot_be_stated_so_is_told(shop: Shop, typed: dict[str, str], field: str) -> None:
    with shop.write() as session:
        job = loading.load(session, a_job(session))
    assert field in stated.FORM.read(typed, job).errors


def test_where_the_adjuster_stands_is_said_and_its_middle_can_be_aimed_at(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        filled(
            session, key, "drive", a1_kind="choices", a1_options="0: 0, A4: 4, A8: 8", a1_fitted="0", a1_name="keyway"
        )
        found = lifts_read(session, key, ("70", "150"), ("150", "70"))
        assert move_history.fitted_positions(found) == (("keyway", "0"),)
        assert offers.middle(found)["intake"] == pytest.approx(106)
        moved = cam_moved(session, key, 4)
    assert move_history.fitted_positions(moved) == (("keyway", "A4"),)


def test_nobody_is_asked_whether_a_wheel_was_moved_whose_top_is_only_stated(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "top", how="dial", by_whom="RK")
    assert engine_tdc.suspected_move(job) is None


def feel(session: Session, key: str, *blades: tuple[str, str]) -> Job:
    write(session, key, "end-play", "fitted-crank", "seen", "all")
    for blade, answer in blades:
        job = write(session, key, "end-play", "crank", "blade", answer, blade)
    return job


def test_a_play_that_binds_is_less_than_nothing_and_wants_at_least_so_much_off(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", crank_min="0.10", crank_max="0.20")
        filled(session, key, "setting", crank_way="cheeks")
        job = feel(session, key, ("0.10", "binds"))
        assert end_play.find(job).code == "binds"
        advice = setting.state_of(job, "crank")
        assert advice.verdict is Verdict.OPEN
        assert "at least 0.075" in advice.sentence
        asides.act(session, key, "setting", "cheek-sanded", "a pass", "QZ", scope="crank")
        sanded = setting.state_of(loading.load(session, key), "crank")
        assert sanded.code == "changed-not-proved"
        done = feel(session, key, ("0.10", "goes"), ("0.20", "not"))
    assert end_play.find(done).verdict is Verdict.IN
    assert setting.state_of(done, "crank").code == "set-and-proved"


def test_blades_are_stacked_by_a_plus(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "end-play", crank_min="0.30", crank_max="0.50")
        job = feel(session, key, ("0.20+0.15", "goes"), ("0.30 + 0.15", "not"))
        with pytest.raises(InvalidInput):
            feel(session, key, ("0.20+x", "goes"))
    play = engine_end_play.measured(job, "crank")
    assert (play.low_mm, play.high_mm) == pytest.approx((0.35, 0.45))


def test_one_figure_alone_is_a_window_by_the_house_and_says_so(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = filled(session, key, "end-play", crank_single="0.20")
        assert end_play_form.loop_of(job, "crank").low_mm == pytest.approx(0.15)
        assert "0.20 ± 0.05 mm (default)" in end_play.find(job).rows[0].card
        library.set_default(session, "single_figure", "0.02 mm", "QZ")
        job = loading.load(session, key)
        assert end_play_form.loop_of(job, "crank").high_mm == pytest.approx(0.22)
    both = end_play_form.read({"crank_single": "0.2", "crank_min": "0.1", "crank_max": "0.3"}, job.unit)
    assert set(both.errors) == {"crank_single"}


def test_a_limit_of_the_job_stands_before_the_house_s_and_says_so(shop: Shop) -> None:
    with shop.write() as session:
        key, other = a_job(session), a_job(session, title="Another")
        filled(session, key, "sprocket", tolerance="")
        library.set_default(session, "sprocket_line", "0.2 mm", "RK")
        job = filled(session, key, "limits", sprocket_line="0.4")
        rest = loading.load(session, other)
    assert shop_limits.value(job.shop_limits, "sprocket_line") == 0.4
    assert shop_limits.limit_text(job.shop_limits, "sprocket_line", job.unit) == "0.4 mm (for this job, QZ)"
    assert shop_limits.value(rest.shop_limits, "sprocket_line") == 0.2
    assert set(limits.FORM.read({"sprocket_line": "9"}, job).errors) == {"sprocket_line"}


def test_a_whole_travel_is_a_runout_without_a_high_spot(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert runout.prompt(loading.load(session, key), {"method": "total"}).spot.kind == "total"
        job = write(session, key, "runout", "total", "read", "0.06")
        assert (runout.find(job).code, engine_runout.measured(job).total_mm) == ("watched", pytest.approx(0.06))
        asides.act(session, key, "runout", "shaft-trued", "", "QZ")
        assert engine_runout.measured(loading.load(session, key)) is None
        with pytest.raises(InvalidInput):
            write(session, key, "runout", "total", "read", "-0.06")
        trued = write(session, key, "runout", "total", "read", "0.02")
    assert any("0.060" in note for note in runout.find(trued).notes)


def test_a_card_of_lifts_alone_is_a_card(shop: Shop) -> None:
    with shop.write() as session:
        job = loading.load(session, a_job(session, card={"intake_max_lift": "8.5", "unit": "mm"}))
    assert card.card_of(job).intake_max_lift_mm == 8.5
    assert finding.find(job).verdict is Verdict.OPEN
    assert "io_btdc_deg" in card.read({"unit": "mm"}, job.unit).errors


def test_notes_and_what_is_accepted_stand_beside_and_change_no_verdict(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = true_top(session, key)
        reading = job.active_readings("tdc")[0]
        asides.note(session, key, "tdc", "the stop was a little loose", "RK", reading.seq)
        with pytest.raises(InvalidInput, match="nothing-to-accept"):
            asides.accept(session, key, "tdc", "good enough", "RK")
        lifts_read(session, key, ("66", "146"), ("150", "78"))
        before = ORDER.overview(loading.load(session, key))["degree"]
        asides.accept(session, key, "degree", "the owner wants it so", "RK", "once")
        asides.accept(session, key, "degree", "the owner wants it so", "RK", "once")
        job = loading.load(session, key)
    assert before.verdict is Verdict.OUT
    assert ORDER.overview(job)["degree"] == before
    assert [each.reason for each in job.annotations("degree", Acceptance)] == ["the owner wants it so"]
    assert job.accepted("degree").was == before.title
    assert ORDER.next_station(job)[0].key != "degree"
    assert job.annotations("tdc", Note)[0].about == reading.seq
    with shop.write() as session:
        later = take(session, key, "degree", [("intake.2.before", "66", "atdc")], "1")
    assert later.accepted("degree") is None
    assert later.annotations("degree", Acceptance)


def test_a_job_with_notes_and_acceptance_goes_out_and_comes_in_whole(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        lifts_read(session, key, ("66", "146"), ("150", "78"))
        asides.note(session, key, "engine", "found in a barn", "RK")
        asides.accept(session, key, "degree", "as it is", "RK")
        filled(session, key, "way", way="degree")
        kept = exchange.export_job(session, key)
        again = loading.load(session, exchange.import_job(session, exchange.read_job(kept.model_dump_json().encode())))
    assert again.annotations("engine", Note)[0].words == "found in a barn"
    assert again.accepted("degree").reason == "as it is"
    assert ORDER.workflow_of(again).key == "degree"


def test_a_greatest_lift_is_one_reading_and_asks_where_it_is_off_the_card(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        lifts_read(session, key, ("70", "150"), ("150", "70"))
        assert methods.prompt(loading.load(session, key), {"method": "peak"}).spot.kind == "peak-intake"
        good = take(session, key, "degree", [("peak-intake.1.lift", "8.46", None)])
        short = take(session, key, "degree", [("peak-exhaust.1.lift", "8.3", None)])
        with pytest.raises(InvalidInput):
            take(session, key, "degree", [("peak-exhaust.2.lift", "0", None)])
    assert [row.measured for row in finding.find(short).rows if row.label.endswith(" lift")] == ["8.46", "8.30"]
    assert not any("intake reaches" in note for note in finding.find(good).notes)
    assert any("exhaust reaches 2 % less" in note for note in finding.find(short).notes)
    # Where the cam stands is not read off a lift; how surely is, where the lift is off.
    assert judgment.phases(short)["both"][0] == pytest.approx(judgment.phases(good)["both"][0])


def test_two_cam_sprockets_on_one_chain_have_their_own_depths(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        filled(session, key, "sprocket", tolerance="0.2", shim="0.5", second="yes", second_offset="1.0")
        write(session, key, "sprocket", "driver", "depth", "20.00")
        first = write(session, key, "sprocket", "driven", "depth", "20.05")
        assert sprocket.find(first).verdict is Verdict.OPEN
        assert sprocket.prompt(first, {}).spot.kind == "second"
        out = write(session, key, "sprocket", "second", "depth", "21.60")
        found = sprocket.find(out)
        assert (found.verdict, found.quantity.value) == (Verdict.OUT, pytest.approx(0.6))
        assert "second cam sprocket must come" in found.sentence
        asides.act(session, key, "sprocket", "sprocket-shimmed", "one shim", "QZ")
        for which, depth in (("driver", "20.00"), ("driven", "20.05"), ("second", "21.10")):
            job = write(session, key, "sprocket", which, "depth", depth)
    assert sprocket.find(job).verdict is Verdict.IN
    assert sum("Out of line" in row.label for row in sprocket.find(job).rows) == 2


def test_a_card_of_lift_at_overlap_alone_opens_with_it_and_its_slope_is_read(shop: Shop) -> None:
    ranges = {"intake_overlap_min": "1.0", "intake_overlap_max": "1.4", "unit": "mm"}
    with shop.write() as session:
        key = a_job(session, card=ranges)
        job = true_top(session, key)
        assert methods.chosen_method(job, {}) == "overlap"
        nominal = take(session, key, "degree", [("overlap-intake.1.lift", "0.7", None)])
        asked = methods.prompt(nominal, {"method": "overlap", "lobe": "intake", "item": "on"})
        assert (asked.spot.place, asked.spot.number) == ("on", 1)
        job = take(session, key, "degree", [("overlap-intake.1.on", "1.1", None)], "4")
        one = overlaps.measured(job, "intake")[0]
        # 0.1 mm a degree as read: half a millimeter below the middle is five degrees late.
        assert (one.slope_mm_per_deg, one.error_deg) == (pytest.approx(0.1), pytest.approx(5.0))
        assert one.uncertainty_deg < overlaps.measured(nominal, "intake")[0].uncertainty_deg
        other = take(session, key, "degree", [("overlap-intake.2.lift", "1.2", None)])
        assert overlaps.slope_read(other, "intake", 2) is None
        wrong = take(session, key, "degree", [("overlap-intake.2.on", "0.9", None)], "4")
        assert overlaps.slope_read(wrong, "intake", 2) is None
        for turned in ("0", "11", "x"):
            with pytest.raises(InvalidInput):
                take(session, key, "degree", [("overlap-intake.3.on", "1.1", None)], turned)


def test_the_lobe_that_is_locked_stands_on_the_verdict(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        filled(session, key, "top", lobe_read="the tall lobe, locked")
        job = lifts_read(session, key, ("70", "150"), ("150", "70"))
    assert any("the tall lobe, locked" in note for note in finding.find(job).notes)
    assert stated.offset_deg(job) == 0


@pytest.mark.parametrize(("moved_deg", "worth"), [(3.0, 0.75), (6.0, 1.5), (8.1, 2.0), (4.1, 1.0), (1.0, 1.0)])
def test_what_a_mark_is_worth_is_learned_from_a_move(shop: Shop, moved_deg: float, worth: float) -> None:
    with shop.write() as session:
        key = a_job(session)
        true_top(session, key)
        lifts_read(session, key, ("80", "160"), ("140", "60"))
        filled(session, key, "drive", a1_kind="slot", a1_name="slot", a1_range="12", a1_step="1")
        moves = [Move("slot", "as it is", "4 steps advanced", 4.0)]
        jobs.move(session, key, positions.act_of("both", 4.0, moves), "QZ", None, None)
        late = 10 - moved_deg
        job = lifts_read(session, key, (f"{70 + late:g}", f"{150 + late:g}"), (f"{150 - late:g}", f"{70 - late:g}"))
    adjuster = set_live.fitted_now(job).adjusters[0].adjuster
    assert adjuster.step_deg * (2 if adjuster.marks == "cam" else 1) == pytest.approx(worth, abs=0.01)
    assert move_history.fitted_positions(job) == (("slot", "4 advanced on its marks (crank deg)"),)
    assert bool(offers.learned_words(job)) == (worth not in (1.0, 2.0))
