"""Readings that instruments took: how good they are, and the slack that a sweep both ways shows."""

import math

import pytest

from tests.hands import a_job
from uranograph.bench.log import Entry
from uranograph.bench.slots import slot_of
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import as_read
from uranograph.engine import degree_wheel
from uranograph.phase import slack, sweep_points
from uranograph.phase.observations import gathered
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop

BY_ENCODER = {"instrument": "E1, D1", "uncertainty": (0.1, 0.004)}
CENTERLINE = {"intake": 108.0, "exhaust": -112.0}


def swept(shop: Shop, slack_deg: float, back: bool = True, **how: object) -> str:
    """A job whose TDC was found with an encoder, and one lobe swept forward and back through so much slack."""
    with shop.write() as session:
        key = a_job(session, title=f"{slack_deg} {back} {how}")
        by = {"instrument": "E1", "uncertainty": (0.1,)} if how.get("uncertainty", True) else {}
        tops = [
            Entry("tdc", f"stop.{n}.{place}", text, side, unit=LengthUnit.MM, **by)
            for n in (1, 2)
            for place, text, side in (("before", "35.0", "btdc"), ("after", "35.0", "atdc"))
        ]
        jobs.record_all(session, key, [*tops, Entry("tdc", "left", "left", unit=LengthUnit.MM)][:4], "QZ")
        mounted = degree_wheel.wheel_of(loading.load(session, key))
        assert mounted is not None
        lobe = CosineLobe(centerline_deg=CENTERLINE["intake"], duration_deg=240, check_lift_mm=1.0, max_lift_mm=9.0)
        entries, number = [], 1
        for approach, shift in (("forward", 0.0), ("backward", slack_deg)):
            if approach == "backward" and not back:
                continue
            for deg in range(-60, 278, 2):
                value, side = as_read(mounted.wheel, (deg + 180) % 360 - 180)
                lift = max(0.0, lift_at(lobe, deg + shift))
                slot = slot_of("sweep-intake", number, "point")
                words = side.value if side else None
                entries.append(
                    Entry(
                        "degree",
                        slot,
                        f"{value:.1f}",
                        words,
                        approach,
                        f"{lift:.3f}mm",
                        LengthUnit.MM,
                        **(BY_ENCODER | how),
                    )
                )
                number += 1
        jobs.record_all(session, key, entries, "QZ")
    return key


@pytest.mark.parametrize("slack_deg", [0.0, 0.6, 2.5])
def test_a_lobe_swept_both_ways_shows_the_slack_and_is_judged_by_the_forward_one(shop: Shop, slack_deg: float) -> None:
    both, forward = swept(shop, slack_deg), swept(shop, slack_deg, back=False)
    with shop.read() as session:
        job, alone = loading.load(session, both), loading.load(session, forward)
    assert slack.swept_deg(job) == pytest.approx(slack_deg, abs=0.15)
    assert slack.swept_deg(alone) is None
    one, two = sweep_points.swept(job, "intake"), sweep_points.swept(alone, "intake")
    assert one is not None
    assert two is not None
    assert one.points == two.points
    found = gathered(job)
    assert found is not None
    assert found.setup.slack_deg == slack.swept_deg(job)


def test_the_instruments_own_uncertainty_counts_instead_of_eye_and_needle(shop: Shop) -> None:
    fine, coarse = swept(shop, 0.0, back=False), swept(shop, 0.0, back=False, uncertainty=(1.0, 0.004))
    with shop.read() as session:
        jobs_ = [loading.load(session, key) for key in (fine, coarse)]
    seen = [gathered(job) for job in jobs_]
    assert all(seen)
    own = [[each.own_deg for each in one.readings if each.kind == "event"] for one in seen if one]
    assert all(a < b for a, b in zip(*own, strict=True))
    stops = [each for each in seen[0].readings if each.kind == "stop"] if seen[0] else []
    assert stops
    assert all(
        each.by_encoder and each.own_deg == pytest.approx(math.hypot(0.05, 0.05) / math.sqrt(2)) for each in stops
    )
    wider = [sweep_points.swept(job, "intake").by_readings_deg for job in jobs_]  # type: ignore[union-attr]
    assert wider[0] < wider[1]


def test_what_an_eye_read_is_as_good_as_its_wheel(shop: Shop) -> None:
    key = swept(shop, 0.0, back=False, uncertainty=())
    with shop.read() as session:
        job = loading.load(session, key)
    read = sweep_points.swept(job, "intake")
    assert read is not None
    assert {each.reader for each in read.readings} == {""}
