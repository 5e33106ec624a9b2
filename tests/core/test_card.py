import itertools

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.card import _RELATIONS, CARD_FIELDS, CardInput, card

event = st.integers(-60, 90).map(float)


def whole(io: float, ic: float, eo: float, ec: float) -> dict[str, float]:
    """The definitions written out by hand, as an oracle."""
    icl, ecl = (180 + ic - io) / 2, (180 + eo - ec) / 2
    return {
        "io_btdc_deg": io,
        "ic_abdc_deg": ic,
        "eo_bbdc_deg": eo,
        "ec_atdc_deg": ec,
        "intake_duration_deg": io + 180 + ic,
        "exhaust_duration_deg": eo + 180 + ec,
        "intake_centerline_deg": icl,
        "exhaust_centerline_deg": ecl,
        "lobe_separation_cam_deg": (icl + ecl) / 2,
        "advance_deg": (icl + ecl) / 2 - icl,
    }


def determining_subsets() -> list[tuple[str, ...]]:
    return [
        names
        for names in itertools.combinations(CARD_FIELDS, 4)
        if np.linalg.matrix_rank(np.array([_RELATIONS[n][:4] for n in names])) == 4
    ]


SUBSETS = determining_subsets()


@given(event, event, event, event, st.sampled_from(SUBSETS))
def test_any_determining_subset_completes_to_the_same_card(
    io: float, ic: float, eo: float, ec: float, names: tuple[str, ...]
) -> None:
    wanted = whole(io, ic, eo, ec)
    found = card(CardInput(**{name: wanted[name] for name in names}))
    for name, value in wanted.items():
        assert getattr(found, name) == pytest.approx(value, abs=1e-6), name
    assert found.overlap_deg == pytest.approx(io + ec, abs=1e-6)
    assert set(found.derived) == {*wanted, "overlap_deg"} - set(names)
    assert found.conflicts == []


def test_a_card_of_durations_separation_and_advance() -> None:
    given_ = {"intake_duration_deg": 226, "exhaust_duration_deg": 234, "lobe_separation_cam_deg": 111, "advance_deg": 4}
    found = card(CardInput(**given_))
    assert (found.io_btdc_deg, found.ic_abdc_deg, found.eo_bbdc_deg, found.ec_atdc_deg) == (6, 40, 52, 2)
    assert (found.intake_centerline_deg, found.exhaust_centerline_deg, found.overlap_deg) == (107, 115, 8)


def test_half_a_card_gives_half() -> None:
    found = card(CardInput(intake_duration_deg=226, intake_centerline_deg=107))
    assert (found.io_btdc_deg, found.ic_abdc_deg) == (6, 40)
    assert found.eo_bbdc_deg is None
    assert found.overlap_deg is None
    assert found.lobe_separation_cam_deg is None


def test_separation_and_one_centerline_give_the_other() -> None:
    found = card(CardInput(intake_centerline_deg=107, lobe_separation_cam_deg=111))
    assert (found.exhaust_centerline_deg, found.advance_deg) == (115, 4)
    assert found.io_btdc_deg is None


def test_a_centerline_beside_the_middle_of_its_events_is_named() -> None:
    found = card(CardInput(io_btdc_deg=6, ic_abdc_deg=40, intake_centerline_deg=109))
    [conflict] = found.conflicts
    assert set(conflict.fields) == {"io_btdc_deg", "ic_abdc_deg", "intake_centerline_deg"}
    assert conflict.gap_deg == pytest.approx(2)
    others, last = conflict.fields[:-1], conflict.fields[-1]
    assert set(conflict.values) == set(others)
    assert abs(conflict.stated_deg - conflict.follows_deg) == pytest.approx(conflict.gap_deg)
    assert last not in conflict.values
    assert found.intake_centerline_deg == 109


def test_rounding_is_no_conflict_and_the_tolerance_decides() -> None:
    near = {"io_btdc_deg": 6, "ic_abdc_deg": 40, "intake_centerline_deg": 107.5}
    assert card(CardInput(**near)).conflicts == []
    assert card(CardInput(**near, tolerance_deg=0.4)).conflicts


@given(event, event, event, event, st.sampled_from(CARD_FIELDS), st.sampled_from([-1, 1]))
def test_one_wrong_field_on_a_full_card_is_in_every_conflict(
    io: float, ic: float, eo: float, ec: float, name: str, side: int
) -> None:
    told = whole(io, ic, eo, ec)
    told[name] += side * 6
    found = card(CardInput(**told))
    assert found.conflicts
    assert all(name in conflict.fields for conflict in found.conflicts)


@pytest.mark.parametrize("bad", [float("nan"), float("inf"), 900.0])
def test_no_event_lies_outside_its_half_turn(bad: float) -> None:
    with pytest.raises(ValueError, match="io_btdc_deg"):
        CardInput(io_btdc_deg=bad)
