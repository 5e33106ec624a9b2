"""Engines read by an encoder and a dial alone: what is found is within its own uncertainty of the truth, and no verdict is false."""

import time

import pytest
from fastapi.testclient import TestClient

from tests.hands import WHEEL
from uranograph.bench.log import Entry
from uranograph.core.quantities import LengthUnit
from uranograph.core.wheel import Scale, Wheel, as_read
from uranograph.instruments.simulator import Simulator, engine
from uranograph.practice.forms import card_form, engine_form
from uranograph.shop import exchange, jobs, loading
from uranograph.shop.database import Shop
from uranograph.shop.judging import judge
from uranograph.world import geometry

HX = {"HX-Request": "true"}
HZ = 50.0
TOLERANCE_DEG = 1.0


class Live:
    """A made-up engine whose lines come in as a bridge would send them, as fast as they can be read."""

    def __init__(self, client: TestClient, shop: Shop, seed: int, faults: tuple[str, ...]) -> None:
        self.client, self.shop = client, shop
        self.simulator = Simulator(engine(seed, faults), seed)
        self.hub = client.app.state.hub  # type: ignore[attr-defined]
        self.at = time.monotonic()
        for name, kind, channel, unit in (("E1", "angle", "angle", "deg"), ("D1", "length", "dial", "mm")):
            typed = {"name": name, "kind": kind, "url": "bridge:B1", "pattern": "channels"}
            answer = client.post("/instruments", data=typed | {"channel": channel, "line_unit": unit}, headers=HX)
            assert answer.status_code < 400
        self.key = self._job()

    def _job(self) -> str:
        world = self.simulator.world
        forms = {"engine": engine_form(world), "card": card_form(world), "wheel": WHEEL | {"division": "1"}}
        with self.shop.write() as session:
            key = jobs.begin(session, "Live", "QZ", "live")
            for kind, typed in forms.items():
                jobs.save_form(session, key, kind, typed, "QZ")
        return key

    def runs(self) -> None:
        """Let the hand finish what it is doing, every line heard."""
        while True:
            self.simulator.advance(1 / HZ)
            self.at += 1 / HZ
            self.hub.feed("bridge:B1", self.simulator.line(), self.at)
            if self.simulator.is_idle:
                return

    def contacts(self) -> None:
        """Both contacts with a stop, as the encoder shows them."""
        world = self.simulator.world
        half = geometry.stop_half_deg(world.but(stop_depth_mm=8.0))
        assert half is not None
        with self.shop.write() as session:
            number = loading.load(session, self.key).next_number("tdc", "stop")
            for place, at in (("before", -half), ("after", half)):
                value, side = as_read(Wheel(scale=Scale.HALF), round(at + world.state.wheel.zero_deg, 1))
                how = {"instrument": "E1", "uncertainty": (0.1,), "raw": "x", "unit": LengthUnit.MM}
                entry = Entry("tdc", f"stop.{number}.{place}", f"{value:.1f}", side.value if side else None, **how)
                jobs.record(session, self.key, entry, "QZ", None, None)

    def sweeps(self, lobe: str, base_deg: float) -> None:
        hand = self.simulator
        hand.do("dial", lobe)
        hand.do("to", by=base_deg % 720)
        self.runs()
        hand.do("zero-dial")
        # The dial is said once where it was zeroed, so that its step to there is over.
        for _ in range(4):
            hand.do("rest", by=0.1)
            self.runs()
        assert self.client.post(f"/jobs/{self.key}/collect", data={"what": lobe}).status_code == 200
        hand.do("turn", by=790.0)
        self.runs()
        kept = self.client.post(f"/jobs/{self.key}/collect/keep")
        assert kept.status_code == 200, kept.text


@pytest.mark.parametrize("seed", range(301, 313))
def test_an_engine_swept_live_is_judged_by_its_truth(client: TestClient, shop: Shop, seed: int) -> None:
    live = Live(client, shop, seed, ("cam-late",) if seed % 2 else ())
    live.contacts()
    live.sweeps("intake", 420.0)
    live.sweeps("exhaust", 200.0)
    live.contacts()
    with shop.read() as session:
        found = judge(exchange.export_job(session, live.key))
    phase, truth = found["by_cam"]["both"], live.simulator.world.state.late_deg
    assert abs(phase["error_deg"] - truth) < phase["doubt_deg"] + 0.1
    # An encoder is surer than an eye.
    assert phase["doubt_deg"] < 0.8
    verdict = found["stations"]["degree"]["verdict"]
    assert verdict != ("out" if abs(truth) <= TOLERANCE_DEG else "in")
