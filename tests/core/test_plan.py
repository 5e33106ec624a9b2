"""The shortest plan: against trying every order, and what a plan must keep."""

from itertools import permutations
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from uranograph.bench.calculations import calculate
from uranograph.core.errors import InvalidInput
from uranograph.core.plan import PlanInput, plan, shorter
from uranograph.core.schedule import placed, understood

CHANGE: list[dict[str, Any]] = [
    {"name": "drain", "minutes": 20, "hands": 0},
    {"name": "covers", "minutes": 15, "hands": 1},
    {"name": "springs", "minutes": 40, "hands": 2, "after": ["covers"]},
    {"name": "front cover", "minutes": 25, "hands": 1, "after": ["drain"]},
    {"name": "move", "minutes": 10, "hands": 2, "after": ["springs", "front cover"]},
    {"name": "close", "minutes": 30, "hands": 1, "after": ["move"]},
]


def kept(tasks: list[dict[str, Any]], hands: int, found: dict[str, Any]) -> None:
    spans = {each["name"]: each for each in found["schedule"]}
    assert set(spans) == {task["name"] for task in tasks}
    for task in tasks:
        span = spans[task["name"]]
        assert span["end"] - span["start"] == pytest.approx(task["minutes"])
        assert len(span["who"]) == task.get("hands", 1)
        assert set(span["who"]) <= set(range(1, hands + 1))
        for before in task.get("after", []):
            assert spans[before]["end"] <= span["start"] + 1e-9
    for one in found["schedule"]:
        for other in found["schedule"]:
            if one is not other and one["start"] < other["end"] - 1e-9 and other["start"] < one["end"] - 1e-9:
                assert not set(one["who"]) & set(other["who"])
    assert found["minutes"] == pytest.approx(max(each["end"] for each in found["schedule"]))


def test_a_change_by_one_and_by_two() -> None:
    alone = [task for task in CHANGE if task["hands"] < 2]
    found = calculate("plan", {"tasks": CHANGE, "hands": 2})
    kept(CHANGE, 2, found)
    # The front cover waits for hands that the springs need both: nothing else could be sooner.
    assert (found["minutes"], found["proved"]) == (120, True)
    assert found["critical"] == ["covers", "springs", "front cover", "move", "close"]
    single = calculate(
        "plan", {"tasks": [{**t, "after": [a for a in t.get("after", []) if a != "move"]} for t in alone], "hands": 1}
    )
    assert single["minutes"] == 70


def test_a_task_that_needs_nobody_goes_on_beside_the_others() -> None:
    found = calculate("plan", {"tasks": CHANGE[:2], "hands": 1})
    assert found["minutes"] == 20
    assert found["critical"] == ["drain"]
    assert next(each for each in found["schedule"] if each["name"] == "drain")["who"] == []


TASKS = st.lists(
    st.tuples(st.integers(0, 6), st.integers(0, 2), st.sets(st.integers(0, 5), max_size=2)), min_size=1, max_size=6
)


@settings(max_examples=80, deadline=None)
@given(TASKS, st.integers(2, 3))
def test_no_order_of_the_tasks_is_shorter(drawn: list[tuple[int, int, set[int]]], hands: int) -> None:
    tasks = [
        {"name": f"t{k}", "minutes": minutes, "hands": many, "after": [f"t{j}" for j in sorted(after) if j < k]}
        for k, (minutes, many, after) in enumerate(drawn)
    ]
    found = calculate("plan", {"tasks": tasks, "hands": hands})
    kept(tasks, hands, found)
    work = understood(PlanInput.model_validate({"tasks": tasks, "hands": hands}).tasks, hands)
    # Some order, each task as early as it goes, is the shortest there is.
    lengths = [
        max(s + m for s, m in zip(placed(work, order), work.minutes, strict=True))
        for order in permutations(range(work.count))
        if all(order.index(j) < order.index(k) for k in range(work.count) for j in work.after[k])
    ]
    assert found["minutes"] == pytest.approx(min(lengths))
    assert found["proved"]
    assert found["bound_minutes"] == pytest.approx(found["minutes"])


def test_the_solver_betters_a_bad_plan_and_proves_it() -> None:
    work = understood(PlanInput.model_validate({"tasks": CHANGE, "hands": 2}).tasks, 2)
    one_by_one = tuple(float(sum(work.minutes[:k])) for k in range(work.count))
    starts, bound = shorter(work, one_by_one, 5.0)
    assert max(s + m for s, m in zip(starts, work.minutes, strict=True)) == 120
    assert bound == pytest.approx(120)


def test_parts_of_a_minute_stay_exact() -> None:
    tasks = [
        {"name": "a", "minutes": 2.35},
        {"name": "b", "minutes": 0.7, "after": ["a"]},
        {"name": "c", "minutes": 1 / 3},
    ]
    found = calculate("plan", {"tasks": tasks, "hands": 1})
    assert found["minutes"] == pytest.approx(2.35 + 0.7 + 1 / 3, abs=1e-9)


@pytest.mark.parametrize(
    ("tasks", "hands", "code"),
    [
        ([{"name": "a", "minutes": 1}, {"name": "a", "minutes": 2}], 1, "task-twice"),
        ([{"name": "a", "minutes": 1, "hands": 3}], 2, "too-few-hands"),
        ([{"name": "a", "minutes": 1, "after": ["z"]}], 1, "no-such-task"),
        ([{"name": "a", "minutes": 1, "after": ["a"]}], 1, "tasks-in-a-circle"),
        (
            [
                {"name": "a", "minutes": 1, "after": ["c"]},
                {"name": "b", "minutes": 1, "after": ["a"]},
                {"name": "c", "minutes": 1, "after": ["b"]},
                {"name": "d", "minutes": 1},
            ],
            1,
            "tasks-in-a-circle",
        ),
        ([{"name": "a", "minutes": -1}], 1, "not-valid"),
        ([], 1, "not-valid"),
    ],
)
def test_what_cannot_be_planned_is_refused(tasks: list[dict[str, Any]], hands: int, code: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        calculate("plan", {"tasks": tasks, "hands": hands})
    assert refused.value.code == code


def test_a_circle_is_named_in_the_order_in_which_its_tasks_would_follow() -> None:
    tasks = [{"name": "a", "minutes": 1, "after": ["b"]}, {"name": "b", "minutes": 1, "after": ["a"]}]
    with pytest.raises(InvalidInput) as refused:
        calculate("plan", {"tasks": tasks, "hands": 1})
    assert refused.value.values["names"] in ("a → b → a", "b → a → b")


def test_forty_tasks_are_answered_in_time_with_a_bound() -> None:
    tasks = [
        {
            "name": f"t{k}",
            "minutes": 5 + 7 * k % 23,
            "hands": 1 + k % 3,
            "after": [f"t{j}" for j in (k - 3, k - 7) if j >= 0 and k % 2],
        }
        for k in range(40)
    ]
    found = plan(PlanInput.model_validate({"tasks": tasks, "hands": 3, "seconds": 0.5})).model_dump()
    kept(tasks, 3, found)
    assert found["bound_minutes"] <= found["minutes"]
    assert found["proved"] == (found["minutes"] - found["bound_minutes"] < 1e-6)


def test_without_the_solver_a_plan_is_made_by_priority_and_said_to_be(monkeypatch: pytest.MonkeyPatch) -> None:
    tasks = [("a", 2, 1, []), ("b", 2, 1, []), ("c", 8, 2, ["b"]), ("d", 8, 1, []), ("e", 1, 2, ["c"])]
    asked = {
        "tasks": [dict(zip(("name", "minutes", "hands", "after"), each, strict=True)) for each in tasks],
        "hands": 2,
    }
    best = calculate("plan", asked)
    assert (best["minutes"], best["solver"], best["proved"]) == (17, True, True)
    monkeypatch.setattr("uranograph.core.plan.has_solver", lambda: False)
    found = calculate("plan", asked)
    assert (found["minutes"], found["solver"], found["proved"]) == (19, False, False)
    assert found["bound_minutes"] <= 17
    ends = {each["name"]: each["end"] for each in found["schedule"]}
    assert all(each["start"] >= ends["b"] for each in found["schedule"] if each["name"] == "c")
