"""Instruments as they stand this moment."""

import pytest

from tests.instruments.rig import Rig
from uranograph.instruments.hub import STILL_S

DIAL = {"D1": {"kind": "length", "pattern": "number", "line_unit": "mm"}}


def test_still_within_its_noise_and_not_while_it_moves() -> None:
    rig = Rig(DIAL)
    for k in range(40):
        rig.says(f"{1.27 + 0.001 * (k % 3):.3f} mm\n")
    assert rig.live().still
    for k in range(10):
        rig.says(f"{1.28 + 0.01 * k:.3f} mm\n")
        assert not rig.live().still
    for _ in range(int(STILL_S / 0.02) + 2):
        rig.says("1.370 mm\n")
    assert rig.live().still


def test_one_that_says_nothing_new_is_not_called_still_for_ever() -> None:
    rig = Rig(DIAL)
    for _ in range(40):
        rig.says("1.270 mm\n")
    rig.clock.now += 1.0
    assert not rig.live().still


def test_smoothing_is_the_middle_of_the_last_lines_and_goes_over_the_end_of_a_turn() -> None:
    dial = Rig({"D1": DIAL["D1"] | {"smoothing": "3"}})
    for text in ("1.00", "1.02", "1.01"):
        dial.says(f"{text} mm\n")
    assert dial.live().value == 1.01
    turned = Rig({"E1": {"kind": "angle", "pattern": "number", "line_unit": "deg", "smoothing": "3"}})
    for text in ("359.0", "359.8", "0.6"):
        turned.says(f"{text} deg\n")
    assert turned.live("E1").value == pytest.approx(359.8)
    turned.says("1.4 deg\n")
    assert turned.live("E1").value == pytest.approx(0.6)


def test_a_torque_wrench_shows_the_peak_of_its_pull_until_the_next() -> None:
    rig = Rig({"T1": {"kind": "torque", "pattern": "number", "line_unit": "N m"}})
    for value in (0.2, 20, 60, 98.4, 80, 10, 0.1):
        rig.says(f"{value} nm\n", after_s=0.1)
    assert rig.live("T1").value == 98.4
    for value in (30, 55, 0.3):
        rig.says(f"{value} nm\n", after_s=0.1)
    assert rig.live("T1").value == 55


def test_an_encoder_that_was_away_says_so_and_a_dial_does_not() -> None:
    rig = Rig(
        {
            "D1": {"kind": "length", "pattern": "channels", "line_unit": "mm", "channel": "dial"},
            "E1": {"kind": "angle", "pattern": "channels", "line_unit": "deg", "channel": "angle"},
        }
    )
    rig.says("angle=10.0 deg; dial=1.0 mm\n")
    assert rig.live("E1").note == ""
    rig.unplug()
    rig.plug_in()
    rig.says("angle=10.0 deg; dial=1.0 mm\n")
    assert "zero" in rig.live("E1").note
    assert rig.live("D1").note == ""


def test_what_is_off_the_list_is_let_go_of_and_what_stays_goes_on() -> None:
    rig = Rig({"D1": DIAL["D1"]})
    kept = rig.hub.definitions(("D1",))
    assert kept[0].doubt == 0.005
    assert rig.hub.definitions(("D1", "D9")) == ()
    rig.hub.sync({"D1": kept[0]})
    assert rig.hub._links[next(iter(rig.hub._links))] is rig.link
    rig.hub.close()
    assert rig.hub.live() == ()
    assert rig.link._ended.is_set()


def test_a_listener_hears_every_figure_until_it_stops() -> None:
    rig, heard = Rig(DIAL), []
    stop = rig.hub.listen(lambda name, point: heard.append((name, point.value)))
    rig.says("1.0 mm\n")
    rig.says("1.1 mm\n")
    stop()
    rig.says("1.2 mm\n")
    assert heard == [("D1", 1.0), ("D1", 1.1)]


def test_a_listener_that_fails_does_not_end_the_line() -> None:
    rig = Rig(DIAL)

    def fails(name: str, point: object) -> None:
        raise RuntimeError(name)

    rig.hub.listen(fails)
    rig.says("1.0 mm\n")
    rig.says("1.1 mm\n")
    assert rig.live().value == 1.1


def test_a_dial_that_flickers_by_its_own_step_is_still() -> None:
    rig = Rig({"D1": DIAL["D1"] | {"uncertainty": "0.01"}})
    for k in range(40):
        rig.says(f"{1.27 + 0.01 * (k % 2):.2f} mm\n")
    assert rig.live().still


COUNTS = {"E1": {"kind": "angle", "pattern": "counts-index", "line_unit": "deg", "counts": "3600"}}


def turned(rig: Rig, from_count: int, to_count: int, index_at: int | None, step: int = 20) -> None:
    """Say every so many counts, and a 1 as the index is passed."""
    for count in range(from_count, to_count, step):
        at = index_at is not None and count <= index_at < count + step
        rig.says(f"{index_at if at else count};{int(at)}\n", after_s=0.05)


def test_an_encoder_that_lost_its_count_finds_its_zero_again_at_its_index() -> None:
    rig = Rig(COUNTS)
    turned(rig, 0, 2000, 900)
    assert rig.live("E1").value == pytest.approx(198.0)
    # Its cable was pulled: it counts from nothing where it stands, at 198 degrees; its index is 252 degrees on.
    rig.link.state.opened, rig.link.state.opened_s = 2, rig.clock.now
    turned(rig, 0, 1000, 2520)
    assert "turn it past its index" in rig.live("E1").note
    turned(rig, 1000, 3000, 2520)
    live = rig.live("E1")
    assert "found its zero again" in live.note
    assert live.value % 360 == pytest.approx((198 + 298) % 360)


def test_where_the_index_stands_may_be_typed_and_then_holds_from_the_first_pulse() -> None:
    rig = Rig({"E1": COUNTS["E1"] | {"index_at": "30"}})
    turned(rig, 0, 1000, 500)
    assert rig.live("E1").value % 360 == pytest.approx(30 + 48)
    assert rig.live("E1").note == ""


def test_an_index_that_comes_where_it_was_changes_nothing() -> None:
    rig = Rig(COUNTS)
    turned(rig, 0, 2000, 900)
    turned(rig, 2000, 5000, 4500)
    assert rig.live("E1").value == pytest.approx(498.0)
    assert rig.live("E1").state == "live"
