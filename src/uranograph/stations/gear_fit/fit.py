"""How a gear goes on: its bolts, its heat, and what holds it."""

from collections.abc import Iterator
from dataclasses import dataclass

from uranograph.bench.fields import Choice, Count, Fields, Fold, Length, MaterialField, Temperature, Text
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.memo import memoized
from uranograph.core import torque
from uranograph.core.heat import HeatInput
from uranograph.core.materials import MATERIALS
from uranograph.core.quantities import LengthUnit
from uranograph.core.torque import Bolts
from uranograph.engine.gear_train import HELD
from uranograph.stations.gear_fit.messages import say
from uranograph.stations.gear_fit.temperatures import KEY, Heat, Heated, bears

RUNNING_C = 90.0


@dataclass(frozen=True)
class Fit:
    """Fit of the gear, how it is retained, and the parts fitted with it."""

    heat: Heat | None
    bolts: Bolts | None
    held: str = ""
    driven: bool = False
    crank_too: bool = False
    heated: "Heated | None" = None


class FitFields(Fields):
    """How a gear goes on, as typed; temperatures in degrees Celsius."""

    bolt_count = Count("bolts", "Bolts", "how many", least=1, most=24, counted="bolts cannot be").optional()
    stages = Text("stages", "Torque or turns", "20; 40; 60 · 55-65 · snug + 90 deg", longest=200)
    steps = Count(
        "steps", "In equal steps", "where the last alone is typed", least=1, most=6, counted="steps cannot be"
    ).optional()
    torque_unit = Choice(
        "torque_unit", "Torque in", (("N m", "N m"), ("ft lb", "ft lb")), unknown=say("choice-missing")
    )
    locker = Choice(
        "locker",
        "Threadlocker",
        (("", "none called for"), ("medium", "medium strength"), ("high", "high strength")),
        unknown=say("choice-missing"),
    )
    held = Choice(
        "held", "Gear held by", HELD.items(), "where the gears' form does not say", unknown=say("choice-missing")
    )
    goes_on = Choice(
        "goes_on",
        "It goes on",
        (("", "by hand or heat"), ("driven", "driven or pressed on")),
        unknown=say("choice-missing"),
    )
    crank_too = Choice(
        "crank_too", "Crank gear", (("", "stays as it is"), ("yes", "goes on as well")), unknown=say("choice-missing")
    )
    heat_fold = Fold("Fitted by heat")
    bore_mm = Length("bore", "Gear's bore", above_zero=True).optional()
    interference_mm = Length("interference", "Interference").optional()
    heated_c = Temperature("heated_c", "Or heated to, °C", "where nobody knows the interference").optional()
    slip_mm = Length("slip", "Slip clearance", "0.03 mm, 0.001 in unless typed", default=0.03)
    gear_alpha = MaterialField("gear_material", "Gear of", "steel unless typed", default=MATERIALS["steel"].alpha)
    limit_c = Temperature("limit_c", "It bears, °C", "by its maker; else a careful value").optional()
    width_mm = Length("width", "Rim width", "for the cooling estimate", above_zero=True).optional()
    ambient_c = Temperature("ambient_c", "Shop, °C", "20 unless typed", default=20.0)
    shaft_c = Temperature("shaft_c", "Shaft, °C", "where it is chilled").optional()
    shaft_alpha = MaterialField("shaft_material", "Shaft of", "steel unless typed", default=MATERIALS["steel"].alpha)
    running_c = Temperature("running_c", "It runs at, °C", "90 unless typed", default=RUNNING_C)

    @property
    def by_temperature(self) -> bool:
        """Whether the fit is by temperature alone: bore and temperature are known, the interference is not."""
        return self.heated_c is not None and self.interference_mm is None

    def check(self) -> Iterator[tuple[str, str]]:
        hot = self.by_temperature or self.bore_mm is not None or self.interference_mm is not None
        if hot and self.bore_mm is None:
            both = say("bore-and-interference-needed")
            yield "bore", say("bore-needed-for-heat") if self.by_temperature else both
        if hot and self.interference_mm is None and not self.by_temperature:
            yield "interference", say("bore-and-interference-needed")
        alpha = self.values["gear_material"]
        if hot and alpha is not None and alpha <= 0:
            yield "gear_material", say("gear-does-not-expand")
        if self.bore_mm is not None and self.interference_mm is not None and self.interference_mm > self.bore_mm / 100:
            yield "interference", say("interference-too-large", text=self.texts["interference"])
        if (self.bolt_count is None) != (not self.stages):
            yield "bolts" if self.bolt_count is None else "stages", say("bolts-and-torque-needed")

    def material(self, name: str) -> str:
        """A material as it was named."""
        return self.texts[name].lower() or "steel"

    @property
    def heated(self) -> Heated | None:
        """A fit by temperature alone."""
        if not self.by_temperature or self.bore_mm is None or self.heated_c is None:
            return None
        material = self.material("gear_material")
        limit = bears(material, self.limit_c)
        return Heated(self.bore_mm, self.heated_c, self.slip_mm, self.gear_alpha, self.ambient_c, material, limit)

    @property
    def heat(self) -> Heat | None:
        """A fit by its interference."""
        if self.bore_mm is None or self.interference_mm is None:
            return None
        material = self.material("gear_material")
        given = HeatInput(
            bore_mm=self.bore_mm,
            interference_mm=self.interference_mm,
            slip_clearance_mm=self.slip_mm,
            gear_alpha=self.gear_alpha,
            ambient_c=self.ambient_c,
            shaft_c=self.shaft_c,
            shaft_alpha=self.shaft_alpha,
            limit_c=bears(material, self.limit_c),
            running_c=self.running_c,
        )
        return Heat(given, material, self.material("shaft_material"), self.width_mm)


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Fit]:
    """Read the set-up as typed.

    Examples
    --------
    >>> filled = read({"bolts": "3", "stages": "60", "steps": "3"}, LengthUnit.MM)
    >>> [stage.most_nm for stage in filled.value.bolts.stages]
    [20.0, 40.0, 60.0]
    """
    filled = FitFields.read(typed, unit)
    found = filled.value
    if found is None:
        return Filled(None, filled.errors)
    reader, bolts, heated = FormReader(typed), None, found.heated
    if heated is not None and heated.allows_mm <= 0:
        reader.errors["heated_c"] = say("heated-allows-nothing", typed=found.texts["heated_c"])
    if found.bolt_count is not None:
        stages = reader.take("stages", lambda text: torque.stages(text, found.steps, found.torque_unit))
        bolts = Bolts(found.bolt_count, stages, found.locker, found.torque_unit) if stages else None
    if reader.errors:
        return Filled(None, reader.errors)
    heat = None if heated else found.heat
    return Filled(Fit(heat, bolts, found.held, found.goes_on == "driven", found.crank_too == "yes", heated))


SETUP = Form(
    KEY,
    "gear to cam",
    lambda typed, job: read(typed, job.unit),
    instruction="Say how the gear is held on.",
    groups=FitFields.groups(),
    needed=False,
)


@memoized
def setup(job: Job) -> Fit:
    """How a job's gear is held."""
    return job.form(SETUP) or Fit(None, None)
