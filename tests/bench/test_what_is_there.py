"""Asked only of what the engine has, and stated where nobody measured it."""

import pytest
from sqlalchemy.orm import Session

from tests.bench.test_fit import sheet, write
from tests.hands import a_job
from uranograph.bench import checks
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.core.errors import Impossible
from uranograph.core.torque import Stage, stages
from uranograph.shop import jobs
from uranograph.shop.database import Shop
from uranograph.stations.gear_fit import station as gear_fit


def answer_all(session: Session, key: str, text: str) -> Job:
    for answer in gear_fit.answers(jobs.load(session, key)):
        write(session, key, "gear-fit", answer.check.kind, "seen", text)
    return jobs.load(session, key)


def test_a_gear_with_none_of_the_parts_asked_for_is_looked_at_without_an_untruth(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = answer_all(session, key, "na")
    assert all(checks.NONE in answer.check.options for answer in gear_fit.answers(job))
    assert gear_fit.find(job).verdict is Verdict.IN


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
        job = sheet(session, key, "gear-fit", held=held)
    kinds = {answer.check.kind for answer in gear_fit.answers(job)}
    assert asked <= kinds
    assert not not_asked & kinds


def test_a_crank_gear_driven_on_has_the_list_of_the_cam_s(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        before = sheet(session, key, "gear-fit", held="key", goes_on="driven")
        job = sheet(session, key, "gear-fit", held="key", goes_on="driven", crank_too="yes")
        done = answer_all(session, key, "yes")
    kinds = {answer.check.kind for answer in gear_fit.answers(job)}
    assert {"crank-keytried", "crank-support", "crank-home", "crank-marks", "support", "home"} <= kinds
    assert not any(answer.check.kind.startswith("crank-") for answer in gear_fit.answers(before))
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
        with pytest.raises(Impossible):
            stages(wrong, None, "N m")


def test_bolts_snug_and_a_part_of_a_turn_are_ticked_and_turned(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        sheet(session, key, "gear-fit", bolts="2", stages="snug + 1/4 turn")
        answer_all(session, key, "na")
        for bolt in (1, 2):
            assert gear_fit.prompt(jobs.load(session, key), {"method": "bolts"}).options == (("snug", "snug by hand"),)
            write(session, key, "gear-fit", f"torque-1-{bolt}", "pulled", "snug")
        short = write(session, key, "gear-fit", "torque-2-1", "pulled", "60")
        write(session, key, "gear-fit", "torque-2-1", "pulled", "90")
        done = write(session, key, "gear-fit", "torque-2-2", "pulled", "91")
        with pytest.raises(Impossible, match="turn-far-past"):
            write(session, key, "gear-fit", "torque-2-2", "pulled", "200")
        past = write(session, key, "gear-fit", "torque-2-2", "pulled", "130")
    assert gear_fit.find(short).code == "bolt-short-of-torque"
    assert gear_fit.find(done).verdict is Verdict.IN
    assert gear_fit.find(past).code == "bolt-past-torque"
    assert [pull.pulled for pull in gear_fit.pulls(past) if pull.bolt == 2] == [None, 130.0]


def test_a_gear_heated_by_thermometer_alone_says_what_that_allows(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        job = sheet(session, key, "gear-fit", bore="32", heated_c="200")
    heated = gear_fit.setup(job).heated
    assert heated is not None
    # 11.7e-6 x 32 x 180 less 0.03 of slip.
    assert heated.allows_mm == pytest.approx(0.037392)
    assert {"rehearsed", "paint"} <= {answer.check.kind for answer in gear_fit.answers(job)}
    cold = gear_fit.read({"bore": "32", "heated_c": "60"}, job.unit)
    assert set(cold.errors) == {"heated_c"}
    assert set(gear_fit.read({"heated_c": "200"}, job.unit).errors) == {"bore"}


def test_a_gear_measured_hot_tells_its_room_and_counts_down(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session, card=None)
        sheet(session, key, "gear-fit", bore="32", interference="0.05", width="20")
        for kind in ("rehearsed", "paint"):
            write(session, key, "gear-fit", kind, "seen", "yes")
        assert gear_fit.prompt(jobs.load(session, key), {"method": "heat"}).spot.kind == "temperature"
        cool = write(session, key, "gear-fit", "temperature", "measured", "140")
        hot = write(session, key, "gear-fit", "temperature", "measured", "455 F")
    too_cool, gripped = gear_fit.grip(cool), gear_fit.grip(hot)
    assert too_cool is not None
    assert too_cool.loose_s is None
    assert too_cool.room_mm < 0
    assert gripped is not None
    assert gripped.room_mm == pytest.approx(11.7e-6 * 32 * (235 - gripped.grips_c))
    assert gripped.loose_s == pytest.approx(1167, abs=10)
