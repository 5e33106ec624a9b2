"""A small fixed sample of what `make outcomes` plays at large."""

import random

import pytest

from tests.outcomes.__main__ import bounds, figures, holds, named, one, tasks
from tests.outcomes.made_up import CONDITIONS, FAULTS, PAIRS, USUAL, Engine
from tests.outcomes.play import Played, Stand, play

# Methods by which a fault shows where it does not by events.
BY = {"uneven-lobe": "lifts", "firing-top": "overlap"}


@pytest.mark.parametrize("method", ["events", "lifts"])
def test_clean_engines_are_never_in_wrongly_are_asked_nothing_and_reach_their_position(method: str) -> None:
    played = [one((77_000 + n, method, "", USUAL.name)) for n in range(10)]
    found = figures(played)
    assert (found["false in"], found["false out"], found["asked"]) == (0, 0, 0)
    assert found["holds"] >= 0.9
    assert found["good: in"] >= 0.85
    assert found["most more"] <= 14
    assert found["stuck"] == 0
    assert found["keys"] < 14


@pytest.mark.parametrize("condition", [each.name for each in CONDITIONS[1:]])
def test_no_condition_makes_a_verdict_false_or_leaves_the_bench_with_nothing_to_say(condition: str) -> None:
    found = figures([one((79_000 + n, "events", "", condition)) for n in range(3)])
    assert (found["false in"], found["false out"], found["stuck"]) == (0, 0, 0)
    assert found["most more"] <= 14


@pytest.mark.parametrize("fault", FAULTS)
def test_a_planted_fault_is_asked_of_among_the_first_three_and_no_move_on_it_does_harm(fault: str) -> None:
    played = [one((78_000 + n, BY.get(fault, "events"), fault, USUAL.name)) for n in range(3)]
    found = named(played)
    if fault != "uneven-lobe":
        assert found["three"] >= 0.6
    assert (found["false in"], found["false out"] if fault != "lobes-apart" else 0) == (0, 0)
    if fault not in ("cam-degrees", "tooth-off"):
        assert all(each.after is None or abs(each.after) <= abs(each.before) for each in played)


@pytest.mark.parametrize("fault", PAIRS)
def test_of_two_faults_at_once_one_is_named_and_neither_lets_a_false_verdict_by(fault: str) -> None:
    played = [one((78_500 + n, "events", fault, USUAL.name)) for n in range(2)]
    assert named(played)["three"] == 1
    assert named(played)["false in"] == named(played)["false out"] == 0


def test_the_hand_is_as_good_as_is_said() -> None:
    """Without a fault a reading lies where the lobe passes, 0.1 late, within what eye, quarter, centering and contact leave."""
    off = []
    for n in range(300):
        engine = Engine(random.Random(n))
        engine.scale, engine.division, engine.zero = "half", 1.0, 0.0
        text, side = engine.on_flank("intake", -1, None, again=False)
        shown = float(text) * (-1 if side == "btdc" else 1)
        off.append(shown - engine.lobes["intake"].crossing(engine.check, -1))
    mean = sum(off) / len(off)
    spread = (sum((each - mean) ** 2 for each in off) / len(off)) ** 0.5
    assert mean == pytest.approx(0.1, abs=0.04)
    assert spread == pytest.approx((0.12**2 + 0.072**2 + 0.1**2) ** 0.5, rel=0.2)


def stand(verdict: str, true: float, stated: float = 0.0, **more: object) -> Stand:
    return Stand(verdict, False, {"both": true}, {"both": (stated, 0.3)}, 0, "none", **more)  # type: ignore[arg-type]


def test_the_table_counts_what_it_says() -> None:
    wrong, right = (Played("events", "", stands=[stand("in", true)], keys=12, pairs=1) for true in (1.5, 0.2))
    found = figures([wrong, right])
    assert (found["false in"], found["false out"], found["good: in"]) == (1, 0, 1)
    assert (found["holds"], found["keys"], found["stuck"]) == (0.5, 12, 0)
    assert holds(Stand("in", False, {"a": 0.1, "b": 2.0}, {"a": (0.0, 0.3), "b": (0.0, 0.3)}, 0, "none")) == 0.5
    assert figures([Played("events", "", stands=[stand("out", 0.9)])])["false out"] == 1
    assert figures([Played("events", "", stands=[stand("unsure", 0.9)])])["stuck"] == 1
    planted = Played("events", "typing-slip", stands=[stand("out", 3.0)], named=["wheel-moved", "typing-slip"])
    assert (named([planted])["first"], named([planted])["three"]) == (0, 1)
    missed = {name for name, value, bound, more in bounds([wrong]) if (value < bound if more else value > bound)}
    assert "false in, of all verdicts" in missed


def test_every_fault_and_condition_is_played_and_half_the_engines_are_clean() -> None:
    planned = tasks(1000, 9)
    assert {fault for _, _, fault, _ in planned} == {"", *FAULTS, *PAIRS}
    assert {condition for *_, condition in planned} == {each.name for each in CONDITIONS}
    assert 0.5 < sum(fault == "" for _, _, fault, _ in planned) / len(planned) < 0.7
    again = play(random.Random("x"), "events")
    assert again.stands == play(random.Random("x"), "events").stands
