"""Readers of single figures: lengths, angles, counts, temperatures, materials; each refuses what cannot be."""

from collections.abc import Callable

from uranograph.core.errors import InvalidInput
from uranograph.core.materials import MATERIALS
from uranograph.core.quantities import LengthUnit, parse_angle, parse_length, parse_number


def length(unit: LengthUnit, least: float | None = 0.0, most_mm: float = 5000.0) -> Callable[[str], float]:
    """A reader of lengths that says what is wrong with one; not above nothing unless `least` is None.

    Examples
    --------
    >>> length(LengthUnit.MM)("31.67")
    31.67
    """

    def read(text: str) -> float:
        mm = parse_length(text, unit)
        if least is not None and mm < least:
            raise InvalidInput("length", "too-little", typed=text)
        if abs(mm) > most_mm:
            raise InvalidInput("length", "too-long-a-length", typed=text)
        return mm

    return read


def above_nothing(unit: LengthUnit) -> Callable[[str], float]:
    """A reader of lengths that must be more than nothing."""

    def read(text: str) -> float:
        mm = length(unit, least=None)(text)
        if mm <= 0:
            raise InvalidInput("length", "not-above-nothing", typed=text)
        return mm

    return read


def angle(least: float, most: float) -> Callable[[str], float]:
    """A reader of angles within bounds, degrees."""

    def read(text: str) -> float:
        deg = parse_angle(text)
        if not least <= deg <= most:
            raise InvalidInput("angle", "angle-outside", typed=text, least=least, most=most)
        return deg

    return read


def count(least: int, most: int, counted: str) -> Callable[[str], int]:
    """A reader of whole numbers within bounds."""

    def read(text: str) -> int:
        number = parse_number(text)
        if number != int(number) or not least <= number <= most:
            raise InvalidInput("count", "not-a-count", typed=text, count=counted, least=least, most=most)
        return int(number)

    return read


def celsius(text: str) -> float:
    """Read a temperature: bare or with C in Celsius, with F in Fahrenheit.

    Examples
    --------
    >>> celsius("90"), round(celsius("194 F"), 6), celsius("-5 C")
    (90.0, 90.0, -5.0)
    """
    bare = text.strip().upper().replace("°", "").replace("−", "-")
    in_fahrenheit = bare.endswith("F")
    try:
        value = float(bare.removesuffix("F").removesuffix("C").strip().replace(",", "."))
    except ValueError as error:
        raise InvalidInput("temperature", "not-a-temperature", typed=text) from error
    value = (value - 32) / 1.8 if in_fahrenheit else value
    if not -80 <= value <= 600:
        raise InvalidInput("temperature", "temperature-outside", typed=text)
    return value


def expansion(text: str) -> float:
    """Read a material by name, or its growth in millionths per degree Celsius.

    Examples
    --------
    >>> expansion("Aluminum"), round(expansion("11.7") * 1e6, 3)
    (2.3e-05, 11.7)
    """
    name = text.strip().lower()
    if name in MATERIALS:
        return MATERIALS[name].alpha
    try:
        value = parse_number(text)
    except InvalidInput as error:
        known = ", ".join(name for name in MATERIALS if name != "polymer")
        raise InvalidInput("material", "unknown-material", typed=text, known=known) from error
    if not 0 <= value <= 300:
        raise InvalidInput("material", "no-such-expansion", typed=text)
    return value * 1e-6
