"""Words of what core finds: every reason and cure that core can give has them, and machines get them beside the figures."""

import re
from itertools import product

import pytest

from uranograph.bench import worded
from uranograph.bench.calculations import calculate
from uranograph.core.card import CardInput, card
from uranograph.core.drive_choice import ChoiceInput, drive_choice
from uranograph.core.quantities import LengthUnit

HOLE = re.compile(r"\{(\w+)")


def choices() -> list[ChoiceInput]:
    """Runouts, doubts and windows from nothing to far past every limit."""
    windows = (None, (0.0, 0.05), (0.05, 0.2))
    return [
        ChoiceInput(
            total_indicated_mm=tir,
            uncertainty_mm=doubt,
            backlash_min_mm=window[0] if window else None,
            backlash_max_mm=window[1] if window else None,
        )
        for tir, doubt, window in product((0.0, 0.03, 0.06, 0.079, 0.1, 0.24, 0.3), (0.0, 0.005, 0.02), windows)
    ]


def test_every_reason_and_cure_has_words_for_its_figures() -> None:
    seen = set()
    for given in choices():
        for option in drive_choice(given).options:
            assert "{" not in worded.reason(option, LengthUnit.MM)
            assert option.cure in worded.CURES
            assert set(HOLE.findall(worded.REASONS[option.code])) <= set(option.values)
            seen.add(option.code)
    assert seen == set(worded.REASONS)


def test_a_reason_is_told_in_the_unit_asked_for() -> None:
    [gears, *_] = calculate("drive-choice", {"total_indicated_mm": 0.1, "unit": "inch"})["options"]
    assert gears["code"] == "gears-past-runout"
    assert gears["reason"] == (
        "Runout 0.0039 inch is past 0.0031 inch: backlash swings 0.0029 inch. "
        "Smaller gears bring the mean backlash right, never the swing. "
        "The shaft is not surely within its own 0.0031 inch: its bearings and seal suffer whatever the drive."
    )
    assert gears["would_change"] == "true the crank, then measure again"


def test_a_bent_shaft_is_told_whatever_the_drive_would_bear() -> None:
    chain = drive_choice(ChoiceInput(total_indicated_mm=0.1)).options[1]
    assert worded.reason(chain, LengthUnit.MM).endswith("its bearings and seal suffer whatever the drive.")


@pytest.mark.parametrize(
    ("typed", "message"),
    [
        (
            {"io_btdc_deg": 6, "ic_abdc_deg": 40, "intake_centerline_deg": 109},
            "Intake opens 6 and intake closes 40 make the intake centerline 107, not 109: 2 deg apart. Look at the card again.",
        ),
    ],
)
def test_a_clash_names_what_follows_and_what_is_stated(typed: dict[str, float], message: str) -> None:
    [conflict] = card(CardInput(**typed)).conflicts
    assert worded.clash(conflict) == message
    [told_too] = calculate("card", typed)["conflicts"]
    assert told_too["message"] == message
