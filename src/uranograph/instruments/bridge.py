"""Lines read at one machine and taken at another: buffered, sent again until they are taken, each counted once."""

import json
import secrets
import threading
import time
import urllib.error
import urllib.request
from collections import deque
from collections.abc import Callable, Sequence

from uranograph.instruments.link import Link, Opener, open_port

BRIDGE = "^[A-Za-z0-9_-]{1,24}$"
# Lines that are kept while the server is away, and how many go at once.
MAX_KEPT, MAX_SENT = 20_000, 200
EVERY_S, WAIT_S = 0.1, 5.0
# Runs of bridges that are remembered.
MAX_RUNS = 64


class Received:
    """Which lines of which bridge were taken already."""

    def __init__(self) -> None:
        self._last: dict[tuple[str, str], int] = {}
        # By how much a bridge's clock is behind the one here at the least, by bridge and run.
        self._behind_s: dict[tuple[str, str], float] = {}
        self._lock = threading.Lock()

    def fresh(self, name: str, run: str, sent: Sequence[tuple[int, str]]) -> list[tuple[int, str]]:
        """Lines that were not taken before, with their numbers, in order; they count as taken now.

        Examples
        --------
        >>> received = Received()
        >>> received.fresh("B1", "a", [(0, "x"), (1, "y")]), received.fresh("B1", "a", [(1, "y"), (2, "z")])
        ([(0, 'x'), (1, 'y')], [(2, 'z')])
        """
        with self._lock:
            last = self.last(name, run)
            found = [(n, raw) for n, raw in sorted(sent) if n > last]
            if found:
                self._last.pop((name, run), None)
                self._last[name, run] = found[-1][0]
                while len(self._last) > MAX_RUNS:
                    oldest = next(iter(self._last))
                    del self._last[oldest]
                    self._behind_s.pop(oldest, None)
        return found

    def at_s(self, name: str, run: str, told_s: float, now_s: float) -> float:
        """When a line was read, on the clock here: what came quickest shows how far the clocks are apart.

        Examples
        --------
        >>> received = Received()
        >>> received.at_s("B1", "a", 5.0, 105.5), received.at_s("B1", "a", 6.0, 106.1), received.at_s("B1", "a", 6.5, 107.5)
        (105.5, 106.1, 106.6)
        """
        with self._lock:
            behind = min(self._behind_s.get((name, run), now_s - told_s), now_s - told_s)
            self._behind_s[name, run] = behind
        return told_s + behind

    def last(self, name: str, run: str) -> int:
        """The number of the last line that was taken, -1 where none was."""
        return self._last.get((name, run), -1)


class Bridge:
    """Reads an instrument here and sends its lines to a server.

    Parameters
    ----------
    url, baud
        The instrument.
    to
        Address of the server, such as `http://bench:8765`.
    name
        By which the server knows it: the instrument's address there is `bridge:NAME`.
    post
        Sends one body and answers what came back; over HTTP unless given.
    """

    def __init__(
        self,
        url: str,
        baud: int,
        to: str,
        name: str,
        post: Callable[[str, bytes], bytes] | None = None,
        opener: Opener = open_port,
    ) -> None:
        self.to, self.name, self.post = to.rstrip("/"), name, post or _post
        self.run_id = secrets.token_hex(8)
        self.kept: deque[tuple[int, float, str]] = deque(maxlen=MAX_KEPT)
        self.count = 0
        self.link = Link(url, baud, self._keep, opener)

    def _keep(self, line: str) -> None:
        self.kept.append((self.count, time.monotonic(), line))
        self.count += 1

    def send(self) -> bool:
        """Send what waits; answers whether the server took it."""
        sent = [self.kept[k] for k in range(min(MAX_SENT, len(self.kept)))]
        if not sent:
            return True
        body = {
            "name": self.name,
            "run": self.run_id,
            "lines": [{"n": n, "t": round(at, 4), "raw": raw} for n, at, raw in sent],
        }
        try:
            taken = json.loads(self.post(f"{self.to}/instruments/lines", json.dumps(body).encode()))["taken"]
        except (OSError, ValueError, KeyError):
            return False
        while self.kept and self.kept[0][0] <= taken:
            self.kept.popleft()
        return True

    def run(self, ended: Callable[[], bool] = lambda: False) -> None:
        """Read and send until it is ended."""
        self.link.start()
        while not ended() and (self.link.is_alive() or self.kept):
            time.sleep(EVERY_S if self.send() else 10 * EVERY_S)
        self.link.end()


def _post(url: str, body: bytes) -> bytes:
    """Send JSON over HTTP.

    Raises
    ------
    OSError
        When the server is away, or does not take it.
    """
    if not url.startswith(("http://", "https://")):
        raise OSError(url)
    request = urllib.request.Request(url, body, {"Content-Type": "application/json"})
    try:
        with urllib.request.urlopen(request, timeout=WAIT_S) as answer:
            found: bytes = answer.read()
    except urllib.error.URLError as error:
        raise OSError(str(error)) from error
    return found
