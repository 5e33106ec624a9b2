"""The hill-climb four: two cams over the valves, metric, pin-vernier sprockets."""

from datetime import datetime

from sqlalchemy.orm import Session

from uranograph.bench.slots import slot_of
from uranograph.core.errors import Missing
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.piston import Crank
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo.hand import DemoBuilder
from uranograph.demo.true_engine import TrueEngine
from uranograph.engine.degree_wheel import read
from uranograph.shop import jobs

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
HILLCLIMB_WHEEL = {"scale": "half", "mount": "front", "division": "0.5", "dial_division": "0.01", "unit": "mm"}
HILLCLIMB_DRIVE = {
    "unit": "mm",
    "a1_kind": "pin-vernier",
    "a1_name": "intake sprocket pins",
    "a1_on": "intake",
    "a1_holes": "15",
    "a1_hub_holes": "16",
    "a2_kind": "pin-vernier",
    "a2_name": "exhaust sprocket pins",
    "a2_on": "exhaust",
    "a2_holes": "15",
    "a2_hub_holes": "16",
}
HILLCLIMB_TRAIN = {
    "unit": "mm",
    "g1_name": "crank",
    "g1_teeth": "19",
    "g1_role": "crank",
    "g1_held": "key",
    "g2_name": "intake cam",
    "g2_teeth": "38",
    "g2_role": "cam",
    "g2_on": "1",
    "g2_how": "chain",
    "g2_held": "bolts",
    "g2_mark": "tooth",
    "g2_there": "tooth",
    "g2_label": "I",
    "g3_name": "exhaust cam",
    "g3_teeth": "38",
    "g3_role": "cam",
    "g3_on": "1",
    "g3_how": "chain",
    "g3_held": "bolts",
    "g3_mark": "tooth",
    "g3_there": "tooth",
    "g3_label": "E",
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


def _hillclimb_fit(hand: DemoBuilder) -> None:
    """The cam drags: its thrust bearing's cheeks are being sanded, three passes so far."""
    hand.pass_over("New crank, checked by its maker; the chain has a hydraulic tensioner.", "runout", "choice")
    plays = {"unit": "mm", "cam_min": "0.10", "cam_max": "0.20", "cam_limits": "thrust bearing, sprocket, bolt"}
    hand.form("end-play", plays, 4)
    hand.look("fitted-cam", "all", "end-play")
    for blade, answer in (("0.10", "not"), ("0.05", "goes"), ("0.06", "not")):
        hand.read("end-play", f"cam.{hand.next('end-play', 'cam')}.blade", answer, second=blade)
    hand.form("setting", {"unit": "mm", "cam_way": "cheeks"}, 3)
    for number, (front, rear) in enumerate((("4.512", "4.508"), ("4.496", "4.494"), ("4.483", "4.482")), 1):
        hand.read("setting", f"cheek-cam.{number}.front", front)
        hand.read("setting", f"cheek-cam.{number}.rear", rear)


def hillclimb_truth() -> TrueEngine:
    """True state of the hill-climb four: intake late, exhaust early."""
    mounted = read(HILLCLIMB_WHEEL, Turn.CLOCKWISE, LengthUnit.MM).value
    if mounted is None:
        raise Missing("mounted")
    shape = {"duration_deg": 264, "check_lift_mm": 1.0}
    return TrueEngine(
        mounted,
        Crank(stroke_mm=77, rod_mm=132),
        {
            "intake": CosineLobe(centerline_deg=106 + 3.4, max_lift_mm=10.2, **shape),
            "exhaust": CosineLobe(centerline_deg=-108 - 2.8, max_lift_mm=9.8, **shape),
        },
        zero_error_deg=0.0,
        noise_deg=0.05,
        read_to_deg=0.25,
        seed=4,
        dial_noise_mm=0.003,
    )


def hillclimb(session: Session, at: datetime) -> None:
    """The hill-climb four, on its way to a second position."""
    truth = hillclimb_truth()
    hand = DemoBuilder(
        session, jobs.begin(session, "Hill-climb four", "TN", "demo-hillclimb", at), "TN", LengthUnit.MM, at
    )
    ranges: dict[str, str] = {}
    for lobe, middle in (("intake", 106), ("exhaust", -108)):
        right = lift_at(truth.lobes[lobe].model_copy(update={"centerline_deg": middle}), 0)
        ranges |= {f"{lobe}_overlap_min": f"{right - 0.05:.2f}", f"{lobe}_overlap_max": f"{right + 0.05:.2f}"}
    hand.form("engine", HILLCLIMB_ENGINE, 0)
    hand.form("card", HILLCLIMB_CARD | ranges, 6)
    _hillclimb_fit(hand)
    hand.form("train", HILLCLIMB_TRAIN, 3)
    for kind, answer in (
        ("key-1", "yes"),
        ("order", "yes"),
        ("paint", "yes"),
        ("crank-at", "firing"),
        ("mesh-2", "on"),
        ("mesh-3", "on"),
    ):
        hand.look(kind, answer)
    hand.look("turned", "smooth")
    hand.look("back", "yes")
    hand.pass_over("The chain drives both cams: no gear teeth to rock.", "backlash")
    hand.pass_over("Both cam sprockets run on fixed hubs; the line was proved when the head was built.", "sprocket")
    hand.form("wheel", HILLCLIMB_WHEEL, 9)
    for number, drop in ((1, 5), (2, 3)):
        for place in ("before", "after"):
            hand.read("tdc", slot_of("drop", number, place), *truth.at_stop(drop, place), second=str(drop))
    for lobe in ("intake", "exhaust"):
        hand.read("degree", slot_of(f"overlap-{lobe}", 1, "lift"), truth.dial(lobe, 0.0, 1.0, 2))
    hand.form("drive", HILLCLIMB_DRIVE)
