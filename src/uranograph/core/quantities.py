"""Angles and lengths as people type them at the bench."""

import re
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache

from uranograph.core.errors import InvalidInput

MM_PER_INCH = 25.4
MAX_TEXT_LENGTH = 64
# Bounds of any quantity measured on an engine; calculations accept up to ten times as much.
MAX_DEG, MAX_MM, LARGEST_NUMBER = 1e5, 1e5, 1e6


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

# One-letter fractions of a keyboard or a phone, as typed after whole numbers or alone.
_FRACTIONS = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_MINUTES = re.compile(r"\s*([+\-−]?)\s*(\d+)\s*°\s*(\d{1,2})\s*['′]\s*(?:(\d{1,2})\s*(?:\"|″|''))?\s*$")
_NUMBER = re.compile(
    r"""\s*(?P<sign>[+\-−]?)\s*
        (?: (?P<whole>\d+)[\s\-]+(?P<num>\d+)\s*/\s*(?P<den>\d+)
          | (?P<only_num>\d+)\s*/\s*(?P<only_den>\d+)
          | (?P<decimal>\d+[.,]?\d*|[.,]\d+)
        )\s*(?P<suffix>[^\d\s.,/][^\d]*)?\s*$""",
    re.VERBOSE,
)


def _number_and_suffix(text: str, wanted: str) -> tuple[float, str]:
    if not text.strip():
        raise InvalidInput("text", "nothing-typed", wanted=wanted)
    if len(text) > MAX_TEXT_LENGTH:
        raise InvalidInput("text", "too-many-letters", wanted=wanted)
    for letter, fraction in _FRACTIONS.items():
        text = text.replace(letter, f" {fraction}")
    found = _NUMBER.match(text)
    if found is None:
        raise InvalidInput("text", "does-not-read", typed=text.strip(), wanted=wanted)
    denominator = found["den"] or found["only_den"]
    if denominator is not None and int(denominator) == 0:
        raise InvalidInput("text", "divides-by-zero", typed=text.strip(), wanted=wanted)
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
        A decimal (point or comma), a fraction, or a whole and a fraction; `deg` or `°` may follow. Minutes and seconds as 42°30'.

    Returns
    -------
    float
        The angle, degrees, sign kept.

    Raises
    ------
    InvalidInput
        When the text is empty, is no number, or carries a unit of length.

    Examples
    --------
    >>> parse_angle("55 5/8"), parse_angle("37,5"), parse_angle("-4 deg"), parse_angle("42½"), parse_angle("42°30'")
    (55.625, 37.5, -4.0, 42.5, 42.5)
    """
    if minutes := _MINUTES.match(text):
        sign = -1 if minutes[1] in ("-", "−") else 1
        whole, of_degree = int(minutes[2]), int(minutes[3]) / 60 + int(minutes[4] or 0) / 3600
        if whole <= MAX_DEG and of_degree < 1:
            return sign * (whole + of_degree)
    value, suffix = _number_and_suffix(text, "angle")
    if suffix in _ANGLE_SUFFIXES:
        if abs(value) > MAX_DEG:
            raise InvalidInput("text", "angle-past-sense", typed=text.strip())
        return value
    if suffix in _SUFFIX_MM:
        raise InvalidInput("text", "length-for-angle", typed=text.strip())
    raise InvalidInput("text", "unknown-after-angle", suffix=suffix)


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
    InvalidInput
        When the text is empty, is no number, or its suffix is no unit of length.

    Examples
    --------
    >>> [round(parse_length(t, LengthUnit.INCH), 4) for t in ("0.050", ".050in", "50 thou", "1,27mm", "3 1/2")]
    [1.27, 1.27, 1.27, 1.27, 88.9]
    """
    value, suffix = _number_and_suffix(text, f"length-{unit}")
    if suffix in _ANGLE_SUFFIXES - {""}:
        raise InvalidInput("text", "angle-for-length", typed=text.strip(), wanted=f"length-{unit}")
    if suffix not in _SUFFIX_MM:
        raise InvalidInput("text", "unknown-unit", suffix=suffix)
    factor = _SUFFIX_MM[suffix]
    if factor is None:
        factor = MM_PER_INCH if unit is LengthUnit.INCH else 1.0
    if abs(value * factor) > MAX_MM:
        raise InvalidInput("text", "longer-than-an-engine", typed=text.strip())
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
    InvalidInput
        When the text is empty, is no number, or something follows the number.

    Examples
    --------
    >>> parse_number("1,6"), parse_number("1 1/2")
    (1.6, 1.5)
    """
    value, suffix = _number_and_suffix(text, "number")
    if suffix:
        raise InvalidInput("text", "unknown-after-number", suffix=suffix)
    if abs(value) > LARGEST_NUMBER:
        raise InvalidInput("text", "number-past-sense", typed=text.strip())
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


def late_or_early(error_deg: float) -> str:
    """Write an error of phase, crank degrees late, as its size and its side.

    Examples
    --------
    >>> late_or_early(-1.2), late_or_early(0.01)
    ('1.2 early', '0.0, right on')
    """
    size = format_angle(abs(error_deg))
    return f"{size}, right on" if size == "0.0" else f"{size} {'late' if error_deg > 0 else 'early'}"
