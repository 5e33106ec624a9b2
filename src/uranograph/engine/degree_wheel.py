"""The degree wheel as it is mounted, and the crank angle that one of its readings means."""

import re
from collections.abc import Iterator
from dataclasses import dataclass

from uranograph.bench.fields import DIAL_DIVISION, Choice, Custom, EnumChoice, Fields, Length
from uranograph.bench.forms import Filled, Form, Typed, remembered
from uranograph.bench.job import Job
from uranograph.core.errors import InvalidInput, Missing
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length
from uranograph.core.wheel import SCALE_NAMES, SIDES, End, Scale, Side, Turn, Wheel, as_signed
from uranograph.engine.description import rotation_of
from uranograph.engine.messages import say

VOID_REASONS = ("misread the wheel", "wrong side", "overshot", "typing slip")


# Message where a reading needs the wheel.
LACKING = {
    "instruction": "Set up the wheel first.",
    "words": "A reading cannot be placed before the wheel is described: its scale, its end, and its division.",
    "station": "wheel",
    "label": "Set up the wheel",
    "onward": False,
}


# A corrected wheel description also applies to readings taken before.
ALL_ALONG = "yes"


END_WORDS = {End.FRONT: "front", End.REAR: "flywheel end"}


_WORDS = re.compile(r"[\s]*(btdc|atdc|bbdc|abdc|before|after|b|a)\.?\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class Mounted:
    """A wheel on an engine, and the smallest steps that wheel and dial show."""

    wheel: Wheel
    division_deg: float
    dial_division_mm: float
    unit: LengthUnit = LengthUnit.MM

    @property
    def words(self) -> str:
        if self.wheel.mount is None:
            raise Missing("self.wheel.mount")
        return f"wheel {SCALE_NAMES[self.wheel.scale]}, {END_WORDS[self.wheel.mount]}"


def split_side(text: str, scale: Scale, side: str | None) -> tuple[str, Side | None]:
    """Part a reading from the side typed behind it.

    Parameters
    ----------
    text
        A number, with or without `BTDC`, `before`, `a` and the like behind it.
    scale
        The wheel's scale.
    side
        The side chosen beside the field; a side in the text overrules it.

    Returns
    -------
    tuple
        The number's text, and the side (None where none is known or the scale has none).

    Raises
    ------
    InvalidInput
        When a side is typed that this scale does not have.

    Examples
    --------
    >>> split_side("64 1/4 BTDC", Scale.QUARTER, "atdc"), split_side("12 a", Scale.QUARTER, "bbdc")
    (('64 1/4', <Side.BTDC: 'btdc'>), ('12', <Side.ABDC: 'abdc'>))
    """
    found = _WORDS.search(text)
    number = text[: found.start()] if found else text
    if not SIDES[scale]:
        if found:
            raise InvalidInput("text", "wheel-without-sides", typed=text.strip(), scale=SCALE_NAMES[scale])
        return number, None
    if side and side not in tuple(Side):
        raise InvalidInput("side", "no-such-side", side=side)
    if found is None:
        return number, Side(side) if side else None
    word = found[1].lower()
    if len(word) == 4:
        return number, Side(word)
    dead_center = side[1:] if side else "tdc"
    return number, Side(f"{word[0]}{dead_center}")


def crank_angle(mounted: Mounted, text: str, side: str | None) -> float:
    """Read a wheel reading as typed, as a signed crank angle from the wheel's TDC mark.

    Parameters
    ----------
    mounted
        The wheel.
    text, side
        What the eye read: number, fraction or decimal, and its side.

    Returns
    -------
    float
        Crank degrees, (-180, 180].

    Raises
    ------
    InvalidInput
        When the text is no angle, the wheel cannot show it, or the side is missing; the field is `text` or `side`.
    """
    number, known_side = split_side(text, mounted.wheel.scale, side)
    reading = parse_angle(number)
    try:
        return as_signed(mounted.wheel, reading, known_side)
    except InvalidInput as error:
        raise error.at("side" if error.field == "side" else "text") from error


def plain_angle(mounted: Mounted, text: str, side: str | None) -> str:
    """Explain a reading as degrees from the wheel's TDC mark; empty if unreadable or already explicit.

    Examples
    --------
    >>> plain_angle(Mounted(Wheel(scale=Scale.QUARTER), 1.0, 0.01), "21", "abdc")
    '= 159 BTDC'
    """
    try:
        angle = crank_angle(mounted, text, side)
    except InvalidInput:
        return ""
    if side in (Side.BTDC, Side.ATDC):
        return ""
    return f"= {abs(round(angle, 2)):g} {'BTDC' if angle < 0 else 'ATDC'}"


def _division(text: str) -> float:
    division = parse_angle(text)
    if not 0 < division <= 10:
        raise InvalidInput("division", "not-a-wheel-division", typed=text)
    return division


class DialDivision(Length):
    """Division of a dial indicator, mm."""

    def parse(self, text: str, unit: LengthUnit) -> float:
        division = parse_length(text, unit)
        if not 0 < division <= 1:
            raise InvalidInput("dial_division", "not-a-dial-division", typed=text)
        return division


class WheelFields(Fields):
    """A degree wheel as typed."""

    scale = EnumChoice(
        "scale", "The wheel is numbered", Scale, SCALE_NAMES.items(), unknown=say("wheel-scale-missing"), mandatory=True
    )
    mount = EnumChoice(
        "mount",
        "It is on the",
        End,
        ((End.FRONT, "Front"), (End.REAR, "Flywheel end")),
        unknown=say("wheel-end-missing"),
        mandatory=True,
    )
    numbers_rise = EnumChoice(
        "numbers_rise",
        "Facing it, numbers increase (0-360 only)",
        Turn,
        ((Turn.CLOCKWISE, "Clockwise"), (Turn.COUNTERCLOCKWISE, "Counterclockwise")),
        unknown=say("numbers-rise-missing"),
    ).optional()
    division_deg = Custom("division", "Wheel's smallest division", "degrees, usually 1", reads=_division, default=1.0)
    dial_division_mm = DialDivision(
        "dial_division", "Dial's smallest division", "0.001in, 0.01mm unless typed", default=DIAL_DIVISION
    )
    all_along = Choice(
        "all_along",
        "The wheel was like this from the start",
        (("", "no"), (ALL_ALONG, "yes")),
        unknown=say("numbers-rise-missing"),
    )

    def check(self) -> Iterator[tuple[str, str]]:
        if self.scale is Scale.FULL and self.numbers_rise is None:
            yield "numbers_rise", say("numbers-rise-missing")


@remembered
def read(typed: Typed, rotation: Turn | None, unit: LengthUnit) -> Filled[Mounted]:
    """Read a wheel set-up as typed.

    Parameters
    ----------
    typed
        Text by field name, see `WheelFields`.
    rotation
        The engine's running direction seen from the front.
    unit
        What a bare dial division is taken in, unless the form names its own unit.

    Returns
    -------
    Filled
        The mounted wheel, or what is wrong beside each field.

    Examples
    --------
    >>> typed = {"scale": "quarter", "mount": "rear", "numbers_rise": "clockwise", "division": "1", "dial_division": ""}
    >>> read(typed, Turn.CLOCKWISE, LengthUnit.INCH).value.words
    'wheel 0-90-0-90, flywheel end'
    """
    filled = WheelFields.read(typed, unit)
    found = filled.value
    if found is None:
        return Filled(None, filled.errors)
    rise = found.numbers_rise if found.scale is Scale.FULL else None
    wheel = Wheel(scale=found.scale, mount=found.mount, numbers_rise=rise, rotation=rotation)
    return Filled(Mounted(wheel, found.division_deg, found.dial_division_mm, found.unit))


FORM = Form(
    "wheel",
    "wheel and dial",
    lambda typed, job: read(typed, rotation_of(job), job.unit),
    "Say how the wheel is mounted.",
    names=(*WheelFields.names(), "unit"),
    inputs=tuple(WheelFields.fields()),
    groups=WheelFields.groups(),
    shelved=True,
    blank={"scale": "quarter", "mount": "front", "division": "1"},
)


def wheel_of(job: Job) -> Mounted | None:
    """The wheel as it is mounted, where it is set up."""
    return job.form(FORM)
