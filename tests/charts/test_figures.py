import math
import re
from xml.etree import ElementTree

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.charts.cycle import LobeMarks, cycle_chart, small_cycle
from uranograph.charts.firing import firing_figure
from uranograph.charts.pen import Figure, polar
from uranograph.charts.vernier import VernierGap, rule
from uranograph.charts.wheel import Contacts, top_figure, wheel_face
from uranograph.core.lobe import CosineLobe
from uranograph.core.piston import Crank
from uranograph.core.wheel import Wheel

CARD = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
LATE = CARD.model_copy(update={"centerline_deg": 111})
MARKS = LobeMarks(
    "intake",
    CARD,
    measured=LATE,
    readings=((60.0, 7.7), (162.0, 7.7)),
    gap=VernierGap(4, 0.4, 1),
    event_labels=(("IO", 2, -2),),
)


def strokes(figure: Figure, ink: str) -> list[ElementTree.Element]:
    root = ElementTree.fromstring(figure.svg())
    return [element for element in root.iter() if ink in element.get("class", "").split()]


def star_center(element: ElementTree.Element) -> tuple[float, float]:
    x, y = re.findall(r"-?\d+\.\d", element.get("d", ""))[:2]
    return float(x), float(y)


def test_the_card_is_hollow_and_the_measured_solid() -> None:
    figure = cycle_chart((MARKS,), "Intake")
    assert len(strokes(figure, "card-curve")) == 1
    assert len(strokes(figure, "measured-curve")) == 1
    assert "4.0 late" in figure.description
    assert "4.0 late" in "".join(element.text or "" for element in strokes(figure, "gap"))


@given(st.floats(60, 150))
def test_a_centerline_star_stands_at_half_its_cycle_angle_clockwise_from_overlap(middle: float) -> None:
    lobe = CARD.model_copy(update={"centerline_deg": middle})
    figure = small_cycle((LobeMarks("intake", lobe),))
    x, y = star_center(strokes(figure, "hollow")[0])
    found = math.degrees(math.atan2(x - 66, 66 - y))
    assert found == pytest.approx(middle / 2, abs=0.3)


def test_an_exhaust_peak_lies_left_of_overlap() -> None:
    lobe = CARD.model_copy(update={"centerline_deg": -115})
    x, _ = star_center(strokes(small_cycle((LobeMarks("exhaust", lobe),)), "hollow")[0])
    assert x < 66


def test_an_empty_chart_says_so() -> None:
    assert "no lobes yet" in cycle_chart(()).description


@given(st.floats(-200, 200), st.floats(0, 30))
def test_a_rule_never_draws_past_its_ends(error: float, doubt: float) -> None:
    figure = rule(VernierGap(error, doubt, 1.0))
    [halo] = strokes(figure, "halo")
    assert float(halo.get("width", "-1")) >= -0.05
    x, _ = star_center(strokes(figure, "solid")[0])
    assert 10 <= x <= 302
    if abs(error) > 1:
        assert (x > 156) == (error > 0)


@pytest.mark.parametrize(("error", "words"), [(0.0, "Measured is right on."), (4.0, "Measured is 4.0 late of card.")])
def test_a_rule_says_how_far_off_what_was_measured_is_where_it_is_off(error: float, words: str) -> None:
    assert words in rule(VernierGap(error, 0.4, 1.0)).svg()


@pytest.mark.parametrize(("mount", "after_is_right"), [("front", False), ("rear", True)])
def test_marks_still_to_come_lie_against_the_running_direction(mount: str, after_is_right: bool) -> None:
    wheel = Wheel(scale="quarter", mount=mount, rotation="clockwise")
    figure = wheel_face(wheel)
    [after] = [element for element in strokes(figure, "phase") if element.text == "after"]
    assert (float(after.get("x", "0")) > 371) == after_is_right


@pytest.mark.parametrize("scale", ["full", "half", "quarter"])
def test_contacts_lie_even_on_both_sides_of_the_true_top(scale: str) -> None:
    wheel = Wheel(scale=scale, mount="front", rotation="clockwise", numbers_rise="clockwise")
    contacts = Contacts(((-41.0, 37.5),), None, -1.75, 0.4)
    figure = top_figure(wheel, contacts, Crank(stroke_mm=96, rod_mm=168), 0.01)
    rim = [star_center(star) for star in strokes(figure, "solid")][:2]
    assert sum(x for x, _ in rim) / 2 == pytest.approx(262, abs=0.1)
    assert rim[0][1] == pytest.approx(rim[1][1], abs=0.1)
    assert rim[0] == pytest.approx(polar((262, 330), 196, 39.25), abs=0.1)
    assert "1.75 before" in figure.description


def test_a_lone_contact_and_no_crank_are_drawn_too() -> None:
    wheel = Wheel(scale="half", mount="front", rotation="clockwise")
    figure = top_figure(wheel, Contacts(lone=-40.0), None, 0.01)
    assert len(strokes(figure, "solid")) == 1
    assert "not found yet" in figure.description


def test_companions_are_joined() -> None:
    figure = firing_figure((1, 5, 3, 6, 2, 4))
    assert len(strokes(figure, "constellation")) == 3
    assert [element.text for element in strokes(figure, "cylinder")] == ["1", "5", "3", "6", "2", "4"]


def test_words_from_outside_are_escaped() -> None:
    assert "<script" not in cycle_chart((), "<script>alert(1)</script>").svg()
