"""An engine whose truth is known, and what an honest bench hand reads on it."""

import random
from dataclasses import dataclass, field

from uranograph.core.lobe import CosineLobe, half_width_at, lift_at
from uranograph.core.piston import Crank, half_angle_at_drop
from uranograph.core.wheel import as_read
from uranograph.engine.degree_wheel import Mounted


@dataclass
class TrueEngine:
    """A made-up engine on a made-up wheel.

    Parameters
    ----------
    mounted
        The wheel, as the bench knows it.
    crank
        Lengths, mm.
    lobes
        `intake` and `exhaust` as they truly stand, phase error and all.
    zero_error_deg
        What the wheel shows at true TDC.
    noise_deg
        Standard deviation of a wheel reading, deg.
    read_to_deg
        The part of a division the hand reads to, deg.
    seed
        Of the noise; the same seed reads the same numbers.
    """

    mounted: Mounted
    crank: Crank
    lobes: dict[str, CosineLobe]
    zero_error_deg: float
    noise_deg: float
    read_to_deg: float
    seed: int
    dial_noise_mm: float = 0.004
    _random: random.Random = field(init=False)

    def __post_init__(self) -> None:
        self._random = random.Random(self.seed)

    def wheel_shows(self, true_deg: float) -> tuple[str, str | None]:
        """Text and side that the hand writes down at a true crank angle."""
        shown = true_deg + self.zero_error_deg + self._random.gauss(0, self.noise_deg)
        value, side = as_read(self.mounted.wheel, round(shown / self.read_to_deg) * self.read_to_deg)
        return f"{value:g}", side.value if side else None

    def at_stop(self, depth_mm: float, place: str) -> tuple[str, str | None]:
        """Wheel reading at a stop, or drop, this far below TDC."""
        half = half_angle_at_drop(self.crank, depth_mm)
        return self.wheel_shows(-half if place == "before" else half)

    def event(self, kind: str, after_deg: float = 0.0) -> tuple[str, str | None]:
        """Wheel reading where a lobe passes its checking lift: `io`, `ic`, `eo` or `ec`; of a cylinder that fires so much later."""
        truth = self.lobes["intake" if kind[0] == "i" else "exhaust"]
        half = truth.duration_deg / 2 * (-1 if kind[1] == "o" else 1)
        return self.wheel_shows(truth.centerline_deg + half + after_deg)

    def dial(self, lobe: str, true_deg: float, unit_mm: float, places: int) -> str:
        """Dial reading at a true crank angle, as text."""
        lift = lift_at(self.lobes[lobe], true_deg) + self._random.gauss(0, self.dial_noise_mm)
        return f"{max(0.0, lift) / unit_mm:.{places}f}"

    def moved(self, advance_deg: float) -> None:
        """Move both lobes, as a cam set to another position."""
        for name, lobe in self.lobes.items():
            self.lobes[name] = lobe.model_copy(update={"centerline_deg": lobe.centerline_deg - advance_deg})

    def at_drop(self, lobe: str, drop_mm: float, place: str) -> tuple[str, str | None]:
        """Wheel reading with the dial this far below maximum lift."""
        truth = self.lobes[lobe]
        half = half_width_at(truth, truth.max_lift_mm - drop_mm)
        return self.wheel_shows(truth.centerline_deg + (-half if place == "before" else half))
