"""What instruments show of a made-up engine, each with its own error, as a hand reads it."""

import math
from collections.abc import Sequence
from dataclasses import dataclass

from uranograph.world import geometry
from uranograph.world.hands import Hand
from uranograph.world.state import World

# One standard deviation of one look: eye on a wheel by its division, degrees; needle, of a division; level, degrees.
EYE_DEG = {1.0: 0.12, 0.5: 0.08}
NEEDLE, LEVEL_DEG, CONTACT_DEG, DEPTH_MM, THERMOMETER = 0.2, 2.0, 0.05, 0.01, 0.02
# Feelers that are at hand, mm.
BLADES_MM = (*(0.03 + 0.01 * k for k in range(8)), *(0.15 + 0.05 * k for k in range(18)))


@dataclass(frozen=True)
class Feeler:
    """What feelers say: the thickest that goes and the thinnest that does not, mm; None where none is at hand."""

    goes_mm: float | None
    not_mm: float | None


def wheel(world: World, hand: Hand) -> float:
    """The degree wheel at the pointer, signed degrees about its own TDC mark, to a quarter."""
    division = world.state.wheel.division_deg
    seen = geometry.wheel_shows(world) + hand.scatter(EYE_DEG.get(division, 0.12))
    return round(seen * 4) / 4


def dial(world: World, hand: Hand) -> float:
    """The dial where it stands, mm from its zero, to half a division."""
    mounted = world.state.dial
    moved = (geometry.under_dial(world, mounted.on) - mounted.zero_mm) / mounted.lean
    half = mounted.division_mm / 2
    return round((moved + hand.scatter(NEEDLE * mounted.division_mm)) / half) * half


def pushed(travel_mm: float, hand: Hand, division_mm: float = 0.01) -> float:
    """A dial against something that is pushed as far as it goes, mm."""
    return max(0.0, round((travel_mm + hand.scatter(NEEDLE * division_mm)) / division_mm) * division_mm)


def feelers(gap_mm: float, blades_mm: Sequence[float] = BLADES_MM) -> Feeler:
    """What goes into a gap and what does not.

    Examples
    --------
    >>> found = feelers(0.173, (0.10, 0.15, 0.20))
    >>> found.goes_mm, found.not_mm
    (0.15, 0.2)
    """
    goes = [each for each in blades_mm if each <= gap_mm]
    stays = [each for each in blades_mm if each > gap_mm]
    return Feeler(max(goes, default=None), min(stays, default=None))


def depth(true_mm: float, hand: Hand) -> float:
    """A depth gauge or caliper, mm, to a hundredth."""
    return round(true_mm + hand.scatter(DEPTH_MM), 2)


def thermometer(true_c: float, hand: Hand, bright: bool = False) -> float:
    """An infrared thermometer, degrees Celsius: far too low on bright metal."""
    seen = 20 + (true_c - 20) * (0.5 if bright else 1.0)
    return round(seen * (1 + hand.scatter(THERMOMETER)))


def level(true_deg: float, hand: Hand) -> float:
    """A small level on a flag, degrees from upright."""
    return round((true_deg + hand.scatter(LEVEL_DEG / 2) + 180) % 360 - 180, 1)


def mark_seen(teeth_off: float, hand: Hand) -> str:
    """A mark by eye: `on`, `early` or `late`; sure from one tooth on, a guess about a half."""
    seen = teeth_off + hand.scatter(0.12)
    if abs(seen) < 0.5:
        return "on"
    return "late" if seen > 0 else "early"


def radians_of(travel_mm: float, radius_mm: float) -> float:
    """A travel at a radius as an angle."""
    return math.atan2(travel_mm, radius_mm)
