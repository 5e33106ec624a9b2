"""Adjusters of a drive, typed one to a line."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from pydantic import TypeAdapter, ValidationError

from uranograph.bench.fields import Choice, Custom, Fields, Length, Text
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.bench.rows import Rows
from uranograph.core.adjust import Adjuster, AdjustInput, positions
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle
from uranograph.engine.cams import cam_of_bank, cam_words
from uranograph.engine.messages import say

MAX_ADJUSTERS = 4
# Which cams an adjuster moves: all of them, those of one name, or those of one bank.
MOVES = ("both", "intake", "exhaust", *(f"bank{n}-{cam}" for n in (1, 2) for cam in ("both", "intake", "exhaust")))
KIND_WORDS = {
    "choices": "keyed crank gear",
    "offset": "offset bushings or keys",
    "tooth": "belt or chain tooth",
    "pin-vernier": "pin vernier",
    "hole-sets": "bolt-hole patterns",
    "slot": "slotted gear",
}
PARTS_OF = {
    "choices": "the crank gear comes off, so the cover and the chain or the mesh come apart",
    "tooth": "the chain or the mesh comes apart",
    "pin-vernier": "the sprocket's pin or bolts come out; the chain stays on",
    "hole-sets": "the cam gear comes off and goes on by another set of holes",
    "slot": "the clamp bolts are slackened; nothing else comes apart",
}
CAM_GEAR_OFF = "the cam gear comes off, and the chain or the mesh comes apart"
_ADJUSTER: TypeAdapter[Adjuster] = TypeAdapter(Adjuster)


def _options(text: str) -> list[dict[str, object]]:
    """Positions with their shifts, degrees: `R4: -4, 0: 0, A4: 4`, with or without the colons."""
    options: list[dict[str, object]] = []
    for part in text.split(","):
        label, colon, shift = part.rpartition(":")
        if not colon:
            label, _, shift = part.strip().rpartition(" ")
        if not label.strip():
            raise InvalidInput("options", "not-a-label-with-shift", typed=part.strip())
        if any(option["label"] == label.strip() for option in options):
            raise InvalidInput("options", "label-twice", typed=label.strip())
        options.append({"label": label.strip(), "shift_deg": parse_angle(shift)})
    return options


def _percent(text: str) -> float:
    value = parse_angle(text.strip().removesuffix("%"))
    if not 0 <= value <= 5:
        raise InvalidInput("elongation", "chain-too-long", typed=text)
    return value


# Degrees of crank or cam, and at which gear.
_CRANK_OR_CAM = (("crank", "crank deg"), ("cam", "cam deg"))
_CHOICES, _SLOT, _PINS = ("kind", ("choices", "offset")), ("kind", ("slot",)), ("kind", ("pin-vernier",))


def _number(name: str, label: str, missing: str, when: tuple[str, tuple[str, ...]]) -> Custom[float]:
    return Custom(name, label, reads=parse_angle, free=False, required=missing, when=when)


class AdjusterFields(Fields):
    """One adjuster: its kind, its name, which cam it moves, and what a kind of its sort offers."""

    kind = Choice("kind", "Kind", (("", "none"), *KIND_WORDS.items()), unknown=say("adjuster-kind-missing"))
    name = Text("name", "Name")
    on = Choice(
        "on",
        "Moves",
        ((key, "every cam" if key == "both" else cam_words(key)) for key in MOVES),
        unknown=say("adjuster-kind-missing"),
    )
    options = Custom(
        "options",
        "Positions and their degrees, + = advance",
        "R4: -4, 0: 0, A4: 4",
        reads=_options,
        free=True,
        required=say("choices-missing"),
        when=_CHOICES,
    )
    degrees = Choice("degrees", "Degrees are", _CRANK_OR_CAM, unknown=say("adjuster-kind-missing"), when=_CHOICES)
    fitted = Text("fitted", "Fitted now", when=_CHOICES)
    where = Choice(
        "where",
        "They are",
        (("crank", "at the crank gear"), ("cam", "at the cam gear")),
        unknown=say("adjuster-kind-missing"),
        when=_CHOICES,
    )
    teeth = Custom(
        "teeth",
        "Teeth",
        "crank gear's; cam gear's for bolt-hole patterns",
        reads=parse_angle,
        when=("kind", ("tooth", "hole-sets")),
    ).optional()
    sets = _number("sets", "Sets of holes", say("hole-sets-missing"), ("kind", ("hole-sets",)))
    holes = _number("holes", "Sprocket holes", say("sprocket-holes-missing"), _PINS)
    hub_holes = _number("hub_holes", "Hub holes", say("hub-holes-missing"), _PINS)
    range = _number("range", "Either way", say("slot-range-missing"), _SLOT)
    step = _number("step", "Step", say("slot-step-missing"), _SLOT)
    marks = Choice("marks", "Marks are", _CRANK_OR_CAM, unknown=say("adjuster-kind-missing"), when=_SLOT)

    def check(self) -> Iterable[tuple[str, str]]:
        if self.teeth is None and self.kind == "tooth":
            yield "teeth", say("crank-teeth-missing")
        if self.teeth is None and self.kind == "hole-sets":
            yield "teeth", say("cam-teeth-missing")

    @property
    def has_positions(self) -> bool:
        """Whether it offers positions with a shift each: keyways, or bushings and keys to choose from."""
        return self.kind in _CHOICES[1]

    @property
    def data(self) -> dict[str, object]:
        """The adjuster as the calculation takes it."""
        if self.has_positions:
            twice = 2 if "cam" in (self.degrees, self.texts["marks"]) else 1
            options = [{**option, "shift_deg": twice * float(str(option["shift_deg"]))} for option in self.options]
            return {"options": options, "fitted": self.fitted or self.options[0]["label"]}
        if self.kind == "tooth":
            return {"crank_teeth": self.teeth}
        if self.kind == "pin-vernier":
            return {"sprocket_holes": self.holes, "hub_holes": self.hub_holes}
        if self.kind == "hole-sets":
            return {"cam_teeth": self.teeth, "sets": self.sets}
        return {"range_deg": self.range, "step_deg": self.step, "marks": self.marks}


class ChainFields(Fields):
    """What shifts a cam besides the adjusters: a worn chain, a block or head cut."""

    tight_span = Length("tight_span", "Tight span").optional()
    cam_radius = Length("cam_radius", "Cam sprocket radius").optional()
    elongation = Custom("elongation", "Longer, %", reads=_percent, free=False).optional()
    # A thicker gasket raises the centers: a negative drop.
    center_drop = Length(
        "center_drop", "Cut off in all", "minus for a thicker gasket", least_mm=None, most_mm=10
    ).optional()


ADJUSTERS = Rows(AdjusterFields, "a", MAX_ADJUSTERS, filled_by=("kind",))
FIELDS = (*ADJUSTERS.names, *ChainFields.names(), "unit")


@dataclass(frozen=True)
class Described:
    """One adjuster: its name, which cam it moves, and what it offers; `offset` where bushings or keys are exchanged."""

    name: str
    on: str
    adjuster: Adjuster
    at_cam: bool = False
    offset: bool = False

    @property
    def landing(self) -> str:
        """What decides how near a move lands to its mark: its kind, or that it turns on a bushing."""
        return "bushing" if self.adjuster.kind == "choices" and (self.at_cam or self.offset) else self.adjuster.kind

    @property
    def opens_crank(self) -> bool:
        """Whether the crank gear comes off for it; a wheel on that end must then be set up again."""
        return self.adjuster.kind == "choices" and not self.at_cam

    @property
    def comes_apart(self) -> str:
        """Parts that come off to adjust it, as a phrase."""
        return CAM_GEAR_OFF if self.adjuster.kind == "choices" and self.at_cam else PARTS_OF[self.adjuster.kind]


@dataclass(frozen=True)
class Drive:
    """A drive's adjusters, and what is known of its chain, mm and percent."""

    adjusters: tuple[Described, ...]
    tight_span_mm: float | None = None
    cam_radius_mm: float | None = None
    elongation_pct: float | None = None
    center_drop_mm: float | None = None

    def moving(self, lobe: str) -> list[Described]:
        """The adjusters that move this lobe's cam."""
        return [each for each in self.adjusters if each.on in ("both", lobe)]


@remembered
def read(typed: Typed, unit: LengthUnit) -> Filled[Drive]:
    """Read a drive form as typed.

    Parameters
    ----------
    typed
        Text by field name: `a1_kind`, `a1_name` and so on for up to four adjusters; choices as `+4: 4, 0: 0`.
    unit
        What bare lengths are taken in, unless the form names its own unit.

    Returns
    -------
    Filled
        The drive, or what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"a1_kind": "choices", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0"}, LengthUnit.INCH)
    >>> [option.label for option in filled.value.adjusters[0].adjuster.options]
    ['R4', '0', 'A4']
    """
    rows, errors = ADJUSTERS.read(typed, unit)
    chain = ChainFields.read(typed, unit)
    errors.update(chain.errors)
    found: list[Described] = []
    for n, row in rows.items():
        adjuster = _adjuster(row, n, errors)
        if adjuster is not None:
            name = _unique_name(row.name or KIND_WORDS[row.kind], found)
            found.append(Described(name, row.on, adjuster, row.where == "cam", row.kind == "offset"))
    if not found and not errors:
        errors["a1_kind"] = say("drive-missing")
    if errors or chain.value is None:
        return Filled(None, errors)
    span = chain.value
    return Filled(Drive(tuple(found), span.tight_span, span.cam_radius, span.elongation, span.center_drop))


FORM = Form(
    "drive",
    "drive",
    lambda typed, job: read(typed, job.unit),
    "Describe what this drive offers.",
    names=FIELDS,
    groups=(*ADJUSTERS.groups("Adjuster"), *ChainFields.groups(title="Chain worn, block or head cut")),
    shelved=True,
    of_make=True,
)


def drive_of(job: Job) -> Drive | None:
    """The drive with its adjusters, where it is described; of one bank each as that bank's cams see it."""
    found = job.form(FORM)
    if found is None or not job.bank:
        return found
    return replace(found, adjusters=tuple(replace(a, on=cam_of_bank(a.on, job.bank)) for a in found.adjusters))


def _unique_name(name: str, before: list[Described]) -> str:
    """A name that no other adjuster has: what is moved is written down by it."""
    taken = {each.name for each in before}
    return next(each for each in (name, *(f"{name} {n}" for n in range(2, MAX_ADJUSTERS + 1))) if each not in taken)


def _adjuster(row: AdjusterFields, n: int, errors: dict[str, str]) -> Adjuster | None:
    try:
        adjuster = _ADJUSTER.validate_python({"kind": "choices" if row.has_positions else row.kind, **row.data})
        positions(adjuster)
    except ValidationError as error:
        item = error.errors(include_url=False)[0]
        errors[ADJUSTERS.name(n, _field_of(str(item["loc"][-1])))] = f"This cannot be: {item['msg'].lower()}."
    except InvalidInput as error:
        errors[ADJUSTERS.name(n, "fitted" if row.has_positions else "step")] = refusal(error)
    else:
        return adjuster
    return None


def _field_of(name: str) -> str:
    """The field of a row behind a field of the calculation."""
    fields = {
        "crank_teeth": "teeth",
        "cam_teeth": "teeth",
        "sprocket_holes": "holes",
        "range_deg": "range",
        "step_deg": "step",
    }
    field = fields.get(name, name)
    return field if field in AdjusterFields.names() else "kind"


def given(drive: Drive, lobe: str, error_deg: float, keep: int = 4) -> AdjustInput | None:
    """The search for this lobe's cam, None where nothing moves it."""
    moving = drive.moving(lobe)
    if not moving:
        return None
    return AdjustInput(error_deg=error_deg, adjusters=[each.adjuster for each in moving], keep=keep)
