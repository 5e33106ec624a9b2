"""Angles and lengths as people type them at the bench."""

import re
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache

from uranograph.core.errors import Impossible

MM_PER_INCH = 25.4
LONGEST_TEXT = 64
# Past these nothing of an engine is measured; every calculation takes less than ten times as much.
FURTHEST_DEG, LONGEST_MM, LARGEST_NUMBER = 1e5, 1e5, 1e6


class LengthUnit(StrEnum):
    """The unit a bare length is taken in."""

    INCH = "inch"
    MM = "mm"


_SUFFIX_MM = {
    "": None,
    "mm": 1.0,
    "cm": 10.0,
    "in": MM_PER_INCH,
    "inch": MM_PER_INCH,
    "inches": MM_PER_INCH,
    '"': MM_PER_INCH,
    "″": MM_PER_INCH,
    "thou": MM_PER_INCH / 1000,
    "thousandths": MM_PER_INCH / 1000,
}
_ANGLE_SUFFIXES = {"", "°", "deg", "degree", "degrees"}

_NUMBER = re.compile(
    r"""\s*(?P<sign>[+\-−]?)\s*
        (?: (?P<whole>\d+)[\s\-]+(?P<num>\d+)\s*/\s*(?P<den>\d+)
          | (?P<only_num>\d+)\s*/\s*(?P<only_den>\d+)
          | (?P<decimal>\d+[.,]?\d*|[.,]\d+)
        )\s*(?P<suffix>[^\d\s.,/][^\d]*)?\s*$""",
    re.VERBOSE,
)


def _number_and_suffix(text: str, wanted: str, example: str) -> tuple[float, str]:
    if not text.strip():
        raise Impossible("text", f"Nothing is typed here. Type {wanted}, such as {example}.")
    if len(text) > LONGEST_TEXT:
        raise Impossible("text", f"This is too long to be {wanted}. Type it such as {example}.")
    found = _NUMBER.match(text)
    if found is None:
        raise Impossible("text", f"“{text.strip()}” does not read as {wanted}. Type it such as {example}.")
    denominator = found["den"] or found["only_den"]
    if denominator is not None and int(denominator) == 0:
        raise Impossible("text", f"“{text.strip()}” divides by zero. Type {wanted}, such as {example}.")
    if found["whole"] is not None:
        size = float(int(found["whole"]) + Fraction(int(found["num"]), int(found["den"])))
    elif found["only_num"] is not None:
        size = float(Fraction(int(found["only_num"]), int(found["only_den"])))
    else:
        size = float(found["decimal"].replace(",", "."))
    return (-size if found["sign"] in ("-", "−") else size), (found["suffix"] or "").strip().lower()


@lru_cache(maxsize=4096)
def parse_angle(text: str) -> float:
    """Read an angle in degrees as typed.

    Parameters
    ----------
    text
        A decimal (point or comma), a fraction, or a whole and a fraction; `deg` or `°` may follow.

    Returns
    -------
    float
        The angle, degrees, sign kept.

    Raises
    ------
    Impossible
        When the text is empty, is no number, or carries a unit of length.

    Examples
    --------
    >>> parse_angle("55 5/8"), parse_angle("37,5"), parse_angle("-4 deg")
    (55.625, 37.5, -4.0)
    """
    value, suffix = _number_and_suffix(text, "an angle in degrees", "37.5 or 55 5/8")
    if suffix in _ANGLE_SUFFIXES:
        if abs(value) > FURTHEST_DEG:
            raise Impossible("text", f"“{text.strip()}” degrees is past all sense: look at the figure again.")
        return value
    if suffix in _SUFFIX_MM:
        raise Impossible("text", f"“{text.strip()}” is a length; this is an angle in degrees, such as 37.5 or 55 5/8.")
    raise Impossible("text", f"“{suffix}” after the number is not known here. Type the degrees alone, such as 55 5/8.")


@lru_cache(maxsize=4096)
def parse_length(text: str, unit: LengthUnit) -> float:
    """Read a length as typed.

    Parameters
    ----------
    text
        A decimal or fraction; a suffix `mm`, `cm`, `in`, `"` or `thou` overrules `unit`.
    unit
        What a bare number is taken in.

    Returns
    -------
    float
        The length, mm, sign kept.

    Raises
    ------
    Impossible
        When the text is empty, is no number, or its suffix is no unit of length.

    Examples
    --------
    >>> [round(parse_length(t, LengthUnit.INCH), 4) for t in ("0.050", ".050in", "50 thou", "1,27mm", "3 1/2")]
    [1.27, 1.27, 1.27, 1.27, 88.9]
    """
    example = "0.050, 50 thou or 1.27mm" if unit is LengthUnit.INCH else "1.27, 50 thou or .050in"
    value, suffix = _number_and_suffix(text, "a length", example)
    if suffix in _ANGLE_SUFFIXES - {""}:
        raise Impossible("text", f"“{text.strip()}” is an angle; this is a length, such as {example}.")
    if suffix not in _SUFFIX_MM:
        raise Impossible("text", f"“{suffix}” is no unit of length known here. Use mm, cm, in or thou.")
    factor = _SUFFIX_MM[suffix]
    if factor is None:
        factor = MM_PER_INCH if unit is LengthUnit.INCH else 1.0
    if abs(value * factor) > LONGEST_MM:
        raise Impossible("text", f"“{text.strip()}” is longer than any part of an engine: look at figure and unit.")
    return value * factor


def parse_number(text: str) -> float:
    """Read a bare number as typed, such as a rocker ratio.

    Parameters
    ----------
    text
        A decimal (point or comma) or fraction, without a unit.

    Returns
    -------
    float
        The number.

    Raises
    ------
    Impossible
        When the text is empty, is no number, or something follows the number.

    Examples
    --------
    >>> parse_number("1,6"), parse_number("1 1/2")
    (1.6, 1.5)
    """
    value, suffix = _number_and_suffix(text, "a plain number", "1.6")
    if suffix:
        raise Impossible("text", f"“{suffix}” after the number is not wanted here. Type the number alone, such as 1.6.")
    if abs(value) > LARGEST_NUMBER:
        raise Impossible("text", f"“{text.strip()}” is past all sense: look at the figure again.")
    return value


def format_length(mm: float, unit: LengthUnit) -> str:
    """Write a length for the bench: thousandths in inches, hundredths in mm.

    Examples
    --------
    >>> format_length(1.27, LengthUnit.INCH), format_length(1.27, LengthUnit.MM)
    ('0.050', '1.27')
    """
    return f"{mm / MM_PER_INCH:.3f}" if unit is LengthUnit.INCH else f"{mm:.2f}"


def format_fine(mm: float, unit: LengthUnit) -> str:
    """Write a small length with one place more: tenths of a thousandth in inches, thousandths in mm.

    Examples
    --------
    >>> format_fine(0.1143, LengthUnit.INCH), format_fine(0.1143, LengthUnit.MM)
    ('0.0045', '0.114')
    """
    return f"{mm / MM_PER_INCH:.4f}" if unit is LengthUnit.INCH else f"{mm:.3f}"


def format_angle(deg: float, places: int = 1) -> str:
    """Write an angle with a true minus sign and no negative zero.

    Examples
    --------
    >>> format_angle(-3.46), format_angle(-0.01)
    ('−3.5', '0.0')
    """
    text = f"{deg:.{places}f}"
    if float(text) == 0:
        text = text.lstrip("-")
    return text.replace("-", "−")
