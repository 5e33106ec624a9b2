"""Which cam drives a shaft's runout allows."""

import math
from enum import StrEnum

from pydantic import AliasChoices, ConfigDict, Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Deg, Found, Input, Mm
from uranograph.core.quantities import LengthUnit
from uranograph.core.verdict import Verdict, judge


class RunoutLimits(Input):
    """Limits of total indicated runout (TIR), mm: starting values until a shop sets its own."""

    shaft_own_mm: Mm = Field(0.08, gt=0, description="What the shaft itself should not run past, by its maker.")
    gears_good_mm: Mm = Field(0.05, gt=0)
    gears_never_mm: Mm = Field(0.08, gt=0)
    tight_pump_mm: Mm = Field(0.08, gt=0)
    hydraulic_tensioner_mm: Mm = Field(0.25, gt=0)


class ChoiceInput(Input):
    """Runout of the gear's seat, and the backlash window where gears are thought of."""

    model_config = ConfigDict(populate_by_name=True)

    total_indicated_mm: Mm = Field(ge=0)
    backlash_min_mm: Mm | None = Field(None, ge=0)
    backlash_max_mm: Mm | None = Field(None, ge=0)
    pressure_angle_deg: Deg = Field(20.0, gt=0, lt=45)
    uncertainty_mm: Mm = Field(
        0.0,
        ge=0,
        validation_alias=AliasChoices("total_indicated_doubt_mm", "uncertainty_mm"),
        description="Of the runout.",
    )
    limits: RunoutLimits = RunoutLimits()
    unit: LengthUnit = Field(LengthUnit.MM, description="In which the reasons are written.")


class Allowed(StrEnum):
    """Whether a drive may be chosen."""

    YES = "yes"
    ONLY_IF = "only-if"
    NO = "no"


class DriveOption(Found):
    """One drive and what is to be said of it."""

    drive: str
    verdict: Allowed
    code: str = Field(description="Why, by a name that stays.")
    cure: str = Field(description="What would change the answer, by a name that stays.")
    beyond_the_shaft: bool = Field(False, description="The drive may bear it, and the shaft itself not surely.")
    values: dict[str, float] = Field(description="The figures that show it, mm.")


class DriveChoice(Found):
    """Every drive considered."""

    options: list[DriveOption]
    backlash_swing_mm: float = Field(description="Peak to peak, by this runout.")
    shaft: Verdict = Field(description="The runout against what the shaft itself should not run past.")


def drive_choice(given: ChoiceInput) -> DriveChoice:
    """Judge each cam drive by the runout of the shaft that carries it.

    Parameters
    ----------
    given
        Total indicated runout and its uncertainty, backlash window (mm), pressure angle (deg), house limits (mm).

    Returns
    -------
    DriveChoice
        Yes, only if, or no for each drive with its reason, the swing of backlash this runout makes, and whether the
        shaft itself is within its own limit: past that no drive is more than *only if*.

    Raises
    ------
    InvalidInput
        When the backlash window or the limits are the wrong way round.

    Examples
    --------
    >>> found = drive_choice(ChoiceInput(total_indicated_mm=0.1))
    >>> [(option.drive, option.verdict.value) for option in found.options][:2]
    [('gears', 'no'), ('chain, hydraulic tensioner', 'only-if')]

    References
    ----------
    docs/methods.md, "Which drive".
    """
    low, high = given.backlash_min_mm, given.backlash_max_mm
    if low is not None and high is not None and low >= high:
        raise InvalidInput("backlash_min_mm", "least-not-below-greatest-backlash")
    if given.limits.gears_good_mm > given.limits.gears_never_mm:
        raise InvalidInput("limits", "gear-limits-crossed")
    per_mm = 2 * math.tan(math.radians(given.pressure_angle_deg))
    swing, doubt = given.total_indicated_mm * per_mm, given.uncertainty_mm * per_mm
    window = None if low is None or high is None else high - low
    shaft = judge(given.total_indicated_mm, given.uncertainty_mm, most=given.limits.shaft_own_mm)
    options = [_gears(given, swing, doubt, window), _hydraulic(given), _spring(given), _pump(given)]
    if shaft is not Verdict.IN:
        options = [_for_a_bent_shaft(given, option, shaft) for option in options]
    return DriveChoice(options=options, backlash_swing_mm=swing, shaft=shaft)


def _for_a_bent_shaft(given: ChoiceInput, option: DriveOption, shaft: Verdict) -> DriveOption:
    """The drive may bear it; the shaft's own bearings, seals and journals are another matter, under every drive."""
    values = {**option.values, "shaft_own_mm": given.limits.shaft_own_mm}
    beyond: dict[str, object] = {"beyond_the_shaft": True, "values": values}
    if option.verdict is Allowed.YES:
        # If only measurement uncertainty leaves it open, a finer reading settles it.
        cure = "true-or-makers-word" if shaft is Verdict.OUT else "finer-reading"
        beyond |= {"verdict": Allowed.ONLY_IF, "cure": cure}
    return option.model_copy(update=beyond)


def _or_finer(given: ChoiceInput, limit_mm: float, cure: str) -> str:
    """A finer reading where the runout itself is within a limit and only its doubt is not; else another cure."""
    return "finer-reading" if given.total_indicated_mm <= limit_mm else cure


def _gears(given: ChoiceInput, swing_mm: float, doubt_mm: float, window_mm: float | None) -> DriveOption:
    tir, u, limits = given.total_indicated_mm, given.uncertainty_mm, given.limits
    past = judge(tir, u, most=limits.gears_never_mm)
    fits = judge(swing_mm, doubt_mm, most=window_mm)
    values = {"tir_mm": tir, "swing_mm": swing_mm, "doubt_mm": doubt_mm, "good_mm": limits.gears_good_mm}
    values["never_mm"] = limits.gears_never_mm
    if window_mm is not None:
        values["window_mm"] = window_mm

    def option(verdict: Allowed, code: str, cure: str) -> DriveOption:
        return DriveOption(drive="gears", verdict=verdict, code=code, cure=cure, values=values)

    if past is Verdict.OUT:
        return option(Allowed.NO, "gears-past-runout", "true")
    if fits is Verdict.OUT:
        return option(Allowed.NO, "gears-past-window", "true")
    if past is Verdict.UNSURE or fits is Verdict.UNSURE:
        return option(Allowed.ONLY_IF, "gears-too-near", "finer-reading")
    if judge(tir, u, most=limits.gears_good_mm) is not Verdict.IN:
        cure = "window-or-true" if window_mm is None else "true"
        return option(Allowed.ONLY_IF, "gears-if-it-fits", _or_finer(given, limits.gears_good_mm, cure))
    return option(Allowed.YES, "gears-good" if window_mm is None else "gears-good-in-window", "more-runout")


def _up_to(given: ChoiceInput, drive: str, name: str, limit_mm: float, cure: str) -> DriveOption:
    """A drive that bears runout up to one limit; too near it for the reading's doubt is only if."""
    verdict = judge(given.total_indicated_mm, given.uncertainty_mm, most=limit_mm)
    values = {"limit_mm": limit_mm}
    if verdict is Verdict.OUT:
        return DriveOption(drive=drive, verdict=Allowed.NO, code=f"{name}-past", cure=cure, values=values)
    if verdict is Verdict.UNSURE:
        code, cure = f"{name}-too-near", "finer-reading"
        return DriveOption(drive=drive, verdict=Allowed.ONLY_IF, code=code, cure=cure, values=values)
    return DriveOption(drive=drive, verdict=Allowed.YES, code=f"{name}-good", cure="more-runout", values=values)


def _hydraulic(given: ChoiceInput) -> DriveOption:
    return _up_to(given, "chain, hydraulic tensioner", "hydraulic", given.limits.hydraulic_tensioner_mm, "true")


def _spring(given: ChoiceInput) -> DriveOption:
    good = judge(given.total_indicated_mm, given.uncertainty_mm, most=given.limits.gears_good_mm) is Verdict.IN
    return DriveOption(
        drive="chain, spring tensioner",
        verdict=Allowed.YES if good else Allowed.ONLY_IF,
        code="spring-good" if good else "spring-wears",
        cure="more-runout" if good else _or_finer(given, given.limits.gears_good_mm, "hydraulic-or-true"),
        values={"good_mm": given.limits.gears_good_mm},
    )


def _pump(given: ChoiceInput) -> DriveOption:
    return _up_to(given, "close-clearance pump on this shaft", "pump", given.limits.tight_pump_mm, "clearance-or-true")
