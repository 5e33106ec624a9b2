"""A made-up engine that says where it stands."""

import socket
import threading
import time
from dataclasses import replace

import pytest

from uranograph.instruments.lines import parse
from uranograph.instruments.simulator import Server, Simulator, degreeing, engine, step_of


def shown(simulator: Simulator) -> dict[str, float]:
    return {each.channel: each.value for each in parse("channels", simulator.line())}


def run(simulator: Simulator, seconds: float) -> None:
    for _ in range(int(seconds * 50)):
        simulator.advance(1 / 50)


def test_the_stop_holds_it_on_both_sides_of_true_tdc() -> None:
    simulator = Simulator(engine(11), 11)
    simulator.do("stop", by=8.0)
    contacts = []
    for turn in (360.0, -360.0):
        simulator.do("turn", by=turn)
        run(simulator, 8)
        assert simulator.is_idle
        contacts.append(shown(simulator)["angle"])
    world = simulator.world
    middle = (contacts[0] + ((contacts[1] - contacts[0]) % 360) / 2) % 180
    assert (middle - world.state.wheel.zero_deg + 90) % 180 - 90 == pytest.approx(0.0, abs=0.2)


def test_the_same_seed_says_the_same() -> None:
    one, two = (Simulator(engine(5), 5) for _ in range(2))
    for each in (one, two):
        each.play(degreeing())
        run(each, 3)
    assert one.line() == two.line()
    assert Simulator(engine(6), 6).line() != Simulator(engine(5), 5).line()


@pytest.mark.parametrize("line", ["", "   "])
def test_nothing_is_no_step(line: str) -> None:
    with pytest.raises(ValueError, match=r"^\s*$"):
        step_of(line)


def test_it_is_played_over_the_network_and_obeys_what_is_said_and_survives_what_is_not() -> None:
    server = Server(Simulator(engine(5), 5), hz=200)
    try:
        with socket.create_connection((server.host, server.port), timeout=5) as client:
            client.sendall(b"nonsense\n\xff\xfe\nturn\nturn x y z\ndial exhaust\nturn 30\n")
            heard = b""
            until = time.monotonic() + 5
            while time.monotonic() < until and heard.count(b"\n") < 40:
                heard += client.recv(4096)
        assert len(parse("channels", heard.split(b"\n")[3].decode())) == 3
        assert server.simulator.world.state.dial.on == "exhaust"
    finally:
        server.close()


def test_a_capture_is_played_again_and_again() -> None:
    server = Server(Simulator(engine(5), 5), points=[(0.0, "1 mm"), (0.01, "2 mm")])
    try:
        with socket.create_connection((server.host, server.port), timeout=5) as client:
            heard = b""
            while heard.count(b"\n") < 6:
                heard += client.recv(4096)
        assert heard.replace(b"2 mm\n1 mm\n", b"").count(b"mm") <= 2
    finally:
        server.close()


def test_a_heated_gear_cools_as_it_is_carried_and_its_thermometer_says_so() -> None:
    simulator = Simulator(engine(5), 5, pace=10.0)
    assert shown(simulator)["temp"] == pytest.approx(20.0, abs=0.5)
    simulator.do("heat", by=180.0)
    assert shown(simulator)["temp"] == pytest.approx(180.0, abs=0.5)
    run(simulator, 24)
    assert shown(simulator)["temp"] == pytest.approx(100.0, abs=2.0)


def test_a_dial_on_another_cylinder_rises_when_that_one_is_due() -> None:
    world = engine(5)
    parts = replace(world.parts, worn={"3 exhaust": 0.9})
    simulator = Simulator(replace(world, parts=parts), 5)
    greatest = {}
    for on in ("exhaust", "3-exhaust", "4-exhaust"):
        simulator.do("dial", on)
        simulator.do("zero-dial")
        seen = []
        simulator.do("turn", by=720.0)
        while not simulator.is_idle:
            simulator.advance(1 / 50)
            seen.append(shown(simulator)["dial"])
        greatest[on] = max(seen) - min(seen)
    lift = parts.lobes["exhaust"].lift_mm
    assert greatest["exhaust"] == pytest.approx(lift, abs=0.02)
    assert greatest["3-exhaust"] == pytest.approx(0.9 * lift, abs=0.02)
    assert greatest["4-exhaust"] == pytest.approx(lift, abs=0.02)


def test_what_is_changed_while_it_turns_stays_changed() -> None:
    playing, ended = Simulator(engine(3)), threading.Event()

    def play() -> None:
        while not ended.is_set():
            playing.do("turn", by=1.0)
            playing.advance(0.001)

    thread = threading.Thread(target=play, daemon=True)
    thread.start()
    try:
        for n in range(300):
            playing.change(lambda world, n=n: world.but(late_deg=float(n)))  # type: ignore[misc]
            time.sleep(0.001)
            assert playing.world.state.late_deg == n
    finally:
        ended.set()
        thread.join(5)
