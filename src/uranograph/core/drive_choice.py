"""Which cam drives a shaft's runout allows."""

import math
from enum import StrEnum

from pydantic import Field

from uranograph.core.errors import Impossible
from uranograph.core.models import Found, Given
from uranograph.core.quantities import MM_PER_INCH, LengthUnit


class Limits(Given):
    """House limits of total indicated runout, mm: starting values until a shop sets its own."""

    gears_good_mm: float = Field(0.05, gt=0)
    gears_never_mm: float = Field(0.08, gt=0)
    tight_pump_mm: float = Field(0.12, gt=0)
    hydraulic_tensioner_mm: float = Field(0.25, gt=0)


class ChoiceGiven(Given):
    """Runout of the gear's seat, and the backlash window where gears are thought of."""

    total_indicated_mm: float = Field(ge=0)
    backlash_min_mm: float | None = Field(None, ge=0)
    backlash_max_mm: float | None = Field(None, ge=0)
    pressure_angle_deg: float = Field(20.0, gt=0, lt=45)
    uncertainty_mm: float = Field(0.0, ge=0, description="Of the runout.")
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
        Yes, only if, or no for each drive with its reason, and the swing of backlash this runout makes.

    Raises
    ------
    Impossible
        When the backlash window or the limits are the wrong way round.

    Examples
    --------
    >>> found = drive_choice(ChoiceGiven(total_indicated_mm=0.1))
    >>> [(option.drive, option.verdict.value) for option in found.options][:2]
    [('gears', 'no'), ('chain, hydraulic tensioner', 'yes')]

    References
    ----------
    docs/methods.md, "Which drive".
    """
    low, high = given.backlash_min_mm, given.backlash_max_mm
    if low is not None and high is not None and low >= high:
        raise Impossible("backlash_min_mm", f"The least backlash {low:g} is not below the greatest {high:g}.")
    if given.limits.gears_good_mm > given.limits.gears_never_mm:
        raise Impossible("limits", "The limit up to which gears are good is above the one past which they never are.")
    swing = 2 * given.total_indicated_mm * math.tan(math.radians(given.pressure_angle_deg))
    most = swing + 2 * given.uncertainty_mm * math.tan(math.radians(given.pressure_angle_deg))
    window = None if low is None or high is None else high - low
    return DriveChoice(
        options=[_gears(given, most, window), _hydraulic(given), _spring(given), _pump(given)], backlash_swing_mm=swing
    )


def _said(given: ChoiceGiven, mm: float) -> str:
    return f"{mm:.3f} mm" if given.unit is LengthUnit.MM else f"{mm / MM_PER_INCH:.4f} inch"


def _gears(given: ChoiceGiven, most_mm: float, window_mm: float | None) -> DriveOption:
    tir, limits = given.total_indicated_mm, given.limits
    trap = "Smaller gears bring the mean backlash right, never the swing."
    if tir > limits.gears_never_mm:
        reason = (
            f"Runout {_said(given, tir)} is past {_said(given, limits.gears_never_mm)}: "
            f"backlash swings {_said(given, most_mm)}. {trap}"
        )
        return DriveOption(drive="gears", verdict=Allowed.NO, reason=reason, would_change=TRUE_THE_CRANK)
    if window_mm is not None and most_mm > window_mm:
        reason = f"Backlash swings {_said(given, most_mm)}, more than the {_said(given, window_mm)} allowed. {trap}"
        return DriveOption(drive="gears", verdict=Allowed.NO, reason=reason, would_change=TRUE_THE_CRANK)
    if tir + given.uncertainty_mm > limits.gears_good_mm or window_mm is None:
        reason = (
            f"Runout {_said(given, tir)} swings backlash {_said(given, most_mm)}: "
            "only if that fits the gears' own window all round."
        )
        change = "a stated backlash window, or truing the crank"
        return DriveOption(drive="gears", verdict=Allowed.ONLY_IF, reason=reason, would_change=change)
    reason = f"Backlash swings {_said(given, most_mm)} within the {_said(given, window_mm)} allowed."
    return DriveOption(drive="gears", verdict=Allowed.YES, reason=reason, would_change="more runout")


def _up_to(given: ChoiceGiven, drive: str, limit_mm: float, words: tuple[str, str], cure: str) -> DriveOption:
    """A drive that bears runout up to one limit; too near it for the reading's doubt is only if."""
    tir = given.total_indicated_mm
    if tir > limit_mm:
        return DriveOption(drive=drive, verdict=Allowed.NO, reason=f"{words[1]}.", would_change=cure)
    if tir + given.uncertainty_mm > limit_mm:
        reason = f"{words[0]}, and the reading's doubt reaches past it: only if a finer reading says so."
        return DriveOption(drive=drive, verdict=Allowed.ONLY_IF, reason=reason, would_change="a finer reading")
    return DriveOption(drive=drive, verdict=Allowed.YES, reason=f"{words[0]}.", would_change="more runout")


def _hydraulic(given: ChoiceGiven) -> DriveOption:
    limit = given.limits.hydraulic_tensioner_mm
    said = _said(given, limit)
    words = (f"It follows runout up to {said}", f"It follows runout only up to {said}")
    return _up_to(given, "chain, hydraulic tensioner", limit, words, TRUE_THE_CRANK)


def _spring(given: ChoiceGiven) -> DriveOption:
    good = given.total_indicated_mm + given.uncertainty_mm <= given.limits.gears_good_mm
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
    words = (f"Within its {_said(given, limit)}", f"Past its {_said(given, limit)}: it would touch")
    cure = "a pump with more clearance, or truing the crank"
    return _up_to(given, "close-clearance pump on this shaft", limit, words, cure)
