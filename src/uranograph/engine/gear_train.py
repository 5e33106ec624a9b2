"""The gear train as it is described: gears, meshes, marks and keyways."""

from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.bench.parsers import above_nothing, angle, count
from uranograph.core import train as core
from uranograph.core.errors import InvalidInput
from uranograph.core.helix import HelixInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine.gear_train_model import Contact, DriveTrain, Ends, Toothed
from uranograph.engine.messages import say

KEY = "train"


MAX_GEARS = 20


ROLES = {"crank": "crank", "idler": "idler", "cam": "cam", "untimed": "untimed"}


HOW = {"mesh": "teeth", "chain": "chain", "belt": "belt", "crossed": "crossed helical", "shaft": "same shaft"}


HELD = {
    "": "not said",
    "key": "key",
    "taper": "taper and key",
    "dowel": "dowel",
    "bolts": "bolts",
    "pressed": "pressed",
    "screw": "set screw",
    "one-piece": "one piece with its shaft",
}


MARKS = {"": "no mark", "tooth": "on a tooth", "space": "in a space", "straddle": "either side of a space"}


GEAR_FIELDS = (
    "name",
    "teeth",
    "on",
    "how",
    "also",
    "role",
    "held",
    "sprung",
    "mark",
    "there",
    "there_tooth",
    "label",
    "links",
    "lies",
)


END_FIELDS = ("crank_key", "cam_key", "helix_gear", "helix_module", "helix_angle", "helix_travel", "hole_sets", "unit")


# The first gear is the crank's: no other gear drives it.
FIRST_FIELDS = ("name", "teeth", "role", "held", "sprung")


FIELDS = (
    *(f"g1_{name}" for name in FIRST_FIELDS),
    *(f"g{n}_{name}" for n in range(2, MAX_GEARS + 1) for name in GEAR_FIELDS),
    *END_FIELDS,
)


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[DriveTrain]:
    """Read a form of gears as typed.

    Parameters
    ----------
    typed
        Text by field name, `g1_name`, `g1_teeth` and so on; see `FIELDS`. `g2_on` is the row of the gear that turns it.
    unit
        What bare lengths are taken in.

    Returns
    -------
    Sheet
        The train, or what is wrong beside each gear.

    Examples
    --------
    >>> filled = read({"g1_name": "crank", "g1_teeth": "21", "g1_role": "crank", "g2_name": "cam", "g2_teeth": "42",
    ...     "g2_role": "cam", "g2_on": "1"}, LengthUnit.MM)
    >>> filled.value.ratio_ok, filled.value.all_back_after
    (True, 1)
    """
    reader = FormReader(typed)
    unit = reader.unit(unit)
    rows = [n for n in range(1, MAX_GEARS + 1) if reader.text(f"g{n}_name") or reader.text(f"g{n}_teeth")]
    gears = [gear for n in rows if (gear := _gear(reader, n, first=n == rows[0])) is not None]
    if not rows:
        reader.errors["g1_name"] = say("crank-gear-missing")
    if gears and gears[0].n == rows[0] and gears[0].role != "crank":
        reader.errors[f"g{rows[0]}_role"] = say("first-gear-not-crank")
    _names_once(reader, gears)
    by_row = {gear.n: gear for gear in gears}
    contacts = [contact for gear in gears for contact in _contacts(reader, gear, by_row)]
    ends = _ends(reader, unit, gears)
    if reader.errors:
        return Filled(None, reader.errors)
    shafts = _shafts(reader, gears)
    cams = [gear for gear in gears if gear.role == "cam"]
    crank = next((gear for gear in gears if gear.role == "crank"), None)
    if not cams:
        reader.errors[f"g{gears[-1].n}_role"] = say("cam-gear-missing")
    if crank is None or not cams:
        return Filled(None, reader.errors)
    given = core.TrainInput(
        gears=[core.Gear(name=gear.name, teeth=gear.teeth, shaft=shafts[gear.n]) for gear in gears],
        meshes=[(contact.up, contact.down) for contact in contacts if contact.how != "chain"],
        chains=[
            core.GearLoop(upstream=contact.up, downstream=contact.down, links=contact.links)
            for contact in contacts
            if contact.how == "chain"
        ],
        crank=crank.name,
        cam=cams[0].name,
    )
    try:
        found = {cam.name: core.train(given.model_copy(update={"cam": cam.name})) for cam in cams}
    except InvalidInput as error:
        reader.errors[_field_of(error.field, gears, contacts)] = refusal(error)
        return Filled(None, reader.errors)
    return Filled(DriveTrain(tuple(gears), tuple(contacts), given, found, ends))


def _gear(reader: FormReader, n: int, first: bool) -> Toothed | None:
    before = len(reader.errors)
    name = reader.text(f"g{n}_name")
    if not name:
        reader.errors[f"g{n}_name"] = say("gear-name-missing")
    elif len(name) > 24:
        reader.errors[f"g{n}_name"] = say("gear-name-too-long")
    teeth = reader.take(
        f"g{n}_teeth",
        count(3, core.MAX_TEETH, "teeth cannot be"),
        say("gear-teeth-missing", figure=name or "this gear"),
    )
    role = reader.text(f"g{n}_role") or ("crank" if first else "idler")
    if role not in ROLES:
        reader.errors[f"g{n}_role"] = say("gear-role-missing")
    held = reader.text(f"g{n}_held")
    if held not in HELD:
        reader.errors[f"g{n}_held"] = say("gear-held-missing")
    if len(reader.errors) > before or teeth is None:
        return None
    return Toothed(n, name, teeth, role, held, reader.text(f"g{n}_sprung") == "1")


def _names_once(reader: FormReader, gears: list[Toothed]) -> None:
    seen: set[str] = set()
    crank: Toothed | None = None
    for gear in gears:
        if gear.name in seen:
            reader.errors[f"g{gear.n}_name"] = say("gear-name-twice", name=gear.name)
        seen.add(gear.name)
        if gear.role == "crank" and crank is not None:
            reader.errors[f"g{gear.n}_role"] = say("second-crank-gear", name=crank.name)
        crank = gear if gear.role == "crank" and crank is None else crank


def _row_of(reader: FormReader, field: str, by_row: dict[int, Toothed]) -> Toothed | None:
    text = reader.text(field)
    gear = by_row.get(int(text)) if text.isdecimal() else None
    if gear is None and text:
        reader.errors[field] = say("gear-not-described", text=text)
    return gear


def _contacts(reader: FormReader, gear: Toothed, by_row: dict[int, Toothed]) -> list[Contact]:
    """Where a gear is turned by others; nothing for the crank's, or one that sits on another's shaft."""
    n = gear.n
    if gear.role == "crank" or n == min(by_row):
        return []
    upstream = _row_of(reader, f"g{n}_on", by_row)
    if upstream is None:
        reader.errors.setdefault(f"g{n}_on", say("driver-missing", name=gear.name))
        return []
    how = reader.text(f"g{n}_how") or "mesh"
    belt = how == "belt"
    lies = reader.take(f"g{n}_lies", angle(-360, 360))
    if how not in HOW:
        reader.errors[f"g{n}_how"] = say("drive-kind-missing")
        return []
    also = _row_of(reader, f"g{n}_also", by_row)
    extra = [Contact(n, also.name, gear.name, "mesh")] if also else []
    if how == "shaft":
        return extra
    # A belt runs like a chain and is drawn as one; only its kind differs.
    how = "chain" if belt else how
    mark, there = reader.text(f"g{n}_mark"), reader.text(f"g{n}_there")
    if mark not in MARKS or there not in MARKS:
        reader.errors[f"g{n}_mark"] = say("mark-position-missing")
        return []
    if how != "chain" and mark and there and (mark == "tooth") == (there == "tooth"):
        reader.errors[f"g{n}_mark"] = say("marks-cannot-meet")
    tooth = reader.take(f"g{n}_there_tooth", lambda text: _tooth(text, upstream))
    links = reader.take(f"g{n}_links", count(4, 4 * core.MAX_TEETH, "links cannot be")) if how == "chain" else None
    label = reader.text(f"g{n}_label")[:6]
    return [Contact(n, upstream.name, gear.name, how, there, mark, tooth, label, links, belt, lies), *extra]


def _tooth(text: str, upstream: Toothed) -> float:
    tooth = count(0, core.MAX_TEETH, "is no tooth")(text)
    if tooth >= upstream.teeth:
        raise InvalidInput(
            "tooth", "mark-past-teeth", name=upstream.name, teeth=upstream.teeth, most=upstream.teeth - 1
        )
    return tooth


def _shafts(reader: FormReader, gears: list[Toothed]) -> dict[int, str | None]:
    """A name for each shaft that carries more than one gear."""
    root = {gear.n: gear.n for gear in gears}

    def find(n: int) -> int:
        while root[n] != n:
            n = root[n]
        return n

    for gear in gears:
        if reader.text(f"g{gear.n}_how") == "shaft" and gear.role != "crank":
            other = int(reader.text(f"g{gear.n}_on"))
            root[find(gear.n)] = find(other)
    groups = [find(gear.n) for gear in gears]
    return {
        gear.n: f"shaft {group}" if groups.count(group) > 1 else None for gear, group in zip(gears, groups, strict=True)
    }


def _ends(reader: FormReader, unit: LengthUnit, gears: list[Toothed]) -> Ends:
    """Keyways, the helical gear, and the sets of holes."""
    crank_key = reader.take("crank_key", angle(-360, 360))
    cam_key = reader.take("cam_key", angle(-360, 360))
    sets = reader.take("hole_sets", count(2, 12, "sets cannot be"))
    helix, gear = _helix(reader, unit, gears)
    return Ends(crank_key, cam_key, helix, gear, sets)


def _helix(reader: FormReader, unit: LengthUnit, gears: list[Toothed]) -> tuple[HelixInput | None, str]:
    module = reader.take("helix_module", above_nothing(unit))
    beta = reader.take("helix_angle", angle(-80, 80))
    travel = reader.take("helix_travel", above_nothing(unit))
    known = {"helix_module": module, "helix_angle": beta, "helix_travel": travel}
    empty = [name for name in known if not reader.text(name)]
    if len(empty) == len(known):
        return None, ""
    for name in empty:
        reader.errors[name] = say("helical-entry-incomplete")
    gear = next((gear for gear in gears if str(gear.n) == reader.text("helix_gear")), None)
    if gear is None:
        reader.errors["helix_gear"] = say("sliding-gear-missing")
    if module is None or beta is None or travel is None or gear is None:
        return None, ""
    return HelixInput(teeth=gear.teeth, normal_module_mm=module, helix_deg=beta, travel_mm=travel), gear.name


def _field_of(field: str, gears: list[Toothed], contacts: list[Contact]) -> str:
    """The field of the form behind a field of the calculation."""
    part, _, number = field.partition(".")
    if part == "gears":
        index, _, name = number.partition(".")
        return f"g{gears[int(index)].n}_{name or 'teeth'}"
    if part in ("meshes", "chains") and number:
        chained = [contact for contact in contacts if (contact.how == "chain") == (part == "chains")]
        return f"g{chained[int(number)].n}_on"
    return f"g{gears[-1].n}_on"


FORM = Form(
    KEY,
    "gear train",
    lambda typed, job: read(typed, job.unit),
    "Describe what turns the cam.",
    names=FIELDS,
    of_make=True,
    blank={"g1_name": "crank", "g1_role": "crank", "g2_role": "cam", "g2_on": "1"},
)


def described(job: Job) -> DriveTrain | None:
    """The train of a job, None where it is not described."""
    return job.form(FORM)


def when_back(train: DriveTrain) -> str:
    """The usual question, answered: what two turns bring back, what they do not, and when all meet."""
    if not train.marked:
        return say("no-marks")
    late = [contact for contact in train.marked if 2 % train.back_after(contact)]
    if not late:
        return say("marks-back-after-two-turns")
    names = ", ".join(contact.name for contact in late)
    return say("marks-back-later", names=names, all_back_after=train.all_back_after)
