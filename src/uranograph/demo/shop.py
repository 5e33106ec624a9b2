"""The demo shop: a harbor-and-heritage workshop with two engines on the bench."""

from datetime import UTC, datetime, timedelta

from sqlalchemy.orm import Session

from uranograph.bench.job import Entry
from uranograph.bench.pairs import slot_of
from uranograph.bench.wheel import read
from uranograph.core.lobe import CosineLobe
from uranograph.core.piston import Crank
from uranograph.core.quantities import MM_PER_INCH, LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo.true_engine import TrueEngine
from uranograph.shop import jobs
from uranograph.shop.database import Shop

RAILCAR_ENGINE = {
    "cylinders": "6",
    "firing_order": "1-4-2-5-3-6",
    "rotation": "clockwise",
    "unit": "inch",
    "stroke": "3.780",
    "rod": "6.614",
    "valvetrain": "pushrod",
    "rocker_ratio": "1.5",
    "lift_at": "lifter",
}
RAILCAR_CARD = {
    "unit": "inch",
    "intake_duration_deg": "226",
    "exhaust_duration_deg": "234",
    "lobe_separation_cam_deg": "111",
    "advance_deg": "4",
    "check_lift": "0.050",
    "intake_max_lift": "0.353",
    "exhaust_max_lift": "0.353",
}
RAILCAR_WHEEL = {"scale": "quarter", "mount": "rear", "division": "1", "dial_division": "0.001", "unit": "inch"}
HILLCLIMB_ENGINE = {
    "cylinders": "4",
    "firing_order": "1-3-4-2",
    "rotation": "clockwise",
    "unit": "mm",
    "stroke": "77",
    "rod": "132",
    "valvetrain": "two-cams-over",
    "lift_at": "bucket",
}
HILLCLIMB_CARD = {
    "unit": "mm",
    "io_btdc_deg": "26",
    "ic_abdc_deg": "58",
    "eo_bbdc_deg": "60",
    "ec_atdc_deg": "24",
    "check_lift": "1.0",
    "intake_max_lift": "10.2",
    "exhaust_max_lift": "9.8",
}
LATE_DEG = 3.5


def furnish(shop: Shop, now: datetime | None = None) -> None:
    """Write the demo jobs into an empty shop; a shop with jobs is left as it is.

    Parameters
    ----------
    shop
        Migrated.
    now
        When the bench day ends; the present unless given.
    """
    now = now or datetime.now(UTC)
    with shop.write() as session:
        if jobs.page(session).total:
            return
        _hillclimb(session, now - timedelta(hours=3))
        _railcar(session, now - timedelta(minutes=52))


def _hillclimb(session: Session, at: datetime) -> None:
    key = jobs.begin(session, "Hill-climb four", "TN", "demo-hillclimb", at)
    jobs.save_sheet(session, key, "engine", HILLCLIMB_ENGINE, "TN", at=at)
    jobs.save_sheet(session, key, "card", HILLCLIMB_CARD, "TN", at=at + timedelta(minutes=6))


def railcar_truth() -> TrueEngine:
    """The railcar as it really stands: the cam late, the wheel a little off."""
    mounted = read(RAILCAR_WHEEL, Turn.CLOCKWISE, LengthUnit.INCH).value
    assert mounted is not None
    lift = {"check_lift_mm": 0.050 * MM_PER_INCH, "max_lift_mm": 0.353 * MM_PER_INCH}
    return TrueEngine(
        mounted,
        Crank(stroke_mm=3.780 * MM_PER_INCH, rod_mm=6.614 * MM_PER_INCH),
        {
            "intake": CosineLobe(centerline_deg=107 + LATE_DEG, duration_deg=226, **lift),
            "exhaust": CosineLobe(centerline_deg=-115 + LATE_DEG, duration_deg=234, **lift),
        },
        zero_error_deg=-1.75,
        noise_deg=0.08,
        read_to_deg=0.25,
        seed=12,
    )


def _railcar(session: Session, at: datetime) -> None:
    truth = railcar_truth()
    key = jobs.begin(session, "Railcar 12", "RK", "demo-railcar", at)
    minute = 0

    def later(minutes: int) -> datetime:
        nonlocal minute
        minute += minutes
        return at + timedelta(minutes=minute)

    def write(
        station: str, slot: str, shown: tuple[str, str | None], drop: str | None, approach: str = "forward"
    ) -> None:
        text, side = shown
        entry = Entry(station, slot, text, side, approach, drop, LengthUnit.INCH)
        jobs.record(session, key, entry, "RK", None, None, later(1))

    jobs.save_sheet(session, key, "engine", RAILCAR_ENGINE, "RK", at=later(0))
    jobs.save_sheet(session, key, "card", RAILCAR_CARD, "RK", at=later(5))
    jobs.save_sheet(session, key, "wheel", RAILCAR_WHEEL, "RK", at=later(11))
    for number in (1, 2):
        for place, approach in (("before", "forward"), ("after", "backward")):
            write("tdc", slot_of("stop", number, place), truth.at_stop(13.7, place), None, approach)
        if number == 1:
            jobs.record(session, key, Entry("tdc", "moved", ""), "RK", None, None, later(2))
            truth.zero_error_deg = 0.0
    drop = 0.050 * MM_PER_INCH
    for place in ("before", "after"):
        write("degree", slot_of("intake", 1, place), truth.at_drop("intake", drop, place), "0.050")
    text, _ = truth.at_drop("exhaust", drop, "before")
    write("degree", slot_of("exhaust", 1, "before"), (text, "bbdc"), "0.050")
    wrong = jobs.load(session, key).standing("degree")[-1]
    jobs.void(session, key, wrong.id, "read the wrong side of the dead center", "RK", later(1))
    write("degree", slot_of("exhaust", 1, "before"), truth.at_drop("exhaust", drop, "before"), "0.050")
