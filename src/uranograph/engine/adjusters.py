"""Adjusters of a drive, typed one to a line."""

from dataclasses import dataclass, replace

from pydantic import TypeAdapter, ValidationError

from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import Job
from uranograph.bench.messages import refusal
from uranograph.bench.parsers import length
from uranograph.core.adjust import Adjuster, AdjustInput, positions
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import LengthUnit, parse_angle
from uranograph.engine.cams import cam_of_bank
from uranograph.engine.messages import say

MAX_ADJUSTERS = 4
# Which cams an adjuster moves: all of them, those of one name, or those of one bank.
MOVES = ("both", "intake", "exhaust", *(f"bank{n}-{cam}" for n in (1, 2) for cam in ("both", "intake", "exhaust")))
KIND_WORDS = {
    "choices": "keyed crank gear, offset bushings or keys",
    "tooth": "whole teeth",
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
ADJUSTER_FIELDS = (
    "kind",
    "name",
    "on",
    "options",
    "fitted",
    "teeth",
    "holes",
    "hub_holes",
    "sets",
    "range",
    "step",
    "marks",
    "where",
    "degrees",
)
FIELDS = (
    *(f"a{n}_{name}" for n in range(1, MAX_ADJUSTERS + 1) for name in ADJUSTER_FIELDS),
    "tight_span",
    "cam_radius",
    "elongation",
    "center_drop",
    "unit",
)
_ADJUSTER: TypeAdapter[Adjuster] = TypeAdapter(Adjuster)


@dataclass(frozen=True)
class Described:
    """One adjuster: its name, which cam it moves, and what it offers."""

    name: str
    on: str
    adjuster: Adjuster
    at_cam: bool = False

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
    Sheet
        The drive, or what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"a1_kind": "choices", "a1_options": "R4: -4, 0: 0, A4: 4", "a1_fitted": "0"}, LengthUnit.INCH)
    >>> [option.label for option in filled.value.adjusters[0].adjuster.options]
    ['R4', '0', 'A4']
    """
    reader = FormReader(typed)
    own_unit = reader.unit(unit)
    found: list[Described] = []
    for n in range(1, MAX_ADJUSTERS + 1):
        kind = reader.text(f"a{n}_kind")
        if kind:
            one = _adjuster(reader, n, kind)
            if one is not None:
                name = _unique_name(reader.text(f"a{n}_name") or KIND_WORDS.get(kind, kind), found)
                on = reader.text(f"a{n}_on") if reader.text(f"a{n}_on") in MOVES else "both"
                found.append(Described(name, on, one, reader.text(f"a{n}_where") == "cam"))
    lengths = {name: reader.take(name, length(own_unit)) for name in ("tight_span", "cam_radius")}
    # A thicker gasket raises the centers: a negative drop.
    lengths["center_drop"] = reader.take("center_drop", length(own_unit, least=None, most_mm=10))
    elongation = reader.take("elongation", _percent)
    if not found and not reader.errors:
        reader.errors["a1_kind"] = say("drive-missing")
    if reader.errors:
        return Filled(None, reader.errors)
    return Filled(Drive(tuple(found), lengths["tight_span"], lengths["cam_radius"], elongation, lengths["center_drop"]))


FORM = Form(
    "drive",
    "drive",
    lambda typed, job: read(typed, job.unit),
    "Describe what this drive offers.",
    names=FIELDS,
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


def _adjuster(reader: FormReader, n: int, kind: str) -> Adjuster | None:
    before = len(reader.errors)

    def number(name: str, say: str) -> float | None:
        return reader.take(f"a{n}_{name}", parse_angle, say)

    data: dict[str, object] = {"kind": kind}
    if kind == "choices":
        options = reader.take(f"a{n}_options", _options, say("choices-missing"))
        if "cam" in (reader.text(f"a{n}_degrees"), reader.text(f"a{n}_marks")):
            options = [{**option, "shift_deg": 2 * float(str(option["shift_deg"]))} for option in options or []]
        data |= {
            "options": options or [],
            "fitted": reader.text(f"a{n}_fitted") or (options or [{"label": ""}])[0]["label"],
        }
    elif kind == "tooth":
        data["crank_teeth"] = number("teeth", say("crank-teeth-missing"))
    elif kind == "pin-vernier":
        data["sprocket_holes"] = number("holes", say("sprocket-holes-missing"))
        data["hub_holes"] = number("hub_holes", say("hub-holes-missing"))
    elif kind == "hole-sets":
        data["cam_teeth"] = number("teeth", say("cam-teeth-missing"))
        data["sets"] = number("sets", say("hole-sets-missing"))
    elif kind == "slot":
        data["range_deg"] = number("range", say("slot-range-missing"))
        data["step_deg"] = number("step", say("slot-step-missing"))
        data["marks"] = "cam" if reader.text(f"a{n}_marks") == "cam" else "crank"
    else:
        reader.errors[f"a{n}_kind"] = say("adjuster-kind-missing")
    if len(reader.errors) > before:
        return None
    try:
        adjuster = _ADJUSTER.validate_python(data)
        positions(adjuster)
    except ValidationError as error:
        item = error.errors(include_url=False)[0]
        reader.errors[_field_of(n, kind, str(item["loc"][-1]))] = f"This cannot be: {item['msg'].lower()}."
        return None
    except InvalidInput as error:
        reader.errors[f"a{n}_{'fitted' if kind == 'choices' else 'step'}"] = refusal(error)
        return None
    return adjuster


def _field_of(n: int, kind: str, name: str) -> str:
    fields = {
        "crank_teeth": "teeth",
        "cam_teeth": "teeth",
        "sprocket_holes": "holes",
        "range_deg": "range",
        "step_deg": "step",
    }
    return f"a{n}_{fields.get(name, name if name in ADJUSTER_FIELDS else 'kind')}"


def _options(text: str) -> list[dict[str, object]]:
    options: list[dict[str, object]] = []
    for part in text.split(","):
        label, colon, shift = part.rpartition(":")
        if not colon or not label.strip():
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


def given(drive: Drive, lobe: str, error_deg: float, keep: int = 4) -> AdjustInput | None:
    """The search for this lobe's cam, None where nothing moves it."""
    moving = drive.moving(lobe)
    if not moving:
        return None
    return AdjustInput(error_deg=error_deg, adjusters=[each.adjuster for each in moving], keep=keep)
