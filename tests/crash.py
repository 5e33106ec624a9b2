"""`make crash`: the server killed at random while many write, and power cut at random; nothing that was told as recorded is lost.

A power cut leaves of the write-ahead log what was made durable, and anything behind it: the log is cut, or spoiled, at a random
byte behind the end that it had at each commit, or before it. What was committed up to the cut is there, whole, and nothing else.
"""

import http.client
import random
import signal
import socket
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import closing
from pathlib import Path
from shutil import copyfile
from urllib.parse import urlencode

from sqlalchemy import event

from tests.hands import a_job
from uranograph.bench.log import Note
from uranograph.shop import jobs
from uranograph.shop.database import Shop

WRITERS = 8


def notes(path: Path) -> set[str]:
    """Every note that is in a shop's file, which is whole."""
    with closing(sqlite3.connect(path)) as file:
        assert file.execute("PRAGMA integrity_check").fetchone()[0] == "ok"
        assert file.execute("PRAGMA foreign_key_check").fetchall() == []
        rows = file.execute("SELECT payload ->> 'words' FROM entries WHERE kind = 'note'").fetchall()
        counted = file.execute("SELECT seq, (SELECT max(seq) FROM entries WHERE job_id = jobs.id) FROM jobs").fetchall()
    assert all(seq == last for seq, last in counted), "the counter of a log is not at its last entry"
    found = [str(words) for (words,) in rows]
    assert len(found) == len(set(found)), "an entry stands twice"
    return set(found)


def free_port() -> int:
    with socket.socket() as found:
        found.bind(("127.0.0.1", 0))
        return int(found.getsockname()[1])


def _post(port: int, key: str, words: str) -> bool:
    """Write a note, and whether it was told as recorded."""
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=5)
    try:
        body = urlencode({"words": words, "by": "QZ", "token": words})
        head = {"Content-Type": "application/x-www-form-urlencoded"}
        connection.request("POST", f"/jobs/{key}/engine/note", body, head)
        return connection.getresponse().status in (200, 303)
    except OSError:
        return False
    finally:
        connection.close()


def kills(folder: Path, rounds: int, luck: random.Random) -> Iterator[tuple[int, int]]:
    """For each round, how many entries were acknowledged, and how many of them are lost."""
    path = folder / "killed.db"
    shop = Shop(path)
    shop.migrate()
    with shop.write() as session:
        keys = [a_job(session, title=f"Writer {n}") for n in range(WRITERS)]
    shop.close()
    told: set[str] = set()
    for turn in range(rounds):
        port = free_port()
        command = [sys.executable, "-m", "uranograph.cli", "serve", "--database", str(path), "--port", str(port)]
        server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)
        acknowledged: list[str] = []
        ended = threading.Event()

        def write(n: int, turn: int = turn, port: int = port, ended: threading.Event = ended) -> None:
            k = 0
            while not ended.is_set():
                words = f"{turn}-{n}-{k}"
                if _post(port, keys[n], words):
                    acknowledged.append(words)  # noqa: B023
                    k += 1

        hands = [threading.Thread(target=write, args=(n,)) for n in range(WRITERS)]
        for hand in hands:
            hand.start()
        deadline = time.monotonic() + 30
        while not acknowledged and time.monotonic() < deadline:
            time.sleep(0.02)
        time.sleep(luck.uniform(0.0, 0.8))
        server.send_signal(signal.SIGKILL)
        server.wait()
        ended.set()
        for hand in hands:
            hand.join()
        told.update(acknowledged)
        yield len(acknowledged), len(told - notes(path))


def cuts(folder: Path, rounds: int, luck: random.Random) -> Iterator[tuple[int, int]]:
    """For each cut, how many entries were durable before it, and how many of them are lost or stand without being written."""
    done = 0
    while done < rounds:
        path = folder / f"cut-{done}.db"
        shop = Shop(path)
        # What is cut is the log alone: it is not written back meanwhile.
        event.listen(shop.engine, "connect", lambda connection, _: connection.execute("PRAGMA wal_autocheckpoint=0"))
        shop.migrate()
        with shop.write() as session:
            key = a_job(session)
        log = Path(f"{path}-wal")
        durable: list[tuple[int, str]] = []
        for k in range(luck.randint(5, 60)):
            words = f"{k} {'x' * luck.randint(0, 1500)}"
            with shop.write() as session:
                jobs.annotate(session, key, Note(station="engine", words=words), "QZ")
            durable.append((log.stat().st_size, words))
        for _ in range(min(10, rounds - done)):
            done += 1
            lost = folder / "lost.db"
            cut = luck.randint(durable[0][0], log.stat().st_size)
            content = log.read_bytes()
            # Either it ends there, or what lies behind is rubbish.
            behind = b"" if luck.random() < 0.5 else luck.randbytes(len(content) - cut)
            copyfile(path, lost)
            Path(f"{lost}-wal").write_bytes(content[:cut] + behind)
            Path(f"{lost}-shm").unlink(missing_ok=True)
            wanted = {words for end, words in durable if end <= cut}
            found = notes(lost)
            yield len(wanted), len(wanted ^ found)
        shop.close()


def main() -> int:
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 100
    luck = random.Random(int(sys.argv[2]) if len(sys.argv) > 2 else 1)
    lost_in_all = 0
    with tempfile.TemporaryDirectory() as made:
        for name, tried in (("kill", kills), ("power cut", cuts)):
            written = lost = turns = 0
            for own, gone in tried(Path(made), rounds, luck):
                turns, written, lost = turns + 1, written + own, lost + gone
            lost_in_all += lost
            print(
                f"{'ok  ' if not lost else 'LOST'} {turns} {name}s: {written} entries acknowledged, {lost} lost",
                flush=True,
            )
    return 1 if lost_in_all else 0


if __name__ == "__main__":
    sys.exit(main())
