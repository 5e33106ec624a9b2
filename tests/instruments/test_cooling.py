"""A heated gear that a thermometer watches."""

import math

import pytest

from uranograph.core.cooling import forecast
from uranograph.core.errors import InvalidInput
from uranograph.instruments.cooling import CoolingWatch
from uranograph.instruments.hub import Point

TAU_S, AMBIENT_C, GRIPS_C = 420.0, 22.0, 110.0


def at(seconds: float, hot_c: float = 190.0) -> float:
    return AMBIENT_C + (hot_c - AMBIENT_C) * math.exp(-seconds / TAU_S)


def true_s(hot_c: float = 190.0) -> float:
    return TAU_S * math.log((hot_c - AMBIENT_C) / (GRIPS_C - AMBIENT_C))


def test_the_forecast_is_right_though_the_thermometer_is_rounded() -> None:
    watch = CoolingWatch("P1", AMBIENT_C, GRIPS_C)
    for k in range(80):
        watch.take("P1", Point(k / 2, round(at(k / 2), 1), "raw"))
    assert watch.left_s() == pytest.approx(true_s() - 39.5, rel=0.03)
    assert watch.progress()["left"] == round(watch.left_s() or 0)


def test_nothing_is_foretold_of_a_short_curve_or_of_one_that_does_not_fall() -> None:
    watch = CoolingWatch("P1", AMBIENT_C, GRIPS_C)
    for k in range(6):
        watch.take("P1", Point(k / 2, at(k / 2), "raw"))
    assert watch.left_s() is None
    steady = CoolingWatch("P1", AMBIENT_C, GRIPS_C)
    for k in range(60):
        steady.take("P1", Point(k / 2, 180.0, "raw"))
    assert steady.left_s() is None


def test_heated_again_its_old_curve_is_let_go_of() -> None:
    watch = CoolingWatch("P1", AMBIENT_C, GRIPS_C)
    for k in range(60):
        watch.take("P1", Point(k / 2, at(k / 2, 150.0), "raw"))
    for k in range(80):
        watch.take("P1", Point(60 + k / 2, at(k / 2), "raw"))
    assert watch.left_s() == pytest.approx(true_s() - 39.5, rel=0.02)
    watch.take("D1", Point(200, 0.0, "raw"))
    assert watch.progress()["now"] == round(at(39.5), 1)


def test_where_it_grips_already_nothing_is_left_and_where_it_never_grips_that_is_refused() -> None:
    assert forecast([(0, 120.0), (1, 109.0)], AMBIENT_C, GRIPS_C) == 0.0
    with pytest.raises(InvalidInput):
        forecast([], 30.0, 20.0)
