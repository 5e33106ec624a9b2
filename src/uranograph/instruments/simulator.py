"""A made-up engine that says where it stands, line by line, as an encoder on its crank and a dial would: nothing to buy to try them."""

import contextlib
import random
import socket
import threading
import time
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace
from functools import partial

from uranograph.world import geometry
from uranograph.world.acts import KINDS, Act, act
from uranograph.world.made import made
from uranograph.world.state import DialMount, WheelMount, World

HZ, DEG_PER_S = 50.0, 60.0
STEPS_DEG, STEP_MM, NOISE_MM = 0.1, 0.001, 0.0004
REST_S, REPLAY_GAP_S = 1.2, 0.1
# How often it is degreed before it rests.
ROUNDS = 1000
Step = tuple[str, str, float]


def engine(seed: int, faults: tuple[str, ...] = ()) -> World:
    """A four-cylinder on the bench, an encoder on its crank nose whose zero is anywhere, a dial on its intake lifter."""
    world = made(seed, faults, chain=False, cylinders=4)
    parts = replace(world.parts, ratchet=False, rotation="clockwise")
    wheel = WheelMount(world.state.wheel.zero_deg, "half", False, STEPS_DEG, 0.0)
    return replace(world, parts=parts).but(wheel=wheel, dial=DialMount("intake"), crank_deg=720.0 + 150)


def degreeing() -> tuple[Step, ...]:
    """Steps of a hand that degrees an engine: both contacts, then two turns with the dial on each lobe."""
    steps: list[Step] = [("stop", "", 8.0), ("turn", "", 360.0), ("rest", "", REST_S), ("turn", "", -360.0)]
    steps += [("rest", "", REST_S), ("stop", "", 0.0)]
    for lobe, base_deg in (("intake", 360.0 + 60), ("exhaust", 200.0)):
        steps += [
            ("dial", lobe, 0.0),
            ("to", "", base_deg),
            ("zero-dial", "", 0.0),
            ("rest", "", REST_S),
            ("turn", "", 800.0),
        ]
        steps += [("rest", "", REST_S)]
    return tuple(steps)


class Simulator:
    """A made-up engine in motion.

    Parameters
    ----------
    world
        The engine.
    seed
        Of the noise of its instruments.
    pace
        How much faster than in life a heated gear cools.
    """

    def __init__(self, world: World, seed: int = 0, pace: float = 1.0) -> None:
        self.world, self.noise, self.pace = world, random.Random(f"stand-in {seed}"), pace
        self.left_deg, self.rate = 0.0, DEG_PER_S
        self.rest_s = 0.0
        self.steps: Iterator[Step] = iter(())
        self._lock = threading.RLock()

    def play(self, steps: Iterable[Step]) -> None:
        """Do these steps one after the other, in their own time."""
        self.steps = iter(steps)

    @property
    def is_idle(self) -> bool:
        return not self.left_deg and self.rest_s <= 0

    def do(self, kind: str, on: str = "", by: float = 0.0) -> None:
        """Do one thing: an act of the world, `rest` for so many seconds, or `to` a place of the cycle, forward.

        Raises
        ------
        KeyError
            When there is no such thing.
        """
        with self._lock:
            if kind == "turn":
                self.left_deg = by
            elif kind == "to":
                self.left_deg = (by - self.world.state.crank_deg) % 720
            elif kind == "rest":
                self.rest_s = by
            elif kind in KINDS:
                self.world, _ = act(self.world, Act(kind, on, by))
            else:
                raise KeyError(kind)

    def change(self, changed: Callable[[World], World]) -> None:
        """Make another engine of it, in between two of its moves."""
        with self._lock:
            self.world = changed(self.world)

    def advance(self, seconds: float) -> None:
        """Let so much time go by: what turns turns on, what rests rests, and the next step begins once that is done."""
        with self._lock:
            self.world, _ = act(self.world, Act("wait", by=seconds * self.pace))
            if self.rest_s > 0:
                self.rest_s -= seconds
            elif self.left_deg:
                self._turn(seconds)
            elif (step := next(self.steps, None)) is not None:
                self.do(*step)

    def _turn(self, seconds: float) -> None:
        most = self.rate * seconds
        by = max(-most, min(most, self.left_deg))
        before = self.world.state.crank_deg
        self.world, _ = act(self.world, Act("turn", by=by))
        moved = self.world.state.crank_deg - before
        # Held by the stop: the hand leaves it there.
        self.left_deg = 0.0 if abs(moved - by) > 1e-9 or abs(self.left_deg) <= abs(by) else self.left_deg - by

    def line(self) -> str:
        """What its instruments say now, on one line."""
        world = self.world
        state = world.state
        deg = round((state.crank_deg + state.wheel.zero_deg) / STEPS_DEG) * STEPS_DEG % 360
        moved = (geometry.under_dial(world, state.dial.on) - state.dial.zero_mm) / state.dial.lean
        mm = round((moved + self.noise.gauss(0, NOISE_MM)) / STEP_MM) * STEP_MM
        return f"angle={deg:.1f} deg; dial={mm:+.3f} mm; temp={world.gear_now_c:.1f} C"


class WorldPort:
    """A made-up engine as a port: it is degreed again and again."""

    def __init__(self, seed: int, hz: float = HZ) -> None:
        self.simulator, self.hz = Simulator(engine(seed), seed), hz
        self.simulator.play(step for _ in range(ROUNDS) for step in degreeing())

    def read(self, size: int) -> bytes:
        """The next line, once it is due."""
        time.sleep(1 / self.hz)
        self.simulator.advance(1 / self.hz)
        return f"{self.simulator.line()}\n".encode()[:size]

    def close(self) -> None:
        """There is nothing to let go of."""


class Server:
    """Plays a made-up engine over TCP: everyone who connects hears the same lines, and may say what is done to it.

    What is said is one step a line, such as `turn 20`, `stop 8`, `dial exhaust` or `zero-dial`.

    Parameters
    ----------
    simulator
        The engine.
    host, port
        Where to listen; port 0 takes a free one.
    hz
        Lines a second.
    points
        A capture that is played in its own time instead, again and again.
    """

    def __init__(
        self,
        simulator: Simulator,
        host: str = "127.0.0.1",
        port: int = 0,
        hz: float = HZ,
        points: Sequence[tuple[float, str]] | None = None,
    ) -> None:
        self.simulator, self.hz, self.points = simulator, hz, points
        self._listening = socket.create_server((host, port))
        self.host, self.port = self._listening.getsockname()[:2]
        self._clients: list[socket.socket] = []
        self._ended = threading.Event()
        for work in (self._accept, self._tick):
            threading.Thread(target=work, name=f"stand-in {work.__name__}", daemon=True).start()

    @property
    def url(self) -> str:
        return f"socket://{self.host}:{self.port}"

    def cut(self) -> None:
        """Pull every cable; whoever connects again is heard again."""
        clients, self._clients = self._clients, []
        for client in clients:
            _close(client)

    def close(self) -> None:
        """Stop playing."""
        self._ended.set()
        _close(self._listening)
        self.cut()

    def _accept(self) -> None:
        while not self._ended.is_set():
            try:
                client, _ = self._listening.accept()
            except OSError:
                return
            client.settimeout(1.0)
            self._clients = [*self._clients, client]
            threading.Thread(target=self._hear, args=(client,), daemon=True).start()

    def _hear(self, client: socket.socket) -> None:
        kept = b""
        while not self._ended.is_set():
            try:
                found = client.recv(1024)
            except TimeoutError:
                continue
            except OSError:
                return
            if not found:
                return
            *whole, kept = (kept + found)[-4096:].split(b"\n")
            for line in whole:
                self._obey(line.decode("ascii", "replace"))

    def _obey(self, line: str) -> None:
        with contextlib.suppress(KeyError, ValueError, IndexError):
            self.simulator.do(*step_of(line))

    def _tick(self) -> None:
        due = time.monotonic()
        for after_s, line in self._lines():
            due += after_s
            if self._ended.wait(max(0.0, due - time.monotonic())):
                return
            said = f"{line()}\n".encode()
            for client in self._clients:
                try:
                    client.sendall(said)
                except OSError:
                    self._clients = [each for each in self._clients if each is not client]
                    _close(client)

    def _lines(self) -> Iterator[tuple[float, Callable[[], str]]]:
        """Seconds to the next line, and what it then says."""
        if self.points is None:
            while True:
                yield 1 / self.hz, self._moved_on
        while self.points:
            before = self.points[0][0] - REPLAY_GAP_S
            for at, raw in self.points:
                yield max(0.0, at - before), partial(str, raw)
                before = at

    def _moved_on(self) -> str:
        self.simulator.advance(1 / self.hz)
        return self.simulator.line()


def step_of(line: str) -> Step:
    """A step as it is said on one line: what, on what, by how much.

    Raises
    ------
    ValueError
        When it says nothing.

    Examples
    --------
    >>> step_of("turn -20"), step_of("dial exhaust"), step_of("zero-dial")
    (('turn', '', -20.0), ('dial', 'exhaust', 0.0), ('zero-dial', '', 0.0))
    """
    words = line.split()
    if not words:
        raise ValueError(line)
    rest = words[1:]
    by = float(rest.pop()) if rest and _is_number(rest[-1]) else 0.0
    return words[0], rest[0] if rest else "", by


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


def _close(port: socket.socket) -> None:
    with contextlib.suppress(OSError):
        port.shutdown(socket.SHUT_RDWR)
    port.close()
