"""The rules that turn chances into verdicts and advice, on both sides of each bound; the strip, and what readings pull."""

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import WHEEL, a_job, cam_moved, proved_by, take, true_top
from tests.phase.test_weighed import GOOD, four_events, ready
from tests.stations.test_fit import filled
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.verdict import FALSE_VERDICT
from uranograph.phase import finding, influence, judgment, next_reading, observations, offers, set_live, weighed
from uranograph.phase.weighed import PosteriorPhase
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations.adjust import rules as adjust
from uranograph.stations.degree import chances

LATE = {"io": ("11.5", "btdc"), "ic": ("52.5", "abdc"), "eo": ("53.5", "bbdc"), "ec": ("14.5", "atdc")}


@pytest.mark.parametrize(
    ("within", "plain", "asked", "wanted"),
    [
        (0.9801, 1 - FALSE_VERDICT, 0.1, Verdict.IN),
        (0.9801, 0.9979, 0.1, Verdict.UNSURE),
        (0.9799, 0.9999, 0.1, Verdict.UNSURE),
        (0.9999, 0.9999, 0.31, Verdict.UNSURE),
        (0.0199, FALSE_VERDICT, 0.3, Verdict.OUT),
        (0.0199, 0.0021, 0.1, Verdict.UNSURE),
        (0.0201, 0.0, 0.1, Verdict.UNSURE),
        (0.0, 0.0, 0.31, Verdict.UNSURE),
    ],
)
def test_a_verdict_is_seldom_wrong_with_all_that_may_be_wrong_and_no_question_stands(
    shop: Shop, monkeypatch: pytest.MonkeyPatch, within: float, plain: float, asked: float, wanted: Verdict
) -> None:
    from uranograph.evidence.faults import Suspect

    assert pytest.approx(0.002) == FALSE_VERDICT
    with shop.write() as session:
        job = four_events(session, ready(session))
    monkeypatch.setattr(weighed, "posterior_phase", lambda *_: PosteriorPhase(0.1, 0.3, within, plain))
    monkeypatch.setattr(weighed, "open_questions", lambda _: (Suspect("lash-wrong", asked),))
    found = judgment._cam_judged(job, "both", judgment.deciding(job), 1)
    assert found.verdict is wanted


@pytest.mark.parametrize(("shift", "offered"), [("0.31", True), ("0.29", False)])
def test_a_position_is_better_where_it_leaves_three_tenths_less(shop: Shop, shift: str, offered: bool) -> None:
    with shop.write() as session:
        key = ready(session, f"Better {shift}")
        options = f"0: 0, A: {shift}"
        filled(session, key, "drive", a1_kind="choices", a1_options=options, a1_fitted="0", a1_name="k", a1_where="cam")
        four_events(session, key, **LATE)
        job = proved_by(session, key, ("io", *LATE["io"]))
    assert finding.find(job).verdict is Verdict.IN
    assert (offers.better_than_now(job, "both") is not None) is offered
    assert adjust.find(job).code == ("better-position" if offered else "no-move-needed")


@pytest.mark.parametrize(("step", "offered"), [("0.8", True), ("1.2", False)])
def test_a_slot_that_is_set_by_the_dial_is_not_bound_to_its_marks(shop: Shop, step: str, offered: bool) -> None:
    """Half a degree late: a mark of 0.8 would leave 0.3, the dial nothing; past where it stands no mark is better."""
    with shop.write() as session:
        key = ready(session, f"Slot {step}")
        filled(session, key, "drive", a1_kind="slot", a1_name="slot", a1_range="10", a1_step=step)
        job = four_events(session, key, **LATE)
    assert set_live.live(job, "both") is not None
    assert (offers.better_than_now(job, "both") is not None) is offered


def test_no_move_is_offered_as_better_where_the_set_up_may_be_wrong(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Slip")
        filled(session, key, "drive", a1_kind="choices", a1_options="0: 0, R4: -4", a1_fitted="0", a1_name="k")
        job = four_events(session, key, ic=("62", "abdc"))
    assert weighed.held(job)
    assert offers.better_than_now(job, "both") is None
    assert adjust.find(job).verdict is finding.find(job).verdict is Verdict.UNSURE


def test_the_strip_shows_how_the_chances_came_about_and_a_reading_that_disagrees_by_its_shape(
    client: TestClient, shop: Shop
) -> None:
    with shop.write() as session:
        good, bad = ready(session, "Strip"), ready(session, "Bad strip")
        job, slipped = four_events(session, good), four_events(session, bad, ic=("62", "abdc"))
    course = chances.course(job)
    assert len(course) == 4
    assert course[-1].within > course[0].within
    for each in course:
        assert each.within + each.out == pytest.approx(1)
    assert not any(pull.is_outlier for pull in influence.leave_one_out_influence(job))
    assert next(pull.words for pull in influence.leave_one_out_influence(slipped) if pull.is_outlier) == "IO 12 BTDC"
    assert 'class="suspect"' in chances.figure(slipped).svg()
    assert 'class="suspect"' not in chances.figure(job).svg()
    page = client.get(f"/jobs/{good}/asked", headers={"HX-Request": "true"}).text
    assert "Each reading against the card" in page
    assert "Not proved yet" not in page
    assert "Read next:" in page
    assert client.get(f"/jobs/{bad}/asked", headers={"HX-Request": "true"}).text.count("1 in 2") >= 1


def left_out(session: Session, key: str) -> Job:
    job = loading.load(session, key)
    last = job.active_readings("degree")[-1]
    jobs.void(session, key, last.id, "typing slip", "QZ")
    return loading.load(session, key)


def test_what_a_reading_pulls_is_what_the_phase_changes_by_without_it(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Pull")
        with_it = four_events(session, key, ec=("15", "atdc"))
        pull = influence.leave_one_out_influence(with_it)[-1]
        without = left_out(session, key)
    assert pull.words == "EC 15 ATDC"
    changed = weighed.weighed(with_it).phase().late_deg - weighed.weighed(without).phase().late_deg
    assert pull.pulls_deg == pytest.approx(changed, abs=0.02)


def test_a_greatest_lift_and_a_base_hold_wherever_the_cam_is_moved(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Peaks stay")
        filled(
            session,
            key,
            "drive",
            a1_kind="choices",
            a1_options="0: 0, A4: 4",
            a1_fitted="0",
            a1_name="k",
            a1_where="cam",
        )
        take(session, key, "degree", [("peak-intake.1.lift", "8.5", None), ("base-intake.1.dial", "0", None)])
        four_events(session, key)
        cam_moved(session, key, 4, name="k")
        job = four_events(session, key)
    kinds = [each.kind for each in observations.gathered(job).readings]
    assert (kinds.count("peak"), kinds.count("base"), kinds.count("event")) == (1, 1, 4)


def test_the_next_reading_is_the_other_half_of_what_was_begun(shop: Shop) -> None:
    with shop.write() as session:
        key = ready(session, "Half")
        four_events(session, key)
        job = take(session, key, "degree", [("intake.1.before", "70", "atdc")], "1")
        assert next_reading.next_reading(job).query == {"method": "lifts", "lobe": "intake"}
        take(session, key, "degree", [("intake.1.after", "30", "bbdc")], "1")
        job = take(session, key, "tdc", [("stop.2.before", "40", "btdc")])
    assert (next_reading.next_reading(job).station, next_reading.next_reading(job).why) == ("tdc", "half-read")
    assert set(GOOD) == {"io", "ic", "eo", "ec"}


def test_a_cam_that_slides_is_set_by_the_dial_where_the_wheel_will_show_its_event(shop: Shop) -> None:
    late = {"io": ("8", "btdc"), "ic": ("56", "abdc"), "eo": ("50", "bbdc"), "ec": ("18", "atdc")}
    slot = {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1"}
    with shop.write() as session:
        key = ready(session, "Live")
        assert set_live.live(loading.load(session, key), "both") is None
        job = four_events(session, key, **late)
        assert set_live.live(job, "both") is None
        job = filled(session, key, "drive", **slot)
        found = set_live.live(job, "both")
        assert (found.kind, found.text, found.side, found.lift_mm) == ("io", "12", "btdc", 1.0)
        shifted = a_job(session, wheel={**WHEEL, "scale": "quarter"}, title="Live, wheel off")
        true_top(session, shifted, "38.5", "41.5")
        filled(session, shifted, "drive", **slot)
        # The wheel shows 1.5 after at the top: every figure after it is as much more.
        off = {"io": ("6.5", "btdc"), "ic": ("57.5", "abdc"), "eo": ("48.5", "bbdc"), "ec": ("19.5", "atdc")}
        found = set_live.live(four_events(session, shifted, **off), "both")
        assert (found.text, found.side) == ("10.5", "btdc")
        keyed = ready(session, "Keyed")
        filled(session, keyed, "drive", a1_kind="choices", a1_options="0: 0, A4: 4", a1_fitted="0", a1_name="k")
        assert set_live.live(four_events(session, keyed, **late), "both") is None


def test_by_equal_lifts_a_cam_that_slides_is_set_on_the_flank_that_was_read(shop: Shop) -> None:
    slot = {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1"}
    # The card: both centerlines 110; two drops, each lobe four late.
    read = [
        *(("1", *pair) for pair in (("intake", "69.5", "158.5"), ("exhaust", "148.5", "63.5"))),
        *(("5", *pair) for pair in (("intake", "50", "178"), ("exhaust", "170", "42"))),
    ]
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "scale": "half"}, title="Live by lifts")
        true_top(session, key)
        job = filled(session, key, "drive", **slot)
        for n, (drop, lobe, before, after) in enumerate(read, 1):
            side = "atdc" if lobe == "intake" else "btdc"
            pair = [(f"{lobe}.{n}.before", before, side), (f"{lobe}.{n}.after", after, side)]
            job = take(session, key, "degree", pair, second=drop)
        found = set_live.live(job, "both")
        assert (found.kind, found.lift_mm, found.drop_mm) == ("intake", None, 5.0)
        # Where the deepest opening was read, less what the cam is late by; no event of the card is leaned on.
        late = judgment.phases(job)["both"][0]
        assert (float(found.text), found.side) == (pytest.approx(50 - late, abs=0.06), "atdc")
        assert late == pytest.approx(4, abs=0.3)


LITTLE, NOTHING = "wheel-proves-within", "wheel-cannot-prove"


@pytest.mark.parametrize(
    ("division", "tolerance", "code"),
    [
        ("1", "1", ""),
        ("0.5", "1", ""),
        ("1", "0.5", NOTHING),
        ("0.5", "0.5", LITTLE),
        ("1", "0.3", NOTHING),
        ("5", "1", NOTHING),
    ],
)
def test_what_a_wheel_cannot_prove_is_said_before_it_is_read(
    shop: Shop, division: str, tolerance: str, code: str
) -> None:
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "scale": "quarter", "division": division}, title="Before")
        true_top(session, key)
        job = filled(session, key, "rules", tolerance=tolerance, basis="both")
        notes = [note.code for note in finding.find(job).notes if note.code in (LITTLE, NOTHING)]
        assert notes == ([code] if code else [])
        assert not any(note.code in (LITTLE, NOTHING) for note in finding.find(four_events(session, key)).notes)
