"""Lobes as they are ground: each flank its own, about a middle."""

import math
from dataclasses import dataclass
from functools import cached_property


@dataclass(frozen=True)
class Lobe:
    """A lobe of one cam.

    Parameters
    ----------
    middle_deg
        Middle of its events at the checking lift, crank degrees about the overlap TDC of its cylinder, with the cam on its
        card.
    half_deg
        Half its duration at the checking lift, crank degrees.
    lift_mm, check_lift_mm
        Greatest lift, and the lift at which `half_deg` counts.
    fullness
        Exponent of its flanks: less is fuller.
    uneven_deg
        How far its peak lies after the middle of its events, crank degrees.
    """

    middle_deg: float
    half_deg: float
    lift_mm: float
    check_lift_mm: float
    fullness: float = 1.9
    uneven_deg: float = 0.0

    @property
    def peak_deg(self) -> float:
        """Where it lifts most, crank degrees about overlap TDC."""
        return self.middle_deg + self.uneven_deg

    @cached_property
    def _bases_deg(self) -> tuple[float, float]:
        """From the peak to the base circle, on the opening and on the closing side, crank degrees."""
        return self._base_of(-1), self._base_of(1)

    def _base_deg(self, side: int) -> float:
        return self._bases_deg[side > 0]

    def _base_of(self, side: int) -> float:
        at_check = self.half_deg - side * self.uneven_deg
        return at_check / (math.acos((self.check_lift_mm / self.lift_mm) ** (1 / self.fullness)) / (math.pi / 2))

    def lift(self, deg: float) -> float:
        """Lift at a crank angle about overlap TDC, mm.

        Examples
        --------
        >>> lobe = Lobe(108, 122, 9.0, 1.0)
        >>> round(lobe.lift(108), 6), round(lobe.lift(108 - 122), 6), lobe.lift(-200)
        (9.0, 1.0, 0.0)
        """
        about = (deg - self.peak_deg + 360) % 720 - 360
        share = abs(about) / self._base_deg(1 if about > 0 else -1)
        return self.lift_mm * math.cos(share * math.pi / 2) ** self.fullness if share < 1 else 0.0

    def crossing_deg(self, lift_mm: float, side: int) -> float:
        """Where it passes a lift on the way up (-1) or down (1), crank degrees about overlap TDC.

        Examples
        --------
        >>> lobe = Lobe(108, 122, 9.0, 1.0, uneven_deg=2.0)
        >>> round(lobe.crossing_deg(1.0, -1), 6), round(lobe.crossing_deg(1.0, 1), 6)
        (-14.0, 230.0)
        """
        share = max(0.0, min(1.0, lift_mm / self.lift_mm)) ** (1 / self.fullness)
        return self.peak_deg + side * self._base_deg(side) * math.acos(share) / (math.pi / 2)
