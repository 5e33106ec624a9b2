from dataclasses import replace

import pytest

from tests.hands import CARD, ENGINE, WHEEL
from uranograph.bench import card, engine, stations, wheel
from uranograph.bench.finding import Verdict
from uranograph.core.errors import Impossible
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Scale, Side, Turn
from uranograph.demo.shop import furnish
from uranograph.shop import jobs
from uranograph.shop.database import Shop


def test_an_engine_as_typed() -> None:
    found = engine.read(ENGINE).value
    assert found is not None
    assert found.companions == {1: 4, 4: 1, 3: 2, 2: 3}
    assert found.crank is not None
    assert (found.crank.stroke_mm, found.crank.rod_mm) == (84, 150)
    assert "1+4" in engine.find(found).sentence


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"rod": "40"}, "rod", "half the stroke"),
        ({"rod": "1.5in"}, "rod", "half the stroke"),
        ({"rod": ""}, "rod", "type both"),
        ({"rod": "43", "pin_offset": "1.5"}, "pin_offset", "offset"),
        ({"firing_order": "1-3-4-4"}, "firing_order", "stands twice"),
        ({"firing_order": ""}, "firing_order", "such as"),
        ({"cylinders": "4.5"}, "cylinders", "whole number"),
        ({"cylinders": ""}, "cylinders", "how many"),
        ({"cylinders": "99"}, "cylinders", "1 to 28"),
        ({"stroke": "84 deg"}, "stroke", "length"),
        ({"stroke": "-84"}, "stroke", "more than nothing"),
        ({"rotation": "sideways"}, "rotation", "which way"),
        ({"rocker_ratio": "15"}, "rocker_ratio", "1 to 2"),
    ],
)
def test_what_is_wrong_stands_beside_its_field(change: dict[str, str], field: str, words: str) -> None:
    sheet = engine.read({**ENGINE, **change})
    assert sheet.value is None
    assert words in sheet.errors[field]


def test_lengths_with_suffixes_overrule_the_unit() -> None:
    found = engine.read({**ENGINE, "stroke": "3.307in", "rod": "150,0"}).value
    assert found is not None
    assert found.crank is not None
    assert found.crank.stroke_mm == pytest.approx(84, abs=0.01)


def test_a_single_needs_no_firing_order() -> None:
    found = engine.read({**ENGINE, "cylinders": "1", "firing_order": ""}).value
    assert found is not None
    assert found.firing_order == (1,)
    assert "No two cylinders" in engine.find(found).sentence


def test_a_card_that_contradicts_itself_is_told_beside_every_field_that_takes_part() -> None:
    sheet = card.read({**CARD, "intake_centerline_deg": "112"}, LengthUnit.MM)
    assert sheet.value is not None
    assert set(sheet.errors) == {"io_btdc_deg", "ic_abdc_deg", "intake_centerline_deg"}
    assert card.find(sheet).verdict is Verdict.UNSURE


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"io_btdc_deg": "twelve"}, "io_btdc_deg"),
        ({"io_btdc_deg": "200"}, "io_btdc_deg"),
        ({"check_lift": "9"}, "check_lift"),
        ({"check_lift": "0"}, "check_lift"),
        ({"intake_max_lift": "85"}, "intake_max_lift"),
    ],
)
def test_bad_card_fields(change: dict[str, str], field: str) -> None:
    assert field in card.read({**CARD, **change}, LengthUnit.MM).errors


def test_an_empty_card_asks_for_anything_and_a_poor_one_for_more() -> None:
    assert card.read({}, LengthUnit.MM).errors
    poor = card.read({"io_btdc_deg": "12"}, LengthUnit.MM)
    assert card.find(poor).verdict is Verdict.OPEN


def test_a_card_keeps_the_unit_it_was_typed_in() -> None:
    sheet = card.read({**CARD, "check_lift": "0.050", "unit": "inch"}, LengthUnit.MM)
    assert sheet.value is not None
    assert sheet.value.check_lift_mm == pytest.approx(1.27)


def test_a_full_circle_wheel_must_say_which_way_it_counts() -> None:
    sheet = wheel.read({**WHEEL, "scale": "full"}, Turn.CLOCKWISE, LengthUnit.MM)
    assert set(sheet.errors) == {"numbers_rise"}
    told = wheel.find(
        wheel.read({**WHEEL, "scale": "full", "numbers_rise": "clockwise"}, Turn.CLOCKWISE, LengthUnit.MM)
    )
    assert "numbers count down" in told.sentence


@pytest.mark.parametrize(
    ("text", "chosen", "found"),
    [
        ("64 1/4 BTDC", "atdc", ("64 1/4", Side.BTDC)),
        ("12a", "btdc", ("12", Side.ATDC)),
        ("12 before", "abdc", ("12", Side.BBDC)),
        ("12", "abdc", ("12", Side.ABDC)),
        ("12", None, ("12", None)),
    ],
)
def test_a_side_typed_behind_the_number_overrules(text: str, chosen: str | None, found: tuple[str, Side]) -> None:
    assert wheel.split_side(text, Scale.QUARTER, chosen) == found
    with pytest.raises(Impossible):
        wheel.split_side("12 before", Scale.FULL, None)


def test_what_the_eye_reads_stands_beside_its_plain_value() -> None:
    mounted = wheel.read({**WHEEL, "scale": "quarter"}, Turn.CLOCKWISE, LengthUnit.MM).value
    assert mounted is not None
    assert wheel.plain_angle(mounted, "21", "abdc") == "= 159 BTDC"
    assert wheel.plain_angle(mounted, "21", "btdc") == ""
    assert wheel.plain_angle(mounted, "95", "abdc") == ""


def test_a_finding_stands_while_only_what_it_does_not_look_at_is_written(shop: Shop) -> None:
    furnish(shop)
    with shop.read() as session:
        whole = list(jobs.page(session).jobs)
    for job in whole:
        for station in stations.STATIONS:
            if station.looks_at is None:
                continue
            told = station.find(job)
            for name in stations.BY_KEY.keys() | stations.SHEETS.keys():
                if name in station.looks_at:
                    continue
                without = replace(
                    job,
                    sheets=tuple(sheet for sheet in job.sheets if sheet.kind != name),
                    readings=tuple(reading for reading in job.readings if reading.station != name),
                )
                assert station.find(without) == told, (station.key, name)
