"""Many who write at once: each in its turn, none refused, and nobody waits for long."""

import threading
import time

from tests.hands import a_job
from uranograph.bench.log import Note
from uranograph.shop import jobs, loading
from uranograph.shop.database import Shop, WriterQueue

WRITERS, EACH, READERS = 8, 25, 12


def test_eight_who_write_and_many_who_read_are_all_served(shop: Shop) -> None:
    with shop.write() as session:
        keys = [a_job(session, title=f"Writer {n}") for n in range(WRITERS)]
    done, faults, stop = [0] * WRITERS, [], threading.Event()

    def write(n: int) -> None:
        for k in range(EACH):
            try:
                with shop.write() as session:
                    jobs.annotate(session, keys[n], Note(station="engine", words=f"{k}"), "QZ")
                done[n] += 1
            except Exception as error:
                faults.append(error)

    def read() -> None:
        while not stop.is_set():
            with shop.read() as session:
                loading.page(session)

    threads = [threading.Thread(target=read) for _ in range(READERS)]
    writing = [threading.Thread(target=write, args=(n,)) for n in range(WRITERS)]
    for each in (*threads, *writing):
        each.start()
    for each in writing:
        each.join()
    stop.set()
    for each in threads:
        each.join()
    assert faults == []
    assert done == [EACH] * WRITERS


def test_who_came_first_is_first() -> None:
    line, served = WriterQueue(), []

    def wait(n: int) -> None:
        with line.turn():
            served.append(n)

    threads = []
    with line.turn():
        for n in range(12):
            thread = threading.Thread(target=wait, args=(n,))
            thread.start()
            threads.append(thread)
            while len(line._waiting) < n + 2:
                time.sleep(0.001)
        assert served == []
    for thread in threads:
        thread.join()
    assert served == list(range(12))


def test_a_write_that_fails_lets_the_next_one_in() -> None:
    line = WriterQueue()
    try:
        with line.turn():
            raise ValueError
    except ValueError:
        pass
    with line.turn():
        pass
