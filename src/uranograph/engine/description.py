"""The engine as it is described: cylinders, firing order, rotation, valve train."""

from dataclasses import dataclass
from enum import StrEnum

from uranograph.bench.fields import above_nothing, length
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.words import refusal
from uranograph.core.errors import Impossible
from uranograph.core.firing import (
    MOST_CYLINDERS,
    Cylinder,
    companions,
    firing_angles,
    parse_firing_angles,
    parse_firing_order,
)
from uranograph.core.piston import Crank
from uranograph.core.quantities import LengthUnit, parse_number
from uranograph.core.wheel import Turn
from uranograph.engine.messages import say


class Valvetrain(StrEnum):
    """How lobes reach valves, and whether intake and exhaust can be timed apart."""

    PUSHROD = "pushrod"
    ONE_CAM_OVER = "one-cam-over"
    TWO_CAMS_OVER = "two-cams-over"
    TWO_CAMS_IN_BLOCK = "two-cams-in-block"
    ONE_CAM_A_BANK = "one-cam-a-bank"
    TWO_CAMS_A_BANK = "two-cams-a-bank"


class LiftAt(StrEnum):
    """Where the dial stands."""

    LIFTER = "lifter"
    FOLLOWER = "follower"
    BUCKET = "bucket"
    RETAINER = "retainer"


class Tappets(StrEnum):
    """What is in while the cam is checked."""

    SOLID = "solid"
    HYDRAULIC = "hydraulic"
    STAND_IN = "stand-in"


class Springs(StrEnum):
    """Which valve springs are on while the cam is checked."""

    NONE = "none"
    LIGHT = "light"
    REAL = "real"


TAPPET_WORDS = {
    Tappets.SOLID: "solid",
    Tappets.HYDRAULIC: "hydraulic",
    Tappets.STAND_IN: "hydraulic, a solid stand-in now",
}


SPRING_WORDS = {Springs.NONE: "none", Springs.LIGHT: "light ones", Springs.REAL: "the real ones"}


VALVETRAIN_WORDS = {
    Valvetrain.PUSHROD: "pushrods, one cam",
    Valvetrain.ONE_CAM_OVER: "one cam over the valves",
    Valvetrain.TWO_CAMS_OVER: "two cams over the valves",
    Valvetrain.TWO_CAMS_IN_BLOCK: "two cams in the block",
    Valvetrain.ONE_CAM_A_BANK: "one cam on each of two banks",
    Valvetrain.TWO_CAMS_A_BANK: "two cams on each of two banks",
}


FIELDS = (
    "cylinders",
    "firing_order",
    "firing_angles",
    "rotation",
    "unit",
    "stroke",
    "rod",
    "pin_offset",
    "bore",
    "compression",
    "valvetrain",
    "rocker_ratio",
    "lift_at",
    "tappets",
    "springs",
    "bank2_cylinder",
)


@dataclass(frozen=True)
class Engine:
    """An engine as the bench needs it."""

    cylinders: int
    firing_order: tuple[Cylinder, ...]
    rotation: Turn
    unit: LengthUnit
    crank: Crank | None
    valvetrain: Valvetrain
    rocker_ratio: float | None
    lift_at: LiftAt
    firing_deg: tuple[float, ...] = ()
    bore_mm: float | None = None
    compression: float | None = None
    tappets: str = ""
    springs: str = ""
    bank2_cylinder: Cylinder | None = None

    @property
    def dial_at_valve(self) -> bool:
        """Whether the dial reads the valve's lift and not the lobe's."""
        return self.lift_at in (LiftAt.BUCKET, LiftAt.RETAINER)

    @property
    def ratio(self) -> float | None:
        """Valve lift over lobe lift; a bucket follows its lobe; None where that is not known."""
        return self.rocker_ratio or (1.0 if self.lift_at is LiftAt.BUCKET else None)

    @property
    def fires(self) -> dict[Cylinder, float]:
        """Crank degrees from the first of the firing order at which each cylinder fires; empty without an order."""
        return firing_angles(self.firing_order, self.firing_deg) if self.firing_order else {}

    @property
    def companions(self) -> dict[Cylinder, Cylinder]:
        return companions(self.firing_order, self.firing_deg) if self.firing_order else {}

    @property
    def rising_together(self) -> list[tuple[Cylinder, Cylinder]]:
        """Each pair of companions once, lowest number first."""
        pairs = {tuple(sorted(pair, key=_by_number)) for pair in self.companions.items()}
        return sorted(((one, other) for one, other in pairs), key=lambda pair: _by_number(pair[0]))

    @property
    def order_words(self) -> str:
        """The firing order as it is written, with its angles where it is uneven."""
        written = "-".join(map(str, self.firing_order))
        return f"{written} at {', '.join(f'{deg:g}' for deg in self.firing_deg)}" if self.firing_deg else written

    @property
    def separate_cams(self) -> bool:
        """Whether intake and exhaust lobes move apart."""
        two = (Valvetrain.TWO_CAMS_OVER, Valvetrain.TWO_CAMS_IN_BLOCK, Valvetrain.TWO_CAMS_A_BANK)
        return self.valvetrain in two

    @property
    def banks(self) -> int:
        """How many banks have cams of their own."""
        return 2 if self.valvetrain in (Valvetrain.ONE_CAM_A_BANK, Valvetrain.TWO_CAMS_A_BANK) else 1

    @property
    def words(self) -> str:
        """The engine in one line."""
        kind = {1: "single", 2: "twin", 4: "four", 6: "six", 8: "eight", 12: "twelve"}.get(self.cylinders)
        return f"{kind or f'{self.cylinders} cylinders'}, {VALVETRAIN_WORDS[self.valvetrain]}"


def _by_number(cylinder: Cylinder) -> tuple[int, str]:
    text = str(cylinder)
    return int("".join(filter(str.isdigit, text)) or 0), text


@remembered
def read(typed: Typed) -> Filled[Engine]:
    """Read an engine form as typed.

    Parameters
    ----------
    typed
        Text by field name, see `FIELDS`. Lengths in `unit` unless a suffix says otherwise.

    Returns
    -------
    Sheet
        The engine, or what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"cylinders": "4", "firing_order": "1-3-4-3"})
    >>> filled.errors["firing_order"]
    '1-3-4-3 does not name each cylinder once: 2 is missing, 3 stands twice.'
    """
    reader = FormReader(typed)
    cylinders = reader.take("cylinders", _cylinders, say("cylinders-missing"))
    order: tuple[Cylinder, ...] = ()
    angles: tuple[float, ...] = ()
    if cylinders is not None:
        order = reader.take("firing_order", lambda text: parse_firing_order(text, cylinders)) or ()
        angles = reader.take("firing_angles", lambda text: parse_firing_angles(text, cylinders)) or ()
        if cylinders == 1 and not order:
            order = (1,)
        if angles and not order and "firing_order" not in reader.errors:
            reader.errors["firing_order"] = say("firing-order-for-angles")
    rotation = reader.choose("rotation", Turn, say("rotation-missing"))
    unit = reader.choose("unit", LengthUnit, say("unit-missing"))
    valvetrain = reader.choose("valvetrain", Valvetrain, say("valvetrain-missing"))
    lift_at = reader.choose("lift_at", LiftAt, say("lift-position-missing"))
    rocker_ratio = reader.take("rocker_ratio", _ratio)
    crank = _crank(reader, unit or LengthUnit.INCH)
    tappets = reader.choose("tappets", Tappets, say("tappets-missing")) if reader.text("tappets") else None
    springs = reader.choose("springs", Springs, say("springs-missing")) if reader.text("springs") else None
    bore = reader.take("bore", above_nothing(unit or LengthUnit.INCH))
    compression = reader.take("compression", _compression)
    bank2_cylinder = _cylinder_named(reader, "bank2_cylinder", order)
    if reader.errors or cylinders is None or rotation is None or unit is None or valvetrain is None or lift_at is None:
        return Filled(None, reader.errors)
    return Filled(
        Engine(
            cylinders,
            order,
            rotation,
            unit,
            crank,
            valvetrain,
            rocker_ratio,
            lift_at,
            angles,
            bore,
            compression,
            tappets.value if tappets else "",
            springs.value if springs else "",
            bank2_cylinder,
        )
    )


def _cylinder_named(reader: FormReader, name: str, order: tuple[Cylinder, ...]) -> Cylinder | None:
    text = reader.text(name).upper()
    found = next((each for each in order if str(each) == text), None)
    if text and found is None and "firing_order" not in reader.errors:
        reader.errors[name] = (
            say("cylinder-not-in-order", typed=reader.text(name)) if order else say("firing-order-needed")
        )
    return found


def _cylinders(text: str) -> int:
    number = parse_number(text)
    if number != int(number) or not 1 <= number <= MOST_CYLINDERS:
        raise Impossible("cylinders", "cylinders-outside", typed=text, most_cylinders=MOST_CYLINDERS)
    return int(number)


def _ratio(text: str) -> float:
    ratio = parse_number(text)
    if not 0.5 <= ratio <= 4:
        raise Impossible("rocker_ratio", "rocker-ratio-unlikely", ratio=ratio)
    return ratio


def _compression(text: str) -> float:
    """Read a compression ratio: 9.5, or 9.5:1."""
    ratio = parse_number(text.partition(":")[0])
    if not 2 <= ratio <= 30:
        raise Impossible("compression", "compression-unlikely", typed=text)
    return ratio


def _crank(reader: FormReader, unit: LengthUnit) -> Crank | None:
    stroke = reader.take("stroke", above_nothing(unit))
    rod = reader.take("rod", above_nothing(unit))
    offset = reader.take("pin_offset", length(unit, least=None))
    if stroke is None or rod is None:
        if (stroke is None) != (rod is None) and not {"stroke", "rod"} & reader.errors.keys():
            empty = "rod" if rod is None else "stroke"
            reader.errors[empty] = say("stroke-and-rod-together")
        return None
    crank = Crank(stroke_mm=stroke, rod_mm=rod, pin_offset_mm=offset or 0.0)
    try:
        crank.check()
    except Impossible as error:
        reader.errors[error.field.removesuffix("_mm")] = refusal(error, unit)
        return None
    return crank


FORM = Form(FIRST_FORM, "engine", lambda typed, job: read(typed), "Describe the engine.", names=FIELDS, of_make=True)


def engine_of(job: Job) -> Engine | None:
    """The engine of a job, where it is described."""
    return job.form(FORM)


def rotation_of(job: Job) -> Turn | None:
    """Which way its crank turns, seen from the front."""
    engine = engine_of(job)
    return engine.rotation if engine else None
