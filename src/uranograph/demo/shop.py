"""The demo shop: a harbor-and-heritage workshop with four engines on the bench."""

import math
import random
from collections.abc import Callable
from datetime import UTC, datetime, timedelta
from html import escape

from sqlalchemy import select
from sqlalchemy.orm import Session

from uranograph.bench.finding import Finding
from uranograph.bench.job import Job
from uranograph.bench.slots import slot_of
from uranograph.core.errors import Missing
from uranograph.core.lobe import CosineLobe, lift_at
from uranograph.core.piston import Crank
from uranograph.core.quantities import MM_PER_INCH, LengthUnit
from uranograph.core.wheel import Turn
from uranograph.demo import ferry, launch, pump, tender
from uranograph.demo.hand import DemoBuilder
from uranograph.demo.hillclimb import hillclimb
from uranograph.demo.true_engine import TrueEngine
from uranograph.engine.degree_wheel import read
from uranograph.phase import offers
from uranograph.practice import session as practice
from uranograph.shop import jobs, library, loading
from uranograph.shop.database import Shop
from uranograph.shop.signing import Signature
from uranograph.shop.tables import JobRow
from uranograph.stations import ORDER
from uranograph.stations.gear_fit.order import checks_of

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
RAILCAR_TOKEN = "demo-railcar"
# What the shop reads with, and how many days ago each was checked; the feeler blades have no name.
INSTRUMENTS = {"wheel_name": "W2", "dial_name": "D1", "wrench_name": "T3"}
CHECKED = {"wheel": 40, "dial": 40, "wrench": 300}
RAILCAR_DRIVE = {
    "unit": "inch",
    "a1_kind": "choices",
    "a1_name": "crank gear keyway",
    "a1_options": "R8: -8, R4: -4, 0: 0, A4: 4, A8: 8",
    "a1_fitted": "0",
    "tight_span": "9.8",
    "cam_radius": "2.3",
    "elongation": "0.3",
}
RAILCAR_TRAIN = {
    "unit": "inch",
    "g1_name": "crank",
    "g1_teeth": "22",
    "g1_role": "crank",
    "g1_held": "key",
    "g2_name": "cam",
    "g2_teeth": "44",
    "g2_role": "cam",
    "g2_on": "1",
    "g2_how": "chain",
    "g2_held": "key",
    "g2_mark": "tooth",
    "g2_there": "tooth",
    "crank_key": "0",
    "cam_key": "180",
}
FOUND_LATE_DEG = 7.5
LATE_DEG = 3.5
RUNOUT_IN = 0.0044
LOBE_ROOM_IN = "0.094 0.101 0.088 0.092 0.083 0.097 0.090 0.095 0.086 0.099 0.091 0.089"
BAD_POINT = 14
RAILCAR_DROPS = ("0.200", "0.226")


def _in_words(job: Job, signature: Signature) -> str:
    """A signed sheet where no page is drawn: what every station found."""
    lines = (f"<p>{escape(title)}: {escape(found.sentence)}</p>" for title, found in _found(job))
    return "".join(lines) + f"<p>{escape(signature.name)}, {signature.short}</p>"


def _found(job: Job) -> list[tuple[str, Finding]]:
    return [
        (station.title, finding) for station, finding in zip(ORDER.stations, ORDER.overview(job).values(), strict=True)
    ]


# Exercises that are begun in the demo, each with its engine.
PRACTICED = {1: 12, 6: 11}


def furnish(shop: Shop, now: datetime | None = None, drawn: Callable[[Job, Signature], str] = _in_words) -> None:
    """Write the demo jobs into an empty shop; a shop with jobs is left as it is.

    Parameters
    ----------
    shop
        Migrated.
    now
        When the bench day ends; the present unless given.
    drawn
        Draws a build sheet as it is signed.
    """
    now = now or datetime.now(UTC)
    with shop.write() as session:
        if loading.page(session).total:
            return
        # The cranks of this shop are old and heavy: their makers' sheets allow more than usual.
        for name, line in (
            ("Tender grind 244/248", "IO 14 IC 50 EO 52 EC 16 @ 1.0mm"),
            ("Stock V-six", "IO 6 IC 40 EO 52 EC 2 @ .050in"),
        ):
            library.keep(session, "card", name, {"as_printed": line, "unit": "inch"}, "RK", now - timedelta(days=60))
        library.set_limits(session, {"shaft_own": "0.15 mm"}, "RK", now - timedelta(days=90))
        checked = {f"{kind}_checked": (now - timedelta(days=days)).date().isoformat() for kind, days in CHECKED.items()}
        library.set_limits(session, INSTRUMENTS | checked, "RK", now - timedelta(days=40))
        tender.write(session, now - timedelta(days=3), drawn)
        pump.write(session, now - timedelta(hours=26))
        ferry.write(session, now - timedelta(hours=3))
        launch.write(session, now - timedelta(hours=7))
        hillclimb(session, now - timedelta(hours=5))
        _railcar(session, now - timedelta(minutes=230))
        for number, seed in PRACTICED.items():
            practice.begin(session, number, "TN", f"demo-practice-{number}", seed)


def one_job(session: Session, now: datetime | None = None) -> str:
    """Write one made-up job, in the middle of its work, into a shop; its key. Where it stands already it is left as it is.

    Examples
    --------
    Called a second time it gives the same key and writes nothing.
    """
    there = session.scalar(select(JobRow.key).where(JobRow.token == RAILCAR_TOKEN))
    if there is None:
        _railcar(session, (now or datetime.now(UTC)) - timedelta(minutes=230))
        there = session.scalars(select(JobRow.key).where(JobRow.token == RAILCAR_TOKEN)).one()
    return there


def railcar_truth() -> TrueEngine:
    """The railcar as it was found: the cam late, the wheel a little off."""
    mounted = read(RAILCAR_WHEEL, Turn.CLOCKWISE, LengthUnit.INCH).value
    if mounted is None:
        raise Missing("mounted")
    lift = {"check_lift_mm": 0.050 * MM_PER_INCH, "max_lift_mm": 0.353 * MM_PER_INCH}
    return TrueEngine(
        mounted,
        Crank(stroke_mm=3.780 * MM_PER_INCH, rod_mm=6.614 * MM_PER_INCH),
        {
            "intake": CosineLobe(centerline_deg=107 + FOUND_LATE_DEG, duration_deg=226, **lift),
            "exhaust": CosineLobe(centerline_deg=-115 + FOUND_LATE_DEG, duration_deg=234, **lift),
        },
        zero_error_deg=-1.75,
        noise_deg=0.08,
        read_to_deg=0.25,
        seed=12,
    )


def _railcar(session: Session, at: datetime) -> None:
    truth = railcar_truth()
    hand = DemoBuilder(
        session, jobs.begin(session, "Railcar 12, V-six", "RK", RAILCAR_TOKEN, at), "RK", LengthUnit.INCH, at
    )
    hand.form("engine", RAILCAR_ENGINE, 0)
    hand.form(
        "particulars",
        {"customer": "Museum railway", "engine_number": "12", "cam_number": "V6-3", "wanted_by": "2026-12-11"},
        0,
    )
    hand.form("card", RAILCAR_CARD, 5)
    _railcar_fit(hand)
    hand.form("train", RAILCAR_TRAIN, 4)
    for kind, answer in (
        ("key-1", "yes"),
        ("key-2", "yes"),
        ("order", "yes"),
        ("paint", "no"),
        ("crank-at", "firing"),
        ("mesh-2", "on"),
    ):
        hand.look(kind, answer)
    hand.look("turned", "smooth")
    hand.look("back", "yes")
    hand.pass_over("Chain drive: no gear teeth to rock.", "backlash")
    hand.form("sprocket", {"unit": "inch", "tolerance": "0.010", "shim": "0.012"}, 2)
    for slot, depth in (("driver.1.depth", "1.482"), ("driven.1.depth", "1.486")):
        hand.read("sprocket", slot, depth)
    hand.form("wheel", RAILCAR_WHEEL, 9)
    for number in (1, 2):
        for place, approach in (("before", "forward"), ("after", "backward")):
            hand.read("tdc", slot_of("stop", number, place), *truth.at_stop(13.7, place), approach=approach)
        if number == 1:
            hand.done("tdc", "wheel-moved")
            truth.zero_error_deg = 0.0
    hand.equal_lifts(truth, "intake", "0.050")
    hand.equal_lifts(truth, "exhaust", "0.050")
    hand.form("drive", RAILCAR_DRIVE)
    # The gear is fitted on the wrong keyway, four degrees the other way; then as chosen.
    hand.choose(_to(hand, "A4"))
    truth.moved(-4)
    hand.equal_lifts(truth, "intake", "0.050")
    hand.choose(next(offer.number for offer in _offers(hand) if offer.again))
    truth.moved(8)
    _sweep_intake(hand, truth)
    # Pockets deep enough where the cam belongs; retarded by much, the exhaust would come too near.
    hand.form("piston-valve", {"unit": "inch", "intake_angle": "9", "exhaust_angle": "9"}, 7)
    for slot, drop in (("drop-1.1.gap", RAILCAR_DROPS[0]), ("drop-2.1.gap", RAILCAR_DROPS[1])):
        hand.read("piston-valve", slot, drop)
    for number, deg in enumerate(range(-40, 41, 10), 1):
        lift = 1.5 * lift_at(truth.lobes["exhaust"], deg) / MM_PER_INCH
        hand.read("piston-valve", f"lift-2.{number}.lift", f"{lift:.3f}", second=str(deg))
    hand.equal_lifts(truth, "intake", "0.050")
    text, _ = truth.at_drop("exhaust", 0.050 * MM_PER_INCH, "before")
    number = loading.load(session, hand.key).next_number("degree", "exhaust")
    hand.read("degree", slot_of("exhaust", number, "before"), text, "bbdc", "0.050")
    hand.void_last("degree", "read the wrong side of the dead center")
    shown = truth.at_drop("exhaust", 0.050 * MM_PER_INCH, "before")
    hand.read("degree", slot_of("exhaust", number, "before"), *shown, second="0.050")


def _railcar_fit(hand: DemoBuilder) -> None:
    """A bent crank rules the gear drive out before it is ordered; a chain is chosen."""
    hand.form("runout", {"unit": "inch", "where": "crank gear seat", "places": "8", "dial_division": "0.0005"}, 6)
    noise = random.Random(9)
    for turn in (1, 2):
        for n in range(9):
            place = 45 * n
            true = RUNOUT_IN / 2 * math.cos(math.radians(place - 205)) + 0.0003 * math.cos(math.radians(2 * place - 40))
            shown = round((true + noise.gauss(0, 0.0001) + (0.0005 if turn == 2 else 0)) / 0.0005) * 0.0005
            hand.read("runout", f"set-{turn}.{n + 1}.dial", f"{shown:.4f}", second=f"{place:g}")
    hand.form("choice", {"unit": "inch", "backlash_min": "0.002", "backlash_max": "0.005"}, 3)
    for kind, answer in (("seat", "yes"), ("camseat", "yes"), ("journals", "yes"), ("center", "na")):
        hand.look(kind, answer, "choice")
    hand.look("chosen", "hydraulic", "choice")
    plays = {
        "unit": "inch",
        "crank_min": "0.004",
        "crank_max": "0.009",
        "crank_way": "dial",
        "crank_limits": "thrust bearing",
    }
    hand.form("end-play", plays | {"dial_division": "0.0005"}, 5)
    hand.look("fitted-crank", "all", "end-play")
    for number, travel in enumerate(("0.0065", "0.0060", "0.0065"), 1):
        hand.read("end-play", f"crank.{number}.travel", travel)
    hand.form(
        "gear-fit",
        {"unit": "inch", "bolts": "3", "stages": "30", "steps": "3", "torque_unit": "ft lb", "locker": "medium"},
        4,
    )
    for check in checks_of(loading.load(hand.session, hand.key)):
        hand.look(check.kind, "yes" if "yes" in check.good else "na", "gear-fit")
    for n, gap in enumerate(LOBE_ROOM_IN.split(), 1):
        hand.read("lobe-room", f"lobe-{n}.1.gap", gap)


def _to(hand: DemoBuilder, label: str) -> int:
    """Which offer moves to a label."""
    return next(offer.number for offer in _offers(hand) if any(move.to == label for move in offer.choice.moves))


def _offers(hand: DemoBuilder) -> tuple[offers.Offer, ...]:
    return offers.offers(loading.load(hand.session, hand.key), "both")


def _sweep_intake(hand: DemoBuilder, truth: TrueEngine) -> None:
    """Every eight degrees, with one figure written down wrong."""
    for number, angle in enumerate(range(-48, 265, 8), 1):
        text, side = truth.wheel_shows(angle)
        lift = truth.dial("intake", angle, MM_PER_INCH, 3)
        if number == BAD_POINT:
            lift = lift[:-2] + str((int(lift[-2]) + 3) % 10) + lift[-1]
        hand.read("degree", slot_of("sweep-intake", number, "point"), text, side, lift)
