"""A small fixed sample of what `make outcomes` plays at large."""

import random

import pytest

from tests.outcomes.__main__ import BOUNDS, figures, one, tasks
from tests.outcomes.made_up import FAULTS, Engine
from tests.outcomes.play import Played, play


@pytest.mark.parametrize("method", ["events", "lifts"])
def test_clean_engines_are_never_in_wrongly_are_asked_nothing_and_reach_their_position(method: str) -> None:
    played = [one((77_000 + n, method, "")) for n in range(14)]
    stands = [verdict for each in played for verdict in each.verdicts]
    assert not [verdict for verdict in stands if verdict[0] == "in" and abs(verdict[1]) > 1]
    near = [verdict for verdict in stands if abs(verdict[1]) <= 0.5]
    assert sum(verdict[0] == "in" for verdict in near) >= 0.85 * len(near) > 3
    assert sum(abs(true - found) <= doubt for _, true, found, doubt in stands) >= 0.9 * len(stands)
    asked = [code for each in played for code in each.named if code != "uneven-lobe"]
    assert asked == []
    assert sum(each.keys for each in played) / sum(each.pairs for each in played) < 14


@pytest.mark.parametrize("fault", FAULTS)
def test_a_planted_fault_is_asked_of_among_the_first_three_and_no_move_on_it_does_harm(fault: str) -> None:
    method = {"uneven-lobe": "lifts", "firing-top": "overlap"}.get(fault, "events")
    played = [one((78_000 + n, method, fault)) for n in range(3)]
    assert sum(fault in each.named[:3] for each in played) >= 2
    assert not [each for each in played if each.verdicts[0][0] == "in" and abs(each.verdicts[0][1]) > 1]
    if fault not in ("cam-degrees", "tooth-off"):
        assert all(each.after is None or abs(each.after) <= abs(each.before) for each in played)


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


def test_the_table_counts_what_it_says() -> None:
    wrong, right = (Played("events", "", [("in", true, 0.0, 0.3)], keys=12, pairs=1) for true in (1.5, 0.2))
    found = figures([wrong, right])
    assert found["in while truly over 1 deg, of in"] == 0.5
    assert found["stated uncertainty holds the truth"] == 0.5
    assert found["keys a pair"] == 12
    assert {name for name, _, _ in BOUNDS} == set(found)
    planted = Played("events", "typing-slip", [("out", 3.0, 0.0, 0.3)], named=["wheel-moved", "typing-slip"])
    assert figures([planted])["fault named first"] == 0
    assert figures([planted])["fault named in the first three"] == 1


def test_every_fault_is_planted_by_each_method_that_can_show_it_and_half_the_engines_are_clean() -> None:
    planned = tasks(1000, 9)
    assert {fault for _, _, fault in planned} == {"", *FAULTS}
    assert 0.4 < sum(fault == "" for _, _, fault in planned) / len(planned) < 0.6
    assert len({seed for seed, _, fault in planned if not fault}) == sum(fault == "" for _, _, fault in planned)
    again = play(random.Random("x"), "events")
    assert again.verdicts == play(random.Random("x"), "events").verdicts
