"""Limits the house works by: starting values until a person sets them, printed beside every verdict they decide."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from uranograph.core.errors import Impossible
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, parse_length


@dataclass(frozen=True)
class HouseValue:
    """What a person has set, as typed; a bare figure is in mm."""

    text: str
    by: str
    at: datetime


House = Mapping[str, HouseValue]


@dataclass(frozen=True)
class Limit:
    """One limit: its name, what it says, where it belongs, and what it starts from, mm."""

    name: str
    label: str
    group: str
    start_mm: float


LIMITS = {
    limit.name: limit
    for limit in (
        Limit("shaft_own", "The shaft itself to", "Runout of the shaft, total indicated", 0.08),
        Limit("gears_good", "Gears are good to", "Runout of the shaft, total indicated", 0.05),
        Limit("gears_never", "Gears never past", "Runout of the shaft, total indicated", 0.08),
        Limit("tight_pump", "Close-clearance pump to", "Runout of the shaft, total indicated", 0.08),
        Limit("hydraulic_tensioner", "Hydraulic chain tensioner to", "Runout of the shaft, total indicated", 0.25),
        Limit("sprocket_line", "Sprockets out of line by", "Sprocket line", 0.25),
        Limit("lobe_least", "Lobe room, least", "Lobe room", 1.5),
        Limit("lobe_liked", "Lobe room, liked", "Lobe room", 2.0),
        Limit("cheeks_alike", "Sanded cheeks alike to", "Thrust cheeks", 0.02),
    )
}
# The first of each pair is never above the second.
ORDERED = (("gears_good", "gears_never"), ("lobe_least", "lobe_liked"))
LARGEST_MM = 50.0


def value_mm(house: House, name: str) -> float:
    """A limit in mm: the person's, or what it starts from.

    Examples
    --------
    >>> value_mm({}, "gears_good")
    0.05
    """
    own = house.get(name)
    return parse_length(own.text, LengthUnit.MM) if own else LIMITS[name].start_mm


def whose(house: House, name: str) -> str:
    """Who stands behind a limit, in words.

    Examples
    --------
    >>> whose({}, "gears_good")
    'starting value'
    """
    own = house.get(name)
    return f"set by {own.by}" if own else "starting value"


def said(house: House, name: str, unit: LengthUnit) -> str:
    """A limit with who stands behind it, as it is printed beside a verdict.

    Examples
    --------
    >>> said({}, "gears_good", LengthUnit.MM)
    '0.05 mm (starting value)'
    """
    mm = value_mm(house, name)
    figure = f"{mm:.3g}" if unit is LengthUnit.MM else f"{mm / MM_PER_INCH:.4f}"
    return f"{figure} {unit.value} ({whose(house, name)})"


def read(typed: Mapping[str, str]) -> tuple[dict[str, str], dict[str, str]]:
    """Read limits as typed: texts that are limits, and what is wrong beside the others.

    Returns
    -------
    tuple
        Text by name, empty where the starting value is to count again; and messages by name.

    Examples
    --------
    >>> read({"gears_good": "0.06", "gears_never": "0.05"})[1]["gears_good"]
    'This is above “Gears never past”: look at both.'
    """
    texts: dict[str, str] = {}
    errors: dict[str, str] = {}
    values = {name: limit.start_mm for name, limit in LIMITS.items()}
    for name in LIMITS:
        text = typed.get(name, "").strip()
        texts[name] = text
        if not text:
            continue
        try:
            mm = parse_length(text, LengthUnit.MM)
            if not 0 < mm <= LARGEST_MM:
                raise Impossible(name, f"“{text}” is no limit of this work: above nothing, up to {LARGEST_MM:g} mm.")
            values[name] = mm
        except Impossible as error:
            errors[name] = error.message
    for low, high in ORDERED:
        if not errors.keys() & {low, high} and values[low] > values[high]:
            errors[low] = f"This is above “{LIMITS[high].label}”: look at both."
    return texts, errors
