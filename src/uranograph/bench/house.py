"""Limits the house works by: starting values until a person sets them, printed beside every verdict they decide."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

from uranograph.bench.words import refusal
from uranograph.core.errors import Impossible
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, parse_length


@dataclass(frozen=True)
class HouseValue:
    """What a person has set, as typed; a bare figure is in mm."""

    text: str
    by: str
    at: datetime
    of_job: bool = False


class House(Protocol):
    """Where the limits that persons have set are asked for."""

    def get(self, name: str) -> HouseValue | None: ...


# How many times more or less than its starting value a limit can be.
PLAUSIBLE = 8.0


@dataclass(frozen=True)
class Limit:
    """One limit: its name, what it says, where it belongs, and what it starts from, mm."""

    name: str
    label: str
    group: str
    start_mm: float

    @property
    def plausible_mm(self) -> tuple[float, float]:
        """Between these a limit of this kind lies; past them a unit is mistaken or a point slipped."""
        return self.start_mm / PLAUSIBLE, self.start_mm * PLAUSIBLE


LIMITS = {
    limit.name: limit
    for limit in (
        Limit("shaft_own", "The shaft itself to", "Shaft runout, TIR", 0.08),
        Limit("gears_good", "Gears are good to", "Shaft runout, TIR", 0.05),
        Limit("gears_never", "Gears never past", "Shaft runout, TIR", 0.08),
        Limit("tight_pump", "Close-clearance pump to", "Shaft runout, TIR", 0.08),
        Limit("hydraulic_tensioner", "Hydraulic chain tensioner to", "Shaft runout, TIR", 0.25),
        Limit("sprocket_line", "Sprockets out of line by", "Sprocket alignment", 0.25),
        Limit("lobe_least", "Cam clearance, least", "Cam clearance", 1.5),
        Limit("lobe_liked", "Cam clearance, preferred", "Cam clearance", 2.0),
        Limit("piston_intake", "Piston to intake valve, least", "Piston to valve", 2.0),
        Limit("piston_exhaust", "Piston to exhaust valve, least", "Piston to valve", 2.5),
        Limit("valve_to_valve", "Valve to valve, least", "Piston to valve", 1.5),
        Limit("coil_bind", "Spring from coil bind, least", "Piston to valve", 1.0),
        Limit("retainer_guide", "Retainer to guide or seal, least", "Piston to valve", 1.5),
        Limit("single_figure", "One figure alone is a window of ±", "End play", 0.05),
        Limit("cheeks_alike", "Sanded thrust faces alike to", "Thrust faces", 0.02),
    )
}
# The first of each pair is never above the second.
ORDERED = (("gears_good", "gears_never"), ("lobe_least", "lobe_liked"))


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
    'default'
    """
    own = house.get(name)
    if own is None:
        return "default"
    return f"for this job, {own.by}" if own.of_job else f"set by {own.by}"


def both(mm: float) -> str:
    """A limit in both units.

    Examples
    --------
    >>> both(0.05)
    '0.05 mm, 0.0020 in'
    """
    return f"{mm:.4g} mm, {mm / MM_PER_INCH:.4f} in"


def said(house: House, name: str, unit: LengthUnit) -> str:
    """A limit with who stands behind it, as it is printed beside a verdict.

    Examples
    --------
    >>> said({}, "gears_good", LengthUnit.MM)
    '0.05 mm (default)'
    """
    mm = value_mm(house, name)
    figure = f"{mm:.3g}" if unit is LengthUnit.MM else f"{mm / MM_PER_INCH:.4f}"
    return f"{figure} {unit.value} ({whose(house, name)})"


def read(typed: Mapping[str, str]) -> tuple[dict[str, str], dict[str, str]]:
    """Read limits as typed: texts that are limits, and what is wrong beside the others.

    Parameters
    ----------
    typed
        Text by name, and under `unit` what bare figures are in.

    Returns
    -------
    tuple
        Text by name with its unit, empty where the starting value is to count again; and messages by name.

    Examples
    --------
    >>> read({"gears_good": "0.06", "gears_never": "0.05", "unit": "mm"})[1]["gears_good"]
    'This is above “Gears never past”: look at both.'
    >>> read({"gears_good": ".002", "unit": "inch"})
    ... # doctest: +ELLIPSIS
    ({'shaft_own': '', 'gears_good': '.002 in', ...
    """
    texts: dict[str, str] = {}
    errors: dict[str, str] = {}
    unit = typed.get("unit", "")
    values = {name: limit.start_mm for name, limit in LIMITS.items()}
    for name, limit in LIMITS.items():
        text = typed.get(name, "").strip()
        texts[name] = text
        if not text:
            continue
        if text[-1] in "0123456789.,":
            if unit not in tuple(LengthUnit):
                errors["unit"] = "Say whether bare figures are inches or mm."
                continue
            texts[name] = text = f"{text} {'in' if unit == LengthUnit.INCH else 'mm'}"
        try:
            mm = parse_length(text, LengthUnit.MM)
        except Impossible as error:
            errors[name] = refusal(error)
            continue
        low, high = limit.plausible_mm
        if low <= mm <= high:
            values[name] = mm
        elif mm <= 0:
            errors[name] = f"“{text}” is no limit: it must be above nothing."
        else:
            errors[name] = (
                f"“{text}” is {both(mm)}; such a limit lies between {both(low)} and {both(high)}. Which unit?"
            )
    for below, above in ORDERED:
        if not errors.keys() & {below, above} and values[below] > values[above]:
            errors[below] = f"This is above “{LIMITS[above].label}”: look at both."
    return texts, errors
