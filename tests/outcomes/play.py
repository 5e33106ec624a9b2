"""Plays a made-up engine through the judgment of whole jobs, as a program would: reads what it is asked, takes what is offered."""

import math
import random
from dataclasses import dataclass, field
from typing import Any

from tests.outcomes.made_up import BANK2, EVENT, LOBES, TOGETHER, USUAL, Condition, Engine, moved, plain
from uranograph.shop.job_files import StoredJob
from uranograph.shop.judging import judge

AT = "2026-01-01T08:00:00+00:00"
# As many readings beyond the plan of the method as the bench may ask for at one position.
MOST_MORE = 14
DROPS = ("1.25", "6.3")


@dataclass
class Stand:
    """One position: what was said of the cams there, and what was true."""

    verdict: str
    proved: bool
    errors: dict[str, float]
    stated: dict[str, tuple[float, float]]
    more: int
    end: str

    @property
    def worst(self) -> float:
        return max(map(abs, self.errors.values()))


@dataclass
class Played:
    """What came of one engine: what was said and true at each position, what was asked at the first, and the keys."""

    method: str
    fault: str
    of: Condition = USUAL
    stands: list[Stand] = field(default_factory=list)
    named: list[str] = field(default_factory=list)
    moves: int = 0
    reachable: bool = False
    keys: int = 0
    pairs: float = 0
    uneven: bool = False
    before: float = 0.0
    after: float | None = None


class Bench:
    """A job file in the making, and the hand at the engine."""

    def __init__(self, engine: Engine, method: str) -> None:
        self.engine, self.method = engine, method
        self.entries: list[dict[str, Any]] = []
        self.keys, self.pairs = 0, 0.0
        forms: dict[str, dict[str, str]] = {
            "engine": {
                "cylinders": str(engine.cylinders),
                "firing_order": engine.order,
                "rotation": engine.rotation,
                "unit": "mm",
                "valvetrain": {"one": "pushrod", "banks": "one-cam-a-bank"}.get(engine.of.cams, "two-cams-over"),
                "bank2_cylinder": engine.order.split("-")[1] if engine.of.cams == "banks" else "",
                "lift_at": "lifter",
                "tappets": engine.of.tappets,
                "springs": engine.of.springs,
            },
            "way": {"way": "degree"},
            "card": self._card(),
            "wheel": {
                "scale": engine.scale,
                "mount": engine.mount,
                "numbers_rise": engine.rises,
                "division": f"{engine.division:g}",
                "dial_division": "0.01",
                "unit": "mm",
            },
            "drive": self._drive(),
        }
        if engine.of.basis == "intake":
            forms["rules"] = {"tolerance": "1", "basis": "intake"}
        if method == "overlap":
            for lobe in LOBES:
                middle = self._at_overlap_by_card(lobe)
                forms["card"] |= {
                    f"{lobe}_overlap_min": f"{middle - 0.1:.2f}",
                    f"{lobe}_overlap_max": f"{middle + 0.1:.2f}",
                }
        if engine.has("tooth-off"):
            forms["train"] = {
                "g1_name": "crank",
                "g1_teeth": str(engine.teeth),
                "g1_role": "crank",
                "g2_name": "cam",
                "g2_teeth": str(2 * engine.teeth),
                "g2_role": "cam",
                "g2_on": "1",
                "g2_how": "mesh",
            }
        for kind, typed in forms.items():
            self._append({"type": "sheet", "kind": kind, "typed": typed})

    def _at_overlap_by_card(self, lobe: str) -> float:
        engine, moved = self.engine, {}
        for name in LOBES:
            moved[name] = engine.lobes[name].middle
            engine.lobes[name].middle = engine.true_middle[name]
        fault, engine.fault = engine.fault, ""
        lift = engine.at_overlap(lobe)
        engine.fault = fault
        for name in LOBES:
            engine.lobes[name].middle = moved[name]
        return max(0.2, lift)

    def _card(self) -> dict[str, str]:
        """The card as this engine's is printed."""
        engine, kind = self.engine, self.engine.of.card
        typed = {name: f"{value:g}" for name, value in engine.card.items()} | {"check_lift": f"{engine.check}"}
        if kind == "events":
            return typed
        middle = {lobe: engine.true_middle[lobe] for lobe in LOBES}
        if engine.of_peak:
            middle = {lobe: middle[lobe] + engine.lobes[lobe].uneven for lobe in LOBES}
        centers = {"intake": middle["intake"], "exhaust": -middle["exhaust"]}
        if kind == "peak-beside":
            return typed | {f"{lobe}_centerline_deg": f"{deg:.1f}" for lobe, deg in centers.items()}
        events = ("io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg")
        durations = {
            "intake_duration_deg": f"{180 + engine.card['io_btdc_deg'] + engine.card['ic_abdc_deg']:g}",
            "exhaust_duration_deg": f"{180 + engine.card['eo_bbdc_deg'] + engine.card['ec_atdc_deg']:g}",
        }
        typed = {name: text for name, text in typed.items() if name not in events} | durations
        if kind == "intake":
            typed["intake_centerline_deg"] = f"{centers['intake']:.1f}"
            typed["centerline_of"] = "peak" if engine.of_peak else "events"
            return {name: text for name, text in typed.items() if not name.startswith("exhaust")}
        separation = sum(centers.values()) / 2
        typed |= {
            "lobe_separation_cam_deg": f"{separation:.2f}",
            "advance_deg": f"{separation - centers['intake']:.2f}",
        }
        return typed if kind == "durations" else typed | {"centerline_of": "peak" if engine.of_peak else "events"}

    def _drive(self) -> dict[str, str]:
        found: dict[str, str] = {}
        for n, on in enumerate(moves_of(self.engine), 1):
            found |= {f"a{n}_{name}": text for name, text in self._adjuster().items()}
            found |= {f"a{n}_on": on, f"a{n}_name": f"{on} adjuster"}
        return found

    def _adjuster(self) -> dict[str, str]:
        steps = self.engine.steps
        if steps in ("keys", "coarse"):
            step = 2 if steps == "keys" else 4
            options = ", ".join(f"{'A' if k > 0 else 'R'}{abs(k)}: {k}" if k else "0: 0" for k in range(-12, 13, step))
            at = "cam" if len(moves_of(self.engine)) > 1 else "crank"
            return {"kind": "choices", "options": options, "fitted": "0", "where": at}
        if steps == "vernier":
            return {"kind": "pin-vernier", "holes": "15", "hub_holes": "16", "range": "15"}
        return {"kind": "slot", "range": "14", "step": "0.5", "marks": "crank"}

    def _append(self, entry: dict[str, Any]) -> None:
        self.entries.append({**entry, "seq": len(self.entries) + 1, "by": "QZ", "at": AT})

    def read(self, station: str, slot: str, text: str, side: str | None = None, **more: Any) -> None:
        """Write a reading, and count its keys: the figure, its side where the wheel has sides, Enter."""
        self.keys += len(text) + 1 + (1 if side else 0)
        entry = {"type": "reading", "station": station, "slot": slot, "text": text, "side": side, "approach": "forward"}
        self._append({**entry, "drop": None, "unit": "mm", "instrument": "by eye", "note": None, **more})

    def judged(self) -> dict[str, Any]:
        """The job as it stands, judged."""
        file = {"title": "made up", "created_at": AT, "touched_at": AT, "entries": self.entries}
        return judge(StoredJob.model_validate(file))

    def number(self, kind: str) -> int:
        """The next number of a kind."""
        numbers = [int(e["slot"].split(".")[1]) for e in self.entries if e.get("slot", "").startswith(f"{kind}.")]
        return max(numbers, default=0) + 1

    def stop(self) -> None:
        """A pair at the stop."""
        n = self.number("stop")
        for place in ("before", "after"):
            text, side = self.engine.stop(place)
            self.read("tdc", f"stop.{n}.{place}", text, side, approach="forward" if place == "before" else "backward")
        self.pairs += 1

    def plan(self, lobes: tuple[str, ...]) -> None:
        """The lobes that decide by this method, once."""
        if self.engine.of.basis == "intake":
            lobes = LOBES[:1]
        if self.method == "events":
            for bank in ("", BANK2):
                for kind, (lobe, _) in EVENT.items():
                    if bank + lobe in lobes:
                        self.event(bank + kind, again=False)
            self.pairs += 2
        elif self.method == "lifts":
            for drop in DROPS:
                for lobe in lobes:
                    self.lifts(lobe, drop, again=False)
        elif self.method == "sweep":
            for lobe in lobes:
                self.sweep(lobe)
        else:
            for lobe in lobes:
                self.read("degree", f"overlap-{lobe}.1.lift", f"{self.engine.at_overlap(lobe):.3f}")
            self.pairs += 1

    @property
    def planned(self) -> int:
        """How many readings of the lobes that are."""
        return {"lifts": 8}.get(self.method, 4)

    def event(self, kind: str, again: bool) -> None:
        lobe, side = flank(kind)
        text, shown = self.engine.on_flank(lobe, side, None, again)
        self.read("degree", f"{kind}.{self.number(kind)}.forward", text, shown)

    def lifts(self, lobe: str, drop: str, again: bool) -> None:
        n = self.number(lobe)
        for place, side in (("before", -1), ("after", 1)):
            text, shown = self.engine.on_flank(lobe, side, float(drop), again)
            self.read("degree", f"{lobe}.{n}.{place}", text, shown, drop=drop)
        self.pairs += 1

    def sweep(self, lobe: str, step: int = 5) -> None:
        """A lobe swept from base circle to base circle."""
        start = round((self.engine.true_middle[plain(lobe)] + self.engine.after(lobe)) / step) * step
        angles = range(start - 170, start + 171, step)
        slips_at = self.engine.r.choice(angles[8:-8]) if self.engine.has("typing-slip") else None
        for shown in angles:
            lift = self.engine.lift_shown(lobe, shown)
            if shown == slips_at and lobe == "intake":
                lift = abs(lift + self.engine.r.choice((-1, 1)) * self.engine.r.choice((1.0, 2.0, 0.9, 3.6)))
            kind = f"{lobe[: -len(plain(lobe))]}sweep-{plain(lobe)}"
            text, side = self.engine.figure_of(shown)
            self.read("degree", f"{kind}.{self.number(kind)}.point", text, side, drop=f"{lift:.2f}")
        self.pairs += 4

    def fill(self, entry: dict[str, Any]) -> bool:
        """Read what is asked; False where this hand cannot."""
        slot, _, place = entry["slot"].split(".")
        kind, bank = plain(slot), slot[: -len(plain(slot))]
        if kind == "stop":
            text, side = self.engine.stop(place)
            self.pairs += 0.5
        elif kind in EVENT:
            text, side = self.engine.on_flank(*flank(slot), None, True)
            self.pairs += 0.5
        elif kind in LOBES:
            text, side = self.engine.on_flank(bank + kind, -1 if place == "before" else 1, float(entry["drop"]), True)
            self.pairs += 0.5
        elif kind.startswith("asked-"):
            text, side = self._answer(kind.removeprefix("asked-")), None
        elif kind.startswith("sweep-"):
            at = self._shown(entry["text"], entry["side"])
            lift = self.engine.lift_shown(bank + kind.removeprefix("sweep-"), at)
            self.read(entry["station"], entry["slot"], entry["text"], entry["side"], drop=f"{lift:.2f}")
            return True
        elif kind.startswith("overlap-") and place == "lift":
            text, side = f"{self.engine.at_overlap(kind.removeprefix('overlap-')):.3f}", None
        elif kind.startswith("overlap-"):
            lobe = kind.removeprefix("overlap-")
            text, side = f"{max(0.0, self.engine.lift_shown(lobe, self.engine.zero + float(entry['drop']))):.3f}", None
        elif kind.startswith("peak-"):
            text, side = f"{self.engine.greatest(bank + kind.removeprefix('peak-')):.2f}", None
        elif kind.startswith("base-"):
            text, side = f"{self.engine.base(kind.removeprefix('base-')):.2f}", None
        else:
            return False
        more = {"drop": entry.get("drop"), "approach": entry["approach"]}
        self.read(entry["station"], entry["slot"], text, side, **more)
        return True

    def _shown(self, text: str, side: str | None) -> float:
        """What the wheel shows where it shows this figure, about TDC."""
        figure, engine = float(text), self.engine
        if side is None:
            return figure if engine.rises != engine.rotation else -figure
        return {"btdc": -figure, "atdc": figure, "bbdc": 180 - figure, "abdc": figure - 180}[side]

    def _answer(self, code: str) -> str:
        """What somebody finds who looks."""
        engine = self.engine
        true = {
            **dict.fromkeys(engine.fault.split(TOGETHER), True),
            "uneven-lobe": any(abs(lobe.uneven) > 0.9 for lobe in engine.lobes.values()),
            "centerline-of-peak": engine.of_peak,
            "bleeding-lifter": engine.bled > 0.05,
            "springs-on": abs(engine.sprung) > 0.3,
        }
        return "yes" if true.get(code) else "no"


def flank(kind: str) -> tuple[str, int]:
    """The lobe of an event, and its side."""
    lobe, side = EVENT[plain(kind)]
    return kind[: -len(plain(kind))] + lobe, side


def moves_of(engine: Engine) -> tuple[str, ...]:
    """What each adjuster of the drive moves."""
    return {"two": LOBES, "banks": ("bank1-both", "bank2-both")}.get(engine.of.cams, ("both",))


def play(r: random.Random, method: str, fault: str = "", most_moves: int = 2, of: Condition = USUAL) -> Played:
    """Degree one engine: the plan of the method, what the bench asks beyond it, and the positions it offers."""
    engine = Engine(r, fault, of)
    bench, told = Bench(engine, method), Played(method, fault, of)
    engine.strikes_at = r.randrange(0 if fault == "wheel-moved" else 1, bench.planned)
    told.uneven = any(abs(lobe.uneven) > 0.9 for lobe in engine.lobes.values())
    told.before = engine.error
    told.reachable = _reachable(bench)
    bench.stop()
    lobes = tuple(engine.lobes)
    for position in range(most_moves + 1):
        bench.plan(lobes)
        found, more, named = _asked_for(bench)
        degree, coming = found["stations"]["degree"], found["next"]
        moving = coming is not None and coming["entry"].get("kind") == "cam-moved"
        told.stands.append(
            Stand(
                degree["verdict"],
                degree["proved"],
                engine.errors,
                {cam: (each["error_deg"], each["doubt_deg"]) for cam, each in found["by_cam"].items()},
                more,
                "move" if moving else "none" if coming is None else coming["entry"].get("slot", coming["station"]),
            )
        )
        if position == (1 if fault == "cam-degrees" else 0):
            told.named = named
        if not moving or position == most_moves:
            break
        lobes = _moved(bench, found)
        told.moves += 1
        if told.after is None:
            told.after = engine.error
    told.keys, told.pairs = bench.keys, bench.pairs
    return told


def _moved(bench: Bench, found: dict[str, Any]) -> tuple[str, ...]:
    """Take the move that is next, and what comes with it; which lobes are to be read again."""
    engine, coming = bench.engine, found["next"]
    best = next(offer for offer in found["offers"] if offer["moves"] == coming["entry"]["moves"])
    for entry in coming.get("entries") or [coming["entry"]]:
        bench._append({name: value for name, value in entry.items() if name not in ("seq", "by", "at")})
        if entry["kind"] == "wheel-refitted":
            engine.remount()
            bench.stop()
    lobes: set[str] = set()
    for move in best["moves"]:
        on = moves_of(engine)[move["adjuster"]]
        lobes |= set(moved(on))
        if best["live"] and engine.of.by_dial and engine.fault != "cam-degrees":
            engine.set_by_dial(*(best["live"][name] for name in ("kind", "text", "side", "drop_mm")), on)
        else:
            engine.move(move["shift_deg"], on)
    return tuple(lobe for lobe in engine.lobes if lobe in lobes)


def _asked_for(bench: Bench) -> tuple[dict[str, Any], int, list[str]]:
    """Read what is asked at this position: what is found then, how many readings that took, and what was asked about first."""
    found, more, named = bench.judged(), 0, None
    # Each bank's cam is at a position of its own.
    positions = 2 if bench.engine.of.cams == "banks" else 1
    for _ in range((MOST_MORE + 8) * positions):
        coming = found["next"]
        if coming is None or coming["station"] not in ("tdc", "degree") or coming["entry"]["type"] != "reading":
            break
        asked = coming["entry"]["slot"].startswith("asked-")
        if asked and named is None:
            named = [each["code"] for each in found["stations"]["degree"]["questions"]]
        if coming["why"] == "left-open" or not bench.fill(coming["entry"]):
            break
        more += not asked
        found = bench.judged()
    if named is None:
        named = [each["code"] for each in found["stations"]["degree"]["questions"]]
    return found, math.ceil(more / positions), named


def _reachable(bench: Bench) -> bool:
    """Whether some position of the drive would truly leave every cam within half a degree."""
    engine = bench.engine
    reach = {"keys": (2.0, 12.0), "coarse": (4.0, 12.0), "vernier": (3.0, 15.0), "slot": (0.5, 14.0)}
    step, most = reach[engine.steps]
    errors = engine.errors.values()
    if engine.of.cams == "shared":
        shifts = [step * k for k in range(round(-most / step), round(most / step) + 1)]
        return any(all(abs(error - shift) <= 0.45 for error in errors) for shift in shifts)
    return all(abs(error - max(-most, min(most, round(error / step) * step))) <= 0.45 for error in errors)
