from dataclasses import replace

import pytest

from tests.hands import CARD, ENGINE, WHEEL, cam_moved, take, true_top, with_forms
from uranograph.bench import memo
from uranograph.bench.acts import Act
from uranograph.bench.finding import Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Log
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Scale, Side, Turn
from uranograph.engine import card as engine_card
from uranograph.engine import degree_wheel, description, positions
from uranograph.engine.description import engine_of
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER
from uranograph.stations.card import rules as card
from uranograph.stations.engine import rules as engine
from uranograph.stations.wheel import rules as wheel


def test_an_engine_as_typed() -> None:
    found = description.read(ENGINE).value
    assert found is not None
    assert found.companions == {1: 4, 4: 1, 3: 2, 2: 3}
    assert found.crank is not None
    assert (found.crank.stroke_mm, found.crank.rod_mm) == (84, 150)
    assert "1+4" in engine.find(with_forms(engine=ENGINE)).sentence


@pytest.mark.parametrize(
    ("change", "field", "words"),
    [
        ({"rod": "40"}, "rod", "half the stroke"),
        ({"rod": "1.5in"}, "rod", "half the stroke"),
        ({"rod": ""}, "rod", "type both"),
        ({"rod": "43", "pin_offset": "1.5"}, "pin_offset", "offset"),
        ({"firing_order": "1-3-4-4"}, "firing_order", "stands twice"),
        ({"firing_order": "", "firing_angles": "0 180 360 540"}, "firing_order", "such as"),
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
    filled = description.read({**ENGINE, **change})
    assert filled.value is None
    assert words in filled.errors[field]


def test_lengths_with_suffixes_overrule_the_unit() -> None:
    found = description.read({**ENGINE, "stroke": "3.307in", "rod": "150,0"}).value
    assert found is not None
    assert found.crank is not None
    assert found.crank.stroke_mm == pytest.approx(84, abs=0.01)


def test_a_single_needs_no_firing_order() -> None:
    job = with_forms(engine={**ENGINE, "cylinders": "1", "firing_order": ""})
    found = engine_of(job)
    assert found is not None
    assert found.firing_order == (1,)
    assert "No two cylinders" in engine.find(job).sentence


def test_a_card_that_contradicts_itself_is_told_once_beside_a_field_that_takes_part() -> None:
    job = with_forms(card={**CARD, "intake_centerline_deg": "115"})
    filled = job.filled(engine_card.FORM)
    assert filled is not None
    assert filled.value is not None
    assert set(filled.errors) == {"io_btdc_deg"}
    assert card.find(job).verdict is Verdict.UNSURE


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
    assert field in engine_card.read({**CARD, **change}, LengthUnit.MM).errors


def test_an_empty_card_asks_for_anything_and_a_poor_one_for_more() -> None:
    assert engine_card.read({}, LengthUnit.MM).errors
    assert card.find(with_forms(card={"io_btdc_deg": "12"})).verdict is Verdict.OPEN


def test_a_card_keeps_the_unit_it_was_typed_in() -> None:
    filled = engine_card.read({**CARD, "check_lift": "0.050", "unit": "inch"}, LengthUnit.MM)
    assert filled.value is not None
    assert filled.value.check_lift_mm == pytest.approx(1.27)


def test_a_full_circle_wheel_must_say_which_way_it_counts() -> None:
    filled = degree_wheel.read({**WHEEL, "scale": "full"}, Turn.CLOCKWISE, LengthUnit.MM)
    assert set(filled.errors) == {"numbers_rise"}
    told = wheel.find(with_forms(engine=ENGINE, wheel={**WHEEL, "scale": "full", "numbers_rise": "clockwise"}))
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
    assert degree_wheel.split_side(text, Scale.QUARTER, chosen) == found
    with pytest.raises(InvalidInput):
        degree_wheel.split_side("12 before", Scale.FULL, None)


def test_what_the_eye_reads_stands_beside_its_plain_value() -> None:
    mounted = degree_wheel.read({**WHEEL, "scale": "quarter"}, Turn.CLOCKWISE, LengthUnit.MM).value
    assert mounted is not None
    assert degree_wheel.plain_angle(mounted, "21", "abdc") == "= 159 BTDC"
    assert degree_wheel.plain_angle(mounted, "21", "btdc") == ""
    assert degree_wheel.plain_angle(mounted, "95", "abdc") == ""


def test_a_finding_depends_on_what_it_asked_for_and_on_nothing_else(demo_shop: Shop) -> None:
    """Everything a finding did not ask for is taken away, demo job by demo job: it stays as it is."""
    with demo_shop.read() as session:
        whole = list(loading.page(session).jobs)
    for job in whole:
        for station in ORDER.stations:
            memo.clear_memo()
            told, notes = memo.tracked(job, lambda station=station, job=job: station.find(job))
            forms = {name for kind, name in notes.view_keys if kind == "form"}
            read = {name for kind, name in notes.view_keys if kind in ("readings", "written", "slot")}
            ending = {name for kind, name in notes.view_keys if kind == "acts"}
            without = replace(
                job,
                log=Log(
                    tuple(filled for filled in job.forms if filled.kind in forms),
                    tuple(
                        entry
                        for entry in job.entries
                        if {entry.station, entry.kind_name} & read
                        or (isinstance(entry, Act) and ending & set(entry.disturbs))
                    ),
                ),
                shop_values={
                    name: job.shop_values[name] for name in job.shop_values if ("house", name) in notes.view_keys
                },
            )
            memo.clear_memo()
            assert station.find(without) == told, station.key


def test_what_is_kept_is_worked_out_again_only_once_something_it_asked_for_is_written(shop: Shop, key: str) -> None:
    asked = []

    @memo.memoized
    def work(job: Job, lobe: str) -> int:
        asked.append(lobe)
        return len(job.active_readings("runout")) + (engine_of(job).cylinders if engine_of(job) else 0)

    @memo.memoized
    def around(job: Job) -> int:
        return work(job, "intake") + 1

    with shop.write() as session:
        job = loading.load(session, key)
        assert (around(job), around(job), work(job, "exhaust")) == (5, 5, 4)
        job = take(session, key, "sprocket", [("driver.1.depth", "20", None)])
        assert around(job) == 5
        assert asked == ["intake", "exhaust"]
        job = take(session, key, "runout", [("set-1.1.dial", "0.01", None)], second="0")
        assert around(job) == 6
        assert asked == ["intake", "exhaust", "intake"]
        jobs.void(session, key, job.readings[-1].id, "slip", "QZ")
        assert around(loading.load(session, key)) == 5
        jobs.save_form(session, key, "engine", {**ENGINE, "cylinders": "2", "firing_order": "1-2"}, "QZ")
        assert around(loading.load(session, key)) == 3


def test_what_a_view_asked_counts_for_whoever_looked_at_the_view(shop: Shop, key: str) -> None:
    @memo.memoized
    def at_the_view(job: Job) -> int:
        return len(job.active_readings("degree"))

    @memo.memoized
    def at_the_whole(job: Job) -> int:
        return at_the_view(positions.at_position(job))

    with shop.write() as session:
        true_top(session, key)
        job = take(session, key, "degree", [("io.1.forward", "12", "btdc")])
        assert at_the_whole(job) == 1
        job = cam_moved(session, key, 4)
        assert at_the_whole(job) == 0
        job = take(session, key, "degree", [("io.2.forward", "16", "btdc")])
        assert at_the_whole(job) == 1
        assert at_the_view(positions.at_position(job, 0)) == 1
