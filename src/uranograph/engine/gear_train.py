"""The gear train as it is described: gears, meshes, marks and keyways."""

from collections.abc import Iterable

from uranograph.bench.fields import Angle, Choice, Count, Custom, Fields, Length, Text
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.bench.rows import Rows
from uranograph.core import train as core
from uranograph.core.errors import InvalidInput
from uranograph.core.helix import HelixInput
from uranograph.core.quantities import LengthUnit
from uranograph.engine.gear_train_model import Contact, DriveTrain, Ends, Toothed
from uranograph.engine.messages import say

KEY = "train"


MAX_GEARS = 20
MAX_NAME = 24


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


class GearFields(Fields):
    """One gear: what it is, what turns it, and the marks where they meet; the first is the crank's and nothing turns it."""

    name = Text("name", "Name", longest=200, required=say("gear-name-missing"))
    teeth = Count("teeth", "Teeth", least=3, most=core.MAX_TEETH, counted="teeth cannot be").optional()
    role = Choice("role", "Is", ROLES.items(), unknown=say("gear-role-missing"))
    on = Text("on", "Turned by gear")
    how = Choice("how", "By", HOW.items(), unknown=say("drive-kind-missing"))
    mark = Choice("mark", "Its mark", MARKS.items(), unknown=say("mark-position-missing"))
    there = Choice("there", "The other's mark", MARKS.items(), unknown=say("mark-position-missing"))
    there_tooth = Count(
        "there_tooth",
        "Other's mark at its tooth",
        "from its first mark, if it has more",
        least=0,
        most=core.MAX_TEETH,
        counted="is no tooth",
    ).optional()
    label = Text("label", "They read", "a letter or number", longest=6)
    links = Count(
        "links",
        "Chain links",
        "if links are marked",
        least=4,
        most=4 * core.MAX_TEETH,
        counted="links cannot be",
        when=("how", ("chain", "belt")),
    ).optional()
    lies = Angle(
        "lies",
        "Lies toward, deg",
        "clockwise from straight up, from the front; by itself unless typed",
        least=-360,
        most=360,
    ).optional()
    also = Text("also", "Meshes also with")
    held = Choice("held", "Held by", HELD.items(), unknown=say("gear-held-missing"))
    sprung = Custom("sprung", "Split gear", reads=lambda text: text == "1", free=False, default=False)

    def check(self) -> Iterable[tuple[str, str]]:
        if self.name and len(self.name) > MAX_NAME:
            yield "name", say("gear-name-too-long")
        if self.teeth is None:
            yield "teeth", say("gear-teeth-missing", figure=self.name or "this gear")
        by_teeth = self.how in ("mesh", "crossed") and self.mark and self.there
        if by_teeth and (self.mark == "tooth") == (self.there == "tooth"):
            yield "mark", say("marks-cannot-meet")

    def gear(self, n: int, first: bool) -> Toothed:
        """The gear of row `n`."""
        usual = "crank" if first else "idler"
        return Toothed(n, self.name, self.teeth or 0, self.texts["role"] or usual, self.held, self.sprung)


class EndFields(Fields):
    """What a gear train has besides its gears: keyways, a helical gear that slides in, sets of holes."""

    crank_key = Angle(
        "crank_key", "Crank key belongs at", "deg clockwise from straight up, from the front", least=-360, most=360
    ).optional()
    cam_key = Angle("cam_key", "Cam key belongs at", "with the crank key there", least=-360, most=360).optional()
    helix_gear = Text("helix_gear", "Helical gear that slides in")
    helix_module = Length("helix_module", "Its normal module", above_zero=True).optional()
    helix_angle = Angle("helix_angle", "Helix angle, deg", "minus for the other hand", least=-80, most=80).optional()
    helix_travel = Length("helix_travel", "Slides in by", above_zero=True).optional()
    hole_sets = Count("hole_sets", "Sets of holes, blind gear", least=2, most=12, counted="sets cannot be").optional()

    def check(self) -> Iterable[tuple[str, str]]:
        stated = [name for name in _HELIX if self.texts[name]]
        if stated:
            yield from ((name, say("helical-entry-incomplete")) for name in _HELIX if name not in stated)

    def ends(self, gears: list[Toothed]) -> Ends:
        """The same as the train takes it; a helical gear among these gears."""
        gear = next((gear for gear in gears if str(gear.n) == self.helix_gear), None)
        if self.helix_module is None or self.helix_angle is None or self.helix_travel is None or gear is None:
            return Ends(self.crank_key, self.cam_key, None, "", self.hole_sets)
        helix = HelixInput(
            teeth=gear.teeth,
            normal_module_mm=self.helix_module,
            helix_deg=self.helix_angle,
            travel_mm=self.helix_travel,
        )
        return Ends(self.crank_key, self.cam_key, helix, gear.name, self.hole_sets)


_HELIX = ("helix_module", "helix_angle", "helix_travel")
GEARS = Rows(GearFields, "g", MAX_GEARS, filled_by=("name", "teeth"))
# The first gear is the crank's: no other gear drives it.
_OF_FIRST = tuple(GEARS.name(1, name) for name in ("name", "teeth", "role", "held", "sprung"))
FIELDS = (
    *_OF_FIRST,
    *(name for name in GEARS.names if not name.startswith(GEARS.name(1, ""))),
    *EndFields.names(),
    "unit",
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
    Filled
        The train, or what is wrong beside each gear.

    Examples
    --------
    >>> filled = read({"g1_name": "crank", "g1_teeth": "21", "g1_role": "crank", "g2_name": "cam", "g2_teeth": "42",
    ...     "g2_role": "cam", "g2_on": "1"}, LengthUnit.MM)
    >>> filled.value.ratio_ok, filled.value.all_back_after
    (True, 1)
    """
    rows, errors = GEARS.read(typed, unit)
    first = min(GEARS.filled(typed), default=0)
    gears = [row.gear(n, first=n == first) for n, row in rows.items()]
    if not first:
        errors["g1_name"] = say("crank-gear-missing")
    if gears and gears[0].n == first and gears[0].role != "crank":
        errors[f"g{first}_role"] = say("first-gear-not-crank")
    _names_once(errors, gears)
    by_row = {gear.n: gear for gear in gears}
    contacts = [contact for gear in gears for contact in _contacts(errors, rows[gear.n], gear, by_row)]
    ends = EndFields.read(typed, unit)
    errors.update(ends.errors)
    if any(typed.get(name, "").strip() for name in _HELIX) and typed.get("helix_gear", "") not in map(str, by_row):
        errors["helix_gear"] = say("sliding-gear-missing")
    if errors or ends.value is None:
        return Filled(None, errors)
    shafts = _shafts(rows, gears)
    cams = [gear for gear in gears if gear.role == "cam"]
    crank = next((gear for gear in gears if gear.role == "crank"), None)
    if not cams:
        errors[f"g{gears[-1].n}_role"] = say("cam-gear-missing")
    if crank is None or not cams:
        return Filled(None, errors)
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
        errors[_field_of(error.field, gears, contacts)] = refusal(error)
        return Filled(None, errors)
    return Filled(DriveTrain(tuple(gears), tuple(contacts), given, found, ends.value.ends(gears)))


def _names_once(errors: dict[str, str], gears: list[Toothed]) -> None:
    seen: set[str] = set()
    crank: Toothed | None = None
    for gear in gears:
        if gear.name in seen:
            errors[f"g{gear.n}_name"] = say("gear-name-twice", name=gear.name)
        seen.add(gear.name)
        if gear.role == "crank" and crank is not None:
            errors[f"g{gear.n}_role"] = say("second-crank-gear", name=crank.name)
        crank = gear if gear.role == "crank" and crank is None else crank


def _driver(errors: dict[str, str], field: str, text: str, by_row: dict[int, Toothed]) -> Toothed | None:
    gear = by_row.get(int(text)) if text.isdecimal() else None
    if gear is None and text:
        errors[field] = say("gear-not-described", text=text)
    return gear


def _contacts(errors: dict[str, str], row: GearFields, gear: Toothed, by_row: dict[int, Toothed]) -> list[Contact]:
    """Where a gear is turned by others; nothing for the crank's, or one that sits on another's shaft."""
    n = gear.n
    if gear.role == "crank" or n == min(by_row):
        return []
    upstream = _driver(errors, GEARS.name(n, "on"), row.on, by_row)
    if upstream is None:
        errors.setdefault(GEARS.name(n, "on"), say("driver-missing", name=gear.name))
        return []
    also = _driver(errors, GEARS.name(n, "also"), row.also, by_row)
    extra = [Contact(n, also.name, gear.name, "mesh")] if also else []
    if row.how == "shaft":
        return extra
    tooth, last = row.there_tooth, upstream.teeth - 1
    if tooth is not None and tooth > last:
        past = InvalidInput("tooth", "mark-past-teeth", name=upstream.name, teeth=upstream.teeth, most=last)
        errors[GEARS.name(n, "there_tooth")] = refusal(past)
    # A belt runs like a chain and is drawn as one; only its kind differs.
    belt = row.how == "belt"
    how = "chain" if belt else row.how
    meeting = Contact(
        n, upstream.name, gear.name, how, row.there, row.mark, tooth, row.label, row.links, belt, row.lies
    )
    return [meeting, *extra]


def _shafts(rows: dict[int, GearFields], gears: list[Toothed]) -> dict[int, str | None]:
    """A name for each shaft that carries more than one gear."""
    root = {gear.n: gear.n for gear in gears}

    def find(n: int) -> int:
        while root[n] != n:
            n = root[n]
        return n

    for gear in gears:
        if rows[gear.n].how == "shaft" and gear.role != "crank":
            other = int(rows[gear.n].on)
            root[find(gear.n)] = find(other)
    groups = [find(gear.n) for gear in gears]
    return {
        gear.n: f"shaft {group}" if groups.count(group) > 1 else None for gear, group in zip(gears, groups, strict=True)
    }


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


def driven_by(job: Job) -> frozenset[str]:
    """How the described train hands motion on: `mesh`, `crossed`, `chain` (belts too); empty where none is described.

    What gears alone or chains alone have is not asked of the other.
    """
    found = described(job)
    return frozenset(contact.how for contact in found.contacts if contact.how != "shaft") if found else frozenset()


def when_back(train: DriveTrain) -> str:
    """The usual question, answered: what two turns bring back, what they do not, and when all meet."""
    if not train.marked:
        return say("no-marks")
    late = [contact for contact in train.marked if 2 % train.back_after(contact)]
    if not late:
        return say("marks-back-after-two-turns")
    names = ", ".join(contact.name for contact in late)
    return say("marks-back-later", names=names, all_back_after=train.all_back_after)
