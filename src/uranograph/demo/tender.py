"""The harbor tender: degreed, proved, its lash set, locked up, signed, and signed once more after a valve was set again."""

from collections.abc import Callable
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from uranograph.bench.job import Job
from uranograph.bench.slots import slot_of
from uranograph.core.errors import Missing
from uranograph.core.lobe import CosineLobe
from uranograph.core.piston import Crank
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo.hand import DemoBuilder
from uranograph.demo.true_engine import TrueEngine
from uranograph.engine.degree_wheel import read
from uranograph.engine.valves import valves
from uranograph.phase.valve_by_valve import KEY as EVERY_VALVE
from uranograph.phase.valve_by_valve import offset_deg
from uranograph.shop import jobs, loading, signing
from uranograph.stations.lash.rules import turned_to

ENGINE = {
    "cylinders": "4",
    "firing_order": "1-3-4-2",
    "rotation": "clockwise",
    "unit": "mm",
    "stroke": "92",
    "rod": "158",
    "bore": "88",
    "compression": "8.8",
    "valvetrain": "pushrod",
    "rocker_ratio": "1.5",
    "lift_at": "lifter",
}
CARD = {
    "unit": "mm",
    "io_btdc_deg": "14",
    "ic_abdc_deg": "50",
    "eo_bbdc_deg": "52",
    "ec_atdc_deg": "16",
    "check_lift": "1.0",
    "intake_max_lift": "6.4",
    "exhaust_max_lift": "6.4",
}
WHEEL = {"scale": "half", "mount": "front", "division": "0.5", "dial_division": "0.01", "unit": "mm"}
LATE_DEG = 0.3
DROPS = ("6.30", "6.90", "6.25", "6.85", "6.35", "6.95", "6.30", "6.90")
LASH = {"unit": "mm", "intake_lash": "0.25", "exhaust_lash": "0.35", "temperature": "cold", "rim": "165"}
Drawn = Callable[[Job, signing.Signature], str]


def truth() -> TrueEngine:
    """True state of the tender's engine."""
    mounted = read(WHEEL, Turn.CLOCKWISE, LengthUnit.MM).value
    if mounted is None:
        raise Missing("mounted")
    shape = {"check_lift_mm": 1.0, "max_lift_mm": 6.4}
    return TrueEngine(
        mounted,
        Crank(stroke_mm=92, rod_mm=158),
        {
            "intake": CosineLobe(centerline_deg=108 + LATE_DEG, duration_deg=244, **shape),
            "exhaust": CosineLobe(centerline_deg=-108 + LATE_DEG, duration_deg=248, **shape),
        },
        zero_error_deg=0.0,
        noise_deg=0.06,
        read_to_deg=0.25,
        seed=21,
    )


def write(session: Session, at: datetime, drawn: Drawn) -> None:
    """Write the job from engine to the second signature."""
    engine = truth()
    key = jobs.begin(session, "Harbor tender, four", "RK", "demo-tender", at)
    hand = DemoBuilder(session, key, "RK", LengthUnit.MM, at)
    hand.form("engine", ENGINE, 0)
    hand.form(
        "particulars",
        {
            "customer": "Harbor office",
            "engine_number": "4-117",
            "cam_maker": "Aldermoor Grinding",
            "grind_number": "T 244/248",
        },
        0,
    )
    hand.form("way", {"way": "degree"}, 1)
    hand.form("card", CARD, 4)
    hand.form("wheel", WHEEL, 6)
    _stop(hand, engine, 1)
    for kind in ("io", "ic", "eo", "ec"):
        hand.read("degree", slot_of(kind, 1, "forward"), *engine.event(kind))
    for lobe in ("intake", "exhaust"):
        hand.read(
            "degree", slot_of(f"peak-{lobe}", 1, "lift"), engine.dial(lobe, engine.lobes[lobe].centerline_deg, 1, 2)
        )
        hand.read("degree", slot_of(f"base-{lobe}", 1, "dial"), "0.00")
    hand.read("degree", slot_of("io", 2, "forward"), *engine.event("io"))
    _stop(hand, engine, 2)
    hand.pass_over("The cam is in as it is: nothing of the drive needs to move.", "adjust")
    hand.form("piston-valve", {"unit": "mm", "intake_angle": "12", "exhaust_angle": "12"}, 8)
    for number, drop in enumerate(DROPS, 1):
        hand.read("piston-valve", f"drop-{number}.1.gap", drop)
    _every_valve(hand, engine)
    hand.look("turned", "free", "turn-over")
    hand.form("valve-lash", LASH, 5)
    _set_lash(hand)
    for kind in ("lock-nuts", "stop-out", "pins-out", "lubed", "wheel-off", "driven"):
        hand.look(kind, {"lock-nuts": "torque", "pins-out": "na"}.get(kind, "yes"), "lock-up")
    _sign(hand, drawn, "R. Karst", "")
    # After the first run one valve has gained lash.
    hand.at += timedelta(hours=20)
    hand.read("valve-lash", "found-6.1.blade", "0.40", second="0.45")
    hand.read("valve-lash", "set-6.2.blade", "0.35", second="0.40")
    hand.look("lock-nuts", "torque", "lock-up")
    _sign(hand, drawn, "R. Karst", "3 exhaust set again after the first run")


def _stop(hand: DemoBuilder, engine: TrueEngine, number: int) -> None:
    for place, approach in (("before", "forward"), ("after", "backward")):
        hand.read("tdc", slot_of("stop", number, place), *engine.at_stop(11.2, place), approach=approach)


def _every_valve(hand: DemoBuilder, engine: TrueEngine) -> None:
    """Lift, opening and closing of each valve."""
    job = loading.load(hand.session, hand.key)
    for valve in valves(job):
        peak = engine.lobes[valve.lobe].centerline_deg
        hand.read(EVERY_VALVE, f"lift-{valve.number}.1.dial", engine.dial(valve.lobe, peak, 1, 2))
        after = offset_deg(job, valve) or 0.0
        for what in ("opens", "closes"):
            shown = engine.event(f"{valve.lobe[0]}{what[0]}", after)
            hand.read(EVERY_VALVE, f"{what}-{valve.number}.1.forward", *shown)


def _set_lash(hand: DemoBuilder) -> None:
    """Every valve at the stop where it is set."""
    for _, found in turned_to(loading.load(hand.session, hand.key)):
        for valve in found:
            goes, stops = ("0.25", "0.30") if valve.lobe == "intake" else ("0.35", "0.40")
            number = hand.next("valve-lash", f"set-{valve.number}")
            hand.read("valve-lash", f"set-{valve.number}.{number}.blade", goes, second=stops)


def _sign(hand: DemoBuilder, drawn: Drawn, name: str, changed: str) -> None:
    hand.at += timedelta(minutes=12)
    job = loading.load(hand.session, hand.key)
    token = f"demo-tender-{job.seq}"
    signing.sign(hand.session, hand.key, hand.by, name, changed, token, job.seq, drawn, hand.at)
