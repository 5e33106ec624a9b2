"""One made-up engine with its hand and its fault: what would be read, written without a line of the judgment's own."""

import math
import random
from dataclasses import dataclass, field, replace

LOBES = ("intake", "exhaust")
EVENT = {"io": ("intake", -1), "ic": ("intake", 1), "eo": ("exhaust", -1), "ec": ("exhaust", 1)}
FAULTS = (
    "wheel-end",
    "numbers-rise",
    "set-backward",
    "one-backward",
    "indicator-askew",
    "wrong-lobe",
    "other-cylinder",
    "tooth-off",
    "bleeding-lifter",
    "lash-wrong",
    "wrong-checking-lift",
    "typing-slip",
    "wrong-side",
    "gear-slipping",
    "card-misprint",
    "wheel-moved",
    "lobes-apart",
    "uneven-lobe",
    "cam-degrees",
    "firing-top",
)
# Two at once, and how they are written.
TOGETHER = " and "
PAIRS = (
    "wheel-moved and lash-wrong",
    "typing-slip and bleeding-lifter",
    "one-backward and indicator-askew",
    "gear-slipping and card-misprint",
)
# What lobes of the second bank are called, where each bank has a cam of its own.
BANK2 = "bank2-"
FIRING = {4: ("1-3-4-2", 180.0), 6: ("1-5-3-6-2-4", 120.0), 8: ("1-8-4-3-6-5-7-2", 90.0)}


@dataclass(frozen=True)
class Condition:
    """What kind of engine, card and hand: drawn at random but for what is said here.

    Parameters
    ----------
    hand
        Times the usual noise of eye and needle.
    eccentric
        Whether the wheel's marks are off center by 0.2 to 0.5.
    backward
        How many readings of the lobes come backward, and nobody says so.
    springs, tappets
        Which are on while checking, as the engine's form has them; `unsaid` where it does not.
    bleed_mm
        How far hydraulic tappets bleed down, at the least and at the most.
    card
        `events`, `peak-beside` (events and a centerline of the peak), `durations` (with separation and advance, of peaks or events,
        not said which), `peaks` or `middles` (the same, said), `intake` (its centerline and duration alone).
    cams
        `one`, `two` (each with its adjuster), `shared` (two, one key at the crank moves both), `banks` (one on each of two banks,
        each with its adjuster).
    steps
        `keys`, `coarse` (4 deg), `vernier`, `slot`, or drawn.
    by_dial
        Whether a slot is set by the dial where the bench offers that.
    alike
        Whether lobes are ground uneven, both alike.
    basis
        Which lobes decide.
    """

    name: str = "usual"
    hand: float = 1.0
    eccentric: bool = False
    backward: float = 0.0
    springs: str = ""
    tappets: str = ""
    bleed_mm: tuple[float, float] = (0.0, 0.0)
    card: str = "events"
    cams: str = "one"
    steps: str = ""
    by_dial: bool = True
    alike: bool = False
    basis: str = "both"

    @property
    def faulty(self) -> bool:
        """Whether something is wrong with the set-up that the bench should ask about."""
        return bool(self.backward) or self.bleed_mm[1] > 0


USUAL = Condition()
CONDITIONS = (
    USUAL,
    Condition("half the noise", hand=0.5),
    Condition("twice the noise", hand=2.0),
    Condition("wheel off center", eccentric=True),
    Condition("a quarter backward, unsaid", backward=0.25),
    Condition("real springs, said", springs="real"),
    Condition("light springs, said", springs="light"),
    Condition("hydraulic, said, bleeding", tappets="hydraulic", bleed_mm=(0.05, 0.6)),
    Condition("hydraulic, unsaid, bleeding", bleed_mm=(0.1, 0.6)),
    Condition("solid, no springs, said", springs="none", tappets="solid"),
    Condition("uneven alike", alike=True),
    Condition("two cams", cams="two"),
    Condition("two cams, one key", cams="shared"),
    Condition("a cam on each bank", cams="banks"),
    Condition("slot by its marks", steps="slot", by_dial=False),
    Condition("coarse steps", steps="coarse"),
    Condition("card: peak beside events", card="peak-beside", alike=True),
    Condition("card: durations, unsaid", card="durations"),
    Condition("card: durations, of peaks", card="peaks"),
    Condition("card: durations, of events", card="middles"),
    Condition("by the intake alone", basis="intake"),
    Condition("card: intake alone", card="intake", basis="intake"),
)


def plain(lobe: str) -> str:
    """A lobe by its name within its bank."""
    return lobe.removeprefix(BANK2)


def moved(cam: str) -> tuple[str, ...]:
    """The lobes of a cam."""
    bank = BANK2 if cam.startswith(BANK2) else ""
    own = cam.rpartition("-")[2]
    return tuple(bank + lobe for lobe in (LOBES if own == "both" else (own,)))


@dataclass
class Lobe:
    """A lobe as it is ground: middle of its events about overlap TDC, half duration at the checking lift, lift, shape."""

    middle: float
    half: float
    lift: float
    power: float
    uneven: float
    check: float

    def half_width(self, lift: float) -> float:
        """Half its width at a lift, crank degrees."""
        at = max(1e-6, min(1.0, lift / self.lift))
        whole = self.half / math.acos((self.check / self.lift) ** (1 / self.power))
        return whole * math.acos(at ** (1 / self.power))

    def crossing(self, lift: float, side: int) -> float:
        """Where it passes a lift, on the way up or down."""
        wide = self.half_width(lift)
        return self.middle + side * wide + self.uneven * (1 - wide / self.half)


@dataclass
class Engine:
    """Everything that is so, and what the hand does about it."""

    r: random.Random
    fault: str = ""
    of: Condition = USUAL
    lobes: dict[str, Lobe] = field(default_factory=dict)
    card: dict[str, float] = field(default_factory=dict)
    zero: float = 0.0
    moved: float = 0.0
    taken: int = 0

    def __post_init__(self) -> None:
        r = self.r
        self.cylinders = r.choice((4, 4, 6, 8))
        self.order, self.firing = FIRING[self.cylinders]
        self.teeth = r.choice((18, 20, 21, 22, 24))
        self.division = r.choice((1.0, 1.0, 0.5))
        self.scale = r.choice(("half", "quarter", "full"))
        if self.has("numbers-rise"):
            self.scale = "full"
        self.rises, self.rotation, self.mount = r.choice(("clockwise", "counterclockwise")), "clockwise", "front"
        self.check = 1.0 if r.random() < 0.5 else 1.27
        duration = {lobe: round(r.uniform(205, 255)) for lobe in LOBES}
        middle = {"intake": round(r.uniform(102, 114)), "exhaust": -round(r.uniform(104, 118))}
        if self.has("tooth-off"):
            self.late = r.choice((-1, 1)) * 360 / self.teeth + r.gauss(0, 0.8)
        elif self.has("cam-degrees"):
            self.late = r.choice((-1, 1)) * r.uniform(3, 10)
        else:
            self.late = r.uniform(-12, 12) if r.random() < 0.6 else r.gauss(0, 0.7)
        lift = round(r.uniform(7.5, 11.5), 2)
        grinds = self._grinds()
        self.size = 2 ** r.uniform(-0.5, 2)
        for lobe in LOBES:
            top = round(lift + r.uniform(-0.4, 0.4), 2)
            uneven = grinds[lobe]
            if self.has("uneven-lobe"):
                uneven = r.choice((-1, 1)) * r.uniform(1.5, 3)
            apart = {"intake": 1, "exhaust": -1}[lobe] * 3.0 * self.size if self.has("lobes-apart") else 0.0
            own = 0.0 if self.of.cams in ("one", "banks") else r.uniform(-6, 6)
            self.lobes[lobe] = Lobe(
                middle[lobe] + self.late + own + r.gauss(0, 0.3) + apart,
                duration[lobe] / 2 + r.gauss(0, 0.25),
                top * (1 + r.gauss(0, 0.003)),
                r.uniform(1.5, 2.3),
                uneven,
                self.check,
            )
            self.card[f"{lobe}_max_lift"] = top
        opens = {
            "io": duration["intake"] / 2 - middle["intake"],
            "eo": duration["exhaust"] / 2 - middle["exhaust"] - 180,
        }
        self.card |= {
            "io_btdc_deg": opens["io"],
            "ic_abdc_deg": duration["intake"] - 180 - opens["io"],
            "eo_bbdc_deg": opens["eo"],
            "ec_atdc_deg": duration["exhaust"] - 180 - opens["eo"],
        }
        self.true_middle = {lobe: float(middle[lobe]) for lobe in LOBES}
        if self.has("card-misprint"):
            figure = r.choice(("io_btdc_deg", "ic_abdc_deg", "eo_bbdc_deg", "ec_atdc_deg"))
            self.card[figure] += r.choice((-1, 1)) * r.choice((3, 4, 5, 10))
        if self.of.cams == "banks":
            # Of the same grind, about the TDC of its own cylinder.
            apart = r.uniform(-6, 6)
            for lobe in LOBES:
                one = self.lobes[lobe]
                self.lobes[BANK2 + lobe] = replace(one, middle=one.middle + apart + r.gauss(0, 0.1))
        self.zero = r.uniform(-0.2, 0.2)
        self.slack = r.uniform(0.3, 3) if "backward" not in self.fault else r.uniform(0.8, 3)
        self.center, self.off_center = r.uniform(0, 360), 0.1 * math.sqrt(2)
        if self.of.eccentric:
            self.off_center = r.uniform(0.2, 0.5)
        self.friction = abs(r.gauss(0.1, 0.03))
        self.askew = 1 - r.uniform(0.02, 0.03) * self.size
        self.lash = r.uniform(0.1, 0.15) * self.size
        self.checked = r.choice((-1, 1)) * r.uniform(0.15, 0.25) * self.size
        self.bled = r.uniform(0.06, 0.1) * self.size if self.has("bleeding-lifter") else r.uniform(*self.of.bleed_mm)
        self.knock = r.choice((-1, 1)) * r.uniform(1.5, 2.5) * self.size
        self.slip = r.choice((-1, 1)) * r.choice((5, 9, 10, 20))
        self.sprung = min(self.slack, abs(r.gauss(0, 0.7))) * (-1 if r.random() < 0.85 else 1)
        if self.of.springs not in ("real", "light"):
            self.sprung = 0.0
        elif self.of.springs == "light":
            self.sprung *= 0.2
        self.strikes_at = 0
        self.steps = self.of.steps or r.choice(("keys", "vernier", "slot"))
        if self.of.cams == "shared":
            self.steps = "keys"
        # Whether the card's centerlines are of the peaks.
        self.of_peak = {"peaks": True, "peak-beside": True, "middles": False}.get(self.of.card, r.random() < 0.5)

    def _grinds(self) -> dict[str, float]:
        """How far each lobe's peak lies after the middle of its events: lobes of one cam are of a family."""
        r = self.r
        if self.of.alike:
            both = r.choice((-1, 1)) * r.uniform(1, 3)
            return {lobe: both + r.gauss(0, 0.3) for lobe in LOBES}
        if r.random() < 1 / 8:
            both = r.choice((-1, 1)) * r.uniform(1, 3)
            return {lobe: both + r.gauss(0, 0.5) for lobe in LOBES}
        even = r.gauss(0, 0.25)
        return {lobe: even + r.gauss(0, 0.15) for lobe in LOBES}

    def has(self, fault: str) -> bool:
        """Whether this is planted, alone or with another."""
        return fault in self.fault.split(TOGETHER)

    # What is so ----------------------------------------------------------------------------------

    @property
    def errors(self) -> dict[str, float]:
        """How late each cam truly is against a card without misprints, crank degrees: by its lobes' events."""
        late = {lobe: own.middle - self.true_middle[plain(lobe)] for lobe, own in self.lobes.items()}
        if self.of.cams == "banks":
            return {
                f"bank{n}-both": sum(late[bank + lobe] for lobe in LOBES) / 2 for n, bank in enumerate(("", BANK2), 1)
            }
        if self.of.cams != "one":
            return late
        if self.of.basis == "intake":
            return {"both": late["intake"]}
        return {"both": sum(late.values()) / 2}

    @property
    def error(self) -> float:
        """That of the cam that is the worst off."""
        return max(self.errors.values(), key=abs)

    def move(self, shift: float, cam: str = "both") -> None:
        """Advance a cam by what its adjuster truly gives."""
        if self.has("cam-degrees"):
            shift *= 2
        if shift:
            shift += self.r.gauss(0, 0.25 if self.steps == "slot" else 0.05)
        for lobe in moved(cam):
            self.lobes[lobe].middle -= shift

    def after(self, lobe: str) -> float:
        """How long after the first cylinder's TDC that of a lobe's own cylinder comes, crank degrees."""
        return self.firing if lobe.startswith(BANK2) else 0.0

    def remount(self) -> None:
        """Take the wheel off and put it on again: its zero is another."""
        self.zero, self.moved = self.r.uniform(-3, 3), 0.0

    def set_by_dial(self, kind: str, text: str, side: str | None, drop: float | None, cam: str = "both") -> None:
        """Hold the crank where the wheel shows a figure, turn the cam till the dial stands where it should on an opening flank."""
        lobe, flank = EVENT.get(kind, (kind, -1))
        lobe = BANK2 + lobe if cam.startswith(BANK2) else lobe
        own = self.lobes[lobe]
        lift = self._true_lift(own, flank, drop)
        held = self._true(float(text), side) + self.r.gauss(0, 0.1)
        off = (own.crossing(lift, flank) + self.after(lobe) + self.friction - held + 180) % 360 - 180
        for name in moved(cam):
            self.lobes[name].middle -= off

    def _true(self, figure: float, side: str | None) -> float:
        """The crank angle at which the wheel shows a figure, but for the eye."""
        if side is None:
            shown = figure if self.rises != self.rotation else -figure
        else:
            shown = {"btdc": -figure, "atdc": figure, "bbdc": 180 - figure, "abdc": figure - 180}[side]
        shown -= self.zero + self.moved
        return shown - self.off_center * math.sin(math.radians(shown + self.center))

    # What the hand reads -------------------------------------------------------------------------

    def strike(self, plan: int) -> None:
        """Say at which of so many readings of the lobes the fault strikes."""
        self.strikes_at = self.r.randrange(1, plan)

    def _eye(self) -> float:
        return self.r.gauss(0, (0.12 if self.division == 1 else 0.08) * self.of.hand)

    def _as_shown(self, true: float) -> tuple[str, str | None]:
        """Figure and side that a true crank angle shows, to a quarter of a degree, side as this hand has it."""
        shown = true + self.zero + self.moved + self.off_center * math.sin(math.radians(true + self.center))
        shown = round((shown + self._eye()) * 4) / 4
        if self.has("wheel-end") or self.has("numbers-rise"):
            shown = -shown
        return self.figure_of(shown)

    def figure_of(self, shown: float) -> tuple[str, str | None]:
        """Figure and side of what this wheel shows."""
        shown = (shown + 180) % 360 - 180
        if self.scale == "full":
            up = self.rises != self.rotation
            return f"{(shown if up else -shown) % 360:g}", None
        if self.scale == "half" or abs(shown) <= 90:
            return f"{abs(shown):g}", "btdc" if shown < 0 else "atdc"
        return (f"{180 - shown:g}", "bbdc") if shown > 0 else (f"{180 + shown:g}", "abdc")

    def stop(self, place: str) -> tuple[str, str | None]:
        """One contact of the stop."""
        return self._as_shown((-1 if place == "before" else 1) * 40.0 + self.r.gauss(0, 0.05))

    def _true_lift(self, lobe: Lobe, side: int, drop: float | None) -> float:
        """The lift at which the dial, as it is set up, stands at the checking lift, or a drop below the greatest."""
        needle = self.r.gauss(0, 0.2 * 0.01 * self.of.hand)
        askew = self.askew if self.has("indicator-askew") else 1.0
        lift = (self.check / askew if drop is None else lobe.lift - drop / askew) + needle
        if self.has("lash-wrong") and drop is None:
            lift += self.lash
        if self.has("wrong-checking-lift") and drop is None:
            lift += max(self.checked, 0.2 - self.check)
        if side > 0:
            lift += self.bled if drop is None else self.bled / 2
        return min(lift, 0.98 * lobe.lift)

    def on_flank(self, lobe: str, side: int, drop: float | None, again: bool) -> tuple[str, str | None]:
        """Where a lobe passes the checking lift, or a drop below its greatest; `again` is well done in any case."""
        strikes = self.taken == self.strikes_at
        struck = self.taken >= self.strikes_at
        self.taken += 1
        if self.has("wheel-moved") and struck and not self.moved:
            self.moved = self.knock
        if self.has("gear-slipping") and strikes:
            for each in self.lobes.values():
                each.middle += self.knock
        read = self._read(lobe)
        true = self.lobes[read]
        lift = self._true_lift(true, side, drop)
        at = true.crossing(lift, side) + self.after(lobe) + self.friction
        if side > 0:
            at += self.sprung
        if (self.has("set-backward") and not again) or self.r.random() < self.of.backward:
            at -= self.slack
        if self.has("one-backward") and strikes:
            at -= self.slack
        if self.has("other-cylinder"):
            at += self.firing
        if self.has("typing-slip") and strikes:
            at += self.slip
        figure = self._as_shown(at)
        if self.has("wrong-side") and strikes and figure[1] is not None:
            other = {"btdc": "atdc", "atdc": "btdc", "bbdc": "abdc", "abdc": "bbdc"}
            return figure[0], other[figure[1]]
        if self.has("wrong-side") and strikes:
            return f"{360 - float(figure[0]):g}", None
        return figure

    def lift_shown(self, lobe: str, shown: float) -> float:
        """What the dial shows where the wheel shows an angle, come up to forward; eye and needle as they are."""
        held = shown - self.zero - self.moved - self.off_center * math.sin(math.radians(shown + self.center))
        held += self._eye() - self.friction - self.after(lobe)
        if self.has("other-cylinder"):
            held -= self.firing
        if self.has("wheel-end"):
            held = -held
        own = self.lobes[self._read(lobe)]
        x = (held - own.middle + 360) % 720 - 360
        side = -1 if x < 0 else 1
        if side > 0:
            x -= self.sprung
        low, high = 0.0, own.lift
        for _ in range(36):
            middle = (low + high) / 2
            inside = (own.crossing(middle, side) - own.middle) * side > abs(x)
            low, high = (middle, high) if inside else (low, middle)
        lift = low * (self.askew if self.has("indicator-askew") else 1.0)
        if self.has("lash-wrong"):
            lift = max(0.0, lift - self.lash)
        lift -= self.bled * min(1.0, max(0.0, 0.5 + 0.5 * x / own.half))
        return lift + self.r.gauss(0, 0.2 * 0.01)

    def _read(self, lobe: str) -> str:
        """The lobe that the dial truly stands on."""
        return {"intake": "exhaust", "exhaust": "intake"}[lobe] if self.has("wrong-lobe") else lobe

    def greatest(self, lobe: str) -> float:
        """Greatest lift on the dial, mm."""
        lift = self.lobes[self._read(lobe)].lift
        lift *= self.askew if self.has("indicator-askew") else 1.0
        lift -= self.lash if self.has("lash-wrong") else 0.0
        return lift - self.bled / 2 + self.r.gauss(0, 0.004)

    def base(self, lobe: str) -> float:
        """The dial back on the base circle, mm."""
        return self.r.gauss(0, 0.008) - self.bled

    def at_overlap(self, lobe: str) -> float:
        """Lift at what is taken for overlap TDC, mm."""
        if self.has("firing-top"):
            return max(0.0, self.r.gauss(0, 0.004))
        own = self.lobes[lobe]
        low, high = 0.0, own.lift
        side = -1 if lobe == "intake" else 1
        for _ in range(40):
            middle = (low + high) / 2
            past = own.crossing(middle, side) * -side
            low, high = (middle, high) if past > 0 else (low, middle)
        return max(0.0, (low + high) / 2 + self.r.gauss(0, 0.004))
