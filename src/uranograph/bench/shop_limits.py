"""Shop limits: starting values until a person sets them, printed with every verdict they decide."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum
from typing import Protocol

from uranograph.bench.messages import refusal
from uranograph.core.errors import InvalidInput
from uranograph.core.quantities import MM_PER_INCH, LengthUnit, parse_length, parse_number
from uranograph.core.verdict import FALSE_VERDICT


@dataclass(frozen=True)
class ShopLimit:
    """A limit set by a person, as typed; a bare length is in mm. `why` is its source, if any."""

    text: str
    by: str
    at: datetime
    of_job: bool = False
    why: str = ""


class LimitSource(Protocol):
    """Where the limits that persons have set are asked for."""

    def get(self, name: str) -> ShopLimit | None: ...


JUDGMENT = "Judging a cam"
# How many times more or less than its starting value a limit can be.
PLAUSIBLE = 8.0


class Measure(StrEnum):
    """Unit of a limit."""

    LENGTH = "mm"
    ANGLE = "crank deg"
    DIVISIONS = "of a division"
    ONE_IN = "one in"


@dataclass(frozen=True)
class Limit:
    """One limit: its name, what it says, where it belongs, what it starts from, and what that is counted in."""

    name: str
    label: str
    group: str
    start: float
    measure: Measure = Measure.LENGTH

    @property
    def plausible(self) -> tuple[float, float]:
        """Between these a limit of this kind lies; past them a unit is mistaken or a point slipped."""
        if self.measure is Measure.ONE_IN:
            return 20.0, 10_000.0
        return self.start / PLAUSIBLE, self.start * PLAUSIBLE

    def parse(self, text: str) -> float:
        """A figure as typed, in mm or whatever else it is counted in.

        Raises
        ------
        InvalidInput
            When it is no number, or no length where one is wanted.
        """
        if self.measure is Measure.LENGTH:
            return parse_length(text, LengthUnit.MM)
        return parse_number(text)

    def both(self, value: float) -> str:
        """A value as it is shown where no unit was chosen.

        Examples
        --------
        >>> LIMITS["gears_good"].both(0.05), LIMITS["eye"].both(0.12), LIMITS["one_in"].both(500)
        ('0.05 mm, 0.0020 in', '0.12 crank deg', '1 in 500')
        """
        if self.measure is Measure.LENGTH:
            return f"{value:.4g} mm, {value / MM_PER_INCH:.4f} in"
        return f"1 in {value:.0f}" if self.measure is Measure.ONE_IN else f"{value:.3g} {self.measure.value}"


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
        Limit("valve_lift_apart", "Lift of each valve from the middle of its kind, ±", "Every valve", 0.1),
        Limit(
            "valve_timing_apart",
            "Timing of each valve from the middle of its kind, ±",
            "Every valve",
            1.5,
            Measure.ANGLE,
        ),
        Limit("single_figure", "One figure alone is a window of ±", "End play", 0.05),
        Limit("single_lift", "One figure of lift at overlap is a window of ±", "Spec card", 0.05),
        Limit("cheeks_alike", "Sanded thrust faces alike to", "Thrust faces", 0.02),
        Limit("one_in", "Allowed error rate, 1 in", JUDGMENT, round(1 / FALSE_VERDICT), Measure.ONE_IN),
        Limit("eye", "Reading scatter on a 1° wheel, sd", JUDGMENT, 0.12, Measure.ANGLE),
        Limit("centering", "Wheel off center, once a turn, sd", JUDGMENT, 0.1, Measure.ANGLE),
        Limit("needle", "Needle, sd", JUDGMENT, 0.2, Measure.DIVISIONS),
    )
}
# The first of each pair is never above the second.
ORDERED = (("gears_good", "gears_never"), ("lobe_least", "lobe_liked"))


def is_plausible(name: str, text: str) -> bool:
    """Whether a text with its unit is a figure that a limit can have; one from elsewhere may be anything.

    Examples
    --------
    >>> is_plausible("one_in", "500"), is_plausible("one_in", "0")
    (True, False)
    >>> is_plausible("gears_good", "0.05 mm"), is_plausible("gears_good", "five")
    (True, False)
    """
    limit = LIMITS[name]
    try:
        return limit.plausible[0] <= limit.parse(text) <= limit.plausible[1]
    except InvalidInput:
        return False


def value(house: LimitSource, name: str) -> float:
    """A limit, in mm unless it is counted in something else: the person's, or what it starts from.

    Examples
    --------
    >>> value({}, "gears_good"), value({}, "eye")
    (0.05, 0.12)
    """
    own = house.get(name)
    return LIMITS[name].parse(own.text) if own else LIMITS[name].start


def set_by(house: LimitSource, name: str) -> str:
    """Who stands behind a limit, in words.

    Examples
    --------
    >>> set_by({}, "gears_good")
    'default'
    """
    own = house.get(name)
    if own is None:
        return "default"
    return f"for this job, {own.by}" if own.of_job else f"set by {own.by}"


def limit_text(house: LimitSource, name: str, unit: LengthUnit) -> str:
    """A limit with who stands behind it, as it is printed beside a verdict.

    Examples
    --------
    >>> limit_text({}, "gears_good", LengthUnit.MM)
    '0.05 mm (default)'
    """
    limit, now = LIMITS[name], value(house, name)
    if limit.measure is not Measure.LENGTH:
        return f"{limit.both(now)} ({set_by(house, name)})"
    figure = f"{now:.3g}" if unit is LengthUnit.MM else f"{now / MM_PER_INCH:.4f}"
    return f"{figure} {unit.value} ({set_by(house, name)})"


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
    values = {name: limit.start for name, limit in LIMITS.items()}
    for name, limit in LIMITS.items():
        text = typed.get(name, "").strip()
        texts[name] = text
        if not text:
            continue
        if limit.measure is Measure.LENGTH and text[-1] in "0123456789.,":
            if unit not in tuple(LengthUnit):
                errors["unit"] = "Say whether bare figures are inches or mm."
                continue
            texts[name] = text = f"{text} {'in' if unit == LengthUnit.INCH else 'mm'}"
        try:
            now = limit.parse(text)
        except InvalidInput as error:
            errors[name] = refusal(error)
            continue
        low, high = limit.plausible
        if low <= now <= high:
            values[name] = now
        elif now <= 0:
            errors[name] = f"“{text}” is no limit: it must be above nothing."
        else:
            asked = " Which unit?" if limit.measure is Measure.LENGTH else ""
            errors[name] = (
                f"“{text}” is {limit.both(now)}; such a limit lies between {limit.both(low)} and {limit.both(high)}.{asked}"
            )
    for below, above in ORDERED:
        if not errors.keys() & {below, above} and values[below] > values[above]:
            errors[below] = f"This is above “{LIMITS[above].label}”: look at both."
    return texts, errors
