"""Chains, marks that meet again, slips found from the marks, keys and split overlap."""

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.core.keyway import KeywayInput, keyway
from uranograph.core.split import SplitInput, split_overlap
from uranograph.core.train import GearLoop, TrainInput, marks_after, speeds_of, train

counts = st.integers(6, 400)


@st.composite
def trains(draw: st.DrawFn) -> TrainInput:
    """A tree of up to twenty gears: teeth, chains and shared shafts, the cam at its end."""
    size = draw(st.integers(2, 20))
    gears = [{"name": f"g{n}", "teeth": draw(counts), "shaft": None} for n in range(size)]
    meshes, chains = [], []
    for n in range(1, size):
        parent = draw(st.integers(0, n - 1))
        how = draw(st.sampled_from(["mesh", "mesh", "chain", "shaft"])) if n < size - 1 else "mesh"
        if how == "shaft":
            gears[parent]["shaft"] = gears[parent]["shaft"] or f"s{parent}"
            gears[n]["shaft"] = gears[parent]["shaft"]
        elif how == "chain":
            chains.append(GearLoop(upstream=f"g{parent}", downstream=f"g{n}"))
        else:
            meshes.append((f"g{parent}", f"g{n}"))
    return TrainInput(gears=gears, meshes=meshes, chains=chains, crank="g0", cam=f"g{size - 1}")


@given(trains())
def test_every_mark_is_back_after_the_full_count_and_after_no_smaller_whole_number(given_: TrainInput) -> None:
    found = train(given_)
    full = found.realign_crank_turns
    teeth = given_.gears[0].teeth
    assert all(offset.on for offset in marks_after(given_, full * teeth).values())
    for prime in [p for p in range(2, 400) if full % p == 0 and all(p % q for q in range(2, p))]:
        assert not all(offset.on for offset in marks_after(given_, full // prime * teeth).values())


@given(trains(), st.data())
def test_a_slip_is_found_again_from_the_marks_and_moves_the_cam_as_foretold(
    given_: TrainInput, data: st.DataObject
) -> None:
    pair = data.draw(st.sampled_from(given_.pairs))
    gears = {gear.name: gear for gear in given_.gears}
    teeth = data.draw(st.integers(1, max(1, gears[pair[1]].teeth // 2 - 1)))
    found = train(given_)
    stand = marks_after(given_, found.realign_crank_turns * given_.gears[0].teeth, {pair: teeth})
    # Only downstream of the slip is anything off, and at the slipped pair by just the teeth of the slip.
    assert stand[pair[1]].teeth == pytest.approx(teeth)
    moved = {pair[1]}
    for _ in given_.gears:
        moved |= {down for up, down in given_.pairs if up in moved}
        moved |= {g.name for g in given_.gears if g.shaft and any(gears[m].shaft == g.shaft for m in moved)}
    assert all(offset.on for name, offset in stand.items() if name not in moved)
    shift = teeth * found.cam_shift_per_tooth_deg[f"{pair[0]}-{pair[1]}"]
    count = gears[given_.cam].teeth
    assert math.isclose((shift / 720 * count - stand[given_.cam].teeth + 1e-7) % count, 0, abs_tol=1e-6)


def test_a_chain_turns_the_same_way_and_its_marked_link_comes_back_late() -> None:
    gears = [{"name": "crank", "teeth": 21}, {"name": "cam", "teeth": 42}]
    chained = TrainInput(
        gears=gears,
        meshes=[],
        chains=[GearLoop(upstream="crank", downstream="cam", links=64)],
        crank="crank",
        cam="cam",
    )
    found = train(chained)
    assert not found.cam_turns_opposite
    assert found.mark_back_after_turns == {"crank": 1, "cam": 2, "chain crank-cam": 64}
    assert found.realign_crank_turns == 64
    assert speeds_of(chained)["cam"] == (1, 2)
    with pytest.raises(InvalidInput, match="nothing-meshes"):
        train(TrainInput(gears=gears, meshes=[], crank="crank", cam="cam"))
    with pytest.raises(InvalidInput, match="mesh-without-gear"):
        train(chained.model_copy(update={"chains": [GearLoop(upstream="crank", downstream="pump")]}))


@given(st.integers(6, 200), st.integers(6, 200), st.integers(6, 200))
def test_the_gear_that_spoils_half_speed_is_named_with_the_count_that_cures_it(crank: int, a: int, b: int) -> None:
    gears = [
        {"name": "crank", "teeth": crank},
        {"name": "a", "teeth": a, "shaft": "s"},
        {"name": "b", "teeth": b, "shaft": "s"},
        {"name": "cam", "teeth": 60},
    ]
    given_ = TrainInput(gears=gears, meshes=[("crank", "a"), ("b", "cam")], crank="crank", cam="cam")
    found = train(given_)
    if found.ratio_ok:
        assert found.would_be_right == {}
    for name, teeth in found.would_be_right.items():
        cured = [{**gear, "teeth": teeth} if gear["name"] == name else gear for gear in gears]
        assert train(
            given_.model_copy(update={"gears": TrainInput(**{**given_.model_dump(), "gears": cured}).gears})
        ).ratio_ok


@given(
    st.floats(-170, 170),
    st.floats(-40, 40),
    st.floats(-170, 170),
    st.floats(-80, 80),
    st.booleans(),
    st.booleans(),
)
def test_keys_give_back_how_far_the_cam_was_set_off(
    crank_at: float, crank_off: float, cam_at: float, off: float, opposite: bool, clockwise: bool
) -> None:
    crank_way = 1 if clockwise else -1
    cam_way = -crank_way if opposite else crank_way
    found = keyway(
        KeywayInput(
            crank_stated_deg=crank_at,
            crank_measured_deg=crank_at + crank_way * crank_off,
            cam_stated_deg=cam_at,
            cam_measured_deg=cam_at + cam_way * (crank_off / 2 + off),
            cam_teeth=42,
            turns_opposite=opposite,
            clockwise=clockwise,
        )
    )
    assert found.difference_cam_deg == pytest.approx(off, abs=1e-6)
    assert abs(found.difference_teeth - found.nearest_teeth) <= 0.5 + 1e-9


def test_a_level_good_to_a_degree_tells_teeth_apart_but_not_at_the_half_tooth() -> None:
    def at(off: float, teeth: int = 42) -> bool:
        given_ = {"crank_stated_deg": 0, "crank_measured_deg": 0, "cam_stated_deg": 90, "cam_teeth": teeth}
        return keyway(KeywayInput(**given_, cam_measured_deg=90 + off, turns_opposite=False)).neighbors_clearly_worse

    assert at(0)
    assert at(2.5)
    assert not at(4.2)
    assert not at(0, teeth=200)


@given(st.floats(0.02, 0.3), st.floats(0.02, 0.3), st.floats(-8, 8), st.floats(3, 5))
def test_split_overlap_brings_both_lifters_alike(rise: float, fall: float, late: float, level: float) -> None:
    given_ = SplitInput(
        intake_mm=level - rise * late,
        exhaust_mm=level + fall * late,
        intake_slope_mm_per_deg=rise,
        exhaust_slope_mm_per_deg=fall,
    )
    assert split_overlap(given_).shift_deg == pytest.approx(late, abs=1e-9)


def test_loops_that_cannot_turn_and_gears_that_hang_on_nothing_are_named() -> None:
    gears = [{"name": name, "teeth": teeth} for name, teeth in (("crank", 20), ("a", 30), ("b", 25), ("cam", 40))]
    ring = [("crank", "a"), ("a", "b"), ("b", "crank"), ("b", "cam")]
    with pytest.raises(InvalidInput, match="loop-cannot-turn") as caught:
        train(TrainInput(gears=gears, meshes=ring, crank="crank", cam="cam"))
    assert caught.value.field in ("gears.1", "gears.2")
    with pytest.raises(InvalidInput, match="gear-not-driven") as caught:
        train(TrainInput(gears=gears, meshes=list(itertools.pairwise(["crank", "a", "b"])), crank="crank", cam="cam"))
    assert caught.value.field == "gears.3"
