"""The model of all readings: against sampling, against made-up engines, and each fault by its name."""

import math
import random
from collections import Counter
from dataclasses import replace

import numpy as np
import pytest

from tests.evidence.made_up import FIRING_DEG, TEETH, read_engine
from uranograph.evidence import covariance, model
from uranograph.evidence.covariance import Expected, Seen
from uranograph.evidence.faults import Suspect, suspects, worth_asking
from uranograph.evidence.hypotheses import NOTHING, PRIOR
from uranograph.evidence.model import Phase, phase
from uranograph.evidence.shifted_readings import Setup

SETUP = Setup(TEETH, FIRING_DEG, full_wheel=False)
ENGINES = 30


def four_events(late: float, zero: float = 0.0) -> tuple[tuple[Seen, ...], Expected]:
    expected = Expected({"intake": 110.0, "exhaust": -110.0}, {"intake": 115.0, "exhaust": 115.0})
    stops = [Seen("stop", zero, 0), Seen("stop", zero, 1)]
    lobes = [
        Seen(
            "event",
            expected.middle_deg[lobe] + side * 115 + late + zero + covariance.LATE_BIAS_DEG,
            2 + n,
            lobe,
            side,
            0.04,
        )
        for n, (lobe, side) in enumerate((lobe, side) for lobe in ("intake", "exhaust") for side in (-1, 1))
    ]
    return (*stops, *lobes), expected


def test_the_phase_is_what_sampling_finds() -> None:
    """Draw everything from its prior, predict the phase from the readings by least squares: the same place and spread."""
    readings, expected = four_events(0.8)
    r = np.random.default_rng(1)
    n = 200_000
    hand, _ = covariance.independent_noise(readings, expected)
    center = r.normal(0, covariance.CENTERING_DEG, (2, n))

    def off_center(seen: Seen) -> np.ndarray:
        at = math.radians(seen.at_deg)
        return center[0] * math.cos(at) + center[1] * math.sin(at)

    late, closing = r.normal(0, covariance.PHASE_DEG, n), r.normal(0, expected.closing_deg, n)
    separation = dict(zip(model.LOBES, r.normal(0, covariance.SEPARATION_DEG, (2, n)), strict=True))
    half = dict(zip(model.LOBES, r.normal(0, covariance.HALF_DURATION_DEG, (2, n)), strict=True))
    shown = []
    for variance, seen in zip(hand, readings, strict=True):
        own = r.normal(0, math.sqrt(variance), n) + off_center(seen)
        if seen.kind == "event":
            own += late + separation[seen.lobe] + seen.side * half[seen.lobe] + (closing if seen.side > 0 else 0.0)
        shown.append(own)
    # The wheel's zero is anywhere: what the stops say is taken off.
    zero = (shown[0] + shown[1]) / 2
    drawn = np.stack([each - zero for each in shown[2:]], axis=1)
    target = late + sum(separation.values()) / 2
    weights = np.linalg.lstsq(drawn, target, rcond=None)[0]
    y = covariance.deviations(readings, expected)
    found = model.Model(readings, expected).phase(by_usual_hand=True)
    assert found.late_deg == pytest.approx(float((y[2:] - (y[0] + y[1]) / 2) @ weights), abs=0.01)
    assert found.sd_deg == pytest.approx(float((target - drawn @ weights).std()), rel=0.02)


def test_the_zero_of_the_wheel_is_taken_off_and_nothing_is_added_by_a_grind() -> None:
    plain, shifted = (phase(*four_events(1.0, zero)) for zero in (0.0, 7.5))
    assert shifted.late_deg == pytest.approx(plain.late_deg, abs=0.02)
    assert plain.sd_deg < 0.25


@pytest.mark.parametrize("method", ["events", "lifts"])
def test_two_standard_deviations_hold_nineteen_truths_in_twenty(method: str) -> None:
    r = random.Random(11)
    off = []
    for _ in range(120):
        told = read_engine(r, method)
        found = phase(told.readings, told.expected)
        off.append(abs(found.late_deg - told.late_deg) / found.sd_deg)
    assert sum(each < 2 for each in off) / len(off) > 0.9
    assert sum(each > 4 for each in off) == 0


@pytest.mark.parametrize("method", ["events", "lifts"])
def test_in_is_never_said_of_a_cam_that_is_out(method: str) -> None:
    r = random.Random(12)
    said = Counter()
    for _ in range(120):
        told = read_engine(r, method)
        if phase(told.readings, told.expected).chance_within(1.0) > 0.98:
            said[abs(told.late_deg) <= 1.0] += 1
    assert said[False] == 0
    assert said[True] > 5


@pytest.mark.parametrize("method", ["events", "lifts"])
def test_clean_engines_are_asked_nothing(method: str) -> None:
    r = random.Random(13)
    found = [read_engine(r, method) for _ in range(60)]
    questions = [worth_asking(suspects(told.readings, told.expected, SETUP)) for told in found]
    assert sum(map(bool, questions)) <= 2


NAMED = {
    "wheel-moved": 0.9,
    "gear-slipping": 0.85,
    "typing-slip": 0.85,
    "wrong-side": 0.9,
    "wrong-lobe": 0.9,
    "other-cylinder": 0.95,
    "wheel-end": 0.95,
    "tooth-off": 0.75,
    "lash-wrong": 0.85,
    "bleeding-lifter": 0.75,
    "lobes-apart": 0.9,
}


@pytest.mark.parametrize("fault", NAMED)
def test_a_planted_fault_is_named_among_the_first_three(fault: str) -> None:
    r = random.Random(14)
    named = 0
    for _ in range(ENGINES):
        told = read_engine(r, "events", fault)
        codes = [each.code for each in worth_asking(suspects(told.readings, told.expected, SETUP))]
        named += fault in codes[:3]
    assert named / ENGINES >= NAMED[fault]


def test_a_mirrored_wheel_is_at_the_other_end_or_counts_the_other_way_where_it_counts_to_360() -> None:
    told = read_engine(random.Random(3), "events", "numbers-rise")
    both = suspects(told.readings, told.expected, Setup(full_wheel=True))
    assert {each.code for each in both[:2]} == {"wheel-end", "numbers-rise"}
    assert sum(each.share for each in both[:2]) > 0.9
    one = suspects(told.readings, told.expected, Setup(full_wheel=False))
    assert (one[0].code, one[0].share > 0.9) == ("wheel-end", True)
    assert "numbers-rise" not in {each.code for each in one}


def test_contacts_on_the_wrong_side_and_a_clashing_card_are_nearly_certain() -> None:
    # One opening near the top says little by itself of the way the wheel counts.
    readings, expected = four_events(0.3)
    readings = readings[:3]
    plain = {each.code: each.share for each in suspects(readings, expected, SETUP)}
    crossed = suspects(readings, expected, Setup(TEETH, FIRING_DEG, crossed=True))
    assert plain["wheel-end"] < 0.1
    assert {each.code: each.share for each in crossed}["wheel-end"] > 5 * plain["wheel-end"]
    clash = {each.code: each.share for each in suspects(readings, expected, Setup(TEETH, FIRING_DEG, clash=True))}
    assert clash["card-misprint"] > 5 * plain["card-misprint"]


def test_shares_make_one_together_and_a_slip_names_its_reading() -> None:
    readings, expected = four_events(0.5)
    slipped = tuple(replace(each, at_deg=each.at_deg + 10) if n == 3 else each for n, each in enumerate(readings))
    # Read once more, a figure of the card would be off again.
    again = replace(readings[3], seq=9)
    found = suspects((*slipped, again), expected, SETUP)
    assert sum(each.share for each in found) == pytest.approx(1)
    assert (found[0].code, found[0].seq) == ("typing-slip", 3)
    misprint = suspects((*slipped, replace(slipped[3], seq=9)), expected, SETUP)
    assert misprint[0].code == "card-misprint"
    assert {each.code for each in found} <= {NOTHING, *PRIOR}


def test_nothing_is_asked_while_nothing_wrong_is_likelier_than_not() -> None:
    assert worth_asking((Suspect(NOTHING, 0.71), Suspect("wheel-end", 0.29))) == ()
    held = worth_asking((Suspect(NOTHING, 0.6), Suspect("wheel-end", 0.31), Suspect("lash-wrong", 0.09)))
    assert [each.code for each in held] == ["wheel-end", "lash-wrong"]
    found = (
        Suspect("wheel-end", 0.5),
        Suspect(NOTHING, 0.47),
        Suspect("tooth-off", 0.019),
        Suspect("lash-wrong", 0.02),
    )
    assert [each.code for each in worth_asking(found)] == ["wheel-end", "lash-wrong"]


def test_an_uneven_lobe_widens_what_lifts_near_the_nose_say() -> None:
    def pair(drop_mid: float) -> tuple[Seen, ...]:
        near = [Seen("lift", 110 + side * 20.0, 2 + n, "intake", side, 0.1, 0.8) for n, side in enumerate((-1, 1))]
        far = [
            Seen("lift", 110 + drop_mid + side * 60.0, 4 + n, "intake", side, 0.1, 0.4)
            for n, side in enumerate((-1, 1))
        ]
        return (Seen("stop", 0.0, 0), Seen("stop", 0.0, 1), *near, *far)

    expected = Expected({"intake": 110.0}, {"intake": 115.0}, {2: 20.0, 3: 20.0, 4: 60.0, 5: 60.0})
    even, uneven = phase(pair(0.0), expected), phase(pair(1.2), expected)
    assert uneven.sd_deg > 1.3 * even.sd_deg
    assert isinstance(even, Phase)


@pytest.mark.parametrize(("over_percent", "likely"), [(-1.33, True), (1.33, False)])
def test_more_lash_opens_late_closes_early_and_leaves_the_peaks_short(over_percent: float, likely: bool) -> None:
    readings, expected = four_events(0.2)
    expected = replace(expected, lift_mm={"intake": 9.0, "exhaust": 9.0})
    narrow = tuple(
        replace(each, at_deg=each.at_deg - each.side * 2.0, slope_mm=0.06) if each.kind == "event" else each
        for each in readings
    )
    peaks = tuple(Seen("peak", over_percent, 9 + n, lobe) for n, lobe in enumerate(("intake", "exhaust")))
    found = suspects((*narrow, *peaks), expected, SETUP)
    share = {each.code: each.share for each in found}
    # A lifter that bleeds, on a cam two late, reads the same: only the base circle parts the two.
    assert (share["lash-wrong"] + share["bleeding-lifter"] > 0.9) is likely
    base = (Seen("base", 0.3, 20, "intake"), Seen("base", -0.5, 21, "exhaust"))
    parted = {each.code: each.share for each in suspects((*narrow, *peaks, *base), expected, SETUP)}
    assert (parted["lash-wrong"] > 0.9) is likely
