"""Made-up engines: the same by seed, consistent with plain geometry, and with consequences that do not come back."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from uranograph.world import geometry, instruments, truth
from uranograph.world.acts import KINDS, Act, Consequence, act
from uranograph.world.hands import Hand
from uranograph.world.lobes import Lobe
from uranograph.world.made import FAULTS, made
from uranograph.world.parts import Mesh, Shaft
from uranograph.world.state import World
from uranograph.world.truth import Truth

SEEDS = st.integers(0, 5000)


def done(world: World, *acts: Act) -> tuple[World, list[Consequence]]:
    came: list[Consequence] = []
    for each in acts:
        world, more = act(world, each)
        came += more
    return world, came


@settings(max_examples=40, deadline=None)
@given(SEEDS, st.sampled_from(["", *FAULTS]))
def test_an_engine_is_the_same_by_its_seed_and_its_hand_reads_the_same(seed: int, fault: str) -> None:
    faults = (fault,) if fault else ()
    one, two = made(seed, faults), made(seed, faults)
    assert one == two
    assert instruments.wheel(one, Hand(seed)) == instruments.wheel(two, Hand(seed))


@settings(max_examples=60, deadline=None)
@given(
    st.floats(98, 118),
    st.floats(95, 135),
    st.floats(6, 13),
    st.floats(1.3, 2.5),
    st.floats(-3, 3),
    st.floats(0.1, 0.95),
)
def test_a_lobe_is_crossed_where_it_has_that_lift_and_its_events_lie_about_its_middle(
    middle: float, half: float, top: float, fullness: float, uneven: float, share: float
) -> None:
    lobe = Lobe(middle, half, top, 1.0, fullness, uneven)
    for side in (-1, 1):
        assert lobe.lift(lobe.crossing_deg(share * top, side)) == pytest.approx(share * top, abs=1e-9)
    opens, closes = lobe.crossing_deg(1.0, -1), lobe.crossing_deg(1.0, 1)
    assert (opens + closes) / 2 == pytest.approx(middle, abs=1e-9)
    assert closes - opens == pytest.approx(2 * half, abs=1e-9)
    assert lobe.lift(lobe.peak_deg) == pytest.approx(top)


@settings(max_examples=40, deadline=None)
@given(SEEDS, st.floats(-300, 300))
def test_turning_there_and_back_leaves_the_cam_behind_by_the_slack_and_forward_takes_it_up(
    seed: int, by: float
) -> None:
    world = made(seed).but(crank_deg=1080.0)
    free = world.but(taken_off=frozenset({"tensioner"}))
    forward, _ = act(free, Act("turn", by=20))
    assert forward.state.lag_deg == 0
    back, _ = act(forward, Act("turn", by=-20))
    assert back.cam_deg - forward.cam_deg == pytest.approx(-20 + back.state.lag_deg)
    little, _ = act(forward, Act("turn", by=-world.parts.slack_deg / 2))
    assert little.cam_deg == pytest.approx(forward.cam_deg)
    assert 0 <= back.state.lag_deg <= world.parts.slack_deg
    again, _ = act(back, Act("turn", by=20))
    assert again.cam_deg == pytest.approx(forward.cam_deg)


@settings(max_examples=40, deadline=None)
@given(SEEDS, st.floats(4, 12))
def test_the_stop_is_met_as_far_before_the_top_as_after_it(seed: int, depth: float) -> None:
    # Without a tensioner that ratchets.
    free = made(seed).but(crank_deg=720.0 + 180, taken_off=frozenset({"tensioner"}))
    world, _ = act(free, Act("stop", by=depth))
    after, came = act(world, Act("turn", by=-400))
    assert came == (Consequence.STOPPED_BY_STOP,)
    before, came = act(world, Act("turn", by=400))
    assert came == (Consequence.STOPPED_BY_STOP,)
    assert after.state.crank_deg - 720 == pytest.approx(1080 - before.state.crank_deg)
    assert geometry.drop_mm(world.parts, after.state.crank_deg) == pytest.approx(depth, abs=1e-6)


def test_a_pin_holds_and_bends_where_it_is_forced() -> None:
    pinned, _ = act(made(3), Act("pin", "cam-gear"))
    held, came = act(pinned, Act("turn", by=30))
    assert (held.state.crank_deg, came) == (pinned.state.crank_deg, (Consequence.STOPPED_BY_PIN,))
    forced, came = act(pinned, Act("turn", by=30, forced=True))
    assert (forced.state.harm, came) == (("bent-pin",), (Consequence.BENT,))


def test_the_crank_gear_off_takes_the_wheels_zero_along() -> None:
    world = made(5)
    moved, came = done(world, Act("off", "crank-gear"), Act("on", "crank-gear"))
    assert Consequence.WHEEL_ZERO_LOST in came
    assert moved.state.wheel.zero_deg != world.state.wheel.zero_deg
    assert not moved.state.taken_off


def test_metal_that_is_sanded_away_does_not_come_back() -> None:
    world = made(11, ("tight-play",))
    sanded, _ = done(world, *(Act("sand", "cam", 0.02) for _ in range(4)))
    assert sanded.state.plays_mm["cam"] == pytest.approx(world.parts.thrusts["cam"].play_mm + 0.08)
    ruined, came = done(sanded, Act("sand", "cam", 0.5))
    assert Consequence.METAL_GONE in came
    assert "face-too-thin" in ruined.state.harm


def heated_engine() -> World:
    engines = (made(seed) for seed in range(99))
    return next(one for one in engines if one.parts.fit.interference_mm and one.parts.fit.needed_c < 180)


def test_a_gear_goes_on_hot_sticks_when_it_cooled_and_is_spoiled_past_its_limit() -> None:
    world = heated_engine()
    enough = 20 + world.parts.fit.needed_c * 1.1
    on, came = done(world, Act("heat", by=enough), Act("fit-gear"))
    assert (on.state.gear_home, came) == (True, [])
    slow, came = done(world, Act("heat", by=enough), Act("wait", by=600), Act("fit-gear"))
    assert (slow.state.gear_home, came) == (False, [Consequence.STUCK_HALF_WAY])
    assert slow.gear_now_c < enough
    spoiled, came = done(world, Act("heat", by=world.parts.fit.limit_c + 1))
    assert (spoiled.state.harm, came) == (("gear-spoiled",), [Consequence.SPOILED_BY_HEAT])


def test_truing_leaves_a_tenth_of_the_bend_and_all_of_the_oval() -> None:
    seat = Shaft(0.2, 40, 0.03, 10)
    assert seat.total_mm(0.1) == pytest.approx(Shaft(0.02, 40, 0.03, 10).total_mm())
    assert seat.total_mm(0.1) >= 0.03 - 1e-6


def test_an_eccentric_gear_swings_backlash_by_twice_its_runout_times_the_tangent() -> None:
    mesh = Mesh(21, 42, backlash_mm=0.3, cam_gear=Shaft(0.1), crank_gear=Shaft(0.0))
    least, most = mesh.tightest()
    assert most - least == pytest.approx(2 * 0.1 * math.tan(math.radians(20)), abs=1e-6)


@pytest.mark.parametrize(
    ("fault", "told"),
    [
        ("tight-play", lambda world: truth.end_play(world, "cam")),
        ("loose-play", lambda world: truth.end_play(world, "cam")),
        ("lobe-rubs", truth.lobe_room),
        ("tooth-off", truth.marks),
        ("cam-late", truth.phase),
        ("tight-place", truth.backlash),
        ("loose-mesh", truth.backlash),
        ("out-of-line", truth.sprockets),
    ],
)
def test_a_planted_fault_is_true_and_a_sound_engine_is_sound(fault: str, told: object) -> None:
    assert callable(told)
    planted = [told(made(seed, (fault,))) for seed in range(40)]
    sound = [told(made(seed)) for seed in range(40)]
    assert planted.count(Truth.OUT) >= 38
    assert Truth.IN not in planted
    assert Truth.OUT not in sound


@settings(max_examples=30, deadline=None)
@given(SEEDS)
def test_whatever_is_done_leaves_a_world_that_can_be_read(seed: int) -> None:
    world = made(seed)
    for kind in KINDS:
        on = {"position": "A2", "torque": "1", "sand": "cam", "shim": "cam", "dial": "exhaust"}.get(kind, "cam-gear")
        world, _ = act(world, Act(kind, on, 0.01))
        assert math.isfinite(geometry.wheel_shows(world))
        assert math.isfinite(instruments.dial(world, Hand(seed)))
