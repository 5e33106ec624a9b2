"""Backlash round the cam, as it was read, and the slack of the drive that follows."""

from collections.abc import Iterator

from uranograph.bench.fields import (
    DIAL_DIVISION,
    Angle,
    Count,
    Fields,
    Fold,
    Length,
    MaterialField,
    Temperature,
)
from uranograph.bench.job import Job
from uranograph.bench.log import Reading, coarsest
from uranograph.bench.memo import memoized
from uranograph.bench.slots import Slot
from uranograph.core import backlash
from uranograph.core.quantities import parse_angle
from uranograph.core.uncertainty import of_difference
from uranograph.engine.messages import say

KEY = "backlash"


PLACE = Slot[str](KEY, ("place",), ("travel",), rests_on=("gear", "shaft"))


PLACES = 8


class Mesh(Fields):
    """Set-up of the backlash reading: radii and allowed range, mm; pressure angle, degrees; and temperatures.

    Examples
    --------
    >>> Mesh.read({"pitch_radius": "63.33", "spec_min": "0.05", "spec_max": "0.15"}).value.indicator_radius_mm
    63.33
    """

    pitch_radius_mm = Length(
        "pitch_radius", "Cam gear pitch radius", above_zero=True, required=say("pitch-radius-missing")
    )
    indicator_radius_mm = Length(
        "indicator_radius",
        "Dial stands at radius",
        "the pitch line unless typed",
        above_zero=True,
        default_from="pitch_radius_mm",
    )
    spec_min_mm = Length("spec_min", "Least allowed").optional()
    spec_max_mm = Length("spec_max", "Greatest allowed").optional()
    pressure_angle_deg = Angle(
        "pressure_angle", "Pressure angle", "20 deg unless typed", least=5, most=40, default=20.0
    )
    places = Count("places", "Places round the cam", least=1, most=72, counted="places cannot be", default=PLACES)
    hot_fold = Fold("What it becomes hot")
    hot_c = Temperature("hot_c", "Hot, °C").optional()
    cold_c = Temperature("cold_c", "Cold, °C", "20 unless typed", default=20.0)
    center_mm = Length("center", "Center distance", above_zero=True).optional()
    case_alpha = MaterialField("case_material", "Case", "steel, aluminum, … or 11.7").optional()
    driver_radius_mm = Length("driver_radius", "Driving gear's pitch radius", above_zero=True).optional()
    driver_alpha = MaterialField("driver_material", "Driving gear").optional()
    driven_alpha = MaterialField("driven_material", "Cam gear").optional()
    other_fold = Fold("Another gear size")
    size_step_mm = Length(
        "size_step", "Another gear is larger by", "on its pitch radius; minus for smaller", least_mm=None
    ).optional()
    dial_division_mm = Length("dial_division", "Dial's smallest division", above_zero=True, default=DIAL_DIVISION)

    def check(self) -> Iterator[tuple[str, str]]:
        low, high = self.spec_min_mm, self.spec_max_mm
        if low is not None and high is not None and low > high:
            yield "spec_min", say("backlash-limits-crossed")
        if self.hot_c is not None:
            for name in ("center", "case_material", "driver_radius", "driver_material", "driven_material"):
                if self.values[name] is None:
                    yield name, say("needed-for-hot-backlash")

    @property
    def heat(self) -> dict[str, float] | None:
        """Input of the hot backlash, in the core's model; None if no hot temperature is given."""
        found = {
            "cold_c": self.cold_c,
            "hot_c": self.hot_c,
            "center_mm": self.center_mm,
            "case_alpha": self.case_alpha,
            "gear_a_radius_mm": self.driver_radius_mm,
            "gear_a_alpha": self.driver_alpha,
            "gear_b_alpha": self.driven_alpha,
        }
        return None if self.hot_c is None else {name: value for name, value in found.items() if value is not None}


SETUP = Mesh.form(KEY, "backlash", instruction="Say what the dial stands on.")


@memoized
def setup(job: Job) -> Mesh | None:
    """Return the job's set-up, or None."""
    return job.form(SETUP)


@memoized
def measured(job: Job) -> backlash.Backlash | None:
    """Backlash as read, None while nothing is."""
    mesh = setup(job)
    taken = PLACE.taken(job)
    if mesh is None or not taken:
        return None
    return backlash.backlash(
        backlash.BacklashInput(
            readings=[
                backlash.BacklashReading(position_cam_deg=place_of(reading), travel_mm=reading.mm) for reading in taken
            ],
            indicator_radius_mm=mesh.indicator_radius_mm,
            pitch_radius_mm=mesh.pitch_radius_mm,
            pressure_angle_deg=mesh.pressure_angle_deg,
            spec_min_mm=mesh.spec_min_mm,
            spec_max_mm=mesh.spec_max_mm,
            travel_doubt_mm=of_difference(coarsest(taken, mesh.dial_division_mm)),
        )
    )


def place_of(reading: Reading) -> float:
    """Cam degrees at which a place was read."""
    return parse_angle(reading.second or "0")


def doubt_mm(job: Job) -> float:
    """Uncertainty of a dial reading, at the pitch line, mm."""
    mesh = setup(job)
    if mesh is None:
        return 0.0
    division = coarsest(PLACE.taken(job), mesh.dial_division_mm)
    return of_difference(division) * mesh.pitch_radius_mm / mesh.indicator_radius_mm


def hot_change_mm(job: Job) -> float | None:
    """Increase of backlash when hot, mm; None without materials and temperatures."""
    mesh = setup(job)
    if mesh is None or mesh.heat is None:
        return None
    given = backlash.HotInput(
        cold_backlash_mm=0.0,
        pressure_angle_deg=mesh.pressure_angle_deg,
        gear_b_radius_mm=mesh.pitch_radius_mm,
        **mesh.heat,
    )
    return backlash.hot_backlash(given).hot_backlash_mm


def slack_deg(job: Job) -> float | None:
    """The slack of the drive in crank degrees, from the mean backlash."""
    found = measured(job)
    return found.lash_crank_deg if found else None
