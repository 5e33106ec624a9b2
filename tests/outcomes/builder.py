"""A builder who does nothing but what the bench asks, at an engine whose truth is known, until nothing is asked any more."""

import random
import re
from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from uranograph.judging import judge
from uranograph.practice import forms
from uranograph.stations import ORDER
from uranograph.world import geometry, instruments, truth
from uranograph.world.acts import Act, Consequence, act
from uranograph.world.hands import Hand
from uranograph.world.made import made
from uranograph.world.state import World
from uranograph.world.truth import Truth

AT = "2026-03-02T08:00:00+00:00"
# So many entries at the most, and so often the same question.
MAX_ENTRIES, MAX_SAME = 600, 16
NUMBER = re.compile(r"\d+\.\d+")
# Of which jobs each station is.
WAYS = {station.key: station.workflows for station in ORDER.stations}
# Where the cam's key belongs, degrees clockwise from straight up.
CAM_KEY_DEG = 118.0
# A thrust face before it is sanded.
FACE_MM = 4.5
# Lash that is wanted, mm, intake and exhaust; how far off it may be; and feelers for it.
LASH_MM, LASH_WITHIN_MM = (0.25, 0.35), 0.03
LASH_BLADES_MM = tuple(0.05 + 0.01 * k for k in range(60))
# TDC is found within this, crank degrees.
TOP_DEG = 0.6
MATERIALS = {11.7e-6: "steel", 23e-6: "aluminum"}


def _lash_of(number: int) -> float:
    """Lash that is wanted at a valve by its number, mm."""
    return LASH_MM[0 if number % 2 else 1]


class NotThere(Exception):
    """The bench asked for something this engine has not got."""


@dataclass
class Carried:
    """What came of one engine."""

    seed: int
    workflow: str
    faults: tuple[str, ...]
    verdicts: dict[str, str] = field(default_factory=dict)
    truths: dict[str, str] = field(default_factory=dict)
    codes: dict[str, str] = field(default_factory=dict)
    stuck: str = ""
    absent: list[str] = field(default_factory=list)
    harm: tuple[str, ...] = ()
    readings: int = 0
    keys: int = 0
    led_to: str = ""
    by_station: dict[str, int] = field(default_factory=dict)
    failed: str = ""


class Builder:
    """A job file in the making, and the engine it is about."""

    def __init__(self, world: World, workflow: str, hand: Hand, faults: tuple[str, ...] = ()) -> None:
        self.world, self.workflow, self.hand, self.faults = world, workflow, hand, faults
        self.entries: list[dict[str, Any]] = []
        self.keys = 0
        self.r = random.Random(f"builder {world.seed}")
        self.absent: list[str] = []
        self.asked: Counter[str] = Counter()
        self.shims: dict[str, float] = {}
        self.begun: list[str] = []
        self.acts = 0
        self.led_to = ""
        self.marked = self.r.random() < 0.8
        # Where a dot is wrong, only a key can tell.
        self.keys_known = self.r.random() < 0.5 or world.parts.dot_off_teeth != 0
        # Parts that many engines have not got.
        self.lacking = {part for part in ("bearing", "ring", "plate") if self.r.random() < 0.3}
        self.faces: dict[str, dict[str, float]] = {}
        # Lash of each valve as it is set, mm, by its number; one whose lock nut turns it back the first time it is set.
        self.lashes: dict[int, float] = {}
        self.read_valves: set[int] = set()
        self.turns_back = self.r.randrange(2 * world.parts.cylinders) + 1 if "tight-valve" in faults else 0
        self._sheet("engine", {**forms.engine_form(self.world), "rocker_ratio": "1.5"})
        self._sheet("way", {"way": workflow})

    # The file ------------------------------------------------------------------------------------

    def _append(self, entry: dict[str, Any]) -> None:
        self.entries.append({**entry, "seq": len(self.entries) + 1, "by": "QZ", "at": AT})

    def _sheet(self, kind: str, typed: dict[str, str]) -> None:
        self.keys += sum(len(text) + 1 for text in typed.values())
        self._append({"type": "sheet", "kind": kind, "typed": {name: text for name, text in typed.items() if text}})

    def _reading(self, entry: dict[str, Any], text: str, second: str | None = None) -> None:
        self.keys += len(text) + 1 + len(second or "")
        more = {"drop": second} if second is not None else {}
        self._append({**entry, "text": text, **more})

    def _done(self, kind: str, **more: Any) -> None:
        self._append({"type": "act", "kind": kind, **more})

    @property
    def file(self) -> dict[str, Any]:
        return {
            "format": "uranograph-job",
            "version": 4,
            "title": "made up",
            "created_at": AT,
            "touched_at": AT,
            "entries": self.entries,
        }

    # The whole job -------------------------------------------------------------------------------

    def carry(self) -> Carried:
        """Do what is asked until nothing is."""
        found: dict[str, Any] = judge(self.file)
        stuck = ""
        while len(self.entries) < MAX_ENTRIES:
            asked = found["next"]
            if asked is None and not self._begin_what_follows():
                break
            if asked is None:
                found = judge(self.file)
                continue
            name = f"{asked['station']} {self._name(asked)}"
            before = len(self.entries)
            self.asked[name] += 1
            if self.asked[name] > MAX_SAME:
                stuck = (
                    f"{name} asked {MAX_SAME} times: {found['stations'][asked['station']]['code']}: {asked['words']}"
                )
                break
            try:
                self._answer(asked, found)
            except NotThere as absent:
                self.absent.append(f"{name}: {absent}")
                self._append({"type": "skip", "station": asked["station"], "reason": str(absent)})
            if len(self.entries) == before:
                stuck = f"{name}: nothing can be done: {asked['words']}"
                break
            found = judge(self.file)
        stations = found["stations"]
        return Carried(
            self.world.seed,
            self.workflow,
            self.faults,
            {key: each["verdict"] for key, each in stations.items()},
            {key: each for key, each in self.truths(stations).items() if self.workflow in WAYS[key]},
            {key: each["code"] for key, each in stations.items()},
            stuck,
            self.absent,
            self.world.state.harm,
            sum(entry["type"] == "reading" for entry in self.entries),
            self.keys,
            self.led_to,
            dict(Counter(entry["station"] for entry in self.entries if entry["type"] == "reading")),
        )

    def _begin_what_follows(self) -> bool:
        """Proving and closing are begun by hand: the next of them that this job has."""
        if "degree" not in WAYS or self.workflow not in WAYS["lock-up"]:
            return False
        for station in ("piston-valve", "turn-over", "valve-lash", "lock-up"):
            if station in self.begun or (station == "piston-valve" and not self.world.parts.rod_mm):
                continue
            self.begun.append(station)
            if station in ("piston-valve", "valve-lash"):
                self._sheet(station, getattr(self, f"_sheet_{station.replace('-', '_')}")())
            else:
                first = {"turn-over": ("turned.1.seen", "free"), "lock-up": ("stop-out.1.seen", "yes")}[station]
                entry = {"type": "reading", "station": station, "slot": first[0], "side": None, "approach": "forward"}
                self._reading({**entry, "drop": None, "unit": "mm", "instrument": "by eye"}, first[1])
            return True
        return False

    def _name(self, asked: dict[str, Any]) -> str:
        entry = asked.get("entry") or asked.get("act") or {}
        slot = entry.get("slot", "")
        return (
            f"{slot.split('.')[0]}.{slot.split('.')[-1]}@{entry.get('drop') or ''}"
            if slot
            else str(entry.get("kind", ""))
        )

    @property
    def accepted_cam(self) -> bool:
        """Whether the cam was accepted as it is."""
        return any(
            entry.get("slot", "").startswith("accepted") and entry["station"] == "degree"
            for entry in self.entries
            if entry["type"] == "reading"
        )

    def truths(self, stations: dict[str, Any]) -> dict[str, str]:
        """What each station ought to say in the end."""
        world, parts = self.world, self.world.parts
        plays = [truth.end_play(world, shaft) for shaft in parts.thrusts]
        worst = Truth.OUT if Truth.OUT in plays else Truth.NEAR if Truth.NEAR in plays else Truth.IN
        phase, keys = truth.phase(world).value, truth.marks(world).value
        return {
            "runout": self._measured_truth(stations["runout"], parts.seat.total_mm(world.state.runout_left)).value,
            "choice": truth.drive(world, "hydraulic" if parts.mesh.chain else "gears").value,
            "setting": worst.value,
            "by-eye": keys,
            "tdc": self._top_truth(stations["tdc"]).value,
            "adjust": phase,
            "piston-valve": truth.clearances(world, self.read_valves).value,
            "turn-over": "out" if self._meets() else "in",
            "valve-lash": truth.held(self._worst_lash(), None, LASH_WITHIN_MM, 0.003).value,
            # A cam that was accepted as it is, with a reason, is closed over: whether it stands right is for the degree line.
            "lock-up": Truth.NEAR.value if self.accepted_cam else phase,
            "end-play": worst.value,
            "lobe-room": truth.lobe_room(world).value,
            "backlash": truth.backlash(world).value if not parts.mesh.chain else "none",
            "sprocket": truth.sprockets(world).value if parts.mesh.chain else "none",
            "marks": keys,
            "gear-fit": "in" if world.state.gear_home else "out",
            "degree": phase,
        }

    def _top_truth(self, said: dict[str, Any]) -> Truth:
        """The zero that was found against the wheel's own; what is left on the wheel is taken off by the bench."""
        if said["verdict"] != "in" or said["value"] is None:
            return Truth.NEAR
        return truth.held(abs(said["value"] - self.world.state.wheel.zero_deg), None, TOP_DEG, 0.1)

    def _measured_truth(self, said: dict[str, Any], true: float) -> Truth:
        """A figure that is measured and not judged: in where it is the truth within its own uncertainty."""
        if said["value"] is None:
            return Truth.NEAR
        return truth.held(abs(said["value"] - true), None, 1.5 * (said["doubt"] or 0.0) + 0.004, 0.002)

    def _turned_over(self) -> tuple[Consequence, ...]:
        """Turn the engine over by hand, two turns."""
        at = self.world.but(lag_deg=0.0, stop_depth_mm=None, taken_off=frozenset())
        came: tuple[Consequence, ...] = ()
        for _ in range(4):
            at, more = act(at, Act("turn", by=180))
            came += more
        return came

    def _meets(self) -> bool:
        return Consequence.STOPPED_BY_VALVE in self._turned_over()

    def _worst_lash(self) -> float:
        return max((abs(is_ - _lash_of(number)) for number, is_ in self.lashes.items()), default=0.0)

    def _answer(self, asked: dict[str, Any], found: dict[str, Any]) -> None:
        entry = asked.get("entry")
        if entry is not None and entry["type"] == "act":
            for move in entry["moves"]:
                late = self.world.state.late_deg - move["shift_deg"]
                self.world = self.world.but(late_deg=late + self.hand.r.gauss(0, 0.05))
            if any(each["kind"] == "wheel-refitted" for each in asked["entries"]):
                self.world, _ = act(self.world, Act("off", "crank-gear"))
                self.world, _ = act(self.world, Act("on", "crank-gear"))
            self.asked.clear()
            for each in asked["entries"]:
                self._append({k: v for k, v in each.items() if k not in ("seq", "by", "at")})
            return
        if entry is None:
            self._put_right(asked["act"]["kind"], asked["station"])
            self.asked.clear()
            self.acts += 1
            if self.acts > MAX_SAME:
                return
            self._append({k: v for k, v in asked["act"].items() if k not in ("seq", "by", "at")})
            return
        if entry["type"] == "sheet":
            kind = entry["kind"]
            self._sheet(kind, getattr(self, f"_sheet_{kind.replace('-', '_')}")())
            return
        if entry["slot"].startswith("accepted"):
            self._reading({**entry, "note": "as it is"}, entry["text"])
            return
        if "." not in entry["slot"]:
            # What is found settles it: the answer stands in the entry.
            self._reading(entry, entry["text"])
            return
        kind, _, place = entry["slot"].split(".")
        getattr(self, f"_at_{asked['station'].replace('-', '_')}")(entry, kind, place, asked, found)

    def _put_right(self, kind: str, station: str) -> None:
        """Do to the engine what the bench wants done."""
        line = self.world.parts.sprockets
        done = {
            "shaft-trued": Act("true-shaft"),
            "cam-refitted": Act("clear-lobes", by=2.2),
            "gear-exchanged": Act("exchange-gear"),
            "gear-turned": Act("teeth", by=-self.world.state.teeth_off),
            "parts-fitted": Act("relieve-pistons", by=4.0),
            "sprocket-shimmed": Act("shim-sprocket", by=line.driver_mm - line.driven_mm),
        }
        if kind == "shims-changed":
            # Another spacer, washer or pack: the play is in the middle of what is allowed.
            for shaft, thrust in self.world.parts.thrusts.items():
                if truth.end_play(self.world, shaft) is not Truth.IN:
                    play = self.world.state.plays_mm.get(shaft, thrust.play_mm)
                    by = (thrust.least_mm + thrust.most_mm) / 2 - play
                    self.world, _ = act(self.world, Act("shim", shaft, by))
            return
        self.world, _ = act(self.world, done[kind])

    # Forms ---------------------------------------------------------------------------------------

    def _sheet_runout(self) -> dict[str, str]:
        return {"where": "gear's seat", "places": "8", "dial_division": "0.01", "unit": "mm"}

    def _sheet_end_play(self) -> dict[str, str]:
        typed = {"unit": "mm", "dial_division": "0.01"}
        for shaft, thrust in self.world.parts.thrusts.items():
            typed |= {f"{shaft}_min": f"{thrust.least_mm}", f"{shaft}_max": f"{thrust.most_mm}", f"{shaft}_way": "dial"}
        return typed

    def _sheet_setting(self) -> dict[str, str]:
        typed = {"unit": "mm"}
        for shaft, thrust in self.world.parts.thrusts.items():
            way = {"shims": "shims", "spacer": "spacer", "faces": "cheeks"}[thrust.way]
            if truth.end_play(self.world, shaft) is Truth.IN:
                way = "left"
            typed |= {f"{shaft}_way": way}
            if way == "shims":
                typed |= {f"{shaft}_stock": " ".join(f"{each:g}" for each in thrust.stock_mm), f"{shaft}_adds": "more"}
        return typed

    def _sheet_backlash(self) -> dict[str, str]:
        return dict(forms.backlash_form(self.world))

    def _sheet_train(self) -> dict[str, str]:
        mesh = self.world.parts.mesh
        typed = {"g1_name": "crank", "g1_teeth": str(mesh.crank_teeth), "g1_role": "crank", "g1_held": "key"}
        how = "chain" if mesh.chain else "mesh"
        last = {"name": "cam", "teeth": str(mesh.cam_teeth), "role": "cam", "on": "1", "how": how, "held": "key"}
        marks = {"mark": "tooth", "there": "tooth" if mesh.chain else "space"} if self.marked else {}
        number = 2
        if mesh.idler_teeth:
            idler = {"name": "idler", "teeth": str(mesh.idler_teeth), "on": "1", "how": "mesh", **marks}
            typed |= {f"g2_{name}": text for name, text in idler.items()}
            number, last["on"] = 3, "2"
        if self.keys_known:
            typed |= {"crank_key": "0", "cam_key": f"{CAM_KEY_DEG:g}"}
        return typed | {f"g{number}_{name}": text for name, text in (last | marks).items()}

    def _sheet_by_eye(self) -> dict[str, str]:
        typed = {"m1_on": "cam gear", "m1_kind": "dot", "m1_meets": "mark", "m1_other": "crank gear"}
        if self.keys_known:
            typed |= {"m2_on": "cam gear", "m2_kind": "keyway", "m2_meets": "still", "m2_other": "case"}
        return typed

    def _sheet_card(self) -> dict[str, str]:
        return {name: f"{value:g}" for name, value in self.world.parts.card.items()} | {"unit": "mm"}

    # Stations ------------------------------------------------------------------------------------

    def _at_runout(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        deg = float(entry["drop"] or 0)
        seen = self.world.parts.seat.at(deg, self.world.state.runout_left) + self.hand.scatter(0.002)
        self._reading(entry, f"{round(seen / 0.005) * 0.005:.3f}")

    def _at_choice(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        if kind == "chosen":
            self._reading(entry, "hydraulic" if self.world.parts.mesh.chain else "gears")
        else:
            self._reading(entry, "yes")

    def _at_end_play(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        if place == "seen":
            self._reading(entry, self._of(asked, ("all",)))
            return
        thrust = self.world.parts.thrusts[kind]
        play = self.world.state.plays_mm.get(kind, thrust.play_mm)
        self._reading(entry, f"{instruments.pushed(play, self.hand):.2f}")

    def _at_setting(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        what, shaft = kind.split("-")
        thrust = self.world.parts.thrusts[shaft]
        if what == "shims":
            # The pack that the bench names; the play grows by what goes in.
            words = asked["words"]
            pack = [float(each) for each in NUMBER.findall(words)] or [0.0]
            was = self.shims.get(shaft, 0.0)
            self.world, _ = act(self.world, Act("shim", shaft, sum(pack) - was))
            self.shims[shaft] = sum(pack)
            self._reading(entry, " ".join(f"{each:g}" for each in pack))
        elif what in ("spacer", "plate"):
            play = self.world.state.plays_mm.get(shaft, thrust.play_mm)
            true = thrust.plate_mm + (play if what == "spacer" else 0.0)
            self._reading(entry, f"{instruments.depth(true, self.hand):.2f}")
        else:
            self._sand(entry, shaft, place, asked)

    def _sand(self, entry: dict[str, Any], shaft: str, side: str, asked: Any) -> None:
        """Measure a face; take off what is asked, in passes, and measure again."""
        faces = self.faces.setdefault(shaft, {"front": FACE_MM, "rear": FACE_MM})
        number = int(entry["slot"].split(".")[1])
        if number > 1:
            left = [float(each) for each in NUMBER.findall(asked["words"])]
            by = min(0.02, max(0.0, left[0])) if left else 0.0
            faces[side] -= by
            self.world, _ = act(self.world, Act("sand", shaft, by))
        self._reading(entry, f"{faces[side]:.3f}")

    def _at_backlash(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        mesh = self.world.parts.mesh
        if mesh.chain:
            raise NotThere("a chain: no teeth to rock")
        travel = mesh.backlash_at(float(entry["drop"] or 0))
        self._reading(entry, f"{instruments.pushed(travel, self.hand):.2f}")

    def _at_lobe_room(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        valve = self.world.parts.valves[int(kind.removeprefix("lobe-")) - 1]
        self._reading(entry, f"{instruments.depth(valve.room_mm, self.hand):.2f}")

    def _at_sprocket(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        mesh, line = self.world.parts.mesh, self.world.parts.sprockets
        if not mesh.chain:
            raise NotThere("gears: no sprockets to line up")
        self._reading(
            entry, f"{instruments.depth(line.driver_mm if kind == 'driver' else line.driven_mm, self.hand):.2f}"
        )

    def _sheet_gear_fit(self) -> dict[str, str]:
        fit = self.world.parts.fit
        typed = {"unit": "mm", "torque_unit": "N m", "held": "key" if fit.keyed else ""}
        if fit.bolts:
            typed |= {"bolts": str(fit.bolts), "stages": "; ".join(f"{each:g}" for each in fit.stages)}
        if fit.interference_mm:
            typed |= {
                "bore": f"{fit.bore_mm:g}",
                "interference": f"{fit.interference_mm:g}",
                "slip": f"{fit.slip_mm:g}",
            }
            typed |= {"limit_c": f"{fit.limit_c:g}"}
        return typed

    def _at_gear_fit(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        fit = self.world.parts.fit
        if place == "measured":
            if not fit.interference_mm:
                raise NotThere("a gear that slides on cold")
            # As hot as it takes, and a little more for the way; never past what it bears.
            to = min(fit.limit_c, 20 + fit.needed_c * 1.12)
            self.world, _ = act(self.world, Act("heat", by=to))
            self.world, _ = act(self.world, Act("wait", by=8))
            self.world, _ = act(self.world, Act("fit-gear"))
            self._reading(entry, f"{instruments.thermometer(self.world.gear_now_c, self.hand):g}")
            return
        if place == "pulled":
            if not fit.bolts:
                raise NotThere("no bolts")
            stage, bolt = (int(each) for each in kind.removeprefix("torque-").split("-"))
            if stage == len(fit.stages):
                self.world, _ = act(self.world, Act("torque", str(bolt)))
            self._reading(entry, f"{fit.stages[stage - 1]:g}")
            return
        part = kind.removeprefix("crank-")
        if part in ("rehearsed", "paint") and not fit.interference_mm:
            raise NotThere("a gear that slides on cold")
        if part in ("key", "keytried") and not fit.keyed:
            raise NotThere("no key")
        absent = part in self.lacking or (part == "pattern" and not fit.bolts)
        self._reading(entry, "na" if absent and "na" in asked["options"] else "yes")

    def _at_by_eye(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        off = self.world.state.teeth_off + (self.world.parts.dot_off_teeth if kind == "look-1" else 0)
        if kind.startswith("look"):
            seen = instruments.mark_seen(off, self.hand)
            self._reading(
                entry, self._of(asked, {"on": ("on", "yes"), "late": ("late", "no"), "early": ("early", "no")}[seen])
            )
            return
        wanted = {
            "crank-at": ("firing", "top"),
            "lifters": ("down",),
            "turned": ("smooth",),
            "back": ("yes", "as-said"),
            "overlap": ("both-up", "level", "yes"),
            "firing": ("down", "yes"),
        }.get(kind, ("yes", "na"))
        self._reading(entry, self._of(asked, wanted))

    def _of(self, asked: dict[str, Any], wanted: tuple[str, ...]) -> str:
        """The first of some answers that is offered."""
        found = next((each for each in wanted if each in asked["options"]), None)
        if found is None:
            raise LookupError(
                f"{asked['station']} {asked['entry']['slot']}: {wanted} of {asked['options']}: {asked['words']}"
            )
        return found

    def _at_marks(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        state, mesh = self.world.state, self.world.parts.mesh
        if place == "level":
            off = state.teeth_off * 360 / mesh.cam_teeth if kind.endswith("cam") else 0.0
            stated = CAM_KEY_DEG if kind.endswith("cam") else 0.0
            self._reading(entry, f"{instruments.level(stated - off, self.hand):g}")
        elif kind == "split":
            lobe, _, on = place.partition("-")
            at = self.world.but(crank_deg=720.0 + (10.0 if on else 0.0), lag_deg=0.0)
            self._reading(entry, f"{max(0.0, at.lift_mm(lobe) + self.hand.scatter(0.003)):.2f}")
        elif kind.startswith("mesh"):
            off = state.teeth_off + self.world.parts.dot_off_teeth
            seen = instruments.mark_seen(off, self.hand)
            self._reading(entry, self._of(asked, {"on": ("on",), "late": ("late",), "early": ("early",)}[seen]))
        else:
            wanted = {"crank-at": ("firing", "top"), "turned": ("smooth",), "back": ("as-said", "yes")}
            if kind.startswith("proof"):
                self._reading(entry, self._of(asked, ("yes", "right", "on")))
            else:
                self._reading(entry, self._of(asked, wanted.get(kind, ("yes", "on", "na"))))

    # Degreeing and what follows ------------------------------------------------------------------

    def _sheet_wheel(self) -> dict[str, str]:
        wheel, again = self.world.state.wheel, any(each.get("kind") == "wheel" for each in self.entries)
        rises = "clockwise" if self.world.parts.rotation == "counterclockwise" else "counterclockwise"
        if wheel.mirrored and again:
            # Looked at again, because it was asked about.
            rises = "clockwise" if rises == "counterclockwise" else "counterclockwise"
        return {
            "scale": wheel.scale,
            "mount": "front",
            "numbers_rise": rises,
            "division": f"{wheel.division_deg:g}",
            "dial_division": "0.01",
            "unit": "mm",
            "all_along": "yes" if again else "",
        }

    def _sheet_drive(self) -> dict[str, str]:
        adjuster = self.world.parts.adjuster
        if adjuster.kind == "slot":
            return {"a1_kind": "slot", "a1_name": "slot", "a1_range": "12", "a1_step": "1", "a1_marks": "crank"}
        options = ", ".join(f"{label}: {shift:g}" for label, shift in adjuster.positions.items())
        return {"a1_kind": "choices", "a1_name": "keyway", "a1_options": options, "a1_fitted": "0", "a1_where": "crank"}

    def _sheet_piston_valve(self) -> dict[str, str]:
        angle = f"{self.world.parts.valves[0].angle_deg:g}"
        return {"intake_angle": angle, "exhaust_angle": angle, "unit": "mm"}

    def _sheet_valve_lash(self) -> dict[str, str]:
        return {"intake_lash": "0.25", "exhaust_lash": "0.35", "temperature": "cold", "rim": "165", "unit": "mm"}

    def _shown(self) -> tuple[str, str | None]:
        """The wheel as it stands now: figure and side."""
        wheel = self.world.state.wheel
        shown = (instruments.wheel(self.world, self.hand) + 180) % 360 - 180
        if wheel.scale == "full":
            # Numbers that rise against the turning as one faces them show degrees after TDC as they come.
            return f"{shown % 360:g}", None
        if wheel.scale == "half" or abs(shown) <= 90:
            return f"{abs(shown):g}", "btdc" if shown < 0 else "atdc"
        return (f"{180 - shown:g}", "bbdc") if shown > 0 else (f"{180 + shown:g}", "abdc")

    def _read_wheel(self, entry: dict[str, Any]) -> None:
        text, side = self._shown()
        self._reading({**entry, "side": side}, text)

    def _at_tdc(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        depth = float(entry["drop"] or 6) if kind == "drop" else 8.0
        half = geometry.stop_half_deg(self.world.but(stop_depth_mm=depth)) or 0.0
        at = 720.0 + (-half if place == "before" else half) + self.hand.scatter(instruments.CONTACT_DEG)
        self.world = self.world.but(crank_deg=at, lag_deg=0.0)
        self._read_wheel(entry)

    def _turn_forward(self, to_deg: float) -> None:
        """Come up to an angle turning forward, from well behind."""
        self.world = self.world.but(crank_deg=to_deg - 20, lag_deg=0.0, stop_depth_mm=None)
        self.world, _ = act(self.world, Act("turn", by=20 + self.hand.overshoots()))

    def _late(self) -> float:
        return self.world.state.crank_deg - self.world.cam_deg

    def _at_degree(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        lobes, hydraulic = self.world.parts.lobes, self.world.parts.bleed_mm if self.world.parts.hydraulic else 0.0
        self.world = self.world.but(lag_deg=0.0)
        needle = self.hand.scatter(0.002)
        if kind in ("io", "ic", "eo", "ec"):
            lobe, side = lobes["intake" if kind[0] == "i" else "exhaust"], -1 if kind[1] == "o" else 1
            lift = lobe.check_lift_mm + needle + hydraulic
            self._turn_forward(720 + lobe.crossing_deg(lift, side) + self._late())
            self._read_wheel(entry)
        elif place in ("before", "after"):
            lobe, side = lobes[kind], -1 if place == "before" else 1
            drop = float(entry["drop"] or 1)
            self._turn_forward(720 + lobe.crossing_deg(lobe.lift_mm - drop + needle, side) + self._late())
            self._read_wheel(entry)
        elif kind.startswith("peak"):
            self._reading(entry, f"{lobes[kind.removeprefix('peak-')].lift_mm - hydraulic + needle:.2f}")
        elif kind.startswith("base"):
            self._reading(entry, f"{abs(needle):.2f}")
        elif place == "answer":
            state, parts = self.world.state, self.world.parts
            true = {
                "tooth-off": state.teeth_off != 0,
                "gear-slipped-before": abs(state.gear_slipped_deg) > 0.5,
                "wheel-end": state.wheel.mirrored,
                "numbers-rise": state.wheel.mirrored,
                "cam-degrees": parts.adjuster.cam_degrees,
                "uneven-lobe": abs(lobes["intake"].uneven_deg) > 1,
                "bleeding-lifter": parts.hydraulic and not state.solid_tappets,
            }.get(kind.removeprefix("asked-"), False)
            self._reading(entry, self._of(asked, ("yes",) if true else ("no",)))
        else:
            raise LookupError(f"{entry['slot']}: {asked['words']}")

    def _at_piston_valve(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        if kind.startswith("drop"):
            number = int(kind.removeprefix("drop-")) - 1
            valve = self.world.parts.valves[number]
            self.read_valves.add(number)
            self._reading(entry, f"{instruments.pushed(valve.gap_mm, self.hand):.2f}")
        else:
            raise LookupError(f"{entry['slot']}: {asked['words']}")

    def _at_turn_over(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        self._reading(entry, self._of(asked, ("stops", "rough", "no") if self._meets() else ("free", "yes")))

    def _at_valve_lash(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        number = int(kind.split("-")[1])
        slips = number == self.turns_back and number not in self.lashes
        self.lashes[number] = _lash_of(number) + self.hand.scatter(0.006) - (0.12 if slips else 0.0)
        found = instruments.feelers(self.lashes[number], LASH_BLADES_MM)
        self._reading(entry, f"{found.goes_mm or 0.0:.2f}", f"{found.not_mm or 0.0:.2f}")

    def _sheet_complaint(self) -> dict[str, str]:
        mesh, state = self.world.parts.mesh, self.world.state
        off = state.gear_slipped_deg + state.teeth_off * mesh.tooth_deg
        drive = "chain" if mesh.chain else "gears"
        typed = {
            "complaint": "runs badly since it was apart",
            "crank_teeth": str(mesh.crank_teeth),
            "drive_kind": drive,
        }
        if self.r.random() < 0.7:
            typed |= {"by_what": "scan", "offset": f"{off + self.hand.scatter(0.4):.1f}"}
        return typed | {"held": "pressed" if state.gear_slipped_deg else "key"}

    def _at_wrong(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        state = self.world.state
        jumped, slipped = state.teeth_off != 0, abs(state.gear_slipped_deg) > 0.5
        if kind == "again":
            off = state.gear_slipped_deg + state.teeth_off * self.world.parts.mesh.tooth_deg
            self._reading(entry, f"{off + self.hand.scatter(0.15):.1f}")
            return
        if kind == "found":
            self.led_to = found["stations"]["wrong"]["rows"][0]["label"]
            self._reading(entry, "tooth" if jumped else "slipped" if slipped else "sensor")
            return
        whole = "whole" if jumped else "part" if slipped else "on"
        answers = {"pair": "off" if jumped else "on", "marks": whole, "witness": "no" if slipped else "na"}
        answers |= {"slack": "no", "cured": "off" if jumped or slipped else "on"}
        self._reading(entry, self._of(asked, (answers.get(kind, "yes"), "yes")))

    def _at_lock_up(self, entry: dict[str, Any], kind: str, place: str, asked: Any, found: Any) -> None:
        self._reading(entry, self._of(asked, ("yes", "torque", "torqued", "na")))


def carried(seed: int, workflow: str, faults: tuple[str, ...] = (), **how: Any) -> Carried:
    """Carry one engine through."""
    world = made(seed, faults, **how)
    return Builder(world, workflow, Hand(seed), faults).carry()


__all__ = ("Act", "Builder", "Carried", "Hand", "act", "carried", "made")
