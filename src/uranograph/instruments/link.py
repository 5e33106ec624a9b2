"""A line to one address: opened, read, and opened again for as long as it is wanted; it never keeps anybody waiting."""

import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Protocol

from uranograph.instruments.lines import MAX_LINE

STANDARD_INPUT = "-"
READ_S, MAX_READ = 0.2, 4096
# Lines a second that are read, and how many at once where they had to wait.
MAX_HZ, MAX_BURST = 500, 1000
# A line that comes so soon after it was opened may be the rest of one.
MIDDLE_S = 0.15
# Seconds before an address is tried again: a little longer each time.
TRIES_S = (0.3, 1.0, 2.0, 5.0)


class Port(Protocol):
    """What is read from: a serial port, or what behaves like one."""

    def read(self, size: int) -> bytes:
        """Up to so many bytes, or none within a short time."""

    def close(self) -> None:
        """Let go of it."""


Opener = Callable[[str, int], Port]


def open_port(url: str, baud: int) -> Port:
    """Open a serial port, or a line over the network.

    Raises
    ------
    OSError
        When there is none, or it is in use.
    """
    if url.startswith("world:"):
        from uranograph.instruments.simulator import WorldPort

        made_up: Port = WorldPort(int(url.removeprefix("world:")))
        return made_up
    if url == STANDARD_INPUT:
        return _Piped()
    import serial

    return _Waiting(serial.serial_for_url(url, baudrate=baud, timeout=READ_S))


class _Piped:
    """Lines on standard input, from another program."""

    def read(self, size: int) -> bytes:
        found = sys.stdin.buffer.readline(size)
        if not found:
            raise EOFError
        return found

    def close(self) -> None:
        """The other program closes it."""


class _Waiting:
    """A serial port that gives what is there, and waits a moment only where nothing is."""

    def __init__(self, port: Any) -> None:
        self.port = port

    def read(self, size: int) -> bytes:
        found: bytes = self.port.read(1)
        if found:
            more = min(size - 1, getattr(self.port, "in_waiting", 0) or 0)
            found += self.port.read(more) if more else b""
        return found

    def close(self) -> None:
        self.port.close()


@dataclass
class LinkState:
    """How a line is: opened, when bytes last came, and whether they come without an end of line."""

    open: bool = False
    last_s: float = 0.0
    opened: int = 0
    opened_s: float = 0.0
    babbling: bool = False
    dropped: int = 0


class Link(threading.Thread):
    """Reads lines from an address in a thread of its own.

    Parameters
    ----------
    url, baud
        Where, and at what speed.
    on_line
        Called with every whole line, in this thread.
    opener
        Opens it; a serial port or network line unless given.
    clock
        Seconds that only grow.
    """

    def __init__(
        self,
        url: str,
        baud: int,
        on_line: Callable[[str], None],
        opener: Opener = open_port,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        super().__init__(name=f"line {url}", daemon=True)
        self.url, self.baud, self.on_line, self.opener, self.clock = url, baud, on_line, opener, clock
        self.state = LinkState()
        self._ended = threading.Event()
        self._kept = b""
        self._begun = True
        self._allowed, self._allowed_s = float(MAX_BURST), clock()

    def end(self) -> None:
        """Stop reading; the thread ends within a moment."""
        self._ended.set()

    def run(self) -> None:
        """Open, read, and open again."""
        tries = 0
        while not self._ended.is_set():
            try:
                port = self.opener(self.url, self.baud)
            except (OSError, ValueError):
                # pyserial's own errors are OSErrors.
                self._ended.wait(TRIES_S[min(tries, len(TRIES_S) - 1)])
                tries += 1
                continue
            tries, self.state.open, self.state.last_s = 0, True, self.clock()
            self.state.opened, self.state.opened_s = self.state.opened + 1, self.clock()
            self._begun = self.url == STANDARD_INPUT
            try:
                self._read(port)
            except EOFError:
                self._ended.set()
            except OSError:
                self._ended.wait(TRIES_S[0])
            finally:
                self.state.open, self._kept = False, b""
                _let_go(port)

    def _read(self, port: Port) -> None:
        while not self._ended.is_set():
            found = port.read(MAX_READ)
            if found:
                self.take(found)

    def take(self, found: bytes) -> None:
        """Take bytes as they came: whole lines are passed on, the rest waits for its end."""
        self.state.last_s = self.clock()
        *whole, self._kept = (self._kept + found).replace(b"\r", b"\n").split(b"\n")
        if len(self._kept) > 2 * MAX_LINE:
            # Bytes without an end of line: another speed, or no line at all.
            self.state.babbling, self._kept = True, b""
            self.state.dropped += 1
        if whole and not self._begun:
            # What streams was joined in the middle of a line: its rest could be read as another figure.
            self._begun = True
            if self.state.last_s - self.state.opened_s < MIDDLE_S:
                whole = whole[1:]
        for raw in self._thinned(whole):
            if not raw.strip():
                continue
            if len(raw) > MAX_LINE:
                self.state.dropped += 1
                continue
            self.state.babbling = False
            self.on_line(raw.decode("ascii", "replace").strip())

    def _thinned(self, whole: list[bytes]) -> list[bytes]:
        """Lines that are read: all of them, unless they come faster than anybody can use; then some, the newest among them."""
        now = self.state.last_s
        self._allowed = min(float(MAX_BURST), self._allowed + MAX_HZ * (now - self._allowed_s))
        self._allowed_s = now
        count = max(1, min(len(whole), int(self._allowed)))
        self._allowed -= min(count, len(whole))
        self.state.dropped += max(0, len(whole) - count)
        return whole if count >= len(whole) else [whole[(k + 1) * len(whole) // count - 1] for k in range(count)]


def _let_go(port: Port) -> None:
    try:
        port.close()
    except OSError:
        return
