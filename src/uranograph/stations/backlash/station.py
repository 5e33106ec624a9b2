"""Mark: backlash round the cam, cold and hot."""

import math
from collections.abc import Mapping
from dataclasses import dataclass

from uranograph.bench.fields import above_nothing, angle, celsius, count, expansion, length
from uranograph.bench.finding import Finding, Measured, Prompt, Row, Verdict
from uranograph.bench.forms import Ask, Filled, Form, FormReader, Group, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.kept import kept
from uranograph.bench.log import Entry, Reading
from uranograph.bench.slots import Slot
from uranograph.core import backlash as core
from uranograph.core.errors import Impossible
from uranograph.core.quantities import LengthUnit, format_angle, format_fine, format_length, parse_angle
from uranograph.core.uncertainty import of_difference
from uranograph.stations.backlash.words import FOUND, say
from uranograph.stations.gear_train import station as train

KEY = "backlash"
PLACE = Slot[str](KEY, ("place",), ("travel",), rests_on=("gear", "shaft"))
PLACES = 8
CAUTIONS = ("Lock one gear, rock the other; dial square to the tooth. Fingers clear of the mesh.",)


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
    pitch = reader.take("pitch_radius", above_nothing(unit), say("cam-gear-s-pitch"))
    dial = reader.take("indicator_radius", above_nothing(unit))
    pressure = reader.take("pressure_angle", angle(5, 40))
    low, high = reader.take("spec_min", length(unit)), reader.take("spec_max", length(unit))
    places = reader.take("places", count(1, 72, "places cannot be"))
    division = reader.take("dial_division", above_nothing(unit))
    step = reader.take("size_step", length(unit, least=None))
    heat = _heat(reader, unit)
    if low is not None and high is not None and low > high:
        reader.errors["spec_min"] = say("least-backlash-above-greatest")
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
            reader.errors.setdefault(field, say("hot-value-needs-too"))
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


def at_pitch_line(job: Job, reading: Reading) -> float:
    """A reading brought to the pitch line, mm."""
    mesh = setup(job)
    assert mesh is not None
    return reading.mm * mesh.pitch_radius_mm / mesh.indicator_radius_mm


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


def _unread(job: Job, mesh: Mesh) -> list[float]:
    """Places round the cam that are still to be read, cam degrees."""
    taken = [place_of(reading) % 360 for reading in PLACE.taken(job)]
    step = 360 / mesh.places
    return [
        n * step
        for n in range(mesh.places)
        if all(abs((n * step - place + 180) % 360 - 180) > step / 4 for place in taken)
    ]


def prompt(job: Job, query: Mapping[str, str]) -> Prompt | None:
    """Ask for the next place round the cam."""
    mesh = setup(job)
    if mesh is None:
        return None
    wanted = _unread(job, mesh)
    place = wanted[0] if wanted else 0.0
    done = not wanted
    return Prompt(
        slot=PLACE.next(job, "place"),
        label=say("travel-dial"),
        instruction=(say("every-place-read") if done else say("cam-deg-lock-gear", place_deg=place)),
        hint=say("near-pitch-line-square"),
        second=f"{place:g}",
        second_label="Cam at, deg",
        unit=job.unit.value,
    )


def accept(job: Job, entry: Entry) -> None:
    """Refuse a travel or a place that cannot be.

    Raises
    ------
    Impossible
        With the field at fault: `text` or `second`.
    """
    if setup(job) is None:
        raise Impossible("text", "set-up-missing-backlash")
    travel = entry.mm
    if travel < 0:
        raise Impossible("text", "travel-below-nothing")
    if travel > 5:
        raise Impossible("text", "more-than-any-backlash", typed=entry.text)
    try:
        place = parse_angle(entry.second or "")
    except Impossible as error:
        raise error.at("second") from error
    if not -360 <= place <= 720:
        raise Impossible("second", "no-place-round-cam", typed=entry.second)


def describe(reading: Reading) -> str:
    """Say where a reading was taken."""
    return say("backlash-cam-deg", typed=reading.second)


def brief(reading: Reading) -> str:
    """The place alone."""
    return f"{reading.second}°"


def find(job: Job) -> Finding:
    """Judge backlash by its tightest and its loosest place, with the swing told apart from the mean."""
    mesh, found = setup(job), measured(job)
    bare = Finding(Verdict.OPEN, "", cautions=CAUTIONS)
    if mesh is None:
        return bare.judged(Verdict.OPEN, FOUND, "set-up-missing", begun=False)
    if found is None:
        return bare.judged(Verdict.OPEN, FOUND, "nothing-read", begun=False)
    base = Finding(
        Verdict.OPEN,
        "",
        measured=Measured(found.mean_mm, "mm", doubt_mm(job)),
        number=f"{format_length(found.min_mm, job.unit)}–{format_length(found.max_mm, job.unit)}",
        unit=job.unit.value,
        uncertainty=f"± {format_fine(doubt_mm(job), job.unit)}",
        cautions=CAUTIONS,
        rows=rows(job, mesh, found),
        columns=("", "allowed", "measured", ""),
        notes=notes(job, mesh, found),
    )
    if mesh.spec_min_mm is None and mesh.spec_max_mm is None:
        return base.judged(Verdict.UNSURE, FOUND, "no-window")
    if found.verdict is Verdict.OUT:
        code = f"{found.fault}-swing" if _mean_looks_good(mesh, found) else found.fault
        return base.judged(
            Verdict.OUT,
            FOUND,
            code,
            job.unit,
            tight_mm=found.min_mm,
            tight_at_deg=found.tight_spot_cam_deg,
            loose_mm=found.max_mm,
            mean_mm=found.mean_mm,
            swing_mm=found.swing_mm,
            unit=job.unit.value,
        )
    if unread := _unread(job, mesh):
        return base.judged(
            Verdict.OPEN, FOUND, "nothing-out-so-far", read=mesh.places - len(unread), places=mesh.places
        )
    hot = hot_change_mm(job)
    if hot is not None and found.min_mm + hot + found.doubt_mm <= 0:
        return base.judged(Verdict.OUT, FOUND, "gone-when-hot")
    if hot is not None and found.min_mm + hot - found.doubt_mm <= 0:
        return base.judged(Verdict.UNSURE, FOUND, "hot-too-near")
    if found.verdict is Verdict.UNSURE:
        return base.judged(Verdict.UNSURE, FOUND, "too-near-limit")
    return base.judged(Verdict.IN, FOUND, "within")


def _mean_looks_good(mesh: Mesh, found: core.Backlash) -> bool:
    most = math.inf if mesh.spec_max_mm is None else mesh.spec_max_mm
    return (mesh.spec_min_mm or 0) <= found.mean_mm <= most


def _half_size(job: Job) -> bool:
    """Whether the cam gear meshes with a crank gear of half its size, whose runout shows twice a cam turn."""
    drive_train = train.described(job)
    if drive_train is None:
        return True
    return any(
        {contact.up, contact.down} == {drive_train.crank.name, drive_train.cam.name} for contact in drive_train.contacts
    )


def rows(job: Job, mesh: Mesh, found: core.Backlash) -> tuple[Row, ...]:
    """The figures of it, each beside what is allowed."""

    def words(mm: float | None) -> str:
        return "" if mm is None else format_fine(mm, job.unit)

    lines = [
        Row("Tightest place", words(mesh.spec_min_mm), words(found.min_mm)),
        Row("Loosest place", words(mesh.spec_max_mm), words(found.max_mm)),
        Row("Mean", "", words(found.mean_mm)),
        Row("Swing", "", words(found.swing_mm)),
    ]
    lines.append(Row(say("tightest-cam-deg"), "", format_angle(found.tight_spot_cam_deg, 0)))
    if found.eccentricity_mm is not None:
        lines.append(Row(say("cam-gear-off-center"), "", words(found.eccentricity_mm)))
    if found.crank_eccentricity_mm is not None and _half_size(job):
        lines.append(Row(say("crank-gear-off-center"), "", words(found.crank_eccentricity_mm)))
    hot = hot_change_mm(job)
    if hot is not None:
        lines.append(Row(say("hot-tight-loose"), "", f"{words(found.min_mm + hot)}, {words(found.max_mm + hot)}"))
    if mesh.size_step_mm is not None:
        change = core.size_change(mesh.size_step_mm, mesh.pressure_angle_deg)
        lines.append(Row(say("other-gear"), "", f"{words(found.min_mm + change)}, {words(found.max_mm + change)}"))
    lines.append(Row(say("drive-slack-crank-deg"), "", format_angle(found.lash_crank_deg, 2)))
    return tuple(lines)


def notes(job: Job, mesh: Mesh, found: core.Backlash) -> tuple[str, ...]:
    """What a person would want to be told besides."""
    sentences: list[str] = []
    hot = hot_change_mm(job)
    if hot is not None:
        low, high = found.min_mm + hot, found.max_mm + hot
        if low > 0:
            sentences.append(say("hot", job.unit, low_mm=low, high_mm=high, unit_name=job.unit.value))
    changed = job.before_change(KEY)
    earlier = measured(changed[0]) if changed else None
    if changed is not None and earlier is not None:
        span = f"{format_fine(earlier.min_mm, job.unit)} to {format_fine(earlier.max_mm, job.unit)}"
        sentences.append(f"Before ({changed[1].said}): {span} {job.unit.value}.")
    drive_train = train.described(job)
    gear = f" of “{drive_train.cam.name}”" if drive_train else ""
    sentences.append(say("drive-slack-crank-deg-2", gear=gear, lash_crank_deg=found.lash_crank_deg))
    return tuple(sentences)
