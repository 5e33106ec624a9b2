"""A gear that goes on hot: how hot it was measured, what the fit needs by the difference to the shaft, and what its material bears."""

from dataclasses import dataclass

from uranograph.bench.finding import Prompt, Verdict
from uranograph.bench.job import Job
from uranograph.bench.log import Reading
from uranograph.bench.parsers import celsius
from uranograph.bench.slots import Slot
from uranograph.core.errors import Missing
from uranograph.core.heat import HeatInput
from uranograph.core.materials import MATERIALS
from uranograph.core.verdict import judge
from uranograph.stations.gear_fit.messages import say

KEY = "gear-fit"
TEMPERATURE = Slot[str](KEY, ("temperature", "shaft-temperature"), ("measured",), rests_on=("gear",))
GEAR, SHAFT = TEMPERATURE.kinds
# Answer for "not measured": the temperature is then unknown.
NOT_MEASURED = "none"
# Uncertainty of a bench thermometer: share of its reading, and minimum, C.
THERMOMETER_SHARE, THERMOMETER_C = 0.02, 2.0
# Allowed shortfall of the measured gear temperature, as a share of its rise.
SHORT_SHARE = 0.05


@dataclass(frozen=True)
class Heat:
    """A gear to be heated: the fit, what it is of, and its width in mm."""

    given: HeatInput
    material: str
    shaft_material: str
    width_mm: float | None

    @property
    def chilled(self) -> bool:
        """Whether the shaft is colder than the shop."""
        return self.given.shaft_c is not None and self.given.shaft_c < self.given.ambient_c

    def room_mm(self, gear_c: float, shaft_c: float) -> float:
        """How much larger the gear's bore is than the shaft, each at its own temperature, mm.

        Parameters
        ----------
        gear_c, shaft_c
            Degrees Celsius.

        Returns
        -------
        float
            Below 0 it grips.
        """
        given = self.given
        grown = given.gear_alpha * given.bore_mm * (gear_c - given.ambient_c)
        shrunk = (given.shaft_alpha or 0.0) * given.bore_mm * (given.ambient_c - shaft_c)
        return grown + shrunk - given.interference_mm

    def difference_c(self, shaft_c: float) -> float:
        """How much hotter than the shaft the gear must stay not to grip, degrees Celsius."""
        given = self.given
        return given.ambient_c - self.room_mm(given.ambient_c, shaft_c) / (given.gear_alpha * given.bore_mm) - shaft_c


@dataclass(frozen=True)
class Heated:
    """A gear of unknown interference heated to a temperature, C; its material and limit."""

    bore_mm: float
    gear_c: float
    slip_mm: float
    gear_alpha: float
    ambient_c: float
    material: str = "steel"
    limit_c: float | None = None

    @property
    def allows_mm(self) -> float:
        """The greatest interference that it slips over at that temperature, mm."""
        return self.gear_alpha * self.bore_mm * (self.gear_c - self.ambient_c) - self.slip_mm


def bears(material: str, typed_c: float | None) -> float | None:
    """Highest allowed temperature of a gear, C: as typed, else by material; None if unknown."""
    return (MATERIALS[material].bears_c if material in MATERIALS else None) if typed_c is None else typed_c


def newest(job: Job, kind: str) -> Reading | None:
    """The newest temperature of gear or shaft."""
    read = TEMPERATURE.taken(job, kind)
    return read[-1] if read else None


def measured_c(job: Job, kind: str = GEAR) -> float | None:
    """The newest temperature measured of gear or shaft, C; None where none was."""
    reading = newest(job, kind)
    return None if reading is None or reading.text == NOT_MEASURED else celsius(reading.text)


def shaft_c(job: Job, heat: Heat) -> float:
    """The shaft's temperature: as measured, else as stated, else that of the shop, C."""
    measured = measured_c(job, SHAFT)
    stated = heat.given.ambient_c if heat.given.shaft_c is None else heat.given.shaft_c
    return stated if measured is None else measured


def wanted(job: Job, heat: Heat | None, heated: Heated | None) -> str:
    """Which temperature is still to be measured: that of a chilled shaft first, for the gear cools the quicker; empty where none is."""
    if heat is None and heated is None:
        return ""
    if heat is not None and heat.chilled and newest(job, SHAFT) is None:
        return SHAFT
    return GEAR if newest(job, GEAR) is None else ""


def prompt(job: Job, kind: str) -> Prompt:
    """Ask for the temperature of gear or shaft."""
    return Prompt(
        slot=TEMPERATURE.next(job, kind),
        label=say("gear-measured-at") if kind == GEAR else say("shaft-measured-at"),
        instruction=say("measure-gear-now") if kind == GEAR else say("measure-shaft-now"),
        hint=say("thermometer-hint") if kind == GEAR else say("temperature-none-hint"),
        unit="°C",
        extra={"method": "heat", "item": kind},
    )


def doubt_c(shown_c: float) -> float:
    """How far a temperature may be off, C."""
    return max(THERMOMETER_C, THERMOMETER_SHARE * abs(shown_c))


@dataclass(frozen=True)
class HeatVerdict:
    """Verdict on the temperatures, its code, and the supporting figures."""

    verdict: Verdict
    code: str
    values: dict[str, object]


def judged(job: Job, heat: Heat | None, heated: Heated | None) -> HeatVerdict | None:
    """Judge the heat against what the fit needs and the material bears; None where nothing is wrong with it, or it is not measured yet.

    Parameters
    ----------
    job
        The job.
    heat, heated
        The fit by its interference, or by the temperature it is heated to: one of them.

    Returns
    -------
    Judged or None
        *Out* past what it bears or too cool to go on; *cannot tell* near either, or where nobody measured.
    """
    if heat is not None:
        material, limit = heat.material, heat.given.limit_c
    elif heated is not None:
        material, limit = heated.material, heated.limit_c
    else:
        return None
    if heated is not None and limit is not None and heated.gear_c > limit:
        return HeatVerdict(Verdict.OUT, "too-hot", {"gear_c": heated.gear_c, "limit_c": limit, "material": material})
    reading, gear_c = newest(job, GEAR), measured_c(job)
    if reading is None:
        return None
    if gear_c is None:
        return HeatVerdict(Verdict.UNSURE, "heat-not-measured", {})
    past = Verdict.IN if limit is None else judge(gear_c, doubt_c(gear_c), most=limit)
    if past is not Verdict.IN:
        code = "heated-past-limit" if past is Verdict.OUT else "heated-near-limit"
        return HeatVerdict(past, code, {"gear_c": gear_c, "limit_c": limit, "material": material})
    if heat is not None:
        return _fits(job, heat, gear_c)
    if heated is None:
        raise Missing("heated")
    needed = heated.gear_c - SHORT_SHARE * (heated.gear_c - heated.ambient_c)
    hot = judge(gear_c, doubt_c(gear_c), least=needed)
    if hot is Verdict.OUT:
        return HeatVerdict(hot, "heated-short", {"gear_c": gear_c, "called_c": heated.gear_c})
    return None


def _fits(job: Job, heat: Heat, gear_c: float) -> HeatVerdict | None:
    """Whether the gear slips on as it was measured, by its difference to the shaft."""
    cold = shaft_c(job, heat)
    each = (heat.given.gear_alpha * doubt_c(gear_c), (heat.given.shaft_alpha or 0.0) * doubt_c(cold))
    doubt = heat.given.bore_mm * (each[0] ** 2 + (each[1] ** 2 if heat.chilled else 0.0)) ** 0.5
    slips = judge(heat.room_mm(gear_c, cold), doubt, least=0.0)
    if slips is Verdict.IN:
        return None
    code = "heated-too-cool" if slips is Verdict.OUT else "heated-just-so"
    return HeatVerdict(slips, code, {"gear_c": gear_c, "needed_c": cold + heat.difference_c(cold)})
