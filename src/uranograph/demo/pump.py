"""The museum fire pump: a twin with two gears, no marks and no card, set by split overlap."""

from datetime import datetime

from sqlalchemy.orm import Session

from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.quantities import MM_PER_INCH, LengthUnit
from uranograph.demo.hand import DemoBuilder
from uranograph.shop import jobs

ENGINE = {
    "cylinders": "2",
    "firing_order": "1-2",
    "rotation": "counterclockwise",
    "unit": "inch",
    "stroke": "5.000",
    "rod": "10.250",
    "valvetrain": "pushrod",
    "lift_at": "lifter",
}
TRAIN = {
    "unit": "inch",
    "g1_name": "crank",
    "g1_teeth": "24",
    "g1_role": "crank",
    "g1_held": "key",
    "g2_name": "cam",
    "g2_teeth": "48",
    "g2_role": "cam",
    "g2_on": "1",
    "g2_held": "taper",
    "g3_name": "magneto",
    "g3_teeth": "48",
    "g3_role": "untimed",
    "g3_on": "2",
}
COMPLAINT = {
    "unit": "inch",
    "complaint": "Starts hard and lacks lift since it was taken apart for the centenary.",
    "by_what": "marks",
    "crank_teeth": "24",
    "drive_kind": "gears",
    "held": "taper",
}
BY_EYE = {
    "unit": "inch",
    "d1_kind": "magneto",
    "d1_name": "magneto",
    "d1_teeth": "48",
    "d1_pinned": "yes",
}
LATE_DEG = 3.0


def write(session: Session, at: datetime) -> None:
    """Write the job: both lifters are read at overlap and a few degrees on; the proof is half done."""
    key = jobs.begin(session, "Fire pump, twin", "RK", "demo-pump", at)
    hand = DemoBuilder(session, key, "RK", LengthUnit.INCH, at)
    hand.form("engine", ENGINE, 0)
    hand.pass_over("No card survives; the cam is set by split overlap.", "card")
    reason = "Both shafts stay in their bearings: the museum wants it sealed again this week, nothing is replaced."
    hand.pass_over(reason, "runout", "choice", "end-play", "setting", "gear-fit", "lobe-room")
    hand.form("complaint", COMPLAINT, 3)
    for kind, answer in (("marks", "na"), ("key", "yes"), ("part", "yes")):
        hand.look(kind, answer, "wrong")
    hand.form("by-eye", BY_EYE, 4)
    for kind, answer in (
        ("pin-1", "in"),
        ("crank-at", "overlap"),
        ("lifters", "exhaust"),
        ("rotor", "half"),
        ("driven-1", "yes"),
    ):
        hand.look(kind, answer, "by-eye")
    hand.form("train", TRAIN, 9)
    for kind, answer in (("key-1", "yes"), ("key-2", "yes"), ("order", "yes")):
        hand.look(kind, answer)
    shape = {"duration_deg": 232.0, "check_lift_mm": 1.0, "max_lift_mm": 7.2}
    lobes = {
        "intake": CosineLobe(centerline_deg=112 + LATE_DEG, **shape),
        "exhaust": CosineLobe(centerline_deg=-112 + LATE_DEG, **shape),
    }
    for turned, suffix in ((0.0, ""), (4.0, "-on")):
        for lobe, truth in lobes.items():
            lift = lift_at(truth, turned) / MM_PER_INCH
            hand.read("marks", f"split.1.{lobe}{suffix}", f"{lift:.3f}", second=f"{turned:g}" if suffix else None)
    hand.look("proof-overlap", "yes")
