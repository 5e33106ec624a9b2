"""How hot a gear must be, where it grips again, and for how long it stays loose."""

from dataclasses import dataclass

from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.memo import memoized
from uranograph.core.cooling import Cooling, CoolingInput, cooling
from uranograph.core.heat import HeatFit, heat_fit
from uranograph.core.materials import MATERIALS
from uranograph.stations.gear_fit import temperatures
from uranograph.stations.gear_fit.fit import Fit, setup
from uranograph.stations.gear_fit.temperatures import GEAR

CAUTIONS = (
    "Never hammer a shaft against its thrust parts. Until the position is proved bolts are only snug, threads dry.",
)
HOT = "Hot gear: gloves and eyes, no fumes of paint, oil or threadlocker, extinguisher at hand; heat-rated paint or a contact probe."
MAGNESIUM = (
    "Magnesium: oven or hot plate, no flame. Its dust and swarf burn, wet dust gives hydrogen; class D extinguisher or dry "
    "sand, never water."
)
CHILLED = "Dry ice or nitrogen: gloves and face shield, open air; no ice left in the fit."
MIN_CHILLED_C = 0.0


# Above any gear's temperature; a cooling estimate would be meaningless.
HOTTEST_C = 1000.0


@dataclass(frozen=True)
class HeatingPlan:
    """Heating result: temperatures, C, and how long the gear stays loose in air, s; None if not estimated."""

    fit: HeatFit
    grips_c: float
    cooling: Cooling | None


@memoized
def heated(job: Job) -> HeatingPlan | None:
    """How hot the gear must be, where it grips again, and for how long it stays loose."""
    heat = setup(job).heat
    if heat is None:
        return None
    fit = heat_fit(heat.given)
    grips = heat_fit(heat.given.model_copy(update={"slip_clearance_mm": 0.0})).gear_c
    estimate = None
    # Beside a chilled shaft it grips by their difference, which closes from both sides.
    if heat.width_mm is not None and not heat.chilled and heat.given.ambient_c < grips < fit.gear_c < HOTTEST_C:
        estimate = cooling(
            CoolingInput(
                gear_c=fit.gear_c,
                grips_c=grips,
                ambient_c=heat.given.ambient_c,
                width_mm=heat.width_mm,
                heat_j_per_cm3_k=MATERIALS.get(heat.material, MATERIALS["steel"]).heat_j_per_cm3_k,
            )
        )
    return HeatingPlan(fit, grips, estimate)


def cautions_of(fit: "Fit") -> tuple[str, ...]:
    """Hazards of this fit, however its temperature is stated."""
    phrase = list(CAUTIONS)
    materials = (
        {fit.heat.material, fit.heat.shaft_material} if fit.heat else {fit.heated.material} if fit.heated else set()
    )
    if materials:
        phrase.append(HOT)
    if "magnesium" in materials:
        phrase.append(MAGNESIUM)
    if fit.heat is not None and fit.heat.given.shaft_c is not None and fit.heat.given.shaft_c < MIN_CHILLED_C:
        phrase.append(CHILLED)
    return tuple(phrase)


@dataclass(frozen=True)
class Grip:
    """A gear measured hot: its temperature, where it grips and how much room is left at this moment; until when, seconds."""

    gear_c: float
    grips_c: float
    room_mm: float
    loose_s: float | None
    reading: Reading


def grip(job: Job) -> Grip | None:
    """Clearance on the shaft at the measured temperature, and for how long; None before a measurement."""
    reading, gear_c, hot, fit = temperatures.newest(job, GEAR), temperatures.measured_c(job), heated(job), setup(job)
    if reading is None or gear_c is None or hot is None or fit.heat is None:
        return None
    given, cold = fit.heat.given, temperatures.shaft_c(job, fit.heat)
    room = fit.heat.room_mm(gear_c, cold)
    grips = cold + fit.heat.difference_c(cold)
    loose = None
    if fit.heat.width_mm is not None and not fit.heat.chilled and given.ambient_c < hot.grips_c < gear_c:
        loose = cooling(
            CoolingInput(
                gear_c=gear_c,
                grips_c=hot.grips_c,
                ambient_c=given.ambient_c,
                width_mm=fit.heat.width_mm,
                heat_j_per_cm3_k=MATERIALS.get(fit.heat.material, MATERIALS["steel"]).heat_j_per_cm3_k,
            )
        ).loose_s
    return Grip(gear_c, grips, room, loose, reading)


def cools(job: Job) -> tuple[float, float] | None:
    """Temperature of the air and where the gear grips, C, for a thermometer to be watched against; None where that is not so simple."""
    hot, heat = heated(job), setup(job).heat
    if hot is None or heat is None or heat.chilled or hot.grips_c <= heat.given.ambient_c:
        return None
    return heat.given.ambient_c, hot.grips_c


def none_left_hot(hot: HeatingPlan) -> bool:
    """Whether nothing is left of the interference at running temperature."""
    left = hot.fit.interference_running_mm
    return left is not None and left <= 0


def fahrenheit(c: float) -> str:
    """A temperature in both scales."""
    return f"{c:.0f} °C, {c * 1.8 + 32:.0f} °F"
