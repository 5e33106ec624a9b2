"""The temperature at which a gear slips over its shaft."""

from pydantic import Field

from uranograph.core.errors import Impossible
from uranograph.core.models import Found, Given


class HeatGiven(Given):
    """An interference fit, mm, and what is known of the materials."""

    bore_mm: float = Field(gt=0)
    interference_mm: float = Field(ge=0)
    slip_clearance_mm: float = Field(ge=0)
    gear_alpha: float = Field(gt=0, lt=1e-3)
    ambient_c: float = Field(gt=-100, lt=200)
    shaft_c: float | None = Field(None, gt=-273, lt=400)
    shaft_alpha: float | None = Field(None, gt=0, lt=1e-3)
    limit_c: float | None = None


class HeatFit(Found):
    """How hot the gear must be."""

    gear_c: float
    within_limit: bool | None = Field(description="None where the material's limit is not given.")


def heat_fit(given: HeatGiven) -> HeatFit:
    """Say how hot a gear must be to slip on.

    Parameters
    ----------
    given
        Bore, interference and slip clearance (mm), expansion per degree, ambient and shaft temperature (C), the
        material's limit (C).

    Returns
    -------
    HeatFit
        ambient + (interference + slip clearance - shaft shrink) / (alpha D), and whether the material bears it.

    Raises
    ------
    Impossible
        When the shaft is cooled and its expansion is not given.

    Examples
    --------
    >>> given = HeatGiven(bore_mm=32, interference_mm=0.05, slip_clearance_mm=0.03, gear_alpha=11.7e-6, ambient_c=20)
    >>> round(heat_fit(given).gear_c, 1)
    233.7

    References
    ----------
    docs/methods.md, "Heat fit".
    """
    shrink = 0.0
    if given.shaft_c is not None and given.shaft_c != given.ambient_c:
        if given.shaft_alpha is None:
            raise Impossible("shaft_alpha", "A shaft at its own temperature needs its expansion per degree as well.")
        shrink = given.shaft_alpha * given.bore_mm * (given.ambient_c - given.shaft_c)
    needed = given.interference_mm + given.slip_clearance_mm - shrink
    gear_c = given.ambient_c + needed / (given.gear_alpha * given.bore_mm)
    return HeatFit(gear_c=gear_c, within_limit=None if given.limit_c is None else gear_c <= given.limit_c)
