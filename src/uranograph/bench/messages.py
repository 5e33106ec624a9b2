"""Message formatting: templates filled with values in the reader's unit."""

import re
from collections.abc import Mapping
from typing import SupportsFloat

from uranograph.bench.refusals import REFUSALS, Template
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, format_angle, format_fine, format_length

_HOLE = re.compile(r"\{(\w+)(?::([^}]*))?\}")
_REFUSALS: dict[str, Template] = dict(REFUSALS)
# What a field wants, and such as.
_WANTED = {
    "angle": ("an angle in degrees", "37.5 or 55 5/8"),
    "length-inch": ("a length", "0.050, 50 thou or 1.27mm"),
    "length-mm": ("a length", "1.27, 50 thou or .050in"),
    "number": ("a plain number", "1.6"),
}


def render(template: str, values: Mapping[str, object], unit: LengthUnit | str = LengthUnit.MM) -> str:
    """Fill a template; a name that ends in its unit says how its figure is written.

    Parameters
    ----------
    template
        Words with names in braces. Lengths (`_mm`): as on the bench, `:unit` so with the unit, `:fine` with one place more,
        `:full` that with the unit, `:u` short with the unit.
        Several messages follow each other as sentences.
        Angles (`_deg`): to a tenth, `:2` to hundredths, `:abs` without a sign, `:signed` always with one. Else a format.
    values
        What the names stand for; an error among them is told in its own words.
    unit
        The unit of lengths.

    Returns
    -------
    str
        The sentence.

    Examples
    --------
    >>> render("{gap_mm} less than {least_mm:u}, {late_deg:abs} late", {"gap_mm": 1.27, "least_mm": 2.54, "late_deg": -3}, "inch")
    '0.050 less than 0.1 in, 3.0 late'
    """
    return _HOLE.sub(lambda hole: _figure(hole[1], values[hole[1]], hole[2] or "", LengthUnit(unit)), template)


def _figure(name: str, value: object, how: str, unit: LengthUnit) -> str:
    if isinstance(value, InvalidInput):
        return refusal(value, unit)
    if name.endswith("_mm") and isinstance(value, SupportsFloat):
        return _length(float(value), how, unit)
    if name.endswith("_deg") and isinstance(value, SupportsFloat) and not how.endswith("g"):
        return _angle(float(value), how)
    if name == "wanted" and value in _WANTED:
        return _WANTED[str(value)][how == "example"]
    if isinstance(value, tuple):
        return " or ".join(each.upper() for each in value) if how == "or" else " ".join(filter(None, map(str, value)))
    return format(value, how)


def _length(mm: float, how: str, unit: LengthUnit) -> str:
    if how == "full":
        return f"{format_fine(mm, unit)} {unit.value}"
    if how == "unit":
        return f"{format_length(mm, unit)} {unit.value}".replace("-", "−")
    if how == "u":
        return f"{mm / MM_PER_INCH:.4g} in" if unit is LengthUnit.INCH else f"{mm:.4g} mm"
    return (format_fine if how == "fine" else format_length)(mm, unit).replace("-", "−")


def _angle(deg: float, how: str) -> str:
    marks = how.split(",")
    places = next((int(mark) for mark in marks if mark.isdecimal()), 1)
    words = format_angle(abs(deg) if "abs" in marks else deg, places)
    return f"+{words}" if "signed" in marks and words[0] != "−" and float(words) else words


def refusals(table: Mapping[str, Template]) -> Mapping[str, Template]:
    """Register the messages of the errors raised by one package.

    Raises
    ------
    ValueError
        When two parts say different things by one code.
    """
    for code, template in table.items():
        if _REFUSALS.setdefault(code, template) != template:
            raise ValueError(f"{code} is said in two ways")
    return table


def refusal(error: InvalidInput, unit: LengthUnit | str = LengthUnit.MM) -> str:
    """Say what is wrong, lengths in this unit.

    Examples
    --------
    >>> refusal(InvalidInput("rod_mm", "grips-already"))
    'It grips already at this temperature.'
    """
    template = _REFUSALS[error.code]
    words = render(template, error.values, unit) if isinstance(template, str) else template(error.values)
    instead = error.values.get("instead")
    return Suggestion.of(words, instead) if isinstance(instead, tuple) else words


class Suggestion(str):
    """A refusal with what may have been meant: each can be taken with one tap."""

    __slots__ = ("instead",)
    instead: tuple[str, ...]

    @classmethod
    def of(cls, words: str, instead: tuple[str, ...]) -> "Suggestion":
        """The words with the texts that are offered.

        Examples
        --------
        >>> Suggestion.of("1.27 inch is no checking lift.", ("1.27 mm", "1.27 in")).instead
        ('1.27 mm', '1.27 in')
        """
        told = cls(words)
        told.instead = instead
        return told


class Message(str):
    """Words, with the code and the figures that they tell."""

    __slots__ = ("code", "values")
    code: str
    values: Mapping[str, object]


def message(
    table: Mapping[str, str], code: str, unit: LengthUnit | str = LengthUnit.MM, /, **values: object
) -> Message:
    """Say what a code and its figures mean by a table of templates.

    Examples
    --------
    >>> told = message({"late": "It is {late_deg} late."}, "late", late_deg=3.64)
    >>> told, told.code, told.values
    ('It is 3.6 late.', 'late', {'late_deg': 3.64})
    """
    words = Message(render(table[code], values, unit))
    words.code, words.values = code, values
    return words
