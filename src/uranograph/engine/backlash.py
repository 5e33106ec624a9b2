"""Backlash round the cam, as it was read, and the slack of the drive that follows."""

from dataclasses import dataclass

from uranograph.bench.fields import above_nothing, angle, celsius, count, expansion, length
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Reading
from uranograph.bench.slots import Slot
from uranograph.core import backlash as core
from uranograph.core.quantities import LengthUnit, parse_angle
from uranograph.core.uncertainty import of_difference
from uranograph.engine.messages import say

KEY = "backlash"


PLACE = Slot[str](KEY, ("place",), ("travel",), rests_on=("gear", "shaft"))


PLACES = 8


@dataclass(frozen=True)
class Mesh:
    """What is measured: radii and window in mm, pressure angle in degrees, and what is known of the heat."""

    pitch_radius_mm: float
    indicator_radius_mm: float
    pressure_angle_deg: float
    spec_min_mm: float | None
    spec_max_mm: float | None
    places: int
    dial_division_mm: float
    heat: dict[str, float] | None
    size_step_mm: float | None


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Mesh]:
    """Read the set-up as typed.

    Examples
    --------
    >>> read({"pitch_radius": "63.33", "spec_min": "0.05", "spec_max": "0.15"}, LengthUnit.MM).value.indicator_radius_mm
    63.33
    """
    reader = FormReader(typed)
    unit = reader.unit(unit)
    pitch = reader.take("pitch_radius", above_nothing(unit), say("pitch-radius-missing"))
    dial = reader.take("indicator_radius", above_nothing(unit))
    pressure = reader.take("pressure_angle", angle(5, 40))
    low, high = reader.take("spec_min", length(unit)), reader.take("spec_max", length(unit))
    places = reader.take("places", count(1, 72, "places cannot be"))
    division = reader.take("dial_division", above_nothing(unit))
    step = reader.take("size_step", length(unit, least=None))
    heat = _heat(reader, unit)
    if low is not None and high is not None and low > high:
        reader.errors["spec_min"] = say("backlash-limits-crossed")
    if reader.errors or pitch is None:
        return Filled(None, reader.errors)
    usual = 0.0254 if unit is LengthUnit.INCH else 0.01
    return Filled(
        Mesh(pitch, dial or pitch, pressure or 20.0, low, high, places or PLACES, division or usual, heat, step)
    )


def _heat(reader: FormReader, unit: LengthUnit) -> dict[str, float] | None:
    found = {
        "cold_c": reader.take("cold_c", celsius),
        "hot_c": reader.take("hot_c", celsius),
        "center_mm": reader.take("center", above_nothing(unit)),
        "case_alpha": reader.take("case_material", expansion),
        "gear_a_radius_mm": reader.take("driver_radius", above_nothing(unit)),
        "gear_a_alpha": reader.take("driver_material", expansion),
        "gear_b_alpha": reader.take("driven_material", expansion),
    }
    if found["hot_c"] is None:
        return None
    found["cold_c"] = 20.0 if found["cold_c"] is None else found["cold_c"]
    fields = {
        "center_mm": "center",
        "case_alpha": "case_material",
        "gear_a_radius_mm": "driver_radius",
        "gear_a_alpha": "driver_material",
        "gear_b_alpha": "driven_material",
    }
    for name, field in fields.items():
        if found[name] is None:
            reader.errors.setdefault(field, say("needed-for-hot-backlash"))
    return {name: value for name, value in found.items() if value is not None}


SETUP = Form(
    KEY,
    "backlash",
    lambda typed, job: read(typed, job.unit),
    instruction="Say what the dial stands on.",
    groups=(
        Group(
            (
                Ask("pitch_radius", "Cam gear pitch radius"),
                Ask("indicator_radius", "Dial stands at radius", "the pitch line unless typed"),
                Ask("spec_min", "Least allowed"),
                Ask("spec_max", "Greatest allowed"),
                Ask("pressure_angle", "Pressure angle", "20 deg unless typed"),
                Ask("places", "Places round the cam", "8 unless typed"),
            )
        ),
        Group(
            (
                Ask("hot_c", "Hot, °C"),
                Ask("cold_c", "Cold, °C", "20 unless typed"),
                Ask("center", "Center distance"),
                Ask("case_material", "Case", "steel, aluminum, … or 11.7", free=True),
                Ask("driver_radius", "Driving gear's pitch radius"),
                Ask("driver_material", "Driving gear", free=True),
                Ask("driven_material", "Cam gear", free=True),
            ),
            "What it becomes hot",
        ),
        Group(
            (
                Ask("size_step", "Another gear is larger by", "on its pitch radius; minus for smaller"),
                Ask("dial_division", "Dial's smallest division"),
            ),
            "Another gear size",
        ),
    ),
)


@kept
def setup(job: Job) -> Mesh | None:
    """The set-up of a job, None where it is not told."""
    return job.form(SETUP)


@kept
def measured(job: Job) -> core.Backlash | None:
    """Backlash as read, None while nothing is."""
    mesh = setup(job)
    taken = PLACE.taken(job)
    if mesh is None or not taken:
        return None
    return core.backlash(
        core.BacklashGiven(
            readings=[
                core.BacklashReading(position_cam_deg=place_of(reading), travel_mm=reading.mm) for reading in taken
            ],
            indicator_radius_mm=mesh.indicator_radius_mm,
            pitch_radius_mm=mesh.pitch_radius_mm,
            pressure_angle_deg=mesh.pressure_angle_deg,
            spec_min_mm=mesh.spec_min_mm,
            spec_max_mm=mesh.spec_max_mm,
            travel_doubt_mm=of_difference(mesh.dial_division_mm),
        )
    )


def place_of(reading: Reading) -> float:
    """Cam degrees at which a place was read."""
    return parse_angle(reading.second or "0")


def doubt_mm(job: Job) -> float:
    """What a travel of the dial leaves open, at the pitch line, mm."""
    mesh = setup(job)
    return of_difference(mesh.dial_division_mm) * mesh.pitch_radius_mm / mesh.indicator_radius_mm if mesh else 0.0


def hot_change_mm(job: Job) -> float | None:
    """How much more backlash there is when hot, mm, where materials and temperatures are told."""
    mesh = setup(job)
    if mesh is None or mesh.heat is None:
        return None
    given = core.HotGiven(
        cold_backlash_mm=0.0,
        pressure_angle_deg=mesh.pressure_angle_deg,
        gear_b_radius_mm=mesh.pitch_radius_mm,
        **mesh.heat,
    )
    return core.hot_backlash(given).hot_backlash_mm


def slack_deg(job: Job) -> float | None:
    """The slack of the drive in crank degrees, from the mean backlash."""
    found = measured(job)
    return found.lash_crank_deg if found else None
