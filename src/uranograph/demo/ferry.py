"""The ferry's generator on its bed: a cam change planned for three, half run, one task late."""

from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from uranograph.core.errors import Missing
from uranograph.core.quantities import LengthUnit
from uranograph.demo.hand import DemoBuilder
from uranograph.shop import jobs, loading
from uranograph.stations.change_plan.running import in_order, running
from uranograph.stations.change_plan.tasks import suggested

ENGINE = {
    "cylinders": "4",
    "firing_order": "1-2-4-3",
    "rotation": "clockwise",
    "unit": "mm",
    "stroke": "110",
    "rod": "190",
    "bore": "95",
    "compression": "9.2",
    "valvetrain": "pushrod",
    "rocker_ratio": "1.4",
    "lift_at": "lifter",
}
CARD = {
    "unit": "mm",
    "io_btdc_deg": "10",
    "ic_abdc_deg": "46",
    "eo_bbdc_deg": "48",
    "ec_atdc_deg": "12",
    "check_lift": "1.0",
    "intake_max_lift": "7.0",
    "exhaust_max_lift": "7.0",
}
TARGET = "41 kW at 1500, or better"
# How much longer than planned each task took, minutes, in the order in which the plan begins them.
LONGER_MIN = (1, -2, 3, 14, 0, 2)


def write(session: Session, at: datetime) -> None:
    """Write the job: the list that follows from the engine, and ticks as far as the work has gone."""
    key = jobs.begin(session, "Ferry generator, four on its bed", "TN", "demo-ferry", at)
    hand = DemoBuilder(session, key, "TN", LengthUnit.MM, at)
    hand.form("engine", ENGINE, 0)
    hand.form("way", {"way": "change"}, 1)
    hand.form("card", CARD, 4)
    tasks = suggested(loading.load(session, key))["tasks"].replace("as before or better", TARGET)
    hand.form("plan", {"tasks": tasks, "people": "TN, RK, JM"}, 8)
    first = running(loading.load(session, key))
    if first is None:
        raise Missing("first")
    begin = hand.at + timedelta(minutes=10)
    ticks = []
    order = in_order(first)
    for k, longer in zip(order, LONGER_MIN, strict=False):
        start, end = first.starts[k], first.starts[k] + first.work.minutes[k] + longer
        ticks += [(start, f"task-{k + 1}", "start"), (end, f"task-{k + 1}", "done")]
    following = order[len(LONGER_MIN)]
    ticks.append((max(end for end, _, _ in ticks), f"task-{following + 1}", "start"))
    for minutes, kind, place in sorted(ticks):
        hand.tick(begin + timedelta(minutes=minutes), "change-plan", f"{kind}.{hand.next('change-plan', kind)}.{place}")
