"""Meshes compared, rims unrolled, keys, lifters, sprockets and slips: each drawn where the numbers say."""

import re
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts.test_figures import star_center, strokes
from uranograph.charts.helix import helix_figure
from uranograph.charts.keyways import Key, keyway_figure
from uranograph.charts.lifters import lifters_figure, sets_figure
from uranograph.charts.mesh import Shown, compare_figure
from uranograph.charts.pen import polar
from uranograph.charts.sprockets import sprocket_figure
from uranograph.charts.tooth_slip import slip_figure

MARKS = st.sampled_from([("tooth", "space"), ("space", "tooth"), ("tooth", "straddle"), ("straddle", "tooth")])


@given(st.integers(12, 90), st.integers(12, 180), MARKS, st.booleans(), st.sampled_from(["", "early", "on", "late"]))
def test_three_lenses_show_three_states_and_what_is_seen_is_ringed(
    up: int, down: int, marks: tuple[str, str], clockwise: bool, seen: str
) -> None:
    shown = Shown("crank", up, marks[0], "cam", down, marks[1], 720 / down, 108.0, False, clockwise, seen)
    figure = compare_figure(shown, "Marks")
    lenses = strokes(figure, "lens")
    assert len(lenses) == 3
    assert len(strokes(figure, "seen")) == (1 if seen else 0)
    svg = figure.svg()
    assert f"ICL {108 - 720 / down:.1f}" in svg
    assert f"ICL {108 + 720 / down:.1f}" in svg
    ElementTree.fromstring(svg)


def test_without_a_card_the_shift_alone_is_told() -> None:
    figure = compare_figure(Shown("crank", 21, "tooth", "cam", 42, "space", 17.143, None, False, True), "Marks")
    for words in ("ICL 17.1 sooner", "as the marks say", "ICL 17.1 later"):
        assert words in figure.svg()


@given(st.floats(0, 359), st.floats(0, 359))
def test_a_key_is_drawn_where_it_is_read_and_where_it_belongs(stated: float, measured: float) -> None:
    keys = (Key("crank", stated, measured, 13.3), Key("cam", None, None, 6.7))
    figure = keyway_figure(keys, "told", "Keyways")
    hollow, solid = strokes(figure, "hollow"), strokes(figure, "solid")
    assert star_center(hollow[1]) == pytest.approx(polar((190, 320), 128, stated), abs=0.2)
    assert star_center(solid[1]) == pytest.approx(polar((190, 320), 128, measured), abs=0.2)
    assert "not stated, not read" in figure.svg()


@given(st.floats(0.05, 6), st.floats(0.05, 6))
def test_lifters_stand_at_their_lifts_to_one_scale(intake: float, exhaust: float) -> None:
    figure = lifters_figure(intake, exhaust, ("e", "i"), "told", "Split")
    stars = sorted(star_center(star) for star in strokes(figure, "solid"))
    base = 430.0
    heights = [base - y for _, y in stars]
    assert heights[0] * intake == pytest.approx(heights[1] * exhaust, abs=0.2 * max(intake, exhaust))


def test_lifters_that_are_not_read_are_left_open() -> None:
    assert strokes(lifters_figure(None, None, ("", ""), "Both lifters.", "Split"), "solid") == []
    assert len(strokes(lifters_figure(1.0, None, ("", "1"), "", "Split"), "solid")) == 1


def test_sets_not_tried_are_hollow_and_the_best_is_named() -> None:
    figure = sets_figure(4, ((1, 0.9, "0.90"), (2, -0.1, "-0.10")), None, "Blind")
    assert len(strokes(figure, "hollow")) == 2
    assert len(strokes(figure, "solid")) == 2
    done = sets_figure(2, ((1, 0.9, "0.90"), (2, -0.1, "-0.10")), 2, "Blind")
    best = [text for text in strokes(done, "subtitle") if (text.text or "") == "set 2"]
    assert len(best) == 1


@given(st.floats(-2, 2), st.floats(0.05, 0.5))
def test_the_cam_sprocket_stands_off_the_line_by_what_it_is_out(out: float, tolerance: float) -> None:
    figure = sprocket_figure(20.0, 20.0 + out, 0.0, tolerance, 0.02, ("20", "", f"{out:.2f}"), "Line")
    driver, driven = sorted(star_center(star) for star in strokes(figure, "solid"))
    band = strokes(figure, "tolerance")[0]
    scale = float(band.get("height", "0")) / (2 * tolerance)
    assert driven[1] - driver[1] == pytest.approx(out * scale, abs=1.0)


@pytest.mark.parametrize("offset", [0.0, -31.0, 7.4, 200.0, -1000.0])
def test_a_deviation_stands_on_its_ruler_of_teeth(offset: float) -> None:
    figure = slip_figure(offset, 15.0, 2.0, "Whole teeth?")
    hollow = [star_center(star) for star in strokes(figure, "hollow")[1:]]
    reported = star_center(strokes(figure, "solid")[-1])
    middle = next(x for x, _ in hollow if abs(x - 371) < 0.2)
    tooth = min(x - middle for x, _ in hollow if x > middle + 0.2)
    assert (reported[0] - middle) / tooth == pytest.approx(offset / 15.0, rel=0.02, abs=0.02)


@pytest.mark.parametrize("beta", [-45.0, 0.5, 20.0, 89.0])
def test_a_helical_rim_ends_on_its_mark(beta: float) -> None:
    figure = helix_figure("idler", 41, beta, 6.9, 0.78, "18 mm", "Helical entry")
    ElementTree.fromstring(figure.svg())
    for words in ("start here", "half way", "home, on the mark", "18 mm"):
        assert words in figure.svg()
    assert re.search(r"6\.9", figure.svg())
