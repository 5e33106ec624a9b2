"""`python -m tests.outcomes [ENGINES] [SEED] [WHAT]`: how often the judgment is right, a line a condition, and whether bounds hold."""

import multiprocessing
import random
import sys
import time
from collections import Counter
from collections.abc import Callable, Iterable

from tests.outcomes import stations
from tests.outcomes.made_up import CONDITIONS, FAULTS, PAIRS, TOGETHER, USUAL
from tests.outcomes.play import Played, Stand, play

# Asked for by this name, only the table of every station is played.
STATIONS = "stations"
METHODS = ("events", "lifts", "sweep")
BY_HAND = METHODS[:2]
# By which methods a fault is planted, where not by events and equal lifts.
ONLY_BY = {
    "uneven-lobe": ("lifts",),
    "firing-top": ("overlap",),
    "wrong-checking-lift": ("events",),
    **dict.fromkeys(
        ("bleeding-lifter", "wrong-lobe", "other-cylinder", "typing-slip", "lobes-apart", "tooth-off"), METHODS
    ),
}
# What no reading of that kind can tell, with the reason.
CANNOT_TELL = {
    ("one-backward", "lifts"): "within the width of a lobe, which no card gives at a drop",
    ("uneven-lobe", "lifts"): "it is read for by the events, and is then no fault of the set-up",
    ("one-backward", "events"): "a slack under half a degree is the grind's own",
    ("card-misprint", "lifts"): "the card's other events do not bear on equal lifts",
}
# Lobes ground apart are out of the card wherever their mean stands.
LOBES_THEMSELVES = ("lobes-apart",)
CLEAN_SHARE = 0.6
FALSE, HOLDS = 0.001, 0.93


def one(task: tuple[int, str, str, str]) -> Played:
    """Play one engine."""
    seed, method, fault, condition = task
    of = next(each for each in CONDITIONS if each.name == condition)
    try:
        return play(random.Random(f"{seed} {method} {fault} {condition}"), method, fault, of=of)
    except StopIteration as error:
        # A pool takes this for the end of its work.
        raise RuntimeError(f"{task}: nothing found") from error


def tasks(engines: int, seed: int, what: str = "") -> list[tuple[int, str, str, str]]:
    """Clean engines of every condition by every method, and every fault by each method that can show it."""
    kinds = [(method, fault) for fault in (*FAULTS, *PAIRS) for method in ONLY_BY.get(fault, BY_HAND)]
    clean = max(1, round(engines * CLEAN_SHARE / len(CONDITIONS) / len(METHODS)))
    planted = max(1, round(engines * (1 - CLEAN_SHARE) / len(kinds)))
    start = seed * 1_000_000
    found = [(start + n, method, "", each.name) for each in CONDITIONS for method in METHODS for n in range(clean)] + [
        (start + n, method, fault, USUAL.name) for method, fault in kinds for n in range(planted)
    ]
    return [task for task in found if not what or what in (task[1], task[2], task[3])]


def _share(of_all: Iterable, test: Callable) -> float:  # type: ignore[type-arg]
    own = list(of_all)
    return sum(bool(test(each)) for each in own) / max(1, len(own))


def holds(stand: Stand) -> float:
    """The share of its cams whose truth lies within the stated uncertainty."""
    return _share(stand.stated, lambda cam: abs(stand.errors[cam] - stand.stated[cam][0]) <= stand.stated[cam][1])


def there(each: Played, moves: int) -> bool:
    """Whether it stands truly within half a degree and is said to be in, in so many moves."""
    return any(stand.verdict == "in" and stand.worst <= 0.55 for stand in each.stands[: moves + 1])


def figures(played: list[Played]) -> dict[str, float]:
    """What must hold of some engines."""
    clean = [each for each in played if not each.fault]
    stands = [stand for each in clean for stand in each.stands]
    said = [stand for stand in stands if stand.stated]
    near = [stand for stand in stands if stand.worst <= 0.5]
    reach = [each for each in clean if each.reachable]
    asked = [each for each in clean if any(code != "uneven-lobe" or not each.uneven for code in each.named)]
    return {
        "engines": len(played),
        "false in": sum(stand.verdict == "in" and stand.worst > 1 for stand in stands),
        "false out": sum(stand.verdict == "out" and stand.worst <= 1 for stand in stands),
        "holds": sum(map(holds, said)) / max(1, len(said)),
        "good: in": _share(near, lambda stand: stand.verdict == "in"),
        "one move": _share(reach, lambda each: there(each, 1)),
        "two": _share(reach, lambda each: there(each, 2)),
        "asked": len(asked) / max(1, len(clean)),
        "most more": max((stand.more for stand in stands), default=0),
        "stuck": sum(stand.verdict == "unsure" and stand.end == "none" for stand in stands),
        "keys": sum(each.keys for each in played) / max(1.0, sum(each.pairs for each in played)),
    }


def conditions_table(played: list[Played]) -> list[str]:
    """A line a condition and method of what clean engines came to."""
    lines, names = [], list(figures([]))
    lines.append(f"{'condition':30}{'method':10}" + "".join(f"{name:>10}" for name in names))
    for condition in CONDITIONS:
        for method in METHODS:
            own = [
                each for each in played if not each.fault and (each.of.name, each.method) == (condition.name, method)
            ]
            if own:
                found = figures(own)
                lines.append(f"{condition.name:30}{method:10}" + "".join(f"{found[name]:>10.3g}" for name in names))
    return lines


def faults_table(played: list[Played]) -> list[str]:
    """A line a fault and method: how often it is named, and what was said instead."""
    lines = [
        f"{'fault':22}{'method':10}{'engines':>8}{'first':>8}{'three':>8}{'in':>6}{'falsein':>8}{'falseout':>9}{'proved':>8}"
    ]
    for fault in (*FAULTS, *PAIRS):
        for method in (*METHODS, "overlap"):
            own = [each for each in played if (each.fault, each.method) == (fault, method)]
            if own:
                found = named(own)
                instead = Counter((each.named or ["nothing"])[0] for each in own if each.named[:1] != [fault])
                words = ", ".join(f"{code} {count}" for code, count in instead.most_common(3))
                lines.append(
                    f"{fault:22}{method:10}{len(own):>8}{found['first']:>8.2f}{found['three']:>8.2f}{found['in']:>6.2f}"
                    f"{found['false in']:>8.0f}{found['false out']:>9.0f}{found['proved']:>8.2f}  {words}"
                )
    return lines


def named(played: list[Played]) -> dict[str, float]:
    """How often a planted fault is named, and what was said in spite of it at the first position."""
    first = [each.stands[0] for each in played]
    return {
        # Of two at once either will do: once it is put right, the other is asked about.
        "first": _share(played, lambda each: bool(set(each.named[:1]) & set(each.fault.split(TOGETHER)))),
        "three": _share(played, lambda each: bool(set(each.named[:3]) & set(each.fault.split(TOGETHER)))),
        "in": _share(first, lambda stand: stand.verdict == "in"),
        "false in": sum(stand.verdict == "in" and stand.worst > 1 for stand in first),
        "false out": sum(stand.verdict == "out" and stand.worst <= 1 for stand in first),
        "proved": _share(first, lambda stand: stand.proved),
    }


def bounds(played: list[Played]) -> list[tuple[str, float, float, bool]]:
    """What must hold: name, value, bound, and whether more is better."""
    clean, planted = ([each for each in played if bool(each.fault) == fault] for fault in (False, True))
    whole = figures(clean)
    stands = sum(len(each.stands) for each in clean)
    wrong = [
        named([each for each in planted if each.fault not in LOBES_THEMSELVES])[f"false {way}"] for way in ("in", "out")
    ]
    found = [
        ("false in, of all verdicts", whole["false in"] / max(1, stands), FALSE, False),
        ("false out, of all verdicts", whole["false out"] / max(1, stands), FALSE, False),
        ("false in or out with a fault planted, of all", sum(wrong) / max(1, len(planted)), FALSE, False),
        ("clean engines asked about a fault", figures([e for e in clean if not e.of.faulty])["asked"], 0.03, False),
        ("readings beyond the plan, the most", whole["most more"], 14, False),
        ("ended with nothing said and nothing asked", whole["stuck"], 0, False),
        ("keys a pair", figures([each for each in clean if each.method in BY_HAND])["keys"], 14.0, False),
    ]
    for condition in CONDITIONS:
        own = figures([each for each in clean if each.of == condition])
        if own["engines"]:
            found.append((f"± holds the truth: {condition.name}", own["holds"], HOLDS, True))
    usual = [each for each in clean if each.of == USUAL]
    by_events = figures([each for each in usual if each.method == "events"])
    if usual:
        found += [
            ("a good cam by events is in", by_events["good: in"], 0.9, True),
            ("within 0.5 in one move", figures(usual)["one move"], 0.95, True),
            ("within 0.5 in two", figures(usual)["two"], 0.99, True),
        ]
    if planted:
        told = named(planted)
        found += [
            ("faults named first", told["first"], 0.85, True),
            ("faults named in three", told["three"], 0.95, True),
            ("worse off after a move", _share(planted, worse_off), 0.05, False),
        ]
        for fault in FAULTS:
            for method in (*METHODS, "overlap"):
                own = [each for each in planted if (each.fault, each.method) == (fault, method)]
                if own and (fault, method) not in CANNOT_TELL:
                    found.append((f"named in three: {fault} by {method}", named(own)["three"], 0.75, True))
    return found


def worse_off(each: Played) -> bool:
    """Whether the first move left it further off than it was found."""
    own = each.after is not None and each.fault not in ("tooth-off", "cam-degrees")
    return own and abs(each.after or 0.0) > abs(each.before)


def missed(played: list[Played]) -> list[tuple[str, float, float, bool]]:
    """The bounds that do not hold."""
    return [each for each in bounds(played) if (each[1] < each[2] if each[3] else each[1] > each[2])]


def main(engines: int, seed: int, what: str = "") -> int:
    """Play, print, and say by the exit status whether every bound is held."""
    if what == STATIONS:
        return 0 if stations.table(engines, seed) else 1
    began = time.monotonic()
    with multiprocessing.Pool() as pool:
        played = pool.map(one, tasks(engines, seed, what), chunksize=2)
    print("\n".join([*conditions_table(played), "", *faults_table(played), ""]))
    wrong = missed(played)
    for name, value, bound, more in bounds(played):
        mark = "  missed" if any(name == each[0] for each in wrong) else ""
        print(f"{name:52}{value:>9.3f} {'at least' if more else 'at most'} {bound:g}{mark}")
    print(f"{len(played)} engines in {time.monotonic() - began:.0f} s, seed {seed}")
    every = what != "" or stations.table(max(len(stations.PLAYED), engines // 3), seed)
    return 1 if wrong or not every else 0


if __name__ == "__main__":
    wanted = [int(text) for text in sys.argv[1:3]]
    sys.exit(main(*(wanted + [3000, 1][len(wanted) :]), *sys.argv[3:4]))
