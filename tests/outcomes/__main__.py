"""`python -m tests.outcomes [ENGINES] [SEED]`: a table of how often the judgment is right, and whether each bound is held."""

import multiprocessing
import random
import sys
import time
from collections import Counter, defaultdict
from collections.abc import Callable

from tests.outcomes.made_up import FAULTS
from tests.outcomes.play import Played, play

METHODS = ("events", "lifts", "sweep")
# Faults that show by one way of reading alone, or once the cam was moved.
ONLY_BY = {"uneven-lobe": ("lifts", "sweep"), "firing-top": ("overlap",), "bleeding-lifter": METHODS}
BY_HAND = METHODS[:2]
CLEAN_SHARE = 0.45
# What must hold: name, value of it, and whether more is better.
BOUNDS = (
    ("in while truly over 1 deg, of in", 0.001, False),
    ("truly within 0.5: in", 0.92, True),
    ("truly within 0.5: cannot tell", 0.08, False),
    ("within reach: there in one move", 0.95, True),
    ("within reach: there in two", 1.0, True),
    ("fault named first", 0.85, True),
    ("fault named in the first three", 0.95, True),
    ("worst fault named in the first three", 0.75, True),
    ("clean engines asked about a fault", 0.03, False),
    ("clean engines asked about the commonest", 0.01, False),
    ("worse off after a move, faults planted", 0.05, False),
    ("stated uncertainty holds the truth", 0.95, True),
    ("keys a pair", 14.0, False),
)


def one(task: tuple[int, str, str]) -> Played:
    """Play one engine."""
    seed, method, fault = task
    return play(random.Random(f"{seed} {method} {fault}"), method, fault)


def tasks(engines: int, seed: int) -> list[tuple[int, str, str]]:
    """Clean engines by both methods, and every fault by each method that can show it."""
    clean = round(engines * CLEAN_SHARE)
    kinds = [(method, fault) for fault in FAULTS for method in ONLY_BY.get(fault, BY_HAND)]
    planted = max(1, round((engines - clean) / len(kinds)))
    start = seed * 1_000_000
    found = [(start + n, METHODS[n % 3], "") for n in range(clean)]
    return found + [(start + n, method, fault) for method, fault in kinds for n in range(planted)]


def figures(played: list[Played]) -> dict[str, float]:
    """Every figure of the table."""
    clean = [each for each in played if not each.fault]
    planted = [each for each in played if each.fault]
    by_hand = [each for each in played if each.method in BY_HAND]
    stands = [verdict for each in clean for verdict in each.verdicts]
    said_in = [verdict for verdict in stands if verdict[0] == "in"]
    near = [verdict for verdict in stands if abs(verdict[1]) <= 0.5]
    reach = [each for each in clean if each.reachable]
    asked = Counter(
        code for each in clean for code in dict.fromkeys(each.named) if code != "uneven-lobe" or not each.uneven
    )
    asked_at_all = [each for each in clean if any(code != "uneven-lobe" or not each.uneven for code in each.named)]
    by_fault = {fault: [each for each in planted if each.fault == fault] for fault in FAULTS}
    three = {fault: _share(own, lambda each: each.fault in each.named[:3]) for fault, own in by_fault.items() if own}
    moved = [each for each in planted if each.after is not None and each.fault not in ("tooth-off", "cam-degrees")]
    judged = [verdict for verdict in stands if verdict[0] != "open" and verdict[3]]
    return {
        "in while truly over 1 deg, of in": _share(said_in, lambda each: abs(each[1]) > 1),
        "truly within 0.5: in": _share(near, lambda each: each[0] == "in"),
        "truly within 0.5: cannot tell": _share(near, lambda each: each[0] == "unsure"),
        "within reach: there in one move": _share(reach, lambda each: _there(each, 1)),
        "within reach: there in two": _share(reach, lambda each: _there(each, 2)),
        "fault named first": _share(planted, lambda each: each.named[:1] == [each.fault]),
        "fault named in the first three": _share(planted, lambda each: each.fault in each.named[:3]),
        "worst fault named in the first three": min(three.values(), default=0.0),
        "clean engines asked about a fault": len(asked_at_all) / max(1, len(clean)),
        "clean engines asked about the commonest": max(asked.values(), default=0) / max(1, len(clean)),
        "worse off after a move, faults planted": sum(abs(e.after or 0) > abs(e.before) for e in moved)
        / max(1, len(planted)),
        "stated uncertainty holds the truth": _share(judged, lambda each: abs(each[1] - each[2]) <= each[3]),
        "keys a pair": sum(each.keys for each in by_hand) / max(1.0, sum(each.pairs for each in by_hand)),
    }


def _share(of_all: list, test: Callable) -> float:  # type: ignore[type-arg]
    return sum(bool(test(each)) for each in of_all) / max(1, len(of_all))


def _there(each: Played, moves: int) -> bool:
    """Whether it stands truly within half a degree and is said to be in, in so many moves."""
    return any(verdict[0] == "in" and abs(verdict[1]) <= 0.55 for verdict in each.verdicts[: moves + 1])


def table(played: list[Played]) -> str:
    """The figures by method, then the faults."""
    lines = [f"{'':48}{'all':>9}{'events':>9}{'lifts':>9}{'sweep':>9}{'bound':>9}"]
    ways = {"all": played, **{method: [each for each in played if each.method == method] for method in METHODS}}
    found = {way: figures(own) for way, own in ways.items()}
    for name, bound, more in BOUNDS:
        value = found["all"][name]
        held = value >= bound if more else value <= bound
        cells = "".join(f"{found[way][name]:>9.3f}" for way in ways)
        lines.append(f"{name:48}{cells}{bound:>9.3f} {'' if held else '  missed'}")
    lines.append("")
    lines.append(
        f"{'fault':24}{'method':10}{'engines':>8}{'first':>8}{'three':>8}{'in':>8}{'false in':>10}{'instead':>40}"
    )
    by: dict[tuple[str, str], list[Played]] = defaultdict(list)
    for each in played:
        by[each.fault, each.method].append(each)
    for (fault, method), own in sorted(by.items()):
        first = _share(own, lambda each: each.named[:1] == [each.fault])
        three = _share(own, lambda each: each.fault in each.named[:3])
        is_in = _share(own, lambda each: each.verdicts[0][0] == "in")
        false = _share(own, lambda each: each.verdicts[0][0] == "in" and abs(each.verdicts[0][1]) > 1)
        instead = Counter((each.named or ["nothing"])[0] for each in own if each.named[:1] != [each.fault])
        words = ", ".join(f"{code} {count}" for code, count in instead.most_common(3))
        lines.append(
            f"{fault or 'none':24}{method:10}{len(own):>8}{first:>8.2f}{three:>8.2f}{is_in:>8.2f}{false:>10.2f}  {words:>40}"
        )
    verdicts = Counter(
        (each.method, each.verdicts[0][0], abs(each.verdicts[0][1]) <= 1)
        for each in [own for method in METHODS for own in by["", method]]
    )
    lines.append(
        "clean, first position: "
        + ", ".join(f"{m} {v} {'within' if w else 'over'} {n}" for (m, v, w), n in sorted(verdicts.items()))
    )
    clean = [each for each in played if not each.fault]
    more = sum(each.more for each in clean) / max(1, sum(len(each.verdicts) for each in clean))
    lines.append(f"proved {_share(clean, lambda each: each.proved):.2f}, readings beyond the plan {more:.1f}")
    return "\n".join(lines)


def main(engines: int, seed: int) -> int:
    """Play, print, and say by the exit status whether every bound is held."""
    began = time.monotonic()
    with multiprocessing.Pool(2) as pool:
        played = pool.map(one, tasks(engines, seed), chunksize=4)
    print(table(played))
    print(f"{len(played)} engines in {time.monotonic() - began:.0f} s, seed {seed}")
    found = figures(played)
    missed = [name for name, bound, more in BOUNDS if (found[name] < bound if more else found[name] > bound)]
    return 1 if missed else 0


if __name__ == "__main__":
    wanted = [int(text) for text in sys.argv[1:3]]
    sys.exit(main(*(wanted + [1000, 1][len(wanted) :])))
