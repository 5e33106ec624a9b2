"""Plays a made-up engine through the judgment of whole jobs, as a program would: reads what it is asked, takes what is offered."""

import random
from dataclasses import dataclass, field
from typing import Any

from tests.outcomes.made_up import EVENT, LOBES, Engine
from uranograph.shop.exchange import KeptJob
from uranograph.shop.judging import judge

AT = "2026-01-01T08:00:00+00:00"
# As many readings beyond the plan of the method as the bench may ask for at one position.
MOST_MORE = 14
DROPS = ("1.25", "6.3")


@dataclass
class Played:
    """What came of one engine: the verdict and the truth at each position, what was asked at the first, and the keys."""

    method: str
    fault: str
    verdicts: list[tuple[str, float, float, float]] = field(default_factory=list)
    named: list[str] = field(default_factory=list)
    asked: list[tuple[str, float]] = field(default_factory=list)
    moves: int = 0
    reachable: bool = False
    proved: bool = False
    keys: int = 0
    pairs: float = 0
    more: int = 0
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
                "valvetrain": "pushrod",
                "lift_at": "lifter",
            },
            "way": {"way": "degree"},
            "card": {**{name: f"{value:g}" for name, value in engine.card.items()}, "check_lift": f"{engine.check}"},
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
        if method == "overlap":
            for lobe in LOBES:
                middle = self._at_overlap_by_card(lobe)
                forms["card"] |= {
                    f"{lobe}_overlap_min": f"{middle - 0.1:.2f}",
                    f"{lobe}_overlap_max": f"{middle + 0.1:.2f}",
                }
        if engine.fault == "tooth-off":
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

    def _drive(self) -> dict[str, str]:
        if self.engine.steps == "keys":
            options = ", ".join(f"{'A' if k > 0 else 'R'}{abs(k)}: {k}" if k else "0: 0" for k in range(-12, 13, 2))
            return {"a1_kind": "choices", "a1_name": "keyway", "a1_options": options, "a1_fitted": "0"}
        if self.engine.steps == "vernier":
            return {
                "a1_kind": "pin-vernier",
                "a1_name": "pins",
                "a1_holes": "15",
                "a1_hub_holes": "16",
                "a1_range": "15",
            }
        return {
            "a1_kind": "slot",
            "a1_name": "slots",
            "a1_range": "14",
            "a1_step": "0.5",
            "a1_marks": "crank",
        }

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
        return judge(KeptJob.model_validate(file))

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

    def plan(self) -> None:
        """Both lobes by this method, once."""
        if self.method == "events":
            for kind in EVENT:
                self.event(kind, again=False)
            self.pairs += 2
        elif self.method == "lifts":
            for drop in DROPS:
                for lobe in LOBES:
                    self.lifts(lobe, drop, again=False)
        elif self.method == "sweep":
            for lobe in LOBES:
                self.sweep(lobe)
        else:
            for lobe in LOBES:
                self.read("degree", f"overlap-{lobe}.1.lift", f"{self.engine.at_overlap(lobe):.3f}")
            self.pairs += 1

    @property
    def planned(self) -> int:
        """How many readings of the lobes that are."""
        return {"lifts": 8}.get(self.method, 4)

    def event(self, kind: str, again: bool) -> None:
        lobe, side = EVENT[kind]
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
        start = round(self.engine.true_middle[lobe] / step) * step
        for shown in range(start - 170, start + 171, step):
            lift = self.engine.lift_shown(lobe, shown)
            n = self.number(f"sweep-{lobe}")
            text, side = self.engine.figure_of(shown)
            self.read("degree", f"sweep-{lobe}.{n}.point", text, side, drop=f"{lift:.2f}")
        self.pairs += 4

    def fill(self, entry: dict[str, Any]) -> bool:
        """Read what is asked; False where this hand cannot."""
        kind, _, place = entry["slot"].split(".")
        if kind == "stop":
            text, side = self.engine.stop(place)
            self.pairs += 0.5
        elif kind in EVENT:
            text, side = self.engine.on_flank(*EVENT[kind], None, True)
            self.pairs += 0.5
        elif kind in LOBES:
            text, side = self.engine.on_flank(kind, -1 if place == "before" else 1, float(entry["drop"]), True)
            self.pairs += 0.5
        elif kind.startswith("peak-"):
            text, side = f"{self.engine.greatest(kind.removeprefix('peak-')):.2f}", None
        elif kind.startswith("base-"):
            text, side = f"{self.engine.base(kind.removeprefix('base-')):.2f}", None
        else:
            return False
        more = {"drop": entry.get("drop"), "approach": entry["approach"]}
        self.read(entry["station"], entry["slot"], text, side, **more)
        return True


def play(r: random.Random, method: str, fault: str = "", most_moves: int = 2) -> Played:
    """Degree one engine: the plan of the method, what the bench asks beyond it, and the positions it offers."""
    engine = Engine(r, fault)
    bench, told = Bench(engine, method), Played(method, fault)
    engine.strikes_at = r.randrange(0 if fault == "wheel-moved" else 1, bench.planned)
    told.uneven = any(abs(lobe.uneven) > 0.9 for lobe in engine.lobes.values())
    told.before = engine.error
    bench.stop()
    for position in range(most_moves + 1):
        bench.plan()
        found = _asked_for(bench, told)
        degree = found["stations"]["degree"]
        by_cam = found["by_cam"].get("both", {})
        told.verdicts.append(
            (degree["verdict"], engine.error, by_cam.get("error_deg", 0.0), by_cam.get("doubt_deg", 0.0))
        )
        assert (found["stations"]["adjust"]["verdict"] == "in") == (degree["verdict"] == "in")
        if position == (1 if fault == "cam-degrees" else 0):
            told.asked = [(each["code"], each["share"]) for each in degree["questions"]]
            told.named = [code for code, _ in told.asked]
            told.proved = degree["proved"]
        if position == 0:
            told.reachable = _reachable(bench)
        coming = found["next"]
        if coming is None or coming["entry"].get("kind") != "cam-moved" or position == most_moves:
            break
        best = next(offer for offer in found["offers"] if offer["moves"] == coming["entry"]["moves"])
        bench._append({name: value for name, value in coming["entry"].items() if name not in ("seq", "by", "at")})
        if best["live"] and fault != "cam-degrees":
            engine.set_by_dial(*(best["live"][name] for name in ("kind", "text", "side", "drop_mm")))
        else:
            engine.move(best["shift_deg"])
        told.moves += 1
        if told.after is None:
            told.after = engine.error
    told.keys, told.pairs = bench.keys, bench.pairs
    return told


def _asked_for(bench: Bench, told: Played) -> dict[str, Any]:
    found = bench.judged()
    for _ in range(MOST_MORE):
        coming = found["next"]
        if coming is None or coming["station"] not in ("tdc", "degree") or coming["entry"]["type"] != "reading":
            break
        if not bench.fill(coming["entry"]):
            break
        told.more += 1
        found = bench.judged()
    return found


def _reachable(bench: Bench) -> bool:
    """Whether some position of the drive would truly leave the cam within half a degree."""
    engine = bench.engine
    step, most = {"keys": (2.0, 12.0), "vernier": (3.0, 15.0), "slot": (0.5, 14.0)}[engine.steps]
    error = engine.error
    shift = max(-most, min(most, round(error / step) * step))
    return abs(error - shift) <= 0.5
