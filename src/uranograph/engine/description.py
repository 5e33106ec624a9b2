"""The engine as it is described: cylinders, firing order, rotation, valve train."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum

from uranograph.bench.fields import Custom, EnumChoice, Fields, Length, Text
from uranograph.bench.forms import Filled, Form, FormReader, Typed, remembered
from uranograph.bench.job import FIRST_FORM, Job
from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.firing import (
    MAX_CYLINDERS,
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
    """Where the dial is mounted."""

    LIFTER = "lifter"
    FOLLOWER = "follower"
    BUCKET = "bucket"
    RETAINER = "retainer"


class Tappets(StrEnum):
    """Parts fitted while the cam is checked."""

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
        pairs = {tuple(sorted(pair, key=by_number)) for pair in self.companions.items()}
        return sorted(((one, other) for one, other in pairs), key=lambda pair: by_number(pair[0]))

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


def by_number(cylinder: Cylinder) -> tuple[int, str]:
    """What cylinders are sorted by: their number, then the letter of their bank.

    Examples
    --------
    >>> sorted(["2A", "10A", "1B", "1A"], key=by_number)
    ['1A', '1B', '2A', '10A']
    """
    text = str(cylinder)
    return int("".join(filter(str.isdigit, text)) or 0), text


def _ratio(text: str) -> float:
    ratio = parse_number(text)
    if not 0.5 <= ratio <= 4:
        raise InvalidInput("rocker_ratio", "rocker-ratio-unlikely", ratio=ratio)
    return ratio


def _compression(text: str) -> float:
    """Read a compression ratio: 9.5, or 9.5:1."""
    ratio = parse_number(text.partition(":")[0])
    if not 2 <= ratio <= 30:
        raise InvalidInput("compression", "compression-unlikely", typed=text)
    return ratio


def _cylinders(text: str) -> int:
    number = parse_number(text)
    if number != int(number) or not 1 <= number <= MAX_CYLINDERS:
        raise InvalidInput("cylinders", "cylinders-outside", typed=text, most_cylinders=MAX_CYLINDERS)
    return int(number)


class EngineFields(Fields):
    """An engine as typed."""

    cylinders = Custom("cylinders", "Cylinders", reads=_cylinders, required=say("cylinders-missing"))
    firing_order = Text("firing_order", "Firing order", "such as 1-3-4-2; if known", longest=200)
    firing_angles = Text("firing_angles", "Firing angles, crank deg", "if uneven: 0 315, or 315 405", longest=200)
    rotation = EnumChoice(
        "rotation",
        "Turns, seen from the front",
        Turn,
        ((Turn.CLOCKWISE, "Clockwise"), (Turn.COUNTERCLOCKWISE, "Counterclockwise")),
        unknown=say("rotation-missing"),
        mandatory=True,
    )
    unit_of_lengths = EnumChoice(
        "unit",
        "Units",
        LengthUnit,
        ((LengthUnit.INCH, "Inches"), (LengthUnit.MM, "Millimeters")),
        unknown=say("unit-missing"),
        mandatory=True,
    )
    stroke_mm = Length("stroke", "Stroke", "if known", above_zero=True).optional()
    rod_mm = Length("rod", "Rod", "if known", above_zero=True).optional()
    pin_offset_mm = Length("pin_offset", "Pin offset", "if any", least_mm=None, default=0.0)
    bore_mm = Length("bore", "Bore", "for trapped compression", above_zero=True).optional()
    compression = Custom("compression", "Compression ratio", "if known, such as 9.5", reads=_compression).optional()
    valvetrain = EnumChoice(
        "valvetrain",
        "Valvetrain",
        Valvetrain,
        (
            (Valvetrain.PUSHROD, "Pushrods"),
            (Valvetrain.ONE_CAM_OVER, "One cam over"),
            (Valvetrain.TWO_CAMS_OVER, "Two cams over"),
            (Valvetrain.TWO_CAMS_IN_BLOCK, "Two in the block"),
            (Valvetrain.ONE_CAM_A_BANK, "One a bank"),
            (Valvetrain.TWO_CAMS_A_BANK, "Two a bank"),
        ),
        unknown=say("valvetrain-missing"),
        mandatory=True,
    )
    rocker_ratio = Custom("rocker_ratio", "Rocker ratio", "if any, such as 1.5", reads=_ratio).optional()
    lift_at = EnumChoice(
        "lift_at",
        "The dial reads lift at the",
        LiftAt,
        tuple((each, each.value.capitalize()) for each in LiftAt),
        unknown=say("lift-position-missing"),
        mandatory=True,
    )
    tappets = EnumChoice(
        "tappets",
        "Tappets while checking",
        Tappets,
        ((Tappets.SOLID, "Solid"), (Tappets.HYDRAULIC, "Hydraulic"), (Tappets.STAND_IN, "Solid stand-in")),
        unknown=say("tappets-missing"),
    ).optional()
    springs = EnumChoice(
        "springs",
        "Valve springs while checking",
        Springs,
        tuple((each, each.value.capitalize()) for each in Springs),
        unknown=say("springs-missing"),
    ).optional()
    bank2_cylinder = Text(
        "bank2_cylinder",
        "Cylinder read on bank 2",
        "cams on two banks: whose TDC bank 2 is read from; blank where TDC is found on it again",
    )

    def check(self) -> Iterator[tuple[str, str]]:
        if (self.stroke_mm is None) != (self.rod_mm is None):
            missing, stated = ("rod", "stroke") if self.rod_mm is None else ("stroke", "rod")
            if not self.texts[missing] and self.values[stated] is not None:
                yield missing, say("stroke-and-rod-together")

    @property
    def crank(self) -> Crank | None:
        """Stroke and rod, where both are given."""
        if self.stroke_mm is None or self.rod_mm is None:
            return None
        return Crank(stroke_mm=self.stroke_mm, rod_mm=self.rod_mm, pin_offset_mm=self.pin_offset_mm)


@remembered
def read(typed: Typed) -> Filled[Engine]:
    """Read an engine form as typed.

    Parameters
    ----------
    typed
        Text by field name, see `EngineFields`. Lengths in `unit` unless a suffix says otherwise.

    Returns
    -------
    Filled
        The engine, or what is wrong beside each field.

    Examples
    --------
    >>> filled = read({"cylinders": "4", "firing_order": "1-3-4-3"})
    >>> filled.errors["firing_order"]
    '1-3-4-3 does not name each cylinder once: 2 is missing, 3 stands twice.'
    """
    filled = EngineFields.read(typed, LengthUnit.INCH)
    reader = FormReader(typed)
    reader.errors.update(filled.errors)
    order: tuple[Cylinder, ...] = ()
    angles: tuple[float, ...] = ()
    if "cylinders" not in reader.errors:
        cylinders = _cylinders(reader.text("cylinders"))
        order = reader.take("firing_order", lambda text: parse_firing_order(text, cylinders)) or ()
        angles = reader.take("firing_angles", lambda text: parse_firing_angles(text, cylinders)) or ()
        if cylinders == 1 and not order:
            order = (1,)
        if angles and not order and "firing_order" not in reader.errors:
            reader.errors["firing_order"] = say("firing-order-for-angles")
    bank2_cylinder = _cylinder_named(reader, "bank2_cylinder", order)
    found = filled.value
    if found is not None and found.crank is not None:
        try:
            found.crank.check()
        except InvalidInput as error:
            reader.errors[error.field.removesuffix("_mm")] = refusal(error, found.unit_of_lengths)
    if reader.errors or found is None:
        return Filled(None, reader.errors)
    return Filled(
        Engine(
            found.cylinders,
            order,
            found.rotation,
            found.unit_of_lengths,
            found.crank,
            found.valvetrain,
            found.rocker_ratio,
            found.lift_at,
            angles,
            found.bore_mm,
            found.compression,
            found.tappets or "",
            found.springs or "",
            bank2_cylinder,
        )
    )


def _cylinder_named(reader: FormReader, name: str, order: tuple[Cylinder, ...]) -> Cylinder | None:
    text = reader.text(name).upper()
    found = next((each for each in order if str(each) == text), None)
    if text and found is None and "firing_order" not in reader.errors:
        unknown = say("cylinder-not-in-order", typed=reader.text(name))
        reader.errors[name] = unknown if order else say("firing-order-needed")
    return found


FORM = Form(
    FIRST_FORM,
    "engine",
    lambda typed, job: read(typed),
    "Describe the engine.",
    names=EngineFields.names(),
    inputs=tuple(EngineFields.fields()),
    of_make=True,
)


def engine_of(job: Job) -> Engine | None:
    """The engine of a job, where it is described."""
    return job.form(FORM)


def rotation_of(job: Job) -> Turn | None:
    """Which way its crank turns, seen from the front."""
    engine = engine_of(job)
    return engine.rotation if engine else None
