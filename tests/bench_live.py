"""Many at one job: 60 readings a second written to it while twenty pages follow, none lost, one order for all."""

import http.client
import json
import threading
import time
from collections.abc import Callable
from pathlib import Path
from urllib.parse import urlencode

from tests.browser.conftest import Server
from tests.hands import a_job
from uranograph.shop import loading
from uranograph.shop.database import Shop

PAGES, WRITERS, A_SECOND, SECONDS = 20, 6, 60, 8
Tell = Callable[[str, float, float, str], None]


class Follower(threading.Thread):
    """A page that follows a job: when it was told of which entry."""

    def __init__(self, server: Server, key: str) -> None:
        super().__init__(daemon=True)
        self.told: list[tuple[float, int]] = []
        self.lines = http.client.HTTPConnection("127.0.0.1", server.port, timeout=30)
        self.lines.request("GET", f"/live?job={key}&station=runout", headers={"Cookie": "uranograph_by=RK"})
        self.answer = self.lines.getresponse()

    def run(self) -> None:
        event = b""
        try:
            for line in self.answer:
                if line.startswith(b"event: "):
                    event = line[7:].strip()
                elif line.startswith(b"data: ") and event == b"written":
                    self.told.append((time.monotonic(), int(json.loads(line[6:])["seq"])))
        except (OSError, ValueError, AttributeError):
            return


class Writer(threading.Thread):
    """One who records readings, so many a second, each with a token of its own."""

    def __init__(self, server: Server, key: str, number: int) -> None:
        super().__init__(daemon=True)
        self.server, self.key, self.number = server, key, number
        self.took_s: list[float] = []
        self.refused = 0

    def run(self) -> None:
        line = http.client.HTTPConnection("127.0.0.1", self.server.port, timeout=30)
        every = WRITERS / A_SECOND
        due = time.monotonic() + self.number * every / WRITERS
        for k in range(A_SECOND * SECONDS // WRITERS):
            time.sleep(max(0.0, due - time.monotonic()))
            n = self.number + k * WRITERS + 1
            typed = {"slot": f"total.{n}.read", "text": f"0.0{n % 9 + 1}", "token": f"t{n}", "by": "RK"}
            begun = time.monotonic()
            line.request(
                "POST",
                f"/jobs/{self.key}/runout",
                urlencode(typed),
                {"Content-Type": "application/x-www-form-urlencoded"},
            )
            answer = line.getresponse()
            answer.read()
            self.took_s.append(time.monotonic() - begun)
            self.refused += answer.status >= 400
            due += every


def many_at_one_job(folder: Path, tell: Tell, p95: Callable[[list[float]], float]) -> None:
    """Write to one job while pages follow it.

    Parameters
    ----------
    folder
        For its file.
    tell
        Prints a figure and its bound.
    p95
        Of a list.
    """
    server = Server(folder / "live.db")
    shop = Shop(server.database)
    shop.migrate()
    with shop.write() as session:
        key = a_job(session)
    server.start()
    try:
        followers = [Follower(server, key) for _ in range(PAGES)]
        writers = [Writer(server, key, n) for n in range(WRITERS)]
        for each in (*followers, *writers):
            each.start()
        begun = time.monotonic()
        for writer in writers:
            writer.join()
        took = time.monotonic() - begun
        time.sleep(1.5)
        with shop.read() as session:
            readings = loading.load(session, key).readings
        newest = readings[-1].seq
        sent = sum(len(each.took_s) for each in writers)
        times = [each for writer in writers for each in writer.took_s]
        tell("60 readings a second written to one job, time against what is due", took / SECONDS, 1.1, "x")
        tell("of them refused or lost", sum(each.refused for each in writers) + sent - len(readings), 0, "")
        tell("a reading written while twenty pages follow, p95", 1000 * p95(times), 300, "ms")
        behind = sum(not each.told or each.told[-1][1] != newest for each in followers)
        backward = sum([seq for _, seq in each.told] != sorted(seq for _, seq in each.told) for each in followers)
        tell("pages of twenty that were told too little, or in another order", behind + backward, 0, "")
    finally:
        server.stop()
        shop.close()
