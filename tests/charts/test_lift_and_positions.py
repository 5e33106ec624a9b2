import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.charts.test_figures import star_center, strokes
from uranograph.charts.lift import Curve, lift_figure
from uranograph.charts.positions import OfCam, Tried, positions_figure
from uranograph.core.lobe import CosineLobe, lift_at

LOBE = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)


def points(step: float) -> tuple[tuple[float, float], ...]:
    return tuple((-60 + k * step, lift_at(LOBE, -60 + k * step)) for k in range(int(330 / step)))


def draw(curve: Curve, lift: float = 1.27) -> object:
    return lift_figure((curve,), lift, "1.27 mm", 1.0, "mm", "Lift curves")


def test_readings_are_dots_on_a_solid_curve_and_the_card_is_dashed() -> None:
    figure = draw(Curve("intake", LOBE, points(10), (), (-6, 220), ((226, 1.27), (150, 5.0))))
    assert len(strokes(figure, "reading-dot")) == 33
    assert len(strokes(figure, "card-curve")) == 1
    assert len(strokes(figure, "solid")) == 3  # two events and the legend
    assert "33 points" in figure.description


def test_a_suspect_is_a_triangle_and_not_on_the_curve() -> None:
    figure = draw(Curve("intake", LOBE, points(10), (7,)))
    assert len(strokes(figure, "suspect")) == 1
    assert len(strokes(figure, "reading-dot")) == 32


def test_three_thousand_points_are_one_light_path() -> None:
    figure = draw(Curve("intake", LOBE, points(0.11)))
    assert strokes(figure, "reading-dot") == []
    assert len(figure.svg()) < 60_000


def test_the_lift_line_stands_where_it_is_told() -> None:
    low, high = (
        float(strokes(draw(Curve("intake", LOBE, points(10)), lift), "lift-line")[0].get("y1", "")) for lift in (1, 8)
    )
    assert low > high


def test_nothing_read_yet_is_drawn_too() -> None:
    assert "nothing read yet" in draw(Curve("intake", None)).description


@given(st.floats(-30, 30), st.lists(st.floats(-30, 30), max_size=4))
def test_positions_stand_on_their_side_of_the_card(error: float, left: list[float]) -> None:
    cam = OfCam("both", error, 0.4, tuple(left), (Tried("as found", error, 0.4),))
    figure = positions_figure((cam,), 1.0, "Positions")
    badges = strokes(figure, "offer")
    assert len(badges) == len(left)
    for badge, value in zip(badges, left, strict=True):
        if abs(value) > 0.5:
            assert (float(badge.get("cx", "")) > 371) == (value > 0)


@pytest.mark.parametrize("count", [1, 2])
def test_tries_are_solid_where_measured_and_hollow_where_predicted(count: int) -> None:
    history = (Tried("as found", 7.5, 0.4), Tried("try 1", 11.5, 0.4, 3.5), Tried("try 2", None, 0.0, 3.5))
    cams = tuple(OfCam(name, None, 0.0, (), history) for name in ("intake", "exhaust")[:count])
    figure = positions_figure(cams, 1.0, "Positions")
    assert len(strokes(figure, "solid")) == 1 + 2 * count
    assert len(strokes(figure, "hollow")) == 1 + count + 2 * count
    measured = [star_center(star) for star in strokes(figure, "solid")[1:3]]
    assert measured[1][1] < measured[0][1]  # later stands higher
