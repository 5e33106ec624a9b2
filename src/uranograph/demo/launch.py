"""The pilot launch: an inline six whose cam hangs on a helical, sprung idler."""

import math
import random
from datetime import datetime

from sqlalchemy.orm import Session

from uranograph.core.quantities import LengthUnit
from uranograph.demo.hand import Hand
from uranograph.shop import jobs

ENGINE = {
    "cylinders": "6",
    "firing_order": "1-5-3-6-2-4",
    "rotation": "clockwise",
    "unit": "mm",
    "stroke": "110",
    "rod": "195",
    "valvetrain": "pushrod",
    "rocker_ratio": "1.4",
    "lift_at": "lifter",
}
CARD = {
    "unit": "mm",
    "io_btdc_deg": "8",
    "ic_abdc_deg": "40",
    "eo_bbdc_deg": "46",
    "ec_atdc_deg": "6",
    "check_lift": "1.0",
    "intake_max_lift": "7.6",
    "exhaust_max_lift": "7.6",
}
TRAIN = {
    "unit": "mm",
    "g1_name": "crank",
    "g1_teeth": "27",
    "g1_role": "crank",
    "g1_held": "key",
    "g2_name": "idler",
    "g2_teeth": "41",
    "g2_role": "idler",
    "g2_on": "1",
    "g2_held": "bolts",
    "g2_sprung": "1",
    "g2_mark": "space",
    "g2_there": "tooth",
    "g2_label": "1",
    "g3_name": "cam",
    "g3_teeth": "54",
    "g3_role": "cam",
    "g3_on": "2",
    "g3_held": "taper",
    "g3_mark": "tooth",
    "g3_there": "straddle",
    "g3_label": "2",
    "g4_name": "water pump",
    "g4_teeth": "30",
    "g4_role": "untimed",
    "g4_on": "2",
    "crank_key": "0",
    "cam_key": "0",
    "helix_gear": "2",
    "helix_module": "2.5",
    "helix_angle": "20",
    "helix_travel": "18",
}
BACKLASH = {
    "unit": "mm",
    "pitch_radius": "71.8",
    "indicator_radius": "70",
    "spec_min": "0.08",
    "spec_max": "0.20",
    "hot_c": "85",
    "center": "126.4",
    "case_material": "cast iron",
    "driver_radius": "54.5",
    "driver_material": "steel",
    "driven_material": "steel",
}
MEAN_MM, SWING_MM, TIGHT_AT_DEG = 0.136, 0.045, 155.0


def write(session: Session, at: datetime) -> None:
    """Write the job: the marks are being looked at, the backlash is read with its tight spot."""
    key = jobs.begin(session, "Pilot launch, inline six", "TN", "demo-launch", at)
    hand = Hand(session, key, "TN", LengthUnit.MM, at)
    hand.sheet("engine", ENGINE, 0)
    hand.sheet("card", CARD, 5)
    hand.sheet("train", TRAIN, 14)
    hand.look("pin-2", "in")
    hand.look("key-1", "yes")
    hand.look("key-3", "yes")
    hand.sheet("backlash", BACKLASH, 4)
    noise = random.Random(6)
    for number in range(8):
        place = number * 45.0
        true = MEAN_MM - SWING_MM * math.cos(math.radians(place - TIGHT_AT_DEG))
        shown = (true + noise.gauss(0, 0.002)) * 70 / 71.8
        hand.read("backlash", f"place.{number + 1}.travel", f"{round(shown / 0.005) * 0.005:.3f}", drop=f"{place:g}")
    for kind, answer in (("order", "yes"), ("paint", "yes"), ("mesh-2", "on")):
        hand.look(kind, answer)
