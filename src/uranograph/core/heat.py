"""The temperature at which a gear slips over its shaft."""

from pydantic import Field

from uranograph.core.errors import InvalidInput
from uranograph.core.models import Alpha, Celsius, Found, Input, Mm


class HeatInput(Input):
    """An interference fit, mm, and what is known of the materials."""

    bore_mm: Mm = Field(gt=0)
    interference_mm: Mm = Field(ge=0)
    slip_clearance_mm: Mm = Field(ge=0)
    gear_alpha: Alpha = Field(gt=0, lt=1e-3)
    ambient_c: Celsius = Field(gt=-100, lt=200)
    shaft_c: Celsius | None = Field(None, gt=-273, lt=400)
    shaft_alpha: Alpha | None = Field(None, gt=0, lt=1e-3)
    limit_c: Celsius | None = None
    running_c: Celsius | None = Field(
        None, description="Gear and shaft in service; the shaft's expansion is needed too."
    )


class HeatFit(Found):
    """How hot the gear must be."""

    gear_c: float
    within_limit: bool | None = Field(description="None where the material's limit is not given.")
    interference_running_mm: float | None = Field(description="What is left of the interference in service.")


def heat_fit(given: HeatInput) -> HeatFit:
    """Say how hot a gear must be to slip on.

    Parameters
    ----------
    given
        Bore, interference and slip clearance (mm), expansion per degree, ambient and shaft temperature (C), the
        material's limit, and gear and shaft in service (C).

    Returns
    -------
    HeatFit
        ambient + (interference + slip clearance - shaft shrink) / (alpha D), whether the material bears it, and the
        interference left running hot, I - (gear alpha - shaft alpha) D (running - ambient).

    Raises
    ------
    InvalidInput
        When the shaft is cooled, or what is left running hot is asked, and its expansion is not given.

    Examples
    --------
    >>> given = HeatInput(bore_mm=32, interference_mm=0.05, slip_clearance_mm=0.03, gear_alpha=11.7e-6, ambient_c=20)
    >>> round(heat_fit(given).gear_c, 1)
    233.7

    References
    ----------
    docs/methods.md, "Heat fit".
    """
    shrink = 0.0
    if given.shaft_c is not None and given.shaft_c != given.ambient_c:
        if given.shaft_alpha is None:
            raise InvalidInput("shaft_alpha", "shaft-expansion-missing")
        shrink = given.shaft_alpha * given.bore_mm * (given.ambient_c - given.shaft_c)
    needed = given.interference_mm + given.slip_clearance_mm - shrink
    gear_c = given.ambient_c + needed / (given.gear_alpha * given.bore_mm)
    left = None
    if given.running_c is not None:
        if given.shaft_alpha is None:
            raise InvalidInput("shaft_alpha", "shaft-expansion-missing-hot")
        warmer = given.running_c - given.ambient_c
        left = given.interference_mm - (given.gear_alpha - given.shaft_alpha) * given.bore_mm * warmer
    return HeatFit(
        gear_c=gear_c,
        within_limit=None if given.limit_c is None else gear_c <= given.limit_c,
        interference_running_mm=left,
    )
