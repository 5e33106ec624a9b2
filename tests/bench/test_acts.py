"""What was done to the engine ends what was read before, and only that."""

from datetime import UTC, datetime
from pathlib import Path

import pytest
from sqlalchemy.orm import Session

from tests.hands import WHEEL, a_job, cam_moved, take
from uranograph.bench.acts import ACTS
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine import end_play, positions
from uranograph.engine import runout as engine_runout
from uranograph.engine import tdc as engine_tdc
from uranograph.phase import finding, judgment, results
from uranograph.shop import asides, exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.entries import payload_of
from uranograph.stations import ORDER
from uranograph.stations.runout import rules as runout
from uranograph.stations.setting import advice
from uranograph.stations.setting import rules as setting
from uranograph.stations.true_tdc import rules as tdc

ROOT = Path(__file__).parents[2]
# One reading of each station that rests on something, under a name of its own.
READ = {
    "runout": ("set-1.1.dial", "0.01", "0"),
    "choice": ("seat.1.seen", "yes", None),
    "gear-fit": ("marks.1.seen", "yes", None),
    "lobe-room": ("lobe-1.1.gap", "2.1", None),
    "every-valve": ("opens-1.1.forward", "12", None),
    "marks": ("order.1.seen", "yes", None),
    "backlash": ("place.1.travel", "0.10", "0"),
    "sprocket": ("driver.1.depth", "20.0", None),
    "degree": ("io.1.forward", "40", None),
}


PLAYS = {"crank_min": "0.1", "crank_max": "0.2", "crank_way": "dial", "unit": "mm"}


def done(shop: Shop, key: str, kind: str, station: str = "engine", what: str = "", scope: str = "") -> Job:
    with shop.write() as session:
        asides.act(session, key, station, kind, what, "QZ", scope=scope)
        return loading.load(session, key)


def written_past(session: Session, key: str, entry: Entry) -> None:
    """Write a reading past what its station would accept."""
    row = loading.row_of(session, key)
    jobs._append(session, row, "reading", payload_of(entry), "QZ", datetime.now(UTC), entry.station)


def written(shop: Shop) -> str:
    """A job with a reading at every station, written past what each would accept: only the log is looked at."""
    with shop.write() as session:
        key = a_job(session)
        for station, (slot, text, drop) in READ.items():
            entry = Entry(station, slot, text, "btdc" if station == "degree" else None, second=drop)
            written_past(session, key, entry)
    return key


@pytest.mark.parametrize("kind", [kind for kind in ACTS if kind != "indicator-moved"])
def test_an_act_ends_what_rests_on_what_it_disturbs_and_nothing_else(shop: Shop, kind: str) -> None:
    key = written(shop)
    with shop.read() as session:
        before = loading.load(session, key)
    assert {station for station in READ if before.active_readings(station)} == set(READ)
    after = done(shop, key, kind)
    ended = {station for station in READ if not after.active_readings(station)}
    assert ended == {station for station in READ if ORDER.by_key[station].rests_on & set(ACTS[kind].disturbs)}
    for station in ended:
        view, change = after.before_change(station)
        assert [r.slot for r in view.active_readings(station)] == [READ[station][0]]
        assert change.kind == kind
    with shop.write() as session:
        jobs.void(session, key, after.acts(ACTS[kind].disturbs[0])[-1].id, "it was another engine", "QZ")
        again = loading.load(session, key)
    assert {station for station in READ if again.active_readings(station)} == set(READ)


def test_the_table_of_what_ends_what() -> None:
    """Said once more by hand: a gear turned leaves its backlash, a shaft trued leaves the marks."""
    ends = {
        kind: {station.key for station in ORDER.stations if station.rests_on & set(act.disturbs)}
        for kind, act in ACTS.items()
    }
    assert ends == {
        "wheel-moved": {"lock-up"},
        "wheel-refitted": {"lock-up"},
        "cam-moved": {"degree", "adjust", "piston-valve", "every-valve", "turn-over", "lock-up"},
        "cam-refitted": {
            *("by-eye", "lobe-room", "marks", "degree", "adjust"),
            *("piston-valve", "every-valve", "turn-over", "valve-lash", "lock-up"),
        },
        "gear-turned": {"by-eye", "marks", "degree", "adjust", "piston-valve", "every-valve", "turn-over", "lock-up"},
        "gear-exchanged": {
            *("by-eye", "gear-fit", "marks", "backlash", "degree", "adjust"),
            *("piston-valve", "every-valve", "turn-over", "lock-up"),
        },
        "parts-fitted": {
            *("by-eye", "gear-fit", "marks", "backlash", "degree", "adjust"),
            *("piston-valve", "every-valve", "turn-over", "valve-lash", "lock-up"),
        },
        "parts-removed": {
            *("by-eye", "gear-fit", "marks", "backlash", "degree", "adjust"),
            *("piston-valve", "every-valve", "turn-over", "valve-lash", "lock-up"),
        },
        "shims-changed": {"lock-up"},
        "cheek-sanded": {"lock-up"},
        "shaft-trued": {"runout", "choice", "backlash"},
        "sprocket-shimmed": {"sprocket", "lock-up"},
        "lash-changed": {"degree", "piston-valve", "every-valve", "valve-lash", "lock-up"},
        "indicator-moved": {"runout", "tdc", "degree"},
    }


def test_a_moved_indicator_ends_the_half_of_a_pair_and_leaves_whole_ones(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        take(session, key, "tdc", [("stop.1.before", "32", "btdc")])
        take(session, key, "tdc", [("drop.2.before", "32", "btdc"), ("drop.2.after", "28", "atdc")], second="5mm")
        take(session, key, "tdc", [("drop.3.before", "40", "btdc")], second="8mm")
    job = done(shop, key, "indicator-moved", "tdc")
    assert [r.slot for r in job.active_readings("tdc")] == ["stop.1.before", "drop.2.before", "drop.2.after"]
    with shop.write() as session:
        job = take(session, key, "tdc", [("drop.3.before", "41", "btdc"), ("drop.3.after", "37", "atdc")], second="8mm")
    assert [r.text for r in job.active_readings("tdc") if r.spot.number == 3] == ["41", "37"]


def test_what_was_swept_before_the_indicator_moved_goes_once_the_sweep_goes_on(shop: Shop) -> None:
    """A finished sweep stands; points from before and after are never put into one curve."""
    with shop.write() as session:
        key = a_job(session)
        for n, (at, lift) in enumerate((("30", "0.01"), ("35", "0.02")), 1):
            take(session, key, "degree", [(f"sweep-intake.{n}.point", at, "btdc")], second=lift)
    moved = done(shop, key, "indicator-moved", "degree")
    assert len(moved.active_readings("degree")) == 2
    with shop.write() as session:
        other = take(session, key, "degree", [("sweep-exhaust.1.point", "140", "atdc")], second="0.01")
        assert len(other.active_readings("degree")) == 3
        on = take(session, key, "degree", [("sweep-intake.3.point", "25", "btdc")], second="0.03")
    assert [r.slot for r in on.active_readings("degree")] == ["sweep-exhaust.1.point", "sweep-intake.3.point"]


def test_a_trued_shaft_is_judged_by_what_was_read_since_with_what_was_before_beside_it(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "runout", {"unit": "mm", "places": "4"}, "QZ")
        bent = [
            (f"set-1.{n}.dial", text, None, f"{n * 90 - 90}")
            for n, text in enumerate(("0", "0.06", "0.12", "0.06", "0"), 1)
        ]
        for slot, text, _, place in bent:
            take(session, key, "runout", [(slot, text, None)], second=place)
    job = done(shop, key, "shaft-trued", "runout", "in the press")
    assert engine_runout.measured(job) is None
    with shop.write() as session:
        for n, text in enumerate(("0", "0.01", "0.02", "0.01", "0"), 6):
            job = take(session, key, "runout", [(f"set-1.{n}.dial", text, None)], second=f"{(n - 6) * 90}")
    assert engine_runout.measured(job).total_mm == pytest.approx(0.02, abs=0.011)
    assert any("the shaft was trued, in the press" in note and "0.12" in note for note in runout.find(job).notes)


def test_a_moved_wheel_ends_its_zero_and_leaves_what_was_read_before_with_its_own(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        take(session, key, "tdc", [("stop.1.before", "31", "btdc"), ("stop.1.after", "29", "atdc")])
        take(session, key, "tdc", [("left", "", None)])
        lifts = [("intake.1.before", "68", "atdc"), ("intake.1.after", "146", "atdc")]
        job = take(session, key, "degree", lifts, second="1.0")
    before = results.results(job)
    job = done(shop, key, "wheel-moved", "degree")
    assert len(engine_tdc.frames(job)) == 2
    assert tdc.find(job).verdict is Verdict.OPEN
    assert results.results(job) == before
    with shop.write() as session:
        job = take(session, key, "degree", [("intake.2.before", "70", "atdc")], second="1.0")
        job = take(session, key, "degree", [("intake.2.after", "148", "atdc")], second="1.0")
    assert any("True TDC was not found" in doubt for doubt in finding.find(job).doubts)


def test_a_gear_turned_begins_the_tries_anew_and_adjusters_stay_where_they_were(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert [one.number for one in positions.tries(cam_moved(session, key, 3))] == [1]
    job = done(shop, key, "gear-turned", "marks", "one tooth on")
    assert positions.tries(job) == ()
    assert [one.number for one in positions.every_try(job)] == [1]


def test_a_gear_turned_is_degreed_anew_with_what_it_was_beside_it(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        take(session, key, "tdc", [("stop.1.before", "30", "btdc"), ("stop.1.after", "30", "atdc")])
        for lobe, before, after, sides in (
            ("intake", "76", "152", ("atdc",) * 2),
            ("exhaust", "148", "68", ("btdc",) * 2),
        ):
            for n in (1, 2):
                take(session, key, "degree", [(f"{lobe}.{n}.before", before, sides[0])], second="1.0")
                job = take(session, key, "degree", [(f"{lobe}.{n}.after", after, sides[1])], second="1.0")
    late = judgment.phases(job)["both"][0]
    job = done(shop, key, "gear-turned", "marks", "one tooth on")
    found = finding.find(job)
    assert found.verdict is Verdict.OPEN
    assert judgment.phases(job) == {}
    assert found.notes[0] == f"Before (a gear was turned by teeth, one tooth on): {late:.1f} late."


KEYWAYS = {
    "a1_kind": "choices",
    "a1_name": "keyway",
    "a1_options": "R4: -4, 0: 0, A4: 4",
    "a1_fitted": "0",
    "unit": "mm",
}
CAM_BOLTS = {"a1_kind": "tooth", "a1_name": "chain", "a1_teeth": "24", "unit": "mm"}


@pytest.mark.parametrize(
    ("drive", "mount", "frames"),
    [
        (KEYWAYS, "front", 2),
        (KEYWAYS, "rear", 1),
        ({**KEYWAYS, "a1_where": "cam"}, "front", 1),
        (CAM_BOLTS, "front", 1),
    ],
)
def test_a_try_that_takes_the_crank_gear_off_under_the_wheel_ends_its_zero(
    shop: Shop, drive: dict[str, str], mount: str, frames: int
) -> None:
    with shop.write() as session:
        key = a_job(session, wheel={**WHEEL, "mount": mount})
        jobs.save_form(session, key, "drive", drive, "QZ")
        take(session, key, "tdc", [("stop.1.before", "30", "btdc"), ("stop.1.after", "30", "atdc")])
        name = drive["a1_name"]
        job = cam_moved(session, key, 4.0, name)
    assert len(engine_tdc.frames(job)) == frames
    assert [act.text for act in job.acts("wheel")] == ([f"for {name}"] if frames == 2 else [])
    assert (tdc.find(job).verdict is Verdict.OPEN) == (frames == 2)
    assert [one.number for one in positions.tries(job)] == [1]


def test_parts_fitted_with_the_cams_gear_leave_the_cranks_play(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(
            session, key, "end-play", {**PLAYS, "cam_min": "0.05", "cam_max": "0.2", "cam_way": "dial"}, "QZ"
        )
        for part in ("crank", "cam"):
            take(session, key, "end-play", [(f"fitted-{part}.1.seen", "all", None)])
            for n in range(1, 4):
                job = take(session, key, "end-play", [(f"{part}.{n}.travel", "0.15", None)])
    assert {part: end_play.measured(job, part) is not None for part in ("crank", "cam")} == {"crank": True, "cam": True}
    job = done(shop, key, "parts-fitted", "gear-fit")
    assert {part: end_play.measured(job, part) is not None for part in ("crank", "cam")} == {
        "crank": True,
        "cam": False,
    }
    job = done(shop, key, "parts-fitted", "marks")
    assert end_play.measured(job, "crank") is None


def test_shims_changed_without_a_word_of_which_ask_for_the_pack_before_any_advice(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        jobs.save_form(session, key, "end-play", PLAYS, "QZ")
        jobs.save_form(
            session, key, "setting", {"crank_way": "shims", "crank_stock": "0.10; 0.15; 0.20", "unit": "mm"}, "QZ"
        )
        take(session, key, "setting", [("shims-crank.1.fitted", "0.10", None)])
        take(session, key, "end-play", [("fitted-crank.1.seen", "all", None)])
        for n in range(1, 4):
            job = take(session, key, "end-play", [(f"crank.{n}.travel", "0.35", None)])
    assert advice.shim_advice(job, "crank") is not None
    job = done(shop, key, "shims-changed", "end-play", scope="crank")
    assert setting.state_of(job, "crank").code == "pack-unknown"
    with shop.write() as session:
        for n in range(4, 7):
            job = take(session, key, "end-play", [(f"crank.{n}.travel", "0.30", None)])
        assert advice.shim_advice(job, "crank") is None
        job = take(session, key, "setting", [("shims-crank.2.fitted", "0.15", None)])
    assert setting.state_of(job, "crank").code == "changed-not-proved"


def test_shims_of_one_shaft_leave_the_others(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        typed = {"unit": "mm", "crank_min": "0.10", "crank_max": "0.20", "cam_min": "0.05", "cam_max": "0.15"}
        jobs.save_form(session, key, "end-play", typed, "QZ")
        for part in ("crank", "cam"):
            take(session, key, "end-play", [(f"{part}.1.travel", "0.12", None), (f"{part}.2.travel", "0.12", None)])
    job = done(shop, key, "shims-changed", "end-play", scope="crank")
    assert end_play.measured(job, "crank") is None
    assert end_play.latest(job, "crank") is not None
    assert end_play.measured(job, "cam") is not None
    job = done(shop, key, "shims-changed", "runout")
    assert end_play.measured(job, "cam") is None


def test_acts_come_back_from_a_file_and_what_they_ended_can_be_read_again_in_its_slot(shop: Shop) -> None:
    key = written(shop)
    job = done(shop, key, "shaft-trued", "backlash", "twice")
    with shop.write() as session:
        written_past(session, key, Entry("choice", "seat.1.seen", "no"))
        job = loading.load(session, key)
        kept = exchange.export_job(session, key).model_dump_json()
        again = loading.load(session, exchange.import_job(session, exchange.read_job(kept.encode())))
    assert [r.text for r in again.active_readings("choice")] == ["no"]
    assert ORDER.overview(again).keys() == ORDER.overview(job).keys()
    assert [(act.kind, act.text) for act in again.acts("shaft")] == [("shaft-trued", "twice")]


@pytest.mark.parametrize(
    ("kind", "what", "station"),
    [("painted", "", "engine"), ("", "", "engine"), ("shaft-trued", "x" * 65, "engine"), ("shaft-trued", "", "attic")],
)
def test_what_no_act_says_is_refused(shop: Shop, kind: str, what: str, station: str) -> None:
    key = written(shop)
    with pytest.raises(InvalidInput) as refused:
        done(shop, key, kind, station, what)
    assert refused.value.field == "what"


def test_the_same_token_twice_is_one_act(shop: Shop) -> None:
    key = written(shop)
    with shop.write() as session:
        for _ in range(2):
            asides.act(session, key, "runout", "shaft-trued", "", "QZ", "token-act")
        assert len(loading.load(session, key).acts("shaft")) == 1


def test_every_station_offers_acts_that_there_are_and_those_that_end_it() -> None:
    for station in ORDER.stations:
        assert station.acts
        assert set(station.acts) <= ACTS.keys()
        ending = {kind for kind, act in ACTS.items() if set(act.disturbs) & set(station.rests_on)}
        assert ending <= set(station.acts), station.key


def test_the_methods_say_of_each_act_what_is_read_anew() -> None:
    told = (ROOT / "docs" / "methods.md").read_text(encoding="utf-8")
    for act in ACTS.values():
        line = next(line for line in told.splitlines() if line.startswith(f"| {act.words} |"))
        for station in ORDER.stations:
            ended = bool(set(station.rests_on) & set(act.disturbs)) | _apart(station.key, act.disturbs)
            assert (station.title in line) == ended


def _apart(station: str, disturbed: tuple[str, ...]) -> bool:
    """Stations that an act cuts in a way of their own: a mounting of the wheel, the fit of one shaft."""
    return (station, disturbed) == ("tdc", ("wheel",)) or (
        station == "end-play" and bool({"limits", "shims"} & set(disturbed))
    )


def test_a_wheel_that_was_degreed_on_was_left_as_it_was_whatever_is_done_to_a_gear(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        take(session, key, "tdc", [("stop.1.before", "32", "btdc"), ("stop.1.after", "28", "atdc")])
        assert tdc.find(loading.load(session, key)).verdict is Verdict.OPEN
        job = take(session, key, "degree", [("intake.1.before", "68", "atdc")], second="1.0")
    before = tdc.find(job)
    assert before.verdict is not Verdict.OPEN
    assert tdc.find(done(shop, key, "gear-turned", "marks")) == before


@pytest.mark.parametrize(("kind", "refused"), [("gear-turned", True), ("wheel-moved", True), ("shaft-trued", False)])
def test_a_reading_drawn_before_an_act_that_concerns_it_is_shown_again_first(
    shop: Shop, kind: str, refused: bool
) -> None:
    with shop.write() as session:
        key = a_job(session)
        seen = loading.load(session, key).seq
    done(shop, key, kind, "engine")
    entry = jobs.Entry("degree", "intake.1.before", "68", "atdc", second="1.0", unit=LengthUnit.MM)
    with shop.write() as session:
        if refused:
            with pytest.raises(jobs.Changed):
                jobs.record(session, key, entry, "QZ", None, seen)
        else:
            jobs.record(session, key, entry, "QZ", None, seen)
        assert len(loading.load(session, key).active_readings("degree")) == (0 if refused else 1)


def test_only_the_wheel_is_told_of_afterwards(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        job = take(session, key, "tdc", [("stop.1.before", "32", "btdc")])
    with pytest.raises(InvalidInput):
        done(shop, key, "shims-changed", "tdc", scope=str(job.seq))
