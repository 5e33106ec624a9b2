"""Every station at engines whose truth is known: how often its verdict is false, and what else goes wrong on the way."""

import multiprocessing
import time
from collections.abc import Iterable
from dataclasses import dataclass

from tests.outcomes.builder import Carried, carried

# Jobs, and what is planted in their engines.
PLAYED: tuple[tuple[str, tuple[str, ...]], ...] = (
    *(
        ("play", faults)
        for faults in ((), ("tight-play",), ("loose-play",), ("bent-crank",), ("tight-place",), ("loose-mesh",))
    ),
    *(("gear", faults) for faults in ((), ("lobe-rubs",))),
    *(("marks", faults) for faults in ((), ("tooth-off",), ("dot-wrong",))),
    *(
        ("degree", faults)
        for faults in (
            (),
            ("cam-late",),
            ("valve-near",),
            ("tight-valve",),
            ("wheel-mirrored",),
            ("uneven-lobes",),
            ("bleeding",),
        )
    ),
    *(("whole", faults) for faults in ((), ("out-of-line",), ("tight-play", "lobe-rubs"))),
    *(("wrong", faults) for faults in (("tooth-off",), ("gear-slipped",))),
)
# What the bench should lead to, of what was planted.
CAUSES = {"tooth-off": "jumped tooth", "gear-slipped": "slipped pressed gear"}
FALSE = 0.001
COLUMNS = {"judged": 6, "false in": 8, "false out": 9, "left": 5, "stuck": 5, "absent": 6, "harm": 4, "readings": 8}


@dataclass(frozen=True)
class Line:
    """What came of one station over many engines."""

    station: str
    judged: int
    false_in: int
    false_out: int
    left: int
    stuck: int
    absent: int
    harm: int
    readings: float

    @property
    def holds(self) -> bool:
        """Whether its bounds hold: false verdicts 1 in 1,000, nothing stuck, nothing asked of what is not there, no harm."""
        false = (self.false_in + self.false_out) / max(1, self.judged)
        return false <= FALSE and not self.stuck and not self.absent and not self.harm


def one(task: tuple[int, str, tuple[str, ...]]) -> Carried:
    """Carry one engine; what cannot be answered is a failure of its own."""
    seed, workflow, faults = task
    try:
        return carried(seed, workflow, faults)
    except Exception as error:
        return Carried(seed, workflow, faults, failed=f"{type(error).__name__}: {error}")


def tasks(engines: int, seed: int) -> list[tuple[int, str, tuple[str, ...]]]:
    """So many engines in all, the same number of each kind."""
    each = max(1, engines // len(PLAYED))
    return [(seed * 1_000_000 + n, workflow, faults) for workflow, faults in PLAYED for n in range(each)]


def lines(played: Iterable[Carried]) -> list[Line]:
    """A line a station.

    Parameters
    ----------
    played
        Engines that were carried through.

    Returns
    -------
    list of Line
        Stations in the order in which they are first met; what is led to falsely counts as a false verdict of `wrong`.
    """
    every = [each for each in played if not each.failed]
    found = []
    for station in dict.fromkeys(key for each in every for key in each.truths):
        own = [each for each in every if station in each.truths]
        known = [each for each in own if each.truths[station] in ("in", "out")]
        said = [(each.verdicts[station], each.truths[station]) for each in known]
        found.append(
            Line(
                station,
                len(known),
                sum(verdict == "in" and true == "out" for verdict, true in said),
                sum(verdict == "out" and true == "in" for verdict, true in said),
                sum(verdict in ("unsure", "open") for verdict, _ in said),
                sum(each.stuck.startswith(f"{station} ") for each in own),
                sum(name.startswith(f"{station} ") for each in own for name in each.absent),
                sum(bool(each.harm) for each in own) if station == "gear-fit" else 0,
                sum(each.by_station.get(station, 0) for each in own) / len(own),
            )
        )
    complaints = [each for each in every if each.workflow == "wrong"]
    if complaints:
        misled = sum(each.led_to != CAUSES[each.faults[0]] for each in complaints)
        stuck = sum(each.stuck.startswith("wrong ") for each in complaints)
        open_ = sum(each.verdicts["wrong"] in ("unsure", "open") for each in complaints)
        readings = sum(each.by_station.get("wrong", 0) for each in complaints) / len(complaints)
        found.append(Line("wrong", len(complaints), misled, 0, open_, stuck, 0, 0, readings))
    return found


def table(engines: int, seed: int) -> bool:
    """Play so many engines, print a line a station, and say whether all bounds hold."""
    start, work = time.monotonic(), tasks(engines, seed)
    with multiprocessing.Pool() as pool:
        played = list(pool.imap_unordered(one, work, chunksize=1))
    took = time.monotonic() - start
    print(f"\n{len(played)} engines, every station, seed {seed}: {len(played) / took:.1f} a second")
    print(
        f"{'station':12} {'judged':>6} {'false in':>8} {'false out':>9} {'left':>5} {'stuck':>5} {'absent':>6} {'harm':>4} {'readings':>8}"
    )
    found = lines(played)
    for line in found:
        figures = f"{line.judged:6} {line.false_in:8} {line.false_out:9} {line.left:5} {line.stuck:5} {line.absent:6} {line.harm:4}"
        print(f"{line.station:12} {figures} {line.readings:8.1f}{'' if line.holds else '  MISSED'}")
    for each in played:
        if each.failed or each.stuck:
            print(f"  seed {each.seed} {each.workflow} {each.faults}: {each.failed or each.stuck}")
    keys = sum(each.keys for each in played) / len(played)
    print(f"keys an engine: {keys:.0f}")
    return all(line.holds for line in found) and not any(each.failed for each in played)
