"""The plan of a cam change: its list, its lanes, and its running clock."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from fastapi.testclient import TestClient
from sqlalchemy.orm import Session

from tests.hands import CARD, ENGINE, a_job, with_forms
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Entry
from uranograph.bench.station import ViewState
from uranograph.core.errors import InvalidInput
from uranograph.core.plan import hands_of
from uranograph.shop import jobs, loading, shelving
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.change_plan import rules as plan
from uranograph.stations.change_plan import running
from uranograph.stations.change_plan import station as index
from uranograph.stations.change_plan.drawing import figure
from uranograph.stations.change_plan.learned import minutes_taken
from uranograph.stations.change_plan.tasks import read, suggested

TASKS = "drain; 20; 0\ncovers; 15; 1\nsprings; 30; 2; covers; compressor\nmove; 10; 1; springs, drain\nrun; 10; 2; move; ; 41 kW"
PEOPLE = "RK, TN"
AT = datetime(2026, 3, 2, 8, tzinfo=UTC)


def listed(session: Session, tasks: str = TASKS, title: str = "Test bench four") -> str:
    key = a_job(session, title=title)
    jobs.save_form(session, key, "plan", {"tasks": tasks, "people": PEOPLE}, "QZ")
    return key


def tick(session: Session, key: str, task: int, place: str, minutes: float, text: str = "now") -> Job:
    job = loading.load(session, key)
    kind = f"task-{task}"
    entry = Entry("change-plan", f"{kind}.{job.next_number('change-plan', kind)}.{place}", text)
    entry = plan.label_entry(job, entry)
    jobs.record(session, key, entry, "QZ", None, None, AT + timedelta(minutes=minutes))
    return loading.load(session, key)


def test_the_plan_is_as_long_as_its_hands_make_it_and_says_who_does_what(shop: Shop) -> None:
    with shop.write() as session:
        job = loading.load(session, listed(session))
    found = running.running(job)
    assert found.planned_min == 65
    assert found.bound == 65
    hands = hands_of(found.work, found.starts)
    assert [found.change.names(each) for each in hands] == ["", "RK", "RK, TN", "RK", "RK, TN"]
    assert plan.find(job).code == "planned"


def test_the_first_tick_starts_the_clock_and_the_end_is_forecast_anew_at_each(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        tick(session, key, 1, "start", 0)
        tick(session, key, 2, "start", 0)
        job = tick(session, key, 2, "done", 25)
        found = running.running(job)
        # Ten minutes behind: all that comes after the covers is later by them. Nobody said that it is drained.
        assert found.end_min == pytest.approx(75)
        assert [found.change.tasks[k].task.name for k in found.late] == ["drain", "covers"]
        assert plan.find(job).code == "late"
        assert "10 min later" in plan.find(job).sentence
        tick(session, key, 1, "done", 26)
        tick(session, key, 3, "start", 26)
        job = tick(session, key, 3, "done", 40)
        # The springs went faster than planned: 14 instead of 30.
        assert running.running(job).end_min == pytest.approx(60)
        assert "5 min sooner" in plan.find(job).sentence


def test_what_each_of_them_is_at_now_and_what_comes_next(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        assert plan.prompt(loading.load(session, key), {}).label == "drain, begun"
        tick(session, key, 1, "start", 0)
        job = tick(session, key, 2, "start", 1)
        assert plan.doing(running.running(job)) == ["RK: covers"]
        assert plan.prompt(job, {}).label == "covers, done"
        assert plan.prompt(job, {"item": "1"}).label == "drain, done"
        job = tick(session, key, 2, "done", 15)
        assert plan.prompt(job, {}).label == "springs, begun"
        assert "RK, TN" in plan.prompt(job, {}).hint
        assert "compressor" in plan.prompt(job, {}).hint


def test_a_run_is_asked_for_its_result_which_stands_beside_its_target(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        minutes = 0
        for task in (1, 2, 3, 4, 5):
            tick(session, key, task, "start", minutes)
            minutes += 10
            job = tick(session, key, task, "done", minutes)
        assert plan.find(job).verdict is Verdict.IN
        asked = plan.prompt(job, {})
        assert asked.slot == "run-5.1.result"
        assert "41 kW" in asked.hint
        jobs.record(session, key, Entry("change-plan", asked.slot, "42.5 kW"), "QZ", None, None)
        job = loading.load(session, key)
    assert plan.prompt(job, {}) is None
    assert any(row.label == "run" and row.difference == "42.5 kW" for row in plan.find(job).rows)


def test_a_tick_can_tell_of_minutes_ago(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        tick(session, key, 2, "start", 10, "10")
        job = tick(session, key, 2, "done", 30, "5")
    tick_of = running.running(job).ticks[1]
    assert (tick_of.begun, tick_of.done) == (AT, AT + timedelta(minutes=25))


def test_done_without_a_beginning_is_taken_to_have_begun_as_planned_before(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        tick(session, key, 1, "start", 0)
        job = tick(session, key, 2, "done", 40)
    assert running.running(job).expected[0][1] == pytest.approx(25)


@pytest.mark.parametrize(
    ("slots", "code"),
    [
        ([("task-9.1.start", "now")], "no-such-task-here"),
        ([("task-1.1.start", "soon")], "not-a-tick"),
        ([("task-1.1.start", "601")], "not-a-tick"),
        ([("task-1.1.start", "now"), ("task-1.2.start", "now")], "already-begun"),
        ([("task-1.1.done", "now"), ("task-1.2.done", "now")], "already-done"),
        ([("run-5.1.result", " ")], "result-empty"),
    ],
)
def test_ticks_that_cannot_be_are_refused(shop: Shop, slots: list[tuple[str, str]], code: str) -> None:
    with shop.write() as session:
        key = listed(session)
        *before, last = slots
        for slot, text in before:
            jobs.record(session, key, Entry("change-plan", slot, text), "QZ", None, None)
        with pytest.raises(InvalidInput) as refused:
            jobs.record(session, key, Entry("change-plan", last[0], last[1]), "QZ", None, None)
    assert refused.value.code == code


def test_the_plan_that_was_begun_stands_though_a_shorter_one_is_found(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        job = tick(session, key, 1, "start", 0)
    began = running.running(job)
    running._keep(began.work, (tuple(s + 100 for s in began.starts), 1.0))
    try:
        assert running.running(job).starts == began.starts
    finally:
        running._known.clear()


def test_a_search_never_makes_the_plan_longer_and_keeps_what_it_found(shop: Shop) -> None:
    lines = "\n".join(
        f"t{k}; {5 + 7 * k % 23}; {1 + k % 2}" + (f"; t{k - 3}" if k > 2 and k % 2 else "") for k in range(14)
    )
    with shop.write() as session:
        job = loading.load(session, listed(session, lines))
    before = running.running(job)
    starts, bound = running.searched(before.work, 0.5)
    after = running.running(job)
    assert after.planned_min <= before.planned_min
    assert after.starts == starts
    assert before.bound <= bound <= after.planned_min + 1e-9


@pytest.mark.parametrize(
    ("tasks", "told"),
    [
        ("drain", "Line 1"),
        ("drain; soon", "no number of minutes"),
        ("drain; -5", "no number of minutes"),
        ("drain; 2001", "no number of minutes"),
        ("drain; 10; many", "no number of hands"),
        ("drain; 10; 3", "takes 3 hands"),
        ("a; 1; 1; b\nb; 1; 1; a", "in a circle"),
        ("a; 1\na; 2", "stands twice"),
        ("a; 1; 1; z", "not among the tasks"),
        ("; 10", "Line 1"),
        ("a" * 61 + "; 10", "60 letters"),
        ("\n".join(f"t{k}; 1" for k in range(61)), "61 tasks"),
        ("", "one a line"),
    ],
)
def test_a_list_that_cannot_be_is_told_by_its_line(tasks: str, told: str) -> None:
    filled = read({"people": PEOPLE, "tasks": tasks})
    assert filled.value is None
    assert told in filled.errors["tasks"]


def test_the_list_that_follows_from_an_engine_is_a_plan_and_knows_its_drive() -> None:
    over = ENGINE | {"valvetrain": "two-cams-over"}
    drive = {
        "a1_kind": "choices",
        "a1_name": "crank gear",
        "a1_options": "0: 0, A4: 4",
        "a1_fitted": "0",
        "a1_opens": "crank",
    }
    pinned = {"d1_kind": "tensioner", "d1_pinned": "yes"}
    plain = suggested(with_forms(engine=ENGINE, card=CARD))
    assert read({**plain, "people": PEOPLE}).value is not None
    assert "rockers loose" in plain["tasks"]
    assert "board with 8 holes" in plain["tasks"]
    other = suggested(with_forms(**{"engine": over, "drive": drive, "by-eye": pinned}))
    assert read({**other, "people": PEOPLE}).value is not None
    assert "cam caps loose" in other["tasks"]
    assert "pin counted" in other["tasks"]


def test_the_figure_has_a_lane_for_each_and_marks_what_is_late_by_shape_and_word(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session)
        tick(session, key, 2, "start", 0)
        job = tick(session, key, 2, "done", 40)
    drawn = figure(job, ViewState()).svg()
    for lane in ("RK", "TN", "waits"):
        assert f">{lane}</text>" in drawn
    assert 'class="late-mark"' in drawn
    assert ">late</text>" in drawn


def test_without_the_solver_the_page_says_how_the_plan_was_made(shop: Shop, monkeypatch: pytest.MonkeyPatch) -> None:
    tasks = "a; 2; 1\nb; 2; 1\nc; 8; 2; b\nd; 8; 1\ne; 1; 2; c"
    with shop.write() as session:
        job = loading.load(session, listed(session, tasks))
    found = running.running(job)
    assert found is not None
    for module in ("uranograph.core.plan", "uranograph.stations.change_plan.station"):
        monkeypatch.setattr(f"{module}.has_solver", lambda: False)
    assert found.planned_min > found.bound
    told = index._length(job, found)
    assert told["told"].startswith("Made by priority alone: 19 min, at most")
    assert told["searching"] is False


def test_nobody_is_there_before_somebody_says_so(shop: Shop) -> None:
    with shop.write() as session:
        key = a_job(session)
        assert suggested(loading.load(session, key))["people"] == ""
        jobs.save_form(session, key, "engine", ENGINE | {"bore": "91"}, "RK")
        assert suggested(loading.load(session, key))["people"] == "QZ, RK"
    assert suggested(Job("", ""))["people"] == ""


def test_minutes_are_what_tasks_took_in_this_shops_earlier_plans(client: TestClient, shop: Shop) -> None:
    name = "valve covers off"
    with shop.write() as session:
        for took in (22, 30, 26):
            key = listed(session, f"{name}; 15; 1\nrun; 10; 2; {name}", f"took {took}")
            tick(session, key, 1, "start", 0)
            tick(session, key, 1, "done", took)
        binned = listed(session, f"{name}; 15; 1", "binned")
        tick(session, binned, 1, "start", 0)
        tick(session, binned, 1, "done", 600)
        shelving.move_to(session, binned, "bin")
        new = a_job(session, title="The next")
    with shop.read() as session:
        earlier = loading.with_form(session, "plan", 20, new)
        assert len(earlier) == 3
        found = ORDER.by_key["change-plan"].suggest(loading.load(session, new), earlier)
    assert minutes_taken(earlier) == {name: 26.0}
    assert f"{name}; 26; 1; ignition off and plugs out; sockets" in found.typed["tasks"].splitlines()
    page = client.get(f"/jobs/{new}/change-plan?edit=1").text
    assert "Minutes as they were in this shop" in page
    assert f"{name}; 26; 1" in page


@pytest.mark.parametrize(
    ("wanted", "told"),
    [("1:00", "Wanted after 1 h 00 min: 5 min too long"), ("90", "Wanted after 1 h 30 min: 25 min to spare")],
)
def test_a_wanted_end_is_held_against_the_plan(client: TestClient, shop: Shop, wanted: str, told: str) -> None:
    with shop.write() as session:
        key = a_job(session)
        typed = {"tasks": TASKS, "people": PEOPLE, "wanted_end": wanted}
        jobs.save_form(session, key, "plan", typed, "QZ")
        job = loading.load(session, key)
    assert told in client.get(f"/jobs/{key}/change-plan").text
    assert "wanted " in figure(job, ViewState()).svg()


@pytest.mark.parametrize("typed", ["soon", "0", "3:99:1", "-5", "200:00"])
def test_what_is_no_time_is_refused_with_what_was_typed(typed: str) -> None:
    found = read({"tasks": TASKS, "people": PEOPLE, "wanted_end": typed})
    assert found.value is None
    assert typed in found.errors["wanted_end"]


def test_two_tasks_of_one_person_at_once_lie_side_by_side(shop: Shop) -> None:
    with shop.write() as session:
        key = listed(session, "one; 20; 1\ntwo; 20; 1\nthree; 5; 1; one, two")
        jobs.save_form(
            session, key, "plan", {"tasks": "one; 20; 1\ntwo; 20; 1\nthree; 5; 1; one, two", "people": "RK"}, "QZ"
        )
        tick(session, key, 1, "start", 0)
        job = tick(session, key, 2, "start", 5)
    drawn = figure(job, ViewState()).svg()
    heights = {float(each) for each in re.findall(r'<rect class="went-bar under-way"[^>]*height="([\d.]+)"', drawn)}
    tops = {float(each) for each in re.findall(r'<rect class="went-bar under-way"[^>]* y="([\d.]+)"', drawn)}
    assert len(tops) == 2
    assert max(tops) - min(tops) == pytest.approx(heights.pop(), abs=0.2)
