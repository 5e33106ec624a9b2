"""The tutorial does what it says: its figures, typed as it says, give the verdict that it promises."""

from pathlib import Path

from tests.hands import take
from uranograph.bench.finding import Verdict
from uranograph.bench.workflows import KIND
from uranograph.shop import jobs
from uranograph.shop.database import Shop
from uranograph.stations import ORDER

TUTORIAL = (Path(__file__).parents[2] / "docs" / "tutorial.md").read_text(encoding="utf-8")
ENGINE = {"cylinders": "6", "rotation": "clockwise", "unit": "inch", "valvetrain": "pushrod", "lift_at": "lifter"}
CARD = "IO 6 IC 40 EO 48 EC -2 @ .050"
STOP, OPENS, CLOSES = "35 1/2", "2", "44"


def test_the_tutorial_gives_the_verdict_it_promises(shop: Shop) -> None:
    assert all(f"`{typed}`" in TUTORIAL for typed in (CARD, STOP, OPENS, CLOSES, ENGINE["cylinders"]))
    with shop.write() as session:
        key = jobs.begin(session, "First cam", "QZ", "tutorial")
        for kind, typed in (
            (KIND, {KIND: "degree"}),
            ("engine", ENGINE),
            ("card", {"as_printed": CARD, "unit": "inch"}),
            ("wheel", {"scale": "quarter", "mount": "front", "division": "1", "unit": "inch"}),
        ):
            jobs.save_form(session, key, kind, typed, "QZ")
        stops = [
            (f"stop.{n}.{place}", STOP, side) for n in (1, 2) for place, side in (("before", "btdc"), ("after", "atdc"))
        ]
        tdc = ORDER.by_key["tdc"].find(take(session, key, "tdc", stops))
        first = take(session, key, "degree", [("io.1.forward", OPENS, "btdc")])
        assert ORDER.by_key["degree"].find(first).verdict is Verdict.UNSURE
        cam = ORDER.by_key["degree"].find(take(session, key, "degree", [("ic.1.forward", CLOSES, "abdc")]))
    assert (tdc.verdict, cam.verdict) == (Verdict.IN, Verdict.OUT)
    assert tdc.title in TUTORIAL
    assert cam.title in TUTORIAL
    assert cam.number == "4.0"
    assert cam.order == "ADVANCE 4.0° crank"
    assert cam.order in TUTORIAL
