"""Figures of the fit: to scale, hollow for what is allowed, solid for what is measured."""

import re
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts.test_figures import strokes
from uranograph.charts.bolt_circle import bolts_figure
from uranograph.charts.cam_clearance import room_figure
from uranograph.charts.drives import Bears, Swing, drives_figure
from uranograph.charts.end_play import CHEEK, Blade, PlayGap, gap_figure
from uranograph.charts.gear_stack import stack_figure
from uranograph.charts.heat import heat_figure
from uranograph.charts.pen import Figure
from uranograph.charts.shim_pack import Stack, pack_figure
from uranograph.charts.thrust_faces import cheeks_figure


def number(element: ElementTree.Element, name: str) -> float:
    return float(element.get(name, "nan"))


@given(st.floats(0.01, 0.5), st.floats(0.01, 0.3))
def test_blades_and_window_are_drawn_to_one_scale(blade: float, least: float) -> None:
    greatest = least + 0.1
    of = PlayGap("crank", least, greatest, ("least", "greatest"), blade, None, "over", (Blade(blade, "b", True),))
    figure = gap_figure(of, "End play")
    strip = strokes(figure, "went")[0]
    window = strokes(figure, "tolerance")[0]
    scale = number(window, "width") / 0.1
    assert number(window, "x") - CHEEK == pytest.approx(least * scale, abs=1.5)
    assert number(strip, "width") == pytest.approx(max(blade * scale, 1.5), abs=1.5)


def test_a_gap_tells_the_next_blade_the_travels_and_the_heat() -> None:
    of = PlayGap(
        "cam", 0.1, 0.2, ("least 0.1", "greatest 0.2"), 0.05, 0.15, "0.05 to 0.15", next_mm=0.1, next_words="try 0.10"
    )
    assert "try 0.10" in gap_figure(of, "End play").svg()
    dial = PlayGap(
        "cam", 0.1, 0.2, ("", ""), 0.14, 0.16, "0.15", travels=((0.15, "0.150"),), hot_change_mm=-0.3, hot_words="gone"
    )
    figure = gap_figure(dial, "End play")
    assert len(strokes(figure, "solid")) == 1
    assert "gone" in figure.svg()
    assert "not read" in gap_figure(PlayGap("idler", 0.1, 0.2, ("", "")), "End play").svg()


def test_drives_stand_over_one_scale_with_the_shaft_across_them() -> None:
    drives = (
        Bears("gears", 0.05, 0.08, "no"),
        Bears("chain", 0.25, 0.25, "yes", True),
        Bears("spring", 0.05, None, "only if"),
    )
    swing = Swing(0.08, 0.05, "swing 0.08", "window 0.05")
    figure = drives_figure(
        drives, ((0.05, "0.05"), (0.08, "0.08"), (0.25, "0.25")), 0.11, 0.01, "0.110", swing, "Drives"
    )
    assert len(strokes(figure, "solid")) == 2
    assert len(strokes(figure, "tolerance")) == 4
    assert "gears no; chain yes; spring only if" in figure.svg()
    ElementTree.fromstring(drives_figure(drives, ((0.05, "0.05"),), None, 0.0, "", None, "Drives").svg())


def test_a_pack_and_its_play_are_to_scale_and_the_stock_shows_what_is_used() -> None:
    stacks = (
        Stack("was", (0.2,), ("0.2",), 0.2, 0.22, "0.20 to 0.22"),
        Stack("fit", (0.2, 0.1), ("0.2", "0.1"), 0.15, 0.15, "leaves 0.15", True),
        Stack("fitted", (), (), None, None, "prove it"),
    )
    figure = pack_figure(stacks, (0.1, 0.2), 0.15, "wanted", ((0.1, "0.1", True), (0.2, "0.2", False)), "Pack")
    two, one = (number(element, "width") for element in strokes(figure, "blade")[:2])
    assert two == pytest.approx(2 * one, abs=0.2)
    assert len(strokes(figure, "went")) == 1
    assert "no shims" in figure.svg()


def test_both_cheeks_share_one_scale_and_goal() -> None:
    figure = cheeks_figure((0.01, 0.03), (0.02,), 0.05, ("0.03", "0.02", "goal 0.05"), "Cheeks")
    left, right = strokes(figure, "tolerance")
    assert number(left, "width") == pytest.approx(number(right, "width"))
    taken = [number(element, "width") for element in strokes(figure, "halo")]
    assert taken == pytest.approx([taken[0], 2 * taken[0], 2 * taken[0]], abs=0.3)
    assert "end play first" in cheeks_figure((), (), None, ("", "", ""), "Cheeks").svg()


@pytest.mark.parametrize(
    "figure",
    [
        heat_figure(20, 154, 234, 230, 1159, 1850, "Heat"),
        heat_figure(20, 154, 234, None, None, None, "Heat"),
        bolts_figure(1, 1, (), 1, ("40 N m",), "Bolts"),
        bolts_figure(24, 6, ((1, 1, True), (1, 2, False)), 3, ("20",) * 6, "Bolts"),
        stack_figure((("bearing", "in"), ("ring", "out"), ("plate", "unsure"), ("free", "not-begun")), "Order"),
        room_figure(("1 intake", "1 exhaust"), (), (1.5, "least"), (2.0, "liked"), 0.02, "Room"),
        room_figure(
            tuple(f"{n} intake" for n in range(1, 33)), ((3, 1.2, "1.2"),), (1.5, "least"), (2.0, "liked"), 0.02, "Room"
        ),
    ],
)
def test_every_figure_is_drawn_within_its_sheet(figure: Figure) -> None:
    root = ElementTree.fromstring(figure.svg())
    for element in root.iter():
        for name, most in (("x", 742), ("y", 630), ("cx", 742), ("cy", 630)):
            if element.get(name):
                assert -1 <= number(element, name) <= most
    assert figure.description


def test_the_tightest_lobe_has_the_greatest_star() -> None:
    figure = room_figure(
        ("1 intake", "1 exhaust"), ((1, 2.4, "2.4"), (2, 1.6, "1.6")), (1.5, ""), (2.0, ""), 0.02, "Room"
    )
    sizes = [float(re.search(r"m0 -(\d+\.\d+)", star.get("d", "")).group(1)) for star in strokes(figure, "solid")]
    assert sizes[1] > sizes[0]
