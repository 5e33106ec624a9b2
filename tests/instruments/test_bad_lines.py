"""Ten kinds of bad lines, each replayed as it would come: what is said of them, what counts, and that nothing hangs."""

from tests.instruments.rig import Rig, noise
from uranograph.instruments.hub import JUMPY, SILENT_S

DIAL = {"D1": {"kind": "length", "pattern": "number", "line_unit": "mm", "url": "socket://bench:7000"}}
BOTH = {
    "D1": {"kind": "length", "pattern": "channels", "line_unit": "mm", "channel": "dial"},
    "E1": {"kind": "angle", "pattern": "channels", "line_unit": "deg", "channel": "angle"},
}


def reading(rig: Rig) -> None:
    """A dial that says what it shows, as it should."""
    for _ in range(30):
        rig.says("+1.270 mm\n")


def test_1_unplugged_and_plugged_in_again() -> None:
    rig = Rig(DIAL)
    reading(rig)
    assert (rig.live().state, rig.live().value) == ("live", 1.27)
    rig.unplug()
    rig.clock.now += SILENT_S + 0.1
    assert (rig.live().state, rig.live().value, rig.live().raw) == ("not-there", None, "")
    rig.plug_in()
    rig.says("+1.280 mm\n")
    rig.says("+1.280 mm\n")
    assert (rig.live().state, rig.live().value) == ("live", 1.28)


def test_2_silent_says_for_how_long_and_shows_no_old_figure() -> None:
    rig = Rig(DIAL)
    reading(rig)
    rig.clock.now += 4.0
    assert rig.live().state == "silent"
    assert rig.live().words == "silent for 4 s"
    assert rig.live().value is None
    assert not rig.live().still


def test_3_babbling_without_an_end_of_line() -> None:
    rig = Rig(DIAL)
    for _ in range(20):
        rig.says(b"1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 1.27 ")
    assert rig.live().state == "babbling"
    assert len(rig.link._kept) < 1000
    rig.says("\n")
    reading(rig)
    assert rig.live().state == "live"


def test_4_another_speed() -> None:
    rig = Rig(DIAL)
    for said in noise(7, 40):
        rig.says(said)
    assert rig.live().state in ("babbling", "unread")
    assert rig.live().value is None


def test_5_half_lines_are_joined_and_the_rest_of_one_is_no_figure() -> None:
    rig = Rig(DIAL)
    # It was joined in the middle of 12.345.
    rig.link._begun = False
    rig.says("45 mm\n", after_s=0.05)
    assert rig.live().value is None
    for part in ("+1.", "270", " m", "m\n+1.2", "71 mm\n"):
        rig.says(part)
    assert rig.live().value == 1.271


def test_6_one_figure_that_jumps_is_held_back_and_two_are_taken() -> None:
    rig = Rig(DIAL)
    reading(rig)
    rig.says("+99.000 mm\n")
    assert rig.live().value == 1.27
    rig.says("+1.275 mm\n")
    rig.says("+1.275 mm\n")
    assert rig.live().value == 1.275
    # The dial was set down elsewhere: it stays there.
    rig.says("+9.000 mm\n")
    rig.says("+9.000 mm\n")
    assert rig.live().value == 9.0


def test_7_one_that_jumps_all_the_time_is_not_to_be_trusted() -> None:
    rig = Rig(DIAL)
    for k in range(40):
        rig.says(f"{(k * 37) % 90}.0 mm\n")
    assert rig.live().state == "jumping"
    assert rig.live().value is None
    for _ in range(4 * JUMPY):
        rig.says("+1.270 mm\n")
    assert rig.live().state == "live"


def test_8_not_a_number() -> None:
    rig = Rig(DIAL)
    reading(rig)
    for said in ("nan mm\n", "inf mm\n", "---- mm\n", "ERR 4\n"):
        rig.says(said)
        assert rig.live().state == "unread"
        assert rig.live().value is None
    assert "ERR 4" in rig.live().words
    assert rig.live().value is None


def test_9_ten_thousand_lines_a_second() -> None:
    rig = Rig(BOTH)
    said = "".join(f"angle={k / 1000:.3f} deg; dial=+1.270 mm\n" for k in range(500)).encode()
    for _ in range(20):
        rig.says(said, after_s=0.05)
    assert rig.live().state == rig.live("E1").state == "live"
    assert len(rig.hub.points_since("D1", 0.0)) < 400
    # Most of it was not even looked at, and the newest was.
    assert rig.link.state.dropped > 7000
    assert rig.live("E1").value == 0.499


def test_10_nothing_of_it_on_the_line_and_a_foreign_unit() -> None:
    rig = Rig(BOTH)
    for _ in range(5):
        rig.says("angle=12.0 deg\n")
    assert rig.live("E1").state == "live"
    assert rig.live("D1").state == "of-another-kind"
    foreign = Rig(DIAL)
    foreign.says("21.5 C\n")
    assert (foreign.live().state, foreign.live().value) == ("of-another-kind", None)


def test_empty_lines_and_all_kinds_of_line_ends_are_taken() -> None:
    rig = Rig(DIAL)
    for end in ("\r\n", "\n", "\r", "\n\n\r\n"):
        rig.says(f"+1.270 mm{end}")
    assert rig.live().value == 1.27
    assert rig.live().state == "live"
