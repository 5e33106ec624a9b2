"""How a made-up engine stands at one moment."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from uranograph.world.parts import Parts

AMBIENT_C = 20.0


@dataclass(frozen=True)
class WheelMount:
    """A degree wheel on the crank nose: what it shows at true TDC, its scale, the sense in which its numbers rise."""

    zero_deg: float = 0.0
    scale: str = "half"
    mirrored: bool = False
    division_deg: float = 1.0
    off_center_deg: float = 0.1
    high_deg: float = 0.0


@dataclass(frozen=True)
class DialMount:
    """A dial indicator: on what it stands, what it shows as its zero, and how far it leans from the line of travel."""

    on: str = ""
    zero_mm: float = 0.0
    lean: float = 1.0
    division_mm: float = 0.01


@dataclass(frozen=True)
class State:
    """What changes.

    Parameters
    ----------
    crank_deg
        Crank angle from true overlap TDC of cylinder 1, unwrapped, forward positive.
    lag_deg
        How far the cam stands ahead of a crank that was turned back: 0 while the crank pulls forward, up to the slack.
    late_deg
        How late the cam stands in its drive, crank degrees.
    taken_off, pinned
        Names of parts.
    torqued
        How often each bolt was pulled to its last stage; `stretched` whether past what it bears.
    lever
        What is pushed or rocked by hand: 0 fully back, 1 fully forward.
    gear_c, heated_s
        Temperature that the gear was heated to, and when; `now_s` is the time now.
    """

    crank_deg: float = 720.0
    lag_deg: float = 0.0
    late_deg: float = 0.0
    wheel: WheelMount = WheelMount()
    dial: DialMount = DialMount()
    stop_depth_mm: float | None = None
    taken_off: frozenset[str] = frozenset()
    pinned: frozenset[str] = frozenset()
    plays_mm: Mapping[str, float] = field(default_factory=dict)
    faces_mm: Mapping[str, float] = field(default_factory=dict)
    runout_left: float = 1.0
    shims_mm: float = 0.0
    position: str = "0"
    gear_on: bool = True
    gear_home: bool = True
    gear_slipped_deg: float = 0.0
    key_in: bool = True
    teeth_off: int = 0
    torqued: tuple[int, ...] = ()
    stretched: bool = False
    solid_tappets: bool = False
    lever: float = 0.0
    gear_c: float = AMBIENT_C
    heated_s: float = 0.0
    now_s: float = 0.0
    harm: tuple[str, ...] = ()


@dataclass(frozen=True)
class World:
    """An engine and how it stands."""

    parts: Parts
    state: State
    seed: int = 0

    def but(self, **changes: object) -> "World":
        """The same with something of its state changed."""
        return replace(self, state=replace(self.state, **changes))  # type: ignore[arg-type]

    def harmed(self, what: str) -> "World":
        """The same with harm done to it: told at the end, never undone."""
        return self.but(harm=(*self.state.harm, what))

    @property
    def cam_deg(self) -> float:
        """Where the cam stands, as the crank angle at which it would stand there on its card, about overlap TDC."""
        state = self.state
        slipped = state.gear_slipped_deg + state.teeth_off * self.parts.mesh.tooth_deg
        return state.crank_deg + state.lag_deg - state.late_deg - slipped

    def lift_mm(self, lobe: str, cylinder: int | None = None) -> float:
        """Lift of a lobe of a cylinder, the first of the order unless given, mm."""
        order = self.parts.order
        after = order.index(cylinder) * self.parts.firing_deg if cylinder else 0.0
        left = self.parts.worn.get(f"{cylinder or order[0]} {lobe}", 1.0)
        lift = left * self.parts.lobes[lobe].lift(self.cam_deg - after)
        bleeds = self.parts.hydraulic and not self.state.solid_tappets
        return max(0.0, lift - self.parts.bleed_mm) if bleeds else lift

    @property
    def gear_now_c(self) -> float:
        """The gear's temperature now: it cools as it is carried, half of what it is over the room in four minutes."""
        state = self.state
        return AMBIENT_C + (state.gear_c - AMBIENT_C) * math.exp2((state.heated_s - state.now_s) / 240)
