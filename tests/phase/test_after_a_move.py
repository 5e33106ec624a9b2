"""What is asked for once a cam was moved."""

from tests.hands import ENGINE, WHEEL, a_job, cam_moved, take, true_top
from tests.phase.test_weighed import four_events, ready
from tests.stations.test_glance import READ
from uranograph.bench.finding import Verdict
from uranograph.phase import finding, move_history, turning
from uranograph.shop import asides, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.adjust import rules as adjust


def test_where_the_wheels_zero_went_with_the_move_the_top_is_asked_for_before_anything_is_read(shop: Shop) -> None:
    """Keyways of the crank gear take the wheel off, a cam's own pins do not."""
    choices = {"a1_kind": "choices", "a1_name": "k", "a1_options": "0: 0, A4: 4", "a1_fitted": "0", "unit": "mm"}
    codes = {}
    for where in ("crank", "cam"):
        with shop.write() as session:
            own = a_job(session, title=where)
            true_top(session, own)
            jobs.save_form(session, own, "drive", {**choices, "a1_where": where}, "QZ")
            take(session, own, "degree", READ)
            job = cam_moved(session, own, 4, name="k")
        codes[where] = (adjust.find(job).code, finding.find(job).next_step)
    assert codes["crank"] == (
        "moved-wheel-too",
        "Find true TDC first: no zero of the wheel holds for what is read now.",
    )
    assert codes["cam"] == ("moved", "Read both sides of maximum lift.")


def test_what_a_later_act_ended_is_told_of_the_position_it_was_at_and_the_work_goes_back_to_it(shop: Shop) -> None:
    """Four late, moved, right on; then the gear is turned, and a part fitted: neither is averaged with the other, nor lost."""
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    with shop.write() as session:
        key = ready(session)
        four_events(session, key, **late)
        cam_moved(session, key, 4)
        moved = four_events(session, key)
        for kind in ("gear-turned", "gear-exchanged"):
            asides.act(session, key, "lock-up", kind, "", "QZ")
        job = loading.load(session, key)
    assert not any("Before" in each for each in finding.find(moved).notes)
    found = finding.find(job)
    assert found.verdict is Verdict.OPEN
    assert "Before (a gear was turned by teeth): 0.0, right on." in found.notes
    assert ORDER.last_worked(job).key == "lock-up"
    assert ORDER.next_station(job)[0].key == "degree"


def test_what_turned_freely_before_two_acts_is_turned_again_for_the_first_of_them(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session)
        take(session, key, "turn-over", [("turned.1.seen", "free", None)])
        for kind in ("gear-turned", "gear-exchanged"):
            asides.act(session, key, "lock-up", kind, "", "QZ")
        found = turning.find(loading.load(session, key))
    assert found.code == "turn-again"
    assert "a gear was turned by teeth" in found.sentence


def test_of_two_cams_each_move_is_told_by_what_is_read_before_that_cam_is_moved_again(shop: Shop) -> None:
    """Both are moved, then both read anew: the first cam still stands where its own move left it."""
    with shop.write() as session:
        key = a_job(session, engine={**ENGINE, "valvetrain": "two-cams-over"}, wheel={**WHEEL, "scale": "quarter"})
        true_top(session, key)
        four_events(session, key, io=("10", "btdc"), ic=("54", "abdc"), eo=("57", "bbdc"), ec=("11", "atdc"))
        cam_moved(session, key, 2, name="in", cam="intake")
        cam_moved(session, key, -3, name="ex", cam="exhaust")
        job = four_events(session, key)
        steps = move_history.history(job)
        assert [step.outcome for step in steps] == ["", "as-predicted", "as-predicted"]
        assert [round(steps[1].errors[cam][0], 1) for cam in ("intake", "exhaust")] == [0.0, -3.0]
        # Moved once more, what is read then is not of the positions before.
        cam_moved(session, key, 1, name="in", cam="intake")
        job = four_events(session, key, io=("13", "btdc"), ic=("51", "abdc"))
    errors = [step.errors["intake"][0] for step in move_history.history(job)]
    assert [round(error, 1) for error in errors] == [2.0, 0.0, 0.0, -1.0]
