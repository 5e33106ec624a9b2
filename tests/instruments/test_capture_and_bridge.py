"""Lines recorded and played again, and lines sent from another machine."""

import json
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from uranograph.core.errors import InvalidInput
from uranograph.instruments import capture
from uranograph.instruments.bridge import MAX_RUNS, Bridge, Received

LINE = st.text(st.characters(codec="ascii", categories=("L", "N", "P", "Zs")), max_size=60)


@given(st.lists(st.tuples(st.floats(0, 1000), LINE), max_size=20))
def test_a_capture_is_read_back_as_it_was_written(points: list[tuple[float, str]]) -> None:
    read = list(capture.read(capture.written(points)))
    assert [raw for _, raw in read] == [raw for _, raw in points]
    for (at, _), (before, _) in zip(read, points, strict=True):
        assert at == pytest.approx(before - points[0][0], abs=1e-4)


@pytest.mark.parametrize(
    "line",
    ["{", "[]", '{"t": 1}', '{"t": "x", "raw": "1"}', '{"t": 0, "raw": 5}', '{"t": 0, "raw": "' + "x" * 900 + '"}'],
)
def test_what_is_no_capture_is_refused_with_its_line(line: str) -> None:
    with pytest.raises(InvalidInput) as refused:
        list(capture.read('{"t": 0, "raw": "ok"}\n' + line))
    assert refused.value.values["number"] == 2


class Server:
    """Takes what a bridge sends; away for the first sends, and it forgets to answer some."""

    def __init__(self, away: int, mute: set[int]) -> None:
        self.received, self.lines, self.sends = Received(), [], 0
        self.away, self.mute = away, mute

    def __call__(self, url: str, body: bytes) -> bytes:
        self.sends += 1
        if self.sends <= self.away:
            raise OSError("away")
        sent = json.loads(body)
        assert url == "http://bench:8765/instruments/lines"
        fresh = self.received.fresh(sent["name"], sent["run"], [(each["n"], each["raw"]) for each in sent["lines"]])
        self.lines += [raw for _, raw in fresh]
        if self.sends in self.mute:
            raise TimeoutError
        return json.dumps({"taken": self.received.last(sent["name"], sent["run"])}).encode()


@given(st.integers(0, 5), st.sets(st.integers(1, 12)), st.integers(0, 900))
def test_each_line_is_taken_once_and_in_order_whatever_fails_on_the_way(away: int, mute: set[int], count: int) -> None:
    server = Server(away, mute)
    bridge = Bridge("socket://x:1", 9600, "http://bench:8765/", "B1", server)
    for k in range(count):
        bridge._keep(f"{k} mm")
    for _ in range(40):
        bridge.send()
    assert server.lines == [f"{k} mm" for k in range(count)]
    assert not bridge.kept


def test_a_bridge_that_begins_anew_counts_anew_and_old_ones_are_forgotten() -> None:
    received = Received()
    assert received.fresh("B1", "a", [(0, "x")]) == [(0, "x")]
    assert received.fresh("B1", "b", [(0, "x")]) == [(0, "x")]
    assert received.fresh("B1", "a", [(0, "x")]) == []
    for k in range(MAX_RUNS):
        received.fresh("B1", f"run {k}", [(0, "x")])
    assert len(received._last) == MAX_RUNS


def test_lines_of_another_program_are_recorded(tmp_path: Path) -> None:
    file = tmp_path / "lines.jsonl"
    command = [str(Path(sys.executable).with_name("uranograph")), "instrument", "-", "--capture", str(file)]
    done = subprocess.run(command, input=b"1.27 mm\n1.28 mm\n", capture_output=True, timeout=60, check=True)
    assert b"2 lines" in done.stdout
    assert [raw for _, raw in capture.read(file.read_text(encoding="utf-8"))] == ["1.27 mm", "1.28 mm"]


def test_many_at_once_still_count_once() -> None:
    received, taken = Received(), []

    def send() -> None:
        for k in range(200):
            taken.extend(received.fresh("B1", "a", [(k, str(k))]))

    threads = [threading.Thread(target=send) for _ in range(4)]
    for each in threads:
        each.start()
    for each in threads:
        each.join()
    assert len(taken) == len(set(taken))
