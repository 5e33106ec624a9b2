"""What a made-up engine is made of."""

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

from uranograph.world.lobes import Lobe

TURN = 360


@dataclass(frozen=True)
class Shaft:
    """A seat on a shaft: eccentricity and out-of-round, each as a total indicated reading of its own, mm, with its high spot."""

    runout_mm: float
    high_deg: float = 0.0
    out_of_round_mm: float = 0.0
    oval_deg: float = 0.0

    def at(self, deg: float, left: float = 1.0) -> float:
        """What a dial on the seat shows, mm, about its mean; `left` is the share of its bend that truing left.

        Examples
        --------
        >>> round(Shaft(0.1, 90).at(90), 6), round(Shaft(0.1, 90).at(270), 6)
        (0.05, -0.05)
        """
        bent = left * self.runout_mm / 2 * math.cos(math.radians(deg - self.high_deg))
        return bent + self.out_of_round_mm / 2 * math.cos(2 * math.radians(deg - self.oval_deg))

    def total_mm(self, left: float = 1.0) -> float:
        """Its total indicated reading over the whole turn, mm."""
        found = [self.at(deg, left) for deg in range(TURN)]
        return max(found) - min(found)


@dataclass(frozen=True)
class Thrust:
    """What limits a shaft along its axis.

    Parameters
    ----------
    play_mm
        With the limiting parts on.
    float_mm
        Without them.
    least_mm, most_mm
        What is allowed.
    way
        `shims`, `spacer` (a ring against a plate), or `faces` (of a thrust washer, sanded).
    stock_mm
        Shims at hand.
    face_mm
        Thickness of each thrust face as it came.
    spare_mm
        What may be taken off the faces before the washer is spoiled.
    """

    play_mm: float
    float_mm: float
    least_mm: float
    most_mm: float
    way: str = "shims"
    stock_mm: tuple[float, ...] = ()
    plate_mm: float = 4.0
    spare_mm: float = 0.2
    face_mm: float = 4.5


@dataclass(frozen=True)
class Mesh:
    """The crank gear and the cam gear, in mesh or by a chain."""

    crank_teeth: int
    cam_teeth: int
    idler_teeth: int = 0
    chain: bool = False
    backlash_mm: float = 0.1
    least_mm: float = 0.05
    most_mm: float = 0.2
    pitch_radius_mm: float = 60.0
    pressure_deg: float = 20.0
    cam_gear: Shaft = Shaft(0.0)
    crank_gear: Shaft = Shaft(0.0)

    def backlash_at(self, cam_deg: float) -> float:
        """Backlash at the pitch line with the cam gear turned so far, mm: never less than none.

        References
        ----------
        Eccentricities e of both gears change the center distance, and backlash by 2 e tan(pressure angle).
        """
        closer = self.cam_gear.at(cam_deg) + self.crank_gear.at(2 * cam_deg)
        return max(0.0, self.backlash_mm - 2 * math.tan(math.radians(self.pressure_deg)) * closer)

    def tightest(self) -> tuple[float, float]:
        """The least and the greatest backlash round the cam, mm."""
        found = [self.backlash_at(deg) for deg in range(TURN)]
        return min(found), max(found)

    @property
    def tooth_deg(self) -> float:
        """One tooth, crank degrees."""
        return TURN / self.crank_teeth


@dataclass(frozen=True)
class Fit:
    """The cam gear on its shaft: by heat where it interferes, by bolts, by a key."""

    bore_mm: float = 32.0
    interference_mm: float = 0.0
    slip_mm: float = 0.03
    gear_alpha: float = 11.7e-6
    limit_c: float = 230.0
    keyed: bool = True
    bolts: int = 1
    stages: tuple[float, ...] = (20.0, 40.0)
    stretches: bool = False

    @property
    def needed_c(self) -> float:
        """Gear over shaft at which it slips on, degrees."""
        return (self.interference_mm + self.slip_mm) / (self.gear_alpha * self.bore_mm) if self.interference_mm else 0.0


@dataclass(frozen=True)
class Valve:
    """One valve: its lash, the gap to the piston at overlap TDC when pushed by hand, its angle to the bore, room under the lobe."""

    cylinder: int
    kind: str
    lash_mm: float
    gap_mm: float
    angle_deg: float = 0.0
    room_mm: float = 2.4


@dataclass(frozen=True)
class Sprockets:
    """Depth of both sprocket faces from one datum, mm, and what is allowed between them."""

    driver_mm: float
    driven_mm: float
    offset_mm: float = 0.0
    tolerance_mm: float = 0.25


@dataclass(frozen=True)
class Adjuster:
    """Positions of the drive by their labels, crank degrees of advance; `cam_degrees` where its marks are of the cam."""

    kind: str = "choices"
    positions: Mapping[str, float] = field(default_factory=dict)
    fitted: str = "0"
    cam_degrees: bool = False
    at_crank: bool = True


@dataclass(frozen=True)
class Parts:
    """A whole engine."""

    cylinders: int
    order: tuple[int, ...]
    stroke_mm: float
    rod_mm: float
    rotation: str
    lobes: Mapping[str, Lobe]
    card: Mapping[str, float]
    seat: Shaft
    cam_seat: Shaft
    thrusts: Mapping[str, Thrust]
    mesh: Mesh
    fit: Fit
    valves: tuple[Valve, ...]
    sprockets: Sprockets
    adjuster: Adjuster
    hydraulic: bool = False
    bleed_mm: float = 0.0
    slack_deg: float = 1.0
    ratchet: bool = False
    pinned: bool = False
    dot_off_teeth: int = 0
    driven: tuple[str, ...] = ()
    # The share of its lift that a worn lobe has left, such as `{"3 exhaust": 0.93}`.
    worn: Mapping[str, float] = field(default_factory=dict)

    @property
    def firing_deg(self) -> float:
        """Crank degrees from one firing TDC to the next."""
        return 720 / self.cylinders
