import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from uranograph.core.adjust import AdjustInput, adjust, positions
from uranograph.core.chain import ChainInput, chain
from uranograph.core.degree import DegreeInput, degree
from uranograph.core.errors import InvalidInput
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.overlap import OverlapInput, overlap_lift
from uranograph.core.phase import Events, move
from uranograph.core.sweep import SweepInput, crossings, sweep

CARD = Events(io_btdc_deg=6, ic_abdc_deg=40, eo_bbdc_deg=52, ec_atdc_deg=2)
small = st.floats(-8, 8).map(lambda x: round(x, 4))


@given(small, small, small, small)
def test_phase_durations_and_separation_come_apart_again(
    late: float, intake: float, exhaust: float, apart: float
) -> None:
    """Events made from four separate errors give each of the four back."""
    seen = Events(
        io_btdc_deg=CARD.io_btdc_deg + intake / 2 - late - apart,
        ic_abdc_deg=CARD.ic_abdc_deg + intake / 2 + late + apart,
        eo_bbdc_deg=CARD.eo_bbdc_deg + exhaust / 2 - late + apart,
        ec_atdc_deg=CARD.ec_atdc_deg + exhaust / 2 + late - apart,
    )
    found = degree(DegreeInput(card=CARD, measured=seen))
    assert found.phase_error_deg == pytest.approx(late, abs=1e-9)
    assert found.intake_duration_error_deg == pytest.approx(intake, abs=1e-9)
    assert found.exhaust_duration_error_deg == pytest.approx(exhaust, abs=1e-9)
    assert found.lobe_separation_error_cam_deg == pytest.approx(apart, abs=1e-9)
    by_intake = degree(DegreeInput(card=CARD, measured=seen, basis="intake"))
    assert by_intake.phase_error_deg == pytest.approx(late + apart, abs=1e-9)
    assert by_intake.left_after_correction.io_btdc_deg == pytest.approx(intake / 2, abs=1e-9)


@given(small)
def test_moving_by_the_phase_error_leaves_no_phase(late: float) -> None:
    found = degree(DegreeInput(card=CARD, measured=move(CARD, -late)))
    assert found.phase_error_deg == pytest.approx(late, abs=1e-9)
    assert all(abs(left) < 1e-9 for left in found.left_after_correction.model_dump().values())
    assert found.verdict == ("in" if abs(late) <= 1 else "out")


def test_doubt_guards_the_verdict() -> None:
    seen = move(CARD, -0.8)
    assert degree(DegreeInput(card=CARD, measured=seen, reading_uncertainty_deg=0.4)).verdict == "unsure"
    assert degree(DegreeInput(card=CARD, measured=seen, reading_uncertainty_deg=0.1)).verdict == "in"


class Lobe:
    """An asymmetric lobe with a flat base, exact by formula: opening and closing flanks of different length."""

    def __init__(self, nose: float, opening: float, closing: float, top: float) -> None:
        self.nose, self.opening, self.closing, self.top = nose, opening, closing, top

    def lift(self, angle: float) -> float:
        u = (angle - self.nose) / (self.opening if angle < self.nose else self.closing)
        return 0.0 if abs(u) >= 1 else self.top * (1 - u * u) ** 3

    def at(self, lift: float) -> tuple[float, float]:
        u = math.sqrt(1 - (lift / self.top) ** (1 / 3))
        return self.nose - u * self.opening, self.nose + u * self.closing


lobes = st.builds(Lobe, st.floats(95, 120), st.floats(120, 160), st.floats(120, 160), st.floats(6, 12))


@given(lobes, st.floats(0, 1), st.sampled_from([1.0, 1.27, 2.5]))
def test_a_smooth_lobe_read_every_two_degrees_is_true_to_a_tenth(lobe: Lobe, start: float, check: float) -> None:
    points = [(a + start, lobe.lift(a + start)) for a in range(-80, 300, 2)]
    found = sweep(SweepInput(lobe="intake", points=points, check_lift_mm=check))
    opening, closing = lobe.at(check)
    assert found.open_deg == pytest.approx(opening, abs=0.1)
    assert found.close_deg == pytest.approx(closing, abs=0.1)
    assert found.centerline_nose_deg == pytest.approx(lobe.nose, abs=0.1)
    assert found.centerline_events_deg == pytest.approx((opening + closing) / 2, abs=0.1)
    assert found.max_lift_mm == pytest.approx(lobe.top, abs=0.01)
    assert found.suspects == []


@given(lobes, st.sampled_from([2, 4, 5, 10]), st.integers(0, 10_000))
def test_coarse_and_noisy_sweeps_blame_nobody_and_stay_near(lobe: Lobe, step: int, seed: int) -> None:
    noise = np.random.default_rng(seed).normal(0, 0.003, 400)
    points = [(float(a), lobe.lift(a) + noise[k]) for k, a in enumerate(range(-80, 300, step))]
    found = sweep(SweepInput(lobe="intake", points=points, check_lift_mm=1.27))
    opening, closing = lobe.at(1.27)
    assert found.suspects == []
    assert found.open_deg == pytest.approx(opening, abs=0.6)
    assert found.close_deg == pytest.approx(closing, abs=0.6)


@given(lobes, st.integers(20, 150), st.sampled_from([-1.0, -0.3, 0.3, 1.0]))
def test_one_bad_point_is_found_and_does_not_move_the_events(lobe: Lobe, where: int, off: float) -> None:
    points = [(float(a), lobe.lift(a)) for a in range(-80, 300, 2)]
    points[where] = (points[where][0], points[where][1] + off)
    found = sweep(SweepInput(lobe="exhaust", points=points, check_lift_mm=1.27))
    assert found.suspects == [where]
    assert found.open_deg == pytest.approx(lobe.at(1.27)[0], abs=0.1)


def test_order_does_not_matter_and_indices_are_those_given() -> None:
    lobe = Lobe(107, 140, 140, 9)
    points = [(float(a), lobe.lift(a)) for a in range(298, -81, -2)]
    points[40] = (points[40][0], points[40][1] + 1)
    assert sweep(SweepInput(lobe="intake", points=points, check_lift_mm=1)).suspects == [40]


@pytest.mark.parametrize(
    ("points", "check", "field"),
    [
        ([(0, 0), (10, 1), (10, 1.2), (20, 3), (30, 1), (40, 0.5), (50, 0)], 0.7, "points"),
        ([(a, min(a, 40 - a)) for a in range(0, 41, 5)], 25, "check_lift_mm"),
        ([(a, a / 10) for a in range(0, 41, 5)], 1, "points"),
    ],
)
def test_sweeps_that_cannot_be(points: list[tuple[float, float]], check: float, field: str) -> None:
    with pytest.raises(InvalidInput) as caught:
        sweep(SweepInput(lobe="intake", points=points, check_lift_mm=check))
    assert caught.value.field == field


def test_events_at_any_lift_nest_inside_each_other() -> None:
    angles = np.arange(-80, 300, 2.0)
    lifts = np.array([Lobe(107, 140, 150, 9).lift(a) for a in angles])
    spans = [crossings(angles, lifts, lift) for lift in (0.5, 1, 2, 4, 8)]
    assert all(a[0] < b[0] and a[1] > b[1] for a, b in itertools.pairwise(spans))


@given(lobes, st.integers(2, 12), st.floats(0.05, 0.95))
def test_events_lie_on_the_same_monotone_cubic_that_others_draw(lobe: Lobe, step: int, share: float) -> None:
    angles = np.arange(-80.0, 300, step)
    lifts = np.array([lobe.lift(a) for a in angles])
    curve = PchipInterpolator(angles, lifts)
    lift = share * lifts.max()
    for angle in crossings(angles, lifts, lift):
        assert float(curve(angle)) == pytest.approx(lift, abs=1e-6)


KEYWAYS = {
    "kind": "choices",
    "options": [{"label": f"{s:+d}", "shift_deg": s} for s in (-8, -4, 0, 4, 8)],
    "fitted": "+0",
}
adjusters = st.lists(
    st.one_of(
        st.just(KEYWAYS),
        st.builds(
            lambda t, m: {"kind": "tooth", "crank_teeth": t, "max_teeth": m}, st.integers(18, 40), st.integers(0, 2)
        ),
        st.builds(
            lambda p, q: {"kind": "pin-vernier", "sprocket_holes": p, "hub_holes": q, "range_deg": 12},
            st.integers(5, 20),
            st.integers(5, 20),
        ),
        st.builds(
            lambda t, n: {"kind": "hole-sets", "cam_teeth": t, "sets": n}, st.integers(30, 60), st.integers(1, 7)
        ),
        st.just({"kind": "slot", "range_deg": 4, "step_deg": 0.5, "marks": "cam"}),
    ),
    min_size=1,
    max_size=2,
)


@given(st.floats(-12, 12), adjusters)
def test_the_search_finds_what_trying_everything_finds(error: float, offered: list[dict[str, object]]) -> None:
    given_ = AdjustInput(error_deg=error, adjusters=offered, keep=3)
    found = adjust(given_)
    every = [sum(s) for s in itertools.product(*([shift for _, shift in positions(a)[0]] for a in given_.adjusters))]
    best = sorted({round(abs(error - s), 6) for s in every})
    assert abs(found.choices[0].remaining_error_deg) == pytest.approx(best[0], abs=1e-6)
    for choice in found.choices:
        assert sum(move.shift_deg for move in choice.moves) == pytest.approx(choice.shift_deg)
        assert choice.remaining_error_deg == pytest.approx(error - choice.shift_deg)
    left = [abs(choice.remaining_error_deg) for choice in found.choices]
    assert all(a <= b + 1e-9 for a, b in itertools.pairwise(left))


def test_worked_adjusters() -> None:
    late = adjust(AdjustInput(error_deg=3.5, adjusters=[KEYWAYS])).choices[0]
    assert (late.moves[0].from_, late.moves[0].to, late.remaining_error_deg) == ("+0", "+4", -0.5)
    sets = adjust(AdjustInput(error_deg=-5, adjusters=[{"kind": "hole-sets", "cam_teeth": 40, "sets": 5}]))
    assert sets.finest_step_deg == pytest.approx(3.6)
    cam_marks = {"kind": "slot", "range_deg": 5, "step_deg": 1, "marks": "cam"}
    assert adjust(AdjustInput(error_deg=4, adjusters=[cam_marks])).choices[0].moves[0].to == "2 marks advanced"
    fixed = {"kind": "choices", "options": [{"label": "only", "shift_deg": 0}], "fitted": 0}
    assert adjust(AdjustInput(error_deg=4, adjusters=[fixed])).finest_step_deg is None
    with pytest.raises(InvalidInput, match="fitted-not-offered"):
        adjust(AdjustInput(error_deg=4, adjusters=[{**KEYWAYS, "fitted": "+5"}]))


def test_chain_and_overlap() -> None:
    worn = ChainInput(tight_span_mm=250, elongation_pct=0.5, cam_radius_mm=58)
    assert chain(worn).retard_deg == pytest.approx(2.470, abs=5e-4)
    lower = ChainInput(tight_span_mm=250, cam_radius_mm=58, center_drop_mm=0.5)
    assert chain(lower).retard_deg == pytest.approx(math.degrees(2 * 0.5 / 58))
    given_ = {"target_min_mm": 1.9, "target_max_mm": 2.1, "slope_mm_per_deg": 0.1}
    assert overlap_lift(OverlapInput(measured_mm=2.05, **given_)).verdict == "in"
    assert overlap_lift(OverlapInput(measured_mm=2.4, **given_)).shift_deg == pytest.approx(-4)
    with pytest.raises(InvalidInput):
        overlap_lift(OverlapInput(measured_mm=2, target_min_mm=3, target_max_mm=2, slope_mm_per_deg=0.1))
    with pytest.raises(InvalidInput):
        overlap_lift(OverlapInput(measured_mm=2, target_min_mm=1, target_max_mm=2, slope_mm_per_deg=0))


def test_the_base_drifts_only_where_both_ends_lie_on_the_base_circle() -> None:
    """A bleeding lifter leaves the base low; an end on the ramp is no base circle."""
    lobe = CosineLobe(centerline_deg=107, duration_deg=226, check_lift_mm=1.27, max_lift_mm=9)
    around = [float(angle) for angle in range(-90, 306, 5)]
    level = [(angle, lift_at(lobe, angle)) for angle in around]
    assert sweep(SweepInput(lobe="intake", points=level, check_lift_mm=1.27)).base_drift_mm == pytest.approx(0)
    low = [(angle, lift - (0.08 if angle > 200 else 0.0)) for angle, lift in level]
    assert sweep(SweepInput(lobe="intake", points=low, check_lift_mm=1.27)).base_drift_mm == pytest.approx(-0.08)
    short = [(angle, lift) for angle, lift in level if lift > 0.05]
    assert sweep(SweepInput(lobe="intake", points=short, check_lift_mm=1.27)).base_drift_mm is None
