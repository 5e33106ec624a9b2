"""The pilot launch: an inline six whose cam hangs on a helical, sprung idler."""

import math
import random
from datetime import datetime

from sqlalchemy.orm import Session

from uranograph.core.quantities import LengthUnit
from uranograph.demo.hand import DemoBuilder
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


END_PLAY = {
    "unit": "mm",
    "crank_min": "0.10",
    "crank_max": "0.20",
    "crank_limits": "thrust plate, gear, bolt",
    "cam_min": "0.05",
    "cam_max": "0.15",
    "cam_way": "dial",
    "idler_min": "0.15",
    "idler_max": "0.35",
    "crank_length": "42",
    "crank_room": "cast iron",
    "crank_filler": "steel",
    "hot_c": "85",
}
SETTING = {
    "unit": "mm",
    "crank_way": "shims",
    "crank_stock": "0.05 0.08 0.10 0.13 0.15 0.20 0.25 0.30 0.40 0.50",
    "crank_adds": "less",
}
GEAR_FIT = {
    "unit": "mm",
    "bore": "32",
    "interference": "0.02",
    "slip": "0.03",
    "gear_material": "steel",
    "width": "22",
    "bolts": "1",
    "stages": "40; 80; 120",
    "locker": "medium",
}
PLACES = 12
BENT_MM, BEND_MM, OVAL_MM, HIGH_AT_DEG = 0.06, 0.018, 0.006, 248.0


def _round(hand: DemoBuilder, bend_mm: float, noise: random.Random) -> None:
    """Once round the gear seat with the dial."""
    for n in range(PLACES + 1):
        place = 360 / PLACES * n
        true = bend_mm * math.cos(math.radians(place - HIGH_AT_DEG)) + OVAL_MM * math.cos(math.radians(2 * place - 130))
        slot = f"set-1.{hand.next('runout', 'set-1')}.dial"
        hand.read("runout", slot, f"{round((true + noise.gauss(0, 0.001)) / 0.005) * 0.005:.3f}", second=f"{place:g}")


def _fit(hand: DemoBuilder) -> None:
    """The crank is trued and then runs nearly true; its play is set by shims in two passes."""
    hand.form("runout", {"unit": "mm", "where": "gear seat", "places": f"{PLACES}"}, 8)
    noise = random.Random(3)
    _round(hand, BENT_MM, noise)
    hand.done("runout", "shaft-trued", "between centers")
    _round(hand, BEND_MM, noise)
    hand.form("choice", {"unit": "mm", "backlash_min": "0.08", "backlash_max": "0.20"}, 3)
    for kind, answer in (
        ("seat", "yes"),
        ("camseat", "yes"),
        ("journals", "yes"),
        ("center", "yes"),
        ("chosen", "gears"),
    ):
        hand.look(kind, answer, "choice")
    hand.form("end-play", END_PLAY, 4)
    _feel(hand, "crank", (("0.10", "goes"), ("0.20", "goes"), ("0.45", "not"), ("0.40", "goes"), ("0.43", "not")))
    _dial(hand, "cam", ("0.095", "0.10", "0.095"))
    _feel(hand, "idler", (("0.15", "goes"), ("0.35", "not")))
    hand.form("setting", SETTING, 3)
    hand.read("setting", "shims-crank.1.fitted", "0.20")
    _feel(hand, "crank", (("0.10", "goes"), ("0.20", "goes"), ("0.23", "not"), ("0.22", "goes")))
    hand.read("setting", "shims-crank.2.fitted", "0.20 + 0.08")
    _feel(hand, "crank", (("0.10", "goes"), ("0.20", "not"), ("0.15", "not")))
    hand.form("gear-fit", GEAR_FIT, 5)
    for kind in ("bearing", "ring", "keytried", "plate", "rehearsed", "paint"):
        hand.look(kind, "yes", "gear-fit")


def _feel(hand: DemoBuilder, part: str, blades: tuple[tuple[str, str], ...]) -> None:
    hand.look(f"fitted-{part}", "all", "end-play")
    for blade, answer in blades:
        hand.read("end-play", f"{part}.{hand.next('end-play', part)}.blade", answer, second=blade)


def _dial(hand: DemoBuilder, part: str, travels: tuple[str, ...]) -> None:
    hand.look(f"fitted-{part}", "all", "end-play")
    for travel in travels:
        hand.read("end-play", f"{part}.{hand.next('end-play', part)}.travel", travel)


def write(session: Session, at: datetime) -> None:
    """Write the job: the marks are being looked at, the backlash is read with its tight spot."""
    key = jobs.begin(session, "Pilot launch, inline six", "TN", "demo-launch", at)
    hand = DemoBuilder(session, key, "TN", LengthUnit.MM, at)
    hand.form("engine", ENGINE, 0)
    hand.form(
        "particulars", {"customer": "Pilots' cooperative", "engine_number": "6-031", "wanted_by": "2026-12-18"}, 0
    )
    hand.form("card", CARD, 5)
    _fit(hand)
    hand.form("train", TRAIN, 14)
    hand.look("pin-2", "in")
    hand.look("key-1", "yes")
    hand.look("key-3", "yes")
    hand.form("backlash", BACKLASH, 4)
    noise = random.Random(6)
    for number in range(8):
        place = number * 45.0
        true = MEAN_MM - SWING_MM * math.cos(math.radians(place - TIGHT_AT_DEG))
        shown = (true + noise.gauss(0, 0.002)) * 70 / 71.8
        hand.read("backlash", f"place.{number + 1}.travel", f"{round(shown / 0.005) * 0.005:.3f}", second=f"{place:g}")
    for kind, answer in (("order", "yes"), ("paint", "yes"), ("crank-at", "firing"), ("mesh-2", "on")):
        hand.look(kind, answer)
