"""Whatever a person writes, in whatever order: told or taken, never broken, and the same when it comes back from a file."""

import re

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.hands import CARD, ENGINE, WHEEL, a_job, with_forms
from uranograph.bench.finding import STATE_WORDS
from uranograph.bench.log import Entry
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit
from uranograph.shop import exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

SLOTS = {
    "runout": ["set-1.{n}.dial", "set-2.{n}.dial", "total.{n}.read"],
    "by-eye": [
        "look-1.{n}.seen",
        "lifters.{n}.seen",
        "rotor.{n}.seen",
        "pin-1.{n}.seen",
        "dry.{n}.seen",
        "turned.{n}.seen",
    ],
    "wrong": ["marks.{n}.seen", "witness.{n}.seen", "found.{n}.seen", "again.{n}.deg"],
    "choice": ["seat.{n}.seen", "camseat.{n}.seen", "chosen.{n}.seen"],
    "end-play": [
        "crank.{n}.blade",
        "crank.{n}.travel",
        "cam.{n}.travel",
        "fitted-crank.{n}.seen",
        "fitted-cam.{n}.seen",
    ],
    "setting": ["shims-crank.{n}.fitted", "cheek-cam.{n}.front", "cheek-cam.{n}.rear", "plate-idler.{n}.thickness"],
    "gear-fit": [
        "bearing.{n}.seen",
        "key.{n}.seen",
        "torque-1-1.{n}.pulled",
        "torque-2-1.{n}.pulled",
        "temperature.{n}.measured",
        "crank-home.{n}.seen",
    ],
    "every-valve": ["lift-1.{n}.dial", "lift-8.{n}.dial", "opens-3.{n}.forward", "closes-3.{n}.forward"],
    "lobe-room": ["lobe-1.{n}.gap", "lobe-8.{n}.gap"],
    "marks": [
        "mesh-2.{n}.seen",
        "pin-2.{n}.seen",
        "key-2.{n}.seen",
        "turned.{n}.seen",
        "keyway-cam.{n}.level",
        "again.{n}.lift",
        "set-1.{n}.tried",
        "set-3.{n}.tried",
    ],
    "backlash": ["place.{n}.travel"],
    "sprocket": ["driver.{n}.depth", "driven.{n}.depth", "second.{n}.depth"],
    "tdc": ["stop.{n}.before", "stop.{n}.after", "drop.{n}.before"],
    "degree": [
        "intake.{n}.before",
        "intake.{n}.after",
        "io.{n}.forward",
        "ic.{n}.backward",
        "overlap-intake.{n}.lift",
        "overlap-intake.{n}.on",
        "peak-exhaust.{n}.lift",
    ],
}
FORMS_BEFORE = {
    "train": {
        "g1_name": "crank",
        "g1_teeth": "21",
        "g2_name": "cam",
        "g2_teeth": "42",
        "g2_role": "cam",
        "g2_on": "1",
        "g2_held": "taper",
        "g2_sprung": "1",
        "g2_mark": "tooth",
        "g2_there": "space",
        "crank_key": "0",
        "cam_key": "90",
        "hole_sets": "3",
    },
    "backlash": {"pitch_radius": "60", "spec_min": "0.05", "spec_max": "0.15"},
    "end-play": {"crank_min": "0.1", "crank_max": "0.2", "cam_min": "0.05", "cam_max": "0.1", "cam_way": "dial"},
    "setting": {"crank_way": "shims", "crank_stock": "0.1 0.2", "cam_way": "cheeks", "idler_way": "spacer"},
    "gear-fit": {"bolts": "1", "stages": "20; 40", "bore": "30", "interference": "0.02"},
    "by-eye": {
        "m1_on": "cam gear",
        "m1_other": "crank gear",
        "d1_kind": "magneto",
        "d1_pinned": "yes",
        "helical": "yes",
    },
    "complaint": {"complaint": "no power", "offset": "9", "crank_teeth": "24", "held": "pressed"},
    "target": {"aim": "advance", "advance": "3"},
    "top": {"how": "stop", "by_whom": "RK", "top_cylinder": "1", "read_cylinder": "3"},
    "drive": {"a1_kind": "slot", "a1_name": "slot", "a1_range": "10", "a1_step": "1"},
    "way": {"way": "wrong"},
    "limits": {"sprocket_line": "0.3"},
}
TEXTS = st.sampled_from(
    [
        "0",
        "0.05",
        "0.1",
        "0.15",
        "0.4",
        "1",
        "2.2",
        "40",
        "41 1/2",
        "-0.02",
        "yes",
        "no",
        "all",
        "some",
        "goes",
        "not",
        "on",
        "early",
        "cannot",
        "smooth",
        "in",
        "out",
        "gears",
        "hydraulic",
        "20 N m",
        "1e9",
        "",
        "?",
        "0.1 + 0.2",
        "5 thou",
        "lags",
        "same",
        "down",
        "binds",
        "na",
        "snug",
    ]
)
DROPS = st.sampled_from([None, "0", "45", "90", "0.1", "0.25", "200", "x"])
SLOT = st.sampled_from([(station, slot) for station, slots in SLOTS.items() for slot in slots])


def test_the_slots_of_these_tests_are_slots() -> None:
    for station, slots in SLOTS.items():
        for slot in slots:
            assert ORDER.has_slot(station, slot.format(n=1)), (station, slot)
            assert not ORDER.has_slot(station, slot.format(n="x"))


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture, HealthCheck.too_slow])
@given(
    st.lists(st.tuples(SLOT, TEXTS, DROPS, st.sampled_from([None, "btdc", "atdc", "abdc"])), min_size=5, max_size=40)
)
def test_whatever_is_written_every_station_says_something_and_a_file_brings_it_back(
    shop: Shop, written: list[tuple[tuple[str, str], str, str | None, str | None]]
) -> None:
    with shop.write() as session:
        key = a_job(session, title=f"Whatever {id(written)} {len(written)}")
        for kind, typed in FORMS_BEFORE.items():
            jobs.save_form(session, key, kind, {**typed, "unit": "mm"}, "QZ")
    for (station, slot), text, drop, side in written:
        with shop.write() as session:
            job = loading.load(session, key)
            kind = slot.split(".")[0]
            entry = Entry(
                station,
                slot.format(n=job.next_number(station, kind)),
                text,
                side if station in ("tdc", "degree") else None,
                "forward",
                drop,
                LengthUnit.MM,
            )
            refused = ""
            try:
                jobs.record(session, key, entry, "QZ", None, None)
            except InvalidInput as error:
                refused = refusal(error)
            assert re.fullmatch(r"([A-Z0-9“-].*[.?!])?", refused), refused
    with shop.read() as session:
        job = loading.load(session, key)
        text = exchange.export_job(session, key).model_dump_json()
    found = ORDER.overview(job)
    assert set(found) == set(ORDER.by_key)
    for one in found.values():
        assert one.state in STATE_WORDS
        assert one.sentence
    assert set(ORDER.advice(job)) <= set(ORDER.by_key)
    for station in ORDER.stations:
        if station.prompt:
            station.prompt(job, {})
    for reading in job.readings:
        assert ORDER.describe(reading)
        assert ORDER.describe_briefly(reading)
    with shop.write() as session:
        again = exchange.import_job(session, exchange.read_job(text))
    with shop.read() as session:
        copy = loading.load(session, again)
    assert ORDER.overview(copy) == found


@pytest.mark.parametrize("kind", sorted(ORDER.forms))
def test_no_text_in_any_field_of_any_sheet_breaks_its_reading(kind: str) -> None:
    """Each field in turn holds each of these; what cannot be is told at some field, or the sheet is read."""
    job = with_forms(engine={"unit": "mm", "rotation": "clockwise"})
    whole = {"engine": ENGINE, "card": CARD, "wheel": WHEEL, **FORMS_BEFORE}.get(kind, {})
    for field in ORDER.forms[kind].fields:
        for text in ("", "-1", "0", "1e99", "nan", "zz", "1/0", "½", "9" * 40, "<b>", "cam", "steel", "2; 1"):
            filled = ORDER.forms[kind].read({**whole, field: text}, job)
            if filled.value is None:
                assert filled.errors, (field, text)
            for name, message in filled.errors.items():
                assert name in ORDER.forms[kind].fields, (field, text, name)
                assert message
