"""Gears in their places: in mesh, marks on the line of centers, turning at true ratio."""

import math
from fractions import Fraction
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.charts.keyways import Key, keyway_figure
from uranograph.charts.mesh import Shown, compare_figure
from uranograph.charts.round import ChartRing, RoundFigure, round_figure
from uranograph.charts.train import Part, Placed, outline, place, train_figure

TEETH = st.integers(8, 120)
MARKS = st.sampled_from([("tooth", "space"), ("space", "tooth"), ("straddle", "tooth")])


def three(crank: int, idler: int, marks: tuple[str, str]) -> tuple[Part, ...]:
    speed = Fraction(crank, idler)
    return (
        Part("crank", crank, "crank", Fraction(1)),
        Part("idler", idler, "idler", -speed, "crank", "mesh", *marks),
        Part("cam", 2 * crank, "cam", Fraction(1, 2), "idler", "mesh", *marks),
    )


def off_pitch(gear: Placed, toward_deg: float) -> float:
    """Where a direction falls between teeth: 0 on a tooth, 0.5 in a space."""
    pitch = 360 / gear.part.teeth
    return ((toward_deg - gear.phase_deg) / pitch) % 1


@given(TEETH, TEETH, MARKS, st.booleans())
def test_every_pair_meshes_with_its_marks_on_the_line_of_centers(
    crank: int, idler: int, marks: tuple[str, str], clockwise: bool
) -> None:
    placed = {gear.part.name: gear for gear in place(three(crank, idler, marks), clockwise)}
    for up, down in (("crank", "idler"), ("idler", "cam")):
        one, other = placed[up], placed[down]
        assert math.dist(one.center, other.center) == pytest.approx((one.part.teeth + other.part.teeth) / 2)
        toward = math.degrees(math.atan2(other.center[0] - one.center[0], one.center[1] - other.center[1]))
        wanted_up = 0.0 if marks[0] == "tooth" else 0.5
        assert math.cos(2 * math.pi * (off_pitch(one, toward) - wanted_up)) == pytest.approx(1, abs=1e-6)
        wanted_down = 0.0 if marks[1] == "tooth" else 0.5
        assert math.cos(2 * math.pi * (off_pitch(other, toward + 180) - wanted_down)) == pytest.approx(1, abs=1e-6)
        assert any(
            math.isclose((at - toward) % 360, 0, abs_tol=1e-6) or (at - toward) % 360 > 359.999 for at, _ in one.marks
        )


@given(TEETH, TEETH, st.booleans(), st.booleans())
def test_gears_that_touch_only_one_another_lie_apart_and_turn_at_their_ratio(
    crank: int, idler: int, clockwise: bool, rear: bool
) -> None:
    parts = three(crank, idler, ("tooth", "space"))
    placed = {gear.part.name: gear for gear in place(parts, clockwise)}
    assert math.dist(placed["crank"].center, placed["cam"].center) > crank / 2 + crank
    drawn = ElementTree.fromstring(train_figure(parts, clockwise, rear, "Train").svg())
    speeds = [float(e.get("data-speed", "nan")) for e in drawn.iter() if "turning" in e.get("class", "").split()]
    way = 1 if clockwise != rear else -1
    assert sorted(speeds) == pytest.approx(sorted(way * float(part.speed) for part in parts), abs=1e-6)


@pytest.mark.parametrize("teeth", [3, 21, 160, 161, 400])
def test_an_outline_has_every_tooth(teeth: int) -> None:
    drawn = outline(teeth, 4.0, 0.0)
    assert drawn.count("M") == 1
    assert drawn.endswith("Z")
    strokes = drawn.count("Q") / 2 if teeth <= 160 else drawn.count("L") / 4
    assert strokes == pytest.approx(teeth, abs=1)


def test_twenty_gears_fit_on_the_sheet() -> None:
    parts = [Part("crank", 20, "crank", Fraction(1))]
    for n in range(1, 20):
        parts.append(Part(f"g{n}", 20 + n, "idler", Fraction(1, n + 1) * (-1) ** n, parts[-1].name, "mesh"))
    drawn = ElementTree.fromstring(train_figure(tuple(parts), True, False, "Long").svg())
    gears = [e for e in drawn.iter() if "turning" in e.get("class", "").split()]
    assert len(gears) == 20
    for gear in gears:
        assert 0 < float(gear.get("data-x", "-1")) < 742
        assert 0 < float(gear.get("data-y", "-1")) < 630


def test_compare_shows_early_right_and_late_with_what_each_does() -> None:
    shown = Shown("crank", 21, "space", "cam", 42, "tooth", 720 / 42, 108.0, False, True, "early")
    svg = compare_figure(shown, "Marks").svg()
    for words in ("one tooth early", "right", "one tooth late", "90.9", "125.1"):
        assert words in svg


def test_keys_and_rounds_say_when_nothing_is_read() -> None:
    svg = keyway_figure((Key("crank", 0.0, None, 13.3), Key("cam", None, 12.0, 6.7)), "Read both.", "Keyways").svg()
    assert "not read" in svg
    blank = round_figure(RoundFigure("Backlash", "magnified", ())).svg()
    ElementTree.fromstring(blank)
    ring = ChartRing(tuple((45.0 * n, 0.1 + 0.02 * math.cos(math.radians(45 * n))) for n in range(8)), 0.1, (0.02, 0.0))
    full = round_figure(RoundFigure("Backlash", "magnified", (ring,), 0.05, 0.15, 0.005, 180.0, "tight at 180"))
    assert "tight at 180" in full.svg()


def a_gear(name: str, teeth: int, parent: str | None = "crank", **more: object) -> Part:
    return Part(name, teeth, str(more.pop("role", "untimed")), Fraction(1), parent, **more)


def test_no_gear_lies_over_another_however_many_one_turns() -> None:
    others = tuple(a_gear(f"g{n}", 18 + 7 * n) for n in range(9))
    placed = place((a_gear("crank", 20, None, role="crank"), *others), True)
    for n, one in enumerate(placed):
        for other in placed[n + 1 :]:
            assert math.dist(one.center, other.center) > one.part.radius + other.part.radius - 0.5


def test_a_shaft_lies_where_it_was_said_to_lie_within_a_tooth() -> None:
    crank = a_gear("crank", 24, None, role="crank")
    placed = place((crank, a_gear("cam", 48, lies_deg=135.0, role="cam")), True)[1]
    toward = math.degrees(math.atan2(placed.center[0], -placed.center[1])) % 360
    assert toward == pytest.approx(135, abs=360 / 24 / 2)


def test_a_cross_lying_gear_is_drawn_edge_on_and_a_belt_as_a_belt() -> None:
    crank = a_gear("crank", 24, None, role="crank")
    crossed = train_figure((crank, a_gear("cam", 48, how="crossed", role="cam")), True, False, "Train").svg()
    assert crossed.count('class="turning"') == 1
    assert "<rect" in crossed
    belted = train_figure((crank, a_gear("cam", 48, how="chain", belt=True, role="cam")), True, False, "Train").svg()
    chained = train_figure((crank, a_gear("cam", 48, how="chain", role="cam")), True, False, "Train").svg()
    assert ("belt-line" in belted, "chain-line" in belted) == (True, False)
    assert ("belt-line" in chained, "chain-line" in chained) == (False, True)
