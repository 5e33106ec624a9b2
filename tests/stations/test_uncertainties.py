"""What each station states with its figure, and the table of the methods that says what it is made of."""

import math
import re
from pathlib import Path

import pytest

from tests.hands import CARD, WHEEL, a_job, take, true_top
from tests.stations.test_fit import filled, write
from uranograph.engine import runout, tdc
from uranograph.phase import events, lifts
from uranograph.phase import sweep_points as sweeps
from uranograph.shop import loading as jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

METHODS = (Path(__file__).parents[2] / "docs" / "methods.md").read_text(encoding="utf-8")
TABLE = METHODS.split("## Uncertainties")[1].split("\n## ")[0]
NAMED = {row.split("|")[1].strip().split(":")[0] for row in TABLE.splitlines() if re.match(r"\| [A-Z]", row)}


def test_every_station_that_states_a_band_has_its_row(demo_shop: Shop) -> None:
    stated = set()
    with demo_shop.read() as session:
        for row in jobs.page(session).jobs:
            job = jobs.load(session, row.key)
            for station in ORDER.stations:
                if (quantity := station.find(job).quantity) and (quantity.uncertainty or 0) > 0:
                    stated.add(station.title)
    assert {"True TDC", "Intake and exhaust", "Runout", "Backlash", "Cam clearance", "Piston to valve"} <= stated
    assert stated <= NAMED


def ready(shop: Shop, division: str = "1") -> str:
    with shop.write() as session:
        key = a_job(session, card=CARD, wheel={**WHEEL, "scale": "quarter", "division": division}, title=division)
        true_top(session, key)
    return key


@pytest.mark.parametrize(("division", "band"), [("1", 0.5), ("0.5", 0.25), ("2", 1.0)])
def test_one_event_is_good_to_half_a_division_beside_centering_and_approach(
    shop: Shop, division: str, band: float
) -> None:
    key = ready(shop, division)
    with shop.write() as session:
        job = take(session, key, "degree", [("io.1.forward", "12", "btdc")])
    needle = 0.005 / (events.slope_at_check(job, "io") * 0.65)
    by_limits = min(2 * math.sqrt((band**2 + needle**2) / 3), band + needle)
    assert events.measured(job, "io").by_readings_deg == pytest.approx(math.hypot(by_limits, 0.2, 0.2))


def test_repeats_of_an_event_do_not_average_the_wheels_center_away(shop: Shop) -> None:
    key = ready(shop)
    with shop.write() as session:
        for n in range(1, 26):
            job = take(session, key, "degree", [(f"io.{n}.forward", "12", "btdc")])
    assert math.hypot(0.2, 0.2) < events.measured(job, "io").by_readings_deg < 0.34


def test_a_pair_of_lifts_weighs_each_side_half(shop: Shop) -> None:
    key = ready(shop)
    with shop.write() as session:
        for side, text, at in (("before", "60", "atdc"), ("after", "26", "bbdc")):
            job = take(session, key, "degree", [(f"intake.1.{side}", text, at)], "1.27")
    found = lifts.measured(job, "intake")
    needle = 0.005 / (2 * 1.27 / ((found.spans[0].after_deg - found.spans[0].before_deg) / 2))
    by_limits = 2 * math.sqrt(2 * (0.25**2 + (needle / 2) ** 2) / 3)
    wanted = math.hypot(by_limits, 2 * 0.1 / math.sqrt(2), 0.2)
    assert found.by_readings_deg == pytest.approx(wanted)


def test_the_top_counts_both_contacts_and_the_center(shop: Shop) -> None:
    with shop.read() as session:
        job = jobs.load(session, ready(shop))
    top = tdc.frames(job)[-1].top
    assert top.uncertainty_deg == pytest.approx(math.hypot(2 * math.sqrt(2 * 0.25**2 / 3), 0.2 / math.sqrt(2)))


def test_a_travel_of_the_dial_is_read_at_both_its_ends(shop: Shop, key: str) -> None:
    with shop.write() as session:
        filled(session, key, "runout", dial_division="0.01", places="4", unit="mm")
        for n, value in enumerate(("0.00", "0.02", "0.04", "0.02")):
            job = write(session, key, "runout", "set-1", "dial", value, str(90 * n))
    assert runout.measured(job).doubt_mm == pytest.approx(0.01 * math.sqrt(2 / 3))


def test_a_sweep_carries_the_band_of_its_asymmetry(demo_shop: Shop) -> None:
    with demo_shop.read() as session:
        key = next(row.key for row in jobs.page(session).jobs if row.title.startswith("Railcar"))
        job = jobs.load(session, key)
    found = sweeps.swept(job, "intake")
    assert found.asymmetry_doubt_deg == pytest.approx(
        math.hypot(found.found.nose_doubt_deg, found.by_readings_deg / math.sqrt(2))
    )
    assert found.asymmetry_doubt_deg > 0.1
