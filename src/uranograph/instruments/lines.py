"""What one line of an instrument says: figures with their units, by a pattern of the line."""

import math
import re
from dataclasses import dataclass
from functools import lru_cache

from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import MM_PER_INCH

MAX_LINE, MAX_PATTERN = 200, 80
# What a unit is called on lines, and how much of the unit that is reckoned in it is: mm, crank degrees, °C, N m.
UNITS = {
    **dict.fromkeys(("mm", "m"), ("mm", 1.0)),
    **dict.fromkeys(("in", "inch", "i", '"', "e"), ("mm", MM_PER_INCH)),
    "um": ("mm", 1e-3),
    "cm": ("mm", 10.0),
    **dict.fromkeys(("deg", "°", "d"), ("deg", 1.0)),
    "rad": ("deg", 180 / math.pi),
    **dict.fromkeys(("c", "°c", "degc"), ("C", 1.0)),
    **dict.fromkeys(("f", "°f", "degf"), ("F", 1.0)),
    **dict.fromkeys(("nm", "n m", "n*m"), ("N m", 1.0)),
    **dict.fromkeys(("ftlb", "ft lb", "lbft"), ("N m", 1.3558179483)),
}
# Patterns in general use, by name, with a line of each.
PATTERNS = {
    "number": ("{value} {unit}", "+1.234 mm"),
    "channels": ("{name}={value} {unit}; ...", "angle=123.4 deg; dial=3.210 mm"),
    "angle-count": ("{angle};{count}", "123.45;17"),
    "counts": ("{count}", "1843"),
    "counts-index": ("{count};{index}", "1843;0"),
}
_NUMBER = r"[+-]?\s*(?:\d{1,12}(?:[.,]\d{0,9})?|[.,]\d{1,9})(?:[eE][+-]?\d{1,3})?"
_UNIT = r"[a-zA-Z°\"]{1,4}(?:[ *][a-zA-Z]{1,2})?"
_PLACES = {
    "value": rf"(?P<value>{_NUMBER})",
    "angle": rf"(?P<angle>{_NUMBER})",
    "count": r"(?P<count>[+-]?\d{1,12})",
    "index": r"(?P<index>[01])",
    "unit": rf"(?P<unit>{_UNIT})?",
    "name": r"(?P<name>[A-Za-z][A-Za-z0-9_]{0,15})",
    "any": r"[^\s;,]{0,20}",
}
_PLACE = re.compile(r"\{([a-z]+)\}")
SEVERAL = "; ..."
# The channel on which an encoder says, with a 1, that it stands at the mark that it has once a turn.
INDEX = "index"


@dataclass(frozen=True)
class Sample:
    """One figure of a line: of which channel, its value, and its unit as the line has it; empty where it says none."""

    channel: str
    value: float
    unit: str = ""


@lru_cache(maxsize=64)
def compiled(pattern: str) -> re.Pattern[str]:
    """A pattern as typed, ready to match: places such as `{value}`, `{unit}` and `{index}` of `_PLACES`, and what stands between.

    Raises
    ------
    InvalidInput
        When it has no figure in it, names what there is not, or is too long.
    """
    template = pattern.removesuffix(SEVERAL)
    names = _PLACE.findall(template)
    if len(pattern) > MAX_PATTERN or not {"value", "angle", "count"} & set(names):
        raise InvalidInput("pattern", "pattern-without-figure", typed=pattern[:MAX_PATTERN])
    if unknown := next((name for name in names if name not in _PLACES or names.count(name) > 1), ""):
        raise InvalidInput("pattern", "pattern-unknown-place", typed=f"{{{unknown}}}")
    parts = _PLACE.split(template)
    literal = [r"\s*".join(map(re.escape, part.split())) or "" for part in parts[::2]]
    joined = literal[0] + "".join(
        _PLACES[name] + (rf"\s*{text}" if text else r"\s*") for name, text in zip(parts[1::2], literal[1:], strict=True)
    )
    return re.compile(rf"\s*{joined}\s*", re.ASCII if "°" not in pattern else 0)


def parse(pattern: str, line: str) -> tuple[Sample, ...]:
    """What a line says by a pattern; nothing where it does not say it.

    Parameters
    ----------
    pattern
        Name of one of `PATTERNS`, or a pattern of its own.
    line
        As it came, without its end.

    Returns
    -------
    tuple of Sample
        Figures that are finite; several where the pattern ends in `; ...`.

    Examples
    --------
    >>> parse("number", "+0001.270 mm"), parse("number", "nan mm")
    ((Sample(channel='', value=1.27, unit='mm'),), ())
    >>> [(each.channel, each.value) for each in parse("channels", "angle=12.5 deg; dial=-0,04 mm")]
    [('angle', 12.5), ('dial', -0.04)]
    """
    if len(line) > MAX_LINE:
        return ()
    template = PATTERNS[pattern][0] if pattern in PATTERNS else pattern
    if not template.endswith(SEVERAL):
        return _samples(compiled(template), line)
    found = [_samples(compiled(template), part) for part in line.split(";") if part.strip()]
    return tuple(sample for each in found for sample in each) if all(found) else ()


def _samples(pattern: re.Pattern[str], line: str) -> tuple[Sample, ...]:
    match = pattern.fullmatch(line)
    if match is None:
        return ()
    said = match.groupdict()
    unit = (said.get("unit") or "").strip()
    if unit and unit.lower() not in UNITS:
        return ()
    found = []
    for place, channel, own in (
        ("value", said.get("name") or "", unit),
        ("angle", "angle", "deg"),
        ("count", "count", ""),
        ("index", INDEX, ""),
    ):
        text = said.get(place)
        if text is not None:
            value = float(text.replace(" ", "").replace(",", "."))
            if not math.isfinite(value):
                return ()
            found.append(Sample(channel, value, own))
    return tuple(found)


def in_base(value: float, unit: str) -> tuple[float, str]:
    """A figure in the unit that is reckoned in, and that unit; as it is where the unit is not known.

    Examples
    --------
    >>> in_base(0.5, "in"), in_base(212.0, "F")
    ((12.7, 'mm'), (100.0, 'C'))
    """
    base, factor = UNITS.get(unit.lower(), (unit, 1.0))
    if base == "F":
        return (value - 32) / 1.8, "C"
    return value * factor, base
