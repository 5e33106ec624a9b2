"""Which cam drives a shaft's runout allows."""

import math
from enum import StrEnum

from pydantic import AliasChoices, ConfigDict, Field

from uranograph.core.errors import Impossible
from uranograph.core.models import Deg, Found, Given, Mm
from uranograph.core.quantities import MM_PER_INCH, LengthUnit
from uranograph.core.verdict import Verdict, judge


class Limits(Given):
    """Limits of total indicated runout (TIR), mm: starting values until a shop sets its own."""

    shaft_own_mm: Mm = Field(0.08, gt=0, description="What the shaft itself should not run past, by its maker.")
    gears_good_mm: Mm = Field(0.05, gt=0)
    gears_never_mm: Mm = Field(0.08, gt=0)
    tight_pump_mm: Mm = Field(0.08, gt=0)
    hydraulic_tensioner_mm: Mm = Field(0.25, gt=0)


class ChoiceGiven(Given):
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
    limits: Limits = Limits()
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
    reason: str
    would_change: str = Field(description="What would change the answer.")


class DriveChoice(Found):
    """Every drive considered."""

    options: list[DriveOption]
    backlash_swing_mm: float = Field(description="Peak to peak, by this runout.")
    shaft: Verdict = Field(description="The runout against what the shaft itself should not run past.")


TRUE_THE_CRANK = "true the crank, then measure again"


def drive_choice(given: ChoiceGiven) -> DriveChoice:
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
    Impossible
        When the backlash window or the limits are the wrong way round.

    Examples
    --------
    >>> found = drive_choice(ChoiceGiven(total_indicated_mm=0.1))
    >>> [(option.drive, option.verdict.value) for option in found.options][:2]
    [('gears', 'no'), ('chain, hydraulic tensioner', 'only-if')]

    References
    ----------
    docs/methods.md, "Which drive".
    """
    low, high = given.backlash_min_mm, given.backlash_max_mm
    if low is not None and high is not None and low >= high:
        raise Impossible("backlash_min_mm", "least-not-below-greatest-backlash")
    if given.limits.gears_good_mm > given.limits.gears_never_mm:
        raise Impossible("limits", "gear-limits-crossed")
    per_mm = 2 * math.tan(math.radians(given.pressure_angle_deg))
    swing, doubt = given.total_indicated_mm * per_mm, given.uncertainty_mm * per_mm
    window = None if low is None or high is None else high - low
    shaft = judge(given.total_indicated_mm, given.uncertainty_mm, most=given.limits.shaft_own_mm)
    options = [_gears(given, swing, doubt, window), _hydraulic(given), _spring(given), _pump(given)]
    if shaft is not Verdict.IN:
        options = [_for_a_bent_shaft(given, option) for option in options]
    return DriveChoice(options=options, backlash_swing_mm=swing, shaft=shaft)


def _said(given: ChoiceGiven, mm: float) -> str:
    return f"{mm:.3f} mm" if given.unit is LengthUnit.MM else f"{mm / MM_PER_INCH:.4f} inch"


def _for_a_bent_shaft(given: ChoiceGiven, option: DriveOption) -> DriveOption:
    """The drive may bear it; the shaft's own bearings, seals and journals are another matter."""
    if option.verdict is not Allowed.YES:
        return option
    own = _said(given, given.limits.shaft_own_mm)
    reason = f"{option.reason} But the shaft is not surely within its own {own}: its bearings and seal suffer whatever the drive."
    return option.model_copy(
        update={"verdict": Allowed.ONLY_IF, "reason": reason, "would_change": f"{TRUE_THE_CRANK}, or its maker's word"}
    )


def _gears(given: ChoiceGiven, swing_mm: float, doubt_mm: float, window_mm: float | None) -> DriveOption:
    tir, u, limits = given.total_indicated_mm, given.uncertainty_mm, given.limits
    trap = "Smaller gears bring the mean backlash right, never the swing."
    swings = f"backlash swings {_said(given, swing_mm)}"
    past = judge(tir, u, most=limits.gears_never_mm)
    fits = judge(swing_mm, doubt_mm, most=window_mm)
    if past is Verdict.OUT:
        reason = f"Runout {_said(given, tir)} is past {_said(given, limits.gears_never_mm)}: {swings}. {trap}"
        return DriveOption(drive="gears", verdict=Allowed.NO, reason=reason, would_change=TRUE_THE_CRANK)
    if fits is Verdict.OUT:
        assert window_mm is not None
        reason = f"{swings.capitalize()}, more than the {_said(given, window_mm)} allowed. {trap}"
        return DriveOption(drive="gears", verdict=Allowed.NO, reason=reason, would_change=TRUE_THE_CRANK)
    if past is Verdict.UNSURE or fits is Verdict.UNSURE:
        reason = f"{swings.capitalize()}, give or take {_said(given, doubt_mm)}: too near what is allowed to tell."
        return DriveOption(drive="gears", verdict=Allowed.ONLY_IF, reason=reason, would_change="a finer reading")
    if judge(tir, u, most=limits.gears_good_mm) is not Verdict.IN:
        reason = f"Runout {_said(given, tir)}: {swings}; only if that fits the gears' own window all round."
        change = "a stated backlash window, or truing the crank" if window_mm is None else TRUE_THE_CRANK
        return DriveOption(drive="gears", verdict=Allowed.ONLY_IF, reason=reason, would_change=change)
    within = "" if window_mm is None else f" within the {_said(given, window_mm)} allowed"
    good = f"Runout is within the {_said(given, limits.gears_good_mm)} gears are good to; {swings}{within}."
    return DriveOption(drive="gears", verdict=Allowed.YES, reason=good, would_change="more runout")


def _up_to(given: ChoiceGiven, drive: str, limit_mm: float, words: tuple[str, str], cure: str) -> DriveOption:
    """A drive that bears runout up to one limit; too near it for the reading's doubt is only if."""
    verdict = judge(given.total_indicated_mm, given.uncertainty_mm, most=limit_mm)
    if verdict is Verdict.OUT:
        return DriveOption(drive=drive, verdict=Allowed.NO, reason=f"{words[1]}.", would_change=cure)
    if verdict is Verdict.UNSURE:
        reason = f"{words[0]}, and this runout is too near that for the reading's uncertainty: only if a finer reading says so."
        return DriveOption(drive=drive, verdict=Allowed.ONLY_IF, reason=reason, would_change="a finer reading")
    return DriveOption(drive=drive, verdict=Allowed.YES, reason=f"{words[0]}.", would_change="more runout")


def _hydraulic(given: ChoiceGiven) -> DriveOption:
    limit = given.limits.hydraulic_tensioner_mm
    said = _said(given, limit)
    words = (f"It follows runout up to {said}", f"It follows runout only up to {said}")
    return _up_to(given, "chain, hydraulic tensioner", limit, words, TRUE_THE_CRANK)


def _spring(given: ChoiceGiven) -> DriveOption:
    good = judge(given.total_indicated_mm, given.uncertainty_mm, most=given.limits.gears_good_mm) is Verdict.IN
    reason = (
        "Little runout, little wear of its shoe."
        if good
        else "Its shoe wears with every turn: only with the shoe watched."
    )
    change = "more runout" if good else "a hydraulic tensioner, or truing the crank"
    verdict = Allowed.YES if good else Allowed.ONLY_IF
    return DriveOption(drive="chain, spring tensioner", verdict=verdict, reason=reason, would_change=change)


def _pump(given: ChoiceGiven) -> DriveOption:
    limit = given.limits.tight_pump_mm
    words = (f"Within the {_said(given, limit)} allowed for it", f"Past the {_said(given, limit)} allowed for it")
    cure = "a pump with more clearance, or truing the crank"
    return _up_to(given, "close-clearance pump on this shaft", limit, words, cure)
