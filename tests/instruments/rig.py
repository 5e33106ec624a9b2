"""A line that says what a test has it say, at times that the test sets."""

import random
from collections.abc import Iterator
from dataclasses import dataclass, field

from uranograph.instruments.definition import Definition
from uranograph.instruments.hub import Hub, Live
from uranograph.instruments.link import Link

URL, BAUD = "socket://bench:7000", 9600


@dataclass
class Clock:
    """Seconds that only the test moves."""

    now: float = 100.0

    def __call__(self) -> float:
        return self.now


@dataclass
class Rig:
    """A hub whose one line is fed byte by byte.

    Parameters
    ----------
    typed
        What the instruments are, beside name, address and speed.
    """

    typed: dict[str, dict[str, str]]
    clock: Clock = field(default_factory=Clock)
    hub: Hub = field(init=False)
    link: Link = field(init=False)

    def __post_init__(self) -> None:
        self.hub = Hub(lambda url, baud: _Nothing(), self.clock)
        wanted = {}
        for name, own in self.typed.items():
            filled = Definition.read({"name": name, "url": URL, "baud": str(BAUD), **own})
            assert filled.value is not None, filled.errors
            wanted[name] = filled.value
        # What it says is handed to the link by the test, not by its thread.
        self.hub.sync({})
        started, Link.start = Link.start, lambda link: None  # type: ignore[method-assign]
        try:
            self.hub.sync(wanted)
        finally:
            Link.start = started  # type: ignore[method-assign]
        self.link = self.hub._links[URL, BAUD]
        self.plug_in()

    def plug_in(self) -> None:
        state = self.link.state
        state.open, state.last_s = True, self.clock.now
        state.opened, state.opened_s = state.opened + 1, self.clock.now

    def unplug(self) -> None:
        self.link.state.open = False

    def says(self, said: bytes | str, after_s: float = 0.02) -> None:
        self.clock.now += after_s
        self.link.take(said.encode() if isinstance(said, str) else said)

    def live(self, name: str = "D1") -> Live:
        return next(each for each in self.hub.live() if each.name == name)


class _Nothing:
    def read(self, size: int) -> bytes:
        return b""

    def close(self) -> None:
        return


def noise(seed: int, count: int) -> Iterator[bytes]:
    """Bytes of a line at another speed: no line ends in them for a long time."""
    drawn = random.Random(seed)
    for _ in range(count):
        yield bytes(drawn.choice((0x00, 0x80, 0xE0, 0xF8, 0xFE, 0xFF, 0x1C, 0x9C)) for _ in range(64))
