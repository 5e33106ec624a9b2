"""The demo shop says what its made-up engines are."""

import pytest

from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.demo import launch, pump
from uranograph.demo.shop import RUNOUT_IN
from uranograph.engine import backlash, gear_train, runout
from uranograph.engine import end_play as engine_end_play
from uranograph.phase import marks as phase_marks
from uranograph.phase import split_overlap
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.drive_choice import rules as drive_choice
from uranograph.stations.end_play import rules as end_play
from uranograph.stations.gear_fit import heating as fit
from uranograph.stations.gear_fit import rules as gear_fit
from uranograph.stations.marks import rules as marks
from uranograph.stations.setting import advice
from uranograph.stations.setting import rules as setting


@pytest.fixture
def shown(demo_shop: Shop) -> dict[str, Job]:
    with demo_shop.read() as session:
        return {job.title.split()[0]: job for job in jobs.page(session).jobs}


def test_the_railcar_has_its_gears_ruled_out_by_runout(shown: dict[str, Job]) -> None:
    job = shown["Railcar"]
    shaft = runout.measured(job)
    assert shaft.total_mm == pytest.approx(RUNOUT_IN * 25.4, abs=2 * shaft.doubt_mm)
    assert len(shaft.rounds) == 2
    assert drive_choice.option(job, "gears").verdict == "no"
    assert drive_choice.find(job).verdict is Verdict.IN
    assert "hydraulic" in drive_choice.chosen(job)
    found = ORDER.overview(job)
    assert {found[key].verdict for key in ("end-play", "setting", "lobe-room")} == {Verdict.IN}
    # While positions are tried the bolts are only snug.
    assert found["gear-fit"].title == "Snug until proved"


def test_the_launch_had_its_crank_play_set_by_shims_in_two_passes(shown: dict[str, Job]) -> None:
    job = shown["Pilot"]
    assert len(engine_end_play.changes(job, "crank")) == 2
    assert setting.find(job).title == "Crank set and proved"
    assert end_play.find(job).verdict is Verdict.IN
    assert gear_fit.find(job).verdict is Verdict.OPEN
    assert fit.heated(job).fit.within_limit
    assert drive_choice.find(job).verdict is Verdict.IN


def test_the_launch_has_a_tight_spot_in_its_backlash_and_marks_that_meet_late(shown: dict[str, Job]) -> None:
    job = shown["Pilot"]
    found = backlash.measured(job)
    assert (found.fitted_loosest_cam_deg + 180) % 360 == pytest.approx(launch.TIGHT_AT_DEG, abs=8)
    assert found.swing_mm == pytest.approx(2 * launch.SWING_MM, abs=0.015)
    of = gear_train.described(job)
    assert of.all_back_after == 82
    assert ORDER.next_station(job)[0].key == "marks"
    assert any(answer.check.kind == "pin-2" and answer.text == "in" for answer in phase_marks.answers(job))


def test_the_hill_climb_cam_is_being_sanded_alike_on_both_sides(shown: dict[str, Job]) -> None:
    job = shown["Hill-climb"]
    of = advice.cheeks(job, "cam")
    assert of.passes == 2
    assert 0 < of.taken_mm("front") < of.wanted_mm
    assert of.apart_mm < 0.02
    assert setting.find(job).verdict is Verdict.OPEN


def test_the_fire_pump_skips_the_fit_with_a_reason_and_is_set_by_split_overlap(shown: dict[str, Job]) -> None:
    job = shown["Fire"]
    found = ORDER.overview(job)
    for station in ORDER.stations:
        if station.group == "Fit":
            assert found[station.key].state == "skipped"
            assert "sealed again" in found[station.key].sentence
    assert split_overlap.measured(job).found.shift_deg == pytest.approx(pump.LATE_DEG, abs=0.7)
    assert marks.find(job).verdict is not Verdict.IN


def test_every_demo_reading_is_one_a_person_could_have_written(shown: dict[str, Job]) -> None:
    for job in shown.values():
        assert {reading.by for reading in job.readings} <= {"RK", "TN"}
        times = [reading.at for reading in job.readings]
        assert times == sorted(times)
        assert all(len(reading.text) <= 64 for reading in job.readings)
