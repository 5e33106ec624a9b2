"""The ± that is stated holds 95 % of the truths, and repeats do not average away what they share."""

import math
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.sweep import SweepInput, sweep
from uranograph.core.tdc import TopPairs, tdc
from uranograph.core.uncertainty import CENTERING_DEG, expanded, of_difference


@pytest.mark.parametrize("limits", [(0.5,), (0.5, 0.5), (0.25, 0.1), (0.2, 0.2, 0.2), (0.1,) * 8, (1.0, 0.01)])
def test_limits_make_a_band_that_holds_95_percent(limits: tuple[float, ...]) -> None:
    draw = random.Random(7)
    stated = expanded(limits)
    off = [abs(sum(draw.uniform(-limit, limit) for limit in limits)) for _ in range(20_000)]
    held = sum(each <= stated for each in off) / len(off)
    assert held >= 0.945
    assert stated <= sum(limits) + 1e-12


@given(st.lists(st.floats(0, 10), min_size=1, max_size=9), st.floats(0, 3))
def test_a_band_grows_with_every_part_and_never_past_the_limits(limits: list[float], shared: float) -> None:
    alone = expanded(limits)
    assert alone <= sum(limits) + 1e-9
    assert expanded([*limits, 0.5]) >= alone
    assert expanded(limits, (shared,)) == pytest.approx(math.hypot(alone, 2 * shared))


def test_one_limit_is_itself_and_two_readings_of_a_dial_are_four_fifths_of_a_division() -> None:
    assert expanded([0.005]) == 0.005
    assert of_difference(0.01) == pytest.approx(0.01 * math.sqrt(2 / 3))


@pytest.mark.parametrize("pairs", [1, 2, 5])
@pytest.mark.parametrize("division", [0.5, 1.0])
def test_the_top_is_where_its_band_says(pairs: int, division: float) -> None:
    draw = random.Random(pairs)
    held = 0
    for _ in range(2_000):
        center = draw.gauss(0, CENTERING_DEG / math.sqrt(2))
        read = [[40 + sign * center + draw.uniform(-0.5, 0.5) * division for sign in (-1, 1)] for _ in range(pairs)]
        found = tdc(TopPairs(pairs=[{"before_deg": b, "after_deg": a} for b, a in read], wheel_resolution_deg=division))
        held += abs(found.zero_error_deg) <= found.uncertainty_deg
    assert held / 2_000 >= 0.945


@pytest.mark.parametrize(("step", "noise"), [(2.0, 0.004), (2.0, 0.015), (5.0, 0.01)])
def test_the_nose_of_a_sweep_lies_within_its_band(step: float, noise: float) -> None:
    draw = random.Random(3)
    lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    angles = [107 + step * n + 0.7 for n in range(round(-160 / step), round(160 / step))]
    held, bands = 0, []
    for _ in range(150):
        points = [(a, lift_at(lobe, a) + draw.gauss(0, noise)) for a in angles]
        found = sweep(SweepInput(lobe="intake", points=points, check_lift_mm=1.27))
        held += abs(found.centerline_nose_deg - 107) <= found.nose_doubt_deg
        bands.append(found.nose_doubt_deg)
    assert held / 150 >= 0.88
    assert max(bands) < 4


def test_a_noisy_sweep_knows_its_nose_less_well() -> None:
    draw = random.Random(1)
    lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)

    def band(noise: float) -> float:
        points = [(float(a), lift_at(lobe, a) + draw.gauss(0, noise)) for a in range(-50, 270, 2)]
        return sweep(SweepInput(lobe="intake", points=points, check_lift_mm=1.27)).nose_doubt_deg

    quiet, loud = band(0.0), band(0.02)
    assert 0 < quiet < 0.3
    assert loud > 3 * quiet
