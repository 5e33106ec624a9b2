"""A line that is opened, read, and opened again."""

import threading
import time
from collections.abc import Callable, Iterable

from uranograph.instruments.link import Link


class Scripted:
    """A port that gives these, one after the other; an error among them is raised."""

    def __init__(self, given: Iterable[bytes | Exception], done: threading.Event) -> None:
        self.given, self.done, self.closed = iter(given), done, 0

    def read(self, size: int) -> bytes:
        found = next(self.given, None)
        if found is None:
            self.done.set()
            time.sleep(0.005)
            return b""
        if isinstance(found, Exception):
            raise found
        return found

    def close(self) -> None:
        self.closed += 1


def heard(
    *scripts: list[bytes | Exception] | Exception, then: Callable[[Link], None] | None = None
) -> tuple[list[str], Link]:
    """What a link passes on of what its port gives each time it is opened."""
    done, said, opened = threading.Event(), [], iter(scripts)

    def opener(url: str, baud: int) -> Scripted:
        script = next(opened, [])
        if isinstance(script, Exception):
            raise script
        return Scripted(script, done)

    link = Link("socket://bench:1", 9600, said.append, opener)
    link.start()
    assert done.wait(5)
    if then:
        then(link)
    link.end()
    link.join(2)
    assert not link.is_alive()
    return said, link


def test_lines_are_passed_on_whole_and_the_first_rest_is_not() -> None:
    said, link = heard([b"5 mm\n1.2", b"7 mm\r\n1.28 m", b"m\n"])
    assert said == ["1.27 mm", "1.28 mm"]
    assert link.state.opened == 1
    assert not link.state.open


def test_it_is_opened_again_after_it_broke_and_after_it_was_not_there() -> None:
    said, link = heard(OSError("not there"), [b"\n1 mm\n", OSError("pulled")], [b"\n2 mm\n"])
    assert said == ["1 mm", "2 mm"]
    assert link.state.opened == 2


def test_half_a_line_from_before_the_cable_was_pulled_is_not_joined_to_one_after() -> None:
    said, _ = heard([b"\n1 mm\n12.", OSError("pulled")], [b"34 mm\n5 mm\n"])
    assert said == ["1 mm", "5 mm"]


def test_a_pipe_that_ends_ends_it() -> None:
    done, said = threading.Event(), []

    class Ended:
        def read(self, size: int) -> bytes:
            done.set()
            raise EOFError

        def close(self) -> None:
            return

    link = Link("-", 9600, said.append, lambda url, baud: Ended())
    link.start()
    assert done.wait(2)
    link.join(2)
    assert not link.is_alive()


def test_a_line_that_is_far_too_long_is_let_go_of() -> None:
    said, link = heard([b"\n" + b"9" * 5000, b"\n1 mm\n"])
    assert said == ["1 mm"]
    assert link.state.dropped >= 1
